<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MakeMortar;
use App\Models\Shot;
use App\Storage\Faults;
use App\Storage\ShardStore;
use App\Storage\YardFiles;
use App\Yard\KeptAnswers;
use Illuminate\Http\JsonResponse;

/** What the mortar of a prop holds, in words and bond by bond; nothing yet as long as that is being found. */
final class MortarController
{
    public function __invoke(Shot $shot, string $prop, ShardStore $store): JsonResponse
    {
        $spec = $shot->spec();
        $own = $spec->prop($prop);
        abort_if($own === null, 404);
        $name = KeptAnswers::name(MakeMortar::FOLDER, $spec, $prop);
        $kept = @file_get_contents(YardFiles::folder($name));
        if ($kept !== false) {
            return new JsonResponse($kept, json: true);
        }
        $fault = Faults::of(MakeMortar::faultName($name));
        if ($fault !== null) {
            throw $fault;
        }
        // Pieces that are being made will be there when it is asked for again.
        if ($store->has($own)) {
            dispatch(new MakeMortar($shot->id, $prop, $name));
        }

        return response()->json(['words' => null, 'sections' => []]);
    }
}
