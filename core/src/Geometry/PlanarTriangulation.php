<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * Triangles of a flat region bounded by loops, using no other points than theirs.
 *
 * Holes are joined to their container by a bridge (Held 2001, "FIST: fast industrial-strength triangulation
 * of polygons"), ears are clipped best shape first, and long loops are improved by Lawson flips. A loop of n
 * points always gives n − 2 triangles, so neighbours that share the loop's edges stay closed.
 */
final class PlanarTriangulation
{
    private const SMALL_LOOP = 40;

    /**
     * @param  list<list<int>>  $loops  point numbers; outer loops counter-clockwise, holes clockwise
     * @param  array<int, float>  $u  first coordinate by point number
     * @param  array<int, float>  $v  second coordinate by point number
     * @return list<int> flat triples, counter-clockwise
     */
    public static function of(array $loops, array $u, array $v): array
    {
        if (count($loops) === 1) {
            return self::simple($loops[0], $u, $v);
        }
        $outer = $holes = [];
        foreach ($loops as $loop) {
            $area = self::area($loop, $u, $v);
            if ($area > 0.0) {
                $outer[] = ['loop' => $loop, 'area' => $area, 'holes' => []];
            } else {
                $holes[] = $loop;
            }
        }
        if ($outer === []) {
            throw new \UnexpectedValueException('only holes');
        }
        foreach ($holes as $hole) {
            $best = -1;
            foreach ($outer as $k => $o) {
                if (($best === -1 || $o['area'] < $outer[$best]['area']) && self::contains($o['loop'], $u[$hole[0]], $v[$hole[0]], $u, $v)) {
                    $best = $k;
                }
            }
            if ($best === -1) {
                throw new \UnexpectedValueException('hole outside');
            }
            $outer[$best]['holes'][] = $hole;
        }
        $out = [];
        foreach ($outer as $o) {
            $loop = $o['loop'];
            usort($o['holes'], static fn (array $a, array $b): int => self::rightmost($b, $u) <=> self::rightmost($a, $u));
            foreach ($o['holes'] as $hole) {
                $loop = self::bridged($loop, $hole, $u, $v);
            }
            foreach (self::simple($loop, $u, $v) as $i) {
                $out[] = $i;
            }
        }

        return $out;
    }

    /**
     * @param  list<int>  $loop
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     */
    public static function area(array $loop, array $u, array $v): float
    {
        $sum = 0.0;
        $n = count($loop);
        $p = $loop[$n - 1];
        $ou = $u[$p];
        $ov = $v[$p];
        foreach ($loop as $q) {
            $sum += ($u[$p] - $ou) * ($v[$q] - $ov) - ($u[$q] - $ou) * ($v[$p] - $ov);
            $p = $q;
        }

        return $sum / 2;
    }

    /**
     * @param  list<int>  $loop
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     */
    public static function contains(array $loop, float $pu, float $pv, array $u, array $v): bool
    {
        $in = false;
        $p = $loop[count($loop) - 1];
        foreach ($loop as $q) {
            if (($v[$p] > $pv) !== ($v[$q] > $pv)) {
                $at = $u[$p] + ($pv - $v[$p]) / ($v[$q] - $v[$p]) * ($u[$q] - $u[$p]);
                if ($at > $pu) {
                    $in = ! $in;
                }
            }
            $p = $q;
        }

        return $in;
    }

    /**
     * @param  list<int>  $hole
     * @param  array<int, float>  $u
     */
    private static function rightmost(array $hole, array $u): float
    {
        $best = -INF;
        foreach ($hole as $p) {
            $best = max($best, $u[$p]);
        }

        return $best;
    }

    /**
     * The loop with the hole spliced in along a bridge both can see.
     *
     * @param  list<int>  $loop
     * @param  list<int>  $hole
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     * @return list<int>
     */
    private static function bridged(array $loop, array $hole, array $u, array $v): array
    {
        $h = 0;
        foreach ($hole as $k => $p) {
            if ($u[$p] > $u[$hole[$h]]) {
                $h = $k;
            }
        }
        $hu = $u[$hole[$h]];
        $hv = $v[$hole[$h]];
        $n = count($loop);
        $order = [];
        foreach ($loop as $k => $p) {
            $order[$k] = ($u[$p] - $hu) ** 2 + ($v[$p] - $hv) ** 2;
        }
        asort($order);
        $at = array_key_first($order);
        foreach ($order as $k => $_) {
            if (self::sees($loop, $k, $hu, $hv, $u, $v)) {
                $at = $k;
                break;
            }
        }
        $out = array_slice($loop, 0, $at + 1);
        $m = count($hole);
        for ($i = 0; $i <= $m; $i++) {
            $out[] = $hole[($h + $i) % $m];
        }
        for ($i = $at; $i < $n; $i++) {
            $out[] = $loop[$i];
        }

        return $out;
    }

    /**
     * Whether the segment from loop corner $k to (hu, hv) leaves inwards and crosses no edge of the loop.
     *
     * @param  list<int>  $loop
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     */
    private static function sees(array $loop, int $k, float $hu, float $hv, array $u, array $v): bool
    {
        $n = count($loop);
        $c = $loop[$k];
        $a = $loop[($k + $n - 1) % $n];
        $b = $loop[($k + 1) % $n];
        $cu = $u[$c];
        $cv = $v[$c];
        $left = static fn (float $au, float $av, float $bu, float $bv, float $pu, float $pv): float => ($bu - $au) * ($pv - $av) - ($bv - $av) * ($pu - $au);
        $convex = $left($u[$a], $v[$a], $cu, $cv, $u[$b], $v[$b]) > 0;
        $l1 = $left($u[$a], $v[$a], $cu, $cv, $hu, $hv) > 0;
        $l2 = $left($cu, $cv, $u[$b], $v[$b], $hu, $hv) > 0;
        if ($convex ? ! ($l1 && $l2) : ! ($l1 || $l2)) {
            return false;
        }
        $p = $loop[$n - 1];
        foreach ($loop as $q) {
            if ($p !== $c && $q !== $c) {
                $d1 = $left($cu, $cv, $hu, $hv, $u[$p], $v[$p]);
                $d2 = $left($cu, $cv, $hu, $hv, $u[$q], $v[$q]);
                $d3 = $left($u[$p], $v[$p], $u[$q], $v[$q], $cu, $cv);
                $d4 = $left($u[$p], $v[$p], $u[$q], $v[$q], $hu, $hv);
                if ($d1 * $d2 <= 0.0 && $d3 * $d4 <= 0.0) {
                    return false;
                }
            }
            $p = $q;
        }

        return true;
    }

    /**
     * @param  list<int>  $loop
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     * @return list<int>
     */
    private static function simple(array $loop, array $u, array $v): array
    {
        $n = count($loop);
        if ($n === 3) {
            return $loop;
        }
        $faces = self::ears($loop, $u, $v, $n <= self::SMALL_LOOP);

        return $n > 6 ? self::flipped($faces, $u, $v) : $faces;
    }

    /**
     * @param  list<int>  $loop
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     * @return list<int>
     */
    private static function ears(array $loop, array $u, array $v, bool $bestFirst): array
    {
        $n = count($loop);
        $pu = $pv = $next = $previous = [];
        foreach ($loop as $k => $p) {
            $pu[] = $u[$p];
            $pv[] = $v[$p];
            $next[] = $k + 1;
            $previous[] = $k - 1;
        }
        $next[$n - 1] = 0;
        $previous[0] = $n - 1;
        $reflex = $score = [];
        $reflexes = 0;
        for ($k = 0; $k < $n; $k++) {
            $a = $previous[$k];
            $b = $next[$k];
            $r = ($pu[$k] - $pu[$a]) * ($pv[$b] - $pv[$a]) - ($pv[$k] - $pv[$a]) * ($pu[$b] - $pu[$a]) <= 0.0;
            $reflex[] = $r;
            if ($r) {
                $reflexes++;
            }
        }
        for ($k = 0; $k < $n; $k++) {
            $score[] = self::earScore($previous[$k], $k, $next[$k], $pu, $pv, $loop, $next, $reflex, $reflexes === 0 ? 0 : $n);
        }
        $out = [];
        $at = 0;
        for ($left = $n; $left > 3; $left--) {
            $pick = -1;
            $best = -2.0;
            $k = $at;
            for ($i = 0; $i < $left; $i++) {
                if ($score[$k] > $best) {
                    $best = $score[$k];
                    $pick = $k;
                    if (! $bestFirst && $best > 0.35) {
                        break;
                    }
                }
                $k = $next[$k];
            }
            $a = $previous[$pick];
            $b = $next[$pick];
            $out[] = $loop[$a];
            $out[] = $loop[$pick];
            $out[] = $loop[$b];
            $next[$a] = $b;
            $previous[$b] = $a;
            if ($reflex[$pick]) {
                $reflex[$pick] = false;
                $reflexes--;
            }
            for ($i = 0; $i < 2; $i++) {
                $k = $i === 0 ? $a : $b;
                if ($reflex[$k] && ($pu[$k] - $pu[$previous[$k]]) * ($pv[$next[$k]] - $pv[$previous[$k]])
                    - ($pv[$k] - $pv[$previous[$k]]) * ($pu[$next[$k]] - $pu[$previous[$k]]) > 0.0) {
                    $reflex[$k] = false;
                    $reflexes--;
                }
            }
            $scan = $reflexes === 0 ? 0 : $left - 1;
            $score[$a] = self::earScore($previous[$a], $a, $b, $pu, $pv, $loop, $next, $reflex, $scan);
            $score[$b] = self::earScore($a, $b, $next[$b], $pu, $pv, $loop, $next, $reflex, $scan);
            $at = $b;
        }
        $out[] = $loop[$previous[$at]];
        $out[] = $loop[$at];
        $out[] = $loop[$next[$at]];

        return $out;
    }

    /**
     * How good an ear this corner makes: four times its area over its squared side lengths, or −1 where it is none.
     *
     * @param  list<float>  $pu
     * @param  list<float>  $pv
     * @param  list<int>  $loop
     * @param  list<int>  $next
     * @param  list<bool>  $reflex
     */
    private static function earScore(int $a, int $k, int $b, array $pu, array $pv, array $loop, array $next, array $reflex, int $scan): float
    {
        $au = $pu[$a];
        $av = $pv[$a];
        $ku = $pu[$k];
        $kv = $pv[$k];
        $bu = $pu[$b];
        $bv = $pv[$b];
        $cross = ($ku - $au) * ($bv - $av) - ($kv - $av) * ($bu - $au);
        if ($cross <= 0.0) {
            return -1.0;
        }
        $q = $next[$b];
        for ($i = $scan - 3; $i > 0; $i--) {
            if ($reflex[$q]) {
                $qu = $pu[$q];
                $qv = $pv[$q];
                if ($loop[$q] !== $loop[$a] && $loop[$q] !== $loop[$b] && $loop[$q] !== $loop[$k]
                    && ($ku - $au) * ($qv - $av) - ($kv - $av) * ($qu - $au) >= 0.0
                    && ($bu - $ku) * ($qv - $kv) - ($bv - $kv) * ($qu - $ku) >= 0.0
                    && ($au - $bu) * ($qv - $bv) - ($av - $bv) * ($qu - $bu) >= 0.0) {
                    return -1.0;
                }
            }
            $q = $next[$q];
        }
        $sides = ($ku - $au) ** 2 + ($kv - $av) ** 2 + ($bu - $ku) ** 2 + ($bv - $kv) ** 2 + ($au - $bu) ** 2 + ($av - $bv) ** 2;

        return 2.0 * $cross / $sides;
    }

    /**
     * Flips inner edges until none violates the empty-circle rule (Lawson 1977) or the bound of passes is met.
     *
     * @param  list<int>  $faces
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     * @return list<int>
     */
    private static function flipped(array $faces, array $u, array $v): array
    {
        $n = count($faces);
        $edges = [];
        $doubled = [];
        for ($i = 0; $i < $n; $i++) {
            $p = $faces[$i];
            $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $key = ($p << 31) | $q;
            if (isset($edges[$key])) {
                $doubled[$key] = true;
            }
            $edges[$key] = $i;
        }
        for ($pass = 0; $pass < 40; $pass++) {
            $changed = false;
            for ($i = 0; $i < $n; $i++) {
                $f = intdiv($i, 3);
                $p = $faces[$i];
                $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
                $back = ($q << 31) | $p;
                if (! isset($edges[$back]) || isset($doubled[$back]) || isset($doubled[($p << 31) | $q])) {
                    continue;
                }
                $j = $edges[$back];
                $g = intdiv($j, 3);
                if ($g <= $f) {
                    continue;
                }
                $r = $faces[$i % 3 === 0 ? $i + 2 : $i - 1];
                $s = $faces[$j % 3 === 0 ? $j + 2 : $j - 1];
                if ($r === $s || isset($edges[($r << 31) | $s]) || isset($edges[($s << 31) | $r])) {
                    continue;
                }
                $su = $u[$s];
                $sv = $v[$s];
                $a = $u[$p] - $su;
                $b = $v[$p] - $sv;
                $c = $u[$q] - $su;
                $d = $v[$q] - $sv;
                $e = $u[$r] - $su;
                $w = $v[$r] - $sv;
                $in = ($a * $a + $b * $b) * ($c * $w - $e * $d) - ($c * $c + $d * $d) * ($a * $w - $e * $b) + ($e * $e + $w * $w) * ($a * $d - $c * $b);
                $scale = ($a * $a + $b * $b + $c * $c + $d * $d + $e * $e + $w * $w);
                if ($in <= 1e-12 * $scale * $scale) {
                    continue;
                }
                // Both new triangles must keep their orientation.
                if ($e * $b - $a * $w <= 0.0 || $c * $w - $e * $d <= 0.0) {
                    continue;
                }
                $faces[3 * $f] = $r;
                $faces[3 * $f + 1] = $p;
                $faces[3 * $f + 2] = $s;
                $faces[3 * $g] = $s;
                $faces[3 * $g + 1] = $q;
                $faces[3 * $g + 2] = $r;
                unset($edges[($p << 31) | $q], $edges[$back]);
                $edges[($r << 31) | $p] = 3 * $f;
                $edges[($p << 31) | $s] = 3 * $f + 1;
                $edges[($s << 31) | $r] = 3 * $f + 2;
                $edges[($s << 31) | $q] = 3 * $g;
                $edges[($q << 31) | $r] = 3 * $g + 1;
                $edges[($r << 31) | $s] = 3 * $g + 2;
                $changed = true;
            }
            if (! $changed) {
                break;
            }
        }

        return $faces;
    }
}
