<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * Faces divided along the line where a number given all through space passes a level, so that every face lies on one
 * side of it as far as its corners tell (marching triangles, with the exact place on each edge). Shading and places in
 * pictures are kept.
 */
final class LevelSplit
{
    /** The line keeps this share of an edge away from its ends, so that no face becomes a needle. */
    private const OFF = 0.02;

    /** Halvings of an edge on the way to the place where it passes the level. */
    private const HALVINGS = 40;

    /**
     * @param  \Closure(float, float, float): float  $value
     * @return array{Mesh, list<bool>} the divided mesh, and for each of its faces whether it lies at the level or above
     */
    public static function of(Mesh $mesh, \Closure $value, float $level): array
    {
        $x = $mesh->x;
        $y = $mesh->y;
        $z = $mesh->z;
        $values = array_map($value, $x, $y, $z);
        $faces = $above = $sides = $from = $shares = $onEdge = $along = [];
        // One corner of a new face as its vertex and its shares of the old face's corners.
        $own = [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];
        $emit = static function (int $f, array $corners, bool $high) use (&$faces, &$above, &$from, &$shares): void {
            foreach ($corners as [$vertex, $share]) {
                $faces[] = $vertex;
                $shares[] = $share;
            }
            $above[] = $high;
            $from[] = $f;
        };
        for ($f = 0, $n = $mesh->faceCount(); $f < $n; $f++) {
            $v = [$mesh->faces[3 * $f], $mesh->faces[3 * $f + 1], $mesh->faces[3 * $f + 2]];
            $high = [$values[$v[0]] >= $level, $values[$v[1]] >= $level, $values[$v[2]] >= $level];
            if ($high[0] === $high[1] && $high[1] === $high[2]) {
                $emit($f, [[$v[0], $own[0]], [$v[1], $own[1]], [$v[2], $own[2]]], $high[0]);

                continue;
            }
            // The corner that stands alone on its side, and the two after it.
            $a = $high[1] === $high[2] ? 0 : ($high[0] === $high[2] ? 1 : 2);
            $b = ($a + 1) % 3;
            $c = ($a + 2) % 3;
            $cut = [];
            foreach ([$b, $c] as $k) {
                [$p, $q] = $v[$a] < $v[$k] ? [$v[$a], $v[$k]] : [$v[$k], $v[$a]];
                if (! isset($onEdge[$p << 31 | $q])) {
                    $t = self::place($value, [$x[$p], $y[$p], $z[$p]], [$x[$q], $y[$q], $z[$q]], $values[$p] >= $level, $level);
                    $onEdge[$p << 31 | $q] = count($x);
                    $along[$p << 31 | $q] = $t;
                    $x[] = $x[$p] + $t * ($x[$q] - $x[$p]);
                    $y[] = $y[$p] + $t * ($y[$q] - $y[$p]);
                    $z[] = $z[$p] + $t * ($z[$q] - $z[$p]);
                }
                $t = $p === $v[$a] ? $along[$p << 31 | $q] : 1.0 - $along[$p << 31 | $q];
                $share = [0.0, 0.0, 0.0];
                $share[$a] = 1.0 - $t;
                $share[$k] = $t;
                $cut[] = [$onEdge[$p << 31 | $q], $share];
            }
            $emit($f, [[$v[$a], $own[$a]], $cut[0], $cut[1]], $high[$a]);
            $emit($f, [$cut[0], [$v[$b], $own[$b]], [$v[$c], $own[$c]]], $high[$b]);
            $emit($f, [$cut[0], [$v[$c], $own[$c]], $cut[1]], $high[$b]);
        }
        if ($mesh->sides !== null) {
            foreach ($from as $f) {
                $sides[] = $mesh->sides[$f];
            }
        }

        return [
            new Mesh(
                $x,
                $y,
                $z,
                $faces,
                self::blended($mesh->normals, 3, $from, $shares),
                $mesh->sides === null ? null : $sides,
                self::blended($mesh->uvs, 2, $from, $shares),
                self::blended($mesh->rim, 1, $from, $shares),
            ),
            $above,
        ];
    }

    /**
     * Where between two points the level is passed, by halving.
     *
     * @param  \Closure(float, float, float): float  $value
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}  $q
     * @return float share of the way from p to q
     */
    private static function place(\Closure $value, array $p, array $q, bool $high, float $level): float
    {
        $low = 0.0;
        $top = 1.0;
        for ($i = 0; $i < self::HALVINGS; $i++) {
            $t = 0.5 * ($low + $top);
            $above = $value($p[0] + $t * ($q[0] - $p[0]), $p[1] + $t * ($q[1] - $p[1]), $p[2] + $t * ($q[2] - $p[2])) >= $level;
            $above === $high ? $low = $t : $top = $t;
        }

        return max(self::OFF, min(1.0 - self::OFF, 0.5 * ($low + $top)));
    }

    /**
     * @param  list<float>|null  $given  so many numbers a corner of the old faces
     * @param  list<int>  $from  old face by new face
     * @param  list<array{float, float, float}>  $shares  by new corner
     * @return list<float>|null
     */
    private static function blended(?array $given, int $width, array $from, array $shares): ?array
    {
        if ($given === null) {
            return null;
        }
        $out = [];
        foreach ($shares as $c => [$s, $t, $u]) {
            $base = 3 * $width * $from[intdiv($c, 3)];
            $values = [];
            for ($k = 0; $k < $width; $k++) {
                $values[] = $s * $given[$base + $k] + $t * $given[$base + $width + $k] + $u * $given[$base + 2 * $width + $k];
            }
            // Directions stay of length one.
            $l = $width === 3 ? sqrt($values[0] ** 2 + $values[1] ** 2 + $values[2] ** 2) : 1.0;
            foreach ($values as $value) {
                $out[] = $l > 0.0 ? $value / $l : $value;
            }
        }

        return $out;
    }
}
