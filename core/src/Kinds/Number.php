<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A number within the range of its option. */
final class Number implements Kind
{
    public static function name(): string
    {
        return 'number';
    }

    public static function checked(Option $option, mixed $value): float
    {
        return self::number($option, $value);
    }

    /** @throws Problem */
    public static function number(Option $option, mixed $value): float
    {
        if (is_string($value) && is_numeric($value)) {
            $value += 0;
        }
        if (! is_int($value) && ! is_float($value) || ! is_finite((float) $value)) {
            throw Problem::inValue($option->name, $option->label.' must be a number.');
        }
        if ($value < $option->least || $value > $option->most) {
            throw Problem::outOfRange($option->name, $option->label, $value, $option->range());
        }

        return (float) $value;
    }
}
