<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** A chain of straight lines in a plane. */
final readonly class Polyline
{
    private const LONGEST_SPAN = 256;

    /**
     * @param  list<array{float, float}>  $points  not repeated at the end where closed
     * @param  string  $name  that stays with it among others
     */
    public function __construct(public array $points, public bool $closed, public string $name = '')
    {
    }

    /** Positive where it runs counter-clockwise. */
    public function area(): float
    {
        $sum = 0.0;
        $n = count($this->points);
        [$ou, $ov] = $this->points[0];
        for ($i = 0; $i < $n; $i++) {
            [$au, $av] = $this->points[$i];
            [$bu, $bv] = $this->points[($i + 1) % $n];
            $sum += ($au - $ou) * ($bv - $ov) - ($bu - $ou) * ($av - $ov);
        }

        return 0.5 * $sum;
    }

    public function length(): float
    {
        $sum = 0.0;
        $n = count($this->points);
        for ($i = $this->closed ? 0 : 1; $i < $n; $i++) {
            [$au, $av] = $this->points[($i + $n - 1) % $n];
            $sum += hypot($this->points[$i][0] - $au, $this->points[$i][1] - $av);
        }

        return $sum;
    }

    /**
     * Scaled, then turned, then moved.
     *
     * @param  float  $turn  radians, counter-clockwise
     */
    public function placed(float $scale, float $turn = 0.0, float $u = 0.0, float $v = 0.0): self
    {
        $c = $scale * cos($turn);
        $s = $scale * sin($turn);

        return new self(
            array_map(static fn (array $p): array => [$c * $p[0] - $s * $p[1] + $u, $s * $p[0] + $c * $p[1] + $v], $this->points),
            $this->closed,
            $this->name,
        );
    }

    /** With as few points as keep it within the tolerance (Douglas & Peucker 1973). */
    public function simplified(float $tolerance): self
    {
        $points = $this->points;
        $n = count($points);
        if ($n < 3) {
            return $this;
        }
        $keep = array_fill(0, $n + 1, false);
        $long = [[0, $n - 1]];
        $keep[0] = $keep[$n - 1] = true;
        if ($this->closed) {
            // From the first point to the one farthest from it, and back.
            $points[] = $points[0];
            $far = 0;
            foreach ($points as $k => $p) {
                if (hypot($p[0] - $points[0][0], $p[1] - $points[0][1]) > hypot($points[$far][0] - $points[0][0], $points[$far][1] - $points[0][1])) {
                    $far = $k;
                }
            }
            $keep[$n - 1] = false;
            $keep[$far] = true;
            $long = [[0, $far], [$far, $n]];
        }
        // Long spans are parted first, for the work grows with the square of their length.
        $spans = [];
        foreach ($long as [$a, $b]) {
            for (; $b - $a > self::LONGEST_SPAN; $a += self::LONGEST_SPAN) {
                $keep[$a + self::LONGEST_SPAN] = true;
                $spans[] = [$a, $a + self::LONGEST_SPAN];
            }
            $spans[] = [$a, $b];
        }
        while ($spans !== []) {
            [$a, $b] = array_pop($spans);
            $most = $tolerance;
            $at = -1;
            for ($k = $a + 1; $k < $b; $k++) {
                $d = self::distance($points[$k], $points[$a], $points[$b]);
                if ($d > $most) {
                    $most = $d;
                    $at = $k;
                }
            }
            if ($at >= 0) {
                $keep[$at] = true;
                $spans[] = [$a, $at];
                $spans[] = [$at, $b];
            }
        }
        $out = [];
        for ($k = 0; $k < $n; $k++) {
            if ($keep[$k]) {
                $out[] = $points[$k];
            }
        }

        return new self($out, $this->closed, $this->name);
    }

    /** Whether a closed line goes round a point (even-odd rule). */
    public function holds(float $u, float $v): bool
    {
        $in = false;
        [$au, $av] = $this->points[count($this->points) - 1];
        foreach ($this->points as [$bu, $bv]) {
            if (($av > $v) !== ($bv > $v) && $u < $au + ($v - $av) / ($bv - $av) * ($bu - $au)) {
                $in = ! $in;
            }
            $au = $bu;
            $av = $bv;
        }

        return $in;
    }

    /** The least distance from a point to the line. */
    public function distanceTo(float $u, float $v): float
    {
        $n = count($this->points);
        $best = INF;
        for ($i = $this->closed ? 0 : 1; $i < $n; $i++) {
            $best = min($best, self::distance([$u, $v], $this->points[($i + $n - 1) % $n], $this->points[$i]));
        }

        return $best;
    }

    /**
     * @param  array{float, float}  $p
     * @param  array{float, float}  $a
     * @param  array{float, float}  $b
     */
    private static function distance(array $p, array $a, array $b): float
    {
        $du = $b[0] - $a[0];
        $dv = $b[1] - $a[1];
        $l = $du * $du + $dv * $dv;
        $t = $l > 0.0 ? (($p[0] - $a[0]) * $du + ($p[1] - $a[1]) * $dv) / $l : 0.0;
        $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);

        return hypot($p[0] - $a[0] - $t * $du, $p[1] - $a[1] - $t * $dv);
    }

    /** @return array{float, float}|null where the line first crosses itself */
    public function crossing(): ?array
    {
        $n = count($this->points);
        $edges = $this->closed ? $n : $n - 1;
        for ($i = 0; $i < $edges; $i++) {
            [$a, $b] = [$this->points[$i], $this->points[($i + 1) % $n]];
            for ($k = $i + 2; $k < $edges; $k++) {
                if ($i === 0 && $k === $n - 1) {
                    continue;
                }
                [$c, $d] = [$this->points[$k], $this->points[($k + 1) % $n]];
                $cross = ($b[0] - $a[0]) * ($d[1] - $c[1]) - ($b[1] - $a[1]) * ($d[0] - $c[0]);
                if (abs($cross) < 1e-300) {
                    continue;
                }
                $s = (($c[0] - $a[0]) * ($d[1] - $c[1]) - ($c[1] - $a[1]) * ($d[0] - $c[0])) / $cross;
                $t = (($c[0] - $a[0]) * ($b[1] - $a[1]) - ($c[1] - $a[1]) * ($b[0] - $a[0])) / $cross;
                if ($s > 0.0 && $s < 1.0 && $t > 0.0 && $t < 1.0) {
                    return [$a[0] + $s * ($b[0] - $a[0]), $a[1] + $s * ($b[1] - $a[1])];
                }
            }
        }

        return null;
    }
}
