<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\BodyTouch;
use YardBreak\Core\Rigid\StepListener;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Tests\Solids;

final class WorldTest extends TestCase
{
    public function test_what_lies_still_comes_to_rest_and_wakes_when_hit(): void
    {
        $w = new World;
        $w->pieceSize = 0.2;
        $box = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0, 0.1, 0));
        self::play($w, 24);
        self::assertSame(World::RESTING, $w->state[$box]);
        $place = $w->px[$box];
        self::play($w, 24);
        self::assertSame($place, $w->px[$box], 'at rest is at rest');
        Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(-1.0, 0.12, 0), velocity: new Vec3(4, 0, 0));
        self::play($w, 12);
        self::assertGreaterThan($place + 0.01, $w->px[$box]);
    }

    /** What keys drive meets what rests as it meets what moves: it wakes it and pushes it on. */
    public function test_what_is_driven_wakes_what_rests_and_pushes_it_along(): void
    {
        $w = new World;
        $w->pieceSize = 0.2;
        $box = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0, 0.1, 0));
        $plate = Solids::addBox($w, [0.1, 0.4, 0.4], new Vec3(-1.0, 0.25, 0), World::KEYED);
        self::play($w, 30);
        self::assertSame(World::RESTING, $w->state[$box]);
        for ($f = 0; $f < 30; $f++) {
            $w->vx[$plate] = 1.0;
            $w->place($plate, new Vec3(-1.0 + $f / 24, 0.25, 0), Quaternion::identity());
            $w->step(1 / 24, 2, 6);
        }
        // The plate's face has come to −1 + 30/24 + 0.05.
        self::assertEqualsWithDelta(0.3 + 0.1, $w->px[$box], 0.03);
    }

    /** What lies on something that rests too, and is struck from the side, slides on it: it does not fall into it as it wakes. */
    public function test_what_wakes_does_not_sink_into_what_it_lies_on(): void
    {
        $w = new World;
        $w->pieceSize = 0.2;
        Solids::addBox($w, [0.6, 0.2, 0.6], new Vec3(0, 0.1, 0));
        $box = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0, 0.3, 0));
        self::play($w, 36);
        self::assertSame(World::RESTING, $w->state[$box]);
        $y = $w->py[$box];
        Solids::addBox($w, [0.1, 0.1, 0.1], new Vec3(-0.4, 0.3, 0), velocity: new Vec3(3, 0, 0));
        $lowest = INF;
        $fastest = 0.0;
        for ($f = 0; $f < 12; $f++) {
            $w->step(1 / 24, 2, 6);
            $lowest = min($lowest, $w->py[$box]);
            $fastest = min($fastest, $w->vy[$box]);
        }
        self::assertGreaterThan(0.005, $w->px[$box]);
        self::assertGreaterThan($y - 2e-4, $lowest);
        self::assertGreaterThan(-0.05, $fastest);
    }

    public function test_what_loses_its_support_falls(): void
    {
        $w = new World;
        $w->pieceSize = 0.2;
        $table = Solids::addBox($w, [0.6, 0.1, 0.6], new Vec3(0, 0.5, 0), World::KEYED);
        $box = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0, 0.65, 0));
        self::play($w, 36);
        self::assertSame(World::RESTING, $w->state[$box]);
        // The table is drawn away sideways, faster than friction can follow.
        for ($f = 0; $f < 24; $f++) {
            $w->vx[$table] = 3.0;
            $w->step(1 / 24, 2, 6);
            $w->place($table, new Vec3(3.0 * ($f + 1) / 24, 0.5, 0), Quaternion::identity());
        }
        self::play($w, 24);
        self::assertLessThan(0.15, $w->py[$box], 'it lies on the ground');
    }

    /** Two slanted plates whose boxes overlap while they are far apart; one is taken away and put down on the other. */
    public function test_what_was_out_of_sight_is_measured_anew(): void
    {
        $w = new World;
        $w->ground = null;
        $w->gravity = Vec3::zero();
        $slant = Quaternion::aboutAxis(new Vec3(0, 0, 1), M_PI / 4);
        [$along, $across] = [$slant->turn(new Vec3(1, 0, 0)), $slant->turn(new Vec3(0, 1, 0))];
        $a = Solids::addBox($w, [1.0, 0.02, 1.0], Vec3::zero());
        $b = Solids::addBox($w, [1.0, 0.02, 1.0], $across->times(0.32), velocity: $along->times(0.01));
        $w->place($a, Vec3::zero(), $slant);
        $look = static function (Vec3 $at) use ($w, $b, $slant): int {
            $w->place($b, $at, $slant);
            $w->findContacts(1 / 48);

            return count($w->contacts->a);
        };
        self::assertSame(0, $look($across->times(0.32)), '0.3 m apart');
        foreach ([1, 2] as $_) {
            self::assertSame(0, $look($across->times(20.0)));
        }
        self::assertSame(1, $look($across->times(0.0205)), '0.5 mm apart');
    }

    /** Momentum before and after a central hit on frictionless ice: m₁v₁ + m₂v₂ (Newton, Principia, corollary III). */
    public function test_a_hit_passes_momentum_on(): void
    {
        $w = new World;
        $w->ground = null;
        $w->gravity = Vec3::zero();
        $w->pieceSize = 0.2;
        $a = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(-0.5, 0, 0), velocity: new Vec3(2, 0, 0), friction: 0.0);
        $b = Solids::addBox($w, [0.4, 0.2, 0.2], new Vec3(0.5, 0.03, 0), friction: 0.0);
        $before = $w->mass[$a] * 2.0;
        self::play($w, 24);
        self::assertEqualsWithDelta($before, $w->mass[$a] * $w->vx[$a] + $w->mass[$b] * $w->vx[$b], 1e-9 * $before);
        self::assertGreaterThan(0.1, $w->vx[$b], 'it was hit');
        self::assertLessThanOrEqual($w->vx[$b] + 1e-6, $w->vx[$a], 'and not passed through');
    }

    /** Newton's rule of restitution for equal masses head on, e = 1: they exchange velocities. */
    public function test_an_elastic_hit_exchanges_velocities(): void
    {
        $w = new World;
        $w->ground = null;
        $w->gravity = Vec3::zero();
        $w->pieceSize = 0.2;
        $a = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(-0.4, 0, 0), velocity: new Vec3(1.5, 0, 0), friction: 0.0, bounce: 1.0);
        $b = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0.4, 0, 0), friction: 0.0, bounce: 1.0);
        self::play($w, 24);
        self::assertEqualsWithDelta(0.0, $w->vx[$a], 0.05);
        self::assertEqualsWithDelta(1.5, $w->vx[$b], 0.05);
    }

    public function test_a_group_that_falls_together_stays_together_to_the_last_bit_until_something_is_hit(): void
    {
        $w = new World;
        $w->pieceSize = 0.2;
        $boxes = [];
        for ($i = 0; $i < 8; $i++) {
            $boxes[] = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0.2 * ($i % 2), 2.0 + 0.2 * intdiv($i, 4), 0.2 * (intdiv($i, 2) % 2)));
        }
        $w->forgiveOverlaps();
        $start = array_map(static fn (int $b): array => [$w->px[$b], $w->py[$b] - $w->py[0], $w->pz[$b]], $boxes);
        self::play($w, 12);
        self::assertSame([0.0, 0.0, 0.0], [$w->wx[3], $w->wy[3], $w->wz[3]]);
        foreach ($boxes as $k => $b) {
            self::assertEqualsWithDelta($start[$k], [$w->px[$b], $w->py[$b] - $w->py[0], $w->pz[$b]], 1e-12);
        }
        self::assertEqualsWithDelta(2.0 - 0.5 * 9.80665 * 0.25, $w->py[0], 1e-9);
        // Then they land, and the stack holds.
        self::play($w, 60);
        foreach ($boxes as $k => $b) {
            self::assertEqualsWithDelta($k < 4 ? 0.1 : 0.3, $w->py[$b], 0.02, "box $k");
        }
    }

    public function test_an_overlap_from_before_the_release_is_forgiven_until_the_pieces_part(): void
    {
        $w = new World;
        $w->ground = null;
        $w->gravity = Vec3::zero();
        $w->pieceSize = 0.2;
        foreach ([0.0, 0.17] as $x) {
            [$cx, $cy, $cz] = Solids::corners(0.2, 0.2, 0.2);
            $b = $w->addBody(World::STILL, new Vec3($x, 0, 0), Quaternion::identity(), 8.0, [0.05, 0.05, 0.05, 0.0, 0.0, 0.0]);
            // One group: they were one prop.
            $w->addCollider($b, Hull::around($cx, $cy, $cz), Vec3::zero(), 0.5, 0.0, 7);
            $w->release($b, Vec3::zero(), Vec3::zero());
        }
        $w->forgiveOverlaps();
        self::play($w, 24);
        self::assertEqualsWithDelta(0.17, $w->px[1] - $w->px[0], 1e-6, 'they do not push each other');
        // Pressed together further, they resist.
        self::send($w, 0.5);
        self::play($w, 24);
        self::assertGreaterThan(0.165, $w->px[1] - $w->px[0]);
        // Once parted, nothing is forgiven any more.
        self::send($w, -2.0);
        self::play($w, 6);
        self::send($w, 1.0);
        self::play($w, 48);
        self::assertGreaterThan(0.195, $w->px[1] - $w->px[0]);
    }

    public function test_pieces_driven_deep_into_each_other_come_apart_without_flying(): void
    {
        $w = new World;
        $w->pieceSize = 0.2;
        $a = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0, 0.1, 0));
        $b = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0.1, 0.1, 0.02));
        $fastest = 0.0;
        for ($f = 0; $f < 72; $f++) {
            $w->step(1 / 24, 2, 6);
            $fastest = max($fastest, abs($w->vx[$a]), abs($w->vx[$b]), abs($w->vy[$b]));
        }
        self::assertGreaterThan(0.19, $w->px[$b] - $w->px[$a]);
        self::assertLessThan(2.0, $fastest, 'm/s');
    }

    public function test_a_listener_hears_of_every_part_of_a_frame_in_order(): void
    {
        $w = new World;
        $w->pieceSize = 0.2;
        Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0, 0.5, 0));
        $ear = new class implements StepListener
        {
            /** @var list<float> */
            public array $heard = [];

            public float $seconds = 0.0;

            public function beforeSearch(float $done, float $ahead, float $seconds): void
            {
                $this->heard[] = $done;
                $this->seconds += $seconds;
            }

            public function afterSpan(float $seconds): void
            {
            }

            public function afterSearch(float $done): bool
            {
                return false;
            }
        };
        $w->step(1 / 24, 4, 3, $ear);
        self::assertEqualsWithDelta([0.0, 0.25, 0.5, 0.75], $ear->heard, 1e-12);
        self::assertEqualsWithDelta(1 / 24, $ear->seconds, 1e-12);
        self::assertEqualsWithDelta(1 / 24, $w->time, 1e-12);
    }

    public function test_a_waiting_body_tells_of_its_touch_with_place_and_speed(): void
    {
        $w = new World;
        $w->pieceSize = 0.2;
        $plate = Solids::addBox($w, [1.0, 0.1, 1.0], new Vec3(0, 0.05, 0), World::STILL);
        $w->waiting[$plate] = true;
        Solids::addBox($w, [0.1, 0.1, 0.1], new Vec3(0.2, 0.6, 0.1));
        $ear = new class($w) implements StepListener
        {
            public ?BodyTouch $told = null;

            public function __construct(private readonly World $w)
            {
            }

            public function beforeSearch(float $done, float $ahead, float $seconds): void
            {
            }

            public function afterSpan(float $seconds): void
            {
            }

            public function afterSearch(float $done): bool
            {
                $this->told ??= $this->w->touches()[0] ?? null;

                return false;
            }
        };
        for ($f = 0; $f < 48 && $ear->told === null; $f++) {
            $w->step(1 / 24, 2, 6, $ear);
        }
        $told = $ear->told;
        self::assertNotNull($told);
        self::assertSame($plate, $w->colliders->body[$told->collider]);
        self::assertEqualsWithDelta(0.1, $told->at->y, 0.06);
        self::assertEqualsWithDelta(0.2, $told->at->x, 0.06);
        // v = √(2gh) from 45 cm, give or take the part of a frame before the touch.
        self::assertEqualsWithDelta(sqrt(2 * 9.80665 * 0.45), $told->speed, 0.5);
    }

    /** Both bodies towards each other. */
    private static function send(World $w, float $speed): void
    {
        $w->release(0, new Vec3($speed, 0, 0), Vec3::zero());
        $w->release(1, new Vec3(-$speed, 0, 0), Vec3::zero());
    }

    private static function play(World $w, int $frames): void
    {
        for ($f = 0; $f < $frames; $f++) {
            $w->step(1 / 24, 2, 6);
        }
    }
}
