<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

/**
 * A solid cut into cells that share their points by number. Points below the number of the solid's own are the
 * solid's own.
 */
final readonly class Cut
{
    /**
     * @param  list<float>  $px  points, in the unit frame
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<list<int>>  $faces  flat triples of points, a list a cell
     * @param  list<list<int>>  $origins  what each face is part of: a face of the solid (≥ 0), or −1 − 2·wall for the side of a wall its normal
     *   points away from, −2 − 2·wall for the other
     * @param  list<array{float, float, float}>  $walls  unit normal of each wall
     * @param  list<list<int>>|null  $sides  the side each face of the solid's surface is on now, where the cut decides; 0 leaves it as it was
     */
    public function __construct(
        public array $px,
        public array $py,
        public array $pz,
        public array $faces,
        public array $origins,
        public array $walls,
        public ?array $sides = null,
    ) {
    }
}
