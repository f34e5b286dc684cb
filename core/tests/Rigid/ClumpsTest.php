<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\ClumpPlan;
use YardBreak\Core\Rigid\Clumps;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Shape\Box;

/** A rod of seven cubes of 0.1 m along x, of density 1000; mechanics of rigid bodies in closed form. */
final class ClumpsTest extends TestCase
{
    private const N = 7;

    public function test_every_piece_is_in_one_clump_that_hangs_together(): void
    {
        // A sheet of 20 × 20.
        $ways = [];
        for ($k = 0; $k < 400; $k++) {
            if ($k % 20 < 19) {
                $ways[] = [$k, $k + 1, 1.0];
            }
            if ($k < 380) {
                $ways[] = [$k, $k + 20, 1.0];
            }
        }
        $all = range(0, 399);
        $clumps = ClumpPlan::of(400, $ways, 20, 5)->parts($all, true);
        self::assertEqualsCanonicalizing($all, array_merge(...$clumps));
        self::assertCount(20, $clumps);
        foreach ($clumps as $clump) {
            // By itself, without the others, it is still one.
            self::assertCount(1, ClumpPlan::of(400, $ways, 1, 5)->parts($clump, false));
        }
        self::assertEquals($clumps, ClumpPlan::of(400, $ways, 20, 5)->parts($all, true));
        self::assertNotEquals($clumps, ClumpPlan::of(400, $ways, 20, 6)->parts($all, true));
    }

    public function test_what_no_way_leads_to_is_a_clump_by_itself_and_all_are_one_where_ways_are_not_known(): void
    {
        self::assertSame([[0, 1], [2], [3, 4]], ClumpPlan::of(5, [[0, 1, 1.0], [3, 4, 1.0]], 5, 1)->parts([4, 3, 2, 1, 0], true));
        self::assertSame([[0, 2, 4]], ClumpPlan::of(5, null, 2, 1)->parts([4, 2, 0], true));
    }

    /** The middle of a turning rod is taken out: both ends fly off straight as fast as they went, and turn on. */
    public function test_ends_left_by_what_was_between_them_go_their_own_ways(): void
    {
        [$w, $clumps, $bodies] = self::rod(self::beside());
        $w->release($whole = count($w->state) - 1, new Vec3(0.3, 0.0, 0.0), new Vec3(0.0, 0.0, 2.0));
        self::assertSame([[3]], $clumps->part($w, [3], false));
        self::assertSame([[0, 1, 2], [4, 5, 6]], array_values($clumps->all()));
        for ($f = 0; $f < 12; $f++) {
            $w->step(1 / 24, 2, 6);
        }
        foreach ([[0, -0.2], [6, 0.2]] as [$piece, $x]) {
            $body = $clumps->carrierOf($piece);
            self::assertNotNull($body);
            // v = v₀ + ω × r, over half a second.
            self::assertEqualsWithDelta([$x + 0.15, 1.0 + $x, 0.0], [$w->px[$body], $w->py[$body], $w->pz[$body]], 1e-6);
            self::assertEqualsWithDelta(2.0, $w->wz[$body], 1e-6);
        }
        self::assertEqualsWithDelta([0.15, 1.0], [$w->px[$bodies[3]], $w->py[$bodies[3]]], 1e-6);
        self::assertArrayHasKey($whole, $clumps->all(), 'one of the ends goes on as the body of the whole');
    }

    public function test_momentum_and_energy_are_kept_as_it_comes_apart(): void
    {
        [$w, $clumps] = self::rod(self::beside(), clump: 2);
        $w->release(count($w->state) - 1, new Vec3(0.3, -1.0, 0.2), new Vec3(0.5, -1.0, 2.0));
        $before = self::momenta($w);
        $groups = $clumps->part($w, range(0, self::N - 1), true);
        self::assertGreaterThan(2, count($groups));
        self::assertEqualsWithDelta($before, self::momenta($w), 1e-9);
        self::assertTrue($clumps->knock($w, max($groups)[0]));
        self::assertEqualsWithDelta($before, self::momenta($w), 1e-9);
    }

    public function test_momentum_is_kept_as_pieces_that_were_held_go_as_one(): void
    {
        [$w, $clumps, $bodies] = self::rod(self::beside(), clump: 10, gathered: false);
        foreach ($bodies as $k => $body) {
            // As keys drive them: each with its own part of a turn about z.
            $w->state[$body] = World::KEYED;
            $w->vx[$body] = 0.7;
            $w->vy[$body] = 1.5 * ($k - 3) * 0.1;
            $w->wz[$body] = 1.5;
        }
        self::assertSame([range(0, self::N - 1)], $clumps->join($w, range(0, self::N - 1)));
        $body = $clumps->carrierOf(5);
        self::assertNotNull($body);
        self::assertEqualsWithDelta([0.7, 0.0, 1.5], [$w->vx[$body], $w->vy[$body], $w->wz[$body]], 1e-9);
        self::assertEqualsWithDelta([0.2, 1.0, 0.0], $clumps->placeOf($w, 5)->toArray(), 1e-12);
        // A rod of 0.7 × 0.1 × 0.1 m: m (l² + b²) / 12.
        self::assertEqualsWithDelta(7.0, $w->mass[$body], 1e-9);
        self::assertEqualsWithDelta(7.0 * (0.7 ** 2 + 0.1 ** 2) / 12.0, $w->inertia[$body][2], 1e-9);
    }

    public function test_who_moves_with_whom_is_taken_up_to_the_last_bit(): void
    {
        [$w, $clumps] = self::rod(self::beside(), clump: 3);
        $clumps->part($w, [0, 1, 2, 3, 4], true);
        $clumps->knock($w, 1);
        [$v, $again] = self::rod(self::beside(), clump: 3);
        $again->restore($v, $clumps->all());
        self::assertSame([$w->colliders->body, $w->colliders->lx], [$v->colliders->body, $v->colliders->lx]);
        $moving = array_keys($clumps->all());
        foreach ($moving as $body) {
            self::assertSame([$w->mass[$body], $w->inertia[$body], $w->size[$body]], [$v->mass[$body], $v->inertia[$body], $v->size[$body]]);
        }
        self::assertSame($clumps->all(), $again->all());
    }

    /** @return list<array{int, int, float}> */
    private static function beside(): array
    {
        return array_map(static fn (int $k): array => [$k, $k + 1, 0.1], range(0, self::N - 2));
    }

    /**
     * @param  list<array{int, int, float}>  $ways
     * @return array{World, Clumps, list<int>} with the bodies of its pieces
     */
    private static function rod(array $ways, int $clump = 1, bool $gathered = true): array
    {
        $cube = (new Box)->mesh(['width' => 0.1, 'height' => 0.1, 'depth' => 0.1, 'segments' => 1]);
        $shards = [];
        for ($k = 0; $k < self::N; $k++) {
            $mesh = $cube->movedBy(new Vec3(0.1 * ($k - 3), -(min($cube->y) + max($cube->y)) / 2, 0.0));
            $shards[] = new Shard("cube $k", $mesh, MassProperties::of($mesh));
        }
        $solids = Solid::free($shards);
        $w = new World;
        $w->ground = null;
        $w->gravity = Vec3::zero();
        $w->measure(array_merge(...array_map(static fn (Solid $s): array => $s->hulls, $solids)));
        $bodies = $colliders = [];
        foreach ($solids as $solid) {
            $bodies[] = $body = $w->addBody(
                World::STILL, $solid->centre->plus(new Vec3(0.0, 1.0, 0.0)), Quaternion::identity(), 1000.0 * $solid->mass->volume,
                array_map(static fn (float $v): float => 1000.0 * $v, $solid->mass->inertia),
            );
            $colliders[] = array_map(static fn (Hull $h): int => $w->addCollider($body, $h, Vec3::zero(), 0.5, 0.0, 0), $solid->hulls);
        }
        $clumps = new Clumps($solids, $bodies, $colliders, 1000.0, static fn (): ClumpPlan => ClumpPlan::of(self::N, $ways, $clump, 3));
        if ($gathered) {
            $clumps->gather($w, $w->addBody(World::STILL, new Vec3(0.0, 1.0, 0.0), Quaternion::identity(), 1.0, [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]));
        }

        return [$w, $clumps, $bodies];
    }

    /** @return list<float> momentum, angular momentum about the origin, and kinetic energy, of all that moves */
    private static function momenta(World $w): array
    {
        $p = $l = Vec3::zero();
        foreach ($w->state as $b => $state) {
            if ($state === World::MOVING) {
                $own = (new Vec3($w->vx[$b], $w->vy[$b], $w->vz[$b]))->times($w->mass[$b]);
                $p = $p->plus($own);
                $l = $l->plus($w->angularMomentum($b))->plus((new Vec3($w->px[$b], $w->py[$b], $w->pz[$b]))->cross($own));
            }
        }

        return [...$p->toArray(), ...$l->toArray(), $w->energy()];
    }
}
