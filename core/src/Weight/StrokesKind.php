<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/**
 * Strokes of a brush: `[{how, size, strength, mirror, dabs}, …]`; a dab is a place on the surface and the way it looks
 * there, six numbers.
 */
final class StrokesKind implements Kind
{
    public const HOW = ['paint', 'erase', 'smooth'];

    public const MIRRORS = ['', 'x', 'y', 'z'];

    private const MOST_DABS = 50_000;

    public static function name(): string
    {
        return 'strokes';
    }

    public static function checked(Option $option, mixed $value): Strokes
    {
        if ($value instanceof Strokes) {
            return $value;
        }
        if (! is_array($value) || ! array_is_list($value)) {
            throw Problem::inValue($option->name, $option->label.' must be a list of strokes.');
        }
        $out = [];
        $dabs = 0;
        foreach ($value as $k => $stroke) {
            $at = $option->name.'['.$k.']';
            $size = is_array($stroke) ? $stroke['size'] ?? null : null;
            $strength = is_array($stroke) ? $stroke['strength'] ?? 1.0 : null;
            $mirror = is_array($stroke) ? $stroke['mirror'] ?? '' : '';
            if (
                ! is_array($stroke)
                || ! in_array($stroke['how'] ?? null, self::HOW, true)
                || ! in_array($mirror, self::MIRRORS, true)
                || ! is_int($size)
                && ! is_float($size)
                || $size <= 0.0
                || $size > 1000.0
                || ! is_int($strength)
                && ! is_float($strength)
                || $strength < 0.0
                || $strength > 1.0
                || ! is_array($stroke['dabs'] ?? null)
            ) {
                throw Problem::inValue($at, 'A stroke paints, erases or smooths, with a size in metres, a strength from 0 to 1 and dabs.', 'Undo the stroke.');
            }
            $own = [];
            foreach ($stroke['dabs'] as $dab) {
                $own[] = self::dab($dab)
                    ?? throw Problem::inValue($at.'.dabs', 'A dab is six numbers: where it is, and the way the surface looks there.', 'Undo the stroke.');
            }
            $dabs += count($own);
            if ($dabs > self::MOST_DABS) {
                throw Problem::inValue(
                    $at,
                    'There are more than '.self::MOST_DABS.' dabs of the brush here.',
                    'Paint with a larger brush, or go on in a second source.',
                );
            }
            $out[] = ['how' => $stroke['how'], 'size' => (float) $size, 'strength' => (float) $strength, 'mirror' => $mirror, 'dabs' => $own];
        }

        return new Strokes($out);
    }

    /** @return list<float>|null six numbers, or null where it is something else */
    private static function dab(mixed $dab): ?array
    {
        if (! is_array($dab) || count($dab) !== 6) {
            return null;
        }
        $out = [];
        foreach ($dab as $v) {
            if (! is_int($v) && ! is_float($v) || ! is_finite((float) $v)) {
                return null;
            }
            $out[] = (float) $v;
        }

        return $out;
    }
}
