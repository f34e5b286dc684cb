<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Points of a half plane: radius and height. */
final class Profile implements Kind
{
    public static function name(): string
    {
        return 'profile';
    }

    public static function checked(Option $option, mixed $value): mixed
    {
        if (! is_array($value) || count($value) > 1000) {
            throw Problem::inValue($option->name, $option->label.' must be a list of points.');
        }
        $number = static fn (mixed $v): bool => (is_int($v) || is_float($v)) && is_finite((float) $v);
        foreach (array_values($value) as $k => $p) {
            if (
                ! is_array($p)
                || count($p) !== 2
                || ! $number($p[0] ?? null)
                || ! $number($p[1] ?? null)
                || $p[0] < 0
                || $p[0] > $option->most
                || abs($p[1]) > $option->most
            ) {
                throw Problem::inValue($option->name.'['.$k.']', 'A profile point is a radius of 0 or more and a height.', 'Correct it, or take it out.');
            }
        }

        return array_map(static fn (array $p): array => [(float) $p[0], (float) $p[1]], array_values($value));
    }
}
