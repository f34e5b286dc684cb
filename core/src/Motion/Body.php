<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;

/** A piece as one body in motion: all another mover needs to take it into a solve of its own. */
final readonly class Body
{
    /**
     * @param  float  $mass  kg; what is driven or held has INF
     * @param  array{float, float, float, float, float, float}  $inertia  xx, yy, zz, xy, yz, zx about its middle, in its own axes, kg·m²
     * @param  Vec3  $at  its middle
     * @param  Vec3  $velocity  m/s, of the middle
     * @param  Vec3  $spin  rad/s
     */
    public function __construct(public float $mass, public array $inertia, public Vec3 $at, public Quaternion $turn, public Vec3 $velocity, public Vec3 $spin)
    {
    }

    /** m/s, of a place on it. */
    public function velocityAt(Vec3 $place): Vec3
    {
        return $this->velocity->plus($this->spin->cross($place->minus($this->at)));
    }
}
