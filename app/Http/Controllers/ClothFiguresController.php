<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Storage\ShardStore;
use Illuminate\Http\JsonResponse;
use YardBreak\Core\Check\ClothFigures;
use YardBreak\Core\Cloth\ClothSettings;

/** What can be said of cloth before it is baked; nothing yet as long as its pieces are being made. */
final class ClothFiguresController
{
    public function __invoke(Shot $shot, string $prop, ShardStore $store): JsonResponse
    {
        $whole = $shot->spec();
        $spec = $whole->prop($prop);
        abort_if($spec === null, 404);
        $settings = $spec->motion->settings;

        return response()->json($settings instanceof ClothSettings && $store->has($spec) ? ClothFigures::of($spec, $store->of($spec), $settings, $whole->frameTime()) : ['words' => null, 'coarse' => false]);
    }
}
