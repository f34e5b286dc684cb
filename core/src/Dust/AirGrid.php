<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

/**
 * Vectors over a box of places, known at the nodes of an even grid and read in between by three lines one after the other
 * (trilinear): what is asked for at half a million places is worked out at some thousands.
 */
final readonly class AirGrid
{
    /** Cells along the longest side of the box. */
    private const CELLS = 18;

    /** @param  list<float>  $low */
    private function __construct(private array $low, private float $cell, private int $nx, private int $ny, private int $nz)
    {
    }

    /**
     * @param  non-empty-list<float>  $x
     * @param  non-empty-list<float>  $y
     * @param  non-empty-list<float>  $z
     */
    public static function round(array $x, array $y, array $z): self
    {
        $low = [min($x), min($y), min($z)];
        $size = [max($x) - $low[0], max($y) - $low[1], max($z) - $low[2]];
        $cell = max(1e-9, max($size) / self::CELLS);

        return new self($low, $cell, 2 + (int) floor($size[0] / $cell), 2 + (int) floor($size[1] / $cell), 2 + (int) floor($size[2] / $cell));
    }

    /** @return array{list<float>, list<float>, list<float>} places of its nodes */
    public function nodes(): array
    {
        $x = $y = $z = [];
        for ($k = 0; $k < $this->nz; $k++) {
            for ($j = 0; $j < $this->ny; $j++) {
                for ($i = 0; $i < $this->nx; $i++) {
                    $x[] = $this->low[0] + $i * $this->cell;
                    $y[] = $this->low[1] + $j * $this->cell;
                    $z[] = $this->low[2] + $k * $this->cell;
                }
            }
        }

        return [$x, $y, $z];
    }

    /**
     * @param  list<float>  $u  at its nodes
     * @param  list<float>  $v
     * @param  list<float>  $w
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<float>, list<float>, list<float>} at the places
     */
    public function read(array $u, array $v, array $w, array $x, array $y, array $z): array
    {
        $per = 1.0 / $this->cell;
        [$lx, $ly, $lz] = $this->low;
        $row = $this->nx;
        $layer = $this->nx * $this->ny;
        $mx = $this->nx - 2;
        $my = $this->ny - 2;
        $mz = $this->nz - 2;
        $a = $b = $c = [];
        for ($n = 0, $end = count($x); $n < $end; $n++) {
            $fx = ($x[$n] - $lx) * $per;
            $fy = ($y[$n] - $ly) * $per;
            $fz = ($z[$n] - $lz) * $per;
            $i = (int) $fx;
            $j = (int) $fy;
            $k = (int) $fz;
            $i = $i > $mx ? $mx : $i;
            $j = $j > $my ? $my : $j;
            $k = $k > $mz ? $mz : $k;
            $fx -= $i;
            $fy -= $j;
            $fz -= $k;
            $p = $i + $row * $j + $layer * $k;
            $q = $p + $row;
            $r = $p + $layer;
            $s = $r + $row;
            $gx = 1.0 - $fx;
            $gy = 1.0 - $fy;
            $gz = 1.0 - $fz;
            $wp = $gy * $gz;
            $wq = $fy * $gz;
            $wr = $gy * $fz;
            $ws = $fy * $fz;
            $a[] = $wp * ($gx * $u[$p] + $fx * $u[$p + 1]) + $wq * ($gx * $u[$q] + $fx * $u[$q + 1]) + $wr * ($gx * $u[$r] + $fx * $u[$r + 1]) + $ws * ($gx * $u[$s] + $fx * $u[$s + 1]);
            $b[] = $wp * ($gx * $v[$p] + $fx * $v[$p + 1]) + $wq * ($gx * $v[$q] + $fx * $v[$q + 1]) + $wr * ($gx * $v[$r] + $fx * $v[$r + 1]) + $ws * ($gx * $v[$s] + $fx * $v[$s + 1]);
            $c[] = $wp * ($gx * $w[$p] + $fx * $w[$p + 1]) + $wq * ($gx * $w[$q] + $fx * $w[$q + 1]) + $wr * ($gx * $w[$r] + $fx * $w[$r + 1]) + $ws * ($gx * $w[$s] + $fx * $w[$s + 1]);
        }

        return [$a, $b, $c];
    }
}
