<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * Triangles of the plane round given points in which given segments are edges.
 *
 * Points are put in one by one and edges flipped until no circle round a triangle holds another's corner (Lawson
 * 1977); segments are put in by flipping the edges that cross them (Sloan 1993, "A fast algorithm for generating
 * constrained Delaunay triangulations"). Where two segments cross, a point is made; where one passes a point within
 * the tolerance, it goes through it.
 */
final class ConstrainedTriangulation
{
    /** Points nearer than this are one; in the unit of the coordinates, which are about 1 in size. */
    private const SAME = 1e-7;

    /** @var list<float> */
    public array $u = [];

    /** @var list<float> */
    public array $v = [];

    /** @var list<int> three points a triangle, counter-clockwise */
    public array $corner = [];

    /** @var list<int> the triangle across the edge from corner k to the next, −1 outside */
    public array $across = [];

    /** @var list<bool> whether that edge is part of a segment */
    public array $fixed = [];

    /** @var list<int> some triangle at each point */
    private array $at = [];

    private int $last = 0;

    /** Starts with a rectangle; every point must lie within it. */
    public function __construct(float $lowU, float $lowV, float $highU, float $highV)
    {
        $this->u = [$lowU, $highU, $highU, $lowU];
        $this->v = [$lowV, $lowV, $highV, $highV];
        $this->corner = [0, 1, 2, 0, 2, 3];
        $this->across = [-1, -1, 1, 0, -1, -1];
        $this->fixed = [false, false, false, false, false, false];
        $this->at = [0, 0, 0, 1];
    }

    public function triangleCount(): int
    {
        return intdiv(count($this->corner), 3);
    }

    /** @return int the number of the point, an earlier one where they are the same */
    public function point(float $u, float $v): int
    {
        $t = $this->holding($u, $v);
        for ($k = 0; $k < 3; $k++) {
            $p = $this->corner[3 * $t + $k];
            if (abs($this->u[$p] - $u) < self::SAME && abs($this->v[$p] - $v) < self::SAME) {
                return $p;
            }
        }
        for ($k = 0; $k < 3; $k++) {
            $a = $this->corner[3 * $t + $k];
            $b = $this->corner[3 * $t + ($k + 1) % 3];
            $length = hypot($this->u[$b] - $this->u[$a], $this->v[$b] - $this->v[$a]);
            // On a segment the point becomes part of it; elsewhere only what is on the edge to the last digit counts.
            if ($this->side($a, $b, $u, $v) < ($this->fixed[3 * $t + $k] ? self::SAME : 1e-14) * $length) {
                return $this->splitEdge($t, $k, $u, $v);
            }
        }

        return $this->splitTriangle($t, $u, $v);
    }

    /** Makes the straight line between two points a chain of fixed edges. */
    public function segment(int $a, int $b): void
    {
        $todo = [[$a, $b]];
        while ($todo !== []) {
            [$a, $b] = array_pop($todo);
            if ($a === $b) {
                continue;
            }
            $stop = $this->connect($a, $b);
            if ($stop !== $b) {
                $todo[] = [$a, $stop];
                $todo[] = [$stop, $b];
            }
        }
    }

    /** The triangle a point lies in. */
    public function holding(float $u, float $v): int
    {
        $t = $this->last;
        for ($steps = 0, $most = 3 * $this->triangleCount() + 16; $steps < $most; $steps++) {
            $over = -1;
            // Which edge is looked at first changes, so that no walk goes round and round.
            for ($i = 0; $i < 3; $i++) {
                $k = ($i + $steps) % 3;
                if ($this->side($this->corner[3 * $t + $k], $this->corner[3 * $t + ($k + 1) % 3], $u, $v) < 0.0) {
                    $over = $this->across[3 * $t + $k];
                    if ($over < 0) {
                        throw new \UnexpectedValueException('point outside');
                    }
                    break;
                }
            }
            if ($over < 0) {
                return $this->last = $t;
            }
            $t = $over;
        }
        // Round and round between triangles thinner than rounding: the one it lies least outside of.
        $best = INF;
        for ($i = 0, $n = count($this->corner); $i < $n; $i += 3) {
            [$a, $b, $c] = [$this->corner[$i], $this->corner[$i + 1], $this->corner[$i + 2]];
            $out = -min($this->side($a, $b, $u, $v), $this->side($b, $c, $u, $v), $this->side($c, $a, $u, $v));
            if ($out < $best) {
                $best = $out;
                $t = intdiv($i, 3);
            }
        }

        return $this->last = $t;
    }

    /**
     * Triangles in regions that segments part from each other.
     *
     * @return list<int> region of each triangle; the one round everything is 0
     */
    public function regions(): array
    {
        $count = $this->triangleCount();
        $region = array_fill(0, $count, -1);
        $next = 0;
        $outside = $this->at[0];
        for ($i = -1; $i < $count; $i++) {
            $first = $i < 0 ? $outside : $i;
            if ($region[$first] >= 0) {
                continue;
            }
            $stack = [$first];
            $region[$first] = $next;
            while ($stack !== []) {
                $t = array_pop($stack);
                for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                    $o = $this->across[$k];
                    if ($o >= 0 && $region[$o] < 0 && ! $this->fixed[$k]) {
                        $region[$o] = $next;
                        $stack[] = $o;
                    }
                }
            }
            $next++;
        }

        return $region;
    }

    /**
     * Whether each triangle lies within the outlines: going out from it crosses fixed edges an odd number of times.
     *
     * @return list<bool>
     */
    public function within(): array
    {
        $count = $this->triangleCount();
        $depth = array_fill(0, $count, -1);
        $depth[$this->at[0]] = 0;
        $queue = [$this->at[0]];
        for ($h = 0; $h < count($queue); $h++) {
            $t = $queue[$h];
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $o = $this->across[$k];
                if ($o >= 0 && $depth[$o] < 0) {
                    $depth[$o] = $depth[$t] ^ ($this->fixed[$k] ? 1 : 0);
                    $queue[] = $o;
                }
            }
        }

        return array_map(static fn (int $d): bool => $d === 1, $depth);
    }

    private function side(int $a, int $b, float $u, float $v): float
    {
        return ($this->u[$b] - $this->u[$a]) * ($v - $this->v[$a]) - ($this->v[$b] - $this->v[$a]) * ($u - $this->u[$a]);
    }

    private function set(int $t, int $a, int $b, int $c, int $ab, int $bc, int $ca, bool $fab, bool $fbc, bool $fca): void
    {
        $i = 3 * $t;
        $this->corner[$i] = $a;
        $this->corner[$i + 1] = $b;
        $this->corner[$i + 2] = $c;
        $this->across[$i] = $ab;
        $this->across[$i + 1] = $bc;
        $this->across[$i + 2] = $ca;
        $this->fixed[$i] = $fab;
        $this->fixed[$i + 1] = $fbc;
        $this->fixed[$i + 2] = $fca;
        $this->at[$a] = $this->at[$b] = $this->at[$c] = $t;
    }

    private function meet(int $t, int $from, int $to): void
    {
        if ($t < 0) {
            return;
        }
        for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
            if ($this->across[$k] === $from) {
                $this->across[$k] = $to;

                return;
            }
        }
    }

    private function splitTriangle(int $t, float $u, float $v): int
    {
        $p = count($this->u);
        $this->u[] = $u;
        $this->v[] = $v;
        [$a, $b, $c] = array_slice($this->corner, 3 * $t, 3);
        [$x, $y, $z] = array_slice($this->across, 3 * $t, 3);
        [$fx, $fy, $fz] = array_slice($this->fixed, 3 * $t, 3);
        $n = $this->triangleCount();
        $this->set($t, $a, $b, $p, $x, $n, $n + 1, $fx, false, false);
        $this->set($n, $b, $c, $p, $y, $n + 1, $t, $fy, false, false);
        $this->set($n + 1, $c, $a, $p, $z, $t, $n, $fz, false, false);
        $this->meet($y, $t, $n);
        $this->meet($z, $t, $n + 1);
        $this->relax([[$t, $p], [$n, $p], [$n + 1, $p]]);

        return $p;
    }

    private function splitEdge(int $t, int $k, float $u, float $v): int
    {
        $o = $this->across[3 * $t + $k];
        if ($o < 0) {
            throw new \UnexpectedValueException('point on the border');
        }
        $p = count($this->u);
        $this->u[] = $u;
        $this->v[] = $v;
        $m = $this->edgeTo($o, $t);
        $fixed = $this->fixed[3 * $t + $k];
        $a = $this->corner[3 * $t + $k];
        $b = $this->corner[3 * $t + ($k + 1) % 3];
        $c = $this->corner[3 * $t + ($k + 2) % 3];
        $d = $this->corner[3 * $o + ($m + 2) % 3];
        [$bc, $ca] = [$this->across[3 * $t + ($k + 1) % 3], $this->across[3 * $t + ($k + 2) % 3]];
        [$fbc, $fca] = [$this->fixed[3 * $t + ($k + 1) % 3], $this->fixed[3 * $t + ($k + 2) % 3]];
        [$ad, $db] = [$this->across[3 * $o + ($m + 1) % 3], $this->across[3 * $o + ($m + 2) % 3]];
        [$fad, $fdb] = [$this->fixed[3 * $o + ($m + 1) % 3], $this->fixed[3 * $o + ($m + 2) % 3]];
        $n = $this->triangleCount();
        // t: c a p, n: b c p, o: d b p, n + 1: a d p.
        $this->set($t, $c, $a, $p, $ca, $n + 1, $n, $fca, $fixed, false);
        $this->set($n, $b, $c, $p, $bc, $t, $o, $fbc, false, $fixed);
        $this->set($o, $d, $b, $p, $db, $n, $n + 1, $fdb, $fixed, false);
        $this->set($n + 1, $a, $d, $p, $ad, $o, $t, $fad, false, $fixed);
        $this->meet($bc, $t, $n);
        $this->meet($ad, $o, $n + 1);
        $this->relax([[$t, $p], [$n, $p], [$o, $p], [$n + 1, $p]]);

        return $p;
    }

    private function edgeTo(int $t, int $o): int
    {
        for ($k = 0; $k < 3; $k++) {
            if ($this->across[3 * $t + $k] === $o) {
                return $k;
            }
        }
        throw new \UnexpectedValueException('triangles do not meet');
    }

    /**
     * Flips edges opposite a new point while their circles are not empty.
     *
     * @param  list<array{int, int}>  $open  triangle, and its corner that is new
     */
    private function relax(array $open): void
    {
        while ($open !== []) {
            [$t, $p] = array_pop($open);
            $k = $this->corner[3 * $t] === $p ? 1 : ($this->corner[3 * $t + 1] === $p ? 2 : 0);
            $o = $this->across[3 * $t + $k];
            if ($o < 0 || $this->fixed[3 * $t + $k] || $this->corner[3 * $t + ($k + 2) % 3] !== $p) {
                continue;
            }
            $m = $this->edgeTo($o, $t);
            $a = $this->corner[3 * $t + $k];
            $b = $this->corner[3 * $t + ($k + 1) % 3];
            $d = $this->corner[3 * $o + ($m + 2) % 3];
            if ($this->holds($a, $b, $p, $d) && $this->isConvex($p, $a, $d, $b)) {
                $this->flip($t, $k);
                $open[] = [$t, $p];
                $open[] = [$o, $p];
            }
        }
    }

    private function holds(int $a, int $b, int $c, int $d): bool
    {
        $ax = $this->u[$a] - $this->u[$d];
        $ay = $this->v[$a] - $this->v[$d];
        $bx = $this->u[$b] - $this->u[$d];
        $by = $this->v[$b] - $this->v[$d];
        $cx = $this->u[$c] - $this->u[$d];
        $cy = $this->v[$c] - $this->v[$d];

        return ($ax * $ax + $ay * $ay) * ($bx * $cy - $cx * $by) - ($bx * $bx + $by * $by) * ($ax * $cy - $cx * $ay) + ($cx * $cx + $cy * $cy) * ($ax * $by - $bx * $ay) > 1e-15;
    }

    /** Whether a quadrilateral, counter-clockwise, has its diagonals within. */
    private function isConvex(int $p, int $a, int $d, int $b): bool
    {
        return $this->side($p, $a, $this->u[$d], $this->v[$d]) > 0.0 && $this->side($d, $b, $this->u[$p], $this->v[$p]) > 0.0;
    }

    /** Turns the edge k of a triangle; the triangle then has the corner opposite, the new corner, and the edge's end; see the order in the code. */
    private function flip(int $t, int $k): void
    {
        $o = $this->across[3 * $t + $k];
        $m = $this->edgeTo($o, $t);
        $a = $this->corner[3 * $t + $k];
        $b = $this->corner[3 * $t + ($k + 1) % 3];
        $c = $this->corner[3 * $t + ($k + 2) % 3];
        $d = $this->corner[3 * $o + ($m + 2) % 3];
        [$bc, $ca] = [$this->across[3 * $t + ($k + 1) % 3], $this->across[3 * $t + ($k + 2) % 3]];
        [$fbc, $fca] = [$this->fixed[3 * $t + ($k + 1) % 3], $this->fixed[3 * $t + ($k + 2) % 3]];
        [$ad, $db] = [$this->across[3 * $o + ($m + 1) % 3], $this->across[3 * $o + ($m + 2) % 3]];
        [$fad, $fdb] = [$this->fixed[3 * $o + ($m + 1) % 3], $this->fixed[3 * $o + ($m + 2) % 3]];
        $this->set($t, $a, $d, $c, $ad, $o, $ca, $fad, false, $fca);
        $this->set($o, $d, $b, $c, $db, $bc, $t, $fdb, $fbc, false);
        $this->meet($ad, $o, $t);
        $this->meet($bc, $t, $o);
    }

    /** @return int b where the edge now stands, or a point on the way that the line has to go through */
    private function connect(int $a, int $b): int
    {
        [$t, $k, $through] = $this->leaving($a, $b);
        if ($through >= 0) {
            if ($k >= 0) {
                $this->fix($t, $k);
            }

            return $through;
        }
        // Edges that cross the line, as pairs of points.
        $crossing = [];
        while (true) {
            $p = $this->corner[3 * $t + $k];
            $q = $this->corner[3 * $t + ($k + 1) % 3];
            if ($this->fixed[3 * $t + $k]) {
                return $this->crossed($t, $k, $a, $b);
            }
            $crossing[] = [$p, $q];
            $o = $this->across[3 * $t + $k];
            $m = $this->edgeTo($o, $t);
            $d = $this->corner[3 * $o + ($m + 2) % 3];
            if ($d === $b) {
                break;
            }
            $side = $this->side($a, $b, $this->u[$d], $this->v[$d]);
            if (abs($side) < self::SAME * hypot($this->u[$b] - $this->u[$a], $this->v[$b] - $this->v[$a])) {
                return $d;
            }
            $t = $o;
            // The edge that leads on lies between d and the corner on its other side.
            $k = $side > 0.0 ? ($m + 1) % 3 : ($m + 2) % 3;
        }
        $made = [];
        for ($tries = 0, $most = 50 * count($crossing) + 200; $crossing !== []; $tries++) {
            if ($tries > $most) {
                throw new \UnexpectedValueException('line that cannot be put in');
            }
            [$p, $q] = array_shift($crossing);
            [$t, $k] = $this->edge($p, $q);
            $o = $this->across[3 * $t + $k];
            $m = $this->edgeTo($o, $t);
            $c = $this->corner[3 * $t + ($k + 2) % 3];
            $d = $this->corner[3 * $o + ($m + 2) % 3];
            if (! $this->isConvex($c, $p, $d, $q)) {
                $crossing[] = [$p, $q];

                continue;
            }
            $this->flip($t, $k);
            if (
                $c !== $a
                && $c !== $b
                && $d !== $a
                && $d !== $b
                && $this->side($a, $b, $this->u[$c], $this->v[$c]) * $this->side($a, $b, $this->u[$d], $this->v[$d]) < 0.0
            ) {
                $crossing[] = [$c, $d];
            } else {
                $made[] = [$c, $d];
            }
        }
        $this->fix(...$this->edge($a, $b));
        $this->restore($made);

        return $b;
    }

    /**
     * Flips new edges beside a segment back to empty circles where they are not.
     *
     * @param  list<array{int, int}>  $made
     */
    private function restore(array $made): void
    {
        for ($round = 0; $round < 4; $round++) {
            $again = [];
            foreach ($made as [$p, $q]) {
                [$t, $k] = $this->edge($p, $q);
                $o = $this->across[3 * $t + $k];
                if ($o < 0 || $this->fixed[3 * $t + $k]) {
                    $again[] = [$p, $q];

                    continue;
                }
                $c = $this->corner[3 * $t + ($k + 2) % 3];
                $d = $this->corner[3 * $o + ($this->edgeTo($o, $t) + 2) % 3];
                if ($this->holds($p, $q, $c, $d) && $this->isConvex($c, $p, $d, $q)) {
                    $this->flip($t, $k);
                    [$p, $q] = [$c, $d];
                }
                $again[] = [$p, $q];
            }
            if ($again === $made) {
                return;
            }
            $made = $again;
        }
    }

    private function fix(int $t, int $k): void
    {
        $this->fixed[3 * $t + $k] = true;
        $o = $this->across[3 * $t + $k];
        if ($o >= 0) {
            $this->fixed[3 * $o + $this->edgeTo($o, $t)] = true;
        }
    }

    /** A point where the line from a to b passes a fixed edge. */
    private function crossed(int $t, int $k, int $a, int $b): int
    {
        $p = $this->corner[3 * $t + $k];
        $q = $this->corner[3 * $t + ($k + 1) % 3];
        $sp = $this->side($a, $b, $this->u[$p], $this->v[$p]);
        $sq = $this->side($a, $b, $this->u[$q], $this->v[$q]);
        $s = $sp / ($sp - $sq);
        $u = $this->u[$p] + $s * ($this->u[$q] - $this->u[$p]);
        $v = $this->v[$p] + $s * ($this->v[$q] - $this->v[$p]);
        foreach ([$p, $q] as $end) {
            if (hypot($this->u[$end] - $u, $this->v[$end] - $v) < self::SAME) {
                return $end;
            }
        }

        return $this->splitEdge($t, $k, $u, $v);
    }

    /**
     * The triangle at a, and its edge, that the line towards b leaves by.
     *
     * @return array{int, int, int} triangle, edge, and the point the line runs into at once, or −1
     */
    private function leaving(int $a, int $b): array
    {
        $length = hypot($this->u[$b] - $this->u[$a], $this->v[$b] - $this->v[$a]);
        foreach ($this->around($a) as [$t, $k]) {
            $p = $this->corner[3 * $t + ($k + 1) % 3];
            $q = $this->corner[3 * $t + ($k + 2) % 3];
            foreach ([[$p, $k], [$q, ($k + 2) % 3]] as [$end, $edge]) {
                $ahead = ($this->u[$end] - $this->u[$a]) * ($this->u[$b] - $this->u[$a]) + ($this->v[$end] - $this->v[$a]) * ($this->v[$b] - $this->v[$a]) > 0.0;
                if (
                    $end === $b
                    || $ahead
                    && abs($this->side($a, $b, $this->u[$end], $this->v[$end])) < self::SAME * $length
                    && hypot($this->u[$end] - $this->u[$a], $this->v[$end] - $this->v[$a]) <= $length
                ) {
                    return [$t, $edge, $end];
                }
            }
        }
        foreach ($this->around($a) as [$t, $k]) {
            $p = $this->corner[3 * $t + ($k + 1) % 3];
            $q = $this->corner[3 * $t + ($k + 2) % 3];
            if ($this->side($a, $b, $this->u[$p], $this->v[$p]) < 0.0 && $this->side($a, $b, $this->u[$q], $this->v[$q]) > 0.0) {
                return [$t, ($k + 1) % 3, -1];
            }
        }
        throw new \UnexpectedValueException('line that leads nowhere');
    }

    /** @return list<array{int, int}> triangles at a point, and which corner it is */
    private function around(int $a): array
    {
        $first = $t = $this->at[$a];
        $out = [];
        do {
            $k = $this->corner[3 * $t] === $a ? 0 : ($this->corner[3 * $t + 1] === $a ? 1 : 2);
            $out[] = [$t, $k];
            $t = $this->across[3 * $t + ($k + 2) % 3];
        } while ($t >= 0 && $t !== $first);
        // A point of the border has triangles the other way round as well.
        for ($at = $out[0]; $t < 0; $out[] = $at) {
            $o = $this->across[3 * $at[0] + $at[1]];
            if ($o < 0) {
                break;
            }
            $at = [$o, $this->corner[3 * $o] === $a ? 0 : ($this->corner[3 * $o + 1] === $a ? 1 : 2)];
        }

        return $out;
    }

    /** @return array{int, int} */
    private function edge(int $p, int $q): array
    {
        foreach ($this->around($p) as [$t, $k]) {
            if ($this->corner[3 * $t + ($k + 1) % 3] === $q) {
                return [$t, $k];
            }
        }
        throw new \UnexpectedValueException('edge that is not there');
    }
}
