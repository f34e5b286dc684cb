<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;

/** A solid moved to the origin and scaled to one unit across, so that tolerances mean the same for all. */
final readonly class UnitFrame
{
    public Mesh $unit;

    public Vec3 $centre;

    /** Metres a unit. */
    public float $scale;

    /** Half the solid's extents, in units. */
    public Vec3 $half;

    /** @throws Problem where the solid has no extent */
    public function __construct(public Mesh $solid)
    {
        $box = Aabb::around($solid);
        $this->centre = $box->centre();
        $size = $box->size();
        $this->scale = max($size->x, $size->y, $size->z);
        if ($this->scale <= 0.0) {
            throw Problem::inMesh('The mesh has no extent: all its points are in one place.');
        }
        $this->half = $size->times(0.5 / $this->scale);
        $this->unit = $solid->movedBy($this->centre->times(-1.0))->scaledBy(1.0 / $this->scale);
    }

    /** @param  array{float, float, float}  $point  in the unit frame */
    public function inMetres(array $point): Vec3
    {
        return new Vec3($this->centre->x + $this->scale * $point[0], $this->centre->y + $this->scale * $point[1], $this->centre->z + $this->scale * $point[2]);
    }

    public function inUnits(Vec3 $point): Vec3
    {
        return $point->minus($this->centre)->times(1.0 / $this->scale);
    }
}
