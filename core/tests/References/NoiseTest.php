<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\SeededRandom;

/** Improved noise (Perlin 2002, "Improving noise"). */
final class NoiseTest extends TestCase
{
    /** A check value that goes round with Perlin's reference implementation; value from memory. */
    public function test_it_gives_the_reference_value(): void
    {
        self::assertEqualsWithDelta(0.13691995878400012, (new Noise)->at(3.14, 42.0, 7.0), 1e-15);
    }

    /** By its definition it is zero wherever all three coordinates are whole, and repeats after 256. */
    public function test_it_is_zero_at_whole_points_and_repeats(): void
    {
        $noise = new Noise(new SeededRandom(5));
        for ($i = -3; $i < 4; $i++) {
            self::assertSame(0.0, $noise->at((float) $i, 2.0 * $i, 7.0 - $i) + 0.0);
            self::assertEqualsWithDelta($noise->at(0.3 + $i, 0.7, 0.1), $noise->at(256.3 + $i, 0.7, 0.1), 1e-12);
        }
    }

    public function test_it_is_smooth_and_stays_within_bounds(): void
    {
        $noise = new Noise(new SeededRandom(2));
        $random = new SeededRandom(3);
        for ($i = 0; $i < 2000; $i++) {
            $p = [$random->between(-9, 9), $random->between(-9, 9), $random->between(-9, 9)];
            $v = $noise->at(...$p);
            self::assertLessThanOrEqual(1.1, abs($v));
            // Its quintic fade has no slope above 1.875, gradients no more than √2 a direction.
            self::assertLessThan(1e-5 * 6.0, abs($noise->at($p[0] + 1e-5, $p[1], $p[2]) - $v));
        }
    }
}
