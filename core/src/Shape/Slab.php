<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\ConstrainedTriangulation;
use YardBreak\Core\Geometry\FrontProjection;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Outline;
use YardBreak\Core\Geometry\TouchingEdges;
use YardBreak\Core\Problem;

/** Outlines given a thickness. What lies within an odd number of them is solid, so an outline within another is a hole. */
final class Slab
{
    /**
     * @param  Outline  $outline  in metres
     * @param  float  $depth  metres along z, half to each side
     * @return Mesh about the z axis, standing on the ground
     *
     * @throws Problem where nothing is enclosed
     */
    public static function of(Outline $outline, float $depth): Mesh
    {
        $closed = $outline->closed();
        [$lowU, $lowV, $highU, $highV] = $closed->box();
        $size = max($highU - $lowU, $highV - $lowV);
        if ($closed->lines === [] || $size <= 0.0) {
            throw Problem::inValue('outline', 'The outline has no closed line, so it encloses nothing.', 'Close the path: its last point must meet its first.');
        }
        $map = new ConstrainedTriangulation(-1.0, -1.0, 1.0, 1.0);
        $middleU = 0.5 * ($lowU + $highU);
        $middleV = 0.5 * ($lowV + $highV);
        try {
            foreach ($closed->lines as $line) {
                $points = array_map(static fn (array $p): int => $map->point(($p[0] - $middleU) / $size, ($p[1] - $middleV) / $size), $line->points);
                foreach ($points as $k => $p) {
                    $map->segment($p, $points[($k + 1) % count($points)]);
                }
            }
        } catch (\UnexpectedValueException) {
            throw Problem::inValue('outline', 'The outline could not be followed: it folds over itself too finely.', 'Simplify it.');
        }
        $within = $map->within();
        $x = $y = $z = $faces = $front = $uvs = [];
        $half = 0.5 * $depth;
        $corner = static function (int $p) use (&$front, &$x, &$y, &$z, $map, $size, $lowV, $middleV, $half): int {
            if (! isset($front[$p])) {
                $front[$p] = count($x);
                foreach ([$half, -$half] as $side) {
                    $x[] = $map->u[$p] * $size;
                    $y[] = $map->v[$p] * $size + $middleV - $lowV;
                    $z[] = $side;
                }
            }

            return $front[$p];
        };
        for ($t = 0, $n = $map->triangleCount(); $t < $n; $t++) {
            if (! $within[$t]) {
                continue;
            }
            [$a, $b, $c] = [$corner($map->corner[3 * $t]), $corner($map->corner[3 * $t + 1]), $corner($map->corner[3 * $t + 2])];
            array_push($faces, $a, $b, $c, $a + 1, $c + 1, $b + 1);
            if ($outline->frame !== null) {
                // Front and back show the picture it was traced in; sides do not.
                $at = static fn (int $p): array => [
                    ($map->u[$p] * $size + $middleU) / $outline->frame[0] + 0.5,
                    ($map->v[$p] * $size + $middleV) / $outline->frame[1] + 0.5,
                ];
                [$p, $q, $r] = [$at($map->corner[3 * $t]), $at($map->corner[3 * $t + 1]), $at($map->corner[3 * $t + 2])];
                array_push($uvs, ...$p, ...$q, ...$r, ...$p, ...$r, ...$q);
            }
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as $k => [$p, $q]) {
                $o = $map->across[3 * $t + $k];
                if ($o < 0 || ! $within[$o]) {
                    array_push($faces, $p, $p + 1, $q + 1, $p, $q + 1, $q);
                    if ($outline->frame !== null) {
                        array_push($uvs, ...array_fill(0, 12, FrontProjection::NONE));
                    }
                }
            }
        }
        if ($faces === []) {
            throw Problem::inValue('outline', 'The outline encloses nothing.', 'Draw a closed shape with some area.');
        }

        return TouchingEdges::parted(new Mesh($x, $y, $z, $faces, uvs: $uvs === [] ? null : $uvs));
    }
}
