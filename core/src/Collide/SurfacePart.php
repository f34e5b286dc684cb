<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

/** A part of a surface that was cut, and how deep it lies inside its own hull. */
final readonly class SurfacePart
{
    /**
     * @param  list<list<float>>  $faces  the corners of each, one after the other
     * @param  list<int>  $places  of SurfacePlaces
     * @param  list<array{float, float, float, float}>  $cuts  planes it was cut by, outwards: unit normal and level
     * @param  list<int>  $cells  of the cuts it is made of
     * @param  float  $depth  metres that its surface lies inside its hull at most
     * @param  list<int>  $deep  places that lie deeper than they may
     * @param  int  $at  the one from which it is farthest to the outside, straight ahead
     * @param  float  $bulk  cubic metres between these and the outside
     * @param  float  $volume  of its hull
     * @param  array{float, float, float, float, float, float}  $box  x low, x high, y low, y high, z low, z high
     */
    public function __construct(
        public array $faces,
        public array $places,
        public array $cuts,
        public array $cells,
        public float $depth,
        public array $deep,
        public int $at,
        public float $bulk,
        public float $volume,
        public array $box,
    ) {
    }

    /** Whether their boxes come as near. */
    public function isBeside(self $other, float $near): bool
    {
        for ($k = 0; $k < 6; $k += 2) {
            if ($this->box[$k] > $other->box[$k + 1] + $near || $other->box[$k] > $this->box[$k + 1] + $near) {
                return false;
            }
        }

        return true;
    }

    /** @return list<array{float, float, float, float}> planes across its box through the middle of that */
    public function middles(): array
    {
        return [
            [1.0, 0.0, 0.0, 0.5 * ($this->box[0] + $this->box[1])], [0.0, 1.0, 0.0, 0.5 * ($this->box[2] + $this->box[3])],
            [0.0, 0.0, 1.0, 0.5 * ($this->box[4] + $this->box[5])],
        ];
    }

    /**
     * Cuts that both together end at: those of either but not of both, from opposite sides.
     *
     * @return list<array{float, float, float, float}>
     */
    public function cutsWith(self $other): array
    {
        return [...self::without($this->cuts, $other->cuts), ...self::without($other->cuts, $this->cuts)];
    }

    /**
     * @param  list<array{float, float, float, float}>  $cuts
     * @param  list<array{float, float, float, float}>  $others
     * @return list<array{float, float, float, float}> those the others do not have from the other side
     */
    private static function without(array $cuts, array $others): array
    {
        return array_values(array_filter($cuts, static fn (array $cut): bool => ! in_array(self::turned($cut), $others, false)));
    }

    /**
     * @param  array{float, float, float, float}  $plane
     * @return array{float, float, float, float} the same from the other side
     */
    public static function turned(array $plane): array
    {
        return [-$plane[0], -$plane[1], -$plane[2], -$plane[3]];
    }
}
