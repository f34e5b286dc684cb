<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/** What the sub-steps need of every contact, worked out once a span and laid flat. */
final class ContactRows
{
    /** Numbers a point has among the normal rows: the lever × normal of both bodies (3 each), each turned by the inverse inertia (3 each), and then: */
    public const POINT = 14;

    /** how readily it gives way, */
    public const YIELDS = 12;

    /** and its gap. */
    public const GAP = 13;

    /**
     * Numbers a manifold has among the friction rows: for each of two tangents itself, its levers (3 each), both turned (3 each) and how readily it gives
     * way, the second from here on;
     */
    public const SECOND = 16;

    /** then for the twist about the normal: both turned (3 each), */
    public const TWIST = 32;

    /** the mean distance of its points from their middle, */
    public const SPREAD = 38;

    /** and how readily it gives way. */
    public const TWIST_YIELDS = 39;

    public const MANIFOLD = 40;

    /**
     * Rows along the normals, point by point.
     *
     * @param  array{list<float>, list<float>}  $inverse  mass, and inertia in world axes (6), by body
     * @return list<float>
     */
    public static function normal(World $w, ContactSet $c, array $inverse): array
    {
        [$mass, $inertia] = $inverse;
        $px = $w->px;
        $py = $w->py;
        $pz = $w->pz;
        $ground = count($px);
        $px[] = $py[] = $pz[] = 0.0;
        $cx = $c->x;
        $cy = $c->y;
        $cz = $c->z;
        $gap = $c->gap;
        $first = $c->first;
        $normal = [];
        foreach ($c->a as $m => $a) {
            $b = $c->b[$m];
            if ($b < 0) {
                $b = $ground;
            }
            $nx = $c->nx[$m];
            $ny = $c->ny[$m];
            $nz = $c->nz[$m];
            $ax = $px[$a];
            $ay = $py[$a];
            $az = $pz[$a];
            $bx = $px[$b];
            $by = $py[$b];
            $bz = $pz[$b];
            $ka = 6 * $a;
            $kb = 6 * $b;
            $a0 = $inertia[$ka];
            $a1 = $inertia[$ka + 1];
            $a2 = $inertia[$ka + 2];
            $a3 = $inertia[$ka + 3];
            $a4 = $inertia[$ka + 4];
            $a5 = $inertia[$ka + 5];
            $b0 = $inertia[$kb];
            $b1 = $inertia[$kb + 1];
            $b2 = $inertia[$kb + 2];
            $b3 = $inertia[$kb + 3];
            $b4 = $inertia[$kb + 4];
            $b5 = $inertia[$kb + 5];
            $masses = $mass[$a] + $mass[$b];
            for ($k = $first[$m], $end = $first[$m + 1]; $k < $end; $k++) {
                $x = $cx[$k];
                $y = $cy[$k];
                $z = $cz[$k];
                $rx = $x - $ax;
                $ry = $y - $ay;
                $rz = $z - $az;
                $ux = $ry * $nz - $rz * $ny;
                $uy = $rz * $nx - $rx * $nz;
                $uz = $rx * $ny - $ry * $nx;
                $rx = $x - $bx;
                $ry = $y - $by;
                $rz = $z - $bz;
                $vx = $ry * $nz - $rz * $ny;
                $vy = $rz * $nx - $rx * $nz;
                $vz = $rx * $ny - $ry * $nx;
                $ix = $a0 * $ux + $a3 * $uy + $a5 * $uz;
                $iy = $a3 * $ux + $a1 * $uy + $a4 * $uz;
                $iz = $a5 * $ux + $a4 * $uy + $a2 * $uz;
                $jx = $b0 * $vx + $b3 * $vy + $b5 * $vz;
                $jy = $b3 * $vx + $b1 * $vy + $b4 * $vz;
                $jz = $b5 * $vx + $b4 * $vy + $b2 * $vz;
                $normal[] = $ux;
                $normal[] = $uy;
                $normal[] = $uz;
                $normal[] = $vx;
                $normal[] = $vy;
                $normal[] = $vz;
                $normal[] = $ix;
                $normal[] = $iy;
                $normal[] = $iz;
                $normal[] = $jx;
                $normal[] = $jy;
                $normal[] = $jz;
                $normal[] = 1.0 / ($masses + $ux * $ix + $uy * $iy + $uz * $iz + $vx * $jx + $vy * $jy + $vz * $jz);
                $normal[] = $gap[$k];
            }
        }

        return $normal;
    }

    /**
     * Rows across the normals, manifold by manifold: friction acts in the middle of its points.
     *
     * @param  array{list<float>, list<float>}  $inverse  mass, and inertia in world axes (6), by body
     * @return list<float>
     */
    public static function friction(World $w, ContactSet $c, array $inverse): array
    {
        [$mass, $inertia] = $inverse;
        $px = $w->px;
        $py = $w->py;
        $pz = $w->pz;
        $ground = count($px);
        $px[] = $py[] = $pz[] = 0.0;
        $cx = $c->x;
        $cy = $c->y;
        $cz = $c->z;
        $first = $c->first;
        $rub = [];
        foreach ($c->a as $m => $a) {
            $b = $c->b[$m];
            if ($b < 0) {
                $b = $ground;
            }
            $nx = $c->nx[$m];
            $ny = $c->ny[$m];
            $nz = $c->nz[$m];
            $ax = $px[$a];
            $ay = $py[$a];
            $az = $pz[$a];
            $bx = $px[$b];
            $by = $py[$b];
            $bz = $pz[$b];
            $ka = 6 * $a;
            $kb = 6 * $b;
            $a0 = $inertia[$ka];
            $a1 = $inertia[$ka + 1];
            $a2 = $inertia[$ka + 2];
            $a3 = $inertia[$ka + 3];
            $a4 = $inertia[$ka + 4];
            $a5 = $inertia[$ka + 5];
            $b0 = $inertia[$kb];
            $b1 = $inertia[$kb + 1];
            $b2 = $inertia[$kb + 2];
            $b3 = $inertia[$kb + 3];
            $b4 = $inertia[$kb + 4];
            $b5 = $inertia[$kb + 5];
            $masses = $mass[$a] + $mass[$b];
            $mx = $my = $mz = 0.0;
            $end = $first[$m + 1];
            for ($k = $first[$m]; $k < $end; $k++) {
                $mx += $cx[$k];
                $my += $cy[$k];
                $mz += $cz[$k];
            }
            $n = $end - $first[$m];
            $mx /= $n;
            $my /= $n;
            $mz /= $n;
            $spread = 0.0;
            for ($k = $first[$m]; $k < $end; $k++) {
                $x = $cx[$k] - $mx;
                $y = $cy[$k] - $my;
                $z = $cz[$k] - $mz;
                $spread += sqrt($x * $x + $y * $y + $z * $z);
            }
            $spread /= $n;
            // Two tangents.
            if ($nx > 0.6 || $nx < -0.6) {
                $l = 1.0 / sqrt($nx * $nx + $ny * $ny);
                $tx = -$ny * $l;
                $ty = $nx * $l;
                $tz = 0.0;
            } else {
                $l = 1.0 / sqrt($ny * $ny + $nz * $nz);
                $tx = 0.0;
                $ty = -$nz * $l;
                $tz = $ny * $l;
            }
            for ($t = 0; $t < 2; $t++) {
                if ($t === 1) {
                    $x = $ny * $tz - $nz * $ty;
                    $y = $nz * $tx - $nx * $tz;
                    $tz = $nx * $ty - $ny * $tx;
                    $tx = $x;
                    $ty = $y;
                }
                $rx = $mx - $ax;
                $ry = $my - $ay;
                $rz = $mz - $az;
                $ux = $ry * $tz - $rz * $ty;
                $uy = $rz * $tx - $rx * $tz;
                $uz = $rx * $ty - $ry * $tx;
                $rx = $mx - $bx;
                $ry = $my - $by;
                $rz = $mz - $bz;
                $vx = $ry * $tz - $rz * $ty;
                $vy = $rz * $tx - $rx * $tz;
                $vz = $rx * $ty - $ry * $tx;
                $ix = $a0 * $ux + $a3 * $uy + $a5 * $uz;
                $iy = $a3 * $ux + $a1 * $uy + $a4 * $uz;
                $iz = $a5 * $ux + $a4 * $uy + $a2 * $uz;
                $jx = $b0 * $vx + $b3 * $vy + $b5 * $vz;
                $jy = $b3 * $vx + $b1 * $vy + $b4 * $vz;
                $jz = $b5 * $vx + $b4 * $vy + $b2 * $vz;
                $rub[] = $tx;
                $rub[] = $ty;
                $rub[] = $tz;
                $rub[] = $ux;
                $rub[] = $uy;
                $rub[] = $uz;
                $rub[] = $vx;
                $rub[] = $vy;
                $rub[] = $vz;
                $rub[] = $ix;
                $rub[] = $iy;
                $rub[] = $iz;
                $rub[] = $jx;
                $rub[] = $jy;
                $rub[] = $jz;
                $rub[] = 1.0 / ($masses + $ux * $ix + $uy * $iy + $uz * $iz + $vx * $jx + $vy * $jy + $vz * $jz);
            }
            $ix = $a0 * $nx + $a3 * $ny + $a5 * $nz;
            $iy = $a3 * $nx + $a1 * $ny + $a4 * $nz;
            $iz = $a5 * $nx + $a4 * $ny + $a2 * $nz;
            $jx = $b0 * $nx + $b3 * $ny + $b5 * $nz;
            $jy = $b3 * $nx + $b1 * $ny + $b4 * $nz;
            $jz = $b5 * $nx + $b4 * $ny + $b2 * $nz;
            $rub[] = $ix;
            $rub[] = $iy;
            $rub[] = $iz;
            $rub[] = $jx;
            $rub[] = $jy;
            $rub[] = $jz;
            $k = $nx * ($ix + $jx) + $ny * ($iy + $jy) + $nz * ($iz + $jz);
            $rub[] = $n > 1 && $k > 0.0 ? $spread : 0.0;
            $rub[] = $k > 0.0 ? 1.0 / $k : 0.0;
        }

        return $rub;
    }
}
