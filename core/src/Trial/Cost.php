<?php

declare(strict_types=1);

namespace YardBreak\Core\Trial;

use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/** What a bake will take, told from one of the same shot that is there, or roughly where none is. */
final readonly class Cost
{
    /** s a frame and a piece that falls, and bytes, where nothing is known (rigid pieces, as measured on the machine this was made on). */
    private const SECONDS = 6e-5;

    private const BYTES = 33.0;

    private const OF_A_FRAME = 0.004;

    /**
     * @param  float  $seconds  on one worker
     * @param  float  $bytes  on the disk
     * @param  int  $pieces  about
     */
    private function __construct(public float $seconds, public float $bytes, public int $pieces)
    {
    }

    /**
     * @param  int  $frames  that are to be computed
     * @param  int  $pieces  of the bake that is known, or of the shot where none is
     * @param  float  $times  as many pieces as those
     * @param  array{seconds: float, bytes: float}|null  $known  of a frame of that bake, on the mean
     */
    public static function of(int $frames, int $pieces, float $times, ?array $known): self
    {
        $all = (int) round($pieces * $times);
        $seconds = $known === null ? self::OF_A_FRAME + self::SECONDS * $all : $known['seconds'] * $times;

        return new self($frames * $seconds, $frames * ($known === null ? self::BYTES * $all : $known['bytes'] * $times), $all);
    }

    /**
     * How many times as many pieces one shot has as another of the same props, as far as what they are broken by says.
     *
     * @param  array<string, int>  $counts  pieces of each prop of the other
     */
    public static function times(ShotSpec $shot, ShotSpec $other, array $counts): float
    {
        $before = $after = 0.0;
        foreach ($shot->props as $prop) {
            $was = $other->prop($prop->id);
            $pieces = $counts[$prop->id] ?? 1;
            $before += $pieces;
            [$amount, $of] = [self::amount($prop), $was === null ? null : self::amount($was)];
            $after += $amount === null || $of === null ? $pieces : max(1.0, $pieces * $amount / $of);
        }

        return $before > 0.0 ? $after / $before : 1.0;
    }

    /** @return array<string, int> about how many pieces each prop comes to, as far as what it is broken by says */
    public static function counts(ShotSpec $shot): array
    {
        return array_combine(array_column($shot->props, 'id'), array_map(static fn (PropSpec $prop): int => (int) (self::amount($prop) ?? 1.0), $shot->props));
    }

    private static function amount(PropSpec $prop): ?float
    {
        $option = $prop->break === null ? null : BreakCatalogue::amount($prop->break['pattern']);
        $value = $option === null ? null : $prop->break['values'][$option->name] ?? $option->default;

        return is_numeric($value) && $value > 0 ? (float) $value : null;
    }
}
