<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Flakes;
use YardBreak\Core\Break\Halving;
use YardBreak\Core\Break\OfSurfaces;
use YardBreak\Core\Break\Parts;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\Plan\Courses;
use YardBreak\Core\Break\Plan\Punch;
use YardBreak\Core\Break\Plan\Score;
use YardBreak\Core\Break\Plan\Stencil;
use YardBreak\Core\Break\Plan\Strike;
use YardBreak\Core\Break\Plan\Tiles;
use YardBreak\Core\Entries;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Every break pattern, by name. */
final class BreakCatalogue
{
    /** @var array<string, class-string<Pattern>> */
    public const PATTERNS = [
        'cells' => Cells::class,
        'halving' => Halving::class,
        'strike' => Strike::class,
        'courses' => Courses::class,
        'tiles' => Tiles::class,
        'flakes' => Flakes::class,
        'stencil' => Stencil::class,
        'score' => Score::class,
        'punch' => Punch::class,
        'parts' => Parts::class,
    ];

    /**
     * @param  array<string, mixed>  $values
     *
     * @throws Problem for an unknown pattern or value
     */
    public static function make(string $name, array $values): Pattern
    {
        $class = self::PATTERNS[$name]
            ?? throw Problem::inValue(
                'pattern',
                'There is no pattern called "'.mb_substr($name, 0, 40).'".',
                'Choose one of: '.implode(', ', array_keys(self::PATTERNS)).'.',
            );

        return $class::of(Option::resolve($class::options(), $values));
    }

    /** @param  array{pattern: string, values: array<string, mixed>}  $break */
    public static function needsSolid(array $break): bool
    {
        $class = self::PATTERNS[$break['pattern']] ?? null;

        return ! is_a($class ?? '', OfSurfaces::class, true) || $class::needsSolid($break['values']);
    }

    /**
     * Lengths that suit a prop of this size better than the defaults, by pattern.
     *
     * @return array<string, array<string, mixed>>
     */
    public static function lengths(Vec3 $size): array
    {
        return array_filter(array_map(static fn (string $class): array => Option::suiting($class::options(), $size->toArray()), self::PATTERNS));
    }

    /** The setting that decides how much of a break there is, or null where none does. */
    public static function amount(string $pattern): ?Option
    {
        $class = self::PATTERNS[$pattern] ?? null;
        foreach ($class === null ? [] : $class::options() as $option) {
            if ($option->kind === Whole::class && $option->name !== 'seed') {
                return $option;
            }
        }

        return null;
    }

    /** @return array<string, array{label: string, meaning: string, options: list<array<string, mixed>>}> */
    public static function describe(): array
    {
        return Entries::describe(self::PATTERNS);
    }
}
