<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A weight map, by its id. */
final class MapKind implements Kind
{
    public static function name(): string
    {
        return 'map';
    }

    public static function checked(Option $option, mixed $value): string
    {
        if (! is_string($value) || preg_match('/^[a-z0-9-]{0,40}$/', $value) !== 1) {
            throw Problem::inValue($option->name, $option->label.' must be a weight map.');
        }

        return $value;
    }
}
