<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;

/** Shading of the faces a break has made; the outer surface keeps its own. */
final class InnerShading
{
    /**
     * @param  float  $angle  radians; inner faces that meet at less are shaded as one surface
     */
    public static function smoothed(Mesh $mesh, float $angle): Mesh
    {
        $normals = $mesh->normals ?? FaceNormals::flat($mesh);
        $inner = [];
        foreach ($mesh->sides ?? [] as $f => $side) {
            if ($side === Mesh::INNER) {
                $inner[] = $f;
            }
        }
        $faces = [];
        foreach ($inner as $f) {
            array_push($faces, $mesh->faces[3 * $f], $mesh->faces[3 * $f + 1], $mesh->faces[3 * $f + 2]);
        }
        $smooth = FaceNormals::smooth(new Mesh($mesh->x, $mesh->y, $mesh->z, $faces), $angle);
        foreach ($inner as $k => $f) {
            for ($c = 0; $c < 9; $c++) {
                $normals[9 * $f + $c] = $smooth[9 * $k + $c];
            }
        }

        return $mesh->withNormals($normals);
    }
}
