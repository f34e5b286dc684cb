<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

final readonly class Aabb
{
    public function __construct(public Vec3 $low, public Vec3 $high)
    {
    }

    public static function around(Mesh ...$meshes): self
    {
        $meshes = array_filter($meshes, static fn (Mesh $m): bool => $m->x !== []);
        if ($meshes === []) {
            return new self(Vec3::zero(), Vec3::zero());
        }
        $of = static fn (callable $end): Vec3 => new Vec3(
            $end(array_map(static fn (Mesh $m): float => $end($m->x), $meshes)),
            $end(array_map(static fn (Mesh $m): float => $end($m->y), $meshes)),
            $end(array_map(static fn (Mesh $m): float => $end($m->z), $meshes)),
        );

        return new self($of(min(...)), $of(max(...)));
    }

    public function meets(self $other): bool
    {
        return $this->low->x <= $other->high->x && $other->low->x <= $this->high->x
            && $this->low->y <= $other->high->y && $other->low->y <= $this->high->y
            && $this->low->z <= $other->high->z && $other->low->z <= $this->high->z;
    }

    /** @param  float  $by  to every side */
    public function grown(float $by): self
    {
        $all = new Vec3($by, $by, $by);

        return new self($this->low->minus($all), $this->high->plus($all));
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
