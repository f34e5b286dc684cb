<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Models\Trial;
use App\Models\Variant;
use App\Yard\ShotEditor;
use App\Yard\ShotView;
use App\Yard\Trials;
use App\Yard\TrialView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use YardBreak\Core\Problem;

/** A shot in variants: planned, baked, looked at, and one of them taken. */
final class TrialController
{
    public function __construct(private readonly Trials $trials)
    {
    }

    public function plan(Request $request, Shot $shot): JsonResponse
    {
        return response()->json($this->trials->plan($shot, self::axes($request)));
    }

    public function index(Shot $shot): JsonResponse
    {
        return response()->json(TrialView::all($shot));
    }

    public function store(Request $request, Shot $shot): JsonResponse
    {
        return response()->json(TrialView::of($this->trials->begin($shot, self::axes($request))), 201);
    }

    public function show(Trial $trial): JsonResponse
    {
        return response()->json(TrialView::of($trial));
    }

    public function look(Request $request, Trial $trial): Response
    {
        $given = $request->validate(['numbers' => 'array|max:64', 'numbers.*' => 'integer']);
        $this->trials->look($trial, array_values($given['numbers'] ?? []));

        return response()->noContent();
    }

    public function callOff(Trial $trial): JsonResponse
    {
        $this->trials->callOff($trial);

        return $this->show($trial);
    }

    public function goOn(Trial $trial): JsonResponse
    {
        $this->trials->goOn($trial);

        return $this->show($trial);
    }

    public function choose(Request $request, Variant $variant): JsonResponse
    {
        return response()->json(ShotView::of($this->trials->choose($variant, ShotEditor::revision($request->input('revision')))));
    }

    public function destroy(Trial $trial): Response
    {
        $this->trials->callOff($trial);
        $trial->delete();

        return response()->noContent();
    }

    /** The shot as a variant has it. */
    public function document(Variant $variant): JsonResponse
    {
        return response()->json(json_decode(Trials::document($variant)), 200, ['Cache-Control' => 'private, max-age=3600']);
    }

    /**
     * @return list<array{path: string, values: string}>
     *
     * @throws Problem
     */
    private static function axes(Request $request): array
    {
        $out = [];
        foreach (is_array($request->input('axes')) ? $request->input('axes') : [] as $axis) {
            if (! is_array($axis) || ! is_string($axis['path'] ?? null) || ! is_string($axis['values'] ?? null) || strlen($axis['values']) > 10_000) {
                throw Problem::inValue('axes', 'What is to be tried is a value of the shot, and what it is to be.', 'Choose it anew.');
            }
            $out[] = ['path' => $axis['path'], 'values' => $axis['values']];
        }

        return $out;
    }
}
