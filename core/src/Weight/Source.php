<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Where on a prop something is to act: a number from 0 (not) to 1 (fully) at every point, in the prop's own coordinates. */
interface Source
{
    public static function label(): string;

    /** What it does, in a few words. */
    public static function meaning(): string;

    /** @return list<Option> */
    public static function options(): array;

    /**
     * @param  array<string, mixed>  $values  by option name, checked against the options
     *
     * @throws Problem where values do not fit each other
     */
    public static function of(array $values): self;

    /** @return float 0…1 */
    public function at(float $x, float $y, float $z): float;
}
