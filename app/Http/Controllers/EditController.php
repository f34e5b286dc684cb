<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Yard\ShotEditor;
use App\Yard\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\ShotSpec;

final class EditController
{
    public function __construct(private readonly ShotEditor $editor)
    {
    }

    public function store(Request $request, string $shot): JsonResponse
    {
        // Decoded here so that objects stay objects.
        $body = json_decode($request->getContent(), false, ShotSpec::DEEPEST);
        if (! $body instanceof \stdClass || ! is_array($body->patch ?? null)) {
            throw Problem::inValue('patch', 'A change must be a JSON Patch, nested less than '.ShotSpec::DEEPEST.' deep.');
        }

        return response()->json(ShotView::of($this->editor->edit($shot, ShotEditor::revision($body->revision ?? null), $body->patch, is_string($body->label ?? null) ? mb_substr($body->label, 0, 80) : 'Change')));
    }

    public function undo(Request $request, string $shot): JsonResponse
    {
        return response()->json(ShotView::of($this->editor->undo($shot, ShotEditor::revision($request->input('revision')))));
    }

    public function redo(Request $request, string $shot): JsonResponse
    {
        return response()->json(ShotView::of($this->editor->redo($shot, ShotEditor::revision($request->input('revision')))));
    }
}
