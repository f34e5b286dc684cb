<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/**
 * Hinges at edges that resist being bent (Bergou et al. 2006, "A quadratic bending model for inextensible surfaces"): one matrix that
 * never changes, and for what is bent as made a pull towards that.
 */
final class Bending
{
    /** By which hinges are stiffened: free at its edges a strip of them bends by so much more than a beam (measured on the standard cantilever, three meshes). */
    private const BEAM = 1.13;

    /**
     * What bending does, and what points have with themselves in the matrix: but for their mass rows sum to nothing, for moved as a whole nothing resists.
     *
     * @param  list<float>  $px
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<float>  $fx
     * @param  list<float>  $fy
     * @param  list<float>  $fz
     * @param  list<float>  $own  kg, by point
     * @param  float  $scale  of the matrix
     * @param  float  $rigid  N·m, flexural rigidity
     * @param  bool  $keeps  whether it bends back to what it was made as
     * @return array{list<float>, list<float>, list<float>} N with it
     */
    public static function pull(Weave $weave, Matrix $matrix, array $px, array $py, array $pz, array $fx, array $fy, array $fz, array $own, float $scale, float $rigid, bool $keeps): array
    {
        $rigid *= self::BEAM;
        $off = $matrix->off;
        $matrix->off = [];
        $pairs = $weave->pairs;
        $diagonal = [];
        $k = $scale * $rigid;
        foreach ($weave->bendPoints as $i => $pull) {
            $pull = $k * $pull + $own[$i];
            $diagonal[] = $pull;
            $diagonal[] = $pull;
            $diagonal[] = $pull;
            $diagonal[] = 0.0;
            $diagonal[] = 0.0;
            $diagonal[] = 0.0;
        }
        $p = $e = 0;
        foreach ($weave->bendPairs as $pull) {
            $i = $pairs[$p];
            $j = $pairs[$p + 1];
            $p += 2;
            $pull *= $rigid;
            $x = $pull * ($px[$j] - $px[$i]);
            $y = $pull * ($py[$j] - $py[$i]);
            $z = $pull * ($pz[$j] - $pz[$i]);
            $fx[$i] -= $x;
            $fy[$i] -= $y;
            $fz[$i] -= $z;
            $fx[$j] += $x;
            $fy[$j] += $y;
            $fz[$j] += $z;
            $pull *= $scale;
            $xx = $off[$e] + $pull;
            $yy = $off[$e + 1] + $pull;
            $zz = $off[$e + 2] + $pull;
            $xy = $off[$e + 3];
            $yz = $off[$e + 4];
            $zx = $off[$e + 5];
            $off[$e] = $xx;
            $off[$e + 1] = $yy;
            $off[$e + 2] = $zz;
            $e += 6;
            $i *= 6;
            $j *= 6;
            $diagonal[$i] -= $xx;
            $diagonal[$i + 1] -= $yy;
            $diagonal[$i + 2] -= $zz;
            $diagonal[$i + 3] -= $xy;
            $diagonal[$i + 4] -= $yz;
            $diagonal[$i + 5] -= $zx;
            $diagonal[$j] -= $xx;
            $diagonal[$j + 1] -= $yy;
            $diagonal[$j + 2] -= $zz;
            $diagonal[$j + 3] -= $xy;
            $diagonal[$j + 4] -= $yz;
            $diagonal[$j + 5] -= $zx;
        }
        if ($rigid > 0.0) {
            $across = $weave->across;
            $p = 0;
            foreach ($weave->bendAcross as $pull) {
                $i = $across[$p];
                $j = $across[$p + 1];
                $p += 2;
                $pull *= $rigid;
                $x = $pull * ($px[$j] - $px[$i]);
                $y = $pull * ($py[$j] - $py[$i]);
                $z = $pull * ($pz[$j] - $pz[$i]);
                $fx[$i] -= $x;
                $fy[$i] -= $y;
                $fz[$i] -= $z;
                $fx[$j] += $x;
                $fy[$j] += $y;
                $fz[$j] += $z;
            }
        }
        if ($keeps && $rigid > 0.0 && $weave->curved !== []) {
            [$fx, $fy, $fz] = self::curving($weave, $px, $py, $pz, $fx, $fy, $fz, $rigid);
        }

        [$matrix->off, $matrix->diagonal, $matrix->bend] = [$off, $diagonal, $k];

        return [$fx, $fy, $fz];
    }

    /**
     * Hinges that are bent as made bend towards that: as much along the normal as it has now.
     *
     * @param  list<float>  $px
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<float>  $fx
     * @param  list<float>  $fy
     * @param  list<float>  $fz
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function curving(Weave $weave, array $px, array $py, array $pz, array $fx, array $fy, array $fz, float $rigid): array
    {
        $curved = $weave->curved;
        $curves = $weave->curves;
        for ($o = 0, $n = count($curved); $o < $n; $o += 4) {
            $a = $curved[$o];
            $b = $curved[$o + 1];
            $c = $curved[$o + 2];
            $d = $curved[$o + 3];
            $ex = $px[$b] - $px[$a];
            $ey = $py[$b] - $py[$a];
            $ez = $pz[$b] - $pz[$a];
            $cx = $px[$c] - $px[$d];
            $cy = $py[$c] - $py[$d];
            $cz = $pz[$c] - $pz[$d];
            $nx = $ey * $cz - $ez * $cy;
            $ny = $ez * $cx - $ex * $cz;
            $nz = $ex * $cy - $ey * $cx;
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($l <= 1e-18) {
                continue;
            }
            $l = $rigid / $l;
            $nx *= $l;
            $ny *= $l;
            $nz *= $l;
            $k = $curves[$o];
            $fx[$a] += $k * $nx;
            $fy[$a] += $k * $ny;
            $fz[$a] += $k * $nz;
            $k = $curves[$o + 1];
            $fx[$b] += $k * $nx;
            $fy[$b] += $k * $ny;
            $fz[$b] += $k * $nz;
            $k = $curves[$o + 2];
            $fx[$c] += $k * $nx;
            $fy[$c] += $k * $ny;
            $fz[$c] += $k * $nz;
            $k = $curves[$o + 3];
            $fx[$d] += $k * $nx;
            $fy[$d] += $k * $ny;
            $fz[$d] += $k * $nz;
        }

        return [$fx, $fy, $fz];
    }
}
