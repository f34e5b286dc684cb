<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Push;

use YardBreak\Core\Option;

/** What pieces can be sent off with. */
final class PushCatalogue
{
    /** @var array<string, class-string<Push>> */
    public const PUSHES = ['away' => Away::class, 'outwards' => Outwards::class, 'striker' => WithStriker::class, 'random' => Random::class];

    /** @return array<string, array{label: string, meaning: string, options: list<array<string, mixed>>}> */
    public static function describe(): array
    {
        return array_map(static fn (string $class): array => [
            'label' => $class::label(),
            'meaning' => $class::meaning(),
            'options' => array_map(static fn (Option $o): array => $o->toArray(), $class::options()),
        ], self::PUSHES);
    }
}
