<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MakeSolids;
use App\Models\Shot;
use App\Storage\ShardStore;
use App\Yard\StoredParts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Check\ForceFigures;
use YardBreak\Core\Shot\MapRun;

/** What forces do to a prop at a frame, in words; nothing yet as long as its pieces are being made. */
final class ForceFiguresController
{
    public function __invoke(Request $request, Shot $shot, string $prop, ShardStore $store, StoredParts $parts): JsonResponse
    {
        $spec = $shot->spec();
        $own = $spec->prop($prop);
        abort_if($own === null, 404);
        $frame = (float) max($spec->first, min($spec->last, (int) $request->query('frame', (string) $spec->first)));
        if (! $store->isReady($own)) {
            if ($store->has($own)) {
                MakeSolids::begin($shot->id, $own);
            }

            return response()->json(['words' => null, 'wind' => 0, 'fastest' => 0, 'strip' => []]);
        }
        $maps = new MapRun($spec, $parts);

        return response()->json(ForceFigures::of($spec, $own, $store->solids($own), $frame, static fn (string $map): array => $maps->weightsAt($map, MapRun::PIECES, (int) $frame)));
    }
}
