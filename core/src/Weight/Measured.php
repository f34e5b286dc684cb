<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** A source that measures a distance and makes a weight of it, so that the one can be kept while the other is changed. */
interface Measured extends Source
{
    public function reach(): Reach;

    /**
     * @param  float  $limit  distances above it need not be known
     * @return list<float> one a point; INF, or anything above the limit, where it is not known
     */
    public function distances(Points $on, Scene $scene, Memory $memory, float $limit): array;
}
