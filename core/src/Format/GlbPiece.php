<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\Mesh;

/** One node of a hand-off file. */
final readonly class GlbPiece
{
    /**
     * @param  Mesh  $mesh  about the piece's own origin
     * @param  array{float, float, float}  $colour  outer surface, linear
     * @param  array{float, float, float}  $innerColour
     * @param  array{float, float, float}  $position  at rest
     * @param  array{float, float, float, float}  $turn
     * @param  string|null  $picture  path of a PNG or JPEG picture on the outer surface, where its mesh says
     */
    public function __construct(
        public string $name,
        public Mesh $mesh,
        public array $colour = [0.7, 0.7, 0.7],
        public array $innerColour = [0.5, 0.5, 0.5],
        public array $position = [0.0, 0.0, 0.0],
        public array $turn = [0.0, 0.0, 0.0, 1.0],
        public float $roughness = 0.75,
        public ?string $picture = null,
    ) {
    }
}
