<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\MakeEvaluated;
use App\Jobs\MakeFrames;
use App\Models\Bake;
use App\Models\Shot;
use App\Storage\ShardStore;
use App\Yard\Foresight;
use App\Yard\Maps;
use App\Yard\StoredParts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\Evaluation;
use YardBreak\Core\Shot\ShotSpec;

/** What weight maps decide of props beside a bake or without one: by what each frame depends on, as far as it is worked out. */
final class EvaluatedController
{
    public function __construct(private readonly StoredParts $parts, private readonly Foresight $foresight, private readonly ShardStore $store)
    {
    }

    public function ofShot(Request $request, Shot $shot): JsonResponse
    {
        return $this->told($shot, $shot->spec(), $request->query('at'), null);
    }

    /** Of the shot as it was when that was baked. */
    public function ofBake(Request $request, Bake $bake): JsonResponse
    {
        return $this->told($bake->shot, $bake->spec(), $request->query('at'), $bake->id);
    }

    private function told(Shot $shot, ShotSpec $of, mixed $frame, ?string $bake): JsonResponse
    {
        $spec = $this->foresight->of($of, false);
        $run = new Evaluation(Maps::of($shot, $spec, $this->parts));
        $out = [];
        foreach ($spec->props as $prop) {
            // Its pieces come first.
            if (! Evaluation::needs($prop) || ! $this->store->has($prop)) {
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
                MakeEvaluated::ask(new MakeEvaluated($shot->id, $prop->id, MakeFrames::keyOf($keys), is_numeric($frame) ? (int) $frame : $spec->first, $bake));
            }
            $out[$prop->id] = ['keys' => array_map(static fn (string $key, bool $is): ?string => $is ? $key : null, $keys, $made), 'problem' => $fault];
        }

        return response()->json(['first' => $spec->first, 'props' => (object) $out]);
    }
}
