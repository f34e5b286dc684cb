<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;

/** Places in order, at least two. */
final class Path implements Kind
{
    public static function name(): string
    {
        return 'path';
    }

    public static function checked(Option $option, mixed $value): mixed
    {
        return Points::several($option, $value, 2, 'two');
    }
}
