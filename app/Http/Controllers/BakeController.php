<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\FastLane;
use App\Jobs\BakeSlice;
use App\Models\Bake;
use App\Models\Shot;
use App\Yard\Mending;
use App\Yard\ShotView;
use App\Yard\StartBake;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

final class BakeController
{
    public function latest(Shot $shot): JsonResponse
    {
        $bake = $shot->latestBake();
        if ($bake !== null && ! $bake->files()->seemsWhole($bake->frames_done)) {
            Mending::of($bake);
        }

        return response()->json(['bake' => ShotView::bake($bake, $shot)]);
    }

    public function store(Shot $shot): JsonResponse
    {
        return response()->json(['bake' => ShotView::bake(StartBake::of($shot), $shot)], 201);
    }

    public function cancel(Bake $bake): JsonResponse
    {
        Bake::callOff(Bake::query()->whereKey($bake->id));

        return $this->view($bake);
    }

    public function resume(Bake $bake): JsonResponse
    {
        DB::transaction(static function () use ($bake): void {
            if ($bake->refresh()->isOpen() || $bake->state === 'done') {
                return;
            }
            // A shot has one bake of its own under way: whoever asks last has it.
            if ($bake->own) {
                Bake::callOff(Bake::query()->where('shot_id', $bake->shot_id)->where('own', true));
            }
            $bake->update(['state' => 'queued', 'problem' => null, 'note' => 'Waiting for a worker', 'wanted_at' => now()->format('Y-m-d H:i:s.u')]);
            BakeSlice::next($bake);
        });

        return $this->view($bake);
    }

    /** State, frames and figures, where nothing before the framework has given them; frames that are damaged are made again. */
    public function read(Request $request, Bake $bake): Response
    {
        $lane = new FastLane(public_path(), rtrim(Storage::disk()->path(''), '/'), (string) config('database.connections.sqlite.database'));
        $asked = [$request->server->all(), $request->query->all(), $request->cookies->all()];
        $answer = $lane->answer(...$asked);
        if ($answer === null && Mending::of($bake)) {
            $answer = $lane->answer(...$asked);
        }
        [$status, $headers, $body] = $answer ?? abort(404);

        return response($body, $status, $headers);
    }

    /** The shot as it was baked. */
    public function document(Bake $bake): JsonResponse
    {
        return response()->json(json_decode($bake->document), 200, ['Cache-Control' => 'private, max-age=3600']);
    }

    private function view(Bake $bake): JsonResponse
    {
        return response()->json(['bake' => ShotView::bake($bake->refresh(), Shot::query()->findOrFail($bake->shot_id))]);
    }
}
