<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Preset;
use App\Models\Shot;
use App\Yard\Patch;
use App\Yard\Presets;
use App\Yard\ShotEditor;
use App\Yard\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** Kept values of one bench. */
final class PresetController
{
    public function __construct(private readonly Presets $presets)
    {
    }

    public function index(): JsonResponse
    {
        return response()->json(Presets::all());
    }

    public function store(Request $request): JsonResponse
    {
        $given = $request->validate(['shot' => 'required|string', 'prop' => 'required|string', 'bench' => 'required|string', 'name' => 'required|string']);
        $this->presets->keep(Shot::query()->findOrFail($given['shot']), $given['prop'], $given['bench'], $given['name']);

        return response()->json(Presets::all(), 201);
    }

    public function destroy(Preset $preset): Response
    {
        $preset->delete();

        return response()->noContent();
    }

    public function lay(Request $request, Shot $shot, ShotEditor $editor): JsonResponse
    {
        $given = $request->validate(['preset' => 'required|string', 'onto' => 'required|array|min:1|max:64', 'onto.*' => 'string']);
        $made = $this->presets->lay($shot, $given['preset'], array_values($given['onto']));

        return response()->json(['left' => $made['left']] + ShotView::of($editor->edit($shot->id, ShotEditor::revision($request->input('revision')), Patch::plain($made['patch']), 'Preset '.$made['name'])));
    }
}
