<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** Places in a picture by looking at each face along the axis it faces most, at true scale: one metre a picture. */
final class BoxProjection
{
    /** @return list<float> six numbers a face */
    public static function of(Mesh $mesh): array
    {
        $out = [];
        for ($f = 0, $n = $mesh->faceCount(); $f < $n; $f++) {
            foreach (self::face($mesh->x, $mesh->y, $mesh->z, $mesh->faces[3 * $f], $mesh->faces[3 * $f + 1], $mesh->faces[3 * $f + 2]) as $v) {
                $out[] = $v;
            }
        }

        return $out;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{float, float, float, float, float, float}
     */
    public static function face(array $x, array $y, array $z, int $a, int $b, int $c): array
    {
        [$nx, $ny, $nz] = FaceNormals::ofFace($x, $y, $z, $a, $b, $c);
        // Never mirrored: seen from outside, u runs to the right.
        if (abs($nz) >= abs($nx) && abs($nz) >= abs($ny)) {
            $s = $nz < 0.0 ? -1.0 : 1.0;

            return [$s * $x[$a], $y[$a], $s * $x[$b], $y[$b], $s * $x[$c], $y[$c]];
        }
        if (abs($nx) >= abs($ny)) {
            $s = $nx < 0.0 ? 1.0 : -1.0;

            return [$s * $z[$a], $y[$a], $s * $z[$b], $y[$b], $s * $z[$c], $y[$c]];
        }
        $s = $ny < 0.0 ? 1.0 : -1.0;

        return [$x[$a], $s * $z[$a], $x[$b], $s * $z[$b], $x[$c], $s * $z[$c]];
    }
}
