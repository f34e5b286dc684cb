<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\PointInTime;

/** Within a box, and by the distance to it outside. */
final readonly class Box implements Measured, Pointwise
{
    use ByDistance;

    private function __construct(private Vec3 $middle, private Vec3 $half, private Reach $reach)
    {
    }

    public static function label(): string
    {
        return 'Box';
    }

    public static function meaning(): string
    {
        return 'Within a box and close to it';
    }

    public static function options(): array
    {
        return [
            new Option('middle', 'Middle', 'Of the box.', PointInTime::class, [0.0, 0.0, 0.0], -1000, 1000, 'm'),
            new Option('size', 'Size', 'Along x, y and z.', PointInTime::class, [0.5, 0.5, 0.5], 0, 1000, 'm'),
            ...Reach::options(0.0, 0.1),
        ];
    }

    public static function of(array $values): self
    {
        return new self(Vec3::of($values['middle']), Vec3::of($values['size'])->times(0.5), Reach::of($values));
    }

    private function distance(float $x, float $y, float $z): float
    {
        $x = max(0.0, abs($x - $this->middle->x) - $this->half->x);
        $y = max(0.0, abs($y - $this->middle->y) - $this->half->y);
        $z = max(0.0, abs($z - $this->middle->z) - $this->half->z);

        return sqrt($x * $x + $y * $y + $z * $z);
    }
}
