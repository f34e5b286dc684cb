<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** What the outside of a prop turns into by a weight map: none of it at 0, all at 1. */
final readonly class SecondSurface
{
    /**
     * @param  string  $map  id
     * @param  string  $name  of the material
     * @param  string  $colour  as `#rrggbb`
     * @param  float|null  $roughness  0…1; null for the usual one
     */
    private function __construct(public string $map, public string $name, public string $colour, public ?float $roughness)
    {
    }

    /** @param  array<string, mixed>|null  $d  already of the schema's form */
    public static function of(?array $d): ?self
    {
        return $d === null ? null : new self($d['map'], $d['name'], $d['colour'], isset($d['roughness']) ? (float) $d['roughness'] : null);
    }
}
