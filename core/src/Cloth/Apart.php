<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/**
 * Pairs of points of one sheet that lie on each other: springs along the way between them, as stiff as their mass asks within a sub-step, that are
 * part of the solve while these would come nearer. What they bear is borne together with all that pulls on the cloth; set apart after it they would
 * strain it.
 */
final class Apart
{
    /** Times what the lighter of two points weighs that they resist. */
    private const STIFF = 300.0;

    /** @var list<int> flat: two points each */
    public array $pairs = [];

    /** @var list<float> flat: unit, from the second to the first, and m that they are to be apart */
    public array $ways = [];

    /** @var list<float> N/m, by pair */
    public array $stiff = [];

    /** @param  float  $target  m that they come no nearer than */
    public function add(int $i, int $j, float $nx, float $ny, float $nz, float $target, float $mass, float $h): void
    {
        $this->pairs[] = $i;
        $this->pairs[] = $j;
        $this->ways[] = $nx;
        $this->ways[] = $ny;
        $this->ways[] = $nz;
        $this->ways[] = $target;
        $this->stiff[] = self::STIFF * $mass / ($h * $h);
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
        $matrix->nearPairs = $matrix->near = [];
        $w = 0;
        foreach ($this->stiff as $k => $stiff) {
            $i = $this->pairs[2 * $k];
            $j = $this->pairs[2 * $k + 1];
            $nx = $this->ways[$w];
            $ny = $this->ways[$w + 1];
            $nz = $this->ways[$w + 2];
            $lacks = $this->ways[$w + 3] - ($px[$i] - $px[$j]) * $nx - ($py[$i] - $py[$j]) * $ny - ($pz[$i] - $pz[$j]) * $nz;
            $w += 4;
            if ($lacks <= 0.0) {
                continue;
            }
            $f = $stiff * $lacks;
            $fx[$i] += $f * $nx;
            $fy[$i] += $f * $ny;
            $fz[$i] += $f * $nz;
            $fx[$j] -= $f * $nx;
            $fy[$j] -= $f * $ny;
            $fz[$j] -= $f * $nz;
            $matrix->nearPairs[] = $i;
            $matrix->nearPairs[] = $j;
            $root = sqrt($scale * $stiff);
            $matrix->near[] = $root * $nx;
            $matrix->near[] = $root * $ny;
            $matrix->near[] = $root * $nz;
        }

        return [$fx, $fy, $fz];
    }
}
