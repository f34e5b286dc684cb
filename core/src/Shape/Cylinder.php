<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;

final class Cylinder implements Shape
{
    public static function label(): string
    {
        return 'Cylinder';
    }

    public static function options(): array
    {
        return [
            new Option('radius', 'Radius', '', Number::class, 0.25, 0.001, 1000, 'm'),
            new Option('height', 'Height', '', Number::class, 1.0, 0.001, 1000, 'm'),
            new Option('segments', 'Segments', 'Faces round the axis.', Whole::class, 64, 3, 2048),
            new Option('rows', 'Rows', 'Faces along the axis.', Whole::class, 8, 1, 1024),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        return self::between((float) $values['radius'], (float) $values['radius'], (float) $values['height'], (int) $values['segments'], (int) $values['rows']);
    }

    /** A frustum: a cylinder where the two radii are equal, a cone where the upper one is zero. */
    public static function between(float $lower, float $upper, float $height, int $segments, int $rows): Mesh
    {
        $profile = [[0.0, 0.0]];
        for ($k = 0; $k <= $rows; $k++) {
            $profile[] = [$lower + ($upper - $lower) * $k / $rows, $height * $k / $rows];
        }
        if ($upper > 0.0) {
            $profile[] = [0.0, $height];
        }

        return Lathe::turned($profile, $segments);
    }
}
