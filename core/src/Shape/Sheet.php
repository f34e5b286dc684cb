<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;

/** A flat slab standing upright: a pane, a board, a wall. */
final class Sheet implements Shape
{
    public static function label(): string
    {
        return 'Sheet';
    }

    public static function options(): array
    {
        return [
            new Option('width', 'Width', 'Along x.', Number::class, 1.0, 0.001, 1000, 'm'),
            new Option('height', 'Height', 'Along y.', Number::class, 1.0, 0.001, 1000, 'm'),
            new Option('thickness', 'Thickness', 'Along z.', Number::class, 0.006, 0.0001, 100, 'm'),
            new Option('segments', 'Segments', 'Squares along the longest side.', Whole::class, 24, 1, 256),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        return Box::mesh(['width' => $values['width'], 'height' => $values['height'], 'depth' => $values['thickness'], 'segments' => $values['segments']]);
    }
}
