<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** A source that depends on the place alone, and so can be asked anywhere. */
interface Pointwise extends Source
{
    /** @return float 0…1 */
    public function at(float $x, float $y, float $z): float;
}
