<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Delaunay;
use YardBreak\Core\SeededRandom;

/** The defining property (Delaunay 1934): no point lies inside the circumsphere of any tetrahedron. */
final class DelaunayTest extends TestCase
{
    /** @return array<string, array{int, string}> */
    public static function sets(): array
    {
        return [
            'few' => [5, 'random'],
            'random' => [150, 'random'],
            'crowded' => [120, 'crowded'],
            'jittered grid' => [125, 'grid'],
            'nearly flat' => [60, 'flat'],
        ];
    }

    #[DataProvider('sets')]
    public function test_circumspheres_are_empty_and_neighbours_mutual(int $n, string $kind): void
    {
        [$x, $y, $z] = self::points($n, $kind);
        $d = new Delaunay($x, $y, $z);
        $live = 0;
        foreach ($d->radius2 as $t => $r2) {
            if ($r2 < 0.0) {
                continue;
            }
            $live++;
            for ($p = 0; $p < $n; $p++) {
                $away = ($x[$p] - $d->centreX[$t]) ** 2 + ($y[$p] - $d->centreY[$t]) ** 2 + ($z[$p] - $d->centreZ[$t]) ** 2;
                self::assertGreaterThan($r2 * (1 - 1e-6), $away);
            }
            for ($k = 0; $k < 4; $k++) {
                $o = $d->across[4 * $t + $k];
                if ($o >= 0) {
                    self::assertGreaterThanOrEqual(0.0, $d->radius2[$o]);
                    self::assertContains($t, array_slice($d->across, 4 * $o, 4));
                }
            }
        }
        self::assertGreaterThan($n, $live);
        [$start, $run] = $d->neighbours();
        for ($p = 0; $p < $n; $p++) {
            foreach (array_slice($run, $start[$p], $start[$p + 1] - $start[$p]) as $q) {
                self::assertContains($p, array_slice($run, $start[$q], $start[$q + 1] - $start[$q]));
            }
        }
    }

    public function test_the_nearest_other_point_is_always_a_neighbour(): void
    {
        [$x, $y, $z] = self::points(200, 'random');
        [$start, $run] = (new Delaunay($x, $y, $z))->neighbours();
        for ($p = 0; $p < 200; $p++) {
            $best = INF;
            $nearest = -1;
            for ($q = 0; $q < 200; $q++) {
                $d = ($x[$p] - $x[$q]) ** 2 + ($y[$p] - $y[$q]) ** 2 + ($z[$p] - $z[$q]) ** 2;
                if ($q !== $p && $d < $best) {
                    $best = $d;
                    $nearest = $q;
                }
            }
            // Runs are sorted by distance, so it comes first.
            self::assertSame($nearest, $run[$start[$p]]);
        }
    }

    public function test_two_points_in_one_place_are_refused_not_guessed(): void
    {
        $this->expectException(\UnexpectedValueException::class);
        new Delaunay([0.1, 0.1, 0.3, -0.2, 0.0], [0.2, 0.2, 0.1, 0.3, -0.1], [0.0, 0.0, 0.2, -0.1, 0.3]);
    }

    /** @return array{list<float>, list<float>, list<float>} */
    private static function points(int $n, string $kind): array
    {
        $random = new SeededRandom(11);
        $x = $y = $z = [];
        for ($i = 0; $i < $n; $i++) {
            $p = [$random->between(-0.5, 0.5), $random->between(-0.5, 0.5), $random->between(-0.5, 0.5)];
            if ($kind === 'crowded' && $i % 4 > 0) {
                $p = array_map(static fn (float $v): float => 0.2 + 0.02 * $v, $p);
            } elseif ($kind === 'grid') {
                $p = [($i % 5) / 5 - 0.4 + 1e-8 * $p[0], (intdiv($i, 5) % 5) / 5 - 0.4 + 1e-8 * $p[1], intdiv($i, 25) / 5 - 0.4 + 1e-8 * $p[2]];
            } elseif ($kind === 'flat') {
                $p[1] *= 1e-3;
            }
            $x[] = $p[0];
            $y[] = $p[1];
            $z[] = $p[2];
        }

        return [$x, $y, $z];
    }
}
