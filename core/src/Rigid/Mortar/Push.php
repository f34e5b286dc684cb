<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Mortar;

use YardBreak\Core\Geometry\Vec3;

/** What pushed a piece over a span, at one place. */
final readonly class Push
{
    /**
     * @param  Vec3  $impulse  N·s
     * @param  Vec3  $normal  into the piece
     * @param  bool  $firm  whether what pushes does not give way
     */
    public function __construct(public Vec3 $at, public Vec3 $impulse, public Vec3 $normal, public bool $firm)
    {
    }
}
