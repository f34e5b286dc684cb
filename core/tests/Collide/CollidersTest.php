<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Collide;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\Colliders;
use YardBreak\Core\Collide\FlatGround;
use YardBreak\Core\Collide\NearestSurfaces;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Tests\Solids;

/** Colliders against distances that can be written down (box, ring, ball, plane: elementary geometry), and against each other. */
final class CollidersTest extends TestCase
{
    /** Of a box the distance is that of its three slabs. */
    public function test_the_nearest_of_many_turned_boxes_is_found_with_its_side_and_normal(): void
    {
        $random = new SeededRandom(4);
        $poses = [];
        for ($k = 0; $k < 40; $k++) {
            $poses[] = [
                new Vec3($random->between(-2, 2), $random->between(-2, 2), $random->between(-2, 2)),
                Quaternion::aboutAxis(new Vec3($random->between(-1, 1), 1, $random->between(-1, 1)), $random->between(0, 6)),
                $random->between(0.5, 1.5),
            ];
        }
        $half = [0.25, 0.15, 0.1];
        $colliders = self::of(self::box(0.5, 0.3, 0.2), $poses);
        [$x, $y, $z] = self::strewn($random, 400, 2.4);
        $within = 0.4;
        $found = $colliders->nearest($x, $y, $z, $within);
        $some = 0;
        foreach ($x as $i => $_) {
            $want = INF;
            foreach ($poses as $p => [$at, $turn, $size]) {
                $own = $turn->inverse()->turn((new Vec3($x[$i], $y[$i], $z[$i]))->minus($at));
                $off = [abs($own->x) - $size * $half[0], abs($own->y) - $size * $half[1], abs($own->z) - $size * $half[2]];
                $d = max($off) < 0.0 ? max($off) : sqrt(array_sum(array_map(static fn (float $o): float => max(0.0, $o) ** 2, $off)));
                if ($d < $want) {
                    [$want, $piece] = [$d, $p];
                }
            }
            if ($want > $within) {
                self::assertSame([INF, NearestSurfaces::NOTHING], [$found->distance[$i], $found->prop[$i]], "point $i");

                continue;
            }
            $some++;
            self::assertEqualsWithDelta($want, $found->distance[$i], 1e-9, "point $i");
            self::assertSame([7, $piece ?? -1], [$found->prop[$i], $found->piece[$i]]);
            // One step back along the normal lies on the surface.
            $foot = $colliders->nearest([$x[$i] - $want * $found->nx[$i]], [$y[$i] - $want * $found->ny[$i]], [$z[$i] - $want * $found->nz[$i]], $within);
            self::assertLessThan(1e-9, abs(min(0.0, $foot->distance[0] + 1e-12)) + max(0.0, $foot->distance[0]));
            self::assertEqualsWithDelta(1.0, (new Vec3($found->nx[$i], $found->ny[$i], $found->nz[$i]))->length(), 1e-6);
        }
        self::assertGreaterThan(60, $some);
    }

    /** A ring of 48,000 faces: the hole is outside, however its hull lies; far points are turned away by its grid. */
    public function test_a_hole_is_a_hole_and_what_is_deep_inside_is_inside(): void
    {
        $ring = ShapeCatalogue::mesh('ring', ['segments' => 240, 'rows' => 100]);
        $low = min($ring->y);
        $high = max($ring->y);
        $width = 0.5 * ($high - $low);
        $middle = max($ring->x) - $width;
        $turn = Quaternion::aboutAxis(new Vec3(1, 0.3, 0), 0.7);
        $at = new Vec3(3, 1, -2);
        $colliders = self::of($ring, [[$at, $turn, 1.0]]);
        $random = new SeededRandom(9);
        $x = $y = $z = $want = [];
        for ($k = 0; $k < 3000; $k++) {
            $own = new Vec3($random->between(-0.8, 0.8), $random->between($low - 0.2, $high + 0.2), $random->between(-0.8, 0.8));
            $p = $turn->turn($own)->plus($at);
            [$x[], $y[], $z[]] = $p->toArray();
            $want[] = hypot(hypot($own->x, $own->z) - $middle, $own->y - 0.5 * ($low + $high)) - $width;
        }
        $found = $colliders->nearest($x, $y, $z, 0.05);
        $inside = 0;
        foreach ($want as $i => $d) {
            $inside += $d < -0.01 ? 1 : 0;
            if ($d > 0.052) {
                self::assertSame(INF, $found->distance[$i], "point $i");
            } elseif ($d < 0.048) {
                // The mesh lies within its ring by the sagitta of its facets.
                self::assertEqualsWithDelta($d, $found->distance[$i], 4e-4, "point $i");
            }
        }
        self::assertGreaterThan(100, $inside);
    }

    /** An open sheet is met from either side: from the one a point is on, or came from. */
    public function test_what_is_open_has_two_sides(): void
    {
        $all = new Colliders(null);
        $all->add(0, 0, new Mesh([-1.0, 1.0, 1.0, -1.0], [-1.0, -1.0, 1.0, 1.0], [0.0, 0.0, 0.0, 0.0], [0, 1, 2, 0, 2, 3]));
        $all->moveTo([[Vec3::zero(), Quaternion::identity(), 1.0]], [[Vec3::zero(), Vec3::zero(), 0.0]], [0 => [0.5, 0.0]]);
        $found = $all->nearest([0.1, 0.1, 0.1], [0.2, 0.2, 0.2], [0.03, -0.03, -0.2], 0.1);
        self::assertEqualsWithDelta([0.03, 0.03, INF], $found->distance, 1e-12);
        self::assertEqualsWithDelta([1.0, -1.0, 0.0], $found->nz, 1e-12);
        // Two that have gone 5 cm towards it and are through, and one that has gone along it.
        $found = $all->nearest([0.1, 0.1, 0.1], [0.2, 0.2, 0.2], [0.02, -0.02, -0.02], 0.1, [[0.0, 0.0, 0.05], [0.0, 0.0, 0.0], [0.05, -0.05, 0.0]]);
        self::assertEqualsWithDelta([-0.02, -0.02, 0.02], $found->distance, 1e-12);
        self::assertEqualsWithDelta([-1.0, 1.0, -1.0], $found->nz, 1e-12);
    }

    public function test_the_ground_is_a_collider_like_others(): void
    {
        $colliders = self::of(self::box(1, 1, 1), [[new Vec3(0, 0.5, 0), Quaternion::identity(), 1.0]], new FlatGround);
        $found = $colliders->nearest([0.0, 0.0, 3.0, 3.0, 0.9], [1.2, 0.4, 0.3, -0.2, 0.1], [0.0, 0.0, 0.0, 0.0, 0.0], 0.5);
        self::assertEqualsWithDelta([0.2, -0.4, 0.3, -0.2, 0.1], $found->distance, 1e-9);
        self::assertSame([7, 7, NearestSurfaces::GROUND, NearestSurfaces::GROUND, NearestSurfaces::GROUND], $found->prop);
        self::assertSame([0.3, 0.05], $colliders->surface(NearestSurfaces::GROUND));
        self::assertSame([0.6, 0.2], $colliders->surface(7));
    }

    public function test_a_surface_moves_as_its_piece_does_there(): void
    {
        // Sliding 1 m/s, turning 2 rad/s at 0.5 m, growing by 0.4 a second at 0.5 m.
        $colliders = new Colliders(null);
        $colliders->add(7, 0, self::box(1, 1, 1));
        $colliders->moveTo([[Vec3::zero(), Quaternion::identity(), 1.0]], [[new Vec3(1, 0, 0), new Vec3(0, 0, 2), 0.4]], []);
        $ask = [[0.0, 9.0], [0.8, 9.0], [0.0, 9.0]];
        $found = $colliders->nearest(...[...$ask, 1.0]);
        self::assertEqualsWithDelta([[0.0, 0.0], [0.2, 0.0], [0.0, 0.0]], $colliders->velocities(...[...$ask, $found]), 1e-9);
    }

    /** v + ω × r + growth r, r from its middle to the place on its surface, whichever way it turns. */
    public function test_a_surface_moves_by_the_place_off_its_middle(): void
    {
        $middle = new Vec3(0.7, -1.1, 0.4);
        [$slide, $spin, $growth] = [new Vec3(0.3, -0.2, 0.5), new Vec3(1.5, -2.0, 0.8), 0.25];
        $colliders = self::of(self::box(1, 0.8, 0.6), [[$middle, Quaternion::identity(), 1.0]], null, [[$slide, $spin, $growth]]);
        foreach ([
            [new Vec3(0.5, 0.1, 0.2), new Vec3(1, 0, 0)],
            [new Vec3(0.2, -0.4, 0.1), new Vec3(0, -1, 0)],
            [new Vec3(-0.3, 0.2, 0.3), new Vec3(0, 0, 1)],
        ] as [$r, $out]) {
            $p = $middle->plus($r)->plus($out->times(0.05));
            $ask = [[$p->x], [$p->y], [$p->z]];
            $expected = $slide->plus($spin->cross($r))->plus($r->times($growth));
            self::assertEqualsWithDelta(
                [[$expected->x], [$expected->y], [$expected->z]],
                $colliders->velocities(...[...$ask, $colliders->nearest(...[...$ask, 0.2])]),
                1e-6,
            );
        }
    }

    /** A plate 2 mm thin, met at 50 m/s within a frame: where the point meets it follows from the two speeds. */
    public function test_what_is_fast_does_not_pass_through_what_is_thin_and_moves(): void
    {
        $plate = self::box(2, 2, 0.002);
        $colliders = new Colliders(new FlatGround);
        $colliders->add(7, 0, $plate);
        $colliders->moveTo([[new Vec3(0, 2, 0), Quaternion::identity(), 1.0]], [[new Vec3(0, 0, -6), Vec3::zero(), 0.0]], []);
        $seconds = 1 / 24;
        $way = 50.0 * $seconds;
        $hits = $colliders->sweep(
            [[0.3, 0.3, 5.0, 0.0], [2.0, 2.0, 2.0, 1.0], [-1.0, -1.0, -1.0, 3.0]],
            [[0.3, 0.3, 5.0, 0.0], [2.0, 2.0, 2.0, -1.0], [-1.0 + $way, -1.001, -1.0 + $way, 3.0]],
            $seconds,
        );
        // From z = −1 at 50 m/s towards a face at −0.001 that comes with 6 m/s.
        self::assertEqualsWithDelta(0.999 / (56.0 * $seconds), $hits->share[0], 1e-5);
        self::assertEqualsWithDelta([0.0, 0.0, -1.0], [$hits->nx[0], $hits->ny[0], $hits->nz[0]], 1e-6);
        self::assertSame([INF, INF], [$hits->share[1], $hits->share[2]], 'one that goes away, and one that goes by');
        self::assertEqualsWithDelta(0.5, $hits->share[3], 1e-5);
        self::assertSame([7, NearestSurfaces::NOTHING, NearestSurfaces::NOTHING, NearestSurfaces::GROUND], $hits->prop);
    }

    public function test_many_that_sweep_past_many_meet_what_each_alone_meets(): void
    {
        $random = new SeededRandom(12);
        $poses = $motions = [];
        for ($k = 0; $k < 30; $k++) {
            $poses[] = [
                new Vec3($random->between(-2, 2), $random->between(-2, 2), $random->between(-2, 2)),
                Quaternion::aboutAxis(new Vec3(1, $random->between(-1, 1), 1), $random->between(0, 6)),
                1.0,
            ];
            $motions[] = [new Vec3($random->between(-3, 3), 0, 1), new Vec3(0, $random->between(-4, 4), 0), 0.0];
        }
        $all = self::of(self::box(0.4, 0.3, 0.2), $poses, null, $motions);
        $from = self::strewn($random, 80, 2.5);
        $to = self::strewn($random, 80, 2.5);
        $hits = $all->sweep($from, $to, 0.05);
        $met = 0;
        foreach ($hits->share as $i => $share) {
            $least = INF;
            foreach ($poses as $p => $pose) {
                $one = self::of(self::box(0.4, 0.3, 0.2), [$pose], null, [$motions[$p]])->sweep(
                    [[$from[0][$i]], [$from[1][$i]], [$from[2][$i]]],
                    [[$to[0][$i]], [$to[1][$i]], [$to[2][$i]]],
                    0.05,
                )->share[0];
                $least = min($least, $one);
            }
            $met += $least < INF ? 1 : 0;
            self::assertEqualsWithDelta($least === INF ? 9.0 : $least, $share === INF ? 9.0 : $share, 1e-9, "point $i");
        }
        self::assertGreaterThan(8, $met);
        self::assertLessThan(80, $met);
    }

    private static function box(float $a, float $b, float $c): Mesh
    {
        [$x, $y, $z] = [$a, $b, $c];

        return Solids::shape('box', ['width' => $x, 'height' => $y, 'depth' => $z])->movedBy(new Vec3(0, -0.5 * $y, 0));
    }

    /**
     * @param  list<array{Vec3, Quaternion, float}>  $poses
     * @param  list<array{Vec3, Vec3, float}>|null  $motions
     */
    private static function of(Mesh $mesh, array $poses, ?FlatGround $ground = null, ?array $motions = null): Colliders
    {
        $colliders = new Colliders($ground);
        foreach ($poses as $k => $_) {
            $colliders->add(7, $k, $mesh);
        }
        $colliders->moveTo(
            $poses,
            $motions ?? array_fill(0, count($poses), [Vec3::zero(), Vec3::zero(), 0.0]),
            [7 => [0.6, 0.2], NearestSurfaces::GROUND => [0.3, 0.05]],
        );

        return $colliders;
    }

    /** @return array{list<float>, list<float>, list<float>} */
    private static function strewn(SeededRandom $random, int $n, float $half): array
    {
        $x = $y = $z = [];
        for ($k = 0; $k < $n; $k++) {
            $x[] = $random->between(-$half, $half);
            $y[] = $random->between(-$half, $half);
            $z[] = $random->between(-$half, $half);
        }

        return [$x, $y, $z];
    }
}
