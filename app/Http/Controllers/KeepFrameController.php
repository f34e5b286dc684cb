<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Yard\KeepFrame;
use App\Yard\Patch;
use App\Yard\ShotEditor;
use App\Yard\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Keeps a prop as it is at a baked frame as a prop of its own, as one change. */
final class KeepFrameController
{
    public function __invoke(Request $request, Shot $shot, string $prop, KeepFrame $keep, ShotEditor $editor): JsonResponse
    {
        $given = $request->validate(['revision' => 'required|integer', 'frame' => 'required|integer']);
        $patch = $keep->patch($shot, $shot->latestBake(), $prop, (int) $given['frame']);

        return response()->json(ShotView::of($editor->edit($shot->id, $given['revision'], Patch::plain($patch), 'Keep '.$patch[0]['value']['name'])));
    }
}
