<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MakeSolids;
use App\Models\Shot;
use App\Storage\ShardStore;
use App\Yard\StoredParts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Check\Forecast;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\SceneObstacles;

/** How one piece of a prop would fly if it were let go alone at a frame; nothing yet as long as its pieces are being made. */
final class ForecastController
{
    public function __invoke(Request $request, Shot $shot, string $prop, ShardStore $store, StoredParts $parts): JsonResponse
    {
        $spec = $shot->spec();
        $own = $spec->prop($prop);
        abort_if($own === null, 404);
        $frame = max($spec->first, min($spec->last, (int) $request->query('frame', (string) $spec->first)));
        $piece = (int) $request->query('piece', '0');
        if ($own->motion->waves()) {
            return response()->json(['path' => [], 'words' => '']);
        }
        if ($own->motion->letsGo() && ! $store->isReady($own)) {
            if ($store->has($own)) {
                MakeSolids::begin($shot->id, $own);
            }

            return response()->json(['path' => [], 'words' => null]);
        }
        $solids = $own->motion->letsGo() ? $store->solids($own) : [];
        if (! isset($solids[$piece])) {
            return response()->json(['path' => [], 'words' => '']);
        }
        $maps = new MapRun($spec, $parts);
        $weights = static fn (string $map): array => $maps->weightsAt($map, MapRun::PIECES, $frame);
        $told = Forecast::of($spec, $own, $piece, $solids[$piece], $store->of($own)[$piece] ?? null, (float) $frame, $weights, SceneObstacles::still($spec, $parts));

        return response()->json(['path' => $told->path, 'words' => $told->words]);
    }
}
