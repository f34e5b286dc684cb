<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Storage\ShardStore;
use App\Yard\StoredParts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Shot\AirPlane;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\SceneObstacles;

/** How the air goes, and what pulls, over a level plane at a frame. */
final class AirController
{
    /** Metres. */
    private const FARTHEST = 1e5;

    public function __invoke(Request $request, Shot $shot, ShardStore $store, StoredParts $parts): JsonResponse
    {
        $number = static fn (string $name): float => max(-self::FARTHEST, min(self::FARTHEST, is_numeric($request->query($name)) ? (float) $request->query($name) : 0.0));

        $spec = $shot->spec();
        $over = [$number('x0'), $number('x1'), $number('z0'), $number('z1')];
        // Surfaces that are not made yet are not looked at.
        $made = array_filter($spec->props, static fn (PropSpec $p): bool => ! $store->has($p)) === [];

        return response()->json(
            AirPlane::of($spec, $number('frame'), $number('height'), $over, $made ? SceneObstacles::still($spec, $parts) : null)
            + ['lines' => $request->boolean('lines') ? AirPlane::lines($spec, $number('frame'), $number('height'), $over) : []],
        );
    }
}
