<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\Rigid\Meeting;
use YardBreak\Core\Shot\Cue;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropParts;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Timing\Acts;

/** Cues that keys alone decide: touches of what only keys move, and maps that reach a share by them. */
final class Foresight
{
    /**
     * The shot with those that are found.
     *
     * @param  callable(ShotSpec, Cue): ?float  $find  the frame of one, where those it hangs on are found; null where it is not known or never comes
     */
    public static function of(ShotSpec $shot, callable $find): ShotSpec
    {
        foreach ($shot->foreseenInOrder() as $cue) {
            if ($cue->isTouch() && $shot->prop($cue->one) === null || $shot->moments->frame($cue->id) !== null) {
                continue;
            }
            $frame = $find($shot, $cue);
            if ($frame !== null) {
                $shot = $shot->with($shot->moments->known($cue->id, $frame));
            }
        }

        return $shot;
    }

    /**
     * When one comes.
     *
     * @param  callable(PropSpec): list<Solid>  $solids
     * @param  PropParts|null  $parts  what maps are made of
     * @return float|null null where it never does, or that cannot be told
     *
     * @throws Problem
     */
    public static function frame(ShotSpec $shot, Cue $cue, callable $solids, ?PropParts $parts, Progress $progress = new SilentProgress): ?float
    {
        if (! $cue->isTouch()) {
            return $parts === null ? null : (new MapRun($shot, $parts))->reaching($cue->map, $cue->share);
        }
        $one = $shot->prop($cue->one);
        $other = $shot->prop($cue->other);

        return $one === null
            ? null
            : Meeting::first(
                $one->place,
                $solids($one),
                $other?->place,
                $other === null ? [] : $solids($other),
                $shot->first,
                $shot->last,
                $shot->frameTime(),
                $cue->speed,
                $progress,
                $shot->ground,
            );
    }

    /**
     * What that depends on.
     *
     * @return string 32 hexadecimal digits
     *
     * @throws Problem
     */
    public static function key(ShotSpec $shot, Cue $cue, PropParts $parts): string
    {
        $acts = new Acts($shot->first);
        $cue->acts($acts, false);
        $acts->always('ground', $shot->groundKey());
        foreach ([$shot->prop($cue->one), $shot->prop($cue->other)] as $prop) {
            $acts->of($prop->id ?? '', '');
            $acts->always('shape', [$prop?->shardKey(), $prop?->motion->collidesAs()]);
            $prop?->place->acts($acts);
        }
        $maps = $cue->isTouch() ? [] : (new MapRun($shot, $parts))->keys($cue->map, MapRun::SURFACE);

        return hash('xxh128', serialize([ShotSpec::BAKE_VERSION, $shot->first, $shot->last, $shot->rate->toArray(), $acts->told(), $maps]));
    }
}
