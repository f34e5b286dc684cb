<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;

/** A surface as cloth, before anything moves: points, triangles, hinges, and which points pull on which. */
final readonly class Weave
{
    /**
     * @param  list<float>  $x  m, points as made
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $pointOf  by vertex of the mesh it was made of: its point
     * @param  list<int>  $faces  flat triples of points
     * @param  list<float>  $inverse  four a face: inverse of its edges in its own plane, 1/m
     * @param  list<float>  $areas  m²
     * @param  list<int>  $pairs  flat: points that pull on each other, the lesser number first
     * @param  list<int>  $sides  three a face: the pair of its points 0 and 1, 1 and 2, 2 and 0
     * @param  list<int>  $hinges  ten a hinge: four points — of the edge, then beside it —, and their six pairs
     * @param  list<float>  $bends  four a hinge: weights of its points in what it bends by, m⁰
     * @param  list<float>  $wide  m² a hinge: of both its faces
     * @param  list<float>  $bent  a hinge: what it bends by as made, along its normal, m
     * @param  list<float>  $share  m² of cloth that belongs to each point
     * @param  list<int>  $parts  by point: number of the part that hangs together
     * @param  float  $edge  m, its mean edge
     * @param  float  $longest  m, its longest
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
        public array $hinges,
        public array $bends,
        public array $wide,
        public array $bent,
        public array $share,
        public array $parts,
        public float $edge,
        public float $longest,
    ) {
    }

    /**
     * Points of one piece that lie in one place are one point.
     *
     * @param  list<int>  $pieceOf  piece of each vertex; none where it is all one
     */
    public static function of(Mesh $mesh, array $pieceOf = []): self
    {
        $pointOf = self::welded($mesh, $pieceOf);
        $n = $pointOf === [] ? 0 : max($pointOf) + 1;
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
            if ($a === $b || $b === $c || $c === $a || $area < 1e-14) {
                continue;
            }
            // Its own plane: along its first edge, and across.
            $lu = $u->length();
            $along = $v->dot($u) / $lu;
            $across = 2.0 * $area / $lu;
            array_push($inverse, 1.0 / $lu, -$along / ($lu * $across), 0.0, 1.0 / $across);
            $f = count($areas);
            $areas[] = $area;
            array_push($faces, $a, $b, $c);
            array_push($sides, $pair($a, $b), $pair($b, $c), $pair($c, $a));
            array_push($long, $lu, $v->length(), $v->minus($u)->length());
            foreach ([$a, $b, $c] as $k => $p) {
                $share[$p] += $area / 3.0;
                $q = [$b, $c, $a][$k];
                $over[min($p, $q) << 32 | max($p, $q)][] = [[$c, $a, $b][$k], $f, $p < $q];
            }
        }
        [$hinges, $bends, $wide, $bent] = self::hinged($over, $at, $areas, $pair);

        return new self(
            $x, $y, $z, $pointOf, $faces, $inverse, $areas, $pairs, $sides, $hinges, $bends, $wide, $bent, $share, self::together($n, $pairs),
            $long === [] ? 0.0 : array_sum($long) / count($long), $long === [] ? 0.0 : max($long),
        );
    }

    /**
     * @param  list<int>  $pieceOf
     * @return list<int> point of each vertex
     */
    private static function welded(Mesh $mesh, array $pieceOf): array
    {
        $size = max(1e-9, max($mesh->x) - min($mesh->x), max($mesh->y) - min($mesh->y), max($mesh->z) - min($mesh->z));
        $k = 1.0 / (1e-6 * $size);
        $known = $out = [];
        foreach ($mesh->x as $v => $x) {
            $key = ($pieceOf[$v] ?? 0).' '.round($k * $x).' '.round($k * $mesh->y[$v]).' '.round($k * $mesh->z[$v]);
            $out[] = $known[$key] ??= count($known);
        }

        return $out;
    }

    /**
     * A hinge at every edge of two faces; where more meet, each with the next.
     *
     * @param  array<int, list<array{int, int, bool}>>  $over  by edge: the point beside it, the face, and which way that goes along it
     * @param  \Closure(int): Vec3  $at
     * @param  list<float>  $areas
     * @param  \Closure(int, int): int  $pair
     * @return array{list<int>, list<float>, list<float>, list<float>}
     */
    private static function hinged(array $over, \Closure $at, array $areas, \Closure $pair): array
    {
        $hinges = $bends = $wide = $bent = [];
        foreach ($over as $edge => $beside) {
            for ($k = 0, $n = count($beside); $k + 1 < $n; $k++) {
                [$a, $b] = [$edge >> 32, $edge & 0xFFFFFFFF];
                [[$c, $f], [$d, $g]] = [$beside[$k], $beside[$k + 1]];
                if ($c === $d) {
                    continue;
                }
                $weights = self::weights($at($a), $at($b), $at($c), $at($d));
                $line = Vec3::zero();
                foreach ([$a, $b, $c, $d] as $i => $p) {
                    $line = $line->plus($at($p)->times($weights[$i]));
                }
                array_push($hinges, $a, $b, $c, $d, $pair($a, $b), $pair($a, $c), $pair($a, $d), $pair($b, $c), $pair($b, $d), $pair($c, $d));
                array_push($bends, ...$weights);
                $wide[] = $areas[$f] + $areas[$g];
                $normal = self::normal($at($a), $at($b), $at($c), $at($d));
                $bent[] = $line->dot($normal);
            }
        }

        return [$hinges, $bends, $wide, $bent];
    }

    /** What two faces that share an edge look towards. */
    public static function normal(Vec3 $a, Vec3 $b, Vec3 $c, Vec3 $d): Vec3
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
     * @param  list<int>  $pairs
     * @return list<int> number of its part, by point
     */
    private static function together(int $n, array $pairs): array
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
            if ($a !== $b) {
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
