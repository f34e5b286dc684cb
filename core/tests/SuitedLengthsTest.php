<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;

/** Default lengths keep their true size where it suits the prop, and follow its size where it does not. */
final class SuitedLengthsTest extends TestCase
{
    public function test_a_brick_is_a_brick_in_walls_and_scaled_in_towers_and_toys(): void
    {
        foreach ([0.7, 1.0, 3.0, 10.0] as $size) {
            self::assertArrayNotHasKey('courses', BreakCatalogue::lengths(new Vec3($size, 0.4 * $size, 0.2)), (string) $size);
        }
        // A fiftieth and a hundred times a cube of a metre: bricks and joints alike.
        self::assertSame(['unit' => [0.0043, 0.0013, 0.00205], 'joint' => 0.0002], BreakCatalogue::lengths(new Vec3(0.02, 0.02, 0.02))['courses']);
        self::assertSame(['unit' => [19.35, 5.85, 9.225], 'joint' => 0.9], BreakCatalogue::lengths(new Vec3(100.0, 100.0, 100.0))['courses']);
    }

    public function test_scales_have_one_digit_and_keep_to_the_limits(): void
    {
        $option = new Option('d', 'D', '', Number::class, 0.004, 0.001, 10, 'm', share: 0.01);
        $for = static fn (Option $o, float $longest): mixed => $o->suited([$longest, 0.1 * $longest, 0.0]);
        self::assertSame(0.004, $for($option, 0.4));
        self::assertSame(0.08, $for($option, 7.0));
        self::assertSame(10.0, $for($option, 1e6));
        self::assertSame(0.001, $for($option, 1e-6));
        self::assertSame(0.004, $for($option, 0.0));
        self::assertSame(3, $for(new Option('n', 'N', '', Whole::class, 3, 1, 9), 50.0));
    }

    /** Every pattern that needs no drawing or parts breaks a box of any size as it comes, into more than one piece, soon. */
    public function test_every_pattern_breaks_props_of_any_size_as_it_comes(): void
    {
        foreach ([0.001, 0.03, 1.0, 40.0, 900.0] as $size) {
            $box = Solids::shape('box', ['width' => 1.0, 'height' => 1.0, 'depth' => 0.6, 'segments' => 4])->scaledBy($size);
            $lengths = BreakCatalogue::lengths(new Vec3($size, $size, 0.6 * $size));
            foreach (array_diff(array_keys(BreakCatalogue::PATTERNS), ['parts', 'score']) as $pattern) {
                $shards = BreakCatalogue::make($pattern, $lengths[$pattern] ?? [])->break($box, new SilentProgress);
                self::assertGreaterThan(1, count($shards), $pattern.' at '.$size);
                self::assertLessThan(3000, count($shards), $pattern.' at '.$size);
            }
        }
        self::assertSame(['distance'], array_keys(PrepareCatalogue::lengths(new Vec3(100.0, 1.0, 1.0))['thicken']));
    }
}
