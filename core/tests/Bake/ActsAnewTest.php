<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Rigid\World;

/** What comes to act later acts in full, wherever the shot stands: uniformly accelerated motion, s = ½ a t² (any textbook of mechanics). */
final class ActsAnewTest extends TestCase
{
    /** A crate has come to rest when a broom comes: it goes with the broom, be that fast or slow, and does not let it through. */
    public function test_what_keys_drive_sweeps_away_what_rests(): void
    {
        foreach ([52, 120] as $to) {
            $broom = ['keys' => [
                ['frame' => 0, 'value' => -1.0, 'ease' => 'hold'],
                ['frame' => 40, 'value' => -1.0, 'ease' => 'linear'],
                ['frame' => $to, 'value' => 0.5],
            ]];
            $poses = self::poses([
                Trials::box('crate', [0.0, 0.05, 0.0], ['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]]),
                Trials::box('broom', [$broom, 0.0, 0.0], ['motion' => ['kind' => 'keyed']]),
            ], $to);
            self::assertSame(Pose::RESTING, $poses[40]->state);
            self::assertEqualsWithDelta(0.0, $poses[40]->at->x, 0.01);
            // Half the width of each before the broom's middle; what was hit fast goes on by itself.
            self::assertGreaterThan(0.5 + 0.3 - 0.01, $poses[$to]->at->x, "swept until $to");
        }
    }

    /** What lies on a table that is raised, and has come to rest there, is raised with it. */
    public function test_what_rests_on_what_keys_drive_is_carried_along(): void
    {
        $up = ['keys' => [
            ['frame' => 0, 'value' => 0.0, 'ease' => 'hold'],
            ['frame' => 40, 'value' => 0.0, 'ease' => 'linear'],
            ['frame' => 64, 'value' => 0.5],
        ]];
        $poses = self::poses([
            Trials::box('crate', [0.0, 0.32, 0.0], ['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]]),
            Trials::box('table', [0.0, $up, 0.0], ['motion' => ['kind' => 'keyed']]),
        ], 80);
        self::assertSame(Pose::RESTING, $poses[40]->state);
        foreach ([40 => 0.0, 52 => 0.25, 80 => 0.5] as $frame => $raised) {
            self::assertEqualsWithDelta(0.45 + $raised, $poses[$frame]->at->y, 0.01, "frame $frame");
        }
    }

    /**
     * @param  list<array<string, mixed>>  $props
     * @return list<Pose> of the one piece of the first, by frame
     */
    private static function poses(array $props, int $last): array
    {
        $document = Trials::document($props, ['frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]]]);

        return array_map(
            static fn (Frame $f): Pose => Pose::ofStream($f->stream(0, StreamKind::Poses), '')[0],
            iterator_to_array(Trials::ready($document)->frames(), false),
        );
    }

    /** Gravity gets 6 m/s² sideways at frame 24; with nothing to hold it a box slides 6.75 m in 36 frames. */
    public function test_gravity_that_is_tilted_moves_what_lies_there_alike_wherever_that_is(): void
    {
        foreach ([5.0, -5.0, 0.0] as $x) {
            $slid = self::slid(
                $x,
                ['gravity' => [['keys' => [['frame' => 0, 'value' => 0, 'ease' => 'hold'], ['frame' => 24, 'value' => 6]]], -9.8, 0], 'friction' => 0.0],
                0.0,
                60,
            );
            self::assertEqualsWithDelta(6.75, $slid, 0.1, "at x = $x");
        }
    }

    /** On a ground that tilts all the time, held by friction alone, until that is keyed away: of the ground, or its own. */
    public function test_what_rests_by_friction_goes_when_that_goes(): void
    {
        $goes = ['keys' => [['frame' => 0, 'value' => 1, 'ease' => 'hold'], ['frame' => 24, 'value' => 0]]];
        foreach (['the ground' => [$goes, 0.8], 'its own' => [0.8, $goes]] as $whose => [$ground, $own]) {
            // The pair's friction is the geometric mean, so that none of either is none at all.
            $slid = self::slid(0.0, ['gravity' => [3, -9.8, 0], 'friction' => $ground], $own, 72);
            self::assertEqualsWithDelta(0.5 * 3.0 * 4.0, $slid, 0.15, $whose);
        }
    }

    /** A box on the ground is pushed with 6 m/s² for a second and a half: 9 m/s. */
    public function test_an_acceleration_beside_gravity_is_not_held_back(): void
    {
        foreach ([40.0, -40.0] as $x) {
            $w = new World;
            $hull = Hull::around(
                [-0.1, 0.1, -0.1, 0.1, -0.1, 0.1, -0.1, 0.1],
                [-0.1, -0.1, 0.1, 0.1, -0.1, -0.1, 0.1, 0.1],
                [-0.1, -0.1, -0.1, -0.1, 0.1, 0.1, 0.1, 0.1],
            );
            $body = $w->addBody(World::STILL, new Vec3($x, 0.1, 0), Quaternion::identity(), 20.0, [0.13, 0.13, 0.13, 0, 0, 0]);
            $w->addCollider($body, $hull, Vec3::zero(), 0.0, 0.0, 0);
            $w->groundFriction = 0.0;
            $w->release($body, Vec3::zero(), Vec3::zero());
            for ($k = 0; $k < 24; $k++) {
                $w->step(1 / 24, 2, 6);
            }
            $w->accelerate($body, new Vec3(6.0, 0.0, 0.0));
            for ($k = 0; $k < 36; $k++) {
                $w->step(1 / 24, 2, 6);
            }
            self::assertEqualsWithDelta(9.0, $w->vx[$body], 0.05);
        }
    }

    /**
     * Metres along x that a box on the ground has gone at a frame.
     *
     * @param  array<string, mixed>  $world
     */
    private static function slid(float $x, array $world, mixed $friction, int $last): float
    {
        $document = Trials::document([Trials::box('box', [$x, 0, 0], [
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => $friction, 'bounce' => 0],
            'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]],
        ])], ['world' => $world + ['ground' => true, 'bounce' => 0], 'frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]]]);
        foreach (Trials::ready($document)->frames() as $frame) {
            $at = unpack('g', $frame->streams[0][StreamKind::Poses->value])[1] ?? 0.0;
        }

        return $at - $x;
    }
}
