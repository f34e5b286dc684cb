<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * Whether a surface passes through itself: an edge of one face pierces another that shares no point with it. Faces that
 * only touch, or lie in one plane, do not count. Segment against triangle by Möller & Trumbore 1997.
 */
final class SelfCrossing
{
    /** Of a face or an edge, what lies nearer to its rim only touches. */
    private const RIM = 1e-7;

    /** Cells along an edge of middling length. */
    private const FINE = 1.5;

    /** Cells a face may lie in; larger faces are looked at with all. */
    private const MOST_CELLS = 512;

    /** The first place where it does, or null. */
    public static function of(Mesh $mesh): ?Vec3
    {
        [$x, $y, $z, $faces] = [$mesh->x, $mesh->y, $mesh->z, $mesh->faces];
        $n = count($faces);
        if ($n < 6) {
            return null;
        }
        $k = self::FINE / max(1e-300, self::middling($mesh) * 2.0);
        $cells = $large = [];
        for ($f = 0; $f < $n; $f += 3) {
            [$a, $b, $c] = [$faces[$f], $faces[$f + 1], $faces[$f + 2]];
            $u0 = (int) floor(min($x[$a], $x[$b], $x[$c]) * $k);
            $u1 = (int) floor(max($x[$a], $x[$b], $x[$c]) * $k);
            $v0 = (int) floor(min($y[$a], $y[$b], $y[$c]) * $k);
            $v1 = (int) floor(max($y[$a], $y[$b], $y[$c]) * $k);
            $w0 = (int) floor(min($z[$a], $z[$b], $z[$c]) * $k);
            $w1 = (int) floor(max($z[$a], $z[$b], $z[$c]) * $k);
            if (($u1 - $u0 + 1) * ($v1 - $v0 + 1) * ($w1 - $w0 + 1) > self::MOST_CELLS) {
                $large[] = $f;

                continue;
            }
            for ($u = $u0; $u <= $u1; $u++) {
                for ($v = $v0; $v <= $v1; $v++) {
                    for ($w = $w0; $w <= $w1; $w++) {
                        $cells[Cell::of($u + 0.5, $v + 0.5, $w + 0.5)][] = $f;
                    }
                }
            }
        }
        foreach ($cells as $in) {
            $count = count($in);
            for ($i = 0; $i < $count; $i++) {
                for ($j = $i + 1; $j < $count; $j++) {
                    $place = self::between($x, $y, $z, $faces, $in[$i], $in[$j]);
                    if ($place !== null) {
                        return $place;
                    }
                }
            }
        }
        foreach ($large as $i => $f) {
            for ($g = 0; $g < $n; $g += 3) {
                $place = $g === $f ? null : self::between($x, $y, $z, $faces, $f, $g);
                if ($place !== null) {
                    return $place;
                }
            }
        }

        return null;
    }

    /** The mean length of some of its edges. */
    private static function middling(Mesh $mesh): float
    {
        $n = count($mesh->faces);
        $sum = $count = 0;
        $step = 3 * max(1, intdiv($n, 3 * 2000));
        for ($f = 0; $f + 1 < $n; $f += $step) {
            [$a, $b] = [$mesh->faces[$f], $mesh->faces[$f + 1]];
            $sum += sqrt(($mesh->x[$a] - $mesh->x[$b]) ** 2 + ($mesh->y[$a] - $mesh->y[$b]) ** 2 + ($mesh->z[$a] - $mesh->z[$b]) ** 2);
            $count++;
        }

        return $sum / max(1, $count);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces
     */
    private static function between(array $x, array $y, array $z, array $faces, int $f, int $g): ?Vec3
    {
        [$a, $b, $c] = [$faces[$f], $faces[$f + 1], $faces[$f + 2]];
        [$p, $q, $r] = [$faces[$g], $faces[$g + 1], $faces[$g + 2]];
        if ($a === $p || $a === $q || $a === $r || $b === $p || $b === $q || $b === $r || $c === $p || $c === $q || $c === $r) {
            return null;
        }
        // Boxes that miss each other are most of them.
        $ax = $x[$a];
        $bx = $x[$b];
        $cx = $x[$c];
        $px = $x[$p];
        $qx = $x[$q];
        $rx = $x[$r];
        if (max($ax, $bx, $cx) < min($px, $qx, $rx) || max($px, $qx, $rx) < min($ax, $bx, $cx)) {
            return null;
        }
        $ay = $y[$a];
        $by = $y[$b];
        $cy = $y[$c];
        $py = $y[$p];
        $qy = $y[$q];
        $ry = $y[$r];
        if (max($ay, $by, $cy) < min($py, $qy, $ry) || max($py, $qy, $ry) < min($ay, $by, $cy)) {
            return null;
        }
        $az = $z[$a];
        $bz = $z[$b];
        $cz = $z[$c];
        $pz = $z[$p];
        $qz = $z[$q];
        $rz = $z[$r];
        if (max($az, $bz, $cz) < min($pz, $qz, $rz) || max($pz, $qz, $rz) < min($az, $bz, $cz)) {
            return null;
        }

        return self::pierced([[$ax, $ay, $az], [$bx, $by, $bz], [$cx, $cy, $cz]], [[$px, $py, $pz], [$qx, $qy, $qz], [$rx, $ry, $rz]])
            ?? self::pierced([[$px, $py, $pz], [$qx, $qy, $qz], [$rx, $ry, $rz]], [[$ax, $ay, $az], [$bx, $by, $bz], [$cx, $cy, $cz]]);
    }

    /**
     * Where an edge of one triangle goes through the inside of another.
     *
     * @param  array{array{float, float, float}, array{float, float, float}, array{float, float, float}}  $of
     * @param  array{array{float, float, float}, array{float, float, float}, array{float, float, float}}  $through
     */
    private static function pierced(array $of, array $through): ?Vec3
    {
        [[$px, $py, $pz], [$qx, $qy, $qz], [$rx, $ry, $rz]] = $through;
        $ex = $qx - $px;
        $ey = $qy - $py;
        $ez = $qz - $pz;
        $fx = $rx - $px;
        $fy = $ry - $py;
        $fz = $rz - $pz;
        $nx = $ey * $fz - $ez * $fy;
        $ny = $ez * $fx - $ex * $fz;
        $nz = $ex * $fy - $ey * $fx;
        $nn = $nx * $nx + $ny * $ny + $nz * $nz;
        for ($i = 0; $i < 3; $i++) {
            [$sx, $sy, $sz] = $of[$i];
            [$tx, $ty, $tz] = $of[$i === 2 ? 0 : $i + 1];
            $dx = $tx - $sx;
            $dy = $ty - $sy;
            $dz = $tz - $sz;
            $along = $dx * $nx + $dy * $ny + $dz * $nz;
            // What lies nearly in its plane does not go through it.
            if ($along * $along <= 1e-14 * $nn * ($dx * $dx + $dy * $dy + $dz * $dz)) {
                continue;
            }
            $t = (($px - $sx) * $nx + ($py - $sy) * $ny + ($pz - $sz) * $nz) / $along;
            if ($t <= self::RIM || $t >= 1.0 - self::RIM) {
                continue;
            }
            $hx = $sx + $t * $dx - $px;
            $hy = $sy + $t * $dy - $py;
            $hz = $sz + $t * $dz - $pz;
            // Its shares along the two sides, by the areas they cut off.
            $u = (($hy * $fz - $hz * $fy) * $nx + ($hz * $fx - $hx * $fz) * $ny + ($hx * $fy - $hy * $fx) * $nz) / $nn;
            $v = (($ey * $hz - $ez * $hy) * $nx + ($ez * $hx - $ex * $hz) * $ny + ($ex * $hy - $ey * $hx) * $nz) / $nn;
            if ($u > self::RIM && $v > self::RIM && $u + $v < 1.0 - self::RIM) {
                return new Vec3($px + $hx, $py + $hy, $pz + $hz);
            }
        }

        return null;
    }
}
