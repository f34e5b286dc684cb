<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Divides every face: leaving the form as it is (simple), or rounding it by Loop's or Catmull and Clark's rule. */
final class Subdivide implements Step
{
    private const MOST_FACES = 2_000_000;

    public static function label(): string
    {
        return 'Subdivide';
    }

    public static function meaning(): string
    {
        return 'Divides every face, rounded or not';
    }

    public static function options(): array
    {
        return [
            new Option('scheme', 'Rule', 'Simple keeps the form; the others round it.', Choice::class, 'simple', choices: ['simple', 'loop', 'catmull-clark']),
            new Option('times', 'Times', 'Each makes four faces of one.', Whole::class, 1, 1, 8),
        ];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        $made = $mesh->faceCount() * ($values['scheme'] === 'catmull-clark' ? 1.5 : 1.0) * 4 ** $values['times'];
        if ($made > self::MOST_FACES) {
            throw Problem::outOfRange('times', 'The number of faces', (int) $made, 'at most '.self::MOST_FACES);
        }
        if ($values['scheme'] === 'catmull-clark') {
            return self::catmullClark($mesh, (int) $values['times']);
        }
        for ($i = 0; $i < $values['times']; $i++) {
            $mesh = self::quartered($mesh, $values['scheme'] === 'loop');
        }

        return $mesh;
    }

    /** One round of midpoints, with Loop's stencils where wanted (Loop 1987, "Smooth subdivision surfaces based on triangles"). */
    private static function quartered(Mesh $mesh, bool $smooth): Mesh
    {
        $x = $mesh->x;
        $y = $mesh->y;
        $z = $mesh->z;
        $faces = $mesh->faces;
        $opposite = [];
        for ($i = 0, $n = count($faces); $i < $n; $i++) {
            $p = $faces[$i];
            $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $opposite[$p < $q ? $p << 31 | $q : $q << 31 | $p][] = $faces[$i % 3 === 0 ? $i + 2 : $i - 1];
        }
        $middle = $rim = $around = [];
        foreach ($opposite as $edge => $apexes) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            $middle[$edge] = count($x);
            if ($smooth && count($apexes) === 2) {
                [$r, $s] = $apexes;
                $x[] = 0.375 * ($mesh->x[$p] + $mesh->x[$q]) + 0.125 * ($mesh->x[$r] + $mesh->x[$s]);
                $y[] = 0.375 * ($mesh->y[$p] + $mesh->y[$q]) + 0.125 * ($mesh->y[$r] + $mesh->y[$s]);
                $z[] = 0.375 * ($mesh->z[$p] + $mesh->z[$q]) + 0.125 * ($mesh->z[$r] + $mesh->z[$s]);
            } else {
                $x[] = 0.5 * ($mesh->x[$p] + $mesh->x[$q]);
                $y[] = 0.5 * ($mesh->y[$p] + $mesh->y[$q]);
                $z[] = 0.5 * ($mesh->z[$p] + $mesh->z[$q]);
            }
            if ($smooth) {
                $around[$p][] = $q;
                $around[$q][] = $p;
                if (count($apexes) !== 2) {
                    $rim[$p][] = $q;
                    $rim[$q][] = $p;
                }
            }
        }
        foreach ($around as $p => $ring) {
            $on = $rim[$p] ?? $ring;
            $n = count($on);
            $beta = isset($rim[$p]) ? 1.0 / (4.0 * $n) : (0.625 - (0.375 + 0.25 * cos(2.0 * M_PI / $n)) ** 2) / $n;
            $own = 1.0 - $n * $beta;
            $sx = $sy = $sz = 0.0;
            foreach ($on as $q) {
                $sx += $mesh->x[$q];
                $sy += $mesh->y[$q];
                $sz += $mesh->z[$q];
            }
            $x[$p] = $own * $mesh->x[$p] + $beta * $sx;
            $y[$p] = $own * $mesh->y[$p] + $beta * $sy;
            $z[$p] = $own * $mesh->z[$p] + $beta * $sz;
        }
        $out = [];
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $ab = $middle[$a < $b ? $a << 31 | $b : $b << 31 | $a];
            $bc = $middle[$b < $c ? $b << 31 | $c : $c << 31 | $b];
            $ca = $middle[$c < $a ? $c << 31 | $a : $a << 31 | $c];
            array_push($out, $a, $ab, $ca, $ab, $b, $bc, $ca, $bc, $c, $ab, $bc, $ca);
        }

        return new Mesh($x, $y, $z, $out);
    }

    /**
     * Catmull & Clark 1978, "Recursively generated B-spline surfaces on arbitrary topological meshes"; pairs of triangles that make a flat four-sided face
     * are taken as one.
     */
    private static function catmullClark(Mesh $mesh, int $times): Mesh
    {
        $points = array_map(null, $mesh->x, $mesh->y, $mesh->z);
        $faces = Quads::of($mesh);
        for ($i = 0; $i < $times; $i++) {
            [$points, $faces] = self::refined($points, $faces);
        }
        $flat = [];
        foreach ($faces as [$a, $b, $c, $d]) {
            array_push($flat, $a, $b, $c, $a, $c, $d);
        }

        return new Mesh(array_column($points, 0), array_column($points, 1), array_column($points, 2), $flat);
    }

    /**
     * @param  list<array{float, float, float}>  $points
     * @param  list<list<int>>  $faces
     * @return array{list<array{float, float, float}>, list<array{int, int, int, int}>}
     */
    private static function refined(array $points, array $faces): array
    {
        $mean = static function (array $of) use (&$points): array {
            $s = [0.0, 0.0, 0.0];
            foreach ($of as $p) {
                $s = [$s[0] + $points[$p][0], $s[1] + $points[$p][1], $s[2] + $points[$p][2]];
            }

            return [$s[0] / count($of), $s[1] / count($of), $s[2] / count($of)];
        };
        $count = count($points);
        $centre = $edges = $at = [];
        foreach ($faces as $f => $corners) {
            $centre[$f] = count($points);
            $points[] = $mean($corners);
            foreach ($corners as $k => $p) {
                $q = $corners[($k + 1) % count($corners)];
                $edges[$p < $q ? $p << 31 | $q : $q << 31 | $p][] = $f;
                $at[$p]['faces'][] = $centre[$f];
            }
        }
        $middle = [];
        foreach ($edges as $edge => $beside) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            $at[$p]['ends'][] = $q;
            $at[$q]['ends'][] = $p;
            if (count($beside) !== 2) {
                $at[$p]['rim'][] = $q;
                $at[$q]['rim'][] = $p;
            }
            $point = count($beside) === 2 ? $mean([$p, $q, $centre[$beside[0]], $centre[$beside[1]]]) : $mean([$p, $q]);
            $middle[$edge] = count($points);
            $points[] = $point;
        }
        $moved = [];
        for ($p = 0; $p < $count; $p++) {
            if (! isset($at[$p])) {
                $moved[] = $points[$p];

                continue;
            }
            if (isset($at[$p]['rim'])) {
                $m = $mean($at[$p]['rim']);
                $moved[] = array_map(static fn (float $v, float $w): float => 0.75 * $v + 0.25 * $w, $points[$p], $m);

                continue;
            }
            $n = count($at[$p]['ends']);
            $f = $mean($at[$p]['faces']);
            $e = $mean($at[$p]['ends']);
            // Twice the mean of edge middles is the point itself and the mean of the far ends.
            $moved[] = array_map(static fn (float $v, float $face, float $end): float => ($face + ($v + $end) + ($n - 3) * $v) / $n, $points[$p], $f, $e);
        }
        foreach ($moved as $p => $point) {
            $points[$p] = $point;
        }
        $out = [];
        foreach ($faces as $f => $corners) {
            $n = count($corners);
            foreach ($corners as $k => $p) {
                $q = $corners[($k + 1) % $n];
                $r = $corners[($k + $n - 1) % $n];
                $out[] = [$p, $middle[$p < $q ? $p << 31 | $q : $q << 31 | $p], $centre[$f], $middle[$r < $p ? $r << 31 | $p : $p << 31 | $r]];
            }
        }

        return [$points, $out];
    }
}
