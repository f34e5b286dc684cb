<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Entries;

/** What can push. */
final class ForceCatalogue
{
    /** @var array<string, class-string<Force>> */
    public const FORCES = ['wind' => Wind::class, 'turbulence' => Turbulence::class, 'swirl' => Swirl::class, 'still-air' => StillAir::class, 'pull' => Pull::class, 'drag' => Slowing::class, 'blast' => Blast::class];

    /** @return array<string, array{label: string, meaning: string, options: list<array<string, mixed>>}> */
    public static function describe(): array
    {
        return Entries::describe(self::FORCES);
    }
}
