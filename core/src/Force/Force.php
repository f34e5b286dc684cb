<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** What pushes whatever is in its reach. It holds its values at a moment. */
interface Force
{
    public static function label(): string;

    /** What it does, in a few words. */
    public static function meaning(): string;

    /** @return list<Option> */
    public static function options(): array;

    /**
     * @param  array<string, mixed>  $values  by option name
     *
     * @throws Problem where values do not fit each other
     */
    public static function of(array $values): self;

    /**
     * Adds what it does at some places.
     *
     * @param  float|list<float>  $amount  how much of it, everywhere or at each of them
     */
    public function on(Effect $effect, Instant $at, float|array $amount): void;
}
