<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Outline;
use YardBreak\Core\Geometry\OutlineKind;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A drawn, imported or traced outline with a thickness; outlines within outlines are holes. */
final class Cutout implements Shape
{
    public static function label(): string
    {
        return 'Outline';
    }

    public static function options(): array
    {
        return [
            new Option('outline', 'Outline', 'Closed lines from an SVG drawing, a picture or drawn by hand.', OutlineKind::class, self::shield(), 0, 1),
            new Option('size', 'Size', 'Longer side of the drawing.', Number::class, 1.0, 0.001, 1000, 'm'),
            new Option('depth', 'Depth', 'Along z.', Number::class, 0.05, 0.0001, 100, 'm'),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        $outline = Outline::of($values['outline']);
        foreach ($outline->lines as $line) {
            $at = count($line->points) <= 400 ? $line->crossing() : null;
            if ($at !== null) {
                [$lowU, $lowV, $highU] = $outline->closed()->box();
                $k = (float) $values['size'];
                $place = [$k * ($at[0] - 0.5 * ($lowU + $highU)), $k * ($at[1] - $lowV), 0.5 * (float) $values['depth']];
                throw Problem::inValue(
                    'outline',
                    sprintf('The outline crosses itself near %.3f, %.3f of the drawing.', $at[0], $at[1]),
                    'Pull the crossing apart.',
                    $place,
                );
            }
        }

        return Slab::of($outline->placed((float) $values['size']), (float) $values['depth']);
    }

    /** @return array{unit: string, lines: list<array{points: list<array{float, float}>, closed: bool}>} a plate with a cut corner and a hole */
    private static function shield(): array
    {
        $hole = [];
        for ($k = 0; $k < 24; $k++) {
            $a = -2.0 * M_PI * $k / 24;
            $hole[] = [round(0.14 * cos($a), 6), round(0.06 + 0.14 * sin($a), 6)];
        }

        return ['unit' => 'box', 'lines' => [
            ['points' => [[-0.4, -0.5], [0.25, -0.5], [0.4, -0.35], [0.4, 0.5], [-0.4, 0.5]], 'closed' => true],
            ['points' => $hole, 'closed' => true],
        ]];
    }
}
