<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\Vec3;

/** What two pieces share where they lie face to face, as a section through the prop that parts them. */
final readonly class Joint
{
    /** Second moments are no less than this share of the area squared. */
    private const THIN = 1e-4;

    /**
     * @param  int  $one  a piece
     * @param  int  $other  another, of a larger number
     * @param  float  $area  m²
     * @param  Vec3  $middle  of what they share, in the prop's own coordinates
     * @param  Vec3  $normal  from the one towards the other, of length 1
     * @param  array{float, float, float, float, float, float}  $spread  second moments of the area about its middle, ∫ r rᵀ dA, m⁴: xx, yy, zz, xy, yz, zx
     * @param  float  $length  metres from the middle of the one to that of the other through what they share
     */
    public function __construct(
        public int $one,
        public int $other,
        public float $area,
        public Vec3 $middle,
        public Vec3 $normal,
        public array $spread,
        public float $length,
    ) {
    }

    /**
     * A rectangle of like area and second moments: half its sides, in the plane of the section.
     *
     * @return array{Vec3, Vec3} m
     */
    public function halves(): array
    {
        $n = $this->normal;
        $u = $n->across();
        $v = $n->cross($u);
        $turn = 0.5 * atan2(2.0 * $this->moment($u, $v), $this->moment($u, $u) - $this->moment($v, $v));
        [$u, $v] = [$u->times(cos($turn))->plus($v->times(sin($turn))), $v->times(cos($turn))->minus($u->times(sin($turn)))];
        // What is far thinner than a section can be told from a line is taken as a little thick; the second moment of a rectangle is a twelfth of its area times its side squared.
        $half = fn (Vec3 $along): float => sqrt(3.0 * max(self::THIN * $this->area * $this->area, $this->moment($along, $along)) / $this->area);

        return [$u->times($half($u)), $v->times($half($v))];
    }

    private function moment(Vec3 $p, Vec3 $q): float
    {
        [$xx, $yy, $zz, $xy, $yz, $zx] = $this->spread;

        return $p->x * ($xx * $q->x + $xy * $q->y + $zx * $q->z) + $p->y * ($xy * $q->x + $yy * $q->y + $yz * $q->z) + $p->z * ($zx * $q->x + $yz * $q->y + $zz * $q->z);
    }

    /**
     * @param  list<self>  $joints
     * @return list<array{int, int, float}> two pieces, and metres from the middle of one to that of the other through what they share
     */
    public static function ways(array $joints): array
    {
        return array_map(static fn (self $j): array => [$j->one, $j->other, $j->length], $joints);
    }
}
