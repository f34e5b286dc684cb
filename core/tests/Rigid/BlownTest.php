<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Force\Effect;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\Blown;
use YardBreak\Core\Rigid\Sail;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Tests\Solids;

final class BlownTest extends TestCase
{
    /** Space has no preferred direction: gravity, wind, pull and body all turned alike give the same motion, turned. */
    public function test_everything_turned_goes_the_same_way_turned(): void
    {
        $plain = self::flight(Quaternion::identity());
        self::assertGreaterThan(0.05, $plain[0]->length());
        self::assertGreaterThan(0.2, $plain[2]->length());
        foreach ([[1, 0, 0], [0.2, -1, 0.5], [-0.3, 0.4, 2]] as $k => $axis) {
            $turn = Quaternion::aboutAxis(Vec3::of(array_map(floatval(...), $axis)), 1.1 + $k);
            foreach (self::flight($turn) as $i => $value) {
                self::assertEqualsWithDelta($turn->turn($plain[$i])->toArray(), $value->toArray(), 1e-6);
            }
        }
    }

    /** A moment in air gives I·dω = M·dt at first: a box off its centre, blown along y, by form; a tumbling one loses spin about all three axes. */
    public function test_what_is_blown_off_its_centre_begins_to_turn_as_its_inertia_lets_it(): void
    {
        $w = new World;
        $w->gravity = Vec3::zero();
        $body = $w->addBody(World::STILL, Vec3::zero(), Quaternion::identity(), 2.0, [0.4, 0.5, 0.8, 0.0, 0.0, 0.0]);
        $w->release($body, Vec3::zero(), Vec3::zero());
        $sail = Sail::of([[Hull::around(...Solids::corners(0.1, 0.3, 0.5)), new Vec3(0.4, 0.0, 0.1)]]);
        $effect = new Effect([0.0], [0.0], [0.0]);
        $effect->uy = [2.0];
        $effect->density = [1.2];
        (new Blown)->by($w, $effect, [$body], [$sail], [1.0], 1.0, [0.5], [1e6], 1e-4);
        $force = 0.5 * 1.2 * 0.05 * 4.0;
        self::assertEqualsWithDelta(0.4 * $force * 1e-4 / 0.8, $w->wz[$body], 1e-9);
        self::assertEqualsWithDelta(-0.1 * $force * 1e-4 / 0.4, $w->wx[$body], 1e-9);
        self::assertEqualsWithDelta(0.0, $w->wy[$body], 1e-12);
        self::assertEqualsWithDelta($force / 2.0, $w->accelerations()[$body]->y, 1e-4);
        $spinning = new Effect([0.0], [0.0], [0.0]);
        $spinning->slowing = [3.0];
        [$w->wx[$body], $w->wy[$body], $w->wz[$body]] = [1.0, -2.0, 4.0];
        (new Blown)->by($w, $spinning, [$body], [$sail], [1.0], 1.0, [0.5], [1e6], 0.1);
        self::assertEqualsWithDelta([exp(-0.3), -2.0 * exp(-0.3), 4.0 * exp(-0.3)], [$w->wx[$body], $w->wy[$body], $w->wz[$body]], 1e-12);
    }

    public function test_what_rests_stays_at_rest_where_it_withstood_a_push_before(): void
    {
        $w = new World;
        $body = $w->addBody(World::RESTING, Vec3::zero(), Quaternion::identity(), 2.0, [0.4, 0.5, 0.8, 0.0, 0.0, 0.0]);
        $sail = Sail::of([[Hull::around(...Solids::corners(0.1, 0.3, 0.5)), Vec3::zero()]]);
        $blown = new Blown;
        $state = static function (array $pull, float $friction = 0.5) use ($w, $body, $sail, $blown): int {
            $effect = new Effect([0.0], [0.0], [0.0]);
            [$effect->ax, $effect->ay, $effect->az] = array_map(static fn (float $a): array => [$a], $pull);
            $blown->by($w, $effect, [$body], [$sail], [1.0], 1.0, [$friction], [1000.0], 0.02);

            return $w->state[$body];
        };
        // Friction holds up to μ(g − lift), weight up to g.
        self::assertSame(World::RESTING, $state([0.0, 0.0, 4.8]));
        self::assertSame(World::RESTING, $state([0.0, 9.7, 0.0]));
        self::assertSame(World::RESTING, $state([-2.4, 4.9, 0.0]));
        self::assertSame(World::MOVING, $state([-2.5, 4.9, 0.0]));
        $w->state[$body] = World::RESTING;
        self::assertSame(World::RESTING, $state([-2.5, 4.9, 0.1]), 'much the same push: it came to rest under it');
        self::assertSame(World::MOVING, $state([-2.5, 4.9, 1.0]));
        $w->state[$body] = World::RESTING;
        self::assertSame(World::MOVING, $state([0.0, 9.9, 0.0]));
    }

    /** @return array{Vec3, Vec3, Vec3} where it is after half a second, m/s, rad/s */
    private static function flight(Quaternion $turn): array
    {
        $w = new World;
        $w->ground = null;
        $w->gravity = $turn->turn(new Vec3(0.4, -9.0, 1.1));
        $body = $w->addBody(World::STILL, Vec3::zero(), $turn->after(Quaternion::aboutAxis(new Vec3(1, 2, 0.5), 0.7)), 0.8, [0.02, 0.012, 0.017, 0.001, -0.002, 0.0015]);
        $w->addCollider($body, Hull::around(...Solids::corners(0.3, 0.05, 0.2)), new Vec3(0.02, 0.01, -0.01), 0.5, 0.1, 1);
        $w->release($body, $turn->turn(new Vec3(1.0, 0.5, -2.0)), $turn->turn(new Vec3(2.0, -3.0, 1.0)));
        $sail = Sail::of([[Hull::around(...Solids::corners(0.3, 0.05, 0.2)), new Vec3(0.02, 0.01, -0.01)]]);
        $blown = new Blown;
        for ($k = 0; $k < 24; $k++) {
            $effect = new Effect([0.0], [0.0], [0.0]);
            $air = $turn->turn(new Vec3(6.0, 1.0, -3.0));
            $pull = $turn->turn(new Vec3(0.5, 1.5, 2.5));
            [$effect->ux, $effect->uy, $effect->uz] = [[$air->x], [$air->y], [$air->z]];
            [$effect->ax, $effect->ay, $effect->az] = [[$pull->x], [$pull->y], [$pull->z]];
            $effect->slowing = [0.4];
            $effect->density = [40.0];
            if ($k === 5) {
                $effect->strike(0, $turn->turn(new Vec3(1.0, 2.0, 3.0)));
            }
            $blown->by($w, $effect, [$body], [$sail], [1.2], 0.9, [0.5], [300.0], 1 / 48);
            $w->findContacts(1 / 48);
            $w->advance(1 / 48, 3);
        }

        return [new Vec3($w->px[$body], $w->py[$body], $w->pz[$body]), new Vec3($w->vx[$body], $w->vy[$body], $w->vz[$body]), new Vec3($w->wx[$body], $w->wy[$body], $w->wz[$body])];
    }
}
