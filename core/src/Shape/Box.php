<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;

final class Box implements Shape
{
    public static function label(): string
    {
        return 'Box';
    }

    public static function options(): array
    {
        return [
            new Option('width', 'Width', 'Along x.', Number::class, 1.0, 0.001, 1000, 'm'),
            new Option('height', 'Height', 'Along y.', Number::class, 1.0, 0.001, 1000, 'm'),
            new Option('depth', 'Depth', 'Along z.', Number::class, 1.0, 0.001, 1000, 'm'),
            new Option('segments', 'Segments', 'Squares along the longest side.', Whole::class, 1, 1, 256),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        $w = (float) $values['width'];
        $h = (float) $values['height'];
        $d = (float) $values['depth'];
        $per = $values['segments'] / max($w, $h, $d);
        $n = [max(1, (int) round($w * $per)), max(1, (int) round($h * $per)), max(1, (int) round($d * $per))];
        $x = $y = $z = $faces = $index = [];
        $vertex = static function (int $i, int $j, int $k) use (&$x, &$y, &$z, &$index, $n, $w, $h, $d): int {
            $key = ($i * 1024 + $j) * 1024 + $k;
            if (! isset($index[$key])) {
                $index[$key] = count($x);
                $x[] = ($i / $n[0] - 0.5) * $w;
                $y[] = $j / $n[1] * $h;
                $z[] = ($k / $n[2] - 0.5) * $d;
            }

            return $index[$key];
        };
        // For each axis a: the two faces across it, spanned by the following axes b and c.
        for ($a = 0; $a < 3; $a++) {
            $b = ($a + 1) % 3;
            $c = ($a + 2) % 3;
            foreach ([0, $n[$a]] as $side) {
                for ($p = 0; $p < $n[$b]; $p++) {
                    for ($q = 0; $q < $n[$c]; $q++) {
                        $corner = [];
                        foreach ([[0, 0], [1, 0], [1, 1], [0, 1]] as [$dp, $dq]) {
                            $at = [];
                            $at[$a] = $side;
                            $at[$b] = $p + $dp;
                            $at[$c] = $q + $dq;
                            $corner[] = $vertex($at[0], $at[1], $at[2]);
                        }
                        if ($side === 0) {
                            $corner = array_reverse($corner);
                        }
                        array_push($faces, $corner[0], $corner[1], $corner[2], $corner[0], $corner[2], $corner[3]);
                    }
                }
            }
        }

        return new Mesh($x, $y, $z, $faces);
    }
}
