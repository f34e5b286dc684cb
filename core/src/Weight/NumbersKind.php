<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Whole numbers, each within the range of its option. */
final class NumbersKind implements Kind
{
    private const MOST = 200_000;

    public static function name(): string
    {
        return 'numbers';
    }

    /** @return list<int> */
    public static function checked(Option $option, mixed $value): array
    {
        if (! is_array($value) || ! array_is_list($value) || count($value) > self::MOST) {
            throw Problem::inValue($option->name, $option->label.' must be a list of numbers, at most '.self::MOST.'.');
        }
        foreach ($value as $k => $v) {
            if (! is_int($v) || $v < $option->least || $v > $option->most) {
                throw Problem::inValue($option->name.'['.$k.']', $option->label.' must be whole numbers '.$option->range().'.');
            }
        }

        return $value;
    }
}
