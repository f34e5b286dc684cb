<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Bake;
use App\Yard\BakedShot;
use Illuminate\Http\JsonResponse;
use YardBreak\Core\Check\ClothAt;

/** What the cloth of a prop bears at a baked frame; `weights` are base64 of a byte a point: 255 for as far as it gives, and for the greatest pressure. */
final class ClothController
{
    public function __invoke(Bake $bake, string $prop, int $frame, BakedShot $baked): JsonResponse
    {
        $bake->requireFrame($frame);
        $maps = $baked->maps($bake, $bake->frames_done);
        $number = $maps->shot->indexOf($prop);
        abort_if($number === null, 404);
        $cloth = ClothAt::of($maps, $prop, $frame, $bake->files()->streams($frame - $bake->first)[$number] ?? []);
        $pressure = $cloth->pressure();

        return response()->json(['frame' => $frame, 'stretch' => self::told($cloth->stretch()), 'pressure' => $pressure === null ? null : self::told($pressure)]);
    }

    /**
     * @param  array<string, mixed>&array{shares: list<float>}  $found
     * @return array<string, mixed>
     */
    private static function told(array $found): array
    {
        $bytes = '';
        foreach (array_chunk($found['shares'], 8192) as $chunk) {
            $bytes .= pack('C*', ...array_map(static fn (float $s): int => (int) round(255.0 * $s), $chunk));
        }

        return ['weights' => base64_encode($bytes)] + array_diff_key($found, ['shares' => null]);
    }
}
