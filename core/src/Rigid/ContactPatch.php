<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/** The few points that stand for where two hulls touch, given the normal between them. */
final class ContactPatch
{
    /** A face belongs to a contact where its normal lies within this angle's cosine of the contact's. */
    private const FACING = 0.94;

    /** Points of two hulls that are kept. */
    private const MOST = 5;

    /** Share of a piece's extent by which a point lies higher than the deepest when it counts half. */
    private const HEIGHT = 0.03;

    /**
     * @param  array<int, float>  $ma  rotation of the first body, row-major
     * @param  array<int, float>  $mb
     * @param  float  $reach  points farther apart than this are left out
     * @return list<float> seven numbers a point: on the first surface, on the second, the gap; at most four points
     */
    public static function points(ColliderSet $set, int $a, int $b, array $ma, array $mb, ConvexDistance $d, float $reach): array
    {
        $nx = $d->nx;
        $ny = $d->ny;
        $nz = $d->nz;
        $marginA = $set->margin[$a];
        $marginB = $set->margin[$b];
        $lone = self::nearest($set, $a, $b, $d);
        if ($set->roundness[$a] > 0.0 || $set->roundness[$b] > 0.0) {
            return $lone;
        }
        $normals = $set->faceNormal;
        $loopStart = $set->loopStart;
        $loop = $set->loop;
        [$faceA, $dotA] = self::facing($normals, $set->firstFace[$a], $set->firstFace[$a + 1], $ma, $nx, $ny, $nz);
        [$faceB, $dotB] = self::facing($normals, $set->firstFace[$b], $set->firstFace[$b + 1], $mb, -$nx, -$ny, -$nz);
        if ($dotA < self::FACING && $dotB < self::FACING) {
            return $lone;
        }
        $first = $dotA + 0.001 >= $dotB;
        $ref = $first ? $faceA : $faceB;
        $inc = $first ? $faceB : $faceA;
        $m = $first ? $ma : $mb;
        $ex = $normals[3 * $ref];
        $ey = $normals[3 * $ref + 1];
        $ez = $normals[3 * $ref + 2];
        $rx = $m[0] * $ex + $m[1] * $ey + $m[2] * $ez;
        $ry = $m[3] * $ex + $m[4] * $ey + $m[5] * $ez;
        $rz = $m[6] * $ex + $m[7] * $ey + $m[8] * $ez;
        $x = $set->cx;
        $y = $set->cy;
        $z = $set->cz;
        $cut = [];
        for ($k = $loopStart[$inc], $end = $loopStart[$inc + 1]; $k < $end; $k++) {
            $v = $loop[$k];
            $cut[] = $x[$v];
            $cut[] = $y[$v];
            $cut[] = $z[$v];
        }
        // Cut the other face to the reference face's outline (Sutherland & Hodgman 1974).
        $start = $loopStart[$ref];
        $end = $loopStart[$ref + 1];
        $p = $loop[$end - 1];
        for ($k = $start; $k < $end; $k++) {
            $q = $loop[$k];
            $ex = $x[$q] - $x[$p];
            $ey = $y[$q] - $y[$p];
            $ez = $z[$q] - $z[$p];
            $sx = $ey * $rz - $ez * $ry;
            $sy = $ez * $rx - $ex * $rz;
            $sz = $ex * $ry - $ey * $rx;
            $level = $sx * $x[$p] + $sy * $y[$p] + $sz * $z[$p];
            $p = $q;
            $n = count($cut);
            $beyond = 0;
            for ($i = 0; $i < $n; $i += 3) {
                if ($sx * $cut[$i] + $sy * $cut[$i + 1] + $sz * $cut[$i + 2] > $level) {
                    $beyond += 3;
                }
            }
            if ($beyond === 0) {
                continue;
            }
            if ($beyond === $n) {
                $cut = [];
                break;
            }
            $kept = [];
            $px = $cut[$n - 3];
            $py = $cut[$n - 2];
            $pz = $cut[$n - 1];
            $ps = $sx * $px + $sy * $py + $sz * $pz - $level;
            for ($i = 0; $i < $n; $i += 3) {
                $cx = $cut[$i];
                $cy = $cut[$i + 1];
                $cz = $cut[$i + 2];
                $cs = $sx * $cx + $sy * $cy + $sz * $cz - $level;
                if ($cs <= 0.0) {
                    if ($ps > 0.0) {
                        $t = $ps / ($ps - $cs);
                        $kept[] = $px + $t * ($cx - $px);
                        $kept[] = $py + $t * ($cy - $py);
                        $kept[] = $pz + $t * ($cz - $pz);
                    }
                    $kept[] = $cx;
                    $kept[] = $cy;
                    $kept[] = $cz;
                } elseif ($ps <= 0.0) {
                    $t = $ps / ($ps - $cs);
                    $kept[] = $px + $t * ($cx - $px);
                    $kept[] = $py + $t * ($cy - $py);
                    $kept[] = $pz + $t * ($cz - $pz);
                }
                $px = $cx;
                $py = $cy;
                $pz = $cz;
                $ps = $cs;
            }
            $cut = $kept;
        }
        $v = $loop[$start];
        $level = $rx * $x[$v] + $ry * $y[$v] + $rz * $z[$v];
        $cos = $rx * $nx + $ry * $ny + $rz * $nz;
        // What is bowed stands on corners beside the face that looks at the other most.
        $high = ($reach + $marginA + $marginB) * ($first ? $cos : -$cos);
        $other = $first ? $b : $a;
        for ($v = $set->first[$other], $last = $set->first[$other + 1]; $v < $last; $v++) {
            $cx = $x[$v];
            $cy = $y[$v];
            $cz = $z[$v];
            if ($rx * $cx + $ry * $cy + $rz * $cz - $level > $high) {
                continue;
            }
            $p = $loop[$end - 1];
            for ($k = $start; $k < $end; $k++) {
                $q = $loop[$k];
                $ex = $x[$q] - $x[$p];
                $ey = $y[$q] - $y[$p];
                $ez = $z[$q] - $z[$p];
                if (($ey * $rz - $ez * $ry) * ($cx - $x[$p]) + ($ez * $rx - $ex * $rz) * ($cy - $y[$p]) + ($ex * $ry - $ey * $rx) * ($cz - $z[$p]) > 0.0) {
                    continue 2;
                }
                $p = $q;
            }
            $cut[] = $cx;
            $cut[] = $cy;
            $cut[] = $cz;
        }
        $out = [];
        $deepest = INF;
        for ($i = 0, $n = count($cut); $i < $n; $i += 3) {
            $cx = $cut[$i];
            $cy = $cut[$i + 1];
            $cz = $cut[$i + 2];
            // Along the contact normal from the reference face to the point, positive when apart.
            $t = ($rx * $cx + $ry * $cy + $rz * $cz - $level) / $cos;
            $gap = ($first ? $t : -$t) - $marginA - $marginB;
            if ($gap > $reach) {
                continue;
            }
            if ($gap < $deepest) {
                $deepest = $gap;
            }
            $tx = $cx - $t * $nx;
            $ty = $cy - $t * $ny;
            $tz = $cz - $t * $nz;
            if (! $first) {
                [$tx, $ty, $tz, $cx, $cy, $cz] = [$cx, $cy, $cz, $tx, $ty, $tz];
            }
            $out[] = $tx + $nx * $marginA;
            $out[] = $ty + $ny * $marginA;
            $out[] = $tz + $nz * $marginA;
            $out[] = $cx - $nx * $marginB;
            $out[] = $cy - $ny * $marginB;
            $out[] = $cz - $nz * $marginB;
            $out[] = $gap;
        }
        if ($out === [] || $deepest > $lone[6] + 0.02 * ($set->size[$a] < $set->size[$b] ? $set->size[$a] : $set->size[$b])) {
            array_push($out, ...$lone);
        }

        return self::carrying($out, self::MOST, $set->size[$a] < $set->size[$b] ? $set->size[$a] : $set->size[$b]);
    }

    /** @return list<float> the two nearest points and their gap */
    public static function nearest(ColliderSet $set, int $a, int $b, ConvexDistance $d): array
    {
        $marginA = $set->margin[$a];
        $marginB = $set->margin[$b];

        return [
            $d->ax + $d->nx * $marginA, $d->ay + $d->ny * $marginA, $d->az + $d->nz * $marginA,
            $d->ax + $d->nx * ($d->gap - $marginB), $d->ay + $d->ny * ($d->gap - $marginB), $d->az + $d->nz * ($d->gap - $marginB),
            $d->gap - $marginA - $marginB,
        ];
    }

    /**
     * @param  list<float>  $normals  of all faces, body axes
     * @param  array<int, float>  $m
     * @return array{int, float} the face from `$first` to before `$end` that looks most along a direction, and how much
     */
    private static function facing(array $normals, int $first, int $end, array $m, float $nx, float $ny, float $nz): array
    {
        $x = $m[0] * $nx + $m[3] * $ny + $m[6] * $nz;
        $y = $m[1] * $nx + $m[4] * $ny + $m[7] * $nz;
        $z = $m[2] * $nx + $m[5] * $ny + $m[8] * $nz;
        $best = -2.0;
        $face = -1;
        for ($f = 3 * $first, $end *= 3; $f < $end; $f += 3) {
            $s = $normals[$f] * $x + $normals[$f + 1] * $y + $normals[$f + 2] * $z;
            if ($s > $best) {
                $best = $s;
                $face = $f;
            }
        }

        return [intdiv($face, 3), $best];
    }

    /**
     * The points that carry: the deepest, then again and again the one that is farthest from those taken, each counting the less the
     * higher it lies above the deepest.
     *
     * @param  list<float>  $p  seven numbers a point, its place first, its gap last
     * @param  int  $most  points kept
     * @param  float  $extent  metres, of the piece
     * @return list<float>
     */
    public static function carrying(array $p, int $most, float $extent): array
    {
        $n = count($p);
        if ($n <= 7 * $most) {
            return $p;
        }
        $next = 0;
        for ($i = 7; $i < $n; $i += 7) {
            if ($p[$i + 6] < $p[$next + 6]) {
                $next = $i;
            }
        }
        $deepest = $p[$next + 6];
        $scale = 1.0 / (self::HEIGHT * $extent);
        $weight = $apart = [];
        for ($i = 0; $i < $n; $i += 7) {
            $h = ($p[$i + 6] - $deepest) * $scale;
            $weight[] = 1.0 / (1.0 + $h * $h);
            $apart[] = INF;
        }
        $out = [];
        for ($taken = 1; ; $taken++) {
            $x = $p[$next];
            $y = $p[$next + 1];
            $z = $p[$next + 2];
            array_push($out, $x, $y, $z, $p[$next + 3], $p[$next + 4], $p[$next + 5], $p[$next + 6]);
            if ($taken === $most) {
                return $out;
            }
            $best = 0.0;
            for ($i = $k = 0; $i < $n; $i += 7, $k++) {
                $dx = $p[$i] - $x;
                $dy = $p[$i + 1] - $y;
                $dz = $p[$i + 2] - $z;
                $d = $dx * $dx + $dy * $dy + $dz * $dz;
                if ($d < $apart[$k]) {
                    $apart[$k] = $d;
                } else {
                    $d = $apart[$k];
                }
                if ($d * $weight[$k] > $best) {
                    $best = $d * $weight[$k];
                    $next = $i;
                }
            }
            if ($best <= 0.0) {
                return $out;
            }
        }
    }
}
