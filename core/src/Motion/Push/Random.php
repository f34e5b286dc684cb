<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Push;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\NumberInTime;

/** Every way, each piece its own, and turning. */
final readonly class Random implements Push
{
    private function __construct(private float $speed, private float $spin, private int $seed)
    {
    }

    public static function label(): string
    {
        return 'Random';
    }

    public static function meaning(): string
    {
        return 'Each piece a way and a turn of its own';
    }

    public static function options(): array
    {
        return [
            new Option('speed', 'Speed', 'At most.', NumberInTime::class, 0.5, 0, 1000, 'm/s'),
            new Option('spin', 'Spin', 'At most.', NumberInTime::class, 180.0, 0, 100000, '°/s'),
            new Option('seed', 'Seed', 'Another number gives other ways.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['speed'], $values['spin'], $values['seed']);
    }

    /** Evenly from all that is within a ball. */
    public function on(Leaving $piece): Sent
    {
        // Of each piece the same, whichever are let go with it.
        $random = new SeededRandom($this->seed * 1_000_003 + $piece->number);

        return new Sent(self::within($random)->times($this->speed), self::within($random)->times($this->spin * M_PI / 180.0));
    }

    private static function within(SeededRandom $random): Vec3
    {
        do {
            $v = new Vec3($random->between(-1.0, 1.0), $random->between(-1.0, 1.0), $random->between(-1.0, 1.0));
        } while ($v->length() > 1.0);

        return $v;
    }
}
