<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Shot\AirPlane;

/** How the air goes, and what pulls, over a level plane at a frame. */
final class AirController
{
    /** Metres. */
    private const FARTHEST = 1e5;

    public function __invoke(Request $request, Shot $shot): JsonResponse
    {
        $number = static fn (string $name): float => max(-self::FARTHEST, min(self::FARTHEST, is_numeric($request->query($name)) ? (float) $request->query($name) : 0.0));

        return response()->json(AirPlane::of($shot->spec(), $number('frame'), $number('height'), [$number('x0'), $number('x1'), $number('z0'), $number('z1')]));
    }
}
