<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** Parts of one piece that meet in an edge or a point only, given points of their own there. */
final class TouchingEdges
{
    /**
     * The same faces in the same order, points added; where both ends of an edge are touched otherwise as well, its faces
     * are halved there, and the halves come last.
     *
     * @param  Mesh  $mesh  every edge as often one way as the other
     *
     * @throws \UnexpectedValueException where an edge has no partner
     */
    public static function parted(Mesh $mesh): Mesh
    {
        [$faces, $x, $y, $z] = [$mesh->faces, $mesh->x, $mesh->y, $mesh->z];
        $around = [];
        $n = count($faces);
        for ($i = 0; $i < $n; $i++) {
            $p = $faces[$i];
            $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $around[$p < $q ? $p << 31 | $q : $q << 31 | $p][] = $i;
        }
        $same = range(0, $n - 1);
        $beyond = [];
        foreach ($around as $slots) {
            foreach (self::partners($slots, $faces, $x, $y, $z) as [$i, $j]) {
                $beyond[$i] = $j;
                $beyond[$j] = $i;
                self::join($same, $i, $j % 3 === 2 ? $j - 2 : $j + 1);
                self::join($same, $i % 3 === 2 ? $i - 2 : $i + 1, $j);
            }
        }
        $copy = $used = [];
        foreach ($faces as $i => $p) {
            $root = self::root($same, $i);
            if (! isset($copy[$root])) {
                if (isset($used[$p])) {
                    $copy[$root] = count($x);
                    $x[] = $x[$p];
                    $y[] = $y[$p];
                    $z[] = $z[$p];
                } else {
                    $used[$p] = true;
                    $copy[$root] = $p;
                }
            }
            $faces[$i] = $copy[$root];
        }
        $edges = $halved = [];
        for ($i = 0; $i < $n; $i++) {
            $edge = $faces[$i] << 31 | $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            if (! isset($edges[$edge])) {
                $edges[$edge] = true;
            } elseif (! isset($halved[$i])) {
                $halved[$i] = $halved[$beyond[$i]] = count($x);
                [$p, $q] = [$edge >> 31, $edge & 0x7FFFFFFF];
                $x[] = 0.5 * ($x[$p] + $x[$q]);
                $y[] = 0.5 * ($y[$p] + $y[$q]);
                $z[] = 0.5 * ($z[$p] + $z[$q]);
            }
        }
        $out = new Mesh($x, $y, $z, $faces, $mesh->normals, $mesh->sides, $mesh->uvs, $mesh->rim);

        return $halved === [] ? $out : self::halved($out, $halved);
    }

    /** @param  array<int, int>  $middles  point on the edge that begins in each of these corners */
    private static function halved(Mesh $mesh, array $middles): Mesh
    {
        [$faces, $sides] = [$mesh->faces, $mesh->sides];
        $each = [[$mesh->normals, 3], [$mesh->uvs, 2], [$mesh->rim, 1]];
        // A face may be halved more than once: the edge is then in one of its parts.
        $parts = [];
        foreach ($middles as $i => $m) {
            $first = intdiv($i, 3);
            $p = $mesh->faces[$i];
            $q = $mesh->faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            foreach ($parts[$first] ?? [$first] as $f) {
                for ($k = 0; $k < 3; $k++) {
                    $next = 3 * $f + ($k + 1) % 3;
                    if ($faces[3 * $f + $k] !== $p || $faces[$next] !== $q) {
                        continue;
                    }
                    $last = 3 * $f + ($k + 2) % 3;
                    $new = intdiv(count($faces), 3);
                    array_push($faces, $m, $q, $faces[$last]);
                    $faces[$next] = $m;
                    foreach ($each as $a => [$values, $width]) {
                        if ($values !== null) {
                            $at = static fn (int $corner): array => array_slice($values, $width * $corner, $width);
                            $middle = array_map(static fn (float $u, float $v): float => 0.5 * ($u + $v), $at(3 * $f + $k), $at($next));
                            array_push($values, ...$middle, ...$at($next), ...$at($last));
                            array_splice($values, $width * $next, $width, $middle);
                            $each[$a][0] = $values;
                        }
                    }
                    if ($sides !== null) {
                        $sides[] = $sides[$f];
                    }
                    $parts[$first] = [...$parts[$first] ?? [$first], $new];
                    break 2;
                }
            }
        }

        return new Mesh($mesh->x, $mesh->y, $mesh->z, $faces, $each[0][0], $sides, $each[1][0], $each[2][0]);
    }

    /**
     * Which faces at an edge bound the same part of the solid.
     *
     * @param  list<int>  $slots  corners where the edge begins in each face
     * @param  list<int>  $faces
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<array{int, int}>
     */
    private static function partners(array $slots, array $faces, array $x, array $y, array $z): array
    {
        $p = min($faces[$slots[0]], $faces[$slots[0] % 3 === 2 ? $slots[0] - 2 : $slots[0] + 1]);
        $forward = array_values(array_filter($slots, static fn (int $i): bool => $faces[$i] === $p));
        $backward = array_values(array_filter($slots, static fn (int $i): bool => $faces[$i] !== $p));
        if (count($forward) !== count($backward)) {
            throw new \UnexpectedValueException('open edge');
        }
        if (count($forward) === 1) {
            return [[$forward[0], $backward[0]]];
        }
        $q = $faces[$forward[0] % 3 === 2 ? $forward[0] - 2 : $forward[0] + 1];
        $axis = [$x[$q] - $x[$p], $y[$q] - $y[$p], $z[$q] - $z[$p]];
        $l = sqrt($axis[0] ** 2 + $axis[1] ** 2 + $axis[2] ** 2);
        $a = [$axis[0] / $l, $axis[1] / $l, $axis[2] / $l];
        $u = abs($a[0]) < 0.6 ? [0.0, $a[2], -$a[1]] : [-$a[2], 0.0, $a[0]];
        $l = sqrt($u[0] ** 2 + $u[1] ** 2 + $u[2] ** 2);
        $u = [$u[0] / $l, $u[1] / $l, $u[2] / $l];
        $v = [$a[1] * $u[2] - $a[2] * $u[1], $a[2] * $u[0] - $a[0] * $u[2], $a[0] * $u[1] - $a[1] * $u[0]];
        $angle = [];
        foreach ($slots as $i) {
            $r = $faces[$i % 3 === 0 ? $i + 2 : $i - 1];
            $d = [$x[$r] - $x[$p], $y[$r] - $y[$p], $z[$r] - $z[$p]];
            $angle[$i] = atan2($d[0] * $v[0] + $d[1] * $v[1] + $d[2] * $v[2], $d[0] * $u[0] + $d[1] * $u[1] + $d[2] * $u[2]);
        }
        asort($angle);
        $order = array_keys($angle);
        $pairs = $taken = [];
        foreach ($order as $k => $i) {
            // Seen along the edge, a face that runs backwards has the solid on its counter-clockwise side. Where faces lie in
            // one place their order is chance: each takes the next that is free.
            if ($faces[$i] !== $p) {
                for ($next = $k + 1; ; $next++) {
                    $j = $order[$next % count($order)];
                    if ($faces[$j] === $p && ! isset($taken[$j])) {
                        break;
                    }
                }
                $taken[$j] = true;
                $pairs[] = [$j, $i];
            }
        }

        return $pairs;
    }

    /** @param  array<int, int>  $same */
    private static function root(array &$same, int $i): int
    {
        while ($same[$i] !== $i) {
            $same[$i] = $same[$same[$i]];
            $i = $same[$i];
        }

        return $i;
    }

    /** @param  array<int, int>  $same */
    private static function join(array &$same, int $i, int $j): void
    {
        $i = self::root($same, $i);
        $j = self::root($same, $j);
        if ($i !== $j) {
            $same[max($i, $j)] = min($i, $j);
        }
    }
}
