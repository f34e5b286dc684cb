<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Timing;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Timing\PoseTrack;

final class PoseTrackTest extends TestCase
{
    private static function track(): PoseTrack
    {
        $up = new Vec3(0, 1, 0);

        return new PoseTrack([
            ['frame' => 10.0, 'position' => new Vec3(0, 0, 0), 'turn' => Quaternion::identity()],
            ['frame' => 20.0, 'position' => new Vec3(2, 0, 0), 'turn' => Quaternion::aboutAxis($up, M_PI / 2)],
            ['frame' => 24.0, 'position' => new Vec3(2, 4, 0), 'turn' => Quaternion::aboutAxis($up, M_PI / 2)],
        ]);
    }

    public function test_it_holds_before_the_first_and_after_the_last_key(): void
    {
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], self::track()->at(-5)->position->toArray(), 1e-15);
        self::assertEqualsWithDelta([2.0, 4.0, 0.0], self::track()->at(99)->position->toArray(), 1e-15);
        self::assertFalse(self::track()->movesAfter(24));
        self::assertTrue(self::track()->movesAfter(23.5));
    }

    public function test_between_keys_position_and_turn_run_evenly(): void
    {
        for ($k = 0; $k <= 10; $k++) {
            $at = self::track()->at(10 + $k);
            self::assertEqualsWithDelta(0.2 * $k, $at->position->x, 1e-12);
            // Even turning: after k tenths of a right angle, x points k·9° towards −z.
            $x = $at->turn->turn(new Vec3(1, 0, 0));
            self::assertEqualsWithDelta([cos($k * M_PI / 20), 0.0, -sin($k * M_PI / 20)], $x->toArray(), 1e-12);
        }
        self::assertEqualsWithDelta(1.0, self::track()->at(21)->position->y, 1e-12);
    }

    public function test_turns_go_the_short_way_round(): void
    {
        $up = new Vec3(0, 1, 0);
        $a = Quaternion::aboutAxis($up, 0.1);
        $b = Quaternion::aboutAxis($up, 0.1 + 2 * M_PI - 0.4);
        $half = $a->towards($b, 0.5);
        self::assertEqualsWithDelta(0.2, $half->rotationTo($a)->length(), 1e-9);
        self::assertEqualsWithDelta(-0.4, $a->rotationTo($b)->y, 1e-9);
    }

    /** Rotation about fixed axes x, then y, then z composes as Rz·Ry·Rx. */
    public function test_angles_compose_in_their_stated_order(): void
    {
        $v = Quaternion::fromEuler(new Vec3(M_PI / 2, 0, M_PI / 2))->turn(new Vec3(0, 1, 0));
        // y turns to z about x; z stays z about z.
        self::assertEqualsWithDelta([0.0, 0.0, 1.0], $v->toArray(), 1e-12);
        $w = Quaternion::fromEuler(new Vec3(0, M_PI / 2, M_PI / 2))->turn(new Vec3(0, 0, 1));
        // z turns to x about y; x turns to y about z.
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], $w->toArray(), 1e-12);
    }
}
