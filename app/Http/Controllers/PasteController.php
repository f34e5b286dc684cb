<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Yard\PasteProp;
use App\Yard\Patch;
use App\Yard\ShotEditor;
use App\Yard\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Problem;

/** Pastes a prop of this shot or another, or some of its set-up onto a prop, as one change. */
final class PasteController
{
    public function __invoke(Request $request, Shot $shot, PasteProp $paste, ShotEditor $editor): JsonResponse
    {
        $given = $request->validate(['shot' => 'required|string', 'prop' => 'required|string', 'onto' => 'string', 'what' => 'array|max:20', 'what.*' => 'string|max:40']);
        $from = Shot::query()->find($given['shot']) ?? throw Problem::inValue('shot', 'The shot that this was copied from is not there any more.', 'Copy it again.');
        $made = isset($given['onto']) ? $paste->onto($shot, $given['onto'], $from, $given['prop'], array_values($given['what'] ?? [])) : $paste->asOneMore($shot, $from, $given['prop']);

        return response()->json(['made' => $made['made'], 'left' => $made['left']] + ShotView::of($editor->edit($shot->id, ShotEditor::revision($request->input('revision')), Patch::plain($made['patch']), isset($given['onto']) ? 'Paste onto a prop' : 'Paste a prop')));
    }
}
