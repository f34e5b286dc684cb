<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

/** The frame of a bake that shows best what happens in it. */
final class TellingFrame
{
    /**
     * A third into the stretch in which at least half as much moves as ever does: things have come apart, and are still
     * in the air. Where nothing moves by physics, the middle: keys and weight maps are on their way there.
     *
     * @param  non-empty-list<array{frame: int, moving: int, ...}>  $figures  of frames, in their order
     */
    public static function of(array $figures): int
    {
        $most = max(array_column($figures, 'moving'));
        if ($most === 0) {
            return $figures[intdiv(count($figures), 2)]['frame'];
        }
        $busy = array_column(array_filter($figures, static fn (array $f): bool => 2 * $f['moving'] >= $most), 'frame');

        return $busy[0] + intdiv(end($busy) - $busy[0], 3);
    }
}
