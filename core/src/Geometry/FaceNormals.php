<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** Shading normals, nine numbers a face (three corners). */
final class FaceNormals
{
    /** @return list<float> */
    public static function flat(Mesh $mesh): array
    {
        $out = [];
        [$nx, $ny, $nz] = self::perFace($mesh);
        for ($f = 0, $n = count($nx); $f < $n; $f++) {
            $l = sqrt($nx[$f] * $nx[$f] + $ny[$f] * $ny[$f] + $nz[$f] * $nz[$f]);
            $k = $l > 0.0 ? 1.0 / $l : 0.0;
            $a = $nx[$f] * $k;
            $b = $ny[$f] * $k;
            $c = $nz[$f] * $k;
            for ($i = 0; $i < 3; $i++) {
                $out[] = $a;
                $out[] = $b;
                $out[] = $c;
            }
        }

        return $out;
    }

    /**
     * Smooth where neighbouring faces meet at less than the crease angle, sharp elsewhere. Faces weigh by area.
     *
     * @return list<float>
     */
    public static function smooth(Mesh $mesh, float $creaseRadians = 0.7): array
    {
        [$nx, $ny, $nz] = self::perFace($mesh);
        $faces = $mesh->faces;
        $around = array_fill(0, $mesh->vertexCount(), []);
        for ($c = 0, $n = count($faces); $c < $n; $c++) {
            $around[$faces[$c]][] = intdiv($c, 3);
        }
        $length = [];
        foreach ($nx as $f => $v) {
            $length[] = max(1e-300, sqrt($v * $v + $ny[$f] * $ny[$f] + $nz[$f] * $nz[$f]));
        }
        $limit = cos($creaseRadians);
        $out = [];
        for ($c = 0, $n = count($faces); $c < $n; $c++) {
            $f = intdiv($c, 3);
            $fx = $nx[$f];
            $fy = $ny[$f];
            $fz = $nz[$f];
            $fl = $length[$f];
            $sx = $sy = $sz = 0.0;
            foreach ($around[$faces[$c]] as $g) {
                if ($fx * $nx[$g] + $fy * $ny[$g] + $fz * $nz[$g] >= $limit * $fl * $length[$g]) {
                    $sx += $nx[$g];
                    $sy += $ny[$g];
                    $sz += $nz[$g];
                }
            }
            $l = sqrt($sx * $sx + $sy * $sy + $sz * $sz);
            $k = $l > 0.0 ? 1.0 / $l : 0.0;
            $out[] = $sx * $k;
            $out[] = $sy * $k;
            $out[] = $sz * $k;
        }

        return $out;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{float, float, float} the normal of one face, twice its area long
     */
    public static function ofFace(array $x, array $y, array $z, int $a, int $b, int $c): array
    {
        $ux = $x[$b] - $x[$a];
        $uy = $y[$b] - $y[$a];
        $uz = $z[$b] - $z[$a];
        $vx = $x[$c] - $x[$a];
        $vy = $y[$c] - $y[$a];
        $vz = $z[$c] - $z[$a];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }

    /** @return array{list<float>, list<float>, list<float>} cross products, twice the face's area long */
    public static function perFace(Mesh $mesh): array
    {
        $x = $mesh->x;
        $y = $mesh->y;
        $z = $mesh->z;
        $faces = $mesh->faces;
        $nx = $ny = $nz = [];
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $vx = $x[$c] - $x[$a];
            $vy = $y[$c] - $y[$a];
            $vz = $z[$c] - $z[$a];
            $nx[] = $uy * $vz - $uz * $vy;
            $ny[] = $uz * $vx - $ux * $vz;
            $nz[] = $ux * $vy - $uy * $vx;
        }

        return [$nx, $ny, $nz];
    }
}
