<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\Colliders;
use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\FlatGround;
use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Collide\SurfaceGap;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Progress;
use YardBreak\Core\Timing\PlaceTrack;

/** When two props that move by keys alone first touch: their surfaces are moved on no further than they can meet, until they do. */
final class Meeting
{
    /** Frames to which it is found. */
    private const EXACT = 0.002;

    /** Frames looked ahead at once, at most. */
    private const LONGEST = 0.5;

    private const LEAST_SIZE = 1e-6;

    /** Frames over which the speed at the touch is taken. */
    private const SPEED_OVER = 0.02;

    /**
     * @param  list<Solid>  $solids  pieces of the one
     * @param  PlaceTrack|null  $other  null for the ground
     * @param  Ground|null  $ground  what that is; null where there is none, so that nothing meets it
     * @param  list<Solid>  $others
     * @param  float  $speed  m/s, the least at which it counts
     * @return float|null the frame, or null where they never meet so fast
     */
    public static function first(
        PlaceTrack $one,
        array $solids,
        ?PlaceTrack $other,
        array $others,
        int $from,
        int $to,
        float $frameTime,
        float $speed,
        Progress $progress,
        ?Ground $ground = new FlatGround,
    ): ?float {
        if ($other === null && $ground === null) {
            return null;
        }
        $these = self::shapes($solids);
        $those = self::shapes($others);
        $floor = new Colliders($ground);
        $gap = static fn (float $frame, float $enough): float => $other === null
            ? self::height($these, self::standing($one, $frame), $floor, $ground, $enough)
            : self::distance($these, self::standing($one, $frame), $those, self::standing($other, $frame), $enough);
        $size = max(array_map(
            static fn (array $shape): float => $shape[1]->length() + ($shape[0] instanceof ContactSurface ? $shape[0]->size : 2.0 * $shape[0]),
            [...$these, ...$those],
        ));
        $touch = 1e-5 * $size;
        $frame = $before = (float) $from;
        $apart = false;
        while ($frame <= $to) {
            $progress->report(($frame - $from) / max(1, $to - $from));
            $fastest = self::fastest($one, $other, $frame, $size);
            $now = $gap($frame, 2.0 * $fastest * self::LONGEST + 0.1 * $size);
            if ($now > $touch) {
                $apart = true;
                $before = $frame;
                $frame += max(self::EXACT, min(self::LONGEST, 0.9 * ($now - $touch) / max($fastest, 1e-12)));

                continue;
            }
            // What jumps may have done so at any time since.
            while ($apart && $frame - $before > self::EXACT) {
                $middle = 0.5 * ($before + $frame);
                if ($gap($middle, $size) > $touch) {
                    $before = $middle;
                } else {
                    $frame = $middle;
                }
            }
            $closing = ($gap($frame - self::SPEED_OVER, INF) - $gap($frame, INF)) / (self::SPEED_OVER * $frameTime);
            if ($speed <= 0.0 || ($apart || $frame === (float) $from) && $closing >= $speed) {
                return $frame;
            }
            $apart = false;
            $frame += self::EXACT * 5.0;
            $before = $frame;
        }

        return null;
    }

    /**
     * @param  list<Solid>  $solids
     * @return list<array{ContactSurface|float, Vec3}> surfaces or the radii of balls, each with its middle in its prop's axes
     */
    private static function shapes(array $solids): array
    {
        $out = [];
        foreach ($solids as $solid) {
            foreach ($solid->surfaces() as $surface) {
                $out[] = [$surface, $solid->centre];
            }
        }

        return $out;
    }

    /** Nothing has no size at all. */
    private static function standing(PlaceTrack $track, float $frame): Placement
    {
        $at = $track->at($frame);

        return new Placement($at->position, $at->turn, max(self::LEAST_SIZE, $at->size));
    }

    /**
     * The least distance of what stands over the ground.
     *
     * @param  list<array{ContactSurface|float, Vec3}>  $shapes
     */
    private static function height(array $shapes, Placement $place, Colliders $floor, ?Ground $ground, float $enough): float
    {
        $least = $enough;
        $m = Mesh::matrix($place->turn);
        foreach ($shapes as [$surface, $middle]) {
            $at = $place->point($middle);
            if (! $surface instanceof ContactSurface) {
                $far = $floor->nearest([$at->x], [$at->y], [$at->z], INF)->distance[0];
                $least = min($least, $far - $surface * $place->size);

                continue;
            }
            $x = $y = $z = [];
            foreach ($surface->x as $p => $v) {
                $k = $place->size;
                $x[] = $at->x + $k * ($m[0] * $v + $m[1] * $surface->y[$p] + $m[2] * $surface->z[$p]);
                $y[] = $at->y + $k * ($m[3] * $v + $m[4] * $surface->y[$p] + $m[5] * $surface->z[$p]);
                $z[] = $at->z + $k * ($m[6] * $v + $m[7] * $surface->y[$p] + $m[8] * $surface->z[$p]);
            }
            $least = min($least, ...$floor->nearest($x, $y, $z, max($least, 0.0))->distance);
            // Where the ground stands up against it.
            foreach ($ground === null || $ground->isFlat() ? [] : $ground->crests(min($x), min($z), max($x), max($z)) as [$cx, $cz]) {
                $own = $place->turn->inverse()->turn((new Vec3($cx, $ground->height($cx, $cz), $cz))->minus($at))->times(1.0 / $place->size);
                $least = min($least, $place->size * SurfaceGap::to($surface, $own->x, $own->y, $own->z, max($least, 1e-9) / $place->size));
            }
        }

        return $least;
    }

    /**
     * The least distance of the two, or any larger than enough.
     *
     * @param  list<array{ContactSurface|float, Vec3}>  $these
     * @param  list<array{ContactSurface|float, Vec3}>  $those
     */
    private static function distance(array $these, Placement $one, array $those, Placement $other, float $enough): float
    {
        $least = $enough;
        $back = $one->turn->inverse();
        $turn = Mesh::matrix($back->after($other->turn));
        foreach ($these as [$a, $mine]) {
            foreach ($those as [$b, $its]) {
                $at = $other->point($its)->minus($one->point($mine));
                if (! $a instanceof ContactSurface && ! $b instanceof ContactSurface) {
                    $least = min($least, $at->length() - $a * $one->size - $b * $other->size);
                } elseif (! $a instanceof ContactSurface) {
                    $own = $other->turn->inverse()->turn($at->times(-1.0 / $other->size));
                    $far = $other->size * SurfaceGap::to($b, $own->x, $own->y, $own->z, ($least + $a * $one->size) / $other->size);
                    $least = min($least, $far - $a * $one->size);
                } elseif (! $b instanceof ContactSurface) {
                    $own = $back->turn($at->times(1.0 / $one->size));
                    $far = $one->size * SurfaceGap::to($a, $own->x, $own->y, $own->z, ($least + $b * $other->size) / $one->size);
                    $least = min($least, $far - $b * $other->size);
                } else {
                    $own = $back->turn($at->times(1.0 / $one->size))->toArray();
                    $m = array_map(static fn (float $v): float => $v * $other->size / $one->size, $turn);
                    $least = min($least, $one->size * SurfaceGap::between($a, $b, $m, $own, max($least, 0.0) / $one->size)->least);
                }
            }
        }

        return $least;
    }

    /** How far any two points of them can come closer in a frame, from here on. */
    private static function fastest(PlaceTrack $one, ?PlaceTrack $other, float $frame, float $size): float
    {
        $sum = 0.0;
        foreach ([$one, $other] as $track) {
            if ($track === null || ! $track->moves()) {
                continue;
            }
            $most = 0.0;
            $step = self::LONGEST / 8.0;
            for ($k = 0; $k < 8; $k++) {
                $at = $frame + $k * $step;
                $a = $track->at($at);
                $b = $track->at($at + $step);
                $most = max(
                    $most,
                    ($b->position->minus($a->position)->length() + $size * ($track->rotation($at, $step)->length() + abs($b->size - $a->size))) / $step,
                );
            }
            $sum += 1.5 * $most;
        }

        return $sum;
    }
}
