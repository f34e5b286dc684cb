<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Geometry\Vec3;

/** A place of cloth at the surface of something, over a sub-step: a point of it, or one on an edge or a face. */
final class Contact
{
    /** Impulse in N·s that what it touches has got from it outside the solve. */
    public Vec3 $given;

    /** N·s along the surface that it has got by friction, in the solve. */
    public Vec3 $rubbed;

    /** Squares of its weights, summed. */
    public readonly float $square;

    /** Whether it has a point in common with one that counts more, so that it is set after the solve only. */
    public bool $shares = false;

    /** Whether it was part of the solve. */
    public bool $solved = false;

    /** N·s that friction can hold along it. */
    public float $holds = 0.0;

    /** Whether it goes with the surface, not only along it. */
    public bool $sticks = false;

    /** What is free that it touches, in the solve, and where on that: from its middle. */
    public ?Partner $partner = null;

    public ?Vec3 $arm = null;

    /** N·s, what would go into the surface in the solve, and along it where it sticks. */
    public float $px = 0.0;

    public float $py = 0.0;

    public float $pz = 0.0;

    /**
     * @param  list<int>  $points  of the cloth
     * @param  list<float>  $weights  of each in the place that touches; they sum to 1
     * @param  float  $nx  normal of the surface, away from it
     * @param  float  $gap  m between the two, less than nothing where they are too near
     * @param  float  $least  m/s along the normal at which the place goes at least, for it not to pass the surface
     * @param  float  $sx  m/s of the surface
     * @param  float  $out  m/s with which it is pushed out besides, where it lies too deep
     * @param  int  $prop  number; less than 0 for the ground
     * @param  int  $piece  its number there
     */
    public function __construct(
        public readonly array $points,
        public readonly array $weights,
        public readonly float $nx,
        public readonly float $ny,
        public readonly float $nz,
        public readonly float $gap,
        public float $least,
        public float $sx,
        public float $sy,
        public float $sz,
        public readonly float $friction,
        public readonly float $out,
        public readonly int $prop,
        public readonly int $piece,
    ) {
        $this->given = $this->rubbed = Vec3::zero();
        $this->square = array_sum(array_map(static fn (float $w): float => $w * $w, $weights));
    }

    /** The surface gets an impulse of so many N·s along its normal. */
    public function give(float $along): void
    {
        $this->given = $this->given->plus(new Vec3($along * $this->nx, $along * $this->ny, $along * $this->nz));
    }

    /** What it touches bears so many N·s in the solve. */
    public function bear(float $x, float $y, float $z): void
    {
        $this->px += $x;
        $this->py += $y;
        $this->pz += $z;
        if ($this->partner !== null && $this->arm !== null) {
            $this->partner->feel($this->arm, $x, $y, $z);
        }
    }

    /** What of something at its place is set by it: what goes along the normal, and all of it where it sticks. */
    public function bound(Vec3 $what): Vec3
    {
        if ($this->sticks) {
            return $what;
        }
        $along = $what->x * $this->nx + $what->y * $this->ny + $what->z * $this->nz;

        return new Vec3($along * $this->nx, $along * $this->ny, $along * $this->nz);
    }

    /** The surface turns out to go otherwise. */
    public function follow(Vec3 $speed): void
    {
        $this->least += ($speed->x - $this->sx) * $this->nx + ($speed->y - $this->sy) * $this->ny + ($speed->z - $this->sz) * $this->nz;
        [$this->sx, $this->sy, $this->sz] = $speed->toArray();
    }

    /** N·s that it is pressed with in the solve; less than nothing where it is drawn. */
    public function pressed(): float
    {
        return -$this->px * $this->nx - $this->py * $this->ny - $this->pz * $this->nz;
    }

    /**
     * How far the place goes along the normal.
     *
     * @param  array<int, float>  $x  what points have
     * @param  array<int, float>  $y
     * @param  array<int, float>  $z
     */
    public function along(array $x, array $y, array $z): float
    {
        $sum = 0.0;
        foreach ($this->points as $k => $i) {
            $sum += $this->weights[$k] * ($x[$i] * $this->nx + $y[$i] * $this->ny + $z[$i] * $this->nz);
        }

        return $sum;
    }
}
