<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Bake;
use App\Yard\BakedShot;
use Illuminate\Http\JsonResponse;
use YardBreak\Core\Check\StretchAt;

/** By how much the cloth of a prop is drawn at a baked frame; `weights` is base64 of a byte a point, 255 for as far as it gives. */
final class StretchController
{
    public function __invoke(Bake $bake, string $prop, int $frame, BakedShot $baked): JsonResponse
    {
        $bake->requireFrame($frame);
        $maps = $baked->maps($bake, $bake->frames_done);
        $number = $maps->shot->indexOf($prop);
        abort_if($number === null, 404);
        $found = StretchAt::of($maps, $prop, $frame, $bake->files()->streams($frame - $bake->first)[$number] ?? []);
        $bytes = '';
        foreach (array_chunk($found['shares'], 8192) as $chunk) {
            $bytes .= pack('C*', ...array_map(static fn (float $s): int => (int) round(255.0 * $s), $chunk));
        }

        return response()->json(['frame' => $frame, 'weights' => base64_encode($bytes)] + array_diff_key($found, ['shares' => null]));
    }
}
