<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Shot\Documents;

/** Frames that history says are still true must be the same bytes, and a bake that goes on from one must end as a whole one does. */
final class HistoryTest extends TestCase
{
    private const LAST = 20;

    /**
     * @return array<string, array{\Closure(array<string, mixed>): array<string, mixed>, int, string}> the edit, the first frame it may change, and what it
     * is called
     */
    public static function edits(): array
    {
        $set = Documents::set(...);
        $out = [];
        foreach ([3, 7, 12, 19] as $frame) {
            $out["a key of the ram at $frame"] = [
                $set('props/1/place/position/2/keys/'.['3' => 1, '7' => 2, '12' => 3, '19' => 4][$frame].'/value', 0.77),
                ['3' => 1, '7' => 4, '12' => 8, '19' => 13][$frame],
                'position z of Ram',
            ];
        }

        return $out + [
            'an ease' => [$set('props/1/place/position/2/keys/2/ease', 'overshoot'), 8, 'position z of Ram'],
            'the first key of what stood still' => [
                $set('props/1/place/position/0', ['keys' => [['frame' => 9, 'value' => 0], ['frame' => 14, 'value' => 0.2]]]),
                10,
                'position x of Ram',
            ],
            'a size keyed late' => [$set('props/1/place/size', ['keys' => [['frame' => 12, 'value' => 1], ['frame' => 16, 'value' => 0]]]), 13, 'size of Ram'],
            'a first key of the box' => [
                $set('props/0/place/position/1', ['keys' => [['frame' => 3, 'value' => 0.1], ['frame' => 5, 'value' => 0.15]]]),
                4,
                'position y of Box',
            ],
            'a release later' => [$set('props/0/motion/release/frame', 9), 5, 'release of Box'],
            'a release group' => [$set('props/0/motion/groups/0/release/frame', 15), 10, 'release of Two of Box'],
            'the push at a release' => [$set('props/0/motion/velocity', [0, 0, 2]), 5, 'release of Box'],
            'gravity off later' => [$set('world/gravity/1/keys/1/frame', 16), 14, 'gravity y'],
            'friction keyed' => [$set('props/0/material/friction/keys/1/value', 0.9), 7, 'friction of Box'],
            'visibility' => [
                $set('props/1/place/seen', ['keys' => [['frame' => 2, 'value' => 1, 'ease' => 'hold'], ['frame' => 11, 'value' => 0]]]),
                11,
                'visibility of Ram',
            ],
            'a cue shifted' => [$set('cues/0/at/frame', 13), 8, 'turn y of Ram'],
            'another density' => [$set('props/0/material/density', 800), 0, 'density of Box'],
            'the ground' => [$set('world/ground', false), 0, 'ground'],
            'the rate' => [$set('frames/rate', [25, 1]), 0, 'frame rate'],
            'another prop' => [
                static fn (array $d): array => ['props' => [...$d['props'], ['id' => 'third', 'name' => 'Third'] + $d['props'][1]]] + $d,
                0,
                'number or order of props',
            ],
            'props turned round' => [static fn (array $d): array => ['props' => array_reverse($d['props'])] + $d, 0, 'number or order of props'],
            'names and colours' => [static function (array $d): array {
                $d['name'] = 'Other';
                $d['props'][0]['name'] = 'Crate';
                $d['props'][0]['material']['colour'] = '#000000';
                $d['cues'][0]['name'] = 'Bang';
                $d['notes'] = [['frame' => 3, 'text' => 'Look here']];

                return $d;
            }, 99, ''],
            'a later end' => [$set('frames/last', 24), 99, ''],
        ];
    }

    /** A cue that keys decide and nobody has looked for yet may come anywhere: whatever acts, its map too, begins anew. */
    public function test_where_a_cue_is_not_looked_for_yet_its_map_counts(): void
    {
        $document = static function (float $none): array {
            $d = self::document();
            $d['cues'][] = ['id' => 'near', 'name' => 'Near', 'at' => ['on' => 'reaching', 'map' => 'close', 'share' => 0.9]];
            $d['props'][1]['place']['position'][0] = ['keys' => [['frame' => 0, 'value' => 0], ['cue' => 'near', 'offset' => 0, 'value' => 1]]];
            $d['props'][0]['weights'] = [[
                'id' => 'close',
                'name' => 'Close',
                'sources' => [[
                    'source' => 'front',
                    'operation' => 'add',
                    'amount' => 1,
                    'values' => ['point' => [0, 0, 0], 'direction' => [0, 1, 0], 'full' => 0, 'none' => $none],
                ]],
            ]];

            return $d;
        };
        self::assertSame(0, History::of(self::shot($document(0.1)))->shares(History::of(self::shot($document(3.0))), 99));
        self::assertSame(self::LAST + 1, History::of(self::shot($document(0.1)))->shares(History::of(self::shot($document(0.1))), 99));
    }

    /** What a moment lets go is pushed at that moment; a touch may come at any time, and what moves as one is pushed from the start. */
    public function test_a_push_acts_from_the_start_unless_a_moment_decides(): void
    {
        foreach ([
            [['held' => 'still', 'release' => ['on' => 'touch', 'reach' => 1]], 0, 'velocity z of Box'],
            [['held' => 'whole', 'release' => ['on' => 'frame', 'frame' => 9]], 0, 'velocity z of Box'],
            [['held' => 'still', 'release' => ['on' => 'frame', 'frame' => 9]], 9, 'release of Box'],
        ] as [$motion, $frame, $what]) {
            [$before, $after] = [self::document(), self::document()];
            $before['props'][0]['motion'] = $motion + ['kind' => 'free'];
            $after['props'][0]['motion'] = ['velocity' => [0, 0, 2]] + $before['props'][0]['motion'];
            self::assertSame(['frame' => $frame, 'what' => $what], History::of(self::shot($before))->partsFrom(History::of(self::shot($after))));
        }
    }

    /** @param  \Closure(array<string, mixed>): array<string, mixed>  $edit */
    #[DataProvider('edits')]
    public function test_what_is_kept_is_true_and_what_follows_is_as_in_a_whole_bake(\Closure $edit, int $from, string $what): void
    {
        $before = self::shot(self::document());
        $after = self::shot($edit(self::document()));
        $parts = History::of($before)->partsFrom(History::of($after));
        self::assertSame($from === 99 ? null : ['frame' => $from, 'what' => $what], $parts);
        $one = History::of($before)->chain();
        $other = History::of($after)->chain();
        $same = 0;
        while ($same < min(count($one), count($other)) && $one[$same] === $other[$same]) {
            $same++;
        }
        self::assertSame(min($from, self::LAST + 1), $same);

        [$then, $states] = self::bake($before);
        [$whole] = self::bake($after);
        self::assertSame(array_map(md5(...), array_slice($then, 0, $same)), array_map(md5(...), array_slice($whole, 0, $same)), 'what is kept is true');
        if ($from > 0 && $from < 99) {
            self::assertNotSame(array_map(md5(...), $then), array_map(md5(...), $whole), 'the edit does something');
        }
        if ($same === 0) {
            return;
        }
        $baker = self::baker($after);
        $baker->unpack($states[$same - 1]);
        $resumed = array_slice($then, 0, $same);
        while ($baker->frameNumber() < $after->last) {
            $frame = $baker->nextFrame();
            $resumed[] = FrameRecord::encode($frame->number, $frame->streams);
        }
        self::assertSame(array_map(md5(...), $whole), array_map(md5(...), $resumed), 'a resumed bake is a whole one');
    }

    /** @return array{list<string>, list<string>} records, and the state after each frame */
    private static function bake(ShotSpec $shot): array
    {
        $baker = self::baker($shot);
        $frame = $baker->firstFrame();
        $records = [FrameRecord::encode($frame->number, $frame->streams)];
        $states = [$baker->pack()];
        while ($baker->frameNumber() < $shot->last) {
            $frame = $baker->nextFrame();
            $records[] = FrameRecord::encode($frame->number, $frame->streams);
            $states[] = $baker->pack();
        }

        return [$records, $states];
    }

    private static function baker(ShotSpec $shot): Baker
    {
        return Baker::of($shot, array_column(array_map(self::shards(...), $shot->props), 1, 0));
    }

    /** @return array{string, list<Shard>} */
    private static function shards(PropSpec $prop): array
    {
        $mesh = ShapeCatalogue::mesh('box', $prop->source['values']);

        return [
            $prop->id,
            $prop->break === null ? [new Shard('whole', $mesh, MassProperties::of($mesh))] : (new Cells(12, 3))->break($mesh, new SilentProgress),
        ];
    }

    /** @param  array<string, mixed>  $document */
    private static function shot(array $document): ShotSpec
    {
        return ShotSpec::fromJson((string) json_encode($document));
    }

    /**
     * A box that bursts at frame 5, two pieces at 10, and a ram that comes and goes.
     *
     * @return array<string, mixed>
     */
    private static function document(): array
    {
        $material = ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.05];
        $keys = static fn (array $values): array => ['keys' => array_map(
            static fn (int $frame, float $value): array => ['frame' => $frame, 'value' => $value],
            array_keys($values),
            $values,
        )];

        return [
            'version' => 4, 'name' => 'Test', 'frames' => ['first' => 0, 'last' => self::LAST, 'rate' => [24, 1]], 'quality' => 'normal',
            'world' => [
                'gravity' => [0, ['keys' => [['frame' => 0, 'value' => -9.8, 'ease' => 'hold'], ['frame' => 14, 'value' => 0]]], 0],
                'ground' => true,
                'friction' => 0.6,
                'bounce' => 0.05,
            ],
            'cues' => [['id' => 'bang', 'name' => 'Hit', 'at' => ['on' => 'frame', 'frame' => 11]]],
            'props' => [
                ['id' => 'box', 'name' => 'Box', 'source' => [
                    'kind' => 'shape',
                    'shape' => 'box',
                    'values' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3],
                ], 'place' => ['position' => [0, 0.1, 0], 'turn' => [0, 0, 0], 'size' => 1],
                    'material' => ['friction' => ['keys' => [['frame' => 6, 'value' => 0.6], ['frame' => 9, 'value' => 0.2]]]] + $material,
                    'break' => ['pattern' => 'cells', 'values' => ['count' => 12, 'seed' => 3]],
                    'motion' => [
                        'kind' => 'free',
                        'held' => 'still',
                        'release' => ['on' => 'frame', 'frame' => 5],
                        'groups' => [['name' => 'Two', 'release' => ['on' => 'frame', 'frame' => 10], 'pieces' => ['shard-0001', 'shard-0003']]],
                    ]],
                ['id' => 'ram', 'name' => 'Ram', 'source' => [
                    'kind' => 'shape',
                    'shape' => 'box',
                    'values' => ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2],
                ],
                    'place' => [
                        'position' => [0, 0.15, $keys([0 => 0.6, 3 => 0.5, 7 => 0.1, 12 => -0.1, 19 => 0.3])],
                        'turn' => [0, ['keys' => [['frame' => 7, 'value' => 0], ['cue' => 'bang', 'offset' => 2, 'value' => 90]]], 0],
                        'size' => 1,
                    ],
                    'material' => $material, 'break' => null, 'motion' => ['kind' => 'keyed']],
            ],
        ];
    }
}
