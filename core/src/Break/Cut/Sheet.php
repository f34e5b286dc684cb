<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Geometry\Vec3;

/**
 * The surface of one cut: a plane, or a relief over a plane. In units of the frame it is cut in.
 */
final class Sheet
{
    public readonly Vec3 $u;

    public readonly Vec3 $v;

    /** @var array<int, int> points already made where it meets an edge, shared by all pieces it cuts */
    public array $met = [];

    /** @var array<int, float> distances of points near it, each worked out once */
    public array $known = [];

    /**
     * @param  Vec3  $normal  unit length
     * @param  Vec3  $through  a point of the plane, where the relief is measured from
     * @param  float  $height  of the relief; 0 is flat
     * @param  float  $wave  its longest wave
     * @param  float  $step  edge length of the triangles that carry it
     * @param  float  $bow  how far it is bent, by one unit from the middle
     */
    public function __construct(
        public readonly Vec3 $normal,
        public readonly Vec3 $through,
        public readonly float $height = 0.0,
        public readonly float $wave = 1.0,
        public readonly float $step = 0.0,
        public readonly float $bow = 0.0,
        private readonly ?Noise $noise = null,
    ) {
        $u = abs($normal->x) < 0.6 ? new Vec3(1, 0, 0) : new Vec3(0, 1, 0);
        $this->u = $u->minus($normal->times($u->dot($normal)))->unit();
        $this->v = $normal->cross($this->u);
    }

    public function isFlat(): bool
    {
        return $this->height === 0.0 && $this->bow === 0.0;
    }

    /** How far above its plane the sheet lies. */
    public function relief(float $u, float $v): float
    {
        $h = $this->bow === 0.0 ? 0.0 : $this->bow * ($u * $u + $v * $v);
        if ($this->noise !== null && $this->height > 0.0) {
            $k = 1.0 / $this->wave;
            $h += $this->height * ($this->noise->onPlane($u * $k, $v * $k, 0) + 0.5 * $this->noise->onPlane(2.0 * $u * $k, 2.0 * $v * $k, 5) + 0.25 * $this->noise->onPlane(4.0 * $u * $k, 4.0 * $v * $k, 9));
        }

        return $h;
    }

    /** Signed distance along the normal from the sheet, positive before it; far from the sheet, from its plane. */
    public function from(float $x, float $y, float $z): float
    {
        $x -= $this->through->x;
        $y -= $this->through->y;
        $z -= $this->through->z;
        $n = $this->normal;
        $s = $n->x * $x + $n->y * $y + $n->z * $z;
        $reach = $this->reach();
        // So far from the plane the relief cannot change the side; what it is there is not asked.
        if ($s > $reach || $s < -$reach) {
            return $s;
        }

        return $s - $this->relief($this->u->x * $x + $this->u->y * $y + $this->u->z * $z, $this->v->x * $x + $this->v->y * $y + $this->v->z * $z);
    }

    /** How far from its plane the sheet can be, anywhere in the frame. */
    public function reach(): float
    {
        // The three octaves of the noise add up to 1.75, and a square of the frame's width is 3 at most.
        return 1.8 * $this->height + 3.0 * abs($this->bow);
    }

    /** An upper bound for how fast the relief rises, anywhere in the frame. */
    public function steepness(): float
    {
        // A gradient of the noise is below 2.2, and each octave is as steep as the last.
        return $this->height / $this->wave * 3.0 * 2.2 + 3.5 * abs($this->bow);
    }
}
