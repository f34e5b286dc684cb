<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Yard\Patch;
use App\Yard\ShotEditor;
use App\Yard\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Shot\PunchThrough;

/** Puts the hole of one prop through others behind it, as one change. */
final class PunchController
{
    public function __invoke(Request $request, Shot $shot, string $prop, PunchThrough $punch, ShotEditor $editor): JsonResponse
    {
        $given = $request->validate(['revision' => 'required|integer', 'others' => 'required|array|max:64', 'others.*' => 'string']);
        $patch = $punch->patch($shot->decoded(), array_values($given['others']), $prop);

        return response()->json(ShotView::of($editor->edit($shot->id, $given['revision'], Patch::plain($patch), 'Punch through '.count($patch).' more')));
    }
}
