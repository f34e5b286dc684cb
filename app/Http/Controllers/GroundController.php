<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Illuminate\Http\Request;
use Illuminate\Http\Response;
use YardBreak\Core\Collide\GroundSheet;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\GroundCatalogue;

/** The ground as the picture draws it, as long as it is not flat. */
final class GroundController
{
    /** Metres; farther off and wider nothing is drawn. */
    private const FARTHEST = 1e6;

    /**
     * @return Response float32: x, y and z of the middle and of each place, ring by ring; none where it is flat or none
     *
     * @throws Problem
     */
    public function __invoke(Request $request): Response
    {
        $asked = json_decode($request->string('ground')->toString(), true, 4);
        if (! is_array($asked) || ! is_string($asked['kind'] ?? null) || ! is_array($asked['values'] ?? [])) {
            throw Problem::inValue('ground', 'It is not said what ground to draw.', 'Reload the page.');
        }
        $ground = GroundCatalogue::of($asked);
        $number = static fn (string $name): float => max(-self::FARTHEST, min(self::FARTHEST, $request->float($name)));
        $radius = $number('radius');
        $places = $ground === null || $ground->isFlat() || $radius <= 0.0 ? [] : GroundSheet::of($ground, $number('x'), $number('z'), $radius);
        $bytes = implode('', array_map(static fn (array $chunk): string => pack('g*', ...$chunk), array_chunk($places, 8192)));

        return new Response($bytes, 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'private, max-age=86400', 'X-Rings' => (string) GroundSheet::RINGS, 'X-Sectors' => (string) GroundSheet::SECTORS]);
    }
}
