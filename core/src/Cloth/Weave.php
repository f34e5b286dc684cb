<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\SamePlaces;
use YardBreak\Core\Geometry\Vec3;

/** A surface as cloth, before anything moves: points, triangles, hinges, and which points pull on which. */
final readonly class Weave
{
    /** Times the square of its longer side that the area of a face must have: what is thinner would strain by what its points are rounded. */
    private const THIN = 1e-6;

    /**
     * @param  list<float>  $x  m, points as made
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $pointOf  by vertex of the mesh it was made of: its point
     * @param  list<int>  $faces  flat triples of points
     * @param  list<float>  $inverse  three a face: inverse of its edges in its own plane, 1/m: of the first along, of the second along and across
     * @param  list<float>  $areas  m²
     * @param  list<int>  $pairs  flat: points with an edge between them, the lesser number first
     * @param  list<int>  $sides  three a face: the pair of its points 0 and 1, 1 and 2, 2 and 0
     * @param  list<int>  $across  flat: points that face each other over an edge, with none between them
     * @param  list<float>  $bendPairs  1/m², by pair: how one pulls on the other as the cloth bends, a unit of rigidity
     * @param  list<float>  $bendAcross  1/m², likewise
     * @param  list<float>  $bendPoints  1/m², by point: how it is pulled over all edges, without those of its pairs
     * @param  list<int>  $curved  four a hinge that is bent as made: points of its edge, then those beside it
     * @param  list<float>  $curves  four a curved hinge: weights of its points in what it bends by, times that as made over both its areas, 1/m
     * @param  list<float>  $share  m² of cloth that belongs to each point
     * @param  list<int>  $parts  by point: number of the part that hangs together
     * @param  float  $edge  m, its mean edge
     * @param  float  $longest  m, its longest
     * @param  list<int>  $pieceOf  by point: the piece it is of
     * @param  list<int>  $stitches  pairs that hold the rims of two pieces together which were one
     * @param  list<float>  $sewn  m of seam that each of those holds
     * @param  bool  $isClosed  whether every edge has a face to either side, or is sewn to one that has
     */
    private function __construct(
        public array $x,
        public array $y,
        public array $z,
        public array $pointOf,
        public array $faces,
        public array $inverse,
        public array $areas,
        public array $pairs,
        public array $sides,
        public array $across,
        public array $bendPairs,
        public array $bendAcross,
        public array $bendPoints,
        public array $curved,
        public array $curves,
        public array $share,
        public array $parts,
        public float $edge,
        public float $longest,
        public array $pieceOf,
        public array $stitches,
        public array $sewn,
        public bool $isClosed,
    ) {
    }

    /**
     * @param  array<int, Shard>  $shards  by number of the piece
     * @param  bool  $sewn  whether they are sewn together where they were one
     */
    public static function ofPieces(array $shards, bool $sewn = false): self
    {
        $pieceOf = [];
        foreach ($shards as $piece => $shard) {
            array_push($pieceOf, ...array_fill(0, count($shard->mesh->x), $piece));
        }

        return self::of(Mesh::merged(...array_values(array_map(static fn (Shard $s): Mesh => $s->mesh, $shards))), $pieceOf, $sewn);
    }

    /**
     * What its points have of what vertices have: where several are one point, the most.
     *
     * @param  list<float>  $all
     * @param  int  $from  where those of its own vertices begin
     * @return list<float>
     */
    public function byPoint(array $all, int $from = 0): array
    {
        $out = array_fill(0, $this->count(), 0.0);
        foreach ($this->pointOf as $vertex => $point) {
            $out[$point] = max($out[$point], $all[$from + $vertex]);
        }

        return $out;
    }

    /**
     * Points of one piece that lie in one place are one point.
     *
     * @param  list<int>  $pieceOf  piece of each vertex; none where it is all one
     * @param  bool  $sewn  whether pieces are sewn together where their rims lie in one place
     */
    public static function of(Mesh $mesh, array $pieceOf = [], bool $sewn = false): self
    {
        [$pointOf, $vertices] = SamePlaces::numbered($mesh, $pieceOf);
        $n = count($vertices);
        $x = $y = $z = array_fill(0, $n, 0.0);
        foreach ($pointOf as $v => $p) {
            [$x[$p], $y[$p], $z[$p]] = [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
        }
        $at = static fn (int $p): Vec3 => new Vec3($x[$p], $y[$p], $z[$p]);
        $faces = $inverse = $areas = $pairs = $number = $sides = $over = [];
        $share = array_fill(0, $n, 0.0);
        $pair = static function (int $a, int $b) use (&$pairs, &$number): int {
            [$a, $b] = $a < $b ? [$a, $b] : [$b, $a];
            if (! isset($number[$a << 32 | $b])) {
                $number[$a << 32 | $b] = intdiv(count($pairs), 2);
                $pairs[] = $a;
                $pairs[] = $b;
            }

            return $number[$a << 32 | $b];
        };
        $long = [];
        foreach (array_chunk($mesh->faces, 3) as $corners) {
            [$a, $b, $c] = array_map(static fn (int $v): int => $pointOf[$v], $corners);
            $u = $at($b)->minus($at($a));
            $v = $at($c)->minus($at($a));
            $area = 0.5 * $u->cross($v)->length();
            if ($a === $b || $b === $c || $c === $a || $area < self::THIN * max($u->dot($u), $v->dot($v))) {
                continue;
            }
            // Its own plane: along its first edge, and across.
            $lu = $u->length();
            $along = $v->dot($u) / $lu;
            $across = 2.0 * $area / $lu;
            array_push($inverse, 1.0 / $lu, -$along / ($lu * $across), 1.0 / $across);
            $f = count($areas);
            $areas[] = $area;
            array_push($faces, $a, $b, $c);
            array_push($sides, $pair($a, $b), $pair($b, $c), $pair($c, $a));
            array_push($long, $lu, $v->length(), $v->minus($u)->length());
            foreach ([$a, $b, $c] as $k => $p) {
                $share[$p] += $area / 3.0;
                $q = [$b, $c, $a][$k];
                $over[min($p, $q) << 32 | max($p, $q)][] = [[$c, $a, $b][$k], $f];
            }
        }
        $rims = array_keys(array_filter($over, static fn (array $faces): bool => count($faces) === 1));
        $stitches = $joined = [];
        if ($sewn) {
            [$lengths, $joined] = self::sewn($rims, SamePlaces::of($mesh), $vertices, $at);
            foreach ($lengths as $key => $length) {
                $stitches[$pair($key >> 32, $key & 0xFFFFFFFF)] = $length;
            }
        }
        [$across, $bendPairs, $bendAcross, $curved, $curves] = self::hinged($over, $at, $areas, $number);
        $bendPoints = array_fill(0, $n, 0.0);
        foreach ($bendAcross as $k => $pull) {
            $bendPoints[$across[2 * $k]] -= $pull;
            $bendPoints[$across[2 * $k + 1]] -= $pull;
        }

        return new self(
            $x, $y, $z, $pointOf, $faces, $inverse, $areas, $pairs, $sides, $across, $bendPairs, $bendAcross, $bendPoints, $curved, $curves, $share,
            self::together($n, $pairs), $long === [] ? 0.0 : array_sum($long) / count($long), $long === [] ? 0.0 : max($long),
            array_map(static fn (int $v): int => $pieceOf[$v] ?? 0, $vertices), array_keys($stitches), array_values($stitches), $areas !== [] && count($joined) === count($rims) && max(array_map(count(...), $over)) <= 2,
        );
    }

    /**
     * A hinge at every edge of two faces; where more meet, each with the next. What they make of a flat sheet is one matrix that never changes.
     *
     * @param  array<int, list<array{int, int}>>  $over  by edge: the point beside it, and the face
     * @param  \Closure(int): Vec3  $at
     * @param  list<float>  $areas
     * @param  array<int, int>  $number  of the pair, by edge
     * @return array{list<int>, list<float>, list<float>, list<int>, list<float>} as of the constructor
     */
    private static function hinged(array $over, \Closure $at, array $areas, array $number): array
    {
        $across = $bendAcross = $curved = $curves = $known = [];
        $bendPairs = array_fill(0, count($number), 0.0);
        foreach ($over as $edge => $beside) {
            for ($k = 0, $n = count($beside); $k + 1 < $n; $k++) {
                [[$c, $f], [$d, $g]] = [$beside[$k], $beside[$k + 1]];
                if ($c === $d) {
                    continue;
                }
                $points = [$edge >> 32, $edge & 0xFFFFFFFF, $c, $d];
                $weights = self::weights(...array_map($at, $points));
                $wide = $areas[$f] + $areas[$g];
                foreach ([[0, 1], [0, 2], [0, 3], [1, 2], [1, 3], [2, 3]] as [$i, $j]) {
                    $key = min($points[$i], $points[$j]) << 32 | max($points[$i], $points[$j]);
                    $pull = $weights[$i] * $weights[$j] / $wide;
                    if (isset($number[$key])) {
                        $bendPairs[$number[$key]] += $pull;
                    } elseif (isset($known[$key])) {
                        $bendAcross[$known[$key]] += $pull;
                    } else {
                        $known[$key] = count($bendAcross);
                        $bendAcross[] = $pull;
                        array_push($across, $key >> 32, $key & 0xFFFFFFFF);
                    }
                }
                $line = Vec3::zero();
                foreach ($points as $i => $p) {
                    $line = $line->plus($at($p)->times($weights[$i]));
                }
                $bent = $line->dot(self::normal(...array_map($at, $points)));
                if (abs($bent) > 1e-12) {
                    array_push($curved, ...$points);
                    array_push($curves, ...array_map(static fn (float $w): float => $w * $bent / $wide, $weights));
                }
            }
        }

        return [$across, $bendPairs, $bendAcross, $curved, $curves];
    }

    /** What two faces that share an edge look towards. */
    private static function normal(Vec3 $a, Vec3 $b, Vec3 $c, Vec3 $d): Vec3
    {
        $edge = $b->minus($a);
        $sum = $edge->cross($c->minus($a))->plus($d->minus($a)->cross($edge));

        return $sum->length() > 1e-18 ? $sum->unit() : Vec3::zero();
    }

    /**
     * By which a hinge's points make what it bends by: cotangents at its edge (Bergou et al. 2006, "A quadratic bending model for
     * inextensible surfaces").
     *
     * @return array{float, float, float, float}
     */
    private static function weights(Vec3 $a, Vec3 $b, Vec3 $c, Vec3 $d): array
    {
        $cot = static function (Vec3 $at, Vec3 $p, Vec3 $q): float {
            [$u, $v] = [$p->minus($at), $q->minus($at)];

            return $u->dot($v) / max(1e-18, $u->cross($v)->length());
        };
        [$ac, $bc, $ad, $bd] = [$cot($a, $b, $c), $cot($b, $a, $c), $cot($a, $b, $d), $cot($b, $a, $d)];

        return [$bc + $bd, $ac + $ad, -$ac - $bc, -$ad - $bd];
    }

    /**
     * Rims that lie in one place: by each edge, half of it to a stitch at either end.
     *
     * @param  list<int>  $rims  edges of one face, two points each
     * @param  list<int>  $placeOf  by vertex
     * @param  list<int>  $vertices  one of each point
     * @param  \Closure(int): Vec3  $at
     * @return array{array<int, float>, array<int, true>} m of seam by two points, the lesser in the upper half; edges that are sewn
     */
    private static function sewn(array $rims, array $placeOf, array $vertices, \Closure $at): array
    {
        $edges = [];
        foreach ($rims as $rim) {
            [$a, $b] = [$rim >> 32, $rim & 0xFFFFFFFF];
            [$p, $q] = [$placeOf[$vertices[$a]], $placeOf[$vertices[$b]]];
            $edges[min($p, $q) << 32 | max($p, $q)][] = $p < $q ? [$a, $b, $rim] : [$b, $a, $rim];
        }
        $lengths = $joined = [];
        foreach ($edges as $there) {
            for ($k = 1, $n = count($there); $k < $n; $k++) {
                $half = 0.5 * $at($there[0][0])->minus($at($there[0][1]))->length();
                foreach ([0, 1] as $end) {
                    [$i, $j] = [$there[$k - 1][$end], $there[$k][$end]];
                    if ($i !== $j) {
                        $lengths[min($i, $j) << 32 | max($i, $j)] = ($lengths[min($i, $j) << 32 | max($i, $j)] ?? 0.0) + $half;
                    }
                }
                $joined[$there[$k - 1][2]] = $joined[$there[$k][2]] = true;
            }
        }

        return [$lengths, $joined];
    }

    /**
     * @param  list<int>  $pairs
     * @param  array<int, mixed>  $without  pairs that do not count
     * @return list<int> number of its part, by point
     */
    public static function together(int $n, array $pairs, array $without = []): array
    {
        $root = range(0, max(0, $n - 1));
        $find = static function (int $p) use (&$root): int {
            while ($root[$p] !== $p) {
                $root[$p] = $root[$root[$p]];
                $p = $root[$p];
            }

            return $p;
        };
        for ($i = 0, $m = count($pairs); $i < $m; $i += 2) {
            [$a, $b] = [$find($pairs[$i]), $find($pairs[$i + 1])];
            if ($a !== $b && ! isset($without[$i >> 1])) {
                $root[max($a, $b)] = min($a, $b);
            }
        }
        $number = $out = [];
        for ($p = 0; $p < $n; $p++) {
            $out[] = $number[$find($p)] ??= count($number);
        }

        return $out;
    }

    public function count(): int
    {
        return count($this->x);
    }
}
