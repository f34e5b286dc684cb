<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A colour of the web as `#rrggbb`, or none. */
final class Colour implements Kind
{
    public static function name(): string
    {
        return 'colour';
    }

    public static function checked(Option $option, mixed $value): string
    {
        if (! is_string($value) || $value !== '' && preg_match('/^#[0-9a-fA-F]{6}$/', $value) !== 1) {
            throw Problem::inValue($option->name, $option->label.' must be a colour such as #a0522d, or none.');
        }

        return $value;
    }
}
