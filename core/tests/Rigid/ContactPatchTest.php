<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\ContactPatch;
use YardBreak\Core\SeededRandom;

final class ContactPatchTest extends TestCase
{
    /** Of the points of a four-sided patch the corners are among the five that carry, however it lies and wherever the deepest is. */
    public function test_the_corners_are_among_five_of_many_points(): void
    {
        $random = new SeededRandom(8);
        for ($try = 0; $try < 40; $try++) {
            $turn = Quaternion::aboutAxis(new Vec3($random->between(-1, 1), $random->between(-1, 1), $random->between(-1, 1)), $random->between(0, 6));
            $corners = [[-1.0, -0.6], [1.1, -0.5], [0.9, 0.7], [-1.2, 0.5]];
            $flat = $corners;
            for ($k = 0; $k < 12; $k++) {
                $flat[] = [$random->between(-0.6, 0.6), $random->between(-0.3, 0.3)];
            }
            $deepest = $try % 4;
            $order = range(0, 15);
            usort($order, static fn (): int => $random->share() < 0.5 ? -1 : 1);
            $points = [];
            foreach ($order as $k) {
                array_push(
                    $points,
                    ...[...$turn->turn(new Vec3($flat[$k][0], $flat[$k][1], 0.2))->toArray(), (float) $k, 0.0, 0.0, $k === $deepest ? -0.02 : -0.01],
                );
            }
            $five = ContactPatch::carrying($points, 5, 2.3);
            $kept = array_map(static fn (int $i): int => (int) $five[$i + 3], [0, 7, 14, 21, 28]);
            self::assertSame($deepest, $kept[0], 'the deepest first');
            self::assertSame([], array_diff([0, 1, 2, 3], $kept), "try $try");
        }
    }

    /** What is bowed stands on its middle, not on its rim: a point that lies high counts for less than one near the deepest. */
    public function test_points_that_lie_high_are_left_out_where_others_carry(): void
    {
        $points = [];
        for ($k = 0; $k < 8; $k++) {
            $angle = M_PI / 4.0 * $k;
            array_push($points, cos($angle), 0.0, sin($angle), (float) $k, 0.0, 0.0, 0.3);
            array_push($points, 0.3 * cos($angle), 0.0, 0.3 * sin($angle), 10.0 + $k, 0.0, 0.0, 0.0);
        }
        $kept = ContactPatch::carrying($points, 4, 2.0);
        self::assertCount(28, $kept);
        foreach ([3, 10, 17, 24] as $i) {
            self::assertGreaterThanOrEqual(10.0, $kept[$i]);
        }
    }
}
