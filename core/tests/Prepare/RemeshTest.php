<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NearestOnSurface;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Tests\References\OutsideMeshes;
use YardBreak\Core\Tests\Solids;

/** A remeshed solid is the same solid: on a dozen of different kinds, thin walls, creases, corners and tips among them. */
final class RemeshTest extends TestCase
{
    /** @return array<string, array{\Closure(): Mesh, int}> */
    public static function solids(): array
    {
        return [
            'a knotted tube' => [static fn (): Mesh => OutsideMeshes::cgal('knot1'), 48574],
            'two rings in one' => [static fn (): Mesh => OutsideMeshes::cgal('eight'), 20000],
            'a part with curved creases' => [static fn (): Mesh => OutsideMeshes::cgal('fandisk'), 20000],
            'a part with corners' => [static fn (): Mesh => OutsideMeshes::cgal('anchor'), 10000],
            'a joint' => [static fn (): Mesh => OutsideMeshes::cgal('joint'), 10000],
            'three holes of few faces' => [static fn (): Mesh => OutsideMeshes::cgal('3torus'), 15000],
            'a box' => [static fn (): Mesh => Solids::shape('box'), 5000],
            'a ball' => [static fn (): Mesh => Solids::shape('ball', ['detail' => 16]), 8000],
            'a ring' => [static fn (): Mesh => Solids::shape('ring', ['segments' => 80, 'rows' => 24]), 10000],
            'a thin vase' => [static fn (): Mesh => Solids::vase(), 20000],
            'a pane' => [static fn (): Mesh => Solids::shape('sheet', ['segments' => 6]), 20000],
            'a cone' => [static fn (): Mesh => Solids::shape('cone'), 8000],
        ];
    }

    /** @param  \Closure(): Mesh  $solid */
    #[DataProvider('solids')]
    public function test_it_keeps_volume_surface_and_edge_lengths(\Closure $solid, int $faces): void
    {
        $old = $solid();
        $before = Fitness::of($old);
        // That of an equilateral triangle of the mean area wanted.
        $edge = sqrt($before->area / (0.25 * sqrt(3.0) * $faces));
        $new = PrepareCatalogue::apply($old, [['step' => 'remesh', 'values' => ['faces' => $faces]]]);
        $after = Fitness::of($new);
        self::assertTrue($after->canBreak());
        self::assertEqualsWithDelta(1.0, $after->volume / $before->volume, 0.001);
        $within = $all = 0;
        foreach ($new->faces as $c => $p) {
            $q = $new->faces[$c % 3 === 2 ? $c - 2 : $c + 1];
            $length = sqrt(($new->x[$p] - $new->x[$q]) ** 2 + ($new->y[$p] - $new->y[$q]) ** 2 + ($new->z[$p] - $new->z[$q]) ** 2) / $edge;
            $all++;
            $within += $length >= 0.8 && $length <= 4.0 / 3.0 ? 1 : 0;
        }
        self::assertGreaterThan(0.95, $within / $all);
        self::assertLessThan(0.2, max(self::apart($old, $new, $edge), self::apart($new, $old, $edge)) / $edge);
    }

    /** The farthest that corners, middles of edges and middles of faces of one mesh lie from the other. */
    private static function apart(Mesh $one, Mesh $other, float $edge): float
    {
        $x = $y = $z = [];
        for ($i = 0, $n = count($one->faces); $i < $n; $i += 3) {
            [$a, $b, $c] = array_slice($one->faces, $i, 3);
            foreach ([[1.0, 0.0, 0.0], [0.5, 0.5, 0.0], [0.0, 0.5, 0.5], [0.5, 0.0, 0.5], [1 / 3, 1 / 3, 1 / 3]] as [$u, $v, $w]) {
                $x[] = $u * $one->x[$a] + $v * $one->x[$b] + $w * $one->x[$c];
                $y[] = $u * $one->y[$a] + $v * $one->y[$b] + $w * $one->y[$c];
                $z[] = $u * $one->z[$a] + $v * $one->z[$b] + $w * $one->z[$c];
            }
        }
        [$nx, $ny, $nz] = (new NearestOnSurface($other, 2.0 * $edge))->drawn($x, $y, $z);
        // A point with nothing near stays where it is: as if it lay on the surface. So many cannot.
        self::assertLessThan(
            0.9 * count($x),
            count(array_filter(array_keys($x), static fn (int $i): bool => $nx[$i] === $x[$i] && $ny[$i] === $y[$i] && $nz[$i] === $z[$i])),
        );
        $far = 0.0;
        foreach ($x as $i => $v) {
            $d = sqrt(($nx[$i] - $v) ** 2 + ($ny[$i] - $y[$i]) ** 2 + ($nz[$i] - $z[$i]) ** 2);
            $far = max($far, $d);
        }

        return $far;
    }
}
