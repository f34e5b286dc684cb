<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;

/** A ball of nearly even triangles without poles: an icosahedron whose faces are divided and pushed out. */
final class Ball implements Shape
{
    public static function label(): string
    {
        return 'Ball';
    }

    public static function options(): array
    {
        return [
            new Option('radius', 'Radius', '', Number::class, 0.3, 0.001, 1000, 'm'),
            new Option('detail', 'Detail', 'Divisions of each of the twenty first faces, along an edge.', Whole::class, 12, 1, 96),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        $radius = (float) $values['radius'];
        $n = (int) $values['detail'];
        $g = (1 + sqrt(5)) / 2;
        $corners = [
            [-1, $g, 0], [1, $g, 0], [-1, -$g, 0], [1, -$g, 0], [0, -1, $g], [0, 1, $g], [0, -1, -$g], [0, 1, -$g], [$g, 0, -1], [$g, 0, 1],
            [-$g, 0, -1], [-$g, 0, 1],
        ];
        $base = [
            [0, 11, 5], [0, 5, 1], [0, 1, 7], [0, 7, 10], [0, 10, 11], [1, 5, 9], [5, 11, 4], [11, 10, 2], [10, 7, 6], [7, 1, 8], [3, 9, 4],
            [3, 4, 2], [3, 2, 6], [3, 6, 8], [3, 8, 9], [4, 9, 5], [2, 4, 11], [6, 2, 10], [8, 6, 7], [9, 8, 1],
        ];
        $x = $y = $z = $faces = $index = [];
        $vertex = static function (array $weights) use (&$x, &$y, &$z, &$index, $corners, $n, $radius): int {
            ksort($weights);
            $key = '';
            $p = [0.0, 0.0, 0.0];
            foreach ($weights as $corner => $w) {
                if ($w > 0) {
                    $key .= $corner.'*'.$w.' ';
                    for ($a = 0; $a < 3; $a++) {
                        $p[$a] += $corners[$corner][$a] * $w / $n;
                    }
                }
            }
            if (! isset($index[$key])) {
                $index[$key] = count($x);
                $l = $radius / sqrt($p[0] ** 2 + $p[1] ** 2 + $p[2] ** 2);
                $x[] = $p[0] * $l;
                $y[] = $p[1] * $l + $radius;
                $z[] = $p[2] * $l;
            }

            return $index[$key];
        };
        foreach ($base as [$a, $b, $c]) {
            for ($i = 0; $i < $n; $i++) {
                for ($j = 0; $i + $j < $n; $j++) {
                    $p = $vertex([$a => $n - $i - $j, $b => $i, $c => $j]);
                    $q = $vertex([$a => $n - $i - $j - 1, $b => $i + 1, $c => $j]);
                    $r = $vertex([$a => $n - $i - $j - 1, $b => $i, $c => $j + 1]);
                    array_push($faces, $p, $q, $r);
                    if ($i + $j + 1 < $n) {
                        array_push($faces, $q, $vertex([$a => $n - $i - $j - 2, $b => $i + 1, $c => $j + 1]), $r);
                    }
                }
            }
        }

        return new Mesh($x, $y, $z, $faces);
    }
}
