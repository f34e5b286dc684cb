<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Places, at least one. */
final class Points implements Kind
{
    public static function name(): string
    {
        return 'points';
    }

    public static function checked(Option $option, mixed $value): mixed
    {
        return self::several($option, $value, 1, 'one');
    }

    /**
     * @return list<array{float, float, float}>
     *
     * @throws Problem
     */
    public static function several(Option $option, mixed $value, int $least, string $inWords): array
    {
        if (is_string($value)) {
            $value = explode(';', $value);
        }
        if (! is_array($value) || count($value) < $least || count($value) > 1000) {
            throw Problem::inValue($option->name, $option->label.' must be a list of '.$inWords.' to 1000 points.');
        }

        return array_map(static fn (mixed $p): array => Point::three($option, $p), array_values($value));
    }
}
