<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Entry;
use YardBreak\Core\Problem;

/** What pushes whatever is in its reach. It holds its values at a moment. */
interface Force extends Entry
{
    /**
     * @param  array<string, mixed>  $values  by option name
     *
     * @throws Problem where values do not fit each other
     */
    public static function of(array $values): self;

    /**
     * Adds what it does at some places.
     *
     * @param  list<float>  $amounts  how much of it there is at each of them
     */
    public function on(Effect $effect, Instant $at, array $amounts): void;
}
