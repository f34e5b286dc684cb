<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;

/** A drawing of closed lines. */
final class OutlineKind implements Kind
{
    public static function name(): string
    {
        return 'outline';
    }

    public static function checked(Option $option, mixed $value): mixed
    {
        return LinesKind::drawing($option, $value);
    }
}
