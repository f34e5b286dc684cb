<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/**
 * Points of one sheet, or middles of its edges, that lie on each other: springs along the way between them, as stiff as their mass asks within a sub-step, that are
 * part of the solve while these would come nearer. What they bear is borne together with all that pulls on the cloth; set apart after it they would
 * strain it.
 */
final class Apart
{
    /** Times what the lighter of two points weighs that they resist. */
    private const STIFF = 300.0;

    /** @var list<int> flat: four points each: two ends of an edge of which it is the middle, or twice a point; and the same of the other */
    private array $four = [];

    /** @var list<float> flat: unit, from the other to the one, and m that they are to be apart */
    private array $ways = [];

    /** @var list<float> N/m */
    private array $stiff = [];

    /**
     * @param  array{int, int, int, int}  $four  ends of an edge whose middle it is, or twice a point; and of what that lies on
     * @param  float  $target  m that they come no nearer than
     * @param  float  $mass  kg, of both against each other
     * @param  float  $h  s, the sub-step
     */
    public function add(array $four, float $nx, float $ny, float $nz, float $target, float $mass, float $h): void
    {
        array_push($this->four, ...$four);
        array_push($this->ways, $nx, $ny, $nz, $target);
        $this->stiff[] = self::STIFF * $mass / ($h * $h);
    }

    /**
     * N with which one is kept off the other where they are so far apart.
     *
     * @param  int  $k  number, in the order they were added
     * @param  float  $far  m
     */
    public function presses(int $k, float $far): float
    {
        return $this->stiff[$k] * max(0.0, $this->ways[4 * $k + 3] - $far);
    }

    /**
     * What keeps them apart that would come nearer.
     *
     * @param  list<float>  $px  m, where points would come to
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<float>  $fx  N so far
     * @param  list<float>  $fy
     * @param  list<float>  $fz
     * @param  float  $scale  of the matrix
     * @return array{list<float>, list<float>, list<float>} N with it; the matrix is told
     */
    public function pull(Matrix $matrix, array $px, array $py, array $pz, array $fx, array $fy, array $fz, float $scale): array
    {
        $matrix->near = $matrix->counts = $matrix->ways = [];
        foreach ($this->stiff as $k => $stiff) {
            $w = 4 * $k;
            [$i, $j, $l, $m] = [$this->four[$w], $this->four[$w + 1], $this->four[$w + 2], $this->four[$w + 3]];
            [$nx, $ny, $nz] = [$this->ways[$w], $this->ways[$w + 1], $this->ways[$w + 2]];
            $far = 0.5 * (($px[$i] + $px[$j] - $px[$l] - $px[$m]) * $nx + ($py[$i] + $py[$j] - $py[$l] - $py[$m]) * $ny + ($pz[$i] + $pz[$j] - $pz[$l] - $pz[$m]) * $nz);
            $half = 0.5 * $this->presses($k, $far);
            if ($half <= 0.0) {
                continue;
            }
            foreach ([[$i, $half], [$j, $half], [$l, -$half], [$m, -$half]] as [$p, $f]) {
                $fx[$p] += $f * $nx;
                $fy[$p] += $f * $ny;
                $fz[$p] += $f * $nz;
            }
            $root = sqrt($scale * $stiff);
            array_push($matrix->near, $i, $j, $l, $m);
            array_push($matrix->counts, 0.5, 0.5, -0.5, -0.5);
            array_push($matrix->ways, $root * $nx, $root * $ny, $root * $nz);
        }

        return [$fx, $fy, $fz];
    }
}
