<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A torus lying flat. */
final class Ring implements Shape
{
    public static function label(): string
    {
        return 'Ring';
    }

    public static function options(): array
    {
        return [
            new Option('radius', 'Radius', 'From the middle of the ring to the middle of its tube.', Number::class, 0.4, 0.001, 1000, 'm'),
            new Option('tube', 'Tube radius', '', Number::class, 0.12, 0.0005, 1000, 'm'),
            new Option('segments', 'Segments', 'Faces round the ring.', Whole::class, 96, 3, 2048),
            new Option('rows', 'Rows', 'Faces round the tube.', Whole::class, 32, 3, 1024),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        $radius = (float) $values['radius'];
        $tube = (float) $values['tube'];
        if ($tube >= $radius) {
            throw Problem::inValue(
                'tube',
                'The tube is thicker than the ring is wide, so it would cross itself.',
                'Make the tube radius smaller than the ring radius.',
            );
        }
        $profile = [];
        for ($k = 0, $n = (int) $values['rows']; $k < $n; $k++) {
            $a = 2.0 * M_PI * $k / $n;
            $profile[] = [$radius + $tube * cos($a), $tube + $tube * sin($a)];
        }

        return Lathe::turned($profile, (int) $values['segments']);
    }
}
