<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Storage\ShardStore;
use App\Storage\YardFiles;
use App\Yard\Foresight;
use App\Yard\KeptAnswers;
use App\Yard\StoredParts;
use Illuminate\Http\JsonResponse;
use YardBreak\Core\Bake\ReleaseOrder;

/** When the pieces of a prop are let go, as far as that can be told without a bake. */
final class ReleaseOrderController
{
    public function __invoke(Shot $shot, string $prop, Foresight $foresight, ShardStore $store, StoredParts $parts): JsonResponse
    {
        $spec = $foresight->of($shot->spec(), false);
        $number = array_search($prop, array_column($spec->props, 'id'), true);
        abort_if($number === false, 404);
        if (! $store->has($spec->props[$number])) {
            // Its pieces are being made; whoever asks will ask again.
            return response()->json(['first' => $spec->first, 'frames' => null]);
        }
        $name = KeptAnswers::name('orders', $spec, $prop);
        $kept = @file_get_contents(YardFiles::folder($name));
        if ($kept === false) {
            $kept = (string) json_encode(ReleaseOrder::of($spec, (int) $number, $parts));
            YardFiles::write($name, $kept);
        }

        return response()->json(['first' => $spec->first, 'frames' => json_decode($kept, true)]);
    }
}
