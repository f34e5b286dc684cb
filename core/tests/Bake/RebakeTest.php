<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Rebake;
use YardBreak\Core\Tests\Shot\Documents;

/** What a bake keeps after a change is what a whole bake gives, and so is what it makes of it from there on. */
final class RebakeTest extends TestCase
{
    /** @return array<string, array{array<string, mixed>, \Closure(array<string, mixed>): array<string, mixed>}> */
    public static function changes(): array
    {
        $set = Documents::set(...);
        $six = ['pattern' => 'tiles', 'values' => ['grid' => [3, 2, 1]]];
        $free = static fn (array $groups, array $more = []): array => $more + [
            'kind' => 'free',
            'held' => 'still',
            'release' => ['on' => 'frame', 'frame' => 20],
            'groups' => $groups,
        ];
        $late = Trials::keys([12 => 0, 13 => 3]);
        // A marble comes down on a plate; when a fifth of the plate has it near, a post goes aside.
        $near = static fn (float $none): array => [Trials::source('proximity', ['to' => 'marble', 'full' => 0.05, 'none' => $none, 'falloff' => 'linear'])];
        $reached = Trials::document([
            Trials::box('plate', [0, 0, 0], ['weights' => [['id' => 'near', 'name' => 'Near', 'sources' => $near(0.3)]]]),
            Trials::box('marble', [0, 0.9, 0], ['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]]),
            Trials::box(
                'post',
                [['keys' => [['frame' => 0, 'value' => 2], ['cue' => 'close', 'offset' => 6, 'value' => 3]]], 0, 0],
                ['motion' => ['kind' => 'keyed']],
            ),
        ], ['cues' => [['id' => 'close', 'name' => 'Close', 'at' => ['on' => 'reaching', 'map' => 'near', 'share' => 0.2]]]]);
        $turning = static fn (array $y): array => Trials::document([Trials::box(
            'sign',
            [0, 1, 0],
            [
                'place' => [
                    'position' => [0, 1, 0],
                    'turn' => [['keys' => [['frame' => 0, 'value' => 0], ['frame' => 20, 'value' => 150]]], $y, 0],
                    'size' => 1,
                    'between' => 'shortest',
                ],
                'motion' => ['kind' => 'keyed'],
            ],
        )]);
        $comes = Trials::document([Trials::box('slab', [0, 0.5, 0], [
            'break' => $six,
            'weights' => [[
                'id' => 'come',
                'name' => 'Comes',
                'sources' => [Trials::source(
                    'front',
                    ['point' => [Trials::keys([-4 => -1, 4 => 1]), 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.4, 'falloff' => 'linear'],
                )],
            ]],
            'motion' => [
                'kind' => 'drift',
                'release' => ['on' => 'frame', 'frame' => 0],
                'drift' => [
                    'map' => 'come',
                    'ease' => 'linear',
                    'handOver' => true,
                    'moves' => [['move' => 'offset', 'values' => ['by' => [0, 2, 0], 'random' => 0, 'strewn' => 0, 'seed' => 1]]],
                ],
            ],
        ])], ['frames' => ['first' => 0, 'last' => 10, 'rate' => [24, 1]]]);

        return [
            'the map of a cue that the bake finds' => [$reached, $set('props/0/weights/0/sources', $near(0.6))],
            'the push at the first frame of what goes before it' => [
                Trials::document([Trials::box(
                    'stone',
                    [0, 0.5, 0],
                    ['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => -3], 'velocity' => [Trials::keys([-3 => 1, 0 => 1]), 0, 0]]],
                )]),
                $set('props/0/motion/velocity/0', Trials::keys([-3 => 1, 0 => 2])),
            ],
            'the push of a group that waits at random' => [
                Trials::document([Trials::box(
                    'stone',
                    [0, 0.5, 0],
                    [
                        'break' => $six,
                        'motion' => $free([[
                            'name' => 'Two',
                            'release' => ['on' => 'frame', 'frame' => 12, 'wait' => 0.3],
                            'pieces' => ['shard-0005', 'shard-0007'],
                        ]]),
                    ],
                )]),
                $set('props/0/motion/velocity', [$late, 0, 0]),
            ],
            'the push of a group that is released by a touch' => [Trials::document([
                Trials::box(
                    'stone',
                    [0, 0.5, 0],
                    [
                        'break' => $six,
                        'motion' => $free([[
                            'name' => 'All',
                            'release' => ['on' => 'touch'],
                            'pieces' => ['shard-0005', 'shard-0007', 'shard-0011', 'shard-0012', 'shard-0016', 'shard-0017'],
                        ]]),
                    ],
                ),
                Trials::box('ram', [Trials::keys([0 => 1.4, 24 => 0]), 0.5, 0], ['motion' => ['kind' => 'keyed']]),
            ]), $set('props/0/motion/velocity', [0, $late, 0])],
            'a key of a turn that takes the shortest way and changes no value' => [
                $turning(Trials::keys([0 => 0, 20 => 170])),
                $set('props/0/place/turn/2', Trials::keys([0 => 0, 10 => 0, 20 => 0])),
            ],
            'the map of a drift that is handed over at the first frame, before it' => [
                $comes,
                $set(
                    'props/0/weights/0/sources/0/values',
                    (object) [
                        'point' => [Trials::keys([-1 => 0, 0 => 0, 4 => 1]), 0, 0],
                        'direction' => [1, 0, 0],
                        'full' => 0,
                        'none' => 0.4,
                        'falloff' => 'linear',
                    ],
                ),
            ],
        ];
    }

    /**
     * @param  array<string, mixed>  $document
     * @param  \Closure(array<string, mixed>): array<string, mixed>  $change
     */
    #[DataProvider('changes')]
    public function test_what_is_kept_is_true(array $document, \Closure $change): void
    {
        $found = Rebake::of(Trials::ready($document), Trials::ready($change($document)));
        self::assertNotNull($found->differsAt, 'the change does something');
        self::assertLessThanOrEqual($found->differsAt - $document['frames']['first'], $found->kept, 'what is kept is true');
        self::assertNull($found->resumedDiffersAt, 'resumed it is a whole bake');
        self::assertNotNull($found->reason);
    }
}
