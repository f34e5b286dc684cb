<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NearestOnSurface;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Solids;

final class NearestOnSurfaceTest extends TestCase
{
    /** On a box the nearest point follows from its sides; outside its corners and edges it is the corner or edge itself. */
    public function test_it_is_the_closed_form_on_a_box(): void
    {
        $surface = new NearestOnSurface(Solids::shape('box', ['segments' => 4]), 0.3);
        self::assertEqualsWithDelta([0.5, 0.7, 0.1], self::to($surface, 0.62, 0.7, 0.1), 1e-12);
        self::assertEqualsWithDelta([0.5, 1.0, 0.1], self::to($surface, 0.6, 1.1, 0.1), 1e-12);
        self::assertEqualsWithDelta([0.5, 1.0, 0.5], self::to($surface, 0.58, 1.08, 0.55), 1e-12);
        self::assertEqualsWithDelta([-0.5, 0.3, 0.2], self::to($surface, -0.45, 0.3, 0.2), 1e-12);
    }

    public function test_it_is_as_near_as_trying_every_face(): void
    {
        $mesh = Solids::vase(16);
        $surface = new NearestOnSurface($mesh, 0.05);
        $random = new SeededRandom(4);
        for ($i = 0; $i < 120; $i++) {
            // Points close to the surface, as in a remesh.
            $f = (int) ($random->share() * $mesh->faceCount());
            $p = self::corner($mesh, 3 * $f)->plus(self::corner($mesh, 3 * $f + 1))->plus(self::corner($mesh, 3 * $f + 2))->times(1 / 3);
            $p = $p->plus(new Vec3($random->between(-0.02, 0.02), $random->between(-0.02, 0.02), $random->between(-0.02, 0.02)));
            $found = (new Vec3(...self::to($surface, $p->x, $p->y, $p->z)))->minus($p)->length();
            self::assertEqualsWithDelta(self::bruteForce($mesh, $p), $found, 1e-9);
        }
    }

    public function test_a_point_far_from_everything_stays_where_it_is(): void
    {
        self::assertSame([9.0, 9.0, 9.0], self::to(new NearestOnSurface(Solids::shape('box'), 0.1), 9.0, 9.0, 9.0));
    }

    public function test_only_the_points_asked_for_are_moved(): void
    {
        $surface = new NearestOnSurface(Solids::shape('box', ['segments' => 4]), 0.3);
        self::assertEqualsWithDelta([[0.5, 0.6], [0.7, 0.7], [0.1, 0.1]], $surface->drawn([0.6, 0.6], [0.7, 0.7], [0.1, 0.1], [true, false]), 1e-12);
    }

    /** @return array{float, float, float} */
    private static function to(NearestOnSurface $surface, float $x, float $y, float $z): array
    {
        return array_map(static fn (array $c): float => $c[0], $surface->drawn([$x], [$y], [$z]));
    }

    private static function corner(Mesh $m, int $c): Vec3
    {
        $p = $m->faces[$c];

        return new Vec3($m->x[$p], $m->y[$p], $m->z[$p]);
    }

    /** The least distance to any face: within it where the foot lies in it, to its sides otherwise. */
    private static function bruteForce(Mesh $m, Vec3 $p): float
    {
        $best = INF;
        for ($f = 0; $f < $m->faceCount(); $f++) {
            [$a, $b, $c] = [self::corner($m, 3 * $f), self::corner($m, 3 * $f + 1), self::corner($m, 3 * $f + 2)];
            $n = $b->minus($a)->cross($c->minus($a));
            $foot = $p->minus($n->times($p->minus($a)->dot($n) / $n->dot($n)));
            $in = true;
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$s, $t]) {
                $e = $t->minus($s);
                $in = $in && $e->cross($foot->minus($s))->dot($n) >= 0.0;
                $k = max(0.0, min(1.0, $p->minus($s)->dot($e) / $e->dot($e)));
                $best = min($best, $p->minus($s->plus($e->times($k)))->length());
            }
            $best = $in ? min($best, $p->minus($foot)->length()) : $best;
        }

        return $best;
    }
}
