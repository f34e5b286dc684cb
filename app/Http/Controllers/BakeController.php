<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\BakeSlice;
use App\Models\Bake;
use App\Models\Shot;
use App\Yard\BakeFiles;
use App\Yard\ShotView;
use App\Yard\StartBake;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

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

    public function frames(Request $request, Bake $bake): Response
    {
        $from = max(0, (int) $request->query('from', '0'));
        $count = min(96, $bake->frames_done - $from);

        return response((new BakeFiles($bake))->frames($from, $count), 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'no-store']);
    }

    public function figures(Bake $bake): JsonResponse
    {
        return response()->json((new BakeFiles($bake))->figures());
    }

    private function view(Bake $bake): JsonResponse
    {
        return response()->json(['bake' => ShotView::bake($bake->refresh(), Shot::query()->findOrFail($bake->shot_id))]);
    }
}
