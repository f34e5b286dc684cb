<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\Vec3;

/** What two pieces share where they lie face to face, as a section through the prop that parts them. */
final readonly class Joint
{
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
     * @param  list<self>  $joints
     * @return list<array{int, int, float}> two pieces, and metres from the middle of one to that of the other through what they share
     */
    public static function ways(array $joints): array
    {
        return array_map(static fn (self $j): array => [$j->one, $j->other, $j->length], $joints);
    }
}
