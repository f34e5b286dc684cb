<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;

/** A direction, as three numbers. */
final class Direction implements Kind
{
    public static function name(): string
    {
        return 'direction';
    }

    public static function checked(Option $option, mixed $value): mixed
    {
        return Point::three($option, $value);
    }
}
