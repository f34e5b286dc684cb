<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Path;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A round bar or tube swept along a path in space, with its frame carried along without twist. */
final class Sweep implements Shape
{
    public static function label(): string
    {
        return 'Sweep';
    }

    public static function options(): array
    {
        return [
            new Option(
                'path',
                'Path',
                'Points the bar runs through.',
                Path::class,
                [[-0.6, 0.1, 0.0], [-0.2, 0.5, 0.1], [0.2, 0.5, -0.1], [0.6, 0.1, 0.0]],
                -1000,
                1000,
                'm',
            ),
            new Option('radius', 'Radius', 'Of the bar at its start.', Number::class, 0.06, 0.0005, 100, 'm'),
            new Option('taper', 'Taper', 'Radius at the end as a share of that at the start.', Number::class, 1.0, 0.02, 10),
            new Option('rounding', 'Rounding', 'Points put between every two of the path, along a smooth curve through all.', Whole::class, 8, 0, 64),
            new Option('segments', 'Segments', 'Faces round the bar.', Whole::class, 20, 3, 256),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        $path = self::curve(array_map(Vec3::of(...), $values['path']), (int) $values['rounding']);
        $n = count($path);
        $segments = (int) $values['segments'];
        $x = $y = $z = $faces = [];
        $tangent = static fn (int $i): Vec3 => $path[min($n - 1, $i + 1)]->minus($path[max(0, $i - 1)])->unit();
        $t = $tangent(0);
        $side = (abs($t->y) < 0.9 ? new Vec3(0, 1, 0) : new Vec3(1, 0, 0))->cross($t)->unit();
        foreach ($path as $i => $p) {
            // Double reflection would be finer; projecting the side along is enough for so short steps.
            $t = $tangent($i);
            $side = $side->minus($t->times($side->dot($t)))->unit();
            $up = $t->cross($side);
            $r = $values['radius'] * (1.0 + ($values['taper'] - 1.0) * $i / ($n - 1));
            for ($k = 0; $k < $segments; $k++) {
                $a = 2.0 * M_PI * $k / $segments;
                $q = $p->plus($side->times($r * cos($a)))->plus($up->times($r * sin($a)));
                $x[] = $q->x;
                $y[] = $q->y;
                $z[] = $q->z;
            }
        }
        for ($i = 0; $i + 1 < $n; $i++) {
            for ($k = 0; $k < $segments; $k++) {
                $a = $i * $segments + $k;
                $b = $i * $segments + ($k + 1) % $segments;
                array_push($faces, $a, $b, $b + $segments, $a, $b + $segments, $a + $segments);
            }
        }
        foreach ([[0, $path[0]], [($n - 1) * $segments, $path[$n - 1]]] as $end => [$first, $p]) {
            $middle = count($x);
            $x[] = $p->x;
            $y[] = $p->y;
            $z[] = $p->z;
            for ($k = 0; $k < $segments; $k++) {
                $a = $first + $k;
                $b = $first + ($k + 1) % $segments;
                array_push($faces, $middle, $end === 0 ? $b : $a, $end === 0 ? $a : $b);
            }
        }

        $low = min($y);

        return new Mesh($x, array_map(static fn (float $v): float => $v - $low, $y), $z, $faces);
    }

    /**
     * Uniform Catmull–Rom through the points.
     *
     * @param  list<Vec3>  $points
     * @return list<Vec3>
     */
    private static function curve(array $points, int $between): array
    {
        $path = [];
        foreach ($points as $p) {
            if ($path === [] || $p->minus($path[count($path) - 1])->length() > 1e-6) {
                $path[] = $p;
            }
        }
        $n = count($path);
        if ($n < 2) {
            throw Problem::inValue('path', 'A path needs at least two different points.', 'Add a point.');
        }
        $out = [];
        for ($i = 0; $i + 1 < $n; $i++) {
            $p1 = $path[$i];
            $p2 = $path[$i + 1];
            $p0 = $path[$i - 1] ?? $p1->times(2.0)->minus($p2);
            $p3 = $path[$i + 2] ?? $p2->times(2.0)->minus($p1);
            for ($k = 0; $k <= $between; $k++) {
                $t = $k / ($between + 1);
                $out[] = $p1->times(2.0)
                    ->plus($p2->minus($p0)->times($t))
                    ->plus($p0->times(2.0)->minus($p1->times(5.0))->plus($p2->times(4.0))->minus($p3)->times($t * $t))
                    ->plus($p1->times(3.0)->minus($p0)->minus($p2->times(3.0))->plus($p3)->times($t * $t * $t))
                    ->times(0.5);
            }
        }
        $out[] = $path[$n - 1];

        return $out;
    }
}
