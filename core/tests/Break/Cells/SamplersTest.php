<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break\Cells;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cells\NearestSeed;
use YardBreak\Core\Break\Cells\SolidSampler;
use YardBreak\Core\Geometry\SurfaceSampler;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Solids;

final class SamplersTest extends TestCase
{
    public function test_points_of_a_surface_are_even_by_area_and_know_their_normal(): void
    {
        // Sides of 2 × 1, 2 × 1 and 1 × 1: shares of 4, 4 and 2 in ten.
        $sampler = new SurfaceSampler(Solids::shape('box', ['width' => 2.0]), new SeededRandom(3));
        $count = ['x' => 0, 'y' => 0, 'z' => 0];
        $n = 6000;
        for ($i = 0; $i < $n; $i++) {
            [$p, $normal] = $sampler->point();
            $axis = abs($normal[0]) > 0.9 ? 'x' : (abs($normal[1]) > 0.9 ? 'y' : 'z');
            $count[$axis]++;
            $at = ['x' => $p[0], 'y' => $p[1] - 0.5, 'z' => $p[2]][$axis];
            self::assertEqualsWithDelta($axis === 'x' ? 1.0 : 0.5, abs($at), 1e-9);
            self::assertGreaterThan(0.0, $at * ['x' => $normal[0], 'y' => $normal[1], 'z' => $normal[2]][$axis], 'outwards');
        }
        foreach (['x' => 0.2, 'y' => 0.4, 'z' => 0.4] as $axis => $share) {
            // Four standard deviations of a binomial share.
            self::assertEqualsWithDelta($share, $count[$axis] / $n, 4 * sqrt($share * (1 - $share) / $n));
        }
    }

    public function test_points_of_a_solid_are_even_by_volume(): void
    {
        $ball = Solids::shape('ball', ['radius' => 0.5, 'detail' => 16])->movedBy(new Vec3(0.0, -0.5, 0.0));
        $sampler = new SolidSampler($ball, new SeededRandom(5));
        $n = 6000;
        $within = 0;
        for ($i = 0; $i < $n; $i++) {
            [$x, $y, $z] = $sampler->point();
            $r = sqrt($x * $x + $y * $y + $z * $z);
            self::assertLessThan(0.5 + 1e-9, $r);
            $within += $r < 0.25 ? 1 : 0;
        }
        // A ball of half the radius has an eighth of the volume.
        self::assertEqualsWithDelta(0.125, $within / $n, 4 * sqrt(0.125 * 0.875 / $n) + 0.004);
    }

    public function test_the_nearest_seed_is_the_nearest(): void
    {
        $random = new SeededRandom(9);
        $seeds = [];
        for ($i = 0; $i < 200; $i++) {
            $seeds[] = [$random->between(-0.5, 0.5), $random->between(-0.5, 0.5), $random->between(-0.5, 0.5)];
        }
        $nearest = new NearestSeed($seeds, $random);
        $points = [];
        for ($i = 0; $i < 400; $i++) {
            $points[] = [$random->between(-0.6, 0.6), $random->between(-0.6, 0.6), $random->between(-0.6, 0.6)];
        }
        foreach ($nearest->to(...array_map(null, ...$points)) as $i => $seed) {
            $p = $points[$i];
            $d = array_map(static fn (array $s): float => ($s[0] - $p[0]) ** 2 + ($s[1] - $p[1]) ** 2 + ($s[2] - $p[2]) ** 2, $seeds);
            self::assertSame(array_search(min($d), $d, true), $seed);
        }
    }
}
