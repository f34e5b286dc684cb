<?php

declare(strict_types=1);

namespace YardBreak\Core;

use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** Reproducible randomness: the same seed gives the same numbers on every machine. */
final class SeededRandom
{
    private readonly Randomizer $source;

    public function __construct(int $seed)
    {
        $this->source = new Randomizer(new Xoshiro256StarStar($seed));
    }

    /** Evenly from 0 (included) to 1 (left out). */
    public function share(): float
    {
        return $this->source->getInt(0, (1 << 53) - 1) / (1 << 53);
    }

    /** @return list<float> so many shares, each off one by no more than so much */
    public static function aboutOne(int $seed, float $off, int $count): array
    {
        $random = new self($seed);
        $out = [];
        for ($k = 0; $k < $count; $k++) {
            $out[] = $random->between(1.0 - $off, 1.0 + $off);
        }

        return $out;
    }

    public function between(float $low, float $high): float
    {
        return $low + ($high - $low) * $this->share();
    }
}
