<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Weight\MapKind;

final class MapKindTest extends TestCase
{
    public function test_an_id_or_nothing_is_a_map_and_all_else_is_not(): void
    {
        $option = new Option('map', 'Map', '', MapKind::class, '');
        foreach (['', 'sweep', 'a-1', str_repeat('x', 40)] as $good) {
            self::assertSame($good, MapKind::checked($option, $good));
        }
        foreach ([3, null, true, ['sweep'], 'Sweep', 'two words', str_repeat('x', 41)] as $wrong) {
            try {
                MapKind::checked($option, $wrong);
                self::fail(json_encode($wrong).' was taken');
            } catch (Problem $e) {
                self::assertSame('map', $e->path);
                self::assertStringContainsString('must be a weight map', $e->getMessage());
            }
        }
    }
}
