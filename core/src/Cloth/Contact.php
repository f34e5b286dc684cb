<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Geometry\Vec3;

/** A point of cloth at the surface of something, over a sub-step. */
final class Contact
{
    /** Impulse in N·s that what it touches has got from it. */
    public Vec3 $given;

    /**
     * @param  float  $nx  normal of that surface, away from it
     * @param  float  $least  m/s along it at which the point goes at least, for it not to pass the surface
     * @param  float  $sx  m/s of the surface
     * @param  float  $out  m/s with which it is pushed out besides, where it lies too deep
     * @param  int  $prop  number; less than 0 for the ground
     * @param  int  $piece  its number there
     */
    public function __construct(
        public readonly float $nx,
        public readonly float $ny,
        public readonly float $nz,
        public readonly float $least,
        public readonly float $sx,
        public readonly float $sy,
        public readonly float $sz,
        public readonly float $friction,
        public readonly float $out,
        public readonly int $prop,
        public readonly int $piece,
    ) {
        $this->given = Vec3::zero();
    }

    /** The surface gets an impulse of so many N·s along its normal. */
    public function give(float $along): void
    {
        $this->given = $this->given->plus(new Vec3($along * $this->nx, $along * $this->ny, $along * $this->nz));
    }
}
