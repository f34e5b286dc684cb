<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;

/** One piece of a broken prop, in the prop's own coordinates. */
final readonly class Shard
{
    /** @param  string  $name stable for the same prop, pattern and seed */
    public function __construct(public string $name, public Mesh $mesh, public MassProperties $mass)
    {
    }

    /** Twice volume over area, metres: of a plate, how thick it is. */
    public function thickness(): float
    {
        return 2.0 * $this->mass->volume / max(1e-300, array_sum(FaceNormals::areas($this->mesh)));
    }

    /** Which way its outer surface looks on the whole, of unit length; none where it has no outer surface, or it looks every way. */
    public function outwards(): Vec3
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($this->mesh);
        $sum = Vec3::zero();
        foreach ($nx as $f => $x) {
            if (($this->mesh->sides[$f] ?? Mesh::OUTER) !== Mesh::INNER) {
                $sum = $sum->plus(new Vec3($x, $ny[$f], $nz[$f]));
            }
        }

        return $sum->length() > 1e-12 ? $sum->unit() : Vec3::zero();
    }

    /** The point its place is told by: its centroid, or the prop's origin where it is turned inside out. */
    public function centre(): Vec3
    {
        return $this->mass->volume >= 0.0 ? $this->mass->centroid : Vec3::zero();
    }
}
