<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

use YardBreak\Core\Entries;

/** The ways pieces can drift. */
final class DriftCatalogue
{
    /** @var array<string, class-string<Move>> */
    public const MOVES = [
        'offset' => Offset::class,
        'turn' => Turn::class,
        'size' => Size::class,
        'toward' => Toward::class,
        'path' => AlongPath::class,
        'burst' => GridBurst::class,
    ];

    /** @return array<string, array{label: string, meaning: string, options: list<array<string, mixed>>}> */
    public static function describe(): array
    {
        return Entries::describe(self::MOVES);
    }
}
