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
    private array $cells = [];

    /** @param  float  $reach  points asked for lie nearer than this */
    public function __construct(private readonly Mesh $mesh, float $reach)
    {
        $size = Aabb::around($mesh)->size();
        // About as many cells along a side as there are faces there, so that a few large faces do not fill millions.
        $this->cell = max($reach, max($size->x, $size->y, $size->z) / max(8.0, min(200.0, sqrt($mesh->faceCount()))));
        $this->low = [min($mesh->x) - 1.5 * $this->cell, min($mesh->y) - 1.5 * $this->cell, min($mesh->z) - 1.5 * $this->cell];
        $k = 1.0 / $this->cell;
        [$lx, $ly, $lz] = $this->low;
        for ($i = 0, $n = count($mesh->faces); $i < $n; $i += 3) {
            [$a, $b, $c] = [$mesh->faces[$i], $mesh->faces[$i + 1], $mesh->faces[$i + 2]];
            $x0 = (int) ((min($mesh->x[$a], $mesh->x[$b], $mesh->x[$c]) - $lx) * $k - 0.5);
            $x1 = (int) ((max($mesh->x[$a], $mesh->x[$b], $mesh->x[$c]) - $lx) * $k + 0.5);
            $y0 = (int) ((min($mesh->y[$a], $mesh->y[$b], $mesh->y[$c]) - $ly) * $k - 0.5);
            $y1 = (int) ((max($mesh->y[$a], $mesh->y[$b], $mesh->y[$c]) - $ly) * $k + 0.5);
            $z0 = (int) ((min($mesh->z[$a], $mesh->z[$b], $mesh->z[$c]) - $lz) * $k - 0.5);
            $z1 = (int) ((max($mesh->z[$a], $mesh->z[$b], $mesh->z[$c]) - $lz) * $k + 0.5);
            $ux = $mesh->x[$b] - $mesh->x[$a];
            $uy = $mesh->y[$b] - $mesh->y[$a];
            $uz = $mesh->z[$b] - $mesh->z[$a];
            $vx = $mesh->x[$c] - $mesh->x[$a];
            $vy = $mesh->y[$c] - $mesh->y[$a];
            $vz = $mesh->z[$c] - $mesh->z[$a];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $l = $l > 0.0 ? 1.0 / $l : 0.0;
            $d = ($nx * ($mesh->x[$a] - $lx) + $ny * ($mesh->y[$a] - $ly) + $nz * ($mesh->z[$a] - $lz)) * $l * $k;
            for ($u = $x0; $u <= $x1; $u++) {
                for ($v = $y0; $v <= $y1; $v++) {
                    for ($w = $z0; $w <= $z1; $w++) {
                        // Cells whose middle lies farther from the face's plane than half their diagonal and the reach hold nothing of it.
                        if (abs(($nx * ($u + 0.5) + $ny * ($v + 0.5) + $nz * ($w + 0.5)) * $l - $d) > self::SLACK) {
                            continue;
                        }
                        $this->cells[($u << 40) | ($v << 20) | $w][] = $i;
                    }
                }
            }
        }
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
