<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Another prop: its id, or its mesh. */
final class MeshKind implements Kind
{
    public static function name(): string
    {
        return 'prop';
    }

    public static function checked(Option $option, mixed $value): string|Mesh
    {
        if (! $value instanceof Mesh && (! is_string($value) || mb_strlen($value) > 200)) {
            throw Problem::inValue($option->name, $option->label.' must be a prop.');
        }

        return $value;
    }
}
