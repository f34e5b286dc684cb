<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

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

    /** @var array{list<float>, list<float>, list<float>, list<float>} by face: a ball that holds it, middle and radius */
    private readonly array $balls;

    /** @param  float  $reach  points asked for lie nearer than this */
    public function __construct(private readonly Mesh $mesh, float $reach)
    {
        $size = Aabb::around($mesh)->size();
        // About as many cells along a side as there are faces there, so that a few large faces do not fill millions.
        $this->cell = max($reach, max($size->x, $size->y, $size->z) / max(8.0, min(200.0, sqrt($mesh->faceCount()))));
        $this->low = [min($mesh->x) - 1.5 * $this->cell, min($mesh->y) - 1.5 * $this->cell, min($mesh->z) - 1.5 * $this->cell];
        $this->cells = self::sorted($mesh->x, $mesh->y, $mesh->z, $mesh->faces, $this->cell, ...$this->low);
        $this->balls = self::held($mesh->x, $mesh->y, $mesh->z, $mesh->faces);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<bool>|null  $which  the points that are moved; null for all
     * @return array{list<float>, list<float>, list<float>} the points on the surface nearest to the given ones; a point stays where nothing is near
     */
    public function drawn(array $x, array $y, array $z, ?array $which = null): array
    {
        return self::nearest(
            $x, $y, $z, $which, $this->mesh->x, $this->mesh->y, $this->mesh->z, $this->mesh->faces, $this->cells, $this->balls, $this->cell,
            $this->low,
        );
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces
     * @return array{list<float>, list<float>, list<float>, list<float>}
     */
    private static function held(array $x, array $y, array $z, array $faces): array
    {
        $mx = $my = $mz = $radius = [];
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $u = ($x[$a] + $x[$b] + $x[$c]) / 3.0;
            $v = ($y[$a] + $y[$b] + $y[$c]) / 3.0;
            $w = ($z[$a] + $z[$b] + $z[$c]) / 3.0;
            $mx[] = $u;
            $my[] = $v;
            $mz[] = $w;
            $radius[] = sqrt(max(
                ($x[$a] - $u) ** 2 + ($y[$a] - $v) ** 2 + ($z[$a] - $w) ** 2,
                ($x[$b] - $u) ** 2 + ($y[$b] - $v) ** 2 + ($z[$b] - $w) ** 2,
                ($x[$c] - $u) ** 2 + ($y[$c] - $v) ** 2 + ($z[$c] - $w) ** 2,
            ));
        }

        return [$mx, $my, $mz, $radius];
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
                            $cells[$u * Cell::X + $v * Cell::Y + $w][] = $i;
                        }
                    }
                }
            }
        }

        return $cells;
    }

    /**
     * Starts with the face whose middle is nearest; what lies farther than its nearest point is not looked at.
     *
     * @param  list<float>  $px
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<bool>|null  $which
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces
     * @param  array<int, list<int>>  $cells
     * @param  array{list<float>, list<float>, list<float>, list<float>}  $balls
     * @param  array{float, float, float}  $low
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function nearest(
        array $px, array $py, array $pz, ?array $which, array $x, array $y, array $z, array $faces, array $cells, array $balls, float $cell,
        array $low,
    ): array {
        [$mx, $my, $mz, $radius] = $balls;
        [$lx, $ly, $lz] = $low;
        $none = [];
        for ($i = 0, $n = count($px); $i < $n; $i++) {
            if ($which !== null && ! $which[$i]) {
                continue;
            }
            $gx = $px[$i];
            $gy = $py[$i];
            $gz = $pz[$i];
            $near = $cells[(int) (($gx - $lx) / $cell) * Cell::X + (int) (($gy - $ly) / $cell) * Cell::Y + (int) (($gz - $lz) / $cell)] ?? $none;
            $bound = INF;
            $first = -1;
            foreach ($near as $c) {
                $f = intdiv($c, 3);
                $wx = $gx - $mx[$f];
                $wy = $gy - $my[$f];
                $wz = $gz - $mz[$f];
                $d = $wx * $wx + $wy * $wy + $wz * $wz;
                if ($d < $bound) {
                    $bound = $d;
                    $first = $c;
                }
            }
            if ($first < 0) {
                continue;
            }
            // Squared distance of the best point so far, and the distance.
            $best = INF;
            $reach = INF;
            for ($k = -1, $count = count($near); $k < $count; $k++) {
                $c = $k < 0 ? $first : $near[$k];
                if ($k >= 0) {
                    $f = intdiv($c, 3);
                    $wx = $gx - $mx[$f];
                    $wy = $gy - $my[$f];
                    $wz = $gz - $mz[$f];
                    $d = $radius[$f] + $reach;
                    if ($c === $first || $wx * $wx + $wy * $wy + $wz * $wz >= $d * $d) {
                        continue;
                    }
                }
                $p = $faces[$c];
                $q = $faces[$c + 1];
                $r = $faces[$c + 2];
                $ax = $x[$p];
                $ay = $y[$p];
                $az = $z[$p];
                $ux = $x[$q] - $ax;
                $uy = $y[$q] - $ay;
                $uz = $z[$q] - $az;
                $vx = $x[$r] - $ax;
                $vy = $y[$r] - $ay;
                $vz = $z[$r] - $az;
                $wx = $gx - $ax;
                $wy = $gy - $ay;
                $wz = $gz - $az;
                // Barycentric coordinates, held to the triangle by its regions (Ericson 2005, "Real-time collision detection", 5.1.5).
                $d1 = $ux * $wx + $uy * $wy + $uz * $wz;
                $d2 = $vx * $wx + $vy * $wy + $vz * $wz;
                $uu = $ux * $ux + $uy * $uy + $uz * $uz;
                $uv = $ux * $vx + $uy * $vy + $uz * $vz;
                $vv = $vx * $vx + $vy * $vy + $vz * $vz;
                $det = $uu * $vv - $uv * $uv;
                if ($det <= 0.0) {
                    continue;
                }
                $s = $vv * $d1 - $uv * $d2;
                $t = $uu * $d2 - $uv * $d1;
                if ($s >= 0.0 && $t >= 0.0 && $s + $t <= $det) {
                    $s /= $det;
                    $t /= $det;
                } else {
                    // Nearest on each of the three sides.
                    $s = $d1 <= 0.0 ? 0.0 : ($d1 >= $uu ? 1.0 : $d1 / $uu);
                    $t = 0.0;
                    $e = $s * ($s * $uu - 2.0 * $d1);
                    $other = $d2 <= 0.0 ? 0.0 : ($d2 >= $vv ? 1.0 : $d2 / $vv);
                    $o = $other * ($other * $vv - 2.0 * $d2);
                    if ($o < $e) {
                        $e = $o;
                        $s = 0.0;
                        $t = $other;
                    }
                    $other = ($uu - $uv - $d1 + $d2) / ($uu - 2.0 * $uv + $vv);
                    $other = $other < 0.0 ? 0.0 : ($other > 1.0 ? 1.0 : $other);
                    $o = (1.0 - $other) * ((1.0 - $other) * $uu - 2.0 * $d1) + $other * ($other * $vv - 2.0 * $d2) + 2.0 * $other * (1.0 - $other) * $uv;
                    if ($o < $e) {
                        $s = 1.0 - $other;
                        $t = $other;
                    }
                }
                $ex = $wx - $s * $ux - $t * $vx;
                $ey = $wy - $s * $uy - $t * $vy;
                $ez = $wz - $s * $uz - $t * $vz;
                $e = $ex * $ex + $ey * $ey + $ez * $ez;
                if ($e < $best) {
                    $best = $e;
                    $reach = sqrt($e);
                    $px[$i] = $ax + $s * $ux + $t * $vx;
                    $py[$i] = $ay + $s * $uy + $t * $vy;
                    $pz[$i] = $az + $s * $uz + $t * $vz;
                }
            }
        }

        return [$px, $py, $pz];
    }
}
