<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** Parts of one piece that meet in an edge or a point only, given points of their own there. */
final class TouchingEdges
{
    /**
     * @param  list<int>  $faces  flat triples; every edge as often one way as the other
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<int>, list<float>, list<float>, list<float>} the same faces in the same order, with points added
     *
     * @throws \UnexpectedValueException where an edge has no partner, or both its ends are pinched
     */
    public static function parted(array $faces, array $x, array $y, array $z): array
    {
        $around = [];
        $n = count($faces);
        for ($i = 0; $i < $n; $i++) {
            $p = $faces[$i];
            $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $around[$p < $q ? $p << 31 | $q : $q << 31 | $p][] = $i;
        }
        $same = range(0, $n - 1);
        foreach ($around as $slots) {
            foreach (self::partners($slots, $faces, $x, $y, $z) as [$i, $j]) {
                $next = $i % 3 === 2 ? $i - 2 : $i + 1;
                $after = $j % 3 === 2 ? $j - 2 : $j + 1;
                self::join($same, $i, $after);
                self::join($same, $next, $j);
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
        $edges = [];
        for ($i = 0; $i < $n; $i++) {
            $edge = $faces[$i] << 31 | $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            if (isset($edges[$edge])) {
                throw new \UnexpectedValueException('parts that cannot be told apart');
            }
            $edges[$edge] = true;
        }

        return [$faces, $x, $y, $z];
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
        $pairs = [];
        foreach ($order as $k => $i) {
            // Seen along the edge, a face that runs backwards has the solid on its counter-clockwise side.
            if ($faces[$i] !== $p) {
                $j = $order[($k + 1) % count($order)];
                if ($faces[$j] !== $p) {
                    throw new \UnexpectedValueException('faces at an edge overlap');
                }
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
