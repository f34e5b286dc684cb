<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Bake;
use App\Models\Shot;
use App\Yard\TrialView;
use Illuminate\Http\JsonResponse;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Problem;

/** Bakes of a shot that are still there, held against each other. */
final class CompareController
{
    public function index(Shot $shot): JsonResponse
    {
        return response()->json(TrialView::bakes($shot));
    }

    /** What is different of a bake, held against one before it, and what made it so. */
    public function against(Bake $bake, Bake $before): JsonResponse
    {
        [$one, $other] = [$bake->outcome(), $before->outcome()];
        if ($one === null || $other === null) {
            throw Problem::inValue('bake', 'Only bakes that are done can be held against each other.', 'Wait until both are, or bake them to their end.');
        }
        $parts = $before->history()->partsFrom(History::of($bake->spec(), $before->anchored ?? []));

        return response()->json(['words' => $one->against($other), 'what' => $parts['what'] ?? null, 'from' => $parts['frame'] ?? null]);
    }
}
