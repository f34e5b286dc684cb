<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** One of the choices of its option. */
final class Choice implements Kind
{
    public static function name(): string
    {
        return 'choice';
    }

    public static function checked(Option $option, mixed $value): string
    {
        if (! is_string($value) || ! in_array($value, $option->choices, true)) {
            throw Problem::inValue($option->name, $option->label.' must be one of: '.implode(', ', $option->choices).'.');
        }

        return $value;
    }
}
