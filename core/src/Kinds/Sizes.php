<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;

/** Three lengths, or three counts, one along each axis. */
final class Sizes implements Kind
{
    public static function name(): string
    {
        return 'sizes';
    }

    public static function checked(Option $option, mixed $value): mixed
    {
        return Point::three($option, $value);
    }
}
