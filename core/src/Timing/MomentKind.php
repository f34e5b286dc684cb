<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Kind;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A moment: a frame within the range of its option, or so many frames from a named cue. */
final class MomentKind implements Kind
{
    public static function name(): string
    {
        return 'moment';
    }

    /** @return float|array{cue: string, offset: float} */
    public static function checked(Option $option, mixed $value): float|array
    {
        if ($value instanceof \stdClass) {
            $value = (array) $value;
        }
        if (! is_array($value)) {
            return Number::number($option, $value);
        }
        $offset = $value['offset'] ?? 0;
        if (! is_string($value['cue'] ?? null) || ! is_int($offset) && ! is_float($offset) || array_diff(array_keys($value), ['cue', 'offset']) !== []) {
            throw Problem::inValue($option->name, $option->label.' must be a frame, or a cue and frames from it.');
        }

        return ['cue' => $value['cue'], 'offset' => Number::number($option, $offset)];
    }

    /**
     * @param  float|array{cue: string, offset: float}  $value
     *
     * @throws Problem where the cue is not there
     */
    public static function when(float|array $value, Cues $cues): When
    {
        if (is_float($value)) {
            return When::frame($value);
        }
        if (! $cues->has($value['cue'])) {
            throw Problem::inValue('cue', 'This is tied to a cue that is not there.', 'Tie it to a frame, or to another cue.');
        }

        return When::cue($value['cue'], $value['offset']);
    }
}
