<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A weight: a source with its values, or both in words. */
final class WeightKind implements Kind
{
    public static function name(): string
    {
        return 'weight';
    }

    public static function checked(Option $option, mixed $value): mixed
    {
        $value = is_string($value) ? Weight::inWords($value) : $value;
        if (! is_array($value)) {
            throw Problem::inValue($option->name, $option->label.' must be a weight.');
        }
        try {
            Weight::of($value);
        } catch (Problem $e) {
            throw $e->at($option->name.($e->path === 'source' ? '' : '.values'));
        }

        return $value;
    }
}
