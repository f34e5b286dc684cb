<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

use YardBreak\Core\Problem;

/**
 * Where a camera stood, how it was turned and how long its lens was, from places whose pictures are known: least squares of the distances
 * in the picture by Levenberg and Marquardt, from many starts, of which the best counts. Without lens distortion; the middle of the picture is
 * its principal point (Hartley & Zisserman, *Multiple View Geometry*, 2nd ed., ch. 7).
 */
final readonly class CameraSolve
{
    /** What is solved for: place, turn, length of the lens. */
    private const UNKNOWNS = 7;

    /** Focal lengths tried, by the width of the picture. */
    private const LENSES = [0.6, 1.2, 2.4, 5.0];

    /** Ways round the places that are tried, and heights. */
    private const ROUND = 8;

    private const HEIGHTS = [-0.35, 0.1, 0.5, 1.2];

    /** Steps from each start, and from the best of them. */
    private const ROUGH = 12;

    private const FINE = 60;

    private const STARTS_KEPT = 6;

    /** Pixels by which what lies behind the camera is off. */
    private const BEHIND = 1e4;

    /** Of the longest way across the places, what they must reach across that. */
    private const THIN = 1e-3;

    /**
     * @param  Vec3  $position  where it stands
     * @param  Quaternion  $turn  from looking along −z with y up
     * @param  float  $focal  in widths of the picture
     * @param  float  $residual  pixels, root of the mean square of what is left
     * @param  list<float>  $left  pixels that each match is off
     * @param  float  $sure  by which share the focal length changes where a match is off by a pixel, about
     */
    private function __construct(public Vec3 $position, public Quaternion $turn, public float $focal, public float $residual, public array $left, public float $sure)
    {
    }

    /**
     * @param  list<array{0: Vec3, 1: array{float, float}, 2?: Vec3, 3?: array{float, float}}>  $matches  a place and where in the picture it is, in pixels from the left and the
     *   top; of a line both ends, where those in the picture may lie anywhere along it
     * @param  array{int, int}  $shape  width and height of the picture, pixels
     *
     * @throws Problem where they do not tell
     */
    public static function of(array $matches, array $shape): self
    {
        if (2 * count($matches) < self::UNKNOWNS) {
            throw Problem::inValue('matches', count($matches) === 0 ? 'Nothing is matched yet.' : 'The camera cannot be found from '.count($matches).' match'.(count($matches) === 1 ? '' : 'es').'.', 'Match four or more; from six on it is sure.');
        }
        [$middle, $size] = self::spread($matches);
        $starts = [];
        foreach (self::starts($matches, $shape, $middle, $size) as $start) {
            $starts[] = self::settle($start, $matches, $shape, $size, self::ROUGH);
        }
        usort($starts, static fn (array $a, array $b): int => $a[1] <=> $b[1]);
        $best = null;
        foreach (array_slice($starts, 0, self::STARTS_KEPT) as [$start]) {
            $found = self::settle($start, $matches, $shape, $size, self::FINE);
            $best = $best === null || $found[1] < $best[1] ? $found : $best;
        }
        assert($best !== null);
        [$position, $turn, $focal] = $best[0];
        $off = self::off($best[0], $matches, $shape);
        $left = [];
        foreach (array_keys($matches) as $k) {
            $left[] = sqrt($off[2 * $k] ** 2 + $off[2 * $k + 1] ** 2);
        }
        if (max($left) >= self::BEHIND) {
            throw Problem::inValue('matches', 'No camera sees these places there.', 'Look whether two of them are matched the wrong way round.');
        }

        return new self($position, $turn, $focal, sqrt(array_sum(array_map(static fn (float $d): float => $d * $d, $left)) / count($left)), $left, self::sureness($best[0], $matches, $shape, $size));
    }

    /**
     * @param  list<array{0: Vec3, 1: array{float, float}, 2?: Vec3, 3?: array{float, float}}>  $matches
     * @return array{Vec3, float} the middle of all places, and how far they reach from it
     *
     * @throws Problem where they lie on one line
     */
    private static function spread(array $matches): array
    {
        $places = [];
        foreach ($matches as $m) {
            $places[] = $m[0];
            if (isset($m[2])) {
                $places[] = $m[2];
            }
        }
        $middle = array_reduce($places, static fn (Vec3 $sum, Vec3 $p): Vec3 => $sum->plus($p), Vec3::zero())->times(1.0 / count($places));
        $far = $middle;
        foreach ($places as $p) {
            $far = $p->minus($middle)->length() > $far->minus($middle)->length() ? $p : $far;
        }
        $way = $far->minus($middle);
        $long = $way->length();
        $across = 0.0;
        foreach ($places as $p) {
            $from = $p->minus($middle);
            $across = max($across, $long > 0.0 ? $from->minus($way->times($from->dot($way) / ($long * $long)))->length() : 0.0);
        }
        if ($across <= self::THIN * $long) {
            throw Problem::inValue('matches', $long > 0.0 ? 'All these places lie on one line, so the camera could be anywhere round it.' : 'All these places are one.', 'Match one that lies off that line, better at another depth too.');
        }

        return [$middle, $long];
    }

    /**
     * @param  list<array{0: Vec3, 1: array{float, float}, 2?: Vec3, 3?: array{float, float}}>  $matches
     * @param  array{int, int}  $shape
     * @return iterable<array{Vec3, Quaternion, float}>
     */
    private static function starts(array $matches, array $shape, Vec3 $middle, float $size): iterable
    {
        $u = $v = [];
        foreach ($matches as $m) {
            foreach ([$m[1], $m[3] ?? $m[1]] as [$x, $y]) {
                $u[] = $x;
                $v[] = $y;
            }
        }
        [$cu, $cv] = [array_sum($u) / count($u), array_sum($v) / count($v)];
        $reach = max(1.0, hypot(max($u) - min($u), max($v) - min($v)) / 2.0);
        foreach (self::LENSES as $lens) {
            $distance = $lens * $shape[0] * $size / $reach;
            // What is seen off the middle of the picture is looked past.
            $past = new Vec3(($cu - $shape[0] / 2.0) / ($lens * $shape[0]), -($cv - $shape[1] / 2.0) / ($lens * $shape[0]), -1.0);
            for ($k = 0; $k < self::ROUND; $k++) {
                foreach (self::HEIGHTS as $height) {
                    $back = (new Vec3(sin(2.0 * M_PI * $k / self::ROUND), $height, cos(2.0 * M_PI * $k / self::ROUND)))->unit();
                    $right = (new Vec3(0.0, 1.0, 0.0))->cross($back)->unit();
                    $turn = Quaternion::fromAxes($right, $back->cross($right), $back);
                    yield [$middle->minus($turn->turn($past->unit())->times($distance)), $turn, $lens];
                }
            }
        }
    }

    /**
     * @param  array{Vec3, Quaternion, float}  $at
     * @param  list<array{0: Vec3, 1: array{float, float}, 2?: Vec3, 3?: array{float, float}}>  $matches
     * @param  array{int, int}  $shape
     * @return array{array{Vec3, Quaternion, float}, float} where it settles, and the sum of squares there
     */
    private static function settle(array $at, array $matches, array $shape, float $size, int $steps): array
    {
        $off = self::off($at, $matches, $shape);
        $sum = self::squares($off);
        $damp = 1e-3;
        for ($k = 0; $k < $steps; $k++) {
            [$jtj, $jtr] = self::normal($at, $off, $matches, $shape, $size);
            $better = false;
            for ($try = 0; $try < 8; $try++) {
                $damped = $jtj;
                for ($i = 0; $i < self::UNKNOWNS; $i++) {
                    $damped[$i][$i] += $damp * max($jtj[$i][$i], 1e-12);
                }
                $step = self::solved($damped, $jtr);
                $next = $step === null ? null : self::moved($at, array_map(static fn (float $s): float => -$s, $step), $size);
                $there = $next === null ? null : self::off($next, $matches, $shape);
                if ($next !== null && $there !== null && self::squares($there) < $sum) {
                    $gain = $sum - self::squares($there);
                    [$at, $off, $sum, $damp, $better] = [$next, $there, self::squares($there), max(1e-12, $damp / 5.0), $gain > 1e-14 * (1.0 + $sum)];
                    break;
                }
                $damp *= 6.0;
            }
            if (! $better) {
                break;
            }
        }

        return [$at, $sum];
    }

    /**
     * Two numbers a match: pixels it is off to the right and down; of a line, pixels that each end is off it.
     *
     * @param  array{Vec3, Quaternion, float}  $at
     * @param  list<array{0: Vec3, 1: array{float, float}, 2?: Vec3, 3?: array{float, float}}>  $matches
     * @param  array{int, int}  $shape
     * @return list<float>
     */
    private static function off(array $at, array $matches, array $shape): array
    {
        [$position, $turn, $focal] = $at;
        $back = $turn->inverse();
        $see = static function (Vec3 $p) use ($position, $back, $focal, $shape): ?array {
            $q = $back->turn($p->minus($position));

            return $q->z >= -1e-9 ? null : [$shape[0] / 2.0 - $focal * $shape[0] * $q->x / $q->z, $shape[1] / 2.0 + $focal * $shape[0] * $q->y / $q->z];
        };
        $out = [];
        foreach ($matches as $m) {
            $one = $see($m[0]);
            if (! isset($m[2], $m[3])) {
                array_push($out, ...($one === null ? [self::BEHIND, self::BEHIND] : [$one[0] - $m[1][0], $one[1] - $m[1][1]]));

                continue;
            }
            $other = $see($m[2]);
            [$dx, $dy] = [$m[3][0] - $m[1][0], $m[3][1] - $m[1][1]];
            $long = max(1e-9, hypot($dx, $dy));
            foreach ([$one, $other] as $end) {
                $out[] = $end === null ? self::BEHIND : (($end[0] - $m[1][0]) * $dy - ($end[1] - $m[1][1]) * $dx) / $long;
            }
        }

        return $out;
    }

    /**
     * @param  array{Vec3, Quaternion, float}  $at
     * @param  list<float>  $step  place by size, turn in radians, logarithm of the focal length
     * @return array{Vec3, Quaternion, float}
     */
    private static function moved(array $at, array $step, float $size): array
    {
        [$position, $turn, $focal] = $at;
        $about = new Vec3($step[3], $step[4], $step[5]);
        $turned = $about->length() > 1e-300 ? Quaternion::aboutAxis($about->unit(), $about->length())->after($turn)->unit() : $turn;

        return [$position->plus((new Vec3($step[0], $step[1], $step[2]))->times($size)), $turned, $focal * exp(max(-1.0, min(1.0, $step[6])))];
    }

    /**
     * @param  array{Vec3, Quaternion, float}  $at
     * @param  list<float>  $off
     * @param  list<array{0: Vec3, 1: array{float, float}, 2?: Vec3, 3?: array{float, float}}>  $matches
     * @param  array{int, int}  $shape
     * @return array{list<list<float>>, list<float>} JᵀJ, and Jᵀ of what is off
     */
    private static function normal(array $at, array $off, array $matches, array $shape, float $size): array
    {
        $h = 1e-6;
        $columns = [];
        for ($i = 0; $i < self::UNKNOWNS; $i++) {
            $step = array_fill(0, self::UNKNOWNS, 0.0);
            $step[$i] = $h;
            $forth = self::off(self::moved($at, $step, $size), $matches, $shape);
            $step[$i] = -$h;
            $back = self::off(self::moved($at, $step, $size), $matches, $shape);
            $columns[] = array_map(static fn (float $a, float $b): float => ($a - $b) / (2.0 * $h), $forth, $back);
        }
        $dot = static fn (array $a, array $b): float => array_sum(array_map(static fn (float $x, float $y): float => $x * $y, $a, $b));

        return [array_map(static fn (array $a): array => array_map(static fn (array $b): float => $dot($a, $b), $columns), $columns), array_map(static fn (array $a): float => $dot($a, $off), $columns)];
    }

    /**
     * @param  array{Vec3, Quaternion, float}  $at
     * @param  list<array{0: Vec3, 1: array{float, float}, 2?: Vec3, 3?: array{float, float}}>  $matches
     * @param  array{int, int}  $shape
     */
    private static function sureness(array $at, array $matches, array $shape, float $size): float
    {
        $jtj = self::normal($at, self::off($at, $matches, $shape), $matches, $shape, $size)[0];
        $unit = array_fill(0, self::UNKNOWNS, 0.0);
        $unit[6] = 1.0;
        $column = self::solved($jtj, $unit);

        // The variance of a value is its place on the diagonal of the inverse.
        return $column === null || $column[6] <= 0.0 ? INF : sqrt($column[6]);
    }

    /**
     * @param  list<list<float>>  $a
     * @param  list<float>  $b
     * @return list<float>|null x with A·x = b, by elimination; null where there is none
     */
    private static function solved(array $a, array $b): ?array
    {
        $n = count($b);
        for ($i = 0; $i < $n; $i++) {
            $pivot = $i;
            for ($r = $i + 1; $r < $n; $r++) {
                $pivot = abs($a[$r][$i]) > abs($a[$pivot][$i]) ? $r : $pivot;
            }
            if (abs($a[$pivot][$i]) < 1e-300) {
                return null;
            }
            [$a[$i], $a[$pivot], $b[$i], $b[$pivot]] = [$a[$pivot], $a[$i], $b[$pivot], $b[$i]];
            for ($r = $i + 1; $r < $n; $r++) {
                $f = $a[$r][$i] / $a[$i][$i];
                for ($c = $i; $c < $n; $c++) {
                    $a[$r][$c] -= $f * $a[$i][$c];
                }
                $b[$r] -= $f * $b[$i];
            }
        }
        $x = array_fill(0, $n, 0.0);
        for ($i = $n - 1; $i >= 0; $i--) {
            $sum = $b[$i];
            for ($c = $i + 1; $c < $n; $c++) {
                $sum -= $a[$i][$c] * $x[$c];
            }
            $x[$i] = $sum / $a[$i][$i];
        }

        return $x;
    }

    /** @param  list<float>  $off */
    private static function squares(array $off): float
    {
        return array_sum(array_map(static fn (float $d): float => $d * $d, $off));
    }
}
