<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Geometry\Vec3;

/** Two bodies touch, or will before the next search. */
final readonly class Touch
{
    /**
     * @param  int  $other  −1 is the ground
     * @param  float  $speed  m/s, approach along the normal
     */
    public function __construct(public int $body, public int $other, public Vec3 $at, public float $speed)
    {
    }
}
