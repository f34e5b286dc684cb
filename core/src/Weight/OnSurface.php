<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\SurfaceTree;

/** The weights of the points of a mesh, at any place: what is at the nearest place of the surface. */
final readonly class OnSurface implements Anywhere
{
    private SurfaceTree $tree;

    /** @param  list<float>  $weights  one a point */
    public function __construct(Mesh $mesh, private array $weights)
    {
        $this->tree = new SurfaceTree($mesh);
    }

    public function at(float $x, float $y, float $z): float
    {
        $near = $this->tree->nearest([$x], [$y], [$z]);
        [$a, $b, $c] = $this->tree->corners($near->face[0]);
        [$s, $t] = [$near->s[0], $near->t[0]];

        return max(0.0, min(1.0, (1.0 - $s - $t) * $this->weights[$a] + $s * $this->weights[$b] + $t * $this->weights[$c]));
    }
}
