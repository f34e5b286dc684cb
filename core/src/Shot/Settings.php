<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** What can be set of the world, and of how a prop stands and looks: the single source of the bench, the checks and the lanes on the cue sheet. */
final class Settings
{
    /** @return list<Option> */
    public static function world(): array
    {
        return [
            new Option(
                'gravity',
                'Gravity',
                'What pulls everything; y is up, and 9.80665 m/s² downwards holds on the ground.',
                PointInTime::class,
                [0.0, -9.80665, 0.0],
                -1000.0,
                1000.0,
                'm/s²',
            ),
            new Option('pace', 'Pace', 'How fast time passes for all that moves by itself: 1 as on the clock, 0.1 slow motion, 0 a stop. The motion stays the same.', NumberInTime::class, 1.0, 0.0, 10.0),
            new Option('friction', 'Ground friction', 'How much the ground holds what slides on it.', NumberInTime::class, 0.6, 0.0, 5.0),
            new Option('bounce', 'Ground bounce', 'Share of its speed that what hits the ground keeps.', NumberInTime::class, 0.05, 0.0, 1.0),
        ];
    }

    /** @return list<Option> */
    public static function force(): array
    {
        return [new Option('amount', 'Amount', 'How much of it there is; keyed to 0 it is off.', NumberInTime::class, 1.0, 0.0, 1.0, '%')];
    }

    /** @return list<Option> */
    public static function place(): array
    {
        return [
            new Option('position', 'Position', 'Where the prop stands.', PointInTime::class, [0.0, 0.0, 0.0], -100000.0, 100000.0, 'm'),
            new Option('turn', 'Turn', 'About x, then y, then z; 0 to 360 is one full turn.', PointInTime::class, [0.0, 0.0, 0.0], -100000.0, 100000.0, '°'),
            new Option(
                'size',
                'Size',
                'Times the size it was made at. Broken as large as it ever is; keyed to 0 it is gone.',
                NumberInTime::class,
                1.0,
                0.0,
                1000.0,
            ),
            new Option(
                'seen',
                'Seen',
                'Whether the prop is shown: at 50 % and above it is, below it is not. What is not shown still collides.',
                NumberInTime::class,
                1.0,
                0.0,
                1.0,
            ),
        ];
    }

    /** @return list<Option> */
    public static function material(): array
    {
        return [
            new Option('density', 'Density', 'What a cubic metre of it weighs.', Number::class, 1000.0, 1.0, 30000.0, 'kg/m³'),
            new Option('friction', 'Friction', 'How much it holds what slides on it.', NumberInTime::class, 0.5, 0.0, 5.0),
            new Option('bounce', 'Bounce', 'Share of its speed it keeps at a hit.', NumberInTime::class, 0.1, 0.0, 1.0),
            new Option('roughness', 'Roughness', 'How dull the outside is, from mirror (0) to chalk (1).', NumberInTime::class, null, 0.0, 1.0),
            new Option('innerRoughness', 'Inside roughness', 'How dull what a break lays open is.', Number::class, null, 0.0, 1.0),
            new Option('tint', 'Tint', 'How much of the tint colour is mixed into the outside.', NumberInTime::class, 0.0, 0.0, 1.0),
        ];
    }

    /** @return list<Option> of the shot's camera */
    public static function camera(): array
    {
        return [
            new Option('position', 'Camera at', 'Where the camera stands.', PointInTime::class, [0.0, 1.6, 5.0], -100000.0, 100000.0, 'm'),
            new Option('target', 'Looks at', 'What is in the middle of its picture.', PointInTime::class, [0.0, 0.5, 0.0], -100000.0, 100000.0, 'm'),
            new Option('focal', 'Focal length', 'Short sees wide, long sees far.', NumberInTime::class, 35.0, 1.0, 2000.0, 'mm'),
            new Option(
                'film',
                'Film width',
                'How wide what catches the picture is; with the focal length it makes the field of view.',
                NumberInTime::class,
                36.0,
                1.0,
                200.0,
                'mm',
            ),
            new Option('roll', 'Leans', 'How far it leans to the right, about where it looks.', NumberInTime::class, 0.0, -100000.0, 100000.0, '°'),
        ];
    }

    /** @return list<Option> of the plate */
    public static function plate(): array
    {
        return [new Option('opacity', 'Opacity', 'How much the plate covers what is behind it.', NumberInTime::class, 1.0, 0.0, 1.0)];
    }

    /** @return list<Option> of what stands out of a surface by a weight map */
    public static function relief(): array
    {
        return [new Option(
            'depth',
            'Relief',
            'How far the surface stands out where the map is full; below 0 it is sunk.',
            NumberInTime::class,
            0.02,
            -1000.0,
            1000.0,
            'm',
        )];
    }

    /** @return array<string, list<array<string, mixed>>> */
    public static function describe(): array
    {
        return array_map(static fn (array $options): array => array_map(static fn (Option $o): array => $o->toArray(), $options), [
            'world' => self::world(),
            'place' => self::place(),
            'material' => self::material(),
            'camera' => self::camera(),
            'plate' => self::plate(),
            'relief' => self::relief(),
            'force' => self::force(),
        ]);
    }
}
