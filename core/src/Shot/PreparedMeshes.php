<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\Mesh;

/** Keeps prepared meshes, and what was found about them, so that neither is worked out twice. */
interface PreparedMeshes
{
    /** @param  \Closure(): Mesh  $make */
    public function mesh(string $key, \Closure $make): Mesh;

    /** @param  \Closure(): Fitness  $find */
    public function fitness(string $key, \Closure $find): Fitness;
}
