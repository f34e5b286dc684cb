<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Shot;
use YardBreak\Core\Bake\BakedPlaces;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Shot\KeptWeights;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/** The maps of a shot as they are asked for without a bake; what they look at that physics moves is where the last bake has it, as far as that is still true. */
final class Maps
{
    public static function of(Shot $shot, ShotSpec $spec, StoredParts $parts, ?KeptWeights $kept = null): MapRun
    {
        $free = array_column(array_filter($spec->props, static fn (PropSpec $p): bool => $p->motion->isFree()), 'id');
        $read = array_merge([], ...array_map(static fn (PropSpec $p): array => array_merge([], ...array_map(static fn ($m): array => $m->props(), $p->weights)), $spec->props));
        if (array_intersect($free, $read) === []) {
            return new MapRun($spec, $parts, $kept);
        }
        [$bake, $frames] = StartBake::stillTrue($shot, $spec);
        if ($bake === null || $frames === 0) {
            return new MapRun($spec, $parts, $kept);
        }
        $keys = array_map(bin2hex(...), array_slice(History::of($spec, $bake->anchored)->chain(), 0, $frames));

        return new MapRun($spec->with($spec->moments->allAnchored($bake->anchored)), $parts, $kept, new BakedPlaces($spec, $parts->pieces(...), $bake->files()->streams(...), $frames, $keys));
    }
}
