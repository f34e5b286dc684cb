<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;

/** A piece as one body in motion: all another mover needs to take it into a solve of its own. */
final readonly class Body
{
    /**
     * @param  float  $mass  kg; what is driven or held has INF
     * @param  array{float, float, float, float, float, float}  $inertia  xx, yy, zz, xy, yz, zx about its middle, in its own axes, kg·m²
     * @param  Vec3  $at  its middle
     * @param  Vec3  $velocity  m/s, of the middle
     * @param  Vec3  $spin  rad/s
     * @param  float  $growth  1/s: how fast it draws away from its middle, where its size changes
     */
    public function __construct(
        public float $mass,
        public array $inertia,
        public Vec3 $at,
        public Quaternion $turn,
        public Vec3 $velocity,
        public Vec3 $spin,
        public float $growth = 0.0,
    ) {
    }

    /**
     * What is driven: where it is just before a moment, at it and just after.
     *
     * @param  float  $seconds  from the one before to the one after
     * @param  Vec3|null  $turned  radians in between, where whole turns are known to count
     */
    public static function driven(Pose $before, Pose $now, Pose $after, float $seconds, ?Vec3 $turned = null): self
    {
        $least = 1e-9;

        return new self(
            INF,
            [INF, INF, INF, 0.0, 0.0, 0.0],
            $now->at,
            $now->turn,
            $after->at->minus($before->at)->times(1.0 / $seconds),
            ($turned ?? $before->turn->rotationTo($after->turn))->times(1.0 / $seconds),
            ($after->size - $before->size) / (max($least, $now->size) * $seconds),
        );
    }

    /** m/s, of a place on it. */
    public function velocityAt(Vec3 $place): Vec3
    {
        $arm = $place->minus($this->at);

        return $this->velocity->plus($this->spin->cross($arm))->plus($arm->times($this->growth));
    }
}
