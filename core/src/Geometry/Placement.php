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

    /** Where a piece stands whose middle, in its prop's own coordinates, is now at a place of the scene. */
    public static function about(Vec3 $middle, Vec3 $at, Quaternion $turn, float $size): self
    {
        return new self($at->minus($turn->turn($middle->times($size))), $turn, $size);
    }

    public function point(Vec3 $p): Vec3
    {
        return $this->turn->turn($p->times($this->size))->plus($this->position);
    }

    /** The placement that undoes this one; what has no size is taken for very small. */
    public function inverse(): self
    {
        $back = $this->turn->inverse();
        $grow = 1.0 / max($this->size, 1e-9);

        return new self($back->turn($this->position)->times(-$grow), $back, $grow);
    }

    /** First another placement, then this one. */
    public function after(self $first): self
    {
        return new self($this->point($first->position), $this->turn->after($first->turn), $this->size * $first->size);
    }
}
