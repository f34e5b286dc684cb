<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Geometry\ConstrainedTriangulation;

/** How a solid is divided seen along an axis: a map of the plane, levels across it, and what belongs together. */
final readonly class Plan
{
    /**
     * @param  list<float>  $levels  rising; one layer more than levels
     * @param  list<int>  $groups  by layer times triangles plus triangle: the piece it is part of, −1 to leave it out
     */
    public function __construct(public ConstrainedTriangulation $map, public array $levels, public array $groups)
    {
    }

    /**
     * Every region that the map's fixed edges part is a piece of its own in every layer.
     *
     * @param  list<float>  $levels
     */
    public static function ofRegions(ConstrainedTriangulation $map, array $levels = []): self
    {
        $regions = $map->regions();
        $most = max($regions) + 1;
        $groups = [];
        for ($layer = 0; $layer <= count($levels); $layer++) {
            foreach ($regions as $region) {
                $groups[] = $layer * $most + $region;
            }
        }

        return new self($map, $levels, $groups);
    }
}
