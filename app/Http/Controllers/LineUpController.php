<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Problem;

/** The camera that sees, at a frame, places of props where they are on the plate. */
final class LineUpController
{
    public function __invoke(Request $request, Shot $shot): JsonResponse
    {
        $spec = $shot->spec();
        $frame = is_int($request->input('frame')) ? $request->input('frame') : $spec->first;
        $camera = $spec->camera ?? throw Problem::inValue('camera', 'The shot has no camera to line up.', 'Add one from the view.');
        $found = $camera->linedUp((float) $frame, static fn (string $prop): ?Placement => $spec->prop($prop)?->place->at($frame));

        // Where it is not told at all there is no number for it.
        return response()->json(['sure' => is_finite($found['sure']) ? $found['sure'] : null] + $found);
    }
}
