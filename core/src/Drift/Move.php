<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

use YardBreak\Core\Entry;
use YardBreak\Core\Problem;

/** One way pieces drift. It holds its values at one moment. */
interface Move extends Entry
{
    /**
     * @param  array<string, mixed>  $values  by option name
     *
     * @throws Problem where values do not fit each other
     */
    public static function of(array $values): self;

    /** @return string id of the prop it looks at, or nothing */
    public function reads(): string;

    /**
     * Adds what it does to each piece.
     *
     * @param  list<float>  $amounts  by piece: none (0) to all of it (1), or beyond where it overshoots
     * @param  array{float, float, float}|null  $there  where the prop it looks at stands, in the coordinates of the pieces
     */
    public function add(Pieces $pieces, array $amounts, ?array $there, Flight $to): void;
}
