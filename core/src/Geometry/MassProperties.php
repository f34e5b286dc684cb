<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * Volume, centroid and inertia of a closed mesh of density 1, by signed tetrahedra over its faces
 * (Mirtich 1996, "Fast and accurate computation of polyhedral mass properties", gives the same integrals).
 */
final readonly class MassProperties
{
    /**
     * @param  float  $volume  m³, negative for a mesh turned inside out
     * @param  array{float, float, float, float, float, float}  $inertia  about the centroid, per unit density: xx, yy, zz, xy, yz, zx (m⁵)
     */
    public function __construct(public float $volume, public Vec3 $centroid, public array $inertia)
    {
    }

    public static function of(Mesh $mesh): self
    {
        return self::ofFaces($mesh->x, $mesh->y, $mesh->z, $mesh->faces);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces  flat triples
     */
    public static function ofFaces(array $x, array $y, array $z, array $faces): self
    {
        if ($faces === []) {
            return new self(0.0, Vec3::zero(), [0.0, 0.0, 0.0, 0.0, 0.0, 0.0]);
        }
        $ox = $x[$faces[0]];
        $oy = $y[$faces[0]];
        $oz = $z[$faces[0]];
        $v6 = $mx = $my = $mz = $xx = $yy = $zz = $xy = $yz = $zx = 0.0;
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $ax = $x[$a] - $ox;
            $ay = $y[$a] - $oy;
            $az = $z[$a] - $oz;
            $bx = $x[$b] - $ox;
            $by = $y[$b] - $oy;
            $bz = $z[$b] - $oz;
            $cx = $x[$c] - $ox;
            $cy = $y[$c] - $oy;
            $cz = $z[$c] - $oz;
            $d = $ax * ($by * $cz - $bz * $cy) + $ay * ($bz * $cx - $bx * $cz) + $az * ($bx * $cy - $by * $cx);
            $sx = $ax + $bx + $cx;
            $sy = $ay + $by + $cy;
            $sz = $az + $bz + $cz;
            $v6 += $d;
            $mx += $d * $sx;
            $my += $d * $sy;
            $mz += $d * $sz;
            $xx += $d * ($ax * $ax + $bx * $bx + $cx * $cx + $sx * $sx);
            $yy += $d * ($ay * $ay + $by * $by + $cy * $cy + $sy * $sy);
            $zz += $d * ($az * $az + $bz * $bz + $cz * $cz + $sz * $sz);
            $xy += $d * ($ax * $ay + $bx * $by + $cx * $cy + $sx * $sy);
            $yz += $d * ($ay * $az + $by * $bz + $cy * $cz + $sy * $sz);
            $zx += $d * ($az * $ax + $bz * $bx + $cz * $cx + $sz * $sx);
        }
        $volume = $v6 / 6.0;
        if ($volume === 0.0) {
            return new self(0.0, new Vec3($ox, $oy, $oz), [0.0, 0.0, 0.0, 0.0, 0.0, 0.0]);
        }
        $gx = $mx / (4.0 * $v6);
        $gy = $my / (4.0 * $v6);
        $gz = $mz / (4.0 * $v6);
        $xx = $xx / 120.0 - $volume * $gx * $gx;
        $yy = $yy / 120.0 - $volume * $gy * $gy;
        $zz = $zz / 120.0 - $volume * $gz * $gz;

        return new self(
            $volume,
            new Vec3($ox + $gx, $oy + $gy, $oz + $gz),
            [
                $yy + $zz, $zz + $xx, $xx + $yy,
                -($xy / 120.0 - $volume * $gx * $gy),
                -($yz / 120.0 - $volume * $gy * $gz),
                -($zx / 120.0 - $volume * $gz * $gx),
            ],
        );
    }
}
