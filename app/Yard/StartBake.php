<?php

declare(strict_types=1);

namespace App\Yard;

use App\Jobs\BakeSlice;
use App\Models\Bake;
use App\Models\Shot;
use YardBreak\Core\Problem;

/** Begins a bake of a shot as it is now; one that is under way gives way to it. */
final class StartBake
{
    /** @throws Problem where there is nothing to bake */
    public static function of(Shot $shot): Bake
    {
        $spec = $shot->spec();
        if ($spec->props === []) {
            throw Problem::inValue('props', 'There is nothing to bake yet.', 'Bring in or build a prop on the Props stage.');
        }
        if (array_filter($spec->props, static fn ($prop): bool => $prop->motion !== 'fixed') === []) {
            throw new Problem('still', 'Nothing in this shot can move, so every frame would be the same.', 'props', 'Let a prop fall, or key one, on the Motion stage.');
        }
        $shot->bakes()->whereIn('state', ['queued', 'running'])->update(['state' => 'cancelled']);
        $bake = $shot->bakes()->create([
            'document' => $shot->document, 'parts' => $spec->bakeParts(), 'fingerprint' => $spec->fingerprint(),
            'state' => 'queued', 'first' => $spec->first, 'last' => $spec->last, 'note' => 'Waiting for a worker',
        ]);
        BakeSlice::dispatch($bake->id);

        return $bake->refresh();
    }
}
