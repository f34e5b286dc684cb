<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

use YardBreak\Core\SeededRandom;

/** Random numbers of pieces, the same for the same seed, made once. */
final class Chance
{
    /** @var array<string, list<float>> */
    private static array $kept = [];

    /** Lists kept; more are forgotten. */
    private const MOST = 64;

    /** @return list<float> from −1 to 1, `width` a piece */
    public static function of(int $seed, int $pieces, int $width = 1): array
    {
        $key = $seed.' '.$pieces.' '.$width;
        if (! isset(self::$kept[$key])) {
            if (count(self::$kept) >= self::MOST) {
                self::$kept = [];
            }
            $random = new SeededRandom($seed);
            $out = [];
            for ($k = 0, $n = $pieces * $width; $k < $n; $k++) {
                $out[] = $random->between(-1.0, 1.0);
            }
            self::$kept[$key] = $out;
        }

        return self::$kept[$key];
    }
}
