<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

/** What of all that stands and moves is nearest to each of a list of points. */
final readonly class NearestSurfaces
{
    public const NOTHING = -2;

    public const GROUND = -1;

    /**
     * @param  list<float>  $distance  metres; below zero inside; INF where nothing lies within reach
     * @param  list<float>  $nx  outward normal there; zero where nothing lies within reach
     * @param  list<float>  $ny
     * @param  list<float>  $nz
     * @param  list<int>  $prop  its number, or one of the constants above
     * @param  list<int>  $piece  number within it
     */
    public function __construct(public array $distance, public array $nx, public array $ny, public array $nz, public array $prop, public array $piece)
    {
    }
}
