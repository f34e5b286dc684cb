<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Yard\ShotEditor;
use App\Yard\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use YardBreak\Core\Problem;

/** What was done to a shot, in order, and the way to any of it. */
final class HistoryController
{
    /** Edits told at most: the last ones. */
    private const MOST = 300;

    /** Bytes of a picture at most. */
    private const LARGEST = 65_536;

    public function index(Shot $shot): JsonResponse
    {
        $edits = [];
        $pictured = array_flip($shot->edits()->whereNotNull('picture')->pluck('id')->all());
        foreach ($shot->edits()->latest('id')->limit(self::MOST)->get(['id', 'label', 'name', 'undone', 'created_at']) as $e) {
            $edits[] = ['id' => $e->id, 'label' => $e->label, 'name' => $e->name, 'undone' => $e->undone, 'at' => $e->created_at->toIso8601String(), 'picture' => isset($pictured[$e->id])];
        }

        return response()->json([
            'begun' => $shot->created_at->toIso8601String(),
            'more' => max(0, $shot->edits()->count() - self::MOST),
            'edits' => $edits,
            'picture' => $shot->begun_picture !== null,
        ]);
    }

    /** How the shot looked right after an edit; 0 is as it began. */
    public function picture(Shot $shot, int $edit): Response
    {
        $jpeg = $edit === 0 ? $shot->begun_picture : $shot->edits()->findOrFail($edit)->picture;
        abort_if($jpeg === null, 404);

        return response($jpeg, 200, ['Content-Type' => 'image/jpeg', 'Cache-Control' => 'no-cache']);
    }

    /** Keeps how the shot looks now, unless it has gone on since it was drawn. */
    public function keepPicture(Request $request, Shot $shot, ShotEditor $editor): Response
    {
        $bytes = $request->getContent();
        $size = @getimagesizefromstring($bytes);
        if (strlen($bytes) > self::LARGEST || $size === false || $size[2] !== IMAGETYPE_JPEG) {
            throw Problem::inFile('A picture of a state must be a JPEG of at most 64 kB.');
        }
        $edit = $editor->lastDone($shot);
        if ($shot->revision === (int) $request->query('revision')) {
            // A picture is no change of the shot.
            $edit === null ? Shot::withoutTimestamps(static fn () => $shot->update(['begun_picture' => $bytes])) : $edit->update(['picture' => $bytes]);
        }

        return response()->noContent();
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
