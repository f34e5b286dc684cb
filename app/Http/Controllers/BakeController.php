<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\FastLane;
use App\Jobs\BakeSlice;
use App\Models\Bake;
use App\Models\Shot;
use App\Yard\ShotView;
use App\Yard\StartBake;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Storage;

final class BakeController
{
    public function latest(Shot $shot): JsonResponse
    {
        return response()->json(['bake' => ShotView::bake($shot->latestBake(), $shot)]);
    }

    public function store(Shot $shot): JsonResponse
    {
        return response()->json(['bake' => ShotView::bake(StartBake::of($shot), $shot)], 201);
    }

    public function cancel(Bake $bake): JsonResponse
    {
        Bake::query()->whereKey($bake->id)->whereIn('state', ['queued', 'running'])->update(['state' => 'cancelled', 'note' => '']);

        return $this->view($bake);
    }

    public function resume(Bake $bake): JsonResponse
    {
        if (Bake::query()->whereKey($bake->id)->whereIn('state', ['cancelled', 'failed'])->update(['state' => 'queued', 'problem' => null, 'note' => 'Waiting for a worker']) === 1) {
            BakeSlice::dispatch($bake->id);
        }

        return $this->view($bake);
    }

    /** State, frames and figures, where nothing before the framework has given them. */
    public function read(Request $request): Response
    {
        $lane = new FastLane(public_path(), rtrim(Storage::disk()->path(''), '/'), (string) config('database.connections.sqlite.database'));
        [$status, $headers, $body] = $lane->answer($request->server->all(), $request->query->all(), $request->cookies->all()) ?? abort(404);

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
