<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** A turn as a unit quaternion (x, y, z, w). */
final readonly class Quaternion
{
    public function __construct(public float $x, public float $y, public float $z, public float $w)
    {
    }

    public static function identity(): self
    {
        return new self(0.0, 0.0, 0.0, 1.0);
    }

    public static function aboutAxis(Vec3 $axis, float $radians): self
    {
        $u = $axis->unit();
        $s = sin($radians / 2);

        return new self($u->x * $s, $u->y * $s, $u->z * $s, cos($radians / 2));
    }

    /** The least turn that takes one direction to another, both of unit length; of opposite ones any. */
    public static function between(Vec3 $from, Vec3 $to): self
    {
        $w = 1.0 + $from->dot($to);
        if ($w < 1e-9) {
            $side = abs($from->x) < 0.6 ? new Vec3(1.0, 0.0, 0.0) : new Vec3(0.0, 1.0, 0.0);

            return self::aboutAxis($from->cross($side), M_PI);
        }
        $axis = $from->cross($to);

        return (new self($axis->x, $axis->y, $axis->z, $w))->unit();
    }

    /** Turns about x, then y, then z of the fixed frame, in radians. */
    public static function fromEuler(Vec3 $radians): self
    {
        return self::aboutAxis(new Vec3(0, 0, 1), $radians->z)
            ->after(self::aboutAxis(new Vec3(0, 1, 0), $radians->y))
            ->after(self::aboutAxis(new Vec3(1, 0, 0), $radians->x));
    }

    /**
     * The turn that takes x, y and z of the fixed frame to three directions square to each other (Shepperd 1978,
     * "Quaternion from rotation matrix").
     */
    public static function fromAxes(Vec3 $x, Vec3 $y, Vec3 $z): self
    {
        $trace = $x->x + $y->y + $z->z;
        if ($trace > 0.0) {
            $s = 2.0 * sqrt(1.0 + $trace);

            return (new self(($y->z - $z->y) / $s, ($z->x - $x->z) / $s, ($x->y - $y->x) / $s, 0.25 * $s))->unit();
        }
        if ($x->x >= $y->y && $x->x >= $z->z) {
            $s = 2.0 * sqrt(1.0 + $x->x - $y->y - $z->z);

            return (new self(0.25 * $s, ($y->x + $x->y) / $s, ($z->x + $x->z) / $s, ($y->z - $z->y) / $s))->unit();
        }
        if ($y->y >= $z->z) {
            $s = 2.0 * sqrt(1.0 + $y->y - $x->x - $z->z);

            return (new self(($y->x + $x->y) / $s, 0.25 * $s, ($z->y + $y->z) / $s, ($z->x - $x->z) / $s))->unit();
        }
        $s = 2.0 * sqrt(1.0 + $z->z - $x->x - $y->y);

        return (new self(($z->x + $x->z) / $s, ($z->y + $y->z) / $s, 0.25 * $s, ($x->y - $y->x) / $s))->unit();
    }

    /** The turn that does `$first`, then this one. */
    public function after(self $first): self
    {
        $a = $this;
        $b = $first;

        return new self(
            $a->w * $b->x + $a->x * $b->w + $a->y * $b->z - $a->z * $b->y,
            $a->w * $b->y - $a->x * $b->z + $a->y * $b->w + $a->z * $b->x,
            $a->w * $b->z + $a->x * $b->y - $a->y * $b->x + $a->z * $b->w,
            $a->w * $b->w - $a->x * $b->x - $a->y * $b->y - $a->z * $b->z,
        );
    }

    public function inverse(): self
    {
        return new self(-$this->x, -$this->y, -$this->z, $this->w);
    }

    public function unit(): self
    {
        $l = sqrt($this->x * $this->x + $this->y * $this->y + $this->z * $this->z + $this->w * $this->w);

        return $l > 0.0 ? new self($this->x / $l, $this->y / $l, $this->z / $l, $this->w / $l) : self::identity();
    }

    public function turn(Vec3 $v): Vec3
    {
        $q = new Vec3($this->x, $this->y, $this->z);
        $t = $q->cross($v)->times(2.0);

        return $v->plus($t->times($this->w))->plus($q->cross($t));
    }

    /** Along the shorter arc at even speed (Shoemake 1985, "Animating rotation with quaternion curves"). */
    public function towards(self $to, float $share): self
    {
        $dot = $this->x * $to->x + $this->y * $to->y + $this->z * $to->z + $this->w * $to->w;
        $sign = $dot < 0 ? -1.0 : 1.0;
        $dot = min(1.0, abs($dot));
        $angle = acos($dot);
        if ($angle < 1e-6) {
            $a = 1.0 - $share;
            $b = $share * $sign;
        } else {
            $a = sin((1.0 - $share) * $angle) / sin($angle);
            $b = sin($share * $angle) / sin($angle) * $sign;
        }

        return (new self($a * $this->x + $b * $to->x, $a * $this->y + $b * $to->y, $a * $this->z + $b * $to->z, $a * $this->w + $b * $to->w))->unit();
    }

    /** The rotation vector (axis × angle, radians) that leads from here to `$to`. */
    public function rotationTo(self $to): Vec3
    {
        $d = $to->after($this->inverse());
        if ($d->w < 0) {
            $d = new self(-$d->x, -$d->y, -$d->z, -$d->w);
        }
        $s = sqrt($d->x * $d->x + $d->y * $d->y + $d->z * $d->z);
        $k = $s < 1e-12 ? 2.0 : 2.0 * atan2($s, $d->w) / $s;

        return new Vec3($d->x * $k, $d->y * $k, $d->z * $k);
    }

    /** @return array{float, float, float, float} */
    public function toArray(): array
    {
        return [$this->x, $this->y, $this->z, $this->w];
    }
}
