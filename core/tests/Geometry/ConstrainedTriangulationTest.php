<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\ConstrainedTriangulation;
use YardBreak\Core\SeededRandom;

final class ConstrainedTriangulationTest extends TestCase
{
    public function test_triangles_cover_the_rectangle_once_and_know_their_neighbours(): void
    {
        for ($seed = 1; $seed <= 12; $seed++) {
            $map = self::strewn($seed, 15 * $seed);
            $area = 0.0;
            foreach (range(0, $map->triangleCount() - 1) as $t) {
                [$a, $b, $c] = array_slice($map->corner, 3 * $t, 3);
                $own = 0.5 * (($map->u[$b] - $map->u[$a]) * ($map->v[$c] - $map->v[$a]) - ($map->v[$b] - $map->v[$a]) * ($map->u[$c] - $map->u[$a]));
                self::assertGreaterThan(0.0, $own);
                $area += $own;
                for ($k = 0; $k < 3; $k++) {
                    $o = $map->across[3 * $t + $k];
                    if ($o >= 0) {
                        $m = array_search($t, array_slice($map->across, 3 * $o, 3), true);
                        self::assertNotFalse($m);
                        self::assertSame($map->corner[3 * $t + $k], $map->corner[3 * $o + ($m + 1) % 3]);
                        self::assertSame($map->fixed[3 * $t + $k], $map->fixed[3 * $o + $m]);
                    }
                }
            }
            self::assertEqualsWithDelta(16.0, $area, 1e-9);
        }
    }

    public function test_without_lines_no_circle_holds_another_point(): void
    {
        $map = new ConstrainedTriangulation(-2, -2, 2, 2);
        $random = new SeededRandom(4);
        for ($i = 0; $i < 60; $i++) {
            $map->point($random->between(-1, 1), $random->between(-1, 1));
        }
        for ($t = 0; $t < $map->triangleCount(); $t++) {
            [$a, $b, $c] = array_slice($map->corner, 3 * $t, 3);
            $d = 2 * ($map->u[$a] * ($map->v[$b] - $map->v[$c]) + $map->u[$b] * ($map->v[$c] - $map->v[$a]) + $map->u[$c] * ($map->v[$a] - $map->v[$b]));
            $q = static fn (int $p): float => $map->u[$p] ** 2 + $map->v[$p] ** 2;
            $u = ($q($a) * ($map->v[$b] - $map->v[$c]) + $q($b) * ($map->v[$c] - $map->v[$a]) + $q($c) * ($map->v[$a] - $map->v[$b])) / $d;
            $v = ($q($a) * ($map->u[$c] - $map->u[$b]) + $q($b) * ($map->u[$a] - $map->u[$c]) + $q($c) * ($map->u[$b] - $map->u[$a])) / $d;
            $r = hypot($map->u[$a] - $u, $map->v[$a] - $v);
            foreach ($map->u as $p => $pu) {
                self::assertGreaterThan($r - 1e-7, hypot($pu - $u, $map->v[$p] - $v));
            }
        }
    }

    public function test_crossing_lines_part_the_plane_into_as_many_regions_as_euler_says(): void
    {
        $map = new ConstrainedTriangulation(-2, -2, 2, 2);
        // Three circles of 24 sides, each crossing the two others twice: 2 + 6 regions, the outside with them.
        foreach ([[-0.3, 0.0], [0.3, 0.0], [0.0, 0.5]] as [$cu, $cv]) {
            $points = [];
            for ($k = 0; $k < 24; $k++) {
                $points[] = $map->point($cu + 0.5 * cos(M_PI * ($k + 0.3) / 12), $cv + 0.5 * sin(M_PI * ($k + 0.3) / 12));
            }
            foreach ($points as $k => $p) {
                $map->segment($p, $points[($k + 1) % 24]);
            }
        }
        self::assertSame(8, max($map->regions()) + 1);
        self::assertSame(0, $map->regions()[$map->holding(-1.9, -1.9)]);
        $within = $map->within();
        self::assertTrue($within[$map->holding(-0.6, -0.2)], 'in one circle');
        self::assertFalse($within[$map->holding(0.0, -0.2)], 'in two');
        self::assertTrue($within[$map->holding(0.0, 0.2)], 'in three');
    }

    public function test_lines_on_top_of_each_other_and_through_points_are_put_in_once(): void
    {
        $map = new ConstrainedTriangulation(-2, -2, 2, 2);
        [$a, $b, $c] = [$map->point(-1, 0), $map->point(0, 0), $map->point(1, 0)];
        self::assertSame($b, $map->point(1e-9, -1e-9));
        $map->segment($a, $c);
        $map->segment($c, $b);
        $map->segment($b, $a);
        self::assertSame(4, count(array_filter($map->fixed)), 'two edges, seen from both sides');
        self::assertSame(1, max($map->regions()) + 1);
    }

    private static function strewn(int $seed, int $count): ConstrainedTriangulation
    {
        $random = new SeededRandom($seed);
        $map = new ConstrainedTriangulation(-2, -2, 2, 2);
        $points = [];
        for ($i = 0; $i < $count; $i++) {
            $points[] = $map->point($random->between(-1, 1), $random->between(-1, 1));
        }
        for ($i = 0; $i < 20; $i++) {
            $map->segment($points[(int) ($random->share() * $count)], $points[(int) ($random->share() * $count)]);
        }
        for ($i = -3; $i <= 3; $i++) {
            $map->segment($map->point(-0.9, 0.25 * $i), $map->point(0.9, 0.25 * $i));
            $map->segment($map->point(0.25 * $i, -0.9), $map->point(0.25 * $i, 0.9));
        }

        return $map;
    }
}
