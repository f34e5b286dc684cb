<?php

declare(strict_types=1);

namespace YardBreak\Core\Kinds;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** How a value goes over something, straight from point to point: pairs of a share, 0…1, and the value there, in order. */
final class Course implements Kind
{
    private const MOST = 16;

    public static function name(): string
    {
        return 'course';
    }

    /** @return list<array{float, float}> */
    public static function checked(Option $option, mixed $value): array
    {
        if (! is_array($value) || $value === [] || count($value) > self::MOST) {
            throw Problem::inValue($option->name, $option->label.' must be 1 to '.self::MOST.' points, each a share and a value.');
        }
        $out = [];
        $last = 0.0;
        foreach (array_values($value) as $k => $p) {
            $share = is_array($p) && count($p) === 2 ? array_values($p)[0] : null;
            if (! is_int($share) && ! is_float($share) || $share < $last || $share > 1.0) {
                throw Problem::inValue($option->name.'['.$k.']', 'Point '.($k + 1).' of '.$option->label.' must be a share of 0 to 1, none before the one before it, and a value.');
            }
            $last = (float) $share;
            $out[] = [$last, Number::number($option, array_values($p)[1])];
        }

        return $out;
    }

    /** @param  non-empty-list<array{float, float}>  $course */
    public static function at(array $course, float $share): float
    {
        $before = $course[0];
        foreach ($course as $point) {
            if ($point[0] > $share) {
                $span = $point[0] - $before[0];

                return $span > 0.0 ? $before[1] + ($point[1] - $before[1]) * max(0.0, $share - $before[0]) / $span : $point[1];
            }
            $before = $point;
        }

        return $before[1];
    }
}
