<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

use YardBreak\Core\Dust\Born\Burst;
use YardBreak\Core\Dust\Born\FromCracks;
use YardBreak\Core\Dust\Born\FromHits;
use YardBreak\Core\Dust\Born\FromPoint;
use YardBreak\Core\Dust\Born\FromSkin;
use YardBreak\Core\Dust\Born\FromTrail;
use YardBreak\Core\Dust\Born\GridBurst;
use YardBreak\Core\Dust\Born\WhereMap;
use YardBreak\Core\Entries;
use YardBreak\Core\Option;

/** What dust can come from. */
final class DustCatalogue
{
    /** @var array<string, class-string<Source>> */
    public const SOURCES = [
        'map' => WhereMap::class, 'cracks' => FromCracks::class, 'hits' => FromHits::class, 'trail' => FromTrail::class,
        'point' => FromPoint::class, 'skin' => FromSkin::class, 'burst' => Burst::class, 'grid' => GridBurst::class,
    ];

    /** @return array<string, array{label: string, meaning: string, options: list<array<string, mixed>>}> */
    public static function describe(): array
    {
        $out = [];
        foreach (Entries::describe(self::SOURCES) as $name => $entry) {
            $entry['options'] = array_map(static fn (Option $o): array => $o->toArray(), self::options(self::SOURCES[$name]));
            $out[$name] = $entry;
        }

        return $out;
    }

    /**
     * @param  class-string<Source>  $source
     * @return list<Option> its own, and those of grains
     */
    public static function options(string $source): array
    {
        return [...$source::options(), ...Grain::options()];
    }
}
