<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A place in the prop's own coordinates, as three numbers. */
final class Point implements Kind
{
    public static function name(): string
    {
        return 'point';
    }

    public static function checked(Option $option, mixed $value): mixed
    {
        return self::three($option, $value);
    }

    /**
     * @return array{float, float, float}
     *
     * @throws Problem
     */
    public static function three(Option $option, mixed $value): array
    {
        if (is_string($value)) {
            $value = array_map(static fn (string $v): mixed => is_numeric($v) ? (float) $v : $v, explode(',', $value));
        }
        if (
            ! is_array($value)
            || count($value) !== 3
            || array_filter($value, static fn (mixed $v): bool => ! is_int($v) && ! is_float($v) || ! is_finite((float) $v)) !== []
        ) {
            throw Problem::inValue($option->name, $option->label.' must be three numbers: x, y and z.');
        }

        [$x, $y, $z] = array_map(static fn (int|float $v): float => Number::number($option, $v), array_values($value));

        return [$x, $y, $z];
    }
}
