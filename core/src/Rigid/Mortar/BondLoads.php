<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Mortar;

use YardBreak\Core\Geometry\Vec3;

/**
 * What each bond of a cluster bears: pieces are rigid, bonds are springs over their sections (normal, shear, bending, torsion),
 * six degrees of freedom a piece. Solved by conjugate gradients, preconditioned by the diagonal and, in what is larger, by
 * lots of pieces that move as one (additive two-level Schwarz: Dryja & Widlund 1987).
 *
 * A hit is one implicit step over the time of contact: masses over that time squared stand on the diagonal, so it is felt as
 * far as the wave comes in that time.
 */
final class BondLoads
{
    /** Of what is stretched, shear modulus over modulus of elasticity, by a ratio of Poisson of 0.2: that of masonry and concrete. */
    private const SHEAR = 1.0 / 2.4;

    /** Pieces to a lot, and lots, at most. */
    private const LOT = 12;

    private const LOTS = 24;

    private const OUTRIGHT = 36;

    /** s in which what stands may tip. */
    private const TIPS = 1.0;

    /** Rounds after which an answer is taken as it is. */
    private const ROUNDS = 600;

    /** Times that supports are looked at anew. */
    private const LIFTS = 6;

    /** Stiffness that is left of what gives way, as a share, and what is added to that of lots. */
    private const LOOSE = 1e-6;

    private const FIRM = 1e-9;

    /** Numbers a bond: pieces (2), normal (3), arms (6), stiffness (2), that of turning (6). */
    private const ROW = 19;

    /** @var list<float|int> */
    private array $rows = [];

    /** @var list<float> */
    private array $diagonal;

    /** @var list<float> mass over time squared, six a piece */
    private array $held;

    /** @var array<int, int> number among those that move, by piece */
    private array $number = [];

    /** @var list<int> */
    private array $lot = [];

    /** @var list<list<float>> Cholesky factor of the lots, by row */
    private array $factor = [];

    /** @var list<Vec3> middle of each lot */
    private array $lotMiddle = [];

    /** @var list<array{float, float, float}> from the middle of its lot to each that moves */
    private array $arms = [];

    /** @var array<int, int> row by bond; supports by −1 − number */
    private array $rowOf = [];

    /** @var list<float> how far each piece gives way and turns, six numbers each, as found last */
    private array $moved;

    /**
     * @param  float  $modulus  N/m², of elasticity
     * @param  float  $time  s of contact; INF for loads that stay, which must be in balance where nothing is fixed
     */
    public function __construct(private readonly Cluster $cluster, private readonly Bonds $bonds, float $modulus, float $time = INF)
    {
        // Loads in balance bear as nothing on what is held: any piece will do, and without one there were no one answer.
        $fixed = $cluster->fixed !== [] || $cluster->supports !== [] || $time < INF ? $cluster->fixed : [$cluster->pieces[intdiv(count($cluster->pieces), 2)] => true];
        foreach ($cluster->pieces as $piece) {
            if (! isset($fixed[$piece])) {
                $this->number[$piece] = count($this->number);
            }
        }
        $n = count($this->number);
        $this->held = [];
        // What stands may still tip: what its supports cannot bear sets it moving.
        $per = $time === INF && $cluster->fixed === [] && $cluster->supports !== [] ? 1.0 / self::TIPS ** 2 : 1.0 / ($time * $time);
        foreach ($this->number as $piece => $_) {
            $i = $cluster->inertia[$piece];
            array_push($this->held, ...array_fill(0, 3, $per * $cluster->mass[$piece]), ...[$per * $i[0], $per * $i[1], $per * $i[2]]);
        }
        $this->diagonal = $this->held;
        $in = array_fill_keys($cluster->pieces, true);
        foreach ($cluster->pieces as $piece) {
            foreach ($bonds->of[$piece] ?? [] as $bond) {
                if ($bonds->one[$bond] === $piece && isset($in[$bonds->other[$bond]]) && ! isset($bonds->broken[$bond])) {
                    $this->addBond($bond, $modulus);
                }
            }
        }
        foreach ($time < INF ? [] : $cluster->supports as $k => [$piece, $at, $normal]) {
            $this->addSupport($k, $piece, $at, $normal, $modulus);
        }
        $this->moved = array_fill(0, 6 * $n, 0.0);
        // What is small and stays is solved outright: each piece is a lot.
        $wanted = $time === INF && $n <= self::OUTRIGHT ? $n : ($n > 2 * self::LOT ? min(self::LOTS, (int) ceil($n / self::LOT)) : 0);
        if ($wanted > 0) {
            $this->lots($wanted);
        }
    }

    /**
     * What supports bear, loads are given to them as they are stiff; one that would have to pull bears nothing.
     *
     * @param  float  $within  share of the loads that the answer may leave open
     * @return array<int, array{Vec3, Vec3}> by bond: force and moment about its middle with which the other piece draws the one, N and N·m
     */
    public function borne(float $within): array
    {
        for ($round = 0; ; $round++) {
            $this->solve($within);
            $out = $this->forces();
            $pull = [];
            foreach ($out as $bond => [$force]) {
                if ($bond < 0) {
                    // Its normal points from the support into the piece.
                    if ($force->dot($this->cluster->supports[-1 - $bond][2]) < 0.0) {
                        $pull[] = $bond;
                    }
                    unset($out[$bond]);
                }
            }
            if ($pull === [] || $round === self::LIFTS) {
                return $out;
            }
            array_map($this->drop(...), $pull);
        }
    }

    /** A bond bears nothing from now on. */
    public function drop(int $bond): void
    {
        $k = $this->rowOf[$bond];
        for ($i = $k + 11; $i < $k + self::ROW; $i++) {
            $this->rows[$i] = 0.0;
        }
        unset($this->rowOf[$bond]);
    }

    /** A bond bears pressure only from now on: it gives way sideways and in turning. */
    public function press(int $bond): void
    {
        $k = $this->rowOf[$bond];
        $along = $this->rows[$k + 11] + $this->rows[$k + 12];
        $this->rows[$k + 11] = self::LOOSE * $along;
        $this->rows[$k + 12] = $along - self::LOOSE * $along;
        for ($i = $k + 13; $i < $k + self::ROW; $i++) {
            $this->rows[$i] *= self::LOOSE;
        }
    }

    /** What something that does not give way bears: as stiff as a bond over the whole side of the piece. */
    private function addSupport(int $number, int $piece, Vec3 $at, Vec3 $normal, float $modulus): void
    {
        $p = $this->number[$piece] ?? -1;
        if ($p < 0) {
            return;
        }
        $stiff = 0.0;
        foreach ($this->bonds->of[$piece] ?? [] as $bond) {
            $stiff = max($stiff, $modulus * $this->bonds->area[$bond] / $this->bonds->length[$bond]);
        }
        $this->addRow(-1 - $number, $p, -1, $normal, $at->minus($this->cluster->middle[$piece]), Vec3::zero(), $stiff, self::SHEAR * $stiff, array_fill(0, 6, 0.0));
    }

    private function addBond(int $bond, float $modulus): void
    {
        $b = $this->bonds;
        $a = $this->number[$b->one[$bond]] ?? -1;
        $o = $this->number[$b->other[$bond]] ?? -1;
        if ($a < 0 && $o < 0) {
            return;
        }
        $n = $b->normal[$bond];
        $r = $b->middle[$bond]->minus($this->cluster->middle[$b->one[$bond]]);
        $s = $b->middle[$bond]->minus($this->cluster->middle[$b->other[$bond]]);
        $e = $modulus / $b->length[$bond];
        $along = $e * $b->area[$bond];
        $across = self::SHEAR * $along;
        [$xx, $yy, $zz, $xy, $yz, $zx] = $b->spread[$bond];
        $twist = self::SHEAR * $e * ($xx + $yy + $zz);
        // ∫ (r × n)(r × n)ᵀ dA, by columns of the cross product with n.
        $c = [[0.0, $n->z, -$n->y], [-$n->z, 0.0, $n->x], [$n->y, -$n->x, 0.0]];
        $t = [[$xx, $xy, $zx], [$xy, $yy, $yz], [$zx, $yz, $zz]];
        $k = [];
        foreach ([[0, 0], [1, 1], [2, 2], [0, 1], [1, 2], [2, 0]] as [$i, $j]) {
            $sum = 0.0;
            for ($p = 0; $p < 3; $p++) {
                for ($q = 0; $q < 3; $q++) {
                    $sum += $c[$i][$p] * $t[$p][$q] * $c[$j][$q];
                }
            }
            $k[] = $e * $sum;
        }
        $nn = [$n->x, $n->y, $n->z];
        foreach ([[0, 0], [1, 1], [2, 2], [0, 1], [1, 2], [2, 0]] as $m => [$i, $j]) {
            $k[$m] += $twist * $nn[$i] * $nn[$j];
        }
        $this->addRow($bond, $a, $o, $n, $r, $s, $along, $across, $k);
    }

    /**
     * @param  int  $a  number of the one that moves; −1 for what does not
     * @param  int  $o  of the other
     * @param  Vec3  $r  from the middle of the one
     * @param  Vec3  $s  from that of the other
     * @param  float  $along  N/m
     * @param  float  $across  N/m
     * @param  list<float>  $k  against turning, N·m: xx, yy, zz, xy, yz, zx
     */
    private function addRow(int $bond, int $a, int $o, Vec3 $n, Vec3 $r, Vec3 $s, float $along, float $across, array $k): void
    {
        $this->rowOf[$bond] = count($this->rows);
        array_push($this->rows, $a, $o, $n->x, $n->y, $n->z, $r->x, $r->y, $r->z, $s->x, $s->y, $s->z, $across, $along - $across, ...$k);
        foreach ([[$a, $r], [$o, $s]] as [$piece, $arm]) {
            if ($piece < 0) {
                continue;
            }
            $turn = $arm->cross($n);
            foreach ([
                $across + ($along - $across) * $n->x ** 2, $across + ($along - $across) * $n->y ** 2, $across + ($along - $across) * $n->z ** 2,
                $k[0] + $across * ($arm->y ** 2 + $arm->z ** 2) + ($along - $across) * $turn->x ** 2,
                $k[1] + $across * ($arm->z ** 2 + $arm->x ** 2) + ($along - $across) * $turn->y ** 2,
                $k[2] + $across * ($arm->x ** 2 + $arm->y ** 2) + ($along - $across) * $turn->z ** 2,
            ] as $m => $value) {
                $this->diagonal[6 * $piece + $m] += $value;
            }
        }
    }

    /** Goes on from what was found last. */
    private function solve(float $within): void
    {
        $b = [];
        foreach ($this->number as $piece => $_) {
            array_push($b, ...$this->cluster->loads[$piece]);
        }
        $size = count($b);
        $limit = $within * $within * self::dot($b, $this->eased($b));
        $x = $this->moved;
        $r = self::resisted($this->rows, $this->held, $x);
        for ($i = 0; $i < $size; $i++) {
            $r[$i] = $b[$i] - $r[$i];
        }
        $z = $this->eased($r);
        $rz = self::dot($r, $z);
        $p = $z;
        for ($round = 0; $round < self::ROUNDS && $rz > $limit && $rz > 0.0; $round++) {
            $q = self::resisted($this->rows, $this->held, $p);
            $pq = self::dot($p, $q);
            if ($pq <= 0.0) {
                break;
            }
            $alpha = $rz / $pq;
            for ($i = 0; $i < $size; $i++) {
                $x[$i] += $alpha * $p[$i];
                $r[$i] -= $alpha * $q[$i];
            }
            $z = $this->eased($r);
            $next = self::dot($r, $z);
            $beta = $next / $rz;
            $rz = $next;
            for ($i = 0; $i < $size; $i++) {
                $p[$i] = $z[$i] + $beta * $p[$i];
            }
        }
        $this->moved = $x;
    }

    /**
     * @param  list<float>  $a
     * @param  list<float>  $b
     */
    private static function dot(array $a, array $b): float
    {
        $sum = 0.0;
        for ($i = 0, $n = count($a); $i < $n; $i++) {
            $sum += $a[$i] * $b[$i];
        }

        return $sum;
    }

    /**
     * What resists when pieces give way so far: a loop as hot as this one stands alone, on lists.
     *
     * @param  list<float|int>  $rows
     * @param  list<float>  $held
     * @param  list<float>  $x
     * @return list<float>
     */
    private static function resisted(array $rows, array $held, array $x): array
    {
        $out = [];
        for ($i = 0, $n = count($x); $i < $n; $i++) {
            $out[] = $held[$i] * $x[$i];
        }
        // What is fixed, as the last.
        $fixed = $n;
        for ($i = 0; $i < 6; $i++) {
            $x[] = 0.0;
            $out[] = 0.0;
        }
        for ($k = 0, $end = count($rows); $k < $end; $k += self::ROW) {
            $a = $rows[$k] < 0 ? $fixed : 6 * (int) $rows[$k];
            $b = $rows[$k + 1] < 0 ? $fixed : 6 * (int) $rows[$k + 1];
            $nx = $rows[$k + 2];
            $ny = $rows[$k + 3];
            $nz = $rows[$k + 4];
            $rx = $rows[$k + 5];
            $ry = $rows[$k + 6];
            $rz = $rows[$k + 7];
            $sx = $rows[$k + 8];
            $sy = $rows[$k + 9];
            $sz = $rows[$k + 10];
            $across = $rows[$k + 11];
            $ax = $x[$a + 3];
            $ay = $x[$a + 4];
            $az = $x[$a + 5];
            $bx = $x[$b + 3];
            $by = $x[$b + 4];
            $bz = $x[$b + 5];
            $dx = $x[$b] + $by * $sz - $bz * $sy - $x[$a] - $ay * $rz + $az * $ry;
            $dy = $x[$b + 1] + $bz * $sx - $bx * $sz - $x[$a + 1] - $az * $rx + $ax * $rz;
            $dz = $x[$b + 2] + $bx * $sy - $by * $sx - $x[$a + 2] - $ax * $ry + $ay * $rx;
            $dn = $rows[$k + 12] * ($dx * $nx + $dy * $ny + $dz * $nz);
            $fx = $across * $dx + $dn * $nx;
            $fy = $across * $dy + $dn * $ny;
            $fz = $across * $dz + $dn * $nz;
            $bx -= $ax;
            $by -= $ay;
            $bz -= $az;
            $xy = $rows[$k + 16];
            $yz = $rows[$k + 17];
            $zx = $rows[$k + 18];
            $gx = $rows[$k + 13] * $bx + $xy * $by + $zx * $bz;
            $gy = $xy * $bx + $rows[$k + 14] * $by + $yz * $bz;
            $gz = $zx * $bx + $yz * $by + $rows[$k + 15] * $bz;
            $out[$a] -= $fx;
            $out[$a + 1] -= $fy;
            $out[$a + 2] -= $fz;
            $out[$a + 3] -= $gx + $ry * $fz - $rz * $fy;
            $out[$a + 4] -= $gy + $rz * $fx - $rx * $fz;
            $out[$a + 5] -= $gz + $rx * $fy - $ry * $fx;
            $out[$b] += $fx;
            $out[$b + 1] += $fy;
            $out[$b + 2] += $fz;
            $out[$b + 3] += $gx + $sy * $fz - $sz * $fy;
            $out[$b + 4] += $gy + $sz * $fx - $sx * $fz;
            $out[$b + 5] += $gz + $sx * $fy - $sy * $fx;
        }

        return array_slice($out, 0, $n);
    }

    /** @return array<int, array{Vec3, Vec3}> by bond, and by −1 − number of a support */
    private function forces(): array
    {
        $moved = $this->moved;
        array_push($moved, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0);
        $fixed = count($moved) - 6;
        $out = [];
        foreach ($this->rowOf as $bond => $k) {
            [$a, $b] = array_map(static fn (int|float $i): int => $i < 0 ? $fixed : 6 * (int) $i, [$this->rows[$k], $this->rows[$k + 1]]);
            [$nx, $ny, $nz, $rx, $ry, $rz, $sx, $sy, $sz, $across, $more, $xx, $yy, $zz, $xy, $yz, $zx] = array_slice($this->rows, $k + 2, self::ROW - 2);
            $n = new Vec3($nx, $ny, $nz);
            $turnA = new Vec3($moved[$a + 3], $moved[$a + 4], $moved[$a + 5]);
            $turnB = new Vec3($moved[$b + 3], $moved[$b + 4], $moved[$b + 5]);
            $d = (new Vec3($moved[$b], $moved[$b + 1], $moved[$b + 2]))->plus($turnB->cross(new Vec3($sx, $sy, $sz)))
                ->minus((new Vec3($moved[$a], $moved[$a + 1], $moved[$a + 2]))->plus($turnA->cross(new Vec3($rx, $ry, $rz))));
            $t = $turnB->minus($turnA);
            $out[$bond] = [
                $d->times($across)->plus($n->times($more * $d->dot($n))),
                new Vec3($xx * $t->x + $xy * $t->y + $zx * $t->z, $xy * $t->x + $yy * $t->y + $yz * $t->z, $zx * $t->x + $yz * $t->y + $zz * $t->z),
            ];
        }

        return $out;
    }

    /**
     * The preconditioner.
     *
     * @param  list<float>  $r
     * @return list<float>
     */
    private function eased(array $r): array
    {
        $out = [];
        $diagonal = $this->diagonal;
        for ($i = 0, $n = count($r); $i < $n; $i++) {
            $out[] = $r[$i] / $diagonal[$i];
        }
        if ($this->factor === []) {
            return $out;
        }
        $sum = array_fill(0, count($this->factor), 0.0);
        foreach ($this->arms as $p => [$x, $y, $z]) {
            $i = 6 * $p;
            $l = 6 * $this->lot[$p];
            $fx = $r[$i];
            $fy = $r[$i + 1];
            $fz = $r[$i + 2];
            $sum[$l] += $fx;
            $sum[$l + 1] += $fy;
            $sum[$l + 2] += $fz;
            $sum[$l + 3] += $r[$i + 3] + $y * $fz - $z * $fy;
            $sum[$l + 4] += $r[$i + 4] + $z * $fx - $x * $fz;
            $sum[$l + 5] += $r[$i + 5] + $x * $fy - $y * $fx;
        }
        $sum = self::back($this->factor, $sum);
        foreach ($this->arms as $p => [$x, $y, $z]) {
            $i = 6 * $p;
            $l = 6 * $this->lot[$p];
            $tx = $sum[$l + 3];
            $ty = $sum[$l + 4];
            $tz = $sum[$l + 5];
            $out[$i] += $sum[$l] + $ty * $z - $tz * $y;
            $out[$i + 1] += $sum[$l + 1] + $tz * $x - $tx * $z;
            $out[$i + 2] += $sum[$l + 2] + $tx * $y - $ty * $x;
            $out[$i + 3] += $tx;
            $out[$i + 4] += $ty;
            $out[$i + 5] += $tz;
        }

        return $out;
    }

    /** Parts what moves into lots that hang together, and makes the system of those as bodies. */
    private function lots(int $wanted): void
    {
        $pieces = array_keys($this->number);
        $this->lot = $wanted === count($pieces) ? array_keys($pieces) : $this->growLots($wanted);
        $lots = max($this->lot) + 1;
        $sum = array_fill(0, $lots, Vec3::zero());
        $count = array_fill(0, $lots, 0);
        foreach ($pieces as $p => $piece) {
            $sum[$this->lot[$p]] = $sum[$this->lot[$p]]->plus($this->cluster->middle[$piece]);
            $count[$this->lot[$p]]++;
        }
        foreach ($sum as $l => $at) {
            $this->lotMiddle[] = $at->times(1.0 / $count[$l]);
        }
        $matrix = array_fill(0, 6 * $lots, array_fill(0, 6 * $lots, 0.0));
        foreach ($pieces as $p => $piece) {
            $r = $this->cluster->middle[$piece]->minus($this->lotMiddle[$this->lot[$p]]);
            $this->arms[] = $r->toArray();
            // Its mass over time squared, as that of a body about the middle of the lot.
            $own = [[$this->held[6 * $p], 0, 0], [0, $this->held[6 * $p], 0], [0, 0, $this->held[6 * $p]]];
            self::block($matrix, $this->lot[$p], $this->lot[$p], $own, self::cross($r), self::cross($r), 1.0);
            foreach ([3, 4, 5] as $m) {
                $matrix[6 * $this->lot[$p] + $m][6 * $this->lot[$p] + $m] += $this->held[6 * $p + $m];
            }
        }
        foreach ($this->rowOf as $bond => $k) {
            $a = $this->rows[$k] < 0 ? -1 : $this->lot[(int) $this->rows[$k]];
            $b = $this->rows[$k + 1] < 0 ? -1 : $this->lot[(int) $this->rows[$k + 1]];
            if ($a === $b) {
                continue;
            }
            [$nx, $ny, $nz, , , , , , , $across, $more, $xx, $yy, $zz, $xy, $yz, $zx] = array_slice($this->rows, $k + 2, self::ROW - 2);
            $s = [
                [$across + $more * $nx * $nx, $more * $nx * $ny, $more * $nx * $nz],
                [$more * $nx * $ny, $across + $more * $ny * $ny, $more * $ny * $nz],
                [$more * $nx * $nz, $more * $ny * $nz, $across + $more * $nz * $nz],
            ];
            $t = [[$xx, $xy, $zx], [$xy, $yy, $yz], [$zx, $yz, $zz]];
            $arms = [];
            foreach ([$a, $b] as $l) {
                $arms[] = $l < 0 ? null : self::cross(($bond < 0 ? $this->cluster->supports[-1 - $bond][1] : $this->bonds->middle[$bond])->minus($this->lotMiddle[$l]));
            }
            foreach ([[$a, 0, $a, 0, 1.0], [$b, 1, $b, 1, 1.0], [$a, 0, $b, 1, -1.0], [$b, 1, $a, 0, -1.0]] as [$i, $ri, $j, $rj, $sign]) {
                if ($i < 0 || $j < 0 || $arms[$ri] === null || $arms[$rj] === null) {
                    continue;
                }
                self::block($matrix, $i, $j, $s, $arms[$ri], $arms[$rj], $sign);
                for ($p = 0; $p < 3; $p++) {
                    for ($q = 0; $q < 3; $q++) {
                        $matrix[6 * $i + 3 + $p][6 * $j + 3 + $q] += $sign * $t[$p][$q];
                    }
                }
            }
        }
        // What only just stands by itself has an answer all the same.
        foreach ($matrix as $i => $row) {
            $matrix[$i][$i] += self::FIRM * $row[$i];
        }
        $this->factor = self::cholesky($matrix);
    }

    /**
     * Adds a stiffness S between places at arms r and s of two lots: a lot that turns by θ moves its place by θ × r.
     *
     * @param  array<int, array<int, float>>  $matrix
     * @param  list<list<float>>  $s
     * @param  list<list<float>>  $r  that vector, as the matrix of its cross product
     * @param  list<list<float>>  $q
     */
    private static function block(array &$matrix, int $i, int $j, array $s, array $r, array $q, float $sign): void
    {
        // θ × r = −[r]θ, so the rows of turning are [r]S and its columns −S[q].
        $rs = self::product($r, $s);
        $sq = self::product($s, $q);
        $rsq = self::product($r, $sq);
        for ($m = 0; $m < 3; $m++) {
            for ($n = 0; $n < 3; $n++) {
                $matrix[6 * $i + $m][6 * $j + $n] += $sign * $s[$m][$n];
                $matrix[6 * $i + 3 + $m][6 * $j + $n] += $sign * $rs[$m][$n];
                $matrix[6 * $i + $m][6 * $j + 3 + $n] -= $sign * $sq[$m][$n];
                $matrix[6 * $i + 3 + $m][6 * $j + 3 + $n] -= $sign * $rsq[$m][$n];
            }
        }
    }

    /** @return list<list<float>> */
    private static function cross(Vec3 $r): array
    {
        return [[0.0, -$r->z, $r->y], [$r->z, 0.0, -$r->x], [-$r->y, $r->x, 0.0]];
    }

    /**
     * @param  list<list<float>>  $a
     * @param  list<list<float>>  $b
     * @return list<list<float>>
     */
    private static function product(array $a, array $b): array
    {
        $out = [];
        foreach ($a as [$x, $y, $z]) {
            $out[] = [$x * $b[0][0] + $y * $b[1][0] + $z * $b[2][0], $x * $b[0][1] + $y * $b[1][1] + $z * $b[2][1], $x * $b[0][2] + $y * $b[1][2] + $z * $b[2][2]];
        }

        return $out;
    }

    /**
     * @param  array<int, array<int, float>>  $m
     * @return list<list<float>> lower factor, by row; none where it has none
     */
    private static function cholesky(array $m): array
    {
        $n = count($m);
        $l = [];
        for ($i = 0; $i < $n; $i++) {
            $row = $m[$i];
            for ($j = 0; $j <= $i; $j++) {
                $other = $j === $i ? $row : $l[$j];
                $sum = $row[$j];
                for ($k = 0; $k < $j; $k++) {
                    $sum -= $row[$k] * $other[$k];
                }
                if ($j === $i) {
                    if ($sum <= 0.0) {
                        return [];
                    }
                    $row[$j] = sqrt($sum);
                } else {
                    $row[$j] = $sum / $other[$j];
                }
            }
            $l[] = array_slice($row, 0, $i + 1);
        }

        return $l;
    }

    /**
     * @param  list<list<float>>  $l
     * @param  list<float>  $b
     * @return list<float>
     */
    private static function back(array $l, array $b): array
    {
        $n = count($l);
        for ($i = 0; $i < $n; $i++) {
            $row = $l[$i];
            $sum = $b[$i];
            for ($k = 0; $k < $i; $k++) {
                $sum -= $row[$k] * $b[$k];
            }
            $b[$i] = $sum / $row[$i];
        }
        for ($i = $n - 1; $i >= 0; $i--) {
            $row = $l[$i];
            $v = $b[$i] / $row[$i];
            $b[$i] = $v;
            for ($k = 0; $k < $i; $k++) {
                $b[$k] -= $row[$k] * $v;
            }
        }

        return $b;
    }

    /**
     * Lots grow at the same pace from pieces far from each other, over bonds.
     *
     * @return list<int> lot of each that moves
     */
    private function growLots(int $wanted): array
    {
        $beside = array_fill(0, count($this->number), []);
        for ($k = 0, $end = count($this->rows); $k < $end; $k += self::ROW) {
            [$a, $b] = [(int) $this->rows[$k], (int) $this->rows[$k + 1]];
            if ($a >= 0 && $b >= 0) {
                $beside[$a][] = $b;
                $beside[$b][] = $a;
            }
        }
        $middles = array_map(fn (int $piece): Vec3 => $this->cluster->middle[$piece], array_keys($this->number));
        $far = array_fill(0, count($middles), INF);
        $seeds = [];
        for ($next = 0; count($seeds) < $wanted;) {
            $seeds[] = $next;
            $from = $middles[$next];
            $most = -1.0;
            foreach ($middles as $i => $at) {
                $d = ($at->x - $from->x) ** 2 + ($at->y - $from->y) ** 2 + ($at->z - $from->z) ** 2;
                $far[$i] = $d < $far[$i] ? $d : $far[$i];
                if ($far[$i] > $most) {
                    $most = $far[$i];
                    $next = $i;
                }
            }
        }
        $lot = array_fill(0, count($middles), -1);
        foreach ($seeds as $l => $seed) {
            $lot[$seed] = $l;
        }
        for ($i = 0; $i < count($seeds); $i++) {
            foreach ($beside[$seeds[$i]] as $other) {
                if ($lot[$other] < 0) {
                    $lot[$other] = $lot[$seeds[$i]];
                    $seeds[] = $other;
                }
            }
        }
        // What no way leads to: parts between what is fixed.
        foreach ($lot as $i => $l) {
            if ($l < 0) {
                $lot[$i] = 0;
            }
        }

        return $lot;
    }
}
