<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Collide\GroundPlace;

/**
 * Where a hull meets ground that is not flat: its corners, its edges where the ground rises between their ends, and its faces
 * where a crest of the ground stands up under them.
 */
final class UnevenContacts
{
    /** Points looked at along a stretch of an edge as long as the ground is wide. */
    private const LOOKS = 6;

    /** Steps towards the place where a crest stands up most against a face. */
    private const STEPS = 8;

    /** Names of places on edges and of crests begin here; below are those of corners. */
    private const EDGE = 1 << 29;

    private const CREST = 1 << 30;

    /** Of the names from there on. */
    private const NAMES = (1 << 29) - 1;

    /**
     * @param  int  $c  collider
     * @param  int  $b  its body
     * @param  array<int, float>  $m  the body's turn as a matrix, row by row
     * @param  float  $reach  metres; what is farther off is left out
     * @return list<array{float, float, float, float, float, float, float, int}> place on the hull (3), normal of the ground (3), gap, and a name it has
     *   again in the next search: of corners their number
     */
    public static function of(World $w, Ground $ground, int $c, int $b, array $m, float $reach): array
    {
        $set = $w->colliders;
        $out = $x = $y = $z = [];
        $round = $set->roundness[$c];
        for ($v = $set->first[$c], $end = $set->first[$c + 1]; $v < $end; $v++) {
            $x[$v] = $m[0] * $set->lx[$v] + $m[1] * $set->ly[$v] + $m[2] * $set->lz[$v] + $w->px[$b];
            $y[$v] = $m[3] * $set->lx[$v] + $m[4] * $set->ly[$v] + $m[5] * $set->lz[$v] + $w->py[$b];
            $z[$v] = $m[6] * $set->lx[$v] + $m[7] * $set->ly[$v] + $m[8] * $set->lz[$v] + $w->pz[$b];
            // Nothing of the ground is higher than 0.
            if ($y[$v] < $reach + $round) {
                self::meet($ground, $x[$v], $y[$v], $z[$v], $round, $reach, $v, $out);
            }
        }
        if ($round > 0.0) {
            return $out;
        }
        foreach ($x as $v => $_) {
            for ($k = $set->nextTo[$v]; $k < $set->nextTo[$v + 1]; $k++) {
                $u = $set->neighbour[$k];
                if ($u > $v && min($y[$u], $y[$v]) < $reach) {
                    self::edge($ground, [$x[$v], $y[$v], $z[$v]], [$x[$u], $y[$u], $z[$u]], $reach, $k, $out);
                }
            }
        }
        foreach ($ground->crests(min($x), min($z), max($x), max($z)) as [$cx, $cz]) {
            self::crest($w, $ground, $c, $b, $m, $cx, $cz, $reach, $out);
        }

        return $out;
    }

    /** @param  list<array{float, float, float, float, float, float, float, int}>  $out */
    private static function meet(Ground $ground, float $x, float $y, float $z, float $round, float $reach, int $corner, array &$out): void
    {
        $place = GroundPlace::nearest($ground, $x, $y, $z);
        $gap = $place->distance - $round;
        if ($gap < $reach) {
            $out[] = [$x - $round * $place->nx, $y - $round * $place->ny, $z - $round * $place->nz, $place->nx, $place->ny, $place->nz, $gap, $corner];
        }
    }

    /**
     * Places between the ends of an edge that are nearer to the ground than what lies to either side of them.
     *
     * @param  array{float, float, float}  $from
     * @param  array{float, float, float}  $to
     * @param  list<array{float, float, float, float, float, float, float, int}>  $out
     */
    private static function edge(Ground $ground, array $from, array $to, float $reach, int $edge, array &$out): void
    {
        $length = sqrt(($to[0] - $from[0]) ** 2 + ($to[1] - $from[1]) ** 2 + ($to[2] - $from[2]) ** 2);
        $looks = (int) ceil(self::LOOKS * $length / $ground->width());
        if ($looks < 2) {
            return;
        }
        $over = static function (float $t) use ($ground, $from, $to): float {
            $x = $from[0] + $t * ($to[0] - $from[0]);
            $z = $from[2] + $t * ($to[2] - $from[2]);

            return $from[1] + $t * ($to[1] - $from[1]) - $ground->height($x, $z);
        };
        $name = 0;
        $heights = array_map(static fn (int $k): float => $over($k / $looks), range(0, $looks));
        for ($k = 1; $k < $looks; $k++) {
            [$before, $here, $after] = [$heights[$k - 1], $heights[$k], $heights[$k + 1]];
            if ($here > $before || $here >= $after) {
                continue;
            }
            // The lowest place of the parabola through the three.
            $bend = $before - 2.0 * $here + $after;
            $t = ($k + ($bend > 0.0 ? 0.5 * ($before - $after) / $bend : 0.0)) / $looks;
            self::meet(
                $ground,
                $from[0] + $t * ($to[0] - $from[0]),
                $from[1] + $t * ($to[1] - $from[1]),
                $from[2] + $t * ($to[2] - $from[2]),
                0.0,
                $reach,
                self::EDGE | ($edge << 5 | $name & 31) & self::NAMES,
                $out,
            );
            $name++;
        }
    }

    /**
     * A crest under a face, at the place where the ground stands up most against it: there it slopes as the face does.
     *
     * @param  array<int, float>  $m
     * @param  list<array{float, float, float, float, float, float, float, int}>  $out
     */
    private static function crest(World $w, Ground $ground, int $c, int $b, array $m, float $x, float $z, float $reach, array &$out): void
    {
        $face = self::under($w, $c, $b, $m, $x, $ground->height($x, $z), $z, $reach);
        if ($face === null) {
            return;
        }
        [, $nx, $ny, $nz] = $face;
        $half = 0.5 * $ground->width();
        $rate = $ground->depth() > 0.0 ? 0.04 * $ground->width() ** 2 / $ground->depth() : 0.0;
        [$px, $pz] = [$x, $z];
        for ($k = 0; $k < self::STEPS; $k++) {
            [$sx, $sz] = $ground->slope($px, $pz);
            $px = max($x - $half, min($x + $half, $px + $rate * ($sx + $nx / $ny)));
            $pz = max($z - $half, min($z + $half, $pz + $rate * ($sz + $nz / $ny)));
        }
        $h = $ground->height($px, $pz);
        $found = self::under($w, $c, $b, $m, $px, $h, $pz, $reach) ?? $face;
        if ($found === $face) {
            [$px, $h, $pz] = [$x, $ground->height($x, $z), $z];
        }
        [$gap, $nx, $ny, $nz] = $found;
        $out[] = [
            $px - $gap * $nx,
            $h - $gap * $ny,
            $pz - $gap * $nz,
            -$nx,
            -$ny,
            -$nz,
            $gap,
            self::CREST | ($c * 2654435761 + (int) round($x / $ground->width()) * 73856093 + (int) round($z / $ground->width()) * 19349663) & self::NAMES,
        ];
    }

    /**
     * The face of a hull that a place of the ground lies nearest to.
     *
     * @param  array<int, float>  $m
     * @return array{float, float, float, float}|null how far outside it lies, and the normal of the face; null where the place is farther off, or not
     *   under the hull
     */
    private static function under(World $w, int $c, int $b, array $m, float $x, float $y, float $z, float $reach): ?array
    {
        $set = $w->colliders;
        $x -= $w->px[$b];
        $y -= $w->py[$b];
        $z -= $w->pz[$b];
        $ox = $m[0] * $x + $m[3] * $y + $m[6] * $z;
        $oy = $m[1] * $x + $m[4] * $y + $m[7] * $z;
        $oz = $m[2] * $x + $m[5] * $y + $m[8] * $z;
        $best = -INF;
        $face = -1;
        for ($f = $set->firstFace[$c], $end = $set->firstFace[$c + 1]; $f < $end; $f++) {
            $v = $set->loop[$set->loopStart[$f]];
            $off = ($ox - $set->lx[$v]) * $set->faceNormal[3 * $f] + ($oy - $set->ly[$v]) * $set->faceNormal[3 * $f + 1] + ($oz - $set->lz[$v]) * $set->faceNormal[3 * $f + 2];
            if ($off > $best) {
                $best = $off;
                $face = $f;
            }
        }
        if ($face < 0 || $best > $reach) {
            return null;
        }
        $u = $set->faceNormal[3 * $face];
        $v = $set->faceNormal[3 * $face + 1];
        $t = $set->faceNormal[3 * $face + 2];
        $ny = $m[3] * $u + $m[4] * $v + $m[5] * $t;

        // A side is met by corners and edges.
        return $ny > -0.3 ? null : [$best, $m[0] * $u + $m[1] * $v + $m[2] * $t, $ny, $m[6] * $u + $m[7] * $v + $m[8] * $t];
    }
}
