<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\ConvexDistance;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

/** Against a general-purpose physics library, npm `@dimforge/rapier3d-compat`: invariants, not trajectories. */
final class PilesTest extends TestCase
{
    public function test_a_dropped_block_settles_into_a_like_pile_and_overlaps_no_more(): void
    {
        $shards = (new Cells(120, 4))->break(Solids::shape('box'), new SilentProgress);
        $w = new World;
        $w->groundBounce = 0.1;
        $scene = [
            'hulls' => [],
            'poses' => [],
            'ours' => [],
            'density' => 2000.0,
            'frames' => 120,
            'searches' => 2,
            'steps' => 6,
            'friction' => 0.5,
            'bounce' => 0.1,
        ];
        $hulls = [];
        foreach ($shards as $s) {
            $c = $s->mass->centroid;
            $at = $c->plus(new Vec3(0, 1, 0));
            $m = $s->mesh->movedBy($c->times(-1.0));
            $hulls[] = $hull = Hull::around($m->x, $m->y, $m->z);
            $b = $w->addBody(
                World::STILL,
                $at,
                Quaternion::identity(),
                $s->mass->volume * 2000,
                array_map(static fn (float $v): float => $v * 2000, $s->mass->inertia),
            );
            $w->addCollider($b, $hull, Vec3::zero(), 0.5, 0.1, 1);
            $w->release($b, Vec3::zero(), Vec3::zero());
            $scene['hulls'][] = self::flat($hull->x, $hull->y, $hull->z);
            $scene['poses'][] = $at->toArray();
        }
        $w->measure($hulls);
        $w->forgiveOverlaps();
        for ($f = 0; $f < 120; $f++) {
            $w->step(1 / 24, 2, 6);
        }
        foreach ($w->state as $b => $_) {
            $scene['ours'][] = [$w->px[$b], $w->py[$b], $w->pz[$b], $w->qx[$b], $w->qy[$b], $w->qz[$b], $w->qw[$b]];
        }
        file_put_contents($file = (string) tempnam(sys_get_temp_dir(), 'pile'), json_encode($scene));
        $got = OutsideTools::node('drop.mjs', $file);
        unlink($file);
        // Two engines give two heaps; heaps of the same stones are of like height and width. Theirs is driven apart a little by
        // what rounding makes the stones of the whole block overlap, which ours forgive.
        self::assertEqualsWithDelta(1.0, $got['ours']['height'] / $got['theirs']['height'], 0.3);
        self::assertEqualsWithDelta(1.0, $got['ours']['spread'] / $got['theirs']['spread'], 0.25);
        self::assertLessThan(0.02 * $w->pieceSize, $got['ours']['p95']);
        $resting = count(array_filter($w->state, static fn (int $s): bool => $s === World::RESTING));
        self::assertGreaterThanOrEqual(0.95, $resting / 120);
    }

    /** Distances between hulls, apart and overlapping, are the library's but for the rounding of corners. */
    public function test_distances_between_hulls_are_the_librarys(): void
    {
        $shards = (new Cells(40, 7))->break(Solids::shape('box'), new SilentProgress);
        $random = new SeededRandom(3);
        $cases = $ours = [];
        for ($i = 0; $i < 150; $i++) {
            $w = new World;
            $case = [];
            foreach ([0, 1] as $k) {
                $s = $shards[(int) ($random->share() * count($shards))];
                $m = $s->mesh->movedBy($s->mass->centroid->times(-1.0));
                $hull = Hull::around($m->x, $m->y, $m->z);
                $turn = (new Quaternion($random->between(-1, 1), $random->between(-1, 1), $random->between(-1, 1), $random->between(-1, 1)))->unit();
                $at = new Vec3(0.1 * $k + $random->between(-0.12, 0.12), 0.25 * $k + $random->between(-0.12, 0.12), $random->between(-0.12, 0.12));
                $b = $w->addBody(World::MOVING, $at, $turn, 1.0, [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]);
                $w->addCollider($b, $hull, Vec3::zero(), 0.5, 0.0, $k);
                $case[] = ['hull' => self::flat($hull->x, $hull->y, $hull->z), 'pose' => [...$at->toArray(), ...$turn->toArray()]];
            }
            $w->colliders->follow($w);
            $d = new ConvexDistance;
            $d->colliderA = 0;
            $d->colliderB = 1;
            $d->turnA = Mesh::matrix(new Quaternion($w->qx[0], $w->qy[0], $w->qz[0], $w->qw[0]));
            $d->turnB = Mesh::matrix(new Quaternion($w->qx[1], $w->qy[1], $w->qz[1], $w->qw[1]));
            $d->between($w->colliders, [0, $w->colliders->first[1]], 5.0);
            $cases[] = $case;
            $ours[] = [$d->gap - $w->colliders->margin[0] - $w->colliders->margin[1], $w->colliders->margin[0] + $w->colliders->margin[1]];
        }
        file_put_contents($file = (string) tempnam(sys_get_temp_dir(), 'hulls'), json_encode($cases));
        $theirs = OutsideTools::node('distance.mjs', $file);
        unlink($file);
        $close = 0;
        foreach ($ours as $i => [$gap, $margins]) {
            // A rounded corner can lie short of the true one by a few margins, never beyond it by more.
            self::assertEqualsWithDelta($theirs[$i], $gap, 3.0 * $margins, "pair $i");
            $close += abs($theirs[$i] - $gap) < 0.25 * $margins ? 1 : 0;
        }
        self::assertGreaterThan(0.5 * count($ours), $close);
        self::assertGreaterThan(20, count(array_filter($theirs, static fn (float $d): bool => $d > 0)));
        self::assertGreaterThan(20, count(array_filter($theirs, static fn (float $d): bool => $d < 0)));
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<float>
     */
    private static function flat(array $x, array $y, array $z): array
    {
        return array_merge(...array_map(null, $x, $y, $z));
    }
}
