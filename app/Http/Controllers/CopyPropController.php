<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Yard\CopyProp;
use App\Yard\Patch;
use App\Yard\ShotEditor;
use App\Yard\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Copies a prop with its set-up, as one change. */
final class CopyPropController
{
    public function __invoke(Request $request, Shot $shot, string $prop, CopyProp $copy, ShotEditor $editor): JsonResponse
    {
        $patch = $copy->patch($shot, $prop);
        $made = $patch[0]['value'];

        return response()->json(['made' => $made->id] + ShotView::of($editor->edit($shot->id, ShotEditor::revision($request->input('revision')), Patch::plain($patch), 'Add '.$made->name)));
    }
}
