<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/**
 * Points of a weave in ever larger lots, up to one a part: what a few rounds of conjugate gradients cannot carry across the cloth is
 * carried by these (additive multilevel preconditioning, Bramble, Pasciak & Xu 1990, on greedy aggregates).
 */
final readonly class Levels
{
    /** So much of what lots say is added to what points say by themselves. */
    private const SHARE = 0.5;

    /**
     * @param  list<list<int>>  $lots  by level: lot of each lot of the level below, of each point at first
     * @param  list<int>  $sizes  lots by level
     * @param  list<list<int>>  $within  by level: pairs that lie within one lot from there on
     * @param  list<list<int>>  $pairLots  by level: the lot of each of those
     */
    private function __construct(private array $lots, private array $sizes, private array $within, private array $pairLots)
    {
    }

    public static function of(Weave $weave): self
    {
        $lots = $sizes = $within = $pairLots = [];
        $n = $weave->count();
        $ends = $weave->pairs;
        $left = range(0, max(0, intdiv(count($ends), 2) - 1));
        $parts = $n === 0 ? 0 : max($weave->parts) + 1;
        while ($n > $parts && $left !== [] && count($lots) < 24) {
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
            $lots[] = $lot;
            $sizes[] = $count;
            $within[] = $inside;
            $pairLots[] = $in;
            $left = $on;
            $n = $count;
        }

        return new self($lots, $sizes, $within, $pairLots);
    }

    /**
     * Inverse blocks of all lots, six numbers each, by level.
     *
     * @param  array<int, float>  $diagonal  six numbers a point; zeros for what is held
     * @param  array<int, float>  $off  six numbers a pair; zeros where either is held
     * @return list<list<float>>
     */
    public function inverses(array $diagonal, array $off): array
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
            $out[] = self::inverted($sum);
            $diagonal = $sum;
        }

        return $out;
    }

    /**
     * Adds to each point what its lots say.
     *
     * @param  list<list<float>>  $inverses  as of `inverses`
     * @param  array<int, float>  $rx  what is left, by point
     * @param  array<int, float>  $ry
     * @param  array<int, float>  $rz
     * @param  array<int, float>  $zx  to which it is added
     * @param  array<int, float>  $zy
     * @param  array<int, float>  $zz
     * @return array{list<float>, list<float>, list<float>}
     */
    public function add(array $inverses, array $rx, array $ry, array $rz, array $zx, array $zy, array $zz): array
    {
        $sums = [];
        foreach ($this->lots as $level => $lot) {
            $sx = $sy = $sz = array_fill(0, $this->sizes[$level], 0.0);
            foreach ($lot as $p => $to) {
                $sx[$to] += $rx[$p];
                $sy[$to] += $ry[$p];
                $sz[$to] += $rz[$p];
            }
            $sums[] = [$sx, $sy, $sz];
            [$rx, $ry, $rz] = [$sx, $sy, $sz];
        }
        $up = null;
        for ($level = count($this->lots) - 1; $level >= 0; $level--) {
            [$sx, $sy, $sz] = $sums[$level];
            $d = $inverses[$level];
            $above = $this->lots[$level + 1] ?? [];
            for ($i = 0, $n = $this->sizes[$level]; $i < $n; $i++) {
                $k = 6 * $i;
                $a = $sx[$i];
                $b = $sy[$i];
                $c = $sz[$i];
                $sx[$i] = self::SHARE * ($d[$k] * $a + $d[$k + 3] * $b + $d[$k + 5] * $c);
                $sy[$i] = self::SHARE * ($d[$k + 3] * $a + $d[$k + 1] * $b + $d[$k + 4] * $c);
                $sz[$i] = self::SHARE * ($d[$k + 5] * $a + $d[$k + 4] * $b + $d[$k + 2] * $c);
                if ($up !== null) {
                    $t = $above[$i];
                    $sx[$i] += $up[0][$t];
                    $sy[$i] += $up[1][$t];
                    $sz[$i] += $up[2][$t];
                }
            }
            $up = [$sx, $sy, $sz];
        }
        if ($up === null) {
            return [$zx, $zy, $zz];
        }
        [$ux, $uy, $uz] = $up;
        foreach ($this->lots[0] as $p => $to) {
            $zx[$p] += $ux[$to];
            $zy[$p] += $uy[$to];
            $zz[$p] += $uz[$to];
        }

        return [$zx, $zy, $zz];
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
