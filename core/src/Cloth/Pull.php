<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/** What acts on a sheet over a sub-step. */
final class Pull
{
    /**
     * @param  list<float>  $fx  N on each point from outside
     * @param  list<float>  $fy
     * @param  list<float>  $fz
     * @param  list<float>  $slows  N·s/m by which each is braked as it gains speed
     * @param  list<float>  $hold  0…1, how much each is held
     * @param  list<float>  $homeX  m, where each is held at the end of the sub-step
     * @param  list<float>  $homeY
     * @param  list<float>  $homeZ
     * @param  list<float>  $goX  m/s, of that place
     * @param  list<float>  $goY
     * @param  list<float>  $goZ
     * @param  list<float>|null  $growth  times its rest length, by point; null for none
     * @param  float  $damping  s
     * @param  array<int, array{float, float, float, float, float, float, float, float}>  $touch  by point: normal of what it may touch, the least speed along that,
     *   m/s of the surface, and friction
     * @param  list<array{int, int, float, float, float, float}>  $off  two points, the least speed with which they may part, and the way from the second to the first
     */
    public function __construct(
        public array $fx,
        public array $fy,
        public array $fz,
        public array $slows,
        public array $hold,
        public array $homeX,
        public array $homeY,
        public array $homeZ,
        public array $goX,
        public array $goY,
        public array $goZ,
        public ?array $growth,
        public float $damping,
        public array $touch = [],
        public array $off = [],
    ) {
    }
}
