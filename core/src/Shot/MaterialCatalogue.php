<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/**
 * Starting values by material. Densities in kg/m³: glass after EN 572-1, concrete within EN 206, steel after EN 1991-1-1, the others
 * common practice; friction and bounce are common practice for dry surfaces.
 */
final class MaterialCatalogue
{
    /** @var array<string, array{label: string, colour: string, inner: string, density: int, friction: float, bounce: float}> */
    public const MATERIALS = [
        'terracotta' => ['label' => 'Terracotta', 'colour' => '#b8633f', 'inner' => '#c98a67', 'density' => 1900, 'friction' => 0.6, 'bounce' => 0.1],
        'stone' => ['label' => 'Stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.7, 'bounce' => 0.05],
        'concrete' => ['label' => 'Concrete', 'colour' => '#a3a29c', 'inner' => '#bab7ad', 'density' => 2400, 'friction' => 0.75, 'bounce' => 0.05],
        'brick' => ['label' => 'Brick', 'colour' => '#96513c', 'inner' => '#b4735a', 'density' => 1800, 'friction' => 0.7, 'bounce' => 0.05],
        'glass' => ['label' => 'Glass', 'colour' => '#a9c4c0', 'inner' => '#7fa8a0', 'density' => 2500, 'friction' => 0.35, 'bounce' => 0.2],
        'slate' => ['label' => 'Slate', 'colour' => '#525b63', 'inner' => '#6d757c', 'density' => 2700, 'friction' => 0.6, 'bounce' => 0.1],
        'wood' => ['label' => 'Wood', 'colour' => '#a8804f', 'inner' => '#c9a777', 'density' => 550, 'friction' => 0.5, 'bounce' => 0.2],
        'ice' => ['label' => 'Ice', 'colour' => '#c3d6de', 'inner' => '#dbe8ed', 'density' => 917, 'friction' => 0.08, 'bounce' => 0.1],
        'bark' => ['label' => 'Branch, with its bark', 'colour' => '#6b5a48', 'inner' => '#c9a777', 'density' => 700, 'friction' => 0.7, 'bounce' => 0.15],
        'felt' => ['label' => 'Roofing felt', 'colour' => '#4a4d4c', 'inner' => '#2b2d2d', 'density' => 1100, 'friction' => 0.8, 'bounce' => 0.0],
        'sacking' => ['label' => 'Sacking, filled', 'colour' => '#b09a74', 'inner' => '#c9b68f', 'density' => 1500, 'friction' => 0.8, 'bounce' => 0.0],
        'metal' => ['label' => 'Steel', 'colour' => '#8d9297', 'inner' => '#a7abae', 'density' => 7850, 'friction' => 0.4, 'bounce' => 0.25],
        'leaf' => ['label' => 'Leaf', 'colour' => '#5f8a3c', 'inner' => '#86a862', 'density' => 700, 'friction' => 0.6, 'bounce' => 0.0],
        'plaster' => ['label' => 'Plaster', 'colour' => '#ddd8cb', 'inner' => '#ece8dd', 'density' => 1200, 'friction' => 0.6, 'bounce' => 0.05],
    ];
}
