<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Geometry\Vec3;

/** Three directions square to each other, right-handed: two in the plane of a plan, and the one it is seen along. */
final readonly class Basis
{
    private function __construct(public Vec3 $u, public Vec3 $v, public Vec3 $w)
    {
    }

    /**
     * @param  Vec3  $axis  what the plan is seen along, of any length but 0
     * @param  float  $turn  radians, counter-clockwise seen against the axis
     */
    public static function along(Vec3 $axis, float $turn = 0.0): self
    {
        $w = $axis->unit();
        // Upright stays upright in the plan; looking down, x stays to the right.
        $u = abs($w->y) < 0.9 ? (new Vec3(0, 1, 0))->cross($w)->unit() : new Vec3(1, 0, 0);
        $u = $u->minus($w->times($u->dot($w)))->unit();
        $v = $w->cross($u);

        return new self($u->times(cos($turn))->plus($v->times(sin($turn))), $v->times(cos($turn))->minus($u->times(sin($turn))), $w);
    }

    /** The axis a solid of these half extents is thinnest along. */
    public static function thinnest(Vec3 $half): Vec3
    {
        return match (min($half->x, $half->y, $half->z)) {
            $half->z => new Vec3(0, 0, 1),
            $half->y => new Vec3(0, 1, 0),
            default => new Vec3(1, 0, 0),
        };
    }

    /** @return array{float, float, float} */
    public function of(Vec3 $p): array
    {
        return [$this->u->dot($p), $this->v->dot($p), $this->w->dot($p)];
    }

    /** @return array{float, float, float} half extents along the three directions of a box with these half extents */
    public function halves(Vec3 $half): array
    {
        return array_map(static fn (Vec3 $d): float => abs($d->x) * $half->x + abs($d->y) * $half->y + abs($d->z) * $half->z, [$this->u, $this->v, $this->w]);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<float>, list<float>, list<float>}
     */
    public function turned(array $x, array $y, array $z): array
    {
        $a = $b = $c = [];
        foreach ($x as $i => $px) {
            $py = $y[$i];
            $pz = $z[$i];
            $a[] = $this->u->x * $px + $this->u->y * $py + $this->u->z * $pz;
            $b[] = $this->v->x * $px + $this->v->y * $py + $this->v->z * $pz;
            $c[] = $this->w->x * $px + $this->w->y * $py + $this->w->z * $pz;
        }

        return [$a, $b, $c];
    }

    /** The basis that turns back. */
    public function inverse(): self
    {
        return new self(
            new Vec3($this->u->x, $this->v->x, $this->w->x),
            new Vec3($this->u->y, $this->v->y, $this->w->y),
            new Vec3($this->u->z, $this->v->z, $this->w->z),
        );
    }
}
