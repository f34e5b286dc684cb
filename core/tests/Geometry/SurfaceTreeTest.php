<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\SurfaceTree;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Geometry\WindingNumber;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Tests\Solids;

/** Expected distances come from looking at every face, by the plane and the three sides of each. */
final class SurfaceTreeTest extends TestCase
{
    /** @return iterable<string, array{Mesh}> */
    public static function meshes(): iterable
    {
        foreach (Solids::closed() as $name => [$mesh]) {
            yield $name => [$mesh];
        }
        yield 'single points' => [new Mesh([0.0, 1.0, 1.0], [0.0, 0.0, 2.0], [0.0, 0.0, 0.5], [0, 0, 0, 1, 1, 1, 2, 2, 2])];
        yield 'a face of no area among others' => [new Mesh([0.0, 1.0, 2.0, 0.0], [0.0, 0.0, 0.0, 1.0], [0.0, 0.0, 0.0, 0.0], [0, 1, 2, 0, 1, 3])];
    }

    #[DataProvider('meshes')]
    public function test_the_nearest_place_is_that_of_a_look_at_every_face(Mesh $mesh): void
    {
        $random = new SeededRandom(3);
        [$x, $y, $z] = self::around($mesh, 120, $random);
        $found = (new SurfaceTree($mesh))->nearest($x, $y, $z);
        foreach ($x as $i => $_) {
            $want = self::byAllFaces($mesh, new Vec3($x[$i], $y[$i], $z[$i]));
            self::assertEqualsWithDelta($want, $found->distance[$i], 1e-9);
            // The place that is told is as far away as is told.
            $k = 3 * $found->face[$i];
            $at = Vec3::zero();
            foreach ([1.0 - $found->s[$i] - $found->t[$i], $found->s[$i], $found->t[$i]] as $c => $share) {
                $p = $mesh->faces[$k + $c];
                $at = $at->plus((new Vec3($mesh->x[$p], $mesh->y[$p], $mesh->z[$p]))->times($share));
                self::assertGreaterThanOrEqual(-1e-12, $share);
            }
            self::assertEqualsWithDelta($want, $at->minus(new Vec3($x[$i], $y[$i], $z[$i]))->length(), 1e-9);
        }
    }

    public function test_what_is_out_of_reach_is_not_found_and_all_else_is(): void
    {
        $mesh = Solids::shape('ring', ['segments' => 60, 'rows' => 20]);
        $random = new SeededRandom(8);
        [$x, $y, $z] = self::around($mesh, 3000, $random);
        $tree = new SurfaceTree($mesh);
        $all = $tree->nearest($x, $y, $z);
        $near = $tree->nearest($x, $y, $z, 0.1);
        $within = 0;
        foreach ($all->distance as $i => $distance) {
            $within += $distance < 0.1 ? 1 : 0;
            self::assertSame($distance < 0.1 ? $distance : INF, $near->distance[$i]);
            self::assertSame($distance < 0.1, $near->face[$i] >= 0);
        }
        self::assertGreaterThan(300, $within);
        self::assertLessThan(2700, $within);
    }

    /** The winding number tells inside from outside in another way. */
    public function test_inside_is_where_the_surface_winds_round_a_point(): void
    {
        foreach (Solids::closed() as $name => [$mesh]) {
            [$x, $y, $z] = self::around($mesh, 600, new SeededRandom(5));
            $tree = new SurfaceTree($mesh);
            $signed = $tree->signed($x, $y, $z, $tree->nearest($x, $y, $z));
            $winding = (new WindingNumber($mesh))->at($x, $y, $z);
            foreach ($signed as $i => $distance) {
                if (abs($distance) > 1e-6) {
                    self::assertSame($winding[$i] > 0.5, $distance < 0.0, $name.' '.$i);
                }
            }
        }
    }

    public function test_a_mesh_that_changes_its_shape_is_as_one_made_anew(): void
    {
        $mesh = Solids::shape('ball', ['detail' => 8]);
        $tree = new SurfaceTree($mesh);
        $bent = new Mesh(
            array_map(static fn (float $x, float $y): float => $x + 0.4 * $y * $y, $mesh->x, $mesh->y),
            $mesh->y,
            array_map(static fn (float $z): float => 0.3 * $z, $mesh->z),
            $mesh->faces,
        );
        $tree->moveTo($bent->x, $bent->y, $bent->z);
        [$x, $y, $z] = self::around($bent, 500, new SeededRandom(6));
        $moved = $tree->nearest($x, $y, $z);
        self::assertEqualsWithDelta((new SurfaceTree($bent))->nearest($x, $y, $z)->distance, $moved->distance, 1e-12);
        $fresh = new SurfaceTree($bent);
        self::assertEqualsWithDelta($fresh->signed($x, $y, $z, $fresh->nearest($x, $y, $z)), $tree->signed($x, $y, $z, $moved), 1e-12);
    }

    public function test_nothing_is_near_to_nothing(): void
    {
        $found = (new SurfaceTree(new Mesh([], [], [], [])))->nearest([1.0, 2.0], [0.0, 0.0], [0.0, 0.0]);
        self::assertSame([INF, INF], $found->distance);
        self::assertSame([-1, -1], $found->face);
        self::assertSame([], (new SurfaceTree(Solids::shape('box')))->nearest([], [], [])->distance);
    }

    /** A thousand points on a ball about another ball: the distance is the difference of the radii, within the sagitta of a face. */
    public function test_between_two_balls_lies_the_difference_of_their_radii(): void
    {
        $inner = Solids::shape('ball', ['radius' => 0.3, 'detail' => 32])->movedBy(new Vec3(0.0, -0.3, 0.0));
        $outer = Solids::shape('ball', ['radius' => 1.0, 'detail' => 10])->movedBy(new Vec3(0.0, -1.0, 0.0))->placed(new Placement(
            Vec3::zero(),
            Quaternion::fromEuler(new Vec3(0.3, 0.2, 0.1)),
        ));
        $edge = 0.3 * 1.26 / 32;
        foreach ((new SurfaceTree($inner))->nearest($outer->x, $outer->y, $outer->z)->distance as $distance) {
            self::assertGreaterThanOrEqual(0.7 - 1e-12, $distance);
            self::assertLessThan(0.7 + $edge * $edge / (2.0 * 0.3), $distance);
        }
    }

    /** @return array{list<float>, list<float>, list<float>} */
    private static function around(Mesh $mesh, int $count, SeededRandom $random): array
    {
        $out = [[], [], []];
        foreach ([$mesh->x, $mesh->y, $mesh->z] as $axis => $v) {
            $half = max(0.1, 0.5 * (max($v) - min($v)));
            $middle = 0.5 * (max($v) + min($v));
            for ($i = 0; $i < $count; $i++) {
                $out[$axis][] = $random->between($middle - 1.6 * $half, $middle + 1.6 * $half);
            }
        }

        return $out;
    }

    public function test_its_ball_holds_all_of_it_and_is_not_much_larger(): void
    {
        foreach ([['box', ['width' => 0.3, 'height' => 2.0, 'depth' => 0.7]], ['ring', []], ['sheet', []]] as [$shape, $values]) {
            $mesh = ShapeCatalogue::mesh($shape, $values)->movedBy(new Vec3(3, -1, 2));
            [$middle, $radius] = (new SurfaceTree($mesh))->ball();
            $farthest = 0.0;
            foreach ($mesh->x as $i => $x) {
                $farthest = max($farthest, $middle->minus(new Vec3($x, $mesh->y[$i], $mesh->z[$i]))->length());
            }
            self::assertLessThanOrEqual($radius * (1 + 1e-12), $farthest);
            self::assertGreaterThan(0.6 * $radius, $farthest);
        }
    }

    private static function byAllFaces(Mesh $m, Vec3 $p): float
    {
        $best = INF;
        $at = static fn (int $k): Vec3 => new Vec3($m->x[$m->faces[$k]], $m->y[$m->faces[$k]], $m->z[$m->faces[$k]]);
        for ($k = 0, $n = count($m->faces); $k < $n; $k += 3) {
            $corners = [$at($k), $at($k + 1), $at($k + 2)];
            $normal = $corners[1]->minus($corners[0])->cross($corners[2]->minus($corners[0]));
            $inside = $normal->length() > 0.0;
            foreach ([0, 1, 2] as $c) {
                $a = $corners[$c];
                $side = $corners[($c + 1) % 3]->minus($a);
                $inside = $inside && $side->cross($p->minus($a))->dot($normal) >= 0.0;
                $long = $side->dot($side);
                $share = $long > 0.0 ? max(0.0, min(1.0, $p->minus($a)->dot($side) / $long)) : 0.0;
                $best = min($best, $p->minus($a->plus($side->times($share)))->length());
            }
            if ($inside) {
                $best = min($best, abs($p->minus($corners[0])->dot($normal)) / $normal->length());
            }
        }

        return $best;
    }
}
