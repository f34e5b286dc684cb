<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Entries;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Weight\InTime\Delay;
use YardBreak\Core\Weight\InTime\Fade;
use YardBreak\Core\Weight\InTime\Lag;
use YardBreak\Core\Weight\InTime\Latch;
use YardBreak\Core\Weight\InTime\Ripple;
use YardBreak\Core\Weight\InTime\Spread;
use YardBreak\Core\Weight\InTime\Step;

/** The sources of weights there are, and what can become of a map in time. */
final class WeightCatalogue
{
    /** @var array<string, class-string<Source>> */
    public const SOURCES = [
        'proximity' => Proximity::class,
        'front' => Front::class,
        'ball' => Ball::class,
        'box' => Box::class,
        'stripes' => Stripes::class,
        'grain' => Grain::class,
        'brush' => Brush::class,
        'region' => Region::class,
        'pins' => Pins::class,
        'facing' => Facing::class,
        'hollows' => Hollows::class,
        'picture' => ByPicture::class,
        'pieces' => ByPiece::class,
        'map' => AnotherMap::class,
    ];

    /** @var array<string, class-string<Step>> */
    public const STEPS = [
        'spread' => Spread::class,
        'lag' => Lag::class,
        'ripple' => Ripple::class,
        'latch' => Latch::class,
        'fade' => Fade::class,
        'delay' => Delay::class,
    ];

    /**
     * @return array<string, array{label: string, meaning: string, anywhere: bool, measured: bool, options: list<array<string, mixed>>}> by name of the
     * source; `anywhere`: it can be asked at any place, and so steer a break
     */
    public static function sources(): array
    {
        return array_map(static fn (string $class): array => [
            'label' => $class::label(),
            'meaning' => $class::meaning(),
            'anywhere' => is_subclass_of($class, Pointwise::class),
            'measured' => is_subclass_of($class, Measured::class),
            'options' => array_map(static fn (Option $o): array => $o->toArray(), $class::options()),
        ], self::SOURCES);
    }

    /** @return array<string, array{label: string, meaning: string, options: list<array<string, mixed>>}> */
    public static function steps(): array
    {
        return Entries::describe(self::STEPS);
    }

    /**
     * Lengths that suit a prop better than the defaults, by source and by step.
     *
     * @param  Vec3  $size  of the prop, metres
     * @return array<string, array<string, mixed>>
     */
    public static function lengths(Vec3 $size): array
    {
        return array_filter(array_map(static fn (string $class): array => Option::suiting($class::options(), $size->toArray()), self::SOURCES + self::STEPS));
    }
}
