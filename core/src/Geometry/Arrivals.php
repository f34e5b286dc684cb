<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * When fronts that spread over a surface, or from piece to piece, arrive. Fronts may start anywhere at any time; each point
 * is settled once, in the order of arrival (Kimmel & Sethian 1998, "Computing geodesic paths on manifolds"). Within a face
 * what comes from one start is taken for a circle in its plane (Novotni & Klein 2002, "Computing geodesic distances on
 * triangular meshes"), where two fronts meet for a straight line. Times are in metres of way.
 */
final class Arrivals
{
    /** @var list<float> when each point is reached, as far as that is known; INF before */
    public array $at;

    /** @var list<int> 1 where that is settled */
    private array $settled;

    /** @var list<int> by point: the start the front came from */
    private array $from;

    /** @var list<float> keys of a binary heap, smallest first */
    private array $heap = [];

    /** @var list<int> its points */
    private array $heapPoint = [];

    /**
     * @param  list<int>  $start  by point: where its list begins; one more at the end
     * @param  list<int>  $other  two points a face round it, or one neighbour and −1
     * @param  list<int>  $third
     * @param  list<float>  $lengths  by entry: to the one, to the other, and between them
     */
    private function __construct(
        int $points,
        private readonly array $start,
        private readonly array $other,
        private readonly array $third,
        private readonly array $lengths,
    ) {
        $this->at = array_fill(0, $points, INF);
        $this->settled = array_fill(0, $points, 0);
        $this->from = array_fill(0, $points, -1);
    }

    /**
     * Over the faces of a mesh.
     *
     * @param  list<float>  $slow  by point: how much longer a way is there; none for 1 everywhere
     */
    public static function over(Mesh $mesh, array $slow = []): self
    {
        $n = $mesh->vertexCount();
        $faces = $mesh->faces;
        $count = array_fill(0, $n + 1, 0);
        foreach ($faces as $p) {
            $count[$p + 1]++;
        }
        for ($i = 0; $i < $n; $i++) {
            $count[$i + 1] += $count[$i];
        }
        $side = self::sides($mesh->x, $mesh->y, $mesh->z, $faces, $slow);
        $fill = $count;
        $other = $third = array_fill(0, count($faces), -1);
        $lengths = array_fill(0, 3 * count($faces), 0.0);
        for ($k = 0, $m = count($faces); $k < $m; $k++) {
            $base = $k - $k % 3;
            $j = $base + ($k - $base + 1) % 3;
            $l = $base + ($k - $base + 2) % 3;
            $at = $fill[$faces[$k]]++;
            $other[$at] = $faces[$j];
            $third[$at] = $faces[$l];
            // Side k runs from corner k to the next.
            $lengths[3 * $at] = $side[$k];
            $lengths[3 * $at + 1] = $side[$l];
            $lengths[3 * $at + 2] = $side[$j];
        }

        return new self($n, $count, $other, $third, $lengths);
    }

    /**
     * From piece to piece.
     *
     * @param  list<array{int, int, float}>  $ways  two pieces, and how far it is from the middle of one to that of the other
     */
    public static function along(int $pieces, array $ways): self
    {
        $lists = array_fill(0, $pieces, []);
        foreach ($ways as [$a, $b, $length]) {
            $lists[$a][] = [$b, $length];
            $lists[$b][] = [$a, $length];
        }
        $start = [0];
        $other = $third = $lengths = [];
        foreach ($lists as $list) {
            foreach ($list as [$b, $length]) {
                $other[] = $b;
                $third[] = -1;
                array_push($lengths, $length, 0.0, 0.0);
            }
            $start[] = count($other);
        }

        return new self($pieces, $start, $other, $third, $lengths);
    }

    /** A front starts at a point, unless another one was there before. */
    public function begin(int $point, float $time): void
    {
        if ($this->settled[$point] === 0 && $time < $this->at[$point]) {
            $this->at[$point] = $time;
            $this->from[$point] = $point;
            $this->put($point, $time);
        }
    }

    /** Settles all that is reached by then. */
    public function advance(float $until): void
    {
        [$at, $settled, $from, $heap, $points] = [$this->at, $this->settled, $this->from, $this->heap, $this->heapPoint];
        $this->at = $this->settled = $this->from = $this->heap = $this->heapPoint = [];
        [$this->at, $this->settled, $this->from, $this->heap, $this->heapPoint] = self::march(
            $until,
            $at,
            $settled,
            $from,
            $heap,
            $points,
            $this->start,
            $this->other,
            $this->third,
            $this->lengths,
        );
    }

    /** @return array{at: list<float>, settled: list<int>, from: list<int>} the state; all else follows from it */
    public function state(): array
    {
        return ['at' => $this->at, 'settled' => $this->settled, 'from' => $this->from];
    }

    /** @param  array{at: list<float>, settled: list<int>, from: list<int>}  $state */
    public function restore(array $state): void
    {
        ['at' => $this->at, 'settled' => $this->settled, 'from' => $this->from] = $state;
        $this->heap = $this->heapPoint = [];
        foreach ($this->at as $point => $time) {
            if ($this->settled[$point] === 0 && $time < INF) {
                $this->put($point, $time);
            }
        }
    }

    private function put(int $point, float $time): void
    {
        $k = count($this->heap);
        $this->heap[] = $time;
        $this->heapPoint[] = $point;
        while ($k > 0 && $this->heap[$up = ($k - 1) >> 1] > $time) {
            $this->heap[$k] = $this->heap[$up];
            $this->heapPoint[$k] = $this->heapPoint[$up];
            $k = $up;
        }
        $this->heap[$k] = $time;
        $this->heapPoint[$k] = $point;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces
     * @param  list<float>  $slow
     * @return list<float> by corner: from it to the next one of its face
     */
    private static function sides(array $x, array $y, array $z, array $faces, array $slow): array
    {
        $out = [];
        for ($k = 0, $n = count($faces); $k < $n; $k++) {
            $p = $faces[$k];
            $q = $faces[$k % 3 === 2 ? $k - 2 : $k + 1];
            $length = sqrt(($x[$q] - $x[$p]) ** 2 + ($y[$q] - $y[$p]) ** 2 + ($z[$q] - $z[$p]) ** 2);
            $out[] = $slow === [] ? $length : 0.5 * $length * ($slow[$p] + $slow[$q]);
        }

        return $out;
    }

    /**
     * @param  list<float>  $at
     * @param  list<int>  $settled
     * @param  list<int>  $from
     * @param  list<float>  $heap
     * @param  list<int>  $points
     * @param  list<int>  $start
     * @param  list<int>  $other
     * @param  list<int>  $third
     * @param  list<float>  $lengths
     * @return array{list<float>, list<int>, list<int>, list<float>, list<int>}
     */
    private static function march(
        float $until,
        array $at,
        array $settled,
        array $from,
        array $heap,
        array $points,
        array $start,
        array $other,
        array $third,
        array $lengths,
    ): array {
        $size = count($heap);
        while ($size > 0 && $heap[0] <= $until) {
            $p = $points[0];
            $time = $heap[0];
            $size--;
            // The last one sinks from the top.
            $key = $heap[$size];
            $moved = $points[$size];
            array_pop($heap);
            array_pop($points);
            if ($size > 0) {
                $k = 0;
                for ($child = 1; $child < $size; $child = 2 * $k + 1) {
                    if ($child + 1 < $size && $heap[$child + 1] < $heap[$child]) {
                        $child++;
                    }
                    if ($heap[$child] >= $key) {
                        break;
                    }
                    $heap[$k] = $heap[$child];
                    $points[$k] = $points[$child];
                    $k = $child;
                }
                $heap[$k] = $key;
                $points[$k] = $moved;
            }
            if ($settled[$p] === 1 || $time > $at[$p]) {
                continue;
            }
            $settled[$p] = 1;
            for ($e = $start[$p], $last = $start[$p + 1]; $e < $last; $e++) {
                for ($turn = 0; $turn < 2; $turn++) {
                    // The way to q: along the side from p, or across the face, where the third point r is settled too.
                    if ($turn === 0) {
                        $q = $other[$e];
                        $r = $third[$e];
                        $pq = $lengths[3 * $e];
                        $pr = $lengths[3 * $e + 1];
                    } else {
                        $q = $third[$e];
                        if ($q < 0) {
                            break;
                        }
                        $r = $other[$e];
                        $pq = $lengths[3 * $e + 1];
                        $pr = $lengths[3 * $e];
                    }
                    if ($settled[$q] === 1) {
                        continue;
                    }
                    $t = $time + $pq;
                    $origin = $from[$p];
                    if ($r >= 0 && $settled[$r] === 1) {
                        $qr = $lengths[3 * $e + 2];
                        $tr = $at[$r];
                        if ($tr + $qr < $t) {
                            $t = $tr + $qr;
                            $origin = $from[$r];
                        }
                        // In the plane of the face, p at the origin, r along x and q above: the front comes from below.
                        $qx = $pr > 0.0 ? ($pq * $pq - $qr * $qr + $pr * $pr) / (2.0 * $pr) : 0.0;
                        $qy = $pq * $pq - $qx * $qx;
                        if ($qy > 0.0 && $pr > 0.0) {
                            $qy = sqrt($qy);
                            $way = INF;
                            $cross = -1.0;
                            if ($from[$p] === $from[$r]) {
                                $start0 = $at[$from[$p]];
                                $a = $time - $start0;
                                $b = $tr - $start0;
                                $sx = ($a * $a - $b * $b + $pr * $pr) / (2.0 * $pr);
                                $sy = $a * $a - $sx * $sx;
                                if ($sy >= 0.0) {
                                    $sy = sqrt($sy);
                                    $cross = $sx + ($qx - $sx) * $sy / ($sy + $qy);
                                    $way = $start0 + sqrt(($qx - $sx) * ($qx - $sx) + ($qy + $sy) * ($qy + $sy));
                                }
                            } else {
                                $cosine = ($tr - $time) / $pr;
                                $sine = 1.0 - $cosine * $cosine;
                                if ($sine > 0.0) {
                                    $sine = sqrt($sine);
                                    $cross = $qx - $qy * $cosine / $sine;
                                    $way = $time + $qx * $cosine + $qy * $sine;
                                }
                            }
                            if ($cross >= 0.0 && $cross <= $pr && $way < $t) {
                                $t = $way;
                                $origin = $cross + $cross < $pr ? $from[$p] : $from[$r];
                            }
                        }
                    }
                    if ($t < $at[$q]) {
                        $at[$q] = $t;
                        $from[$q] = $origin;
                        $k = $size++;
                        $heap[] = $t;
                        $points[] = $q;
                        while ($k > 0) {
                            $up = ($k - 1) >> 1;
                            if ($heap[$up] <= $t) {
                                break;
                            }
                            $heap[$k] = $heap[$up];
                            $points[$k] = $points[$up];
                            $k = $up;
                        }
                        $heap[$k] = $t;
                        $points[$k] = $q;
                    }
                }
            }
        }

        return [$at, $settled, $from, $heap, $points];
    }
}
