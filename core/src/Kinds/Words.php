<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Letters, as many as the range of its option says. */
final class Words implements Kind
{
    public static function name(): string
    {
        return 'text';
    }

    public static function checked(Option $option, mixed $value): string
    {
        if (! is_string($value) || mb_strlen($value) < $option->least || mb_strlen($value) > $option->most) {
            throw Problem::inValue($option->name, sprintf('%s must be a text of %d to %d letters.', $option->label, $option->least, $option->most));
        }

        return $value;
    }
}
