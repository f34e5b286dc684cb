<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

/** The frame of a bake that shows best what happens in it. */
final class TellingFrame
{
    /** Share of its greatest energy from which what has come apart still flies. */
    private const FLIES = 0.03;

    /**
     * A third into the stretch in which at least half as much moves as ever does, but no later than what moves still flies: things have
     * come apart, and do not lie yet. Where nothing moves by physics, the middle: keys and weight maps are on their way there.
     *
     * @param  non-empty-list<array{frame: int, moving: int, energy: float, ...}>  $figures  of frames, in their order
     */
    public static function of(array $figures): int
    {
        $most = max(array_column($figures, 'moving'));
        if ($most === 0) {
            return $figures[intdiv(count($figures), 2)]['frame'];
        }
        $busy = array_column(array_filter($figures, static fn (array $f): bool => 2 * $f['moving'] >= $most), 'energy', 'frame');
        $frames = array_keys($busy);
        $flies = array_keys(array_filter($busy, static fn (float $energy): bool => $energy >= self::FLIES * max($busy)));

        return min($frames[0] + intdiv(end($frames) - $frames[0], 3), max($frames[0] + 1, end($flies)));
    }
}
