<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** Whether a closed surface holds a point: crossings of a skew ray, counted. */
final class InsideTest
{
    /**
     * @param  list<int>  $faces  flat triples
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    public static function holds(array $faces, array $x, array $y, array $z, float $px, float $py, float $pz): bool
    {
        $dx = 0.5377;
        $dy = 0.2914;
        $dz = 0.7911;
        $in = false;
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            // Möller & Trumbore 1997, "Fast, minimum storage ray/triangle intersection".
            $ex = $x[$b] - $x[$a];
            $ey = $y[$b] - $y[$a];
            $ez = $z[$b] - $z[$a];
            $fx = $x[$c] - $x[$a];
            $fy = $y[$c] - $y[$a];
            $fz = $z[$c] - $z[$a];
            $hx = $dy * $fz - $dz * $fy;
            $hy = $dz * $fx - $dx * $fz;
            $hz = $dx * $fy - $dy * $fx;
            $det = $ex * $hx + $ey * $hy + $ez * $hz;
            if ($det === 0.0) {
                continue;
            }
            $sx = $px - $x[$a];
            $sy = $py - $y[$a];
            $sz = $pz - $z[$a];
            $u = ($sx * $hx + $sy * $hy + $sz * $hz) / $det;
            if ($u < 0.0 || $u > 1.0) {
                continue;
            }
            $qx = $sy * $ez - $sz * $ey;
            $qy = $sz * $ex - $sx * $ez;
            $qz = $sx * $ey - $sy * $ex;
            $v = ($dx * $qx + $dy * $qy + $dz * $qz) / $det;
            if ($v >= 0.0 && $u + $v <= 1.0 && ($fx * $qx + $fy * $qy + $fz * $qz) / $det > 0.0) {
                $in = ! $in;
            }
        }

        return $in;
    }
}
