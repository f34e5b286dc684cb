<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\FlatGround;
use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Progress;
use YardBreak\Core\Timing\PlaceTrack;

/** When two props that move by keys alone first touch: their hulls are moved on no further than they can meet, until they do. */
final class Meeting
{
    /** Frames to which it is found. */
    private const EXACT = 0.002;

    /** Frames looked ahead at once, at most. */
    private const LONGEST = 0.5;

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
        $world = new World;
        $a = self::bodies($world, $solids, 0);
        $b = self::bodies($world, $others, 1);
        $gap = static function (float $frame, float $enough) use ($world, $one, $other, $a, $b, $solids, $others, $ground): float {
            self::place($world, $a, $solids, $one->at($frame));
            if ($other === null) {
                return self::height($world, $a, $ground ?? new FlatGround);
            }
            self::place($world, $b, $others, $other->at($frame));

            return self::distance($world, $enough);
        };
        $size = max(array_map(
            static fn (Solid $s): float => max(array_map(static fn (Hull $h): float => $h->size + $s->centre->length(), $s->hulls)),
            [...$solids, ...$others],
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
     * @return list<int>
     */
    private static function bodies(World $world, array $solids, int $group): array
    {
        $out = [];
        foreach ($solids as $solid) {
            $out[] = $body = $world->addBody(World::KEYED, Vec3::zero(), Placement::identity()->turn, 1.0, [1.0, 1.0, 1.0, 0.0, 0.0, 0.0], $group);
            foreach ($solid->hulls as $hull) {
                $world->addCollider($body, $hull->sharp(), Vec3::zero(), 0.0, 0.0, $group);
            }
        }

        return $out;
    }

    /**
     * @param  list<int>  $bodies
     * @param  list<Solid>  $solids
     */
    private static function place(World $world, array $bodies, array $solids, Placement $place): void
    {
        $collider = array_search($bodies[0], $world->colliders->body, true);
        foreach ($bodies as $k => $body) {
            $world->place($body, $place->point($solids[$k]->centre), $place->turn);
            foreach ($solids[$k]->hulls as $hull) {
                if ($place->size !== 1.0 && is_int($collider)) {
                    $world->colliders->resize($collider, $hull->sharp(), max(1e-6, $place->size));
                }
                $collider++;
            }
        }
    }

    /**
     * The least distance of what stands over the ground.
     *
     * @param  list<int>  $bodies
     */
    private static function height(World $world, array $bodies, Ground $ground): float
    {
        $set = $world->colliders;
        $lowest = INF;
        foreach ($set->body as $c => $body) {
            $m = $world->matrix($body);
            if (! $ground->isFlat()) {
                $lowest = min($lowest, ...[INF, ...array_column(UnevenContacts::of($world, $ground, $c, $body, $m, 1e9), 6)]);

                continue;
            }
            for ($v = $set->first[$c]; $v < $set->first[$c + 1]; $v++) {
                $lowest = min($lowest, $world->py[$body] + $m[3] * $set->lx[$v] + $m[4] * $set->ly[$v] + $m[5] * $set->lz[$v] - $set->roundness[$c]);
            }
        }

        return $lowest;
    }

    /** The least distance of the two groups, or any larger than enough. */
    private static function distance(World $world, float $enough): float
    {
        $set = $world->colliders;
        $set->follow($world);
        $query = new ConvexDistance;
        $least = $enough;
        foreach ($set->body as $c => $a) {
            foreach ($set->body as $d => $b) {
                if ($set->group[$c] !== 0 || $set->group[$d] !== 1) {
                    continue;
                }
                $away = 0.0;
                for ($axis = 0; $axis < 6; $axis += 2) {
                    $away = max($away, $set->box[6 * $c + $axis] - $set->box[6 * $d + $axis + 1], $set->box[6 * $d + $axis] - $set->box[6 * $c + $axis + 1]);
                }
                if ($away > $least) {
                    continue;
                }
                $query->colliderA = $c;
                $query->colliderB = $d;
                $query->turnA = $world->matrix($a);
                $query->turnB = $world->matrix($b);
                $margin = $set->margin[$c] + $set->margin[$d];
                $query->between($set, [$set->first[$c], $set->first[$d]], min($least, 1e9) + $margin);
                $least = min($least, $query->gap - $margin);
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
