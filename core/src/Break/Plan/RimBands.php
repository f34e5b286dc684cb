<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Geometry\Polyline;

/** The rings round a hole, between closed lines each of which holds the one before. */
final readonly class RimBands
{
    /** @param  non-empty-list<Polyline>  $lines  closed, from the edge of the hole outwards */
    public function __construct(private array $lines)
    {
    }

    /** @return float 1 at the edge of the hole and within, evenly down to 0 at the outermost line and beyond */
    public function at(float $u, float $v): float
    {
        $bands = count($this->lines) - 1;
        foreach ($this->lines as $k => $line) {
            if ($line->holds($u, $v)) {
                if ($k === 0) {
                    return 1.0;
                }
                $within = $this->lines[$k - 1]->distanceTo($u, $v);
                $beyond = $line->distanceTo($u, $v);

                return 1.0 - ($k - 1 + $within / max(1e-300, $within + $beyond)) / $bands;
            }
        }

        return 0.0;
    }
}
