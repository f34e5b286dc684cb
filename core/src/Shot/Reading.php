<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Track3;
use YardBreak\Core\Timing\When;

/** Reads values in time out of a document, saying where one is wrong. */
final class Reading
{
    /** @throws Problem */
    public static function number(mixed $value, Cues $cues, string $path): Track
    {
        try {
            return Track::of($value, $cues);
        } catch (Problem $e) {
            throw $e->at($path);
        }
    }

    /** @throws Problem */
    public static function point(mixed $value, Cues $cues, string $path): Track3
    {
        try {
            return Track3::of($value, $cues);
        } catch (Problem $e) {
            throw $e->about($path.$e->path);
        }
    }

    /**
     * @param  array<string, mixed>  $value  with a frame, or a cue and an offset
     *
     * @throws Problem
     */
    public static function when(array $value, Cues $cues, string $path): When
    {
        if (! isset($value['cue'])) {
            return When::frame((float) ($value['frame'] ?? 0));
        }
        if (! $cues->has($value['cue'])) {
            throw Problem::inValue($path.'.cue', 'This is tied to a cue that is not there.', 'Tie it to a frame, or to another cue.');
        }

        return When::cue($value['cue'], (float) ($value['offset'] ?? 0));
    }

    /**
     * Checks those values that are there against their options.
     *
     * @param  list<Option>  $options
     * @param  array<string, mixed>  $values
     *
     * @throws Problem
     */
    public static function check(array $options, array $values, string $path): void
    {
        $known = array_intersect_key($values, array_column(array_map(static fn (Option $o): array => ['name' => $o->name], $options), 'name', 'name'));
        try {
            Option::resolve($options, $known);
        } catch (Problem $e) {
            throw $e->at($path);
        }
    }
}
