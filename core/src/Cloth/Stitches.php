<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/** What still holds the pieces of a sheet together, and the parts that hang together by it. */
final class Stitches
{
    /** Times as stiff as cloth as wide as a stitch and one edge long: of a strain of a tenth a seam gapes by a five-hundredth of an edge. */
    private const STIFF = 50.0;

    /** @var list<int> number of its part, by point */
    public array $parts;

    /** @var array<int, true> by stitch */
    private array $torn = [];

    /** @var array<int, true> parts of which a stitch is torn: nothing is kept in them */
    private array $open = [];

    public function __construct(private readonly Weave $weave)
    {
        $this->parts = $weave->parts;
    }

    /** Whether nothing that fills a part gets out of it. */
    public function keeps(int $part): bool
    {
        return ! isset($this->open[$part]);
    }

    /** N/m² of a stitch, for each metre of seam it holds */
    private function stiffness(float $stretch): float
    {
        return self::STIFF * $stretch / max(1e-9, $this->weave->edge);
    }

    /**
     * What holds the two ends of stitches together.
     *
     * @param  list<float>  $px  m, where points would come to
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<float>  $fx  N so far
     * @param  list<float>  $fy
     * @param  list<float>  $fz
     * @param  float  $scale  of the matrix
     * @param  float  $stretch  N/m
     * @return array{list<float>, list<float>, list<float>} N with it; the matrix is told
     */
    public function pull(Matrix $matrix, array $px, array $py, array $pz, array $fx, array $fy, array $fz, float $scale, float $stretch): array
    {
        $stiff = $this->stiffness($stretch);
        foreach ($this->weave->stitches as $s => $pair) {
            if (isset($this->torn[$s])) {
                continue;
            }
            $k = $stiff * $this->weave->sewn[$s];
            [$i, $j] = [$this->weave->pairs[2 * $pair], $this->weave->pairs[2 * $pair + 1]];
            $x = $k * ($px[$j] - $px[$i]);
            $y = $k * ($py[$j] - $py[$i]);
            $z = $k * ($pz[$j] - $pz[$i]);
            $fx[$i] += $x;
            $fy[$i] += $y;
            $fz[$i] += $z;
            $fx[$j] -= $x;
            $fy[$j] -= $y;
            $fz[$j] -= $z;
            for ($e = 6 * $pair; $e < 6 * $pair + 3; $e++) {
                $matrix->off[$e] -= $scale * $k;
            }
        }

        return [$fx, $fy, $fz];
    }

    /**
     * Tears what bears more than it can.
     *
     * @param  list<float>  $x  m, where points are
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<float>  $bears  N, by stitch
     * @return list<array{int, int}> pieces that nothing holds together any more
     */
    public function tear(array $x, array $y, array $z, float $stretch, array $bears): array
    {
        $tears = [];
        $stiff = $this->stiffness($stretch);
        foreach ($this->weave->stitches as $s => $pair) {
            if (isset($this->torn[$s])) {
                continue;
            }
            $k = $stiff * $this->weave->sewn[$s];
            [$i, $j] = [$this->weave->pairs[2 * $pair], $this->weave->pairs[2 * $pair + 1]];
            if ($k * sqrt(($x[$j] - $x[$i]) ** 2 + ($y[$j] - $y[$i]) ** 2 + ($z[$j] - $z[$i]) ** 2) >= $bears[$s]) {
                $tears[$s] = true;
            }
        }
        if ($tears === []) {
            return [];
        }
        $held = $this->heldTogether();
        $this->torn += $tears;
        $this->part();

        return array_values(array_diff_key($held, $this->heldTogether()));
    }

    /** @return array<string, array{int, int}> pieces between which a stitch holds */
    private function heldTogether(): array
    {
        $out = [];
        foreach ($this->weave->stitches as $s => $pair) {
            if (! isset($this->torn[$s])) {
                $both = [$this->weave->pieceOf[$this->weave->pairs[2 * $pair]], $this->weave->pieceOf[$this->weave->pairs[2 * $pair + 1]]];
                $out[min($both).' '.max($both)] = [min($both), max($both)];
            }
        }

        return $out;
    }

    private function part(): void
    {
        $torn = array_intersect_key($this->weave->stitches, $this->torn);
        $this->parts = Weave::together($this->weave->count(), $this->weave->pairs, array_flip($torn));
        $this->open = [];
        foreach ($torn as $pair) {
            $this->open[$this->parts[$this->weave->pairs[2 * $pair]]] = $this->open[$this->parts[$this->weave->pairs[2 * $pair + 1]]] = true;
        }
    }

    public function pack(PackWriter $out): void
    {
        $out->small(array_keys($this->torn));
    }

    public function unpack(PackReader $in): void
    {
        $this->torn = array_fill_keys($in->small(), true);
        $this->part();
    }
}
