<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\FlatGround;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Tests\Solids;

/** Closed forms of elementary mechanics; g is the standard acceleration of free fall (CGPM 1901). */
final class MotionTest extends TestCase
{
    private const G = 9.80665;

    private const FRAME = 1 / 24;

    public function test_free_fall_and_a_throw_follow_the_parabola(): void
    {
        $w = self::emptySpace();
        $drop = Solids::addBox($w, [0.1, 0.1, 0.1], new Vec3(0, 10, 0));
        $throw = Solids::addBox($w, [0.1, 0.1, 0.1], new Vec3(5, 0, 0), velocity: new Vec3(6 * cos(0.7), 6 * sin(0.7), 0));
        for ($frame = 1; $frame <= 48; $frame++) {
            $w->step(self::FRAME, 2, 6);
            $t = $frame / 24;
            // The mean of two speeds is exact on a parabola; only rounding is left.
            self::assertEqualsWithDelta(10 - self::G * $t * $t / 2, $w->py[$drop], 1e-10);
            self::assertEqualsWithDelta(5 + 6 * cos(0.7) * $t, $w->px[$throw], 1e-10);
            self::assertEqualsWithDelta(6 * sin(0.7) * $t - self::G * $t * $t / 2, $w->py[$throw], 1e-10);
        }
    }

    public function test_a_hit_far_away_that_makes_steps_finer_does_not_shift_what_falls(): void
    {
        $w = self::emptySpace();
        $drop = Solids::addBox($w, [0.1, 0.1, 0.1], new Vec3(0, 30, 0), velocity: new Vec3(0.5, 0, 0));
        $w->ground = new FlatGround;
        for ($k = 0; $k < 6; $k++) {
            Solids::addBox($w, [0.1, 0.1, 0.1], new Vec3(50 + 0.02 * $k, 0.3 + 0.15 * $k, 0), velocity: new Vec3(0, -20, 0));
        }
        for ($frame = 1; $frame <= 48; $frame++) {
            $w->step(self::FRAME, 2, 6);
            $t = $frame / 24;
            self::assertEqualsWithDelta(30 - self::G * $t * $t / 2, $w->py[$drop], 1e-10);
            self::assertEqualsWithDelta(-self::G * $t, $w->vy[$drop], 1e-10);
        }
    }

    /** @return array<string, array{float}> */
    public static function restitutions(): array
    {
        return ['0.3' => [0.3], '0.5' => [0.5], '0.8' => [0.8]];
    }

    /** e = √(h₂/h₁) for a drop from h₁ that rises to h₂. */
    #[DataProvider('restitutions')]
    public function test_a_bounce_rises_to_the_square_of_the_restitution(float $e): void
    {
        $w = new World;
        $w->groundBounce = 0.0;
        $box = Solids::addBox($w, [0.1, 0.1, 0.1], new Vec3(0, 1.05, 0), bounce: $e);
        $highest = 0.0;
        $rising = false;
        // 240 frames a second, so that the top is not missed between frames.
        for ($i = 0; $i < 480; $i++) {
            $w->step(1 / 240, 1, 2);
            $rising = $rising || $w->vy[$box] > 0.05;
            if ($rising) {
                $highest = max($highest, $w->py[$box] - 0.05);
            }
        }
        self::assertEqualsWithDelta(1.0, $highest / ($e * $e), 0.03);
    }

    /** A block slides v²/2μg before it stops. */
    public function test_a_sliding_block_stops_where_friction_says(): void
    {
        $w = new World;
        $w->groundFriction = 0.5;
        $box = Solids::addBox($w, [0.1, 0.1, 0.1], new Vec3(0, 0.05, 0), velocity: new Vec3(3, 0, 0));
        for ($i = 0; $i < 48; $i++) {
            $w->step(self::FRAME, 2, 6);
        }
        self::assertEqualsWithDelta(1.0, $w->px[$box] / (9 / (2 * 0.5 * self::G)), 0.015);
        self::assertSame(World::RESTING, $w->state[$box]);
    }

    /** On an incline a block stays iff tan θ < μ. */
    public function test_a_block_on_an_incline_slides_only_beyond_the_friction_angle(): void
    {
        foreach ([[0.9, false], [1.1, true]] as [$share, $slides]) {
            $angle = atan(0.5) * $share;
            $turn = Quaternion::aboutAxis(new Vec3(0, 0, 1), $angle);
            $w = new World;
            $w->ground = null;
            Solids::addBox($w, [4.0, 0.2, 2.0], new Vec3(0, 0, 0), World::STILL, turn: $turn);
            $box = Solids::addBox($w, [0.2, 0.1, 0.2], $turn->turn(new Vec3(0, 0.15, 0)), turn: $turn);
            for ($i = 0; $i < 48; $i++) {
                $w->step(self::FRAME, 2, 6);
            }
            $moved = hypot($w->px[$box] - $turn->turn(new Vec3(0, 0.15, 0))->x, $w->py[$box] - $turn->turn(new Vec3(0, 0.15, 0))->y);
            if ($slides) {
                // a = g(sin θ − μ cos θ) over two seconds.
                $want = self::G * (sin($angle) - 0.5 * cos($angle)) * 2;
                self::assertEqualsWithDelta(1.0, $moved / $want, 0.05);
            } else {
                self::assertLessThan(0.003, $moved);
            }
        }
    }

    /**
     * A ball hits a beam that stands askew, off its middle: the blow is (1 + e) v over what resists it, 1/m of both and
     * d²/I of the beam (any textbook of rigid bodies, e.g. Goldstein, "Classical Mechanics").
     */
    public function test_an_off_centre_hit_gives_a_beam_the_speed_and_spin_of_the_two_body_formula(): void
    {
        foreach ([[0.0, 0.4], [0.15, 0.4], [0.15, 0.8], [0.2, 0.6]] as [$off, $e]) {
            $turn = Quaternion::fromEuler(new Vec3(0.4, 0.7, 0.3));
            $w = self::emptySpace();
            $w->gravity = Vec3::zero();
            $w->pieceSize = 0.1;
            $beam = Solids::addBox($w, [0.6, 0.1, 0.1], Vec3::zero(), bounce: $e, friction: 0.0, turn: $turn);
            $along = $turn->turn(new Vec3(1, 0, 0));
            $normal = $turn->turn(new Vec3(0, 1, 0));
            $ball = $w->addBody(
                World::MOVING,
                $along->times($off)->plus($normal->times(0.05 + 0.05 + 0.2)),
                Quaternion::identity(),
                0.5,
                [0.0005, 0.0005, 0.0005, 0.0, 0.0, 0.0],
            );
            $w->addCollider($ball, Hull::ball(0.05), Vec3::zero(), 0.0, $e, $ball);
            $w->release($ball, $normal->times(-3.0), Vec3::zero());
            for ($i = 0; $i < 48; $i++) {
                $w->step(1 / 240, 1, 4);
            }
            $mass = 1000.0 * 0.6 * 0.1 * 0.1;
            $inertia = $mass / 12 * (0.6 ** 2 + 0.1 ** 2);
            $blow = (1 + $e) * 3.0 / (1 / 0.5 + 1 / $mass + $off ** 2 / $inertia);
            self::assertEqualsWithDelta(
                $normal->times(-$blow / $mass)->toArray(),
                [$w->vx[$beam], $w->vy[$beam], $w->vz[$beam]],
                0.02 * $blow / $mass,
                'speed of the beam',
            );
            self::assertEqualsWithDelta(
                $normal->times(-3.0 + $blow / 0.5)->toArray(),
                [$w->vx[$ball], $w->vy[$ball], $w->vz[$ball]],
                0.02 * 3.0,
                'speed of the ball',
            );
            $spin = $turn->turn(new Vec3(0, 0, -$off * $blow / $inertia));
            self::assertEqualsWithDelta(
                $spin->toArray(),
                [$w->wx[$beam], $w->wy[$beam], $w->wz[$beam]],
                0.02 * max(0.5, $off * $blow / $inertia),
                'spin of the beam',
            );
        }
    }

    /** Torque-free motion keeps angular momentum and energy, and about the middle axis it turns over. */
    public function test_a_spinning_brick_keeps_momentum_and_turns_over(): void
    {
        $w = self::emptySpace();
        $w->gravity = Vec3::zero();
        $brick = Solids::addBox($w, [0.1, 0.2, 0.4], Vec3::zero(), spin: new Vec3(0.01, 8, 0.01));
        $momentum = $w->angularMomentum($brick);
        $energy = $w->energy();
        $lowest = 1.0;
        for ($i = 0; $i < 240; $i++) {
            $w->step(self::FRAME, 2, 6);
            $lowest = min($lowest, (new Quaternion($w->qx[$brick], $w->qy[$brick], $w->qz[$brick], $w->qw[$brick]))->turn(new Vec3(0, 1, 0))->y);
        }
        self::assertLessThan(1e-9, $w->angularMomentum($brick)->minus($momentum)->length() / $momentum->length());
        self::assertEqualsWithDelta(1.0, $w->energy() / $energy, 1e-3);
        self::assertLessThan(-0.9, $lowest);
    }

    /** Common practice: a stack of ten boxes stands and sags by less than four per cent. */
    public function test_a_stack_of_ten_boxes_stands(): void
    {
        $w = new World;
        $boxes = [];
        for ($i = 0; $i < 10; $i++) {
            $boxes[] = Solids::addBox($w, [0.1, 0.1, 0.1], new Vec3(0, 0.05 + 0.1 * $i, 0));
        }
        for ($i = 0; $i < 120; $i++) {
            $w->step(self::FRAME, 2, 6);
        }
        self::assertEqualsWithDelta(0.95, $w->py[$boxes[9]], 0.04 * 0.95);
        self::assertLessThan(0.02, abs($w->px[$boxes[9]]));
        self::assertSame(array_fill(0, 10, World::RESTING), array_map(static fn (int $b): int => $w->state[$b], $boxes));
    }

    /** @return array<string, array{Vec3, Vec3, Vec3}> */
    public static function shots(): array
    {
        return [
            'straight' => [new Vec3(0, 0.5, 0), new Vec3(0, -30, 0), Vec3::zero()],
            'slanting' => [new Vec3(-0.3, 0.62, 0.1), new Vec3(9, -30, 2), new Vec3(20, 3, 40)],
            'spinning' => [new Vec3(0.1, 0.91, 0), new Vec3(0, -30, 0), new Vec3(60, 0, 60)],
        ];
    }

    #[DataProvider('shots')]
    public function test_a_fast_small_cube_never_passes_a_thin_plate(Vec3 $from, Vec3 $velocity, Vec3 $spin): void
    {
        $w = self::emptySpace();
        $w->gravity = Vec3::zero();
        Solids::addBox($w, [2.0, 0.02, 2.0], Vec3::zero(), World::STILL);
        $cube = Solids::addBox($w, [0.06, 0.06, 0.06], $from, velocity: $velocity, bounce: 0.1, spin: $spin);
        for ($i = 0; $i < 24; $i++) {
            $w->step(self::FRAME, 2, 6);
            self::assertGreaterThan(0.0, $w->py[$cube]);
        }
    }

    /** A ball rolls down an incline at 5/7·g·sin θ. */
    public function test_a_ball_rolls_at_five_sevenths(): void
    {
        $hull = Hull::ball(0.2);
        $angle = 0.25;
        $w = new World;
        $w->groundFriction = 1.0;
        // A tilted field of gravity on level ground is an incline.
        $w->gravity = new Vec3(self::G * sin($angle), -self::G * cos($angle), 0);
        $w->pieceSize = 0.4;
        $ball = $w->addBody(World::STILL, new Vec3(0, 0.2, 0), Quaternion::identity(), 1.0, [0.4 * 0.04, 0.4 * 0.04, 0.4 * 0.04, 0.0, 0.0, 0.0]);
        $w->addCollider($ball, $hull, Vec3::zero(), 1.0, 0.0, 1);
        $w->release($ball, Vec3::zero(), Vec3::zero());
        for ($i = 0; $i < 36; $i++) {
            $w->step(self::FRAME, 4, 4);
        }
        self::assertEqualsWithDelta(1.0, $w->px[$ball] / (5 / 7 * self::G * sin($angle) * 1.5 ** 2 / 2), 0.02);
    }

    private static function emptySpace(): World
    {
        $w = new World;
        $w->ground = null;

        return $w;
    }
}
