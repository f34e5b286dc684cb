<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Ease;

/** A curve from (0, 0) to (1, 1): x and y of both its handles. */
final class CurveKind implements Kind
{
    public static function name(): string
    {
        return 'curve';
    }

    /** @return list<float> */
    public static function checked(Option $option, mixed $value): array
    {
        if (! is_array($value)) {
            throw Problem::inValue($option->name, $option->label.' must be four numbers: x and y of both handles.');
        }
        try {
            return array_values(Ease::of($value)->handles);
        } catch (Problem $e) {
            throw $e->about($option->name);
        }
    }
}
