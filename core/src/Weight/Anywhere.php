<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** Gives a weight at any place. */
interface Anywhere
{
    /** @return float 0…1 */
    public function at(float $x, float $y, float $z): float;
}
