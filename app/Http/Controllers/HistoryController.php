<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Yard\ShotEditor;
use App\Yard\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Problem;

/** What was done to a shot, in order, and the way to any of it. */
final class HistoryController
{
    /** Edits told at most: the last ones. */
    private const MOST = 300;

    public function index(Shot $shot): JsonResponse
    {
        $edits = [];
        foreach ($shot->edits()->latest('id')->limit(self::MOST)->get(['id', 'label', 'name', 'undone', 'created_at']) as $e) {
            $edits[] = ['id' => $e->id, 'label' => $e->label, 'name' => $e->name, 'undone' => $e->undone, 'at' => $e->created_at->toIso8601String()];
        }

        return response()->json([
            'begun' => $shot->created_at->toIso8601String(),
            'more' => max(0, $shot->edits()->count() - self::MOST),
            'edits' => $edits,
        ]);
    }

    /** Goes to what the shot was right after an edit; 0 is as it began. */
    public function go(Request $request, string $shot, int $edit, ShotEditor $editor): JsonResponse
    {
        return response()->json(ShotView::of($editor->goTo($shot, ShotEditor::revision($request->input('revision')), $edit)));
    }

    public function name(Request $request, Shot $shot, int $edit): JsonResponse
    {
        $name = $request->input('name');
        if (! is_string($name) || mb_strlen($name) > 80) {
            throw Problem::inValue('name', 'A state is called by up to 80 letters.', 'Write a shorter name.');
        }
        $shot->edits()->findOrFail($edit)->update(['name' => trim($name)]);

        return $this->index($shot);
    }
}
