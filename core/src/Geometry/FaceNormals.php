<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** Shading normals, nine numbers a face (three corners). */
final class FaceNormals
{
    /** Faces that meet at more than this are taken for two surfaces, in radians. */
    public const CREASE = 0.7;

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

    /** The mesh with the normals it came with, or smooth ones. */
    public static function shaded(Mesh $mesh, float $creaseRadians = self::CREASE): Mesh
    {
        return $mesh->normals === null ? $mesh->withNormals(self::smooth($mesh, $creaseRadians)) : $mesh;
    }

    /**
     * Smooth where neighbouring faces meet at less than the crease angle, sharp elsewhere. Faces weigh by their angle at
     * the corner, so that it does not matter how the surface is cut into triangles (Thürmer & Wüthrich 1998, "Computing
     * vertex normals from polygonal facets").
     *
     * @return list<float>
     */
    public static function smooth(Mesh $mesh, float $creaseRadians = self::CREASE): array
    {
        [$nx, $ny, $nz] = self::perFace($mesh);
        $faces = $mesh->faces;
        foreach ($nx as $f => $v) {
            $k = 1.0 / max(1e-300, sqrt($v * $v + $ny[$f] * $ny[$f] + $nz[$f] * $nz[$f]));
            $nx[$f] *= $k;
            $ny[$f] *= $k;
            $nz[$f] *= $k;
        }
        $angle = self::angles($mesh);
        // Corners by vertex, each a link to the next at the same one.
        $first = array_fill(0, $mesh->vertexCount(), -1);
        $next = [];
        $corners = count($faces);
        for ($c = 0; $c < $corners; $c++) {
            $next[] = $first[$faces[$c]];
            $first[$faces[$c]] = $c;
        }
        $limit = cos($creaseRadians);
        $out = [];
        for ($c = 0; $c < $corners; $c++) {
            $f = intdiv($c, 3);
            $fx = $nx[$f];
            $fy = $ny[$f];
            $fz = $nz[$f];
            $sx = $sy = $sz = 0.0;
            for ($d = $first[$faces[$c]]; $d >= 0; $d = $next[$d]) {
                $g = intdiv($d, 3);
                if ($fx * $nx[$g] + $fy * $ny[$g] + $fz * $nz[$g] >= $limit) {
                    $w = $angle[$d];
                    $sx += $w * $nx[$g];
                    $sy += $w * $ny[$g];
                    $sz += $w * $nz[$g];
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

    /** @return list<float> radians, one entry a corner */
    private static function angles(Mesh $mesh): array
    {
        $x = $mesh->x;
        $y = $mesh->y;
        $z = $mesh->z;
        $faces = $mesh->faces;
        $out = [];
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            for ($c = 0; $c < 3; $c++) {
                $a = $faces[$i + $c];
                $b = $faces[$i + ($c + 1) % 3];
                $d = $faces[$i + ($c + 2) % 3];
                $ux = $x[$b] - $x[$a];
                $uy = $y[$b] - $y[$a];
                $uz = $z[$b] - $z[$a];
                $vx = $x[$d] - $x[$a];
                $vy = $y[$d] - $y[$a];
                $vz = $z[$d] - $z[$a];
                $cx = $uy * $vz - $uz * $vy;
                $cy = $uz * $vx - $ux * $vz;
                $cz = $ux * $vy - $uy * $vx;
                $out[] = atan2(sqrt($cx * $cx + $cy * $cy + $cz * $cz), $ux * $vx + $uy * $vy + $uz * $vz);
            }
        }

        return $out;
    }

    /**
     * Of unit length, the faces round a point each counted by its angle there.
     *
     * @return array{list<float>, list<float>, list<float>} x, y and z, one entry a point; none where a point has no face
     */
    public static function atPoints(Mesh $mesh): array
    {
        [$fx, $fy, $fz] = self::perFace($mesh);
        $angle = self::angles($mesh);
        $zero = array_fill(0, $mesh->vertexCount(), 0.0);
        [$nx, $ny, $nz] = [$zero, $zero, $zero];
        foreach ($mesh->faces as $c => $p) {
            $f = intdiv($c, 3);
            $k = $angle[$c] / max(1e-300, sqrt($fx[$f] * $fx[$f] + $fy[$f] * $fy[$f] + $fz[$f] * $fz[$f]));
            $nx[$p] += $k * $fx[$f];
            $ny[$p] += $k * $fy[$f];
            $nz[$p] += $k * $fz[$f];
        }

        return self::unit($nx, $ny, $nz);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<float>, list<float>, list<float>}
     */
    public static function unit(array $x, array $y, array $z): array
    {
        foreach ($x as $i => $v) {
            $l = sqrt($v * $v + $y[$i] * $y[$i] + $z[$i] * $z[$i]);
            $k = $l > 0.0 ? 1.0 / $l : 0.0;
            $x[$i] = $v * $k;
            $y[$i] *= $k;
            $z[$i] *= $k;
        }

        return [$x, $y, $z];
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

    /** @return list<float> of each face */
    public static function areas(Mesh $mesh): array
    {
        [$nx, $ny, $nz] = self::perFace($mesh);
        $out = [];
        foreach ($nx as $f => $v) {
            $out[] = 0.5 * sqrt($v * $v + $ny[$f] * $ny[$f] + $nz[$f] * $nz[$f]);
        }

        return $out;
    }
}
