<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Push;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;

/** The way the surface looks. */
final readonly class Outwards implements Push
{
    private function __construct(private float $speed)
    {
    }

    public static function label(): string
    {
        return 'Outwards';
    }

    public static function meaning(): string
    {
        return 'The way its surface looks';
    }

    public static function options(): array
    {
        return [new Option('speed', 'Speed', 'Below 0 it goes inwards.', NumberInTime::class, 1.0, -1000, 1000, 'm/s')];
    }

    public static function of(array $values): self
    {
        return new self($values['speed']);
    }

    public function on(Leaving $piece): Sent
    {
        return new Sent($piece->normal->times($this->speed), Vec3::zero());
    }
}
