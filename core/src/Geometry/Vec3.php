<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** A point or direction in metres, y up. For the edges of the program; loops use flat arrays. */
final readonly class Vec3
{
    public function __construct(public float $x, public float $y, public float $z)
    {
    }

    public static function zero(): self
    {
        return new self(0.0, 0.0, 0.0);
    }

    /** @param  non-empty-list<self>  $all */
    public static function mean(array $all): self
    {
        $x = $y = $z = 0.0;
        foreach ($all as $v) {
            $x += $v->x;
            $y += $v->y;
            $z += $v->z;
        }
        $n = count($all);

        return new self($x / $n, $y / $n, $z / $n);
    }

    /** @param  array<int, float|int>  $xyz */
    public static function of(array $xyz): self
    {
        return new self((float) $xyz[0], (float) $xyz[1], (float) $xyz[2]);
    }

    /** @param  array<mixed>|null  $xyz */
    public static function orNull(?array $xyz): ?self
    {
        return $xyz === null ? null : self::of($xyz);
    }

    public function plus(self $o): self
    {
        return new self($this->x + $o->x, $this->y + $o->y, $this->z + $o->z);
    }

    public function minus(self $o): self
    {
        return new self($this->x - $o->x, $this->y - $o->y, $this->z - $o->z);
    }

    public function times(float $k): self
    {
        return new self($this->x * $k, $this->y * $k, $this->z * $k);
    }

    public function dot(self $o): float
    {
        return $this->x * $o->x + $this->y * $o->y + $this->z * $o->z;
    }

    public function cross(self $o): self
    {
        return new self($this->y * $o->z - $this->z * $o->y, $this->z * $o->x - $this->x * $o->z, $this->x * $o->y - $this->y * $o->x);
    }

    public function length(): float
    {
        return sqrt($this->dot($this));
    }

    /** Itself at length 1; the zero vector stays zero. */
    public function unit(): self
    {
        $l = $this->length();

        return $l > 0.0 ? $this->times(1.0 / $l) : $this;
    }

    /** Of length 1, square to this one. */
    public function across(): self
    {
        return (abs($this->x) < 0.6 ? new self(1.0, 0.0, 0.0) : new self(0.0, 1.0, 0.0))->cross($this)->unit();
    }

    /** @return array{float, float, float} */
    public function toArray(): array
    {
        return [$this->x, $this->y, $this->z];
    }
}
