<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Geometry\Vec3;

/** A body that waits to be touched is, or will be before the next search. */
final readonly class Touch
{
    /**
     * @param  int  $body  the one that waits
     * @param  int  $other  what touches it; −1 is the ground
     * @param  float  $speed  m/s, approach along the normal
     */
    public function __construct(public int $body, public int $other, public Vec3 $at, public float $speed)
    {
    }
}
