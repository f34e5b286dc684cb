<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\MapCheck;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Tests\Weight\Maps;
use YardBreak\Core\Weight\Coverage;

/** What is said about doubtful maps of the block of a metre; a front through it goes along x. */
final class MapCheckTest extends TestCase
{
    /** @return iterable<string, array{list<array<string, mixed>>, list<string>}> sources, and how what is said about them begins */
    public static function maps(): iterable
    {
        $front = static fn (float $from, float $to, float $none = 0.3, float $full = 0.0): array => [
            'source' => 'front',
            'values' => [
                'point' => [['keys' => [['frame' => 0, 'value' => $from], ['frame' => 40, 'value' => $to]]], 0, 0],
                'direction' => [1, 0, 0],
                'full' => $full,
                'none' => $none,
            ],
        ];
        yield 'nothing at all' => [[], ['The map has no source yet']];
        yield 'in order' => [[$front(-1, 1)], []];
        yield 'begins too near' => [[$front(-0.7, 1)], ['Frame 0 is not clear: ']];
        yield 'never gets there' => [[$front(-1, -0.1)], ['At frame 40, ', 'The border still lies on the prop at frame 40']];
        yield 'out of reach' => [[$front(-9, -7)], ['The map does nothing', 'Front is out of reach']];
        yield 'swapped' => [[$front(1.2, -1.2, 0.0, 0.3)], ['Front: its two distances are swapped']];
        yield 'too narrow a band' => [[$front(-1, 1, 0.03)], ['Front: its band is 3 cm wide, and the edges of the mesh']];
        yield 'painted beside it' => [
            [[
                'source' => 'brush',
                'values' => ['strokes' => [[
                    'how' => 'paint',
                    'size' => 0.2,
                    'strength' => 1,
                    'mirror' => '',
                    'dabs' => [[0, 1, 0, 0, 1, 0], [0, 5, 0, 0, 1, 0]],
                ]]],
            ]],
            ['Brush: 1 of 2 dabs meet nothing of the prop'],
        ];
    }

    /**
     * @param  list<array<string, mixed>>  $sources
     * @param  list<string>  $said
     */
    #[DataProvider('maps')]
    public function test_what_is_doubtful_is_said(array $sources, array $said): void
    {
        $findings = self::findings(Maps::run($sources));
        self::assertCount(count($said), $findings, json_encode(array_column($findings, 'message')) ?: '');
        foreach ($said as $k => $begin) {
            self::assertStringStartsWith($begin, $findings[$k]['message']);
        }
    }

    public function test_what_passes_within_a_frame_is_in_reach(): void
    {
        $keys = array_map(static fn (int $frame): array => ['frame' => $frame, 'value' => $frame === 103 ? 0.2 : -9], [0, 102, 103, 104]);
        $said = static fn (array $keys): string => implode(' ', array_column(self::findings(Maps::run([['source' => 'front', 'values' => ['point' => [['keys' => $keys], 0, 0], 'direction' => [1, 0, 0]]]], [], static function (array $d): array {
            $d['frames']['last'] = 204;

            return $d;
        })), 'message'));
        self::assertStringNotContainsString('out of reach', $said($keys));
        array_splice($keys, 2, 1);
        self::assertStringContainsString('out of reach', $said($keys));
    }

    public function test_a_finding_leads_to_where_it_is_and_mends_what_one_press_can(): void
    {
        $sources = self::maps();
        $sources = iterator_to_array($sources);
        $clear = self::findings(Maps::run($sources['begins too near'][0]))[0];
        self::assertSame(0, $clear['frame']);
        self::assertNotNull($clear['at']);
        // Most touched is the side the front comes from.
        self::assertEqualsWithDelta(-0.5, $clear['at'][0], 1e-9);
        $swapped = self::findings(Maps::run($sources['swapped'][0]))[0];
        self::assertSame(['path' => 'sources[0].values', 'value' => ['full' => 0.0, 'none' => 0.3]], $swapped['mend']);
    }

    /** @return list<array{message: string, frame: int|null, at: array{float, float, float}|null, mend: array{path: string, value: mixed}|null, ...}> */
    private static function findings(MapRun $run): array
    {
        $coverage = [];
        for ($frame = 0; $frame <= 40; $frame++) {
            $coverage[] = Coverage::of($run->weightsAt('reach', MapRun::SURFACE, $frame));
        }

        return MapCheck::of($run, 'reach', $coverage);
    }
}
