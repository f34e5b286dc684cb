<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Geometry\Vec3;

/** Two bodies touch, or will before the next search. */
final readonly class BodyTouch
{
    /**
     * @param  int  $collider  of one body
     * @param  int  $other  that of the other; −1 is the ground
     * @param  Vec3  $normal  from the one to the other
     * @param  float  $speed  m/s, approach along the normal
     * @param  float  $impulse  N·s that ends this approach, where nothing else bears on the two; INF where both are held or driven
     * @param  float  $in  seconds until they do, at that speed
     */
    public function __construct(public int $collider, public int $other, public Vec3 $at, public Vec3 $normal, public float $speed, public float $impulse, public float $in)
    {
    }
}
