<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

final readonly class Aabb
{
    public function __construct(public Vec3 $low, public Vec3 $high)
    {
    }

    public static function around(Mesh $mesh): self
    {
        if ($mesh->x === []) {
            return new self(Vec3::zero(), Vec3::zero());
        }

        return new self(
            new Vec3(min($mesh->x), min($mesh->y), min($mesh->z)),
            new Vec3(max($mesh->x), max($mesh->y), max($mesh->z)),
        );
    }

    public function centre(): Vec3
    {
        return $this->low->plus($this->high)->times(0.5);
    }

    public function size(): Vec3
    {
        return $this->high->minus($this->low);
    }

    public function diagonal(): float
    {
        return $this->size()->length();
    }
}
