<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\Meeting;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Timing\PlaceTrack;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Track3;

/** Each frame is worked out by hand from where the two surfaces are. */
final class MeetingTest extends TestCase
{
    private const EXACT = 0.01;

    public function test_a_ball_that_comes_evenly_at_a_wall(): void
    {
        // Its nearest point is 0.7 m off and comes 0.1 m a frame.
        $ball = self::along(1.0, [0, 1.0], [20, -1.0]);
        self::assertEqualsWithDelta(7.0, self::meet($ball, self::ball(0.2), self::still(), self::box(0.2)), self::EXACT);
    }

    public function test_an_accelerating_ball_and_one_that_goes_on_after_a_stop(): void
    {
        // Smooth: z goes from 1 to 0 as 1 − (3t² − 2t³); it touches at 0.3, where 3t² − 2t³ = 0.7.
        $ball = self::along(1.0, [0, 1.0, 'smooth'], [24, 0.0]);
        $t = 0.5;
        for ($k = 0; $k < 60; $k++) {
            $t -= (3 * $t ** 2 - 2 * $t ** 3 - 0.7) / (6 * $t - 6 * $t ** 2);
        }
        self::assertEqualsWithDelta(24 * $t, self::meet($ball, self::ball(0.2), self::still(), self::box(0.2)), self::EXACT);
        // A jump: it is in front of the wall, and then within it.
        $jump = self::along(1.0, [0, 1.0, 'hold'], [9.3, 0.2]);
        self::assertEqualsWithDelta(9.3, self::meet($jump, self::ball(0.2), self::still(), self::box(0.2)), self::EXACT);
    }

    public function test_a_turning_bar_strikes_with_its_end(): void
    {
        // A bar 2 m long about its middle turns to face down z at 90°; its end comes within 0.1 m of the axis of a post 0.95 m off:
        // the post's face at z = 0.9 is met where the corner (1, 0.05) turned by a reaches z = sin a + 0.05 cos a = 0.9.
        $bar = new PlaceTrack(
            Track3::constant(Vec3::zero()),
            Track3::of([0, ['keys' => [['frame' => 0, 'value' => 0], ['frame' => 30, 'value' => -90]]], 0]),
            Track::constant(1.0),
        );
        $post = PlaceTrack::still(new Vec3(0, 0, 0.95), Vec3::zero(), 1.0);
        $angle = 1.0;
        for ($k = 0; $k < 60; $k++) {
            $angle -= (sin($angle) + 0.05 * cos($angle) - 0.9) / (cos($angle) - 0.05 * sin($angle));
        }
        $mesh = ShapeCatalogue::mesh('box', ['width' => 2.0, 'height' => 0.1, 'depth' => 0.1]);
        $wide = ShapeCatalogue::mesh('box', ['width' => 1.0, 'height' => 0.1, 'depth' => 0.1]);
        $solids = static fn (\YardBreak\Core\Geometry\Mesh $m): array => Solid::free([new Shard('whole', $m, MassProperties::of($m))]);
        self::assertEqualsWithDelta(
            rad2deg($angle) / 3,
            Meeting::first($bar, $solids($mesh), $post, $solids($wide), 0, 60, 1 / 24, 0.0, new SilentProgress),
            self::EXACT,
        );
    }

    public function test_the_ground_growing_and_speed(): void
    {
        $fall = new PlaceTrack(
            Track3::of([0, ['keys' => [['frame' => 0, 'value' => 1.2], ['frame' => 10, 'value' => 0.0]]], 0]),
            Track3::constant(Vec3::zero()),
            Track::constant(1.0),
        );
        self::assertEqualsWithDelta(10 * 1.0 / 1.2, self::meet($fall, self::ball(0.2), null, []), self::EXACT);
        // 1.2 m in 10 frames is 2.88 m/s.
        self::assertNotNull(self::meet($fall, self::ball(0.2), null, [], 2.8));
        self::assertNull(self::meet($fall, self::ball(0.2), null, [], 3.0));
        // From 0.2 m to twice that: it reaches the face 0.1 m from the middle of the box, 0.3 m off, at half of the time.
        $grow = new PlaceTrack(
            Track3::constant(new Vec3(0, 0, 0.4)),
            Track3::constant(Vec3::zero()),
            Track::of(['keys' => [['frame' => 0, 'value' => 0.5], ['frame' => 20, 'value' => 1.0]]]),
        );
        self::assertEqualsWithDelta(10.0, self::meet($grow, self::ball(0.4), self::still(), self::box(0.2)), 0.02);
    }

    public function test_what_never_meets_is_said(): void
    {
        self::assertNull(self::meet(self::along(1.0, [0, 1.0], [20, 0.5]), self::ball(0.2), self::still(), self::box(0.2)));
    }

    /**
     * @param  list<Solid>  $one
     * @param  list<Solid>  $other
     */
    private static function meet(PlaceTrack $track, array $one, ?PlaceTrack $place, array $other, float $speed = 0.0): ?float
    {
        return Meeting::first($track, $one, $place, $other, 0, 60, 1 / 24, $speed, new SilentProgress);
    }

    /** @param  array{int|float, float, 2?: string}  ...$keys  frame, z and ease */
    private static function along(float $size, array ...$keys): PlaceTrack
    {
        return new PlaceTrack(
            Track3::of([0, 0, ['keys' => array_map(static fn (array $k): array => ['frame' => $k[0], 'value' => $k[1], 'ease' => $k[2] ?? 'linear'], $keys)]]),
            Track3::constant(Vec3::zero()),
            Track::constant($size),
        );
    }

    private static function still(): PlaceTrack
    {
        return PlaceTrack::still(new Vec3(0, -0.1, 0), Vec3::zero(), 1.0);
    }

    /** @return list<Solid> */
    private static function ball(float $radius): array
    {
        $mesh = ShapeCatalogue::mesh('ball', ['radius' => $radius, 'detail' => 12]);
        $mesh = $mesh->movedBy(MassProperties::of($mesh)->centroid->times(-1.0));

        return Solid::free([new Shard('whole', $mesh, MassProperties::of($mesh))]);
    }

    /** @return list<Solid> */
    private static function box(float $depth): array
    {
        $mesh = ShapeCatalogue::mesh('box', ['width' => 1.0, 'height' => 0.2, 'depth' => $depth]);

        return Solid::free([new Shard('whole', $mesh, MassProperties::of($mesh))]);
    }
}
