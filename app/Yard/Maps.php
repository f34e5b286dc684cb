<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Shot;
use YardBreak\Core\Bake\BakedPlaces;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Shot\Cue;
use YardBreak\Core\Shot\KeptWeights;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/**
 * The maps of a shot as they are asked for without a bake; cues that only a bake finds, and what physics moves, are where the
 * last one has them, as far as that is still true.
 */
final class Maps
{
    public static function of(Shot $shot, ShotSpec $spec, StoredParts $parts, ?KeptWeights $kept = null): MapRun
    {
        $late = array_filter($spec->cues, static fn (Cue $cue): bool => $cue->isFound() && ! $spec->isForeseen($cue));
        $maps = array_column(array_merge([], ...array_map(static fn (PropSpec $p): array => $p->weights, $spec->props)), 'id');
        $moved = array_filter($maps, $spec->goesByPhysics(...)) !== [];
        [$bake, $frames] = $late === [] && ! $moved ? [null, 0] : StartBake::stillTrue($shot, $spec);
        if ($bake === null) {
            return new MapRun($spec, $parts, $kept);
        }
        $found = $bake->foundWithin($frames);
        $keys = array_map(bin2hex(...), array_slice(History::of($spec, $found)->chain(), 0, $frames));

        return new MapRun($spec->with($spec->moments->allAnchored($found)), $parts, $kept, $moved ? new BakedPlaces($spec, $parts->pieces(...), $bake->files()->streams(...), $frames, $keys) : null);
    }
}
