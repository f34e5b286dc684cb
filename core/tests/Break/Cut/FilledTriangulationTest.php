<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break\Cut;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cut\FilledTriangulation;
use YardBreak\Core\Break\Cut\Relief;
use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Geometry\PlanarTriangulation;
use YardBreak\Core\SeededRandom;

final class FilledTriangulationTest extends TestCase
{
    public function test_points_fill_a_region_with_a_hole_evenly_and_leave_its_rim_alone(): void
    {
        [$tri, $u, $v] = self::frame();
        $filled = new FilledTriangulation($tri, $u, $v);
        $added = $filled->fill(0.1, count($u));
        foreach ($added as [$pu, $pv]) {
            $u[] = $pu;
            $v[] = $pv;
            self::assertTrue(max(abs($pu), abs($pv)) > 0.4 && max(abs($pu), abs($pv)) < 1.0, 'within the region');
        }
        // A square of side 2 less one of side 0.8; about one point for each 0.1 · 0.0866.
        $area = 4 - 0.64;
        self::assertGreaterThan(0.6 * $area / (0.1 * 0.0866), count($added));
        self::assertEqualsWithDelta($area, self::area($filled->triangles(), $u, $v), 1e-9);
        self::assertSame(self::rim($tri), self::rim($filled->triangles()));
    }

    public function test_triangles_within_are_well_shaped(): void
    {
        [$tri, $u, $v] = self::frame();
        $filled = new FilledTriangulation($tri, $u, $v);
        foreach ($filled->fill(0.1, count($u)) as [$pu, $pv]) {
            $u[] = $pu;
            $v[] = $pv;
        }
        $good = 0;
        $faces = array_chunk($filled->triangles(), 3);
        foreach ($faces as [$a, $b, $c]) {
            $sides = [hypot($u[$a] - $u[$b], $v[$a] - $v[$b]), hypot($u[$b] - $u[$c], $v[$b] - $v[$c]), hypot($u[$c] - $u[$a], $v[$c] - $v[$a])];
            $good += max($sides) < 3.0 * min($sides) ? 1 : 0;
        }
        self::assertGreaterThan(0.9, $good / count($faces));
    }

    public function test_a_step_wider_than_the_region_adds_nothing(): void
    {
        [$tri, $u, $v] = self::frame();
        $filled = new FilledTriangulation($tri, $u, $v);
        self::assertSame([], $filled->fill(5.0, count($u)));
        self::assertSame(self::rim($tri), self::rim($filled->triangles()));
    }

    public function test_relief_rises_from_the_rim_no_faster_than_it_may_and_dies_out_there(): void
    {
        [$tri, $u, $v] = self::frame();
        $px = $u;
        $py = $v;
        $pz = array_fill(0, count($u), 0.0);
        $rim = count($u);
        $out = (new Relief(new Noise(new SeededRandom(2)), 0.2, 0.3, 0.08))->over(
            $tri,
            $u,
            $v,
            [1.0, 0.0, 0.0],
            [0.0, 1.0, 0.0],
            [0.0, 0.0, 1.0],
            $px,
            $py,
            $pz,
        );
        self::assertGreaterThan($rim + 100, count($px));
        $highest = 0.0;
        for ($p = 0; $p < count($px); $p++) {
            if ($p < $rim) {
                self::assertSame(0.0, $pz[$p]);

                continue;
            }
            // The distance to the nearer of the two square rims.
            $d = min(1.0 - max(abs($px[$p]), abs($py[$p])), hypot(max(0.0, abs($px[$p]) - 0.4), max(0.0, abs($py[$p]) - 0.4)));
            self::assertLessThanOrEqual(0.3 * $d + 1e-9, abs($pz[$p]));
            $highest = max($highest, abs($pz[$p]));
        }
        self::assertGreaterThan(0.02, $highest);
        self::assertEqualsWithDelta(4 - 0.64, self::area($out, $px, $py), 1e-9);
    }

    /** @return array{list<int>, list<float>, list<float>} a square ring with points along its sides */
    private static function frame(): array
    {
        $u = $v = $loops = [];
        foreach ([[1.0, false], [0.4, true]] as [$h, $hole]) {
            $loop = [];
            foreach ([[-1, -1, 1, 0], [1, -1, 0, 1], [1, 1, -1, 0], [-1, 1, 0, -1]] as [$cu, $cv, $du, $dv]) {
                for ($k = 0; $k < 8; $k++) {
                    $loop[] = count($u);
                    $u[] = $h * ($cu + $du * $k / 4);
                    $v[] = $h * ($cv + $dv * $k / 4);
                }
            }
            $loops[] = $hole ? array_reverse($loop) : $loop;
        }

        return [PlanarTriangulation::of($loops, $u, $v), $u, $v];
    }

    /**
     * @param  list<int>  $faces
     * @param  list<float>  $u
     * @param  list<float>  $v
     */
    private static function area(array $faces, array $u, array $v): float
    {
        $sum = 0.0;
        foreach (array_chunk($faces, 3) as [$a, $b, $c]) {
            $own = 0.5 * (($u[$b] - $u[$a]) * ($v[$c] - $v[$a]) - ($v[$b] - $v[$a]) * ($u[$c] - $u[$a]));
            self::assertGreaterThanOrEqual(-1e-12, $own);
            $sum += $own;
        }

        return $sum;
    }

    /**
     * @param  list<int>  $faces
     * @return list<string> sorted
     */
    private static function rim(array $faces): array
    {
        $edges = [];
        foreach (array_chunk($faces, 3) as [$a, $b, $c]) {
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                $edges["$p $q"] = [$p, $q];
            }
        }
        $rim = array_keys(array_filter($edges, static fn (array $e): bool => ! isset($edges["$e[1] $e[0]"])));
        sort($rim);

        return $rim;
    }
}
