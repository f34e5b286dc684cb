<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

/** How far pieces are from where they belong: moved, turned about their own middles, and sized; one entry a piece, in the prop's own coordinates. */
final class Flight
{
    /** @var list<float> metres */
    public array $x;

    /** @var list<float> */
    public array $y;

    /** @var list<float> */
    public array $z;

    /** @var list<float> turn as axis times angle, radians */
    public array $rx;

    /** @var list<float> */
    public array $ry;

    /** @var list<float> */
    public array $rz;

    /** @var list<float> share of its full size */
    public array $size;

    public function __construct(int $pieces)
    {
        $none = array_fill(0, $pieces, 0.0);
        [$this->x, $this->y, $this->z, $this->rx, $this->ry, $this->rz] = [$none, $none, $none, $none, $none, $none];
        $this->size = array_fill(0, $pieces, 1.0);
    }
}
