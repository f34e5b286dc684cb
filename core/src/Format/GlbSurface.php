<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

/** How one side of a piece looks in a hand-off file. */
final readonly class GlbSurface
{
    /**
     * @param  array{float, float, float}  $colour  linear; what a picture shows takes its place
     * @param  string|null  $picture  path of a PNG or JPEG picture
     * @param  float  $metres  how many metres of a mesh's places in a picture make one picture
     */
    public function __construct(public array $colour, public float $roughness, public ?string $picture = null, public float $metres = 1.0)
    {
    }

    /** @return array{float, float, float} between its own colour and another's */
    public function mixedWith(self $other, float $share): array
    {
        return [
            $this->colour[0] + $share * ($other->colour[0] - $this->colour[0]),
            $this->colour[1] + $share * ($other->colour[1] - $this->colour[1]),
            $this->colour[2] + $share * ($other->colour[2] - $this->colour[2]),
        ];
    }
}
