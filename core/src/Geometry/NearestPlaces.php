<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** Where a surface is nearest to each of a list of points. */
final readonly class NearestPlaces
{
    /**
     * @param  list<float>  $distance  metres; INF where nothing lies within reach
     * @param  list<int>  $face  number of a face; −1 where nothing lies within reach
     * @param  list<float>  $s  share of the second corner of the face in that place
     * @param  list<float>  $t  share of the third
     */
    public function __construct(public array $distance, public array $face, public array $s, public array $t)
    {
    }
}
