<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

/** What each of a list of points that move meets first on its way. */
final readonly class Hits
{
    /**
     * @param  list<float>  $share  of its way that it has gone; INF where it meets nothing
     * @param  list<float>  $nx  outward normal of what it meets, as that stands at the end
     * @param  list<float>  $ny
     * @param  list<float>  $nz
     * @param  list<int>  $prop  its number, or one of the constants of `NearestSurfaces`
     * @param  list<int>  $piece  number within it
     */
    public function __construct(public array $share, public array $nx, public array $ny, public array $nz, public array $prop, public array $piece)
    {
    }
}
