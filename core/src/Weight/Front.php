<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\PointInTime;

/** By how far a point lies before a plane. */
final readonly class Front implements Measured, Pointwise
{
    use ByDistance;

    private function __construct(private Vec3 $point, private Vec3 $direction, private Reach $reach)
    {
    }

    public static function label(): string
    {
        return 'Front';
    }

    public static function meaning(): string
    {
        return 'Behind a plane';
    }

    public static function options(): array
    {
        return [
            new Option('point', 'Through', 'A point of the plane.', PointInTime::class, [0.0, 0.0, 0.0], -1000, 1000, 'm'),
            new Option('direction', 'Towards', 'The way the front looks; behind it the weight is full.', PointInTime::class, [0.0, 1.0, 0.0], -1, 1),
            ...Reach::options(0.0, 0.1, -1000.0),
        ];
    }

    public static function of(array $values): self
    {
        $direction = Vec3::of($values['direction']);
        if ($direction->length() < 1e-6) {
            throw Problem::inValue('direction', 'The direction of the front has no length.', 'Give it a direction, such as 0,1,0.');
        }

        return new self(Vec3::of($values['point']), $direction->unit(), Reach::of($values));
    }

    private function distance(float $x, float $y, float $z): float
    {
        return ($x - $this->point->x) * $this->direction->x + ($y - $this->point->y) * $this->direction->y + ($z - $this->point->z) * $this->direction->z;
    }
}
