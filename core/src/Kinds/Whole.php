<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A whole number within the range of its option. */
final class Whole implements Kind
{
    public static function name(): string
    {
        return 'whole';
    }

    public static function checked(Option $option, mixed $value): int
    {
        $number = is_string($value) && is_numeric($value) ? $value + 0 : $value;
        if ((is_int($number) || is_float($number)) && is_finite((float) $number) && floor((float) $number) !== (float) $number) {
            throw Problem::inValue($option->name, $option->label.' must be a whole number.');
        }

        return (int) Number::number($option, $number);
    }
}
