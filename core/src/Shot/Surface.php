<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** How one side of a prop looks: its outside, or what a break lays open. */
final readonly class Surface
{
    /**
     * @param  string  $colour  as `#rrggbb`
     * @param  float|null  $roughness  0…1; null for the usual one
     * @param  string|null  $picture  asset of the picture on it
     * @param  float  $metres  how wide one picture is, where it repeats at true scale
     */
    public function __construct(public string $colour, public ?float $roughness = null, public ?string $picture = null, public float $metres = 1.0)
    {
    }
}
