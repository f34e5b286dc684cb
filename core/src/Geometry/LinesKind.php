<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A drawing of lines, open or closed. */
final class LinesKind implements Kind
{
    public static function name(): string
    {
        return 'lines';
    }

    public static function checked(Option $option, mixed $value): mixed
    {
        return self::drawing($option, $value);
    }

    /**
     * @return array<mixed> as it was given
     *
     * @throws Problem
     */
    public static function drawing(Option $option, mixed $value): array
    {
        if (! is_array($value)) {
            throw Problem::inValue($option->name, $option->label.' must be a drawing.');
        }
        try {
            Outline::of($value);
        } catch (Problem $e) {
            throw $e->at($option->name);
        }

        return $value;
    }
}
