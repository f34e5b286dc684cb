<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\SeededRandom;

/**
 * Random points inside a closed mesh, evenly by volume. Columns of a jittered grid are crossed with the
 * surface once; a point is then a column, weighted by its length inside, and a height along it.
 */
final class SolidSampler
{
    private const COLUMNS = 96;

    /** @var list<float> */
    private array $columnX = [];

    /** @var list<float> */
    private array $columnZ = [];

    /** @var list<float> */
    private array $from = [];

    /** @var list<float> */
    private array $to = [];

    /** @var list<float> */
    private array $sum = [];

    private float $total = 0.0;

    public function __construct(Mesh $mesh, private readonly SeededRandom $random)
    {
        $lowX = min($mesh->x);
        $lowZ = min($mesh->z);
        $wide = max($mesh->x) - $lowX;
        $deep = max($mesh->z) - $lowZ;
        $cell = max($wide, $deep) / self::COLUMNS;
        // Whole columns, whichever way a last bit is rounded: the same solid at another size must be met alike.
        $nx = max(24, (int) ceil($wide / max($cell, 1e-300) - 1e-6));
        $nz = max(24, (int) ceil($deep / max($cell, 1e-300) - 1e-6));
        $stepX = $wide / $nx;
        $stepZ = $deep / $nz;
        $atX = $atZ = [];
        for ($i = 0; $i < $nx * $nz; $i++) {
            $atX[] = $lowX + (($i % $nx) + 0.02 + 0.96 * $random->share()) * $stepX;
            $atZ[] = $lowZ + (intdiv($i, $nx) + 0.02 + 0.96 * $random->share()) * $stepZ;
        }
        $hits = $this->crossings($mesh, $atX, $atZ, $nx, $nz, $lowX, $lowZ, $stepX, $stepZ);
        foreach ($hits as $column => $heights) {
            sort($heights);
            for ($k = 0, $n = count($heights) - 1; $k < $n; $k += 2) {
                $this->columnX[] = $atX[$column];
                $this->columnZ[] = $atZ[$column];
                $this->from[] = $heights[$k];
                $this->to[] = $heights[$k + 1];
                $this->total += $heights[$k + 1] - $heights[$k];
                $this->sum[] = $this->total;
            }
        }
    }

    /** @return array{float, float, float} */
    public function point(): array
    {
        if ($this->total <= 0.0) {
            throw new \UnexpectedValueException('nothing inside');
        }
        $want = $this->random->share() * $this->total;
        $low = 0;
        $high = count($this->sum) - 1;
        while ($low < $high) {
            $mid = ($low + $high) >> 1;
            if ($this->sum[$mid] < $want) {
                $low = $mid + 1;
            } else {
                $high = $mid;
            }
        }

        return [
            $this->columnX[$low],
            $this->from[$low] + $this->random->share() * ($this->to[$low] - $this->from[$low]),
            $this->columnZ[$low],
        ];
    }

    /** @return array{list<float>, list<float>, list<float>} so many points */
    public function points(int $count): array
    {
        $x = $y = $z = [];
        for ($i = 0; $i < $count; $i++) {
            [$x[], $y[], $z[]] = $this->point();
        }

        return [$x, $y, $z];
    }

    /**
     * @param  list<float>  $atX
     * @param  list<float>  $atZ
     * @return array<int, list<float>> heights where each column passes the surface
     */
    private function crossings(Mesh $mesh, array $atX, array $atZ, int $nx, int $nz, float $lowX, float $lowZ, float $stepX, float $stepZ): array
    {
        $x = $mesh->x;
        $y = $mesh->y;
        $z = $mesh->z;
        $faces = $mesh->faces;
        $hits = [];
        for ($f = 0, $n = count($faces); $f < $n; $f += 3) {
            $a = $faces[$f];
            $b = $faces[$f + 1];
            $c = $faces[$f + 2];
            $ax = $x[$a];
            $bx = $x[$b];
            $cx = $x[$c];
            $az = $z[$a];
            $bz = $z[$b];
            $cz = $z[$c];
            $area = ($bx - $ax) * ($cz - $az) - ($bz - $az) * ($cx - $ax);
            if ($area === 0.0) {
                continue;
            }
            $i0 = max(0, (int) ((min($ax, $bx, $cx) - $lowX) / $stepX));
            $i1 = min($nx - 1, (int) ((max($ax, $bx, $cx) - $lowX) / $stepX));
            $j0 = max(0, (int) ((min($az, $bz, $cz) - $lowZ) / $stepZ));
            $j1 = min($nz - 1, (int) ((max($az, $bz, $cz) - $lowZ) / $stepZ));
            for ($j = $j0; $j <= $j1; $j++) {
                for ($i = $i0; $i <= $i1; $i++) {
                    $column = $j * $nx + $i;
                    $px = $atX[$column];
                    $pz = $atZ[$column];
                    $u = (($bx - $px) * ($cz - $pz) - ($bz - $pz) * ($cx - $px)) / $area;
                    $v = (($cx - $px) * ($az - $pz) - ($cz - $pz) * ($ax - $px)) / $area;
                    $w = 1.0 - $u - $v;
                    if ($u >= 0.0 && $v >= 0.0 && $w >= 0.0) {
                        $hits[$column][] = $u * $y[$a] + $v * $y[$b] + $w * $y[$c];
                    }
                }
            }
        }

        return $hits;
    }
}
