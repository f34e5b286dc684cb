<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Collide;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\ContactBalls;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;

final class ContactBallsTest extends TestCase
{
    /** Cubes of a grid: balls of the full extent of a cube just touch along the axes, and so none overlaps at a share of 1. */
    public function test_balls_inscribed_in_the_cubes_of_a_grid_just_touch(): void
    {
        $middles = [];
        for ($k = 0; $k < 27; $k++) {
            $middles[] = new Vec3((float) ($k % 3), (float) (intdiv($k, 3) % 3), (float) intdiv($k, 9));
        }
        // Three rows along each of three axes, nine of them of two pairs each.
        self::assertSame(['pairs' => 54, 'fits' => 1.0], ContactBalls::overlaps($middles, array_fill(0, 27, 0.51), array_fill(0, 27, 1.0)));
        self::assertSame(0, ContactBalls::overlaps($middles, array_fill(0, 27, 0.5), array_fill(0, 27, 1.0))['pairs']);
    }

    /** The same as by looking at every pair. */
    public function test_sorting_leaves_no_pair_out(): void
    {
        $random = new SeededRandom(3);
        $middles = $radii = $sizes = [];
        for ($k = 0; $k < 120; $k++) {
            $middles[] = new Vec3($random->between(0, 1), $random->between(0, 1), $random->between(0, 1));
            $radii[] = $random->between(0.01, 0.1);
            $sizes[] = $random->between(0.02, 0.3);
        }
        $pairs = 0;
        $fits = INF;
        for ($i = 0; $i < 120; $i++) {
            for ($j = 0; $j < $i; $j++) {
                $far = $middles[$i]->minus($middles[$j])->length();
                $pairs += $far < $radii[$i] + $radii[$j] ? 1 : 0;
                $fits = min($fits, $far / (0.5 * ($sizes[$i] + $sizes[$j])));
            }
        }
        $found = ContactBalls::overlaps($middles, $radii, $sizes);
        self::assertSame($pairs, $found['pairs']);
        self::assertEqualsWithDelta($fits, $found['fits'], 1e-12);
    }
}
