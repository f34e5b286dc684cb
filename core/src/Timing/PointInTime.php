<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Keyable;
use YardBreak\Core\Kinds\Point;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Three numbers, x, y and z, each the same always or over frames. */
final class PointInTime implements Keyable
{
    public static function name(): string
    {
        return 'point';
    }

    /**
     * @return list<float|array<string, mixed>>
     *
     * @throws Problem
     */
    public static function checked(Option $option, mixed $value): array
    {
        if (is_string($value)) {
            return Point::three($option, $value);
        }
        if (! is_array($value) || count($value) !== 3 || ! array_is_list($value)) {
            throw Problem::inValue($option->name, $option->label.' must be three numbers: x, y and z.');
        }
        $out = [];
        foreach ($value as $axis => $v) {
            try {
                $out[] = NumberInTime::inTime($option, $v);
            } catch (Problem $e) {
                throw $e->about($option->name.'['.$axis.']'.substr($e->path, strlen($option->name)));
            }
        }

        return $out;
    }
}
