<?php

declare(strict_types=1);

namespace YardBreak\Core;

/** The entries of a catalogue as the page is told of them. */
final class Entries
{
    /**
     * @template K of array-key
     *
     * @param  array<K, class-string<Entry>>  $classes  by name
     * @return array<K, array{label: string, meaning: string, options: list<array<string, mixed>>}>
     */
    public static function describe(array $classes): array
    {
        return array_map(static fn (string $class): array => [
            'label' => $class::label(),
            'meaning' => $class::meaning(),
            'options' => array_map(static fn (Option $o): array => $o->toArray(), $class::options()),
        ], $classes);
    }
}
