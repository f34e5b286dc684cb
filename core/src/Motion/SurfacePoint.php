<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Geometry\Vec3;

/** A place on a surface. */
final readonly class SurfacePoint
{
    /**
     * @param  Vec3  $normal  outwards
     * @param  float  $distance  metres from the point that was asked about; below zero inside
     * @param  Vec3  $velocity  m/s, of the surface there
     * @param  int  $prop  number of the prop it is of
     */
    public function __construct(public Vec3 $at, public Vec3 $normal, public float $distance, public Vec3 $velocity, public int $prop)
    {
    }
}
