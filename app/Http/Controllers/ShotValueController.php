<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use Illuminate\Http\JsonResponse;
use YardBreak\Core\Shot\ShotValue;

/** The values of a shot: what can be tried, or be the same as another. */
final class ShotValueController
{
    public function __invoke(Shot $shot): JsonResponse
    {
        return response()->json(array_map(static fn (ShotValue $v): array => ['choices' => (object) $v->choices] + $v->toArray(), $shot->values()));
    }
}
