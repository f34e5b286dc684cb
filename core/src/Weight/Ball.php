<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\PointInTime;

/** By the distance to a point. */
final readonly class Ball implements Measured, Pointwise
{
    use ByDistance;

    private function __construct(private Vec3 $middle, private Reach $reach)
    {
    }

    public static function label(): string
    {
        return 'Ball';
    }

    public static function meaning(): string
    {
        return 'Round a point';
    }

    public static function options(): array
    {
        return [
            new Option('middle', 'Middle', 'Of the ball.', PointInTime::class, [0.0, 0.0, 0.0], -1000, 1000, 'm'),
            ...Reach::options(0.1, 0.3, share: 0.15),
        ];
    }

    public static function of(array $values): self
    {
        return new self(Vec3::of($values['middle']), Reach::of($values));
    }

    private function distance(float $x, float $y, float $z): float
    {
        $x -= $this->middle->x;
        $y -= $this->middle->y;
        $z -= $this->middle->z;

        return sqrt($x * $x + $y * $y + $z * $z);
    }
}
