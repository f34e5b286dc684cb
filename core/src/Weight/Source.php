<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Entry;
use YardBreak\Core\Problem;

/** Where on a prop something is to act: a number from 0 (not) to 1 (fully) at every point. It holds its values at one moment. */
interface Source extends Entry
{
    /**
     * @param  array<string, mixed>  $values  by option name, checked against the options, each as it is at the moment
     *
     * @throws Problem where values do not fit each other
     */
    public static function of(array $values): self;

    /** @return list<string> ids of the props it looks at */
    public function reads(): array;

    /** Whether it goes by where things stand in the world: its points are always given in their own coordinates. */
    public function inWorld(): bool;

    /** Whether it changes although none of its values does, nor anything it looks at. */
    public function drifts(): bool;

    /**
     * @param  Points  $on  in the coordinates the source stands in
     * @param  Memory  $memory  what it found last time over these points
     * @return list<float> one a point, 0…1
     *
     * @throws Problem where something it looks at is not there
     */
    public function over(Points $on, Scene $scene, Memory $memory): array;
}
