<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Cells\VoronoiCells;
use YardBreak\Core\Break\Cut\RestrictedCells;
use YardBreak\Core\Break\Islands;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Break\ShardFile;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

final class CellsTest extends TestCase
{
    public function test_a_heavy_break_has_a_first_look_of_few_pieces_with_flat_walls(): void
    {
        self::assertNull(Cells::firstLook(['count' => 250]), 'what comes at once needs none');
        self::assertSame(['count' => 80, 'ragged' => 0.0, 'relief' => 0.0, 'seed' => 3], Cells::firstLook(['count' => 251, 'seed' => 3]));
        self::assertSame(
            ['count' => 40, 'ragged' => 0.0, 'relief' => 0.0],
            Cells::firstLook(['count' => 40, 'ragged' => 0.2, 'relief' => 0.5]),
            'torn walls take long, however few they are',
        );
    }

    /** @return array<string, array{Mesh}> */
    public static function solids(): array
    {
        return Solids::closed();
    }

    #[DataProvider('solids')]
    public function test_every_break_is_closed_and_keeps_the_volume(Mesh $solid): void
    {
        $volume = MassProperties::of($solid)->volume;
        foreach ([1, 2, 9, 60] as $seed => $count) {
            $shards = (new Cells($count, $seed))->break($solid, new SilentProgress);
            self::assertGreaterThanOrEqual(min(2, $count), count($shards));
            $sum = 0.0;
            foreach ($shards as $s) {
                $fitness = Fitness::of($s->mesh);
                self::assertTrue($fitness->closed && $fitness->oriented, $s->name);
                self::assertGreaterThan(0.0, $s->mass->volume);
                $sum += $s->mass->volume;
            }
            self::assertEqualsWithDelta(1.0, $sum / $volume, 1e-12);
        }
    }

    public function test_walls_are_marked_as_interior_and_the_outside_keeps_its_area(): void
    {
        $solid = Solids::shape('ball', ['detail' => 6]);
        $outer = $inner = 0.0;
        foreach ((new Cells(20, 3))->break($solid, new SilentProgress) as $s) {
            [$o, $i] = self::areas($s->mesh);
            $outer += $o;
            $inner += $i;
        }
        self::assertEqualsWithDelta(self::areas($solid)[0], $outer, 1e-12);
        self::assertGreaterThan($outer, $inner);
    }

    public function test_the_outside_keeps_its_smooth_shading(): void
    {
        // On a ball every smooth normal points away from the centre, also at points a cut has made.
        foreach ((new Cells(12, 4))->break(Solids::shape('ball', ['radius' => 0.3, 'detail' => 16]), new SilentProgress) as $s) {
            foreach ($s->mesh->faces as $k => $v) {
                if ($s->mesh->sides[intdiv($k, 3)] === 0) {
                    $away = (new Vec3($s->mesh->x[$v], $s->mesh->y[$v] - 0.3, $s->mesh->z[$v]))->unit();
                    $normal = new Vec3(...array_slice($s->mesh->normals ?? [], 3 * $k, 3));
                    self::assertGreaterThan(0.999, $away->dot($normal));
                }
            }
        }
    }

    public function test_the_same_seed_gives_the_same_bytes_and_another_does_not(): void
    {
        $solid = Solids::vase();
        $once = ShardFile::encode((new Cells(40, 7))->break($solid, new SilentProgress));
        self::assertSame($once, ShardFile::encode((new Cells(40, 7))->break($solid, new SilentProgress)));
        self::assertNotSame($once, ShardFile::encode((new Cells(40, 8))->break($solid, new SilentProgress)));
    }

    public function test_stored_shards_come_back_as_they_were(): void
    {
        $shards = (new Cells(15, 7))->break(Solids::vase(), new SilentProgress);
        $back = ShardFile::decode(ShardFile::encode($shards));
        self::assertSame(
            array_map(static fn (Shard $s): array => [$s->name, $s->mesh->x, $s->mesh->faces, $s->mesh->sides, $s->mass->volume], $shards),
            array_map(static fn (Shard $s): array => [$s->name, $s->mesh->x, $s->mesh->faces, $s->mesh->sides, $s->mass->volume], $back),
        );
    }

    public function test_what_a_cell_cuts_off_on_two_sides_is_two_pieces(): void
    {
        // Of three cells side by side the middle one holds two opposite parts of a ring.
        $ring = Solids::shape('ring', ['segments' => 80, 'rows' => 12, 'radius' => 0.35, 'tube' => 0.1]);
        $cut = (new RestrictedCells(
            $ring->x,
            $ring->y,
            $ring->z,
            $ring->faces,
            new VoronoiCells([-0.3, 0.001, 0.3], [0.1, 0.1002, 0.1001], [0.0, 0.0011, 0.0007]),
        ))->cut();
        self::assertCount(1, Islands::of($cut->faces[0], $cut->px, $cut->py, $cut->pz));
        self::assertCount(2, Islands::of($cut->faces[1], $cut->px, $cut->py, $cut->pz));
    }

    public function test_seeds_crowd_at_the_strike(): void
    {
        $strike = new Vec3(0.4, 0.9, 0.4);
        $near = static function (array $shards) use ($strike): float {
            $in = array_filter($shards, static fn (Shard $s): bool => $s->mass->centroid->minus($strike)->length() < 0.3);

            return count($in) / count($shards);
        };
        $box = Solids::shape('box');
        $plain = $near((new Cells(80, 2))->break($box, new SilentProgress));
        $crowded = $near((new Cells(80, 2, cluster: [$strike], crowd: 0.7, reach: 0.12))->break($box, new SilentProgress));
        self::assertGreaterThan(0.5, $crowded);
        self::assertLessThan(0.2, $plain);
    }

    public function test_even_spacing_makes_sizes_more_alike(): void
    {
        $spread = static function (float $even): float {
            $v = array_map(static fn (Shard $s): float => $s->mass->volume, (new Cells(150, 5, $even))->break(Solids::shape('box'), new SilentProgress));
            $mean = array_sum($v) / count($v);

            return sqrt(array_sum(array_map(static fn (float $x): float => ($x / $mean - 1) ** 2, $v)) / count($v));
        };
        self::assertLessThan(0.7 * $spread(0.0), $spread(1.0));
    }

    /** @return array<string, array{int, float, float}> */
    public static function outOfRange(): array
    {
        return [
            'none' => [0, 0.0, 0.0],
            'negative' => [-5, 0.0, 0.0],
            'a million' => [1_000_000, 0.0, 0.0],
            'too even' => [5, 1.5, 0.0],
            'too crowded' => [5, 0.0, 2.0],
        ];
    }

    #[DataProvider('outOfRange')]
    public function test_values_out_of_range_are_refused_in_words(int $count, float $even, float $crowd): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessageMatches('/must be between/');
        new Cells($count, 1, $even, crowd: $crowd);
    }

    public function test_a_mesh_without_volume_is_refused_in_words(): void
    {
        $flat = new Mesh([0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [0.0, 0.0, 0.0], [0, 1, 2, 0, 2, 1], array_fill(0, 18, 0.0));
        $this->expectException(Problem::class);
        (new Cells(5))->break($flat, new SilentProgress);
    }

    /** @return array{float, float} outer and inner */
    private static function areas(Mesh $m): array
    {
        $sum = [0.0, 0.0];
        for ($f = 0, $n = $m->faceCount(); $f < $n; $f++) {
            [$a, $b, $c] = array_map(static fn (int $v): Vec3 => new Vec3($m->x[$v], $m->y[$v], $m->z[$v]), array_slice($m->faces, 3 * $f, 3));
            $sum[$m->sides[$f] ?? 0] += $b->minus($a)->cross($c->minus($a))->length() / 2;
        }

        return $sum;
    }

    /** Nothing about a break depends on the unit: a bolt breaks as the tower does that is its likeness. */
    public function test_a_solid_breaks_alike_at_any_size(): void
    {
        $cut = static fn (float $k): array => array_map(
            static fn (Shard $s): array => [round($s->mass->centroid->x / $k, 6), round($s->mass->centroid->y / $k, 6), round($s->mass->volume / $k ** 3, 6)],
            (new Cells(12, 4))->break(Solids::shape('box', ['width' => 2.4 * $k, 'height' => 2.0 * $k, 'depth' => 1.6 * $k]), new SilentProgress),
        );
        self::assertSame($cut(1.0), $cut(0.01));
        self::assertSame($cut(1.0), $cut(100.0));
    }
}
