<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

/**
 * Triangles of a flat region with points strewn evenly into it. Each point splits the triangle it falls in, and
 * edges within are flipped until no circle round a triangle holds another's corner (Lawson 1977).
 */
final class FilledTriangulation
{
    /** Shares of the step a new point keeps from corners, and from the region's border. */
    private const FROM_CORNERS = 0.45;

    private const FROM_BORDER = 0.4;

    private const MOST_FLIPS = 200;

    /** @var array<int, array{int, int, int}> */
    private array $tri = [];

    /** @var array<int, int> triangle by directed edge */
    private array $at = [];

    private int $made = 0;

    private int $last = 0;

    /**
     * @param  list<int>  $triangles  flat triples, counter-clockwise
     * @param  array<int, float>  $u  by point
     * @param  array<int, float>  $v
     */
    public function __construct(array $triangles, private array $u, private array $v)
    {
        for ($i = 0, $n = count($triangles); $i < $n; $i += 3) {
            $this->add($triangles[$i], $triangles[$i + 1], $triangles[$i + 2]);
        }
    }

    /**
     * @param  int  $number  of the first point put in
     * @return list<array{float, float}> the points put in
     */
    public function fill(float $step, int $number): array
    {
        $lowU = min($this->u);
        $highU = max($this->u);
        $lowV = min($this->v);
        $highV = max($this->v);
        $out = [];
        $row = 0;
        for ($v = $lowV + 0.5 * $step; $v < $highV; $v += 0.866 * $step, $row++) {
            for ($u = $lowU + ($row % 2 === 0 ? 0.5 : 1.0) * $step; $u < $highU; $u += $step) {
                $t = $this->holding($u, $v);
                if ($t === null || ! $this->hasRoom($t, $u, $v, $step)) {
                    continue;
                }
                $p = $number + count($out);
                $this->u[$p] = $u;
                $this->v[$p] = $v;
                $out[] = [$u, $v];
                $this->insert($t, $p);
            }
        }

        return $out;
    }

    /** @return list<int> flat triples */
    public function triangles(): array
    {
        return array_merge(...array_values($this->tri));
    }

    private function add(int $a, int $b, int $c): int
    {
        $t = $this->made++;
        $this->tri[$t] = [$a, $b, $c];
        $this->at[$a << 31 | $b] = $this->at[$b << 31 | $c] = $this->at[$c << 31 | $a] = $t;

        return $t;
    }

    private function remove(int $t): void
    {
        [$a, $b, $c] = $this->tri[$t];
        unset($this->tri[$t], $this->at[$a << 31 | $b], $this->at[$b << 31 | $c], $this->at[$c << 31 | $a]);
    }

    private function holding(float $u, float $v): ?int
    {
        $t = isset($this->tri[$this->last]) ? $this->last : array_key_first($this->tri);
        // Walk towards the point; where a border is in the way, look everywhere.
        for ($steps = 0; $t !== null && $steps < 64; $steps++) {
            [$a, $b, $c] = $this->tri[$t];
            $over = null;
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                if (($this->u[$q] - $this->u[$p]) * ($v - $this->v[$p]) - ($this->v[$q] - $this->v[$p]) * ($u - $this->u[$p]) < 0.0) {
                    $over = $this->at[$q << 31 | $p] ?? -1;
                    break;
                }
            }
            if ($over === null) {
                return $this->last = $t;
            }
            $t = $over >= 0 ? $over : null;
        }
        foreach ($this->tri as $k => [$a, $b, $c]) {
            if ($this->side($a, $b, $u, $v) >= 0.0 && $this->side($b, $c, $u, $v) >= 0.0 && $this->side($c, $a, $u, $v) >= 0.0) {
                return $this->last = $k;
            }
        }

        return null;
    }

    private function side(int $p, int $q, float $u, float $v): float
    {
        return ($this->u[$q] - $this->u[$p]) * ($v - $this->v[$p]) - ($this->v[$q] - $this->v[$p]) * ($u - $this->u[$p]);
    }

    private function hasRoom(int $t, float $u, float $v, float $step): bool
    {
        foreach ($this->tri[$t] as $k => $p) {
            $q = $this->tri[$t][($k + 1) % 3];
            $du = $this->u[$p] - $u;
            $dv = $this->v[$p] - $v;
            if ($du * $du + $dv * $dv < (self::FROM_CORNERS * $step) ** 2) {
                return false;
            }
            if (! isset($this->at[$q << 31 | $p])) {
                $length = hypot($this->u[$q] - $this->u[$p], $this->v[$q] - $this->v[$p]);
                if ($this->side($p, $q, $u, $v) < self::FROM_BORDER * $step * $length) {
                    return false;
                }
            }
        }

        return true;
    }

    private function insert(int $t, int $p): void
    {
        [$a, $b, $c] = $this->tri[$t];
        $this->remove($t);
        $this->last = $this->add($a, $b, $p);
        $this->add($b, $c, $p);
        $this->add($c, $a, $p);
        $open = [[$a, $b], [$b, $c], [$c, $a]];
        for ($flips = 0; $open !== [] && $flips < self::MOST_FLIPS; $flips++) {
            [$q, $r] = array_pop($open);
            $own = $this->at[$q << 31 | $r] ?? null;
            $other = $this->at[$r << 31 | $q] ?? null;
            if ($own === null || $other === null) {
                continue;
            }
            $s = array_sum($this->tri[$other]) - $q - $r;
            if (
                ! $this->inCircle($q, $r, $p, $s)
                || $this->side($p, $q, $this->u[$s], $this->v[$s]) <= 0.0
                || $this->side($s, $r, $this->u[$p], $this->v[$p]) <= 0.0
            ) {
                continue;
            }
            $this->remove($own);
            $this->remove($other);
            $this->last = $this->add($p, $q, $s);
            $this->add($p, $s, $r);
            $open[] = [$q, $s];
            $open[] = [$s, $r];
        }
    }

    private function inCircle(int $a, int $b, int $c, int $d): bool
    {
        $ax = $this->u[$a] - $this->u[$d];
        $ay = $this->v[$a] - $this->v[$d];
        $bx = $this->u[$b] - $this->u[$d];
        $by = $this->v[$b] - $this->v[$d];
        $cx = $this->u[$c] - $this->u[$d];
        $cy = $this->v[$c] - $this->v[$d];

        return ($ax * $ax + $ay * $ay) * ($bx * $cy - $cx * $by) - ($bx * $bx + $by * $by) * ($ax * $cy - $cx * $ay) + ($cx * $cx + $cy * $cy) * ($ax * $by - $bx * $ay) > 1e-16;
    }
}
