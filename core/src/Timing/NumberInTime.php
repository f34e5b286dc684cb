<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Keyable;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A number within the range of its option, the same always or over frames. */
final class NumberInTime implements Keyable
{
    public static function name(): string
    {
        return 'number';
    }

    /** @return float|array<string, mixed> */
    public static function checked(Option $option, mixed $value): float|array
    {
        return self::inTime($option, $value);
    }

    /**
     * @return float|array<string, mixed>
     *
     * @throws Problem naming the key that is out of range
     */
    public static function inTime(Option $option, mixed $value): float|array
    {
        if (! $value instanceof \stdClass && (! is_array($value) || array_is_list($value))) {
            return Number::number($option, $value);
        }
        $value = (array) json_decode((string) json_encode($value), true);
        foreach (is_array($value['keys'] ?? null) ? $value['keys'] : [] as $k => $key) {
            try {
                Number::number($option, is_array($key) ? $key['value'] ?? null : null);
            } catch (Problem $e) {
                throw $e->about($option->name.'.keys['.$k.'].value');
            }
        }

        return $value;
    }
}
