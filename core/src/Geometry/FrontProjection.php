<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** A picture laid over the two large sides of a mesh, fitted to its box; the other sides show none. */
final class FrontProjection
{
    /** Both numbers of a corner that shows no picture. */
    public const NONE = -1.0;

    /** Cosine of the angle a face may lean away from the way it is looked at. */
    private const FACING = 0.5;

    /** @return list<float> six numbers a face */
    public static function of(Mesh $mesh): array
    {
        $box = Aabb::around($mesh);
        $size = $box->size();
        $low = $box->centre()->minus($size->times(0.5));
        [$nx, $ny, $nz] = FaceNormals::perFace($mesh);
        // Seen along the thinnest way: from the front, from the side, or from above.
        $along = match (min($size->x, $size->y, $size->z)) {
            $size->z => [$nz, 'x', 'y'],
            $size->x => [$nx, 'z', 'y'],
            default => [$ny, 'x', 'z'],
        };
        [$n, $u, $v] = $along;
        $out = [];
        foreach ($n as $f => $towards) {
            $l = sqrt($nx[$f] ** 2 + $ny[$f] ** 2 + $nz[$f] ** 2);
            $shows = abs($towards) > self::FACING * $l;
            for ($c = 3 * $f; $c < 3 * $f + 3; $c++) {
                $p = $mesh->faces[$c];
                $out[] = $shows ? ($mesh->{$u}[$p] - $low->{$u}) / max(1e-12, $size->{$u}) : self::NONE;
                $out[] = $shows ? ($mesh->{$v}[$p] - $low->{$v}) / max(1e-12, $size->{$v}) : self::NONE;
            }
        }

        return $out;
    }
}
