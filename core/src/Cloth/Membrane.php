<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/**
 * Faces that resist being drawn: Green strain in their plane, plane stress, the matrix of Gauss and Newton with the geometric term of
 * tension only (Baraff & Witkin 1998 say why what is pressed must be left out). The result is that of the material, however fine the mesh.
 */
final class Membrane
{
    /** Ratio of Poisson. */
    private const POISSON = 0.3;

    /** Times as stiff what is taut gets, at twice the strain at which it begins to be. */
    private const TAUT = 30.0;

    /**
     * What stretching does.
     *
     * @param  list<float>  $px
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<float>  $fx  N so far
     * @param  list<float>  $fy
     * @param  list<float>  $fz
     * @param  float  $scale  of the matrix
     * @param  float  $stretch  N/m
     * @param  float  $limit  share of its length from which on it is taut
     * @param  list<float>|null  $growth  times its rest length, by point; null for none
     * @return array{list<float>, list<float>, list<float>} N with it; it begins the matrix with it
     */
    public static function pull(Weave $weave, Matrix $matrix, array $px, array $py, array $pz, array $fx, array $fy, array $fz, float $scale, float $stretch, float $limit, ?array $growth): array
    {
        $faces = $weave->faces;
        $inverse = $weave->inverse;
        $sides = $weave->sides;
        $off = array_fill(0, 3 * count($weave->pairs), 0.0);
        $stretch /= 1.0 - self::POISSON * self::POISSON;
        // As Green strain.
        $most = $limit + 0.5 * $limit * $limit;
        $t = 0;
        foreach ($weave->areas as $area) {
            $a = $faces[$t];
            $b = $faces[$t + 1];
            $c = $faces[$t + 2];
            $b1 = $inverse[$t];
            $b2 = $inverse[$t + 1];
            $q2 = $inverse[$t + 2];
            if ($growth !== null) {
                $g = 3.0 / ($growth[$a] + $growth[$b] + $growth[$c]);
                $b1 *= $g;
                $b2 *= $g;
                $q2 *= $g;
                $area /= $g * $g;
            }
            $xa = $px[$a];
            $ya = $py[$a];
            $za = $pz[$a];
            $ux = $px[$b] - $xa;
            $uy = $py[$b] - $ya;
            $uz = $pz[$b] - $za;
            // Columns of the deformation: along the first edge, and across.
            $rx = $b1 * $ux;
            $ry = $b1 * $uy;
            $rz = $b1 * $uz;
            $sx = $b2 * $ux + $q2 * ($px[$c] - $xa);
            $sy = $b2 * $uy + $q2 * ($py[$c] - $ya);
            $sz = $b2 * $uz + $q2 * ($pz[$c] - $za);
            $rrx = $rx * $rx;
            $rry = $ry * $ry;
            $rrz = $rz * $rz;
            $ssx = $sx * $sx;
            $ssy = $sy * $sy;
            $ssz = $sz * $sz;
            $e11 = 0.5 * ($rrx + $rry + $rrz - 1.0);
            $e22 = 0.5 * ($ssx + $ssy + $ssz - 1.0);
            $e12 = 0.5 * ($rx * $sx + $ry * $sy + $rz * $sz);
            $half = 0.5 * ($e11 - $e22);
            $drawn = 0.5 * ($e11 + $e22) + sqrt($half * $half + $e12 * $e12) - $most;
            $c11 = $drawn > 0.0 ? $stretch * (1.0 + min(self::TAUT, self::TAUT * $drawn / $most)) : $stretch;
            $c12 = self::POISSON * $c11;
            $c33 = 0.5 * (1.0 - self::POISSON) * $c11;
            $both = 0.5 * ($c12 + $c33);
            $s11 = $area * ($c11 * $e11 + $c12 * $e22);
            $s22 = $area * ($c11 * $e22 + $c12 * $e11);
            $s12 = 2.0 * $area * $c33 * $e12;
            $p2x = $s12 * $rx + $s22 * $sx;
            $p2y = $s12 * $ry + $s22 * $sy;
            $p2z = $s12 * $rz + $s22 * $sz;
            $tx = $b1 * ($s11 * $rx + $s12 * $sx) + $b2 * $p2x;
            $ty = $b1 * ($s11 * $ry + $s12 * $sy) + $b2 * $p2y;
            $tz = $b1 * ($s11 * $rz + $s12 * $sz) + $b2 * $p2z;
            $gx = $q2 * $p2x;
            $gy = $q2 * $p2y;
            $gz = $q2 * $p2z;
            $fx[$b] -= $tx;
            $fy[$b] -= $ty;
            $fz[$b] -= $tz;
            $fx[$c] -= $gx;
            $fy[$c] -= $gy;
            $fz[$c] -= $gz;
            $fx[$a] += $tx + $gx;
            $fy[$a] += $ty + $gy;
            $fz[$a] += $tz + $gz;
            // Only tension stiffens; what is pressed would make the matrix lose its sign.
            $mean = 0.5 * ($s11 + $s22);
            $half = 0.5 * ($s11 - $s22);
            $radius = sqrt($half * $half + $s12 * $s12);
            if ($mean < $radius) {
                // The one direction that is drawn, if any is.
                $k = $mean + $radius > 0.0 ? $scale * ($mean + $radius) / (2.0 * $radius) : 0.0;
                $s11 = $k * ($half + $radius);
                $s22 = $k * ($radius - $half);
                $s12 *= $k;
            } else {
                $s11 *= $scale;
                $s22 *= $scale;
                $s12 *= $scale;
            }
            $area *= $scale;
            $a1 = -$b1;
            $a2 = -$b2 - $q2;
            $rxy = $rx * $ry;
            $ryz = $ry * $rz;
            $rzx = $rz * $rx;
            $sxy = $sx * $sy;
            $syz = $sy * $sz;
            $szx = $sz * $sx;
            $mxx = 2.0 * $rx * $sx;
            $myy = 2.0 * $ry * $sy;
            $mzz = 2.0 * $rz * $sz;
            $mxy = $rx * $sy + $ry * $sx;
            $myz = $ry * $sz + $rz * $sy;
            $mzx = $rz * $sx + $rx * $sz;
            // Slopes of the shape functions of a, b and c, each with the next; what a point has with itself is what balances those.
            $k11 = $area * $a1 * $b1;
            $k22 = $area * $a2 * $b2;
            $k12 = $a1 * $b2 + $a2 * $b1;
            $p = $c11 * $k11 + $c33 * $k22;
            $q = $c11 * $k22 + $c33 * $k11;
            $m = $area * $both * $k12;
            $g = $s11 * $a1 * $b1 + $s22 * $a2 * $b2 + $s12 * $k12;
            $i = 6 * $sides[$t];
            $off[$i] += $p * $rrx + $q * $ssx + $m * $mxx + $g;
            $off[$i + 1] += $p * $rry + $q * $ssy + $m * $myy + $g;
            $off[$i + 2] += $p * $rrz + $q * $ssz + $m * $mzz + $g;
            $off[$i + 3] += $p * $rxy + $q * $sxy + $m * $mxy;
            $off[$i + 4] += $p * $ryz + $q * $syz + $m * $myz;
            $off[$i + 5] += $p * $rzx + $q * $szx + $m * $mzx;
            $k22 = $b2 * $q2;
            $k12 = $b1 * $q2;
            $p = $area * $c33 * $k22;
            $q = $area * $c11 * $k22;
            $m = $area * $both * $k12;
            $g = $s22 * $k22 + $s12 * $k12;
            $i = 6 * $sides[$t + 1];
            $off[$i] += $p * $rrx + $q * $ssx + $m * $mxx + $g;
            $off[$i + 1] += $p * $rry + $q * $ssy + $m * $myy + $g;
            $off[$i + 2] += $p * $rrz + $q * $ssz + $m * $mzz + $g;
            $off[$i + 3] += $p * $rxy + $q * $sxy + $m * $mxy;
            $off[$i + 4] += $p * $ryz + $q * $syz + $m * $myz;
            $off[$i + 5] += $p * $rzx + $q * $szx + $m * $mzx;
            $k22 = $q2 * $a2;
            $k12 = $q2 * $a1;
            $p = $area * $c33 * $k22;
            $q = $area * $c11 * $k22;
            $m = $area * $both * $k12;
            $g = $s22 * $k22 + $s12 * $k12;
            $i = 6 * $sides[$t + 2];
            $off[$i] += $p * $rrx + $q * $ssx + $m * $mxx + $g;
            $off[$i + 1] += $p * $rry + $q * $ssy + $m * $myy + $g;
            $off[$i + 2] += $p * $rrz + $q * $ssz + $m * $mzz + $g;
            $off[$i + 3] += $p * $rxy + $q * $sxy + $m * $mxy;
            $off[$i + 4] += $p * $ryz + $q * $syz + $m * $myz;
            $off[$i + 5] += $p * $rzx + $q * $szx + $m * $mzx;
            $t += 3;
        }

        $matrix->off = $off;

        return [$fx, $fy, $fz];
    }
}
