<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Push;

use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;

/** A piece as it is let go, as the scene has it. */
final readonly class Leaving
{
    /**
     * @param  int  $number  within its prop
     * @param  Vec3  $normal  which way its outer surface looks, of unit length; none where it has none
     * @param  Placement  $place  where its prop stands
     * @param  Vec3|null  $struck  where its prop was touched, where a touch let it go
     * @param  Vec3|null  $striker  m/s, what touched it there
     */
    public function __construct(
        public int $number,
        public Vec3 $middle,
        public Vec3 $normal,
        public Placement $place,
        public ?Vec3 $struck = null,
        public ?Vec3 $striker = null,
    ) {
    }
}
