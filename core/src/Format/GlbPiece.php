<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\Mesh;

/** One node of a hand-off file. */
final readonly class GlbPiece
{
    /**
     * @param  Mesh  $mesh  about the piece's own origin
     * @param  array{float, float, float}  $position  at rest
     * @param  array{float, float, float, float}  $turn
     * @param  list<string>  $shapes  other places of the points of its mesh, packed float32, three a point: what it changes into
     * @param  list<int>  $shaped  frame by frame which of them it has; −1 for its own
     */
    public function __construct(
        public string $name,
        public Mesh $mesh,
        public GlbSurface $outer = new GlbSurface([0.7, 0.7, 0.7], 0.75),
        public GlbSurface $inner = new GlbSurface([0.5, 0.5, 0.5], 0.95),
        public array $position = [0.0, 0.0, 0.0],
        public array $turn = [0.0, 0.0, 0.0, 1.0],
        public array $shapes = [],
        public array $shaped = [],
    ) {
    }
}
