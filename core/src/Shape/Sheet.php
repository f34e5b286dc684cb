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
            new Option('thickness', 'Thickness', 'Along z; 0 for an open sheet, as cloth is.', Number::class, 0.006, 0.0, 100, 'm'),
            new Option('segments', 'Segments', 'Squares along the longest side.', Whole::class, 24, 1, 256),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        if ($values['thickness'] <= 0.0) {
            return self::open($values['width'], $values['height'], $values['segments']);
        }

        return Box::mesh(['width' => $values['width'], 'height' => $values['height'], 'depth' => $values['thickness'], 'segments' => $values['segments']]);
    }

    /** One layer of squares of two faces each, halved one way and the other in turns. */
    private static function open(float $width, float $height, int $segments): Mesh
    {
        $longest = max($width, $height);
        $columns = max(1, (int) round($segments * $width / $longest));
        $rows = max(1, (int) round($segments * $height / $longest));
        $x = $y = $faces = [];
        for ($r = 0; $r <= $rows; $r++) {
            for ($c = 0; $c <= $columns; $c++) {
                $x[] = $width * ($c / $columns - 0.5);
                $y[] = $height * $r / $rows;
            }
        }
        for ($r = 0; $r < $rows; $r++) {
            for ($c = 0; $c < $columns; $c++) {
                $a = $r * ($columns + 1) + $c;
                [$b, $d, $e] = [$a + 1, $a + $columns + 1, $a + $columns + 2];
                array_push($faces, ...(($r + $c) % 2 === 0 ? [$a, $b, $e, $a, $e, $d] : [$a, $b, $d, $b, $e, $d]));
            }
        }

        return new Mesh($x, $y, array_fill(0, count($x), 0.0), $faces);
    }
}
