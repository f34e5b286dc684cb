<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Geometry\Vec3;

/** The surfaces of all that stands or moves at a moment, for whatever must not go through them. */
interface Surfaces
{
    /**
     * The nearest surface to a point.
     *
     * @param  float  $within  metres; what is farther off is not looked for
     */
    public function nearest(Vec3 $point, float $within): ?SurfacePoint;
}
