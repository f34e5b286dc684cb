<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MeasureOverlap;
use App\Models\Bake;
use App\Storage\Faults;
use App\Storage\YardFiles;
use Illuminate\Http\JsonResponse;
use YardBreak\Core\Problem;

/** How deep the pieces of a baked frame lie in each other. It is measured by a job; the browser asks again. */
final class OverlapController
{
    public function __invoke(Bake $bake, int $frame): JsonResponse
    {
        if ($frame < $bake->first || $frame >= $bake->first + $bake->frames_done) {
            throw Problem::inValue('frame', 'Frame '.$frame.' is not baked.', 'Choose one from '.$bake->first.' to '.($bake->first + max(0, $bake->frames_done - 1)).'.');
        }
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
