<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use Illuminate\Http\JsonResponse;
use YardBreak\Core\Geometry\Rims;
use YardBreak\Core\Shot\PropMaker;

/** Corners and edges of a prop, to be picked in the picture. */
final class RimsController
{
    /** More cannot be told apart in a picture. */
    private const MOST = 400;

    public function __invoke(Shot $shot, string $prop, PropMaker $maker): JsonResponse
    {
        $spec = $shot->spec()->prop($prop);
        abort_if($spec === null, 404);
        $places = Rims::of($maker->mesh($spec))->places();

        return response()->json(['corners' => array_slice($places['corners'], 0, self::MOST), 'lines' => array_slice($places['lines'], 0, self::MOST), 'more' => max(count($places['corners']), count($places['lines'])) > self::MOST]);
    }
}
