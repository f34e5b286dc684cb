<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MakeEvaluated;
use App\Jobs\MakeFrames;
use App\Models\Shot;
use App\Storage\ShardStore;
use App\Yard\Foresight;
use App\Yard\Maps;
use App\Yard\StoredParts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\Evaluation;

/** What weight maps decide of props without a bake: by what each frame depends on, as far as it is worked out. */
final class EvaluatedController
{
    public function __invoke(Request $request, Shot $shot, StoredParts $parts, Foresight $foresight, ShardStore $store): JsonResponse
    {
        $spec = $foresight->of($shot->spec(), false);
        $run = new Evaluation(Maps::of($shot, $spec, $parts));
        $frame = $request->query('at');
        $out = [];
        foreach ($spec->props as $prop) {
            // Its pieces come first.
            if (! Evaluation::needs($prop) || ! $store->has($prop)) {
                continue;
            }
            try {
                $keys = $run->keys($prop->id);
                $fault = MakeFrames::fault(MakeFrames::keyOf($keys));
            } catch (Problem $e) {
                [$keys, $fault] = [[], $e->toArray()];
            }
            $made = array_map(MakeFrames::isMade(...), $keys);
            if ($fault === null && in_array(false, $made, true)) {
                MakeEvaluated::ask(new MakeEvaluated($shot->id, $prop->id, MakeFrames::keyOf($keys), is_numeric($frame) ? (int) $frame : $spec->first));
            }
            $out[$prop->id] = ['keys' => array_map(static fn (string $key, bool $is): ?string => $is ? $key : null, $keys, $made), 'problem' => $fault];
        }

        return response()->json(['first' => $spec->first, 'props' => (object) $out]);
    }
}
