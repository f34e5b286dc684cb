<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Entry;
use YardBreak\Core\Problem;

/** What everything falls on: a height for every place, and below it ground without end. */
interface Ground extends Entry
{
    /**
     * @param  array<string, mixed>  $values
     *
     * @throws Problem where they do not fit each other
     */
    public static function of(array $values): self;

    /** Whether it is the plane at height 0, so that what stands on it may be told by heights alone. */
    public function isFlat(): bool;

    /** Metres from its lowest place to its highest; the highest is at height 0 at most. */
    public function depth(): float;

    /** Metres. */
    public function height(float $x, float $z): float;

    /**
     * The slope of its height along x and z.
     *
     * @return array{float, float}
     */
    public function slope(float $x, float $z): array;

    /**
     * Where it stands up against what lies over it: its crests within a rectangle.
     *
     * @return list<array{float, float}> x and z
     */
    public function crests(float $x0, float $z0, float $x1, float $z1): array;

    /** Metres: nothing of it is narrower than about this. */
    public function width(): float;
}
