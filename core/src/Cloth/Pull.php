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
     * @param  list<float>  $slows  N·s/m by which each is braked as it gains speed; none where none is
     * @param  array<int, float>  $hold  0…1, how much points are held that are
     * @param  array<int, array{float, float, float}>  $home  m, where those are held at the end of the sub-step
     * @param  array<int, array{float, float, float}>  $go  m/s, of that place
     * @param  list<float>|null  $growth  times its rest length, by point; null for none
     * @param  float  $damping  s
     * @param  Filling|null  $filling  what its closed parts are filled with
     * @param  array<int, Contact>  $touch
     * @param  Apart|null  $apart  what of it lies on itself
     * @param  array<int, array<int, Partner>>  $partners  what is free that it touches, by prop and piece
     */
    public function __construct(
        public array $fx,
        public array $fy,
        public array $fz,
        public array $slows,
        public array $hold,
        public array $home,
        public array $go,
        public ?array $growth,
        public float $damping,
        public ?Filling $filling,
        public array $touch = [],
        public array $partners = [],
        public ?Apart $apart = null,
    ) {
    }
}
