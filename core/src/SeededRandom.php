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

    public function between(float $low, float $high): float
    {
        return $low + ($high - $low) * $this->share();
    }
}
