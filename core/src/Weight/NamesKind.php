<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Pieces, by name. */
final class NamesKind implements Kind
{
    private const MOST = 10_000;

    public static function name(): string
    {
        return 'names';
    }

    /** @return list<string> */
    public static function checked(Option $option, mixed $value): array
    {
        if (
            ! is_array($value)
            || ! array_is_list($value)
            || count($value) > self::MOST
            || array_filter($value, static fn (mixed $v): bool => ! is_string($v) || strlen($v) > 200) !== []
        ) {
            throw Problem::inValue($option->name, $option->label.' must be a list of names, at most '.self::MOST.'.');
        }

        return $value;
    }
}
