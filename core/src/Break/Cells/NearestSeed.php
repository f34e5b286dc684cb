<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Geometry\Delaunay;
use YardBreak\Core\SeededRandom;

/** Finds the seed nearest to a point by a descent over the Delaunay graph, from where the last search ended. */
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

    private int $at = 0;

    /**
     * @param  list<array{float, float, float}>  $seeds
     *
     * @throws \UnexpectedValueException where seeds stand too regularly
     */
    public function __construct(array $seeds, SeededRandom $random)
    {
        [$this->sx, $this->sy, $this->sz] = Diagram::jittered($seeds, $random, Diagram::JITTER);
        [$this->start, $this->run] = (new Delaunay($this->sx, $this->sy, $this->sz))->neighbours();
    }

    public function to(float $x, float $y, float $z): int
    {
        $at = $this->at;
        do {
            $dx = $this->sx[$at] - $x;
            $dy = $this->sy[$at] - $y;
            $dz = $this->sz[$at] - $z;
            $best = $dx * $dx + $dy * $dy + $dz * $dz;
            $to = -1;
            for ($k = $this->start[$at], $end = $this->start[$at + 1]; $k < $end; $k++) {
                $m = $this->run[$k];
                $dx = $this->sx[$m] - $x;
                $dy = $this->sy[$m] - $y;
                $dz = $this->sz[$m] - $z;
                $d = $dx * $dx + $dy * $dy + $dz * $dz;
                if ($d < $best) {
                    $best = $d;
                    $to = $m;
                }
            }
            $at = $to < 0 ? $at : $to;
        } while ($to >= 0);

        return $this->at = $at;
    }
}
