<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Chip;

use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Mesh;

/** What grains and chips may look like. One more is a line in the table of corners. */
final class ChipShapes
{
    /** A grain without shape. */
    public const GRAIN = 'grain';

    /** Like another prop. */
    public const PROP = 'prop';

    /** Corners of each, m; their largest extent is brought to 1. */
    private const CORNERS = [
        'cube' => [[-1, -1, -1], [1, -1, -1], [-1, 1, -1], [1, 1, -1], [-1, -1, 1], [1, -1, 1], [-1, 1, 1], [1, 1, 1]],
        'splinter' => [[-5, -0.6, -0.5], [-5, 0.3, -0.7], [-4.6, 0.2, 0.6], [1, -0.9, -0.8], [1.5, 0.8, -0.6], [1, 0.5, 0.9], [5, 0.1, 0], [4.4, -0.3, 0.2]],
        'flake' => [
            [-4, -0.3, -2], [-1, -0.3, -4], [3.5, -0.3, -2.5], [4, -0.3, 2], [-0.5, -0.3, 3.6], [-3.6, 0.3, -1.7], [-0.8, 0.3, -3.5], [3, 0.3, -2], [3.6, 0.3, 1.6], [-0.4, 0.3, 3.1],
        ],
        'tetrahedron' => [[1, 1, 1], [1, -1, -1], [-1, 1, -1], [-1, -1, 1]],
    ];

    /** @return list<string> */
    public static function names(): array
    {
        return [self::GRAIN, ...array_keys(self::CORNERS), self::PROP];
    }

    /** Those that have a shape, as a condition of an option. */
    public static function withShape(): string
    {
        return implode('|', array_map(static fn (string $name): string => 'shape='.$name, array_slice(self::names(), 1)));
    }

    public static function mesh(string $name): Mesh
    {
        $corners = self::CORNERS[$name];
        $at = static fn (int $axis): array => array_map(static fn (array $p): float => (float) $p[$axis], $corners);

        return Hull::around($at(0), $at(1), $at(2))->mesh();
    }

    /** @return array<string, array{points: list<float>, faces: list<int>}> corners about the middle, flat, their largest extent 1, and triangles of each that has a shape of its own */
    public static function describe(): array
    {
        $out = [];
        foreach (array_keys(self::CORNERS) as $name) {
            $mesh = ChipShape::scaled(self::mesh($name));
            $points = [];
            foreach ($mesh->x as $k => $x) {
                array_push($points, round($x, 5), round($mesh->y[$k], 5), round($mesh->z[$k], 5));
            }
            $out[$name] = ['points' => $points, 'faces' => $mesh->faces];
        }

        return $out;
    }
}
