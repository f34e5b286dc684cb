<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Storage\Room;
use App\Yard\Clearing;
use Illuminate\Http\JsonResponse;

/** The room the yard takes, and clearing it. */
final class SpaceController
{
    public function show(Clearing $clearing): JsonResponse
    {
        return response()->json($clearing->space() + ['after' => (int) config('yard.clear_after')]);
    }

    public function clear(Clearing $clearing): JsonResponse
    {
        return response()->json(['cleared' => Room::making(static fn (): int => $clearing->clear(0))] + $clearing->space() + ['after' => (int) config('yard.clear_after')]);
    }
}
