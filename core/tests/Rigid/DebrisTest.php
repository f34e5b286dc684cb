<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\Debris\Debris;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Tests\Solids;

/** Which bodies meet, how they are slowed and held back, when they rest, and what happens as one goes. */
final class DebrisTest extends TestCase
{
    public function test_bodies_that_do_not_meet_yet_pass_through_their_own_kind_alone(): void
    {
        foreach ([[false, false], [true, true]] as [$unarmed, $passes]) {
            $w = self::weightless();
            $one = self::box($w, new Vec3(-0.5, 0, 0), 1, new Vec3(2, 0, 0));
            $other = self::box($w, new Vec3(0.5, 0, 0), 1, new Vec3(-2, 0, 0));
            $stranger = self::box($w, new Vec3(0.0, 0.5, 0.0), 2, new Vec3(0, -1.0, 0));
            if ($unarmed) {
                $w->encounters->unarmed[$other] = true;
            }
            self::play($w, 12);
            self::assertSame($passes, $w->px[$one] > $w->px[$other]);
            self::assertGreaterThan(-0.15, $w->py[$stranger], 'another kind is met');
        }
    }

    /** Two groups pass through each other where that is said, and only those two. */
    public function test_groups_that_pass_through_each_other(): void
    {
        $w = self::weightless();
        [$one, $other, $wall] = [self::box($w, new Vec3(-0.5, 0, 0), 1, new Vec3(2, 0, 0)), self::box($w, new Vec3(0, 0, 0), 2), self::box($w, new Vec3(1.0, 0, 0), 3, null, World::STILL)];
        $w->encounters->letPass(2, 1);
        self::play($w, 36);
        self::assertEqualsWithDelta(0.0, $w->px[$other], 1e-9, 'nothing touched it');
        self::assertLessThan($w->px[$wall] - 0.19, $w->px[$one], 'the wall is met');
    }

    public function test_one_that_is_left_alone_meets_what_stands_but_not_what_is_loose(): void
    {
        $w = self::weightless();
        [$one, $loose, $wall] = [self::box($w, new Vec3(-0.5, 0, 0), 1, new Vec3(2, 0, 0)), self::box($w, new Vec3(0, 0, 0), 2), self::box($w, new Vec3(1.0, 0, 0), 3, null, World::STILL)];
        $w->encounters->leaveAlone(1);
        self::play($w, 36);
        self::assertEqualsWithDelta(0.0, $w->px[$loose], 1e-9);
        self::assertLessThan($w->px[$wall] - 0.19, $w->px[$one]);
    }

    /** A thickness keeps others and the ground off, not its own kind; two add up. By what the word says. */
    public function test_what_has_a_thickness_is_kept_off_others_and_the_ground(): void
    {
        foreach ([false, true] as $onSurface) {
            $w = new World;
            $w->pieceSize = 0.2;
            [$plate, $mesh] = [new Vec3(0.0, 0.5, 0.0), Solids::shape('box', ['width' => 2.0, 'height' => 0.2, 'depth' => 2.0])];
            $held = $w->addBody(World::STILL, $plate, Quaternion::identity(), 0.0, [0.0, 0.0, 0.0, 0.0, 0.0, 0.0], 3);
            $onSurface ? $w->addSurface($held, new ContactSurface($mesh->movedBy(Aabb::around($mesh)->centre()->times(-1.0))), 0.5, 0.0, 3) : $w->addCollider($held, Hull::around(...Solids::corners(2.0, 0.2, 2.0)), Vec3::zero(), 0.5, 0.0, 3);
            $w->apart = [1 => 0.02, 2 => 0.03];
            [$lower, $upper, $other, $low] = [self::box($w, new Vec3(0.0, 0.75, 0.0), 1), self::box($w, new Vec3(0.0, 0.96, 0.0), 1), self::box($w, new Vec3(0.0, 1.25, 0.0), 2), self::box($w, new Vec3(4.0, 0.3, 0.0), 2)];
            self::play($w, 60);
            self::assertEqualsWithDelta(0.6 + 0.02 + 0.1, $w->py[$lower], 0.001, 'on what stands');
            self::assertEqualsWithDelta($w->py[$lower] + 0.2, $w->py[$upper], 0.001, 'on its own kind');
            self::assertEqualsWithDelta($w->py[$upper] + 0.2 + 0.05, $w->py[$other], 0.001, 'on another kind');
            self::assertEqualsWithDelta(0.1 + 0.03, $w->py[$low], 0.001, 'on the ground');
            self::assertSame(World::RESTING, $w->state[$other]);
        }
    }

    /** Rolling on the level loses 5/7·μ_r·g (a moment μ_r·R·N on a solid ball, 2/5·m·R², that does not slip). */
    public function test_a_rolling_ball_is_slowed_by_its_resistance(): void
    {
        $w = new World;
        $w->pieceSize = 0.2;
        $w->groundFriction = 0.8;
        $hull = Hull::ball(0.1);
        $mass = 1000.0 * 4.0 / 3.0 * M_PI * 0.001;
        $i = 0.4 * $mass * 0.01;
        $ball = $w->addBody(World::STILL, new Vec3(0, 0.1, 0), Quaternion::identity(), $mass, [$i, $i, $i, 0, 0, 0], 1);
        $w->addCollider($ball, $hull, Vec3::zero(), 0.8, 0.0, 1);
        $w->release($ball, new Vec3(2, 0, 0), new Vec3(0, 0, -20));
        $w->rolling[1] = 0.1;
        self::play($w, 24);
        // Value by form; a ball of a hull rolls on its corners, so within a tenth.
        $lost = 5.0 / 7.0 * 0.1 * 9.80665;
        self::assertEqualsWithDelta(2.0 - $lost, $w->vx[$ball], 0.1 * $lost);
        self::play($w, 120);
        self::assertSame(World::RESTING, $w->state[$ball], 'and it stops');
    }

    /** What gravity does is not held back; what a hit does is. */
    public function test_a_limit_holds_back_hits_and_never_forces(): void
    {
        $w = new World;
        $w->pieceSize = 0.2;
        $box = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0, 20, 0), velocity: Vec3::zero());
        $w->limits[$w->groupOf($box)] = 1.0;
        self::play($w, 24);
        self::assertEqualsWithDelta(-9.80665, $w->vy[$box], 1e-6);
        self::assertSame([], $w->limited);

        $w = self::weightless();
        $w->limits[1] = 1.0;
        $light = self::box($w, Vec3::zero(), 1, Vec3::zero());
        $heavy = self::box($w, new Vec3(-0.5, 0, 0), 2, new Vec3(5, 0, 0));
        self::play($w, 1);
        self::play($w, 3);
        self::assertLessThanOrEqual(1.0 + 1e-9, sqrt($w->vx[$light] ** 2 + $w->vy[$light] ** 2 + $w->vz[$light] ** 2));
        self::assertArrayHasKey($light, $w->limited);
        self::assertArrayNotHasKey($heavy, $w->limited);
    }

    public function test_what_lay_on_what_has_gone_falls(): void
    {
        $w = new World;
        $w->pieceSize = 0.2;
        $low = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0, 0.1, 0));
        $high = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0, 0.3, 0));
        self::play($w, 36);
        self::assertSame(World::RESTING, $w->state[$high]);
        $w->dismiss($low);
        self::play($w, 24);
        self::assertEqualsWithDelta(0.1, $w->py[$high], 2e-3);
    }

    public function test_a_body_rests_by_its_own_measures(): void
    {
        $at = static function (float $after): int {
            $w = new World;
            $w->pieceSize = 0.2;
            $box = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0, 0.1, 0));
            $w->restsBy($box, $after, 0.015);
            for ($f = 0; $w->state[$box] !== World::RESTING && $f < 100; $f++) {
                $w->step(1 / 24, 2, 6);
            }

            return $f;
        };
        self::assertEqualsWithDelta(0.25 * 24, $at(0.25), 1.0);
        self::assertEqualsWithDelta(48, $at(2.0), 1.0);
    }

    /** The largest have all of it, the smallest the share, one between by the ratio of volumes in steps of like size. */
    public function test_a_property_goes_by_size(): void
    {
        self::assertEqualsWithDelta([1.0, 0.5, 0.25], Debris::bySize([1.0, 1e-3, 1e-6], 0.25), 1e-12);
        self::assertSame([1.0, 1.0], Debris::bySize([2.0, 2.0], 0.25));
        self::assertEqualsWithDelta([1.0, 0.5, 0.0], Debris::bySize([1.0, 1e-3, 1e-6], 0.0), 1e-12);
    }

    private static function weightless(): World
    {
        $w = new World;
        $w->pieceSize = 0.2;
        $w->ground = null;
        $w->gravity = Vec3::zero();

        return $w;
    }

    private static function box(World $w, Vec3 $at, int $group, ?Vec3 $velocity = null, int $state = World::MOVING): int
    {
        $hull = Hull::around(...Solids::corners(0.2, 0.2, 0.2));
        $i = 8.0 * 0.04 / 6.0;
        $body = $w->addBody(World::STILL, $at, Quaternion::identity(), 8.0, [$i, $i, $i, 0.0, 0.0, 0.0], $group);
        $w->addCollider($body, $hull, Vec3::zero(), 0.5, 0.0, $group);
        if ($state === World::MOVING) {
            $w->release($body, $velocity ?? Vec3::zero(), Vec3::zero());
        }

        return $body;
    }

    private static function play(World $w, int $frames): void
    {
        for ($f = 0; $f < $frames; $f++) {
            $w->step(1 / 24, 2, 6);
        }
    }
}
