<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Flakes;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

/** Flakes as so many cells of the surface, cut exactly through its faces. */
final class FlakesByNumberTest extends TestCase
{
    /** @return array<string, array{Mesh, array<string, mixed>}> */
    public static function cases(): array
    {
        $out = [];
        foreach (Solids::closed() as $name => [$mesh]) {
            $out[$name] = [$mesh, ['ragged' => 0]];
            $out[$name.', torn'] = [$mesh, ['ragged' => 0.8, 'count' => 20]];
        }

        return $out;
    }

    /** @param  array<string, mixed>  $values */
    #[DataProvider('cases')]
    public function test_they_cover_the_surface_exactly_and_each_hangs_together(Mesh $solid, array $values): void
    {
        $shards = self::flakes($solid, ['count' => 60, 'thickness' => 0.0002, 'keep' => 'flakes'] + $values);
        $area = 0.0;
        $edges = [];
        foreach ($shards as $shard) {
            $fitness = Fitness::of($shard->mesh);
            self::assertTrue($fitness->canBreak(), $shard->name.' is a closed solid');
            self::assertSame(1, $fitness->parts);
            $area += self::outerArea($shard->mesh);
            foreach (self::outerEdges($shard->mesh) as $edge => $n) {
                $edges[$edge] = ($edges[$edge] ?? 0) + $n;
            }
        }
        self::assertEqualsWithDelta(1.0, $area / Fitness::of($solid)->area, 1e-9);
        // Every edge of every flake is, to the last bit, one of a neighbour's the other way round.
        foreach ($edges as $edge => $n) {
            self::assertSame($n, $edges[substr($edge, 24).substr($edge, 0, 24)] ?? 0);
        }
    }

    public function test_so_many_are_made_as_are_asked_for(): void
    {
        $ball = Solids::shape('ball', ['detail' => 10]);
        foreach ([1, 2, 50, 400] as $count) {
            self::assertCount($count, self::flakes($ball, ['count' => $count, 'ragged' => 0, 'thickness' => 0.001, 'keep' => 'flakes']));
        }
        // Both sides of a thin sheet are near one seed: each side is a flake of its own.
        self::assertGreaterThan(
            50,
            count(self::flakes(Solids::shape('sheet', ['thickness' => 0.004, 'segments' => 2]), ['count' => 50, 'thickness' => 0.001, 'keep' => 'flakes'])),
        );
    }

    /** A seed's cell is what is nearest to it: with two seeds on a long bar the border is the plane between them. */
    public function test_the_border_of_two_is_flat(): void
    {
        $bar = Solids::shape('box', ['width' => 4.0, 'height' => 0.2, 'depth' => 0.2]);
        [$one, $other] = self::flakes($bar, ['count' => 2, 'ragged' => 0, 'even' => 0, 'seed' => 6, 'thickness' => 0, 'keep' => 'flakes']);
        $key = static fn (Mesh $m, int $i): string => pack('E3', $m->x[$i], $m->y[$i], $m->z[$i]);
        $of = static fn (Mesh $m): array => array_combine(array_map(static fn (int $i): string => $key($m, $i), array_keys($m->x)), array_keys($m->x));
        $shared = array_values(array_intersect_key($of($one->mesh), $of($other->mesh)));
        self::assertGreaterThanOrEqual(4, count($shared));
        $p = array_map(static fn (int $i): array => [$one->mesh->x[$i], $one->mesh->y[$i], $one->mesh->z[$i]], $shared);
        // x = a + b·y + c·z through three of them holds for all.
        $best = INF;
        foreach (array_keys($p) as $i) {
            foreach (array_keys($p) as $j) {
                [$dy1, $dz1, $dx1] = [$p[$i][1] - $p[0][1], $p[$i][2] - $p[0][2], $p[$i][0] - $p[0][0]];
                [$dy2, $dz2, $dx2] = [$p[$j][1] - $p[0][1], $p[$j][2] - $p[0][2], $p[$j][0] - $p[0][0]];
                $det = $dy1 * $dz2 - $dy2 * $dz1;
                if (abs($det) < 1e-3) {
                    continue;
                }
                $b = ($dx1 * $dz2 - $dx2 * $dz1) / $det;
                $c = ($dy1 * $dx2 - $dy2 * $dx1) / $det;
                $best = min(
                    $best,
                    max(array_map(static fn (array $q): float => abs($q[0] - $p[0][0] - $b * ($q[1] - $p[0][1]) - $c * ($q[2] - $p[0][2])), $p)),
                );
            }
        }
        self::assertLessThan(1e-9, $best);
    }

    public function test_even_ones_differ_less_in_size(): void
    {
        $spread = static function (float $even): float {
            $areas = array_map(
                static fn (Shard $s): float => self::outerArea($s->mesh),
                self::flakes(
                    Solids::shape('ball', ['detail' => 12]),
                    ['count' => 200, 'ragged' => 0, 'even' => $even, 'thickness' => 0.001, 'keep' => 'flakes'],
                ),
            );
            $mean = array_sum($areas) / count($areas);

            return sqrt(array_sum(array_map(static fn (float $a): float => ($a - $mean) ** 2, $areas)) / count($areas)) / $mean;
        };
        self::assertLessThan(0.6 * $spread(0.0), $spread(1.0));
    }

    public function test_they_crowd_round_points_and_by_weight(): void
    {
        $ball = Solids::shape('ball', ['radius' => 0.5, 'detail' => 12]);
        $near = static fn (array $values): int => count(array_filter(
            self::flakes($ball, ['count' => 150, 'ragged' => 0, 'even' => 0, 'thickness' => 0.001, 'keep' => 'flakes'] + $values),
            static fn (Shard $s): bool => hypot(hypot($s->mass->centroid->x - 0.5, $s->mass->centroid->y - 0.5), $s->mass->centroid->z) < 0.3,
        ));
        $plain = $near([]);
        self::assertGreaterThan(2 * $plain, $near(['cluster' => [[0.5, 0.5, 0.0]], 'reach' => 0.15, 'crowd' => 0.7]));
        self::assertGreaterThan(
            2 * $plain,
            $near(['dense' => ['source' => 'ball', 'values' => ['middle' => [0.5, 0.5, 0.0], 'full' => 0.1, 'none' => 0.3]], 'crowd' => 0.7]),
        );
    }

    public function test_without_thickness_they_are_open_sheets_over_a_whole_core(): void
    {
        $ball = Solids::shape('ball', ['detail' => 8]);
        $shards = self::flakes($ball, ['count' => 30, 'thickness' => 0, 'lift' => 0.01]);
        self::assertSame('core', $shards[0]->name);
        self::assertEqualsWithDelta(MassProperties::of($ball)->volume, $shards[0]->mass->volume, 1e-12);
        $centre = MassProperties::of($ball)->centroid;
        foreach (array_slice($shards, 1) as $s) {
            self::assertSame(0.0, $s->mass->volume);
            self::assertGreaterThan(0, Fitness::of($s->mesh)->boundaryEdges);
            foreach ($s->mesh->x as $i => $x) {
                // A ball of flat faces, lifted by a hundredth of a metre.
                $r = sqrt(($x - $centre->x) ** 2 + ($s->mesh->y[$i] - $centre->y) ** 2 + ($s->mesh->z[$i] - $centre->z) ** 2);
                self::assertEqualsWithDelta(0.31, $r, 0.006);
            }
        }
    }

    public function test_a_first_look_is_given_where_many_are_asked_for(): void
    {
        self::assertNull(Flakes::firstLook(['by' => 'faces', 'count' => 10000]));
        self::assertNull(Flakes::firstLook(['by' => 'number', 'count' => 200]));
        self::assertLessThan(1000, Flakes::firstLook(['by' => 'number', 'count' => 10000])['count'] ?? 1000);
    }

    /**
     * @param  array<string, mixed>  $values
     * @return list<Shard>
     */
    private static function flakes(Mesh $solid, array $values): array
    {
        return BreakCatalogue::make('flakes', ['by' => 'number'] + $values)->break($solid, new SilentProgress);
    }

    private static function outerArea(Mesh $mesh): float
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($mesh);
        $area = 0.0;
        foreach ($nx as $f => $v) {
            $area += ($mesh->sides[$f] ?? Mesh::OUTER) === Mesh::INNER ? 0.0 : 0.5 * sqrt($v * $v + $ny[$f] ** 2 + $nz[$f] ** 2);
        }

        return $area;
    }

    /** @return array<string, int> directed edges of the outer faces by the bytes of their ends */
    private static function outerEdges(Mesh $mesh): array
    {
        $out = [];
        $key = static fn (int $p): string => pack('E3', $mesh->x[$p], $mesh->y[$p], $mesh->z[$p]);
        foreach ($mesh->faces as $c => $p) {
            if (($mesh->sides[intdiv($c, 3)] ?? Mesh::OUTER) !== Mesh::INNER) {
                $edge = $key($p).$key($mesh->faces[$c % 3 === 2 ? $c - 2 : $c + 1]);
                $out[$edge] = ($out[$edge] ?? 0) + 1;
            }
        }

        return $out;
    }
}
