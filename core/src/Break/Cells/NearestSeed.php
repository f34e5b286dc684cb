<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Geometry\Delaunay;
use YardBreak\Core\SeededRandom;

/** Finds the seeds nearest to points by a descent over the Delaunay graph, each from a seed close by in a grid. */
final class NearestSeed
{
    /** @var list<float> */
    private array $sx;

    /** @var list<float> */
    private array $sy;

    /** @var list<float> */
    private array $sz;

    /** @var list<int> */
    private array $start;

    /** @var list<int> */
    private array $run;

    /** Cells of the grid along each axis. */
    private int $cells;

    /** @var array{float, float, float} */
    private array $low;

    /** Cells a unit. */
    private float $density;

    /** @var list<int> a seed in or near each cell */
    private array $close;

    /**
     * @param  list<array{float, float, float}>  $seeds
     *
     * @throws \UnexpectedValueException where seeds stand too regularly
     */
    public function __construct(array $seeds, SeededRandom $random)
    {
        [$this->sx, $this->sy, $this->sz] = Diagram::jittered($seeds, $random, Diagram::JITTER);
        [$this->start, $this->run] = (new Delaunay($this->sx, $this->sy, $this->sz))->neighbours();
        $this->sort();
    }

    private function sort(): void
    {
        $this->low = [min($this->sx), min($this->sy), min($this->sz)];
        $size = max(max($this->sx) - $this->low[0], max($this->sy) - $this->low[1], max($this->sz) - $this->low[2], 1e-9);
        $this->cells = $n = max(1, min(64, (int) round(1.5 * count($this->sx) ** (1 / 3))));
        $this->density = $n / $size;
        $close = array_fill(0, $n ** 3, -1);
        foreach ($this->sx as $i => $x) {
            $u = min($n - 1, (int) (($x - $this->low[0]) * $this->density));
            $v = min($n - 1, (int) (($this->sy[$i] - $this->low[1]) * $this->density));
            $w = min($n - 1, (int) (($this->sz[$i] - $this->low[2]) * $this->density));
            $close[($u * $n + $v) * $n + $w] = $i;
        }
        // An empty cell takes what the one before it has.
        $last = 0;
        foreach ($close as $cell => $seed) {
            $last = $close[$cell] = $seed >= 0 ? $seed : $last;
        }
        $this->close = $close;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<int> the number of the nearest seed, for each point
     */
    public function to(array $x, array $y, array $z): array
    {
        $sx = $this->sx;
        $sy = $this->sy;
        $sz = $this->sz;
        $start = $this->start;
        $run = $this->run;
        $close = $this->close;
        [$lx, $ly, $lz] = $this->low;
        $k = $this->density;
        $n = $this->cells;
        $out = [];
        foreach ($x as $i => $px) {
            $py = $y[$i];
            $pz = $z[$i];
            $u = (int) (($px - $lx) * $k);
            $v = (int) (($py - $ly) * $k);
            $w = (int) (($pz - $lz) * $k);
            $u = $u < 0 ? 0 : ($u >= $n ? $n - 1 : $u);
            $v = $v < 0 ? 0 : ($v >= $n ? $n - 1 : $v);
            $w = $w < 0 ? 0 : ($w >= $n ? $n - 1 : $w);
            $to = $close[($u * $n + $v) * $n + $w];
            $dx = $sx[$to] - $px;
            $dy = $sy[$to] - $py;
            $dz = $sz[$to] - $pz;
            $best = $dx * $dx + $dy * $dy + $dz * $dz;
            do {
                $at = $to;
                for ($j = $start[$at], $end = $start[$at + 1]; $j < $end; $j++) {
                    $m = $run[$j];
                    $dx = $sx[$m] - $px;
                    $dy = $sy[$m] - $py;
                    $dz = $sz[$m] - $pz;
                    $d = $dx * $dx + $dy * $dy + $dz * $dz;
                    if ($d < $best) {
                        $best = $d;
                        $to = $m;
                    }
                }
            } while ($to !== $at);
            $out[] = $at;
        }

        return $out;
    }
}
