<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MeasureOverlap;
use App\Models\Bake;
use App\Storage\Faults;
use App\Storage\YardFiles;
use Illuminate\Http\JsonResponse;

/** How deep the pieces of a baked frame lie in each other. It is measured by a job; the browser asks again. */
final class OverlapController
{
    public function __invoke(Bake $bake, int $frame): JsonResponse
    {
        $bake->requireFrame($frame);
        $kept = YardFiles::kept(MeasureOverlap::name($bake->id, $frame));
        if ($kept !== null) {
            return response()->json(json_decode($kept, true));
        }
        $fault = Faults::of(MeasureOverlap::faultName($bake->id, $frame));
        if ($fault !== null) {
            throw $fault;
        }
        MeasureOverlap::dispatch($bake->id, $frame);

        return response()->json(null, 202);
    }
}
