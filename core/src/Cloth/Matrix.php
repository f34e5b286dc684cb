<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/** What is solved in a sub-step: the mass of points, and how they resist moving against each other, in symmetric blocks of 3 × 3. */
final class Matrix
{
    /** @var list<float> kg, six numbers a point: xx, yy, zz, xy, yz, zx */
    public array $diagonal = [];

    /** @var list<float> kg, six numbers a pair of the weave */
    public array $off = [];

    /** kg·m², by which points across edges pull on each other */
    public float $bend = 0.0;

    /** @var list<float> kg/m⁴ by part: how what fills it resists its volume; none where nothing does */
    public array $fills = [];

    /** @var array{list<float>, list<float>, list<float>} m² by point: by how much that volume grows as it goes */
    public array $grows = [[], [], []];

    /** @var list<int> flat: four points, two that resist coming nearer to two others */
    public array $near = [];

    /** @var list<float> flat: how much each of those counts, of the second two below 0 */
    public array $counts = [];

    /** @var list<float> flat, √kg: the way along which they resist, times the root of how much */
    public array $ways = [];

    /** @var list<int> part of each point, where they are filled */
    public array $parts = [];

    /** @var array<int, true> */
    private array $held = [];

    /** @var list<int> where pairs begin of which an end is held */
    private array $heldPairs = [];

    public function __construct(private readonly Weave $weave)
    {
    }

    /**
     * The matrix times something.
     *
     * @param  list<float>  $vx
     * @param  list<float>  $vy
     * @param  list<float>  $vz
     * @return array{list<float>, list<float>, list<float>, float} the last with that something once more
     */
    public function times(array $vx, array $vy, array $vz): array
    {
        $diagonal = $this->diagonal;
        $off = $this->off;
        $bend = $this->bend;
        $rx = $ry = $rz = [];
        $sum = 0.0;
        $k = 0;
        foreach ($vx as $i => $x) {
            $y = $vy[$i];
            $z = $vz[$i];
            $xy = $diagonal[$k + 3];
            $yz = $diagonal[$k + 4];
            $zx = $diagonal[$k + 5];
            $rx[] = $u = $diagonal[$k] * $x + $xy * $y + $zx * $z;
            $ry[] = $v = $xy * $x + $diagonal[$k + 1] * $y + $yz * $z;
            $rz[] = $w = $zx * $x + $yz * $y + $diagonal[$k + 2] * $z;
            $sum += $u * $x + $v * $y + $w * $z;
            $k += 6;
        }
        $pairs = $this->weave->pairs;
        $twice = 0.0;
        $k = 0;
        for ($p = 0, $n = count($pairs); $p < $n; $p += 2) {
            $i = $pairs[$p];
            $j = $pairs[$p + 1];
            $xx = $off[$k];
            $yy = $off[$k + 1];
            $zz = $off[$k + 2];
            $xy = $off[$k + 3];
            $yz = $off[$k + 4];
            $zx = $off[$k + 5];
            $k += 6;
            $x = $vx[$j];
            $y = $vy[$j];
            $z = $vz[$j];
            $u = $xx * $x + $xy * $y + $zx * $z;
            $v = $xy * $x + $yy * $y + $yz * $z;
            $w = $zx * $x + $yz * $y + $zz * $z;
            $rx[$i] += $u;
            $ry[$i] += $v;
            $rz[$i] += $w;
            $x = $vx[$i];
            $y = $vy[$i];
            $z = $vz[$i];
            $twice += $u * $x + $v * $y + $w * $z;
            $rx[$j] += $xx * $x + $xy * $y + $zx * $z;
            $ry[$j] += $xy * $x + $yy * $y + $yz * $z;
            $rz[$j] += $zx * $x + $yz * $y + $zz * $z;
        }
        if ($bend > 0.0) {
            $pairs = $this->weave->across;
            $p = 0;
            foreach ($this->weave->bendAcross as $pull) {
                $i = $pairs[$p];
                $j = $pairs[$p + 1];
                $p += 2;
                $pull *= $bend;
                $x = $pull * $vx[$j];
                $y = $pull * $vy[$j];
                $z = $pull * $vz[$j];
                $rx[$i] += $x;
                $ry[$i] += $y;
                $rz[$i] += $z;
                $u = $vx[$i];
                $v = $vy[$i];
                $w = $vz[$i];
                $twice += $u * $x + $v * $y + $w * $z;
                $rx[$j] += $pull * $u;
                $ry[$j] += $pull * $v;
                $rz[$j] += $pull * $w;
            }
        }

        if ($this->near !== []) {
            $near = $this->near;
            $counts = $this->counts;
            $ways = $this->ways;
            for ($p = 0, $k = 0, $n = count($near); $p < $n; $p += 4, $k += 3) {
                $i = $near[$p];
                $j = $near[$p + 1];
                $l = $near[$p + 2];
                $m = $near[$p + 3];
                $ci = $counts[$p];
                $cj = $counts[$p + 1];
                $cl = $counts[$p + 2];
                $cm = $counts[$p + 3];
                $nx = $ways[$k];
                $ny = $ways[$k + 1];
                $nz = $ways[$k + 2];
                $t = $nx * ($ci * $vx[$i] + $cj * $vx[$j] + $cl * $vx[$l] + $cm * $vx[$m]) + $ny * ($ci * $vy[$i] + $cj * $vy[$j] + $cl * $vy[$l] + $cm * $vy[$m])
                    + $nz * ($ci * $vz[$i] + $cj * $vz[$j] + $cl * $vz[$l] + $cm * $vz[$m]);
                $sum += $t * $t;
                $nx *= $t;
                $ny *= $t;
                $nz *= $t;
                $rx[$i] += $ci * $nx;
                $ry[$i] += $ci * $ny;
                $rz[$i] += $ci * $nz;
                $rx[$j] += $cj * $nx;
                $ry[$j] += $cj * $ny;
                $rz[$j] += $cj * $nz;
                $rx[$l] += $cl * $nx;
                $ry[$l] += $cl * $ny;
                $rz[$l] += $cl * $nz;
                $rx[$m] += $cm * $nx;
                $ry[$m] += $cm * $ny;
                $rz[$m] += $cm * $nz;
            }
        }

        if ($this->fills !== []) {
            // What fills a part presses on all of it at once: one condition, as dense as it is simple.
            [$gx, $gy, $gz] = $this->grows;
            $parts = $this->parts;
            $along = array_fill(0, count($this->fills), 0.0);
            foreach ($parts as $i => $part) {
                $along[$part] += $gx[$i] * $vx[$i] + $gy[$i] * $vy[$i] + $gz[$i] * $vz[$i];
            }
            foreach ($along as $part => $grows) {
                $sum += $this->fills[$part] * $grows * $grows;
                $along[$part] = $this->fills[$part] * $grows;
            }
            foreach ($parts as $i => $part) {
                $rx[$i] += $along[$part] * $gx[$i];
                $ry[$i] += $along[$part] * $gy[$i];
                $rz[$i] += $along[$part] * $gz[$i];
            }
        }

        return [$rx, $ry, $rz, $sum + 2.0 * $twice];
    }

    /** @return list<float> kg, blocks of points with what keeps those apart that lie on each other */
    public function blocks(): array
    {
        $out = $this->diagonal;
        foreach ($this->near as $p => $i) {
            $k = 3 * ($p >> 2);
            [$nx, $ny, $nz] = [$this->counts[$p] * $this->ways[$k], $this->counts[$p] * $this->ways[$k + 1], $this->counts[$p] * $this->ways[$k + 2]];
            $d = 6 * $i;
            $out[$d] += $nx * $nx;
            $out[$d + 1] += $ny * $ny;
            $out[$d + 2] += $nz * $nz;
            $out[$d + 3] += $nx * $ny;
            $out[$d + 4] += $ny * $nz;
            $out[$d + 5] += $nz * $nx;
        }

        return $out;
    }

    /**
     * Pairs of which both points are among some.
     *
     * @param  array<int, true>  $points
     * @return list<int>
     */
    public function pairsAmong(array $points): array
    {
        $pairs = $this->weave->pairs;
        $out = [];
        for ($p = 0, $n = count($pairs); $p < $n; $p += 2) {
            if (isset($points[$pairs[$p]]) && isset($points[$pairs[$p + 1]])) {
                $out[] = $p >> 1;
            }
        }

        return $out;
    }

    /**
     * The matrix times something that only few points have, as far as it acts on them; but for what acts across edges.
     *
     * @param  array<int, array{float, float, float}>  $some
     * @param  list<int>  $pairs  among them
     * @return array<int, array{float, float, float}>
     */
    public function among(array $some, array $pairs): array
    {
        $out = [];
        foreach ($some as $i => [$x, $y, $z]) {
            $out[$i] = self::block($this->diagonal, 6 * $i, $x, $y, $z);
        }
        foreach ($pairs as $pair) {
            $i = $this->weave->pairs[2 * $pair];
            $j = $this->weave->pairs[2 * $pair + 1];
            if (! isset($some[$i], $some[$j])) {
                continue;
            }
            [$x, $y, $z] = self::block($this->off, 6 * $pair, ...$some[$j]);
            $out[$i] = [$out[$i][0] + $x, $out[$i][1] + $y, $out[$i][2] + $z];
            [$x, $y, $z] = self::block($this->off, 6 * $pair, ...$some[$i]);
            $out[$j] = [$out[$j][0] + $x, $out[$j][1] + $y, $out[$j][2] + $z];
        }

        return $out;
    }

    /**
     * @param  list<float>  $blocks
     * @return array{float, float, float}
     */
    private static function block(array $blocks, int $k, float $x, float $y, float $z): array
    {
        return [
            $blocks[$k] * $x + $blocks[$k + 3] * $y + $blocks[$k + 5] * $z,
            $blocks[$k + 3] * $x + $blocks[$k + 1] * $y + $blocks[$k + 4] * $z,
            $blocks[$k + 5] * $x + $blocks[$k + 4] * $y + $blocks[$k + 2] * $z,
        ];
    }

    /**
     * Leaves out what is held.
     *
     * @param  array<int, true>  $held
     */
    public function without(array $held): void
    {
        $diagonal = $this->diagonal;
        $off = $this->off;
        $this->diagonal = $this->off = [];
        foreach ($held as $i => $_) {
            $k = 6 * $i;
            $diagonal[$k] = $diagonal[$k + 1] = $diagonal[$k + 2] = $diagonal[$k + 3] = $diagonal[$k + 4] = $diagonal[$k + 5] = 0.0;
            if ($this->fills !== []) {
                $this->grows[0][$i] = $this->grows[1][$i] = $this->grows[2][$i] = 0.0;
            }
        }
        if ($held !== $this->held) {
            $this->held = $held;
            $this->heldPairs = [];
            foreach ($this->weave->pairs as $p => $i) {
                if (isset($held[$i])) {
                    $this->heldPairs[] = 6 * ($p >> 1);
                }
            }
        }
        foreach ($this->near as $p => $i) {
            if (isset($held[$i])) {
                $this->counts[$p] = 0.0;
            }
        }
        foreach ($this->heldPairs as $k) {
            $off[$k] = $off[$k + 1] = $off[$k + 2] = $off[$k + 3] = $off[$k + 4] = $off[$k + 5] = 0.0;
        }
        [$this->diagonal, $this->off] = [$diagonal, $off];
    }
}
