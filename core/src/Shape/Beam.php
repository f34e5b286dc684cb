<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Outline;
use YardBreak\Core\Geometry\Polyline;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;

/** A rafter, post or girder along x. */
final class Beam implements Shape
{
    public static function label(): string
    {
        return 'Beam';
    }

    public static function options(): array
    {
        return [
            new Option('length', 'Length', 'Along x.', Number::class, 3.0, 0.001, 1000, 'm'),
            new Option('height', 'Height', 'Along y.', Number::class, 0.15, 0.001, 100, 'm'),
            new Option('width', 'Width', 'Along z.', Number::class, 0.075, 0.001, 100, 'm'),
            new Option('section', 'Section', 'Its form seen from the end.', Choice::class, 'full', choices: ['full', 'round', 'I', 'L', 'T']),
            new Option('wall', 'Wall', 'Thickness of the parts of an I, L or T, as a share of the smaller side.', Number::class, 0.2, 0.02, 0.9),
            new Option('segments', 'Segments', 'Faces along the length of a full beam.', Whole::class, 12, 1, 512, with: 'section=full'),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        $w = 0.5 * $values['width'];
        $h = (float) $values['height'];
        if ($values['section'] === 'full') {
            return Box::mesh(['width' => $values['length'], 'height' => $h, 'depth' => $values['width'], 'segments' => $values['segments']]);
        }
        $t = $values['wall'] * min(2.0 * $w, $h);
        $s = 0.5 * $t;
        $points = match ($values['section']) {
            'I' => [
                [-$w, 0], [$w, 0], [$w, $t], [$s, $t], [$s, $h - $t], [$w, $h - $t], [$w, $h], [-$w, $h], [-$w, $h - $t], [-$s, $h - $t], [-$s, $t],
                [-$w, $t],
            ],
            'L' => [[-$w, 0], [$w, 0], [$w, $t], [-$w + $t, $t], [-$w + $t, $h], [-$w, $h]],
            'T' => [[-$s, 0], [$s, 0], [$s, $h - $t], [$w, $h - $t], [$w, $h], [-$w, $h], [-$w, $h - $t], [-$s, $h - $t]],
            default => array_map(static fn (int $k): array => [$w * cos(M_PI * $k / 16), 0.5 * $h * (1.0 + sin(M_PI * $k / 16))], range(0, 31)),
        };
        $slab = Slab::of(
            new Outline([new Polyline(array_map(static fn (array $p): array => [(float) $p[0], (float) $p[1]], $points), true)], true),
            (float) $values['length'],
        );

        // Laid along x: z becomes x, x becomes −z.
        return new Mesh($slab->z, $slab->y, array_map(static fn (float $v): float => -$v, $slab->x), $slab->faces);
    }
}
