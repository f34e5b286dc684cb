<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Stencil;
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
            [$round, $faces] = Stencil::divided($mesh->faces, $mesh->vertexCount(), $values['scheme'] === 'loop');
            $mesh = new Mesh($round->apply($mesh->x), $round->apply($mesh->y), $round->apply($mesh->z), $faces);
        }

        return $mesh;
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
