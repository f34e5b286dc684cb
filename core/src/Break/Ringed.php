<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;

/** A pattern whose pieces lie in rings round a point. */
interface Ringed
{
    /**
     * @param  Mesh  $solid  what was broken
     * @param  list<Shard>  $shards  what it broke into
     * @return array{axis: Vec3, rings: list<int>} the way it was hit, of length one, and the ring of each piece, from 0 at the middle
     */
    public function rings(Mesh $solid, array $shards): array;
}
