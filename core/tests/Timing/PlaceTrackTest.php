<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Timing;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Timing\PlaceTrack;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Track3;

final class PlaceTrackTest extends TestCase
{
    public function test_position_and_turn_run_evenly_between_keys(): void
    {
        $track = new PlaceTrack(
            Track3::of([self::keys([10, 0], [20, 2]), self::keys([20, 0], [24, 4]), 0]),
            Track3::of([0, self::keys([10, 0], [20, 90]), 0]),
            Track::constant(1.0),
        );
        for ($k = 0; $k <= 10; $k++) {
            $at = $track->at(10 + $k);
            self::assertEqualsWithDelta(0.2 * $k, $at->position->x, 1e-12);
            // Even turning: after k tenths of a right angle, x points k·9° towards −z.
            self::assertEqualsWithDelta([cos($k * M_PI / 20), 0.0, -sin($k * M_PI / 20)], $at->turn->turn(new Vec3(1, 0, 0))->toArray(), 1e-12);
        }
        self::assertEqualsWithDelta([1.0, 1.0], [$track->at(21)->position->y, $track->at(21)->size], 1e-12);
    }

    public function test_a_whole_turn_is_one_and_repeats_without_a_jump_at_the_speed_the_keys_say(): void
    {
        $track = new PlaceTrack(Track3::constant(Vec3::zero()), Track3::of([0, self::keys([0, 0], [12, 360], outside: 'repeat'), 0]), Track::constant(1.0));
        foreach ([0.0, 3.25, 11.9, 12.0, 17.5, 24.0, 240.3] as $frame) {
            $angle = 2 * M_PI * $frame / 12;
            self::assertEqualsWithDelta([cos($angle), 0.0, -sin($angle)], $track->at($frame)->turn->turn(new Vec3(1, 0, 0))->toArray(), 1e-9, "at $frame");
            // Also where a step is more than half a turn, which by its ends alone would look like less the other way.
            foreach ([0.01, 0.5, 5.0, 7.0, -7.0, 23.0] as $ahead) {
                self::assertEqualsWithDelta([0.0, 2 * M_PI * $ahead / 12, 0.0], $track->rotation($frame, $ahead)->toArray(), 1e-9, "at $frame for $ahead");
            }
        }
    }

    /** Two axes at a time: the rotation vector of a small step is that of the composed turns. */
    public function test_the_rotation_of_a_small_step_is_that_of_the_turns_it_leads_between(): void
    {
        $track = new PlaceTrack(
            Track3::constant(Vec3::zero()),
            Track3::of([self::keys([0, 10], [10, 80]), self::keys([0, 0], [10, -200]), self::keys([0, 5], [10, 45])]),
            Track::constant(1.0),
        );
        foreach ([0.0, 2.5, 9.0] as $frame) {
            $by = $track->rotation($frame, 0.25);
            $turned = Quaternion::aboutAxis($by, $by->length())->after($track->turnAt($frame));
            self::assertEqualsWithDelta(
                abs(1.0),
                abs($turned->x * ($q = $track->turnAt($frame + 0.25))->x + $turned->y * $q->y + $turned->z * $q->z + $turned->w * $q->w),
                1e-12,
            );
        }
    }

    /** The way is the shortest; how fast it is gone, and what is before and after, the keys say. */
    public function test_the_shortest_way_keeps_eases_and_repeats(): void
    {
        $track = static fn (string $outside): PlaceTrack => new PlaceTrack(
            Track3::constant(Vec3::zero()),
            Track3::of([
                0,
                ['keys' => [['frame' => 0, 'value' => 0, 'ease' => 'smooth'], ['frame' => 10, 'value' => 350]], 'before' => $outside, 'after' => $outside],
                0,
            ]),
            Track::constant(1.0),
            true,
        );
        $at = static fn (float $degrees): Quaternion => Quaternion::aboutAxis(new Vec3(0, 1, 0), deg2rad($degrees));
        // Smooth is 3t² − 2t³ (value of its handles a third in): 0.15625 after a quarter of the time, of −10°.
        foreach ([
            'hold' => [[2.5, -1.5625], [5.0, -5.0], [12.5, -10.0], [-7.5, 0.0]],
            'repeat' => [[2.5, -1.5625], [12.5, -1.5625], [-7.5, -1.5625]],
            'swing' => [[12.5, -8.4375], [22.5, -1.5625]],
        ] as $outside => $wanted) {
            foreach ($wanted as [$frame, $degrees]) {
                self::assertEqualsWithDelta(0.0, $track($outside)->turnAt($frame)->rotationTo($at($degrees))->length(), 1e-9, "$outside at $frame");
            }
        }
    }

    public function test_the_shortest_way_is_one_rotation_at_even_speed(): void
    {
        $turn = [[0, 0, 0], [120, 30, -60], [10, 200, 5]];
        $axis = static fn (int $a): array => self::keys([0, $turn[0][$a]], [10, $turn[1][$a]], [16, $turn[2][$a]]);
        $track = new PlaceTrack(Track3::constant(Vec3::zero()), Track3::of([$axis(0), $axis(1), $axis(2)]), Track::constant(1.0), true);
        $at = array_map(static fn (array $t): Quaternion => Quaternion::fromEuler((new Vec3(...$t))->times(M_PI / 180)), $turn);
        foreach ([[0.0, 0, 0.0], [4.0, 0, 0.4], [10.0, 1, 0.0], [13.0, 1, 0.5], [16.0, 1, 1.0], [99.0, 1, 1.0]] as [$frame, $k, $share]) {
            self::assertEqualsWithDelta(0.0, $track->turnAt($frame)->rotationTo($at[$k]->towards($at[$k + 1], $share))->length(), 1e-9, "at $frame");
        }
    }

    public function test_it_is_made_at_its_largest_size_and_can_go_to_nothing(): void
    {
        $track = new PlaceTrack(Track3::constant(Vec3::zero()), Track3::constant(Vec3::zero()), Track::of(self::keys([0, 0.5], [10, 2], [20, 0])));
        self::assertSame(2.0, $track->fullSize());
        self::assertSame([0.25, 1.0, 0.5, 0.0], [$track->at(0)->size, $track->at(10)->size, $track->at(15)->size, $track->at(30)->size]);
        self::assertTrue($track->moves());
        self::assertFalse($track->stoppedAt(15)->moves());
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

    /**
     * @param  array{int|float, int|float}|string  ...$keys  frame and value; `outside` what it does before and after
     * @return array<string, mixed>
     */
    private static function keys(array|string ...$keys): array
    {
        $outside = $keys['outside'] ?? 'hold';
        unset($keys['outside']);

        return [
            'keys' => array_map(static fn (array $k): array => ['frame' => $k[0], 'value' => $k[1]], array_values($keys)),
            'before' => $outside,
            'after' => $outside,
        ];
    }
}
