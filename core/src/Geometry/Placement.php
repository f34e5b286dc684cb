<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** Where a prop stands: size first, then turn, then position. */
final readonly class Placement
{
    public function __construct(
        public Vec3 $position,
        public Quaternion $turn,
        public float $size = 1.0,
    ) {
    }

    public static function identity(): self
    {
        return new self(Vec3::zero(), Quaternion::identity());
    }

    public function point(Vec3 $p): Vec3
    {
        return $this->turn->turn($p->times($this->size))->plus($this->position);
    }
}
