<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;

final class Cone implements Shape
{
    public static function label(): string
    {
        return 'Cone';
    }

    public static function options(): array
    {
        return [
            new Option('radius', 'Radius', 'At the foot.', Number::class, 0.4, 0.001, 1000, 'm'),
            new Option('height', 'Height', '', Number::class, 1.0, 0.001, 1000, 'm'),
            new Option('segments', 'Segments', 'Faces round the axis.', Whole::class, 64, 3, 2048),
            new Option('rows', 'Rows', 'Faces along the axis.', Whole::class, 8, 1, 1024),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        return Cylinder::between((float) $values['radius'], 0.0, (float) $values['height'], (int) $values['segments'], (int) $values['rows']);
    }
}
