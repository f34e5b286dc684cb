<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Push;

use YardBreak\Core\Entries;

/** What pieces can be sent off with. */
final class PushCatalogue
{
    /** @var array<string, class-string<Push>> */
    public const PUSHES = ['away' => Away::class, 'outwards' => Outwards::class, 'striker' => WithStriker::class, 'random' => Random::class];

    /** @return array<string, array{label: string, meaning: string, options: list<array<string, mixed>>}> */
    public static function describe(): array
    {
        return Entries::describe(self::PUSHES);
    }
}
