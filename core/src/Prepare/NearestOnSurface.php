<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Mesh;

/** The point of a surface nearest to another that lies close to it, by a grid over the surface. */
final class NearestOnSurface
{
    /** In cells: half a diagonal, and the reach. */
    private const SLACK = 1.87;

    private readonly float $cell;

    /** @var array{float, float, float} */
    private readonly array $low;

    /** @var array<int, list<int>> first corners of faces by cell */
    private readonly array $cells;

    /** @param  float  $reach  points asked for lie nearer than this */
    public function __construct(private readonly Mesh $mesh, float $reach)
    {
        $size = Aabb::around($mesh)->size();
        // About as many cells along a side as there are faces there, so that a few large faces do not fill millions.
        $this->cell = max($reach, max($size->x, $size->y, $size->z) / max(8.0, min(200.0, sqrt($mesh->faceCount()))));
        $this->low = [min($mesh->x) - 1.5 * $this->cell, min($mesh->y) - 1.5 * $this->cell, min($mesh->z) - 1.5 * $this->cell];
        $this->cells = self::sorted($mesh->x, $mesh->y, $mesh->z, $mesh->faces, $this->cell, ...$this->low);
    }

    /**
     * The faces by the cells they pass. On local arrays alone: a loop as hot as this one must be compiled as one.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces
     * @return array<int, list<int>> first corners of faces by cell
     */
    private static function sorted(array $x, array $y, array $z, array $faces, float $cell, float $lx, float $ly, float $lz): array
    {
        $k = 1.0 / $cell;
        $cells = [];
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            // In cells from the low corner.
            $ax = ($x[$a] - $lx) * $k;
            $ay = ($y[$a] - $ly) * $k;
            $az = ($z[$a] - $lz) * $k;
            $bx = ($x[$b] - $lx) * $k;
            $by = ($y[$b] - $ly) * $k;
            $bz = ($z[$b] - $lz) * $k;
            $cx = ($x[$c] - $lx) * $k;
            $cy = ($y[$c] - $ly) * $k;
            $cz = ($z[$c] - $lz) * $k;
            $nx = ($by - $ay) * ($cz - $az) - ($bz - $az) * ($cy - $ay);
            $ny = ($bz - $az) * ($cx - $ax) - ($bx - $ax) * ($cz - $az);
            $nz = ($bx - $ax) * ($cy - $ay) - ($by - $ay) * ($cx - $ax);
            $slack = self::SLACK * sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $d = $nx * ($ax - 0.5) + $ny * ($ay - 0.5) + $nz * ($az - 0.5);
            $x1 = (int) (max($ax, $bx, $cx) + 0.5);
            $y0 = (int) (min($ay, $by, $cy) - 0.5);
            $y1 = (int) (max($ay, $by, $cy) + 0.5);
            $z0 = (int) (min($az, $bz, $cz) - 0.5);
            $z1 = (int) (max($az, $bz, $cz) + 0.5);
            for ($u = (int) (min($ax, $bx, $cx) - 0.5); $u <= $x1; $u++) {
                for ($v = $y0; $v <= $y1; $v++) {
                    for ($w = $z0; $w <= $z1; $w++) {
                        // Cells whose middle lies farther from the face's plane than half their diagonal and the reach hold nothing of it.
                        $off = $nx * $u + $ny * $v + $nz * $w - $d;
                        if ($off <= $slack && $off >= -$slack) {
                            $cells[($u << 40) | ($v << 20) | $w][] = $i;
                        }
                    }
                }
            }
        }

        return $cells;
    }

    /** @return array{float, float, float} the point itself where nothing is near */
    public function to(float $px, float $py, float $pz): array
    {
        $key = ((int) (($px - $this->low[0]) / $this->cell) << 40) | ((int) (($py - $this->low[1]) / $this->cell) << 20) | (int) (($pz - $this->low[2]) / $this->cell);
        $x = $this->mesh->x;
        $y = $this->mesh->y;
        $z = $this->mesh->z;
        $faces = $this->mesh->faces;
        $best = INF;
        $at = [$px, $py, $pz];
        foreach ($this->cells[$key] ?? [] as $i) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $ax = $x[$a];
            $ay = $y[$a];
            $az = $z[$a];
            $ux = $x[$b] - $ax;
            $uy = $y[$b] - $ay;
            $uz = $z[$b] - $az;
            $vx = $x[$c] - $ax;
            $vy = $y[$c] - $ay;
            $vz = $z[$c] - $az;
            $wx = $px - $ax;
            $wy = $py - $ay;
            $wz = $pz - $az;
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $nn = $nx * $nx + $ny * $ny + $nz * $nz;
            if ($nn <= 0.0) {
                continue;
            }
            $d = $wx * $nx + $wy * $ny + $wz * $nz;
            // The plane alone is already farther than the best.
            if ($d * $d >= $best * $nn) {
                continue;
            }
            // Barycentric coordinates, held to the triangle by its regions (Ericson 2005, "Real-time collision detection", 5.1.5).
            $d1 = $ux * $wx + $uy * $wy + $uz * $wz;
            $d2 = $vx * $wx + $vy * $wy + $vz * $wz;
            $uu = $ux * $ux + $uy * $uy + $uz * $uz;
            $uv = $ux * $vx + $uy * $vy + $uz * $vz;
            $vv = $vx * $vx + $vy * $vy + $vz * $vz;
            $s = $vv * $d1 - $uv * $d2;
            $t = $uu * $d2 - $uv * $d1;
            $det = $uu * $vv - $uv * $uv;
            if ($s >= 0.0 && $t >= 0.0 && $s + $t <= $det) {
                $s /= $det;
                $t /= $det;
            } else {
                $near = INF;
                $bs = $bt = 0.0;
                // Nearest on each of the three sides.
                $k = $d1 <= 0.0 ? 0.0 : ($d1 >= $uu ? 1.0 : $d1 / $uu);
                foreach ([[$k, 0.0], [0.0, $d2 <= 0.0 ? 0.0 : ($d2 >= $vv ? 1.0 : $d2 / $vv)], self::third($uu, $uv, $vv, $d1, $d2)] as [$p, $q]) {
                    $ex = $wx - $p * $ux - $q * $vx;
                    $ey = $wy - $p * $uy - $q * $vy;
                    $ez = $wz - $p * $uz - $q * $vz;
                    $e = $ex * $ex + $ey * $ey + $ez * $ez;
                    if ($e < $near) {
                        $near = $e;
                        $bs = $p;
                        $bt = $q;
                    }
                }
                $s = $bs;
                $t = $bt;
            }
            $ex = $wx - $s * $ux - $t * $vx;
            $ey = $wy - $s * $uy - $t * $vy;
            $ez = $wz - $s * $uz - $t * $vz;
            $e = $ex * $ex + $ey * $ey + $ez * $ez;
            if ($e < $best) {
                $best = $e;
                $at = [$ax + $s * $ux + $t * $vx, $ay + $s * $uy + $t * $vy, $az + $s * $uz + $t * $vz];
            }
        }

        return $at;
    }

    /** @return array{float, float} */
    private static function third(float $uu, float $uv, float $vv, float $d1, float $d2): array
    {
        $length = $uu - 2.0 * $uv + $vv;
        $t = $length > 0.0 ? ($uu - $uv - $d1 + $d2) / $length : 0.0;
        $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);

        return [1.0 - $t, $t];
    }
}
