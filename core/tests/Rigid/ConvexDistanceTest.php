<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\ConvexDistance;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Solids;

final class ConvexDistanceTest extends TestCase
{
    /** @return array<string, array{Vec3, float, Vec3}> where the second cube stands, the gap between the faces, the normal */
    public static function cubes(): array
    {
        return [
            'apart along x' => [new Vec3(1.5, 0.2, 0.1), 0.5, new Vec3(1, 0, 0)],
            'touching below' => [new Vec3(0.1, -1.0, 0.0), 0.0, new Vec3(0, -1, 0)],
            'sunk in a little' => [new Vec3(0.0, 0.1, 0.97), -0.03, new Vec3(0, 0, 1)],
            'sunk in deep' => [new Vec3(-0.7, 0.05, 0.02), -0.3, new Vec3(-1, 0, 0)],
        ];
    }

    /** Two cubes of one metre, faces parallel: the gap is the distance of the middles along the axis less one. */
    #[DataProvider('cubes')]
    public function test_parallel_cubes_have_the_gap_between_their_faces(Vec3 $at, float $gap, Vec3 $normal): void
    {
        $w = self::cubesAt($at, Quaternion::identity());
        $d = self::measured($w, 10.0);
        self::assertEqualsWithDelta($gap, $d->gap - 2.0 * $w->colliders->margin[0], 1e-4);
        self::assertGreaterThan(0.999, $d->nx * $normal->x + $d->ny * $normal->y + $d->nz * $normal->z);
    }

    /** An edge over a face: a cube turned by 45° about z reaches √2/2 down from its middle. */
    public function test_an_edge_over_a_face(): void
    {
        $w = self::cubesAt(new Vec3(0.0, 1.5, 0.0), Quaternion::aboutAxis(new Vec3(0, 0, 1), M_PI / 4));
        $margin = $w->colliders->margin[1];
        // Rounding takes (√2 − 1) margins off a right-angled edge.
        self::assertEqualsWithDelta(1.5 - 0.5 - sqrt(0.5) + (M_SQRT2 - 1.0) * $margin, self::measured($w, 10.0)->gap - 2.0 * $margin, 1e-3);
    }

    /** Where it says less than asked for, it is the truth; where it stops early, what it says is no more than the truth. */
    public function test_an_early_stop_never_says_too_much(): void
    {
        $random = new SeededRandom(11);
        for ($i = 0; $i < 200; $i++) {
            $turn = (new Quaternion($random->between(-1, 1), $random->between(-1, 1), $random->between(-1, 1), $random->between(-1, 1)))->unit();
            $w = self::cubesAt(new Vec3($random->between(1.0, 3.0), $random->between(-2, 2), $random->between(-2, 2)), $turn);
            $true = self::measured($w, 100.0)->gap;
            $enough = $random->between(0.01, 1.5);
            $told = self::measured($w, $enough)->gap;
            self::assertLessThanOrEqual($true + 1e-6, $told);
            self::assertTrue($told > $enough || abs($told - $true) < 1e-6, "$told of $true, asked up to $enough");
        }
    }

    /** The least overlap over all face normals and pairs of edges (Gottschalk, Lin & Manocha 1996), by brute force. */
    public function test_overlaps_are_the_least_over_all_separating_axes(): void
    {
        $random = new SeededRandom(5);
        $deep = 0;
        for ($i = 0; $i < 120; $i++) {
            $turn = (new Quaternion($random->between(-1, 1), $random->between(-1, 1), $random->between(-1, 1), $random->between(-1, 1)))->unit();
            $w = self::cubesAt(new Vec3($random->between(-0.9, 0.9), $random->between(-0.9, 0.9), $random->between(-0.9, 0.9)), $turn);
            $least = self::leastOverlap($w->colliders->cx, $w->colliders->cy, $w->colliders->cz, $turn);
            $gap = self::measured($w, 10.0)->gap;
            if ($least > 0.0) {
                self::assertEqualsWithDelta($least, -$gap, 2e-3);
                $deep++;
            } else {
                self::assertGreaterThan(-1e-6, $gap);
            }
        }
        self::assertGreaterThan(40, $deep, 'most of them overlap');
    }

    private static function cubesAt(Vec3 $at, Quaternion $turn): World
    {
        $w = new World;
        [$x, $y, $z] = Solids::corners(1.0, 1.0, 1.0);
        foreach ([[Vec3::zero(), Quaternion::identity()], [$at, $turn]] as $k => [$position, $q]) {
            $b = $w->addBody(World::MOVING, $position, $q, 1.0, [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]);
            $w->addCollider($b, Hull::around($x, $y, $z), Vec3::zero(), 0.5, 0.0, $k);
        }
        $w->colliders->follow($w);

        return $w;
    }

    private static function measured(World $w, float $enough): ConvexDistance
    {
        $d = new ConvexDistance;
        $d->colliderA = 0;
        $d->colliderB = 1;
        $d->turnA = Mesh::matrix(new Quaternion($w->qx[0], $w->qy[0], $w->qz[0], $w->qw[0]));
        $d->turnB = Mesh::matrix(new Quaternion($w->qx[1], $w->qy[1], $w->qz[1], $w->qw[1]));
        $d->between($w->colliders, [0, $w->colliders->first[1]], $enough);

        return $d;
    }

    /**
     * @param  list<float>  $x  corners of both cores, eight each
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    private static function leastOverlap(array $x, array $y, array $z, Quaternion $turn): float
    {
        $own = [new Vec3(1, 0, 0), new Vec3(0, 1, 0), new Vec3(0, 0, 1)];
        $other = array_map(static fn (Vec3 $v): Vec3 => $turn->turn($v), $own);
        $axes = [...$own, ...$other];
        foreach ($own as $a) {
            foreach ($other as $b) {
                $n = $a->cross($b);
                if ($n->length() > 1e-6) {
                    $axes[] = $n->unit();
                }
            }
        }
        $least = INF;
        foreach ($axes as $n) {
            $reach = [[INF, -INF], [INF, -INF]];
            foreach ($x as $i => $v) {
                $s = $n->x * $v + $n->y * $y[$i] + $n->z * $z[$i];
                $k = intdiv($i, 8);
                $reach[$k] = [min($reach[$k][0], $s), max($reach[$k][1], $s)];
            }
            $least = min($least, $reach[0][1] - $reach[1][0], $reach[1][1] - $reach[0][0]);
        }

        return $least;
    }
}
