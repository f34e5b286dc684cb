<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/**
 * Points of a weave in ever larger lots, up to one a part: what a few rounds of conjugate gradients cannot carry across the cloth is
 * carried by these (additive multilevel preconditioning, Bramble, Pasciak & Xu 1990, on greedy aggregates). What a lot says is not taken over
 * as it is by the lots it is made of, but evened out between neighbours (as in smoothed aggregation, Vaněk, Mandel & Brezina 1996, by the
 * graph alone): steps at the borders of lots would cost more than they bring.
 */
final readonly class Levels
{
    /** So much of what lots of points say is added to what points say by themselves. */
    private const SHARE = 0.6;

    /** And so many times that of each level further up: even as they are, larger lots resist less than their steps do (fewest rounds on sheets that swing and fold). */
    private const GROWS = 2.3;

    /** Share of what its neighbours say that a lot takes over from what it is part of. */
    private const EVEN = 0.67;

    /**
     * @param  list<list<int>>  $lots  by level: lot of each lot of the level below, of each point at first
     * @param  list<int>  $sizes  lots by level
     * @param  list<list<int>>  $within  by level: pairs that lie within one lot from there on
     * @param  list<list<int>>  $pairLots  by level: the lot of each of those
     * @param  list<list<float>>  $bends  by level and lot: how points across its edges pull on each other, 1/m²
     * @param  list<list<int>>  $beside  by level: flat, lots that lie beside each other
     * @param  list<list<float>>  $takes  by level and lot: share that it takes over from each of those beside it
     */
    private function __construct(
        public array $lots,
        public array $sizes,
        private array $within,
        private array $pairLots,
        private array $bends,
        private array $beside,
        private array $takes,
    ) {
    }

    public static function of(Weave $weave): self
    {
        $lots = $sizes = $within = $pairLots = $bends = $beside = $takes = [];
        $n = $weave->count();
        $ends = $weave->pairs;
        $across = $weave->across;
        $left = array_keys(array_fill(0, intdiv(count($ends), 2), 0));
        $parts = $n === 0 ? 0 : max($weave->parts) + 1;
        $bent = array_fill(0, $n, 0.0);
        while ($n > $parts && $left !== [] && count($lots) < 24) {
            [$lot, $count] = self::inLots($n, $ends, $left);
            $inside = $on = $in = [];
            foreach ($left as $k) {
                $ends[2 * $k] = $lot[$ends[2 * $k]];
                $ends[2 * $k + 1] = $lot[$ends[2 * $k + 1]];
                if ($ends[2 * $k] === $ends[2 * $k + 1]) {
                    $inside[] = $k;
                    $in[] = $ends[2 * $k];
                } else {
                    $on[] = $k;
                }
            }
            $sum = array_fill(0, $count, 0.0);
            foreach ($lot as $p => $to) {
                $sum[$to] += $bent[$p];
            }
            foreach ($weave->bendAcross as $k => $pull) {
                [$i, $j] = [$across[2 * $k], $across[2 * $k + 1]];
                [$across[2 * $k], $across[2 * $k + 1]] = [$lot[$i], $lot[$j]];
                // Once: what lay within one lot already has been counted.
                $sum[$lot[$i]] += $i !== $j && $lot[$i] === $lot[$j] ? 2.0 * $pull : 0.0;
            }
            $lots[] = $lot;
            $sizes[] = $count;
            $within[] = $inside;
            $pairLots[] = $in;
            $bends[] = $bent = $sum;
            [$beside[], $takes[]] = self::neighbours($count, $ends, $on);
            $left = $on;
            $n = $count;
        }

        return new self($lots, $sizes, $within, $pairLots, $bends, $beside, $takes);
    }

    /**
     * @param  list<int>  $ends  flat, of all pairs
     * @param  list<int>  $left  pairs between two lots
     * @return array{list<int>, list<float>} flat, lots beside each other; by lot, the share that it takes over from each of them
     */
    private static function neighbours(int $n, array $ends, array $left): array
    {
        $known = [];
        $count = array_fill(0, $n, 0);
        foreach ($left as $k) {
            $known[min($ends[2 * $k], $ends[2 * $k + 1]) << 32 | max($ends[2 * $k], $ends[2 * $k + 1])] = true;
        }
        $beside = [];
        foreach ($known as $pair => $_) {
            array_push($beside, $pair >> 32, $pair & 0xFFFFFFFF);
            $count[$pair >> 32]++;
            $count[$pair & 0xFFFFFFFF]++;
        }

        return [$beside, array_map(static fn (int $c): float => $c > 0 ? self::EVEN / $c : 0.0, $count)];
    }

    /**
     * Lots of what is beside each other.
     *
     * @param  list<int>  $ends  flat, of all pairs
     * @param  list<int>  $left  pairs that count
     * @return array{list<int>, int} by point; how many there are
     */
    private static function inLots(int $n, array $ends, array $left): array
    {
        $beside = array_fill(0, $n, []);
        foreach ($left as $k) {
            $beside[$ends[2 * $k]][] = $ends[2 * $k + 1];
            $beside[$ends[2 * $k + 1]][] = $ends[2 * $k];
        }
        $lot = array_fill(0, $n, -1);
        $count = 0;
        // First about those none of whose neighbours is in a lot yet, so that lots are round.
        foreach ([true, false] as $round) {
            for ($p = 0; $p < $n; $p++) {
                if ($lot[$p] >= 0) {
                    continue;
                }
                $near = -1;
                foreach ($beside[$p] as $q) {
                    $near = $lot[$q] >= 0 ? $lot[$q] : $near;
                }
                if ($round && $near >= 0) {
                    continue;
                }
                if ($near >= 0) {
                    $lot[$p] = $near;

                    continue;
                }
                $lot[$p] = $count;
                foreach ($beside[$p] as $q) {
                    $lot[$q] = $lot[$q] < 0 ? $count : $lot[$q];
                }
                $count++;
            }
        }

        return [$lot, $count];
    }

    /**
     * Inverse blocks of all lots, six numbers each, by level.
     *
     * @param  array<int, float>  $diagonal  six numbers a point; zeros for what is held
     * @param  array<int, float>  $off  six numbers a pair; zeros where either is held
     * @param  float  $bend  by which points across edges pull on each other, m²
     * @return list<list<float>>
     */
    public function inverses(array $diagonal, array $off, float $bend): array
    {
        $out = [];
        foreach ($this->lots as $level => $lot) {
            $sum = array_fill(0, 6 * $this->sizes[$level], 0.0);
            foreach ($lot as $p => $to) {
                $i = 6 * $to;
                $k = 6 * $p;
                $sum[$i] += $diagonal[$k];
                $sum[$i + 1] += $diagonal[$k + 1];
                $sum[$i + 2] += $diagonal[$k + 2];
                $sum[$i + 3] += $diagonal[$k + 3];
                $sum[$i + 4] += $diagonal[$k + 4];
                $sum[$i + 5] += $diagonal[$k + 5];
            }
            $up = $this->pairLots[$level];
            foreach ($this->within[$level] as $m => $pair) {
                $i = 6 * $up[$m];
                $k = 6 * $pair;
                $sum[$i] += 2.0 * $off[$k];
                $sum[$i + 1] += 2.0 * $off[$k + 1];
                $sum[$i + 2] += 2.0 * $off[$k + 2];
                $sum[$i + 3] += 2.0 * $off[$k + 3];
                $sum[$i + 4] += 2.0 * $off[$k + 4];
                $sum[$i + 5] += 2.0 * $off[$k + 5];
            }
            $diagonal = $sum;
            foreach ($this->bends[$level] as $i => $pull) {
                $sum[6 * $i] += $bend * $pull;
                $sum[6 * $i + 1] += $bend * $pull;
                $sum[6 * $i + 2] += $bend * $pull;
            }
            $out[] = self::inverted($sum);
        }

        return $out;
    }

    /**
     * What lots of points say, and the lots they are in.
     *
     * @param  list<list<float>>  $inverses  as of `inverses`
     * @param  list<float>  $sx  what is left, summed over each lot of points
     * @param  list<float>  $sy
     * @param  list<float>  $sz
     * @return array{list<float>, list<float>, list<float>} by lot of points
     */
    public function say(array $inverses, array $sx, array $sy, array $sz): array
    {
        $sums = [];
        $top = count($this->lots) - 1;
        for ($level = 0; $level < $top; $level++) {
            $sums[] = [$sx, $sy, $sz];
            [$ex, $ey, $ez] = $this->gathered($level, $sx, $sy, $sz);
            $sx = $sy = $sz = array_fill(0, $this->sizes[$level + 1], 0.0);
            foreach ($this->lots[$level + 1] as $p => $to) {
                $sx[$to] += $ex[$p];
                $sy[$to] += $ey[$p];
                $sz[$to] += $ez[$p];
            }
        }
        $tx = $ty = $tz = array_fill(0, $this->sizes[$top] ?? 0, 0.0);
        for ($level = $top; $level >= 0; $level--) {
            if ($level < $top) {
                [$sx, $sy, $sz] = $sums[$level];
                [$tx, $ty, $tz] = $this->spread($level, $tx, $ty, $tz);
            }
            $d = $inverses[$level];
            $share = self::SHARE * self::GROWS ** $level;
            for ($i = 0, $k = 0, $n = $this->sizes[$level]; $i < $n; $i++, $k += 6) {
                $a = $share * $sx[$i];
                $b = $share * $sy[$i];
                $c = $share * $sz[$i];
                $tx[$i] += $d[$k] * $a + $d[$k + 3] * $b + $d[$k + 5] * $c;
                $ty[$i] += $d[$k + 3] * $a + $d[$k + 1] * $b + $d[$k + 4] * $c;
                $tz[$i] += $d[$k + 5] * $a + $d[$k + 4] * $b + $d[$k + 2] * $c;
            }
        }

        return [$tx, $ty, $tz];
    }

    /**
     * What lots of a level say of what the lots above have said to them, evened out between neighbours.
     *
     * @param  list<float>  $tx  by lot of the level above
     * @param  list<float>  $ty
     * @param  list<float>  $tz
     * @return array{list<float>, list<float>, list<float>}
     */
    private function spread(int $level, array $tx, array $ty, array $tz): array
    {
        $takes = $this->takes[$level];
        $beside = $this->beside[$level];
        $x = $y = $z = $ex = $ey = $ez = [];
        foreach ($this->lots[$level + 1] as $i => $t) {
            $k = $takes[$i] > 0.0 ? 1.0 - self::EVEN : 1.0;
            $x[] = $a = $tx[$t];
            $y[] = $b = $ty[$t];
            $z[] = $c = $tz[$t];
            $ex[] = $k * $a;
            $ey[] = $k * $b;
            $ez[] = $k * $c;
        }
        for ($p = 0, $n = count($beside); $p < $n; $p += 2) {
            $i = $beside[$p];
            $j = $beside[$p + 1];
            $a = $takes[$i];
            $b = $takes[$j];
            $ex[$i] += $a * $x[$j];
            $ey[$i] += $a * $y[$j];
            $ez[$i] += $a * $z[$j];
            $ex[$j] += $b * $x[$i];
            $ey[$j] += $b * $y[$i];
            $ez[$j] += $b * $z[$i];
        }

        return [$ex, $ey, $ez];
    }

    /**
     * The other way round: what is left, as the lots above see it.
     *
     * @param  list<float>  $x  by lot of the level
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<float>, list<float>, list<float>}
     */
    private function gathered(int $level, array $x, array $y, array $z): array
    {
        $takes = $this->takes[$level];
        $beside = $this->beside[$level];
        $ex = $ey = $ez = [];
        foreach ($takes as $i => $a) {
            $k = $a > 0.0 ? 1.0 - self::EVEN : 1.0;
            $ex[] = $k * $x[$i];
            $ey[] = $k * $y[$i];
            $ez[] = $k * $z[$i];
        }
        for ($p = 0, $n = count($beside); $p < $n; $p += 2) {
            $i = $beside[$p];
            $j = $beside[$p + 1];
            $a = $takes[$i];
            $b = $takes[$j];
            $ex[$j] += $a * $x[$i];
            $ey[$j] += $a * $y[$i];
            $ez[$j] += $a * $z[$i];
            $ex[$i] += $b * $x[$j];
            $ey[$i] += $b * $y[$j];
            $ez[$i] += $b * $z[$j];
        }

        return [$ex, $ey, $ez];
    }

    /**
     * Inverses of symmetric blocks: xx, yy, zz, xy, yz, zx.
     *
     * @param  array<int, float>  $blocks
     * @return list<float>
     */
    public static function inverted(array $blocks): array
    {
        $out = [];
        for ($i = 0, $n = count($blocks); $i < $n; $i += 6) {
            $xx = $blocks[$i];
            $yy = $blocks[$i + 1];
            $zz = $blocks[$i + 2];
            $xy = $blocks[$i + 3];
            $yz = $blocks[$i + 4];
            $zx = $blocks[$i + 5];
            $a = $yy * $zz - $yz * $yz;
            $b = $yz * $zx - $xy * $zz;
            $c = $xy * $yz - $yy * $zx;
            $det = $xx * $a + $xy * $b + $zx * $c;
            if ($det <= 1e-300) {
                $out[] = 0.0;
                $out[] = 0.0;
                $out[] = 0.0;
                $out[] = 0.0;
                $out[] = 0.0;
                $out[] = 0.0;

                continue;
            }
            $k = 1.0 / $det;
            $out[] = $k * $a;
            $out[] = $k * ($xx * $zz - $zx * $zx);
            $out[] = $k * ($xx * $yy - $xy * $xy);
            $out[] = $k * $b;
            $out[] = $k * ($xy * $zx - $xx * $yz);
            $out[] = $k * $c;
        }

        return $out;
    }
}
