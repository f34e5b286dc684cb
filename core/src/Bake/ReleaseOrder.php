<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Problem;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropParts;
use YardBreak\Core\Shot\ShotSpec;

/** In which order the pieces of a prop are let go, as far as physics has no part in it. */
final class ReleaseOrder
{
    /**
     * @param  ShotSpec  $shot  with those of its cues found that keys alone decide
     * @param  int  $prop  its number
     * @return list<int|null> by piece: the frame; null where it is not let go within the shot, or only a touch can tell
     *
     * @throws Problem
     */
    public static function of(ShotSpec $shot, int $prop, PropParts $parts): array
    {
        $spec = $shot->props[$prop];
        $shards = $parts->pieces($spec);
        $out = array_fill(0, count($shards), null);
        if (! $spec->motion->letsGo()) {
            return $out;
        }
        $prepared = array_fill(0, count($shot->props), Prepared::none());
        $prepared[$prop] = Prepared::ofParts($shot, $spec, $parts);
        $holds = new Holds($shot, $prepared);
        $maps = new MapRun($shot, $parts);
        for ($frame = $shot->first; $frame <= $shot->last && $holds->released($prop) < count($shards); $frame++) {
            foreach ($holds->due($frame, static fn (string $map, int $at): array => $maps->weightsAt($map, MapRun::PIECES, $at))[$prop] ?? [] as $piece) {
                $out[$piece] = $frame;
            }
        }

        return $out;
    }
}
