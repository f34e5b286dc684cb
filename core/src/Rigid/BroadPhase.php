<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/**
 * Which boxes meet: a sweep upwards over columns of a grid, so that every box is compared only with the few that stand
 * in its columns at its height. Time grows as n log n while boxes are of like sizes; those much larger than the others
 * are compared with all.
 */
final class BroadPhase
{
    /** A box over more columns than this is compared with every other instead. */
    private const WIDE = 64;

    /** Columns a mean box is wide. */
    private const FINE = 0.6;

    /** Touches nothing by itself: pairs of such boxes are left out, unless one waits. */
    public const STILL = 0;

    /** As still, but a keyed one that comes wakes it. */
    public const RESTING = -1;

    public const MOVING = 2;

    /** Wants to know what touches it: meets all but its own group. */
    public const WAITING = 3;

    /** Moved along its keys: as still to what is still, but it meets what rests. */
    public const KEYED = 4;

    /**
     * @param  list<float>  $x0  low and high sides of the boxes
     * @param  list<float>  $x1
     * @param  list<float>  $y0
     * @param  list<float>  $y1
     * @param  list<float>  $z0
     * @param  list<float>  $z1
     * @param  list<int>  $kind  one of the constants above, a box each
     * @param  list<int>  $body  boxes of one body never make a pair
     * @param  list<int>  $group
     * @return list<int> pairs, flat, the lower number first
     */
    public static function pairs(array $x0, array $x1, array $y0, array $y1, array $z0, array $z1, array $kind, array $body, array $group): array
    {
        $width = $depth = 0.0;
        $active = $still = [];
        foreach ($kind as $c => $k) {
            if ($k >= self::MOVING) {
                $active[] = $c;
                $width += $x1[$c] - $x0[$c];
                $depth += $z1[$c] - $z0[$c];
            } else {
                $still[] = $c;
            }
        }
        if ($active === []) {
            return [];
        }
        $perX = self::FINE * count($active) / ($width > 0.0 ? $width : 1.0);
        $perZ = self::FINE * count($active) / ($depth > 0.0 ? $depth : 1.0);
        // Columns something active stands in; what stands in none of them meets nothing.
        $open = [];
        $wide = [];
        $level = [];
        $fromX = $toX = $fromZ = $toZ = [];
        // What is active comes first and opens its columns.
        foreach ([...$active, ...$still] as $c) {
            $i0 = (int) floor($x0[$c] * $perX);
            $i1 = (int) floor($x1[$c] * $perX);
            $j0 = (int) floor($z0[$c] * $perZ);
            $j1 = (int) floor($z1[$c] * $perZ);
            if (($i1 - $i0 + 1) * ($j1 - $j0 + 1) > self::WIDE) {
                $wide[$c] = true;

                continue;
            }
            $opens = $kind[$c] >= self::MOVING;
            $stands = $opens;
            for ($i = $i0; $i <= $i1; $i++) {
                for ($j = $j0; $j <= $j1; $j++) {
                    $column = $i << 24 ^ $j & 0xFFFFFF;
                    if ($opens) {
                        $open[$column] = [];
                    } elseif (isset($open[$column])) {
                        $stands = true;
                        break 2;
                    }
                }
            }
            if ($stands) {
                $level[$c] = $y0[$c];
                $fromX[$c] = $i0;
                $toX[$c] = $i1;
                $fromZ[$c] = $j0;
                $toZ[$c] = $j1;
            }
        }
        asort($level);
        foreach ($level as $c => $_) {
            for ($i = $fromX[$c], $i1 = $toX[$c], $j1 = $toZ[$c]; $i <= $i1; $i++) {
                for ($j = $fromZ[$c]; $j <= $j1; $j++) {
                    $column = $i << 24 ^ $j & 0xFFFFFF;
                    if (isset($open[$column])) {
                        $open[$column][] = $c;
                    }
                }
            }
        }
        $pairs = [];
        foreach ($open as $column => $stand) {
            for ($at = 0, $n = count($stand); $at < $n; $at++) {
                $c = $stand[$at];
                $top = $y1[$c];
                $cx0 = $x0[$c];
                $cx1 = $x1[$c];
                $cz0 = $z0[$c];
                $cz1 = $z1[$c];
                $ck = $kind[$c];
                $cb = $body[$c];
                for ($next = $at + 1; $next < $n; $next++) {
                    $d = $stand[$next];
                    if ($y0[$d] > $top) {
                        break;
                    }
                    if ($x0[$d] > $cx1 || $x1[$d] < $cx0 || $z0[$d] > $cz1 || $z1[$d] < $cz0) {
                        continue;
                    }
                    // Of the columns both stand in, the first speaks for the pair.
                    $i0 = $fromX[$c];
                    $j0 = $fromZ[$c];
                    if ($fromX[$d] > $i0) {
                        $i0 = $fromX[$d];
                    }
                    if ($fromZ[$d] > $j0) {
                        $j0 = $fromZ[$d];
                    }
                    if (($i0 << 24 ^ $j0 & 0xFFFFFF) !== $column) {
                        continue;
                    }
                    $dk = $kind[$d];
                    if (
                        $cb === $body[$d]
                        || (
                            $ck !== 2
                            && $dk !== 2
                            && ($ck !== 3 && $dk !== 3 || $group[$c] === $group[$d])
                            && ($ck !== 4 || $dk !== -1)
                            && ($ck !== -1 || $dk !== 4)
                        )
                    ) {
                        continue;
                    }
                    if ($c < $d) {
                        $pairs[] = $c;
                        $pairs[] = $d;
                    } else {
                        $pairs[] = $d;
                        $pairs[] = $c;
                    }
                }
            }
        }
        foreach ($wide as $c => $_) {
            $ck = $kind[$c];
            foreach ($kind as $d => $dk) {
                if ($c === $d || (isset($wide[$d]) && $d < $c)
                    || $x0[$d] > $x1[$c] || $x1[$d] < $x0[$c] || $y0[$d] > $y1[$c] || $y1[$d] < $y0[$c] || $z0[$d] > $z1[$c] || $z1[$d] < $z0[$c]
                    || $body[$c] === $body[$d] || (
                        $ck !== 2
                        && $dk !== 2
                        && ($ck !== 3 && $dk !== 3 || $group[$c] === $group[$d])
                        && ($ck !== 4 || $dk !== -1)
                        && ($ck !== -1 || $dk !== 4)
                    )) {
                    continue;
                }
                $pairs[] = $c < $d ? $c : $d;
                $pairs[] = $c < $d ? $d : $c;
            }
        }

        return $pairs;
    }
}
