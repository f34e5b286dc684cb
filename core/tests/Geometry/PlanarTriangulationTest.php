<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\PlanarTriangulation;
use YardBreak\Core\SeededRandom;

/** A simple polygon of n corners has n − 2 triangles (Meisters 1975); each hole adds its corners and two more. */
final class PlanarTriangulationTest extends TestCase
{
    /** @return array<string, array{list<list<array{float, float}>>}> loops of points */
    public static function regions(): array
    {
        $round = static fn (int $n, float $r, float $cu = 0.0, float $cv = 0.0, int $sense = 1): array => array_map(
            static fn (int $k): array => [$cu + $r * cos($sense * 2 * M_PI * $k / $n), $cv + $r * sin($sense * 2 * M_PI * $k / $n)],
            range(0, $n - 1),
        );
        $star = array_map(
            static fn (int $k): array => [($k % 2 ? 0.35 : 1.0) * cos(2 * M_PI * $k / 24), ($k % 2 ? 0.35 : 1.0) * sin(2 * M_PI * $k / 24)],
            range(0, 23),
        );
        $comb = [[0.0, 0.0]];
        for ($k = 0; $k < 8; $k++) {
            array_push($comb, [$k + 0.2, -3.0], [$k + 0.8, -3.0], [$k + 1.0, 0.0]);
        }
        array_push($comb, [8.0, 1.0], [0.0, 1.0]);

        return [
            'triangle' => [[[[0.0, 0.0], [1.0, 0.0], [0.0, 1.0]]]],
            'square with points on its sides' => [[[[0.0, 0.0], [0.5, 0.0], [1.0, 0.0], [1.0, 1.0], [0.3, 1.0], [0.0, 1.0], [0.0, 0.4]]]],
            'circle of 7' => [[$round(7, 1.0)]],
            'circle of 300' => [[$round(300, 1.0)]],
            'star' => [[$star]],
            'comb' => [[$comb]],
            'ring' => [[$round(40, 1.0), $round(30, 0.6, sense: -1)]],
            'plate with five holes' => [[
                $round(50, 2.0),
                $round(9, 0.3, 1.0, 0.0, -1),
                $round(8, 0.3, -1.0, 0.1, -1),
                $round(7, 0.3, 0.0, 1.0, -1),
                $round(12, 0.3, 0.05, -1.0, -1),
                $round(5, 0.2, 0.0, 0.02, -1),
            ]],
            'two islands' => [[$round(10, 1.0), $round(12, 1.0, 3.0)]],
        ];
    }

    /** Of two triangles over a convex quadrangle neither's circle holds the other's far corner (Lawson 1977). */
    public function test_triangles_of_a_large_polygon_are_as_well_shaped_as_its_corners_allow(): void
    {
        $random = new SeededRandom(5);
        for ($round = 0; $round < 12; $round++) {
            $n = 12 + 4 * $round;
            $u = $v = [];
            for ($k = 0; $k < $n; $k++) {
                $r = $random->between(0.4, 1.0);
                $u[] = $r * cos(2 * M_PI * $k / $n);
                $v[] = $r * sin(2 * M_PI * $k / $n);
            }
            $beyond = [];
            $faces = array_chunk(PlanarTriangulation::of([range(0, $n - 1)], $u, $v), 3);
            foreach ($faces as [$a, $b, $c]) {
                $beyond["$a $b"] = $c;
                $beyond["$b $c"] = $a;
                $beyond["$c $a"] = $b;
            }
            $side = static fn (int $a, int $b, int $c): float => ($u[$b] - $u[$a]) * ($v[$c] - $v[$a]) - ($v[$b] - $v[$a]) * ($u[$c] - $u[$a]);
            $angle = static fn (int $at, int $a, int $b): float => acos((($u[$a] - $u[$at]) * ($u[$b] - $u[$at]) + ($v[$a] - $v[$at]) * ($v[$b] - $v[$at])) / (hypot($u[$a] - $u[$at], $v[$a] - $v[$at]) * hypot($u[$b] - $u[$at], $v[$b] - $v[$at])));
            $met = 0;
            foreach ($beyond as $edge => $r) {
                [$p, $q] = array_map(intval(...), explode(' ', $edge));
                $s = $beyond["$q $p"] ?? null;
                if ($s !== null && $side($r, $p, $s) > 1e-9 && $side($s, $q, $r) > 1e-9) {
                    self::assertLessThan(M_PI + 1e-6, $angle($r, $p, $q) + $angle($s, $p, $q));
                    $met++;
                }
            }
            self::assertGreaterThan(0, $met);
        }
    }

    /** @param  list<list<array{float, float}>>  $region */
    #[DataProvider('regions')]
    public function test_every_region_is_filled_exactly(array $region): void
    {
        $u = $v = $loops = [];
        $area = 0.0;
        $want = 0;
        foreach ($region as $points) {
            $loop = [];
            foreach ($points as [$a, $b]) {
                $loop[] = count($u) + 100;
                $u[count($u) + 100] = $a;
                $v[count($v) + 100] = $b;
            }
            $own = PlanarTriangulation::area($loop, $u, $v);
            $area += $own;
            $want += count($loop) + ($own > 0 ? -2 : 2);
            $loops[] = $loop;
        }
        $faces = PlanarTriangulation::of($loops, $u, $v);
        self::assertCount(3 * $want, $faces);
        $sum = 0.0;
        $edges = [];
        foreach (array_chunk($faces, 3) as [$a, $b, $c]) {
            $twice = ($u[$b] - $u[$a]) * ($v[$c] - $v[$a]) - ($v[$b] - $v[$a]) * ($u[$c] - $u[$a]);
            self::assertGreaterThanOrEqual(-1e-12, $twice, 'no triangle is turned over');
            $sum += $twice / 2;
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                self::assertArrayNotHasKey("$p-$q", $edges);
                $edges["$p-$q"] = true;
            }
        }
        self::assertEqualsWithDelta($area, $sum, 1e-12 * max(1.0, abs($area)));
        // What has no partner is the outline, and all of it.
        $rim = array_filter(array_keys($edges), static fn (string $e): bool => ! isset($edges[implode('-', array_reverse(explode('-', $e)))]));
        self::assertCount(count($u), $rim);
    }

    public function test_random_simple_polygons_are_filled(): void
    {
        $random = new SeededRandom(4);
        for ($i = 0; $i < 60; $i++) {
            $n = 4 + (int) ($random->share() * 60);
            $u = $v = [];
            for ($k = 0; $k < $n; $k++) {
                $r = $random->between(0.2, 1.0);
                $u[] = $r * cos(2 * M_PI * $k / $n);
                $v[] = $r * sin(2 * M_PI * $k / $n);
            }
            $loop = range(0, $n - 1);
            $sum = 0.0;
            foreach (array_chunk(PlanarTriangulation::of([$loop], $u, $v), 3) as $t) {
                $sum += PlanarTriangulation::area($t, $u, $v);
            }
            self::assertEqualsWithDelta(PlanarTriangulation::area($loop, $u, $v), $sum, 1e-12);
        }
    }
}
