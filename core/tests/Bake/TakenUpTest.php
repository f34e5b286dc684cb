<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\BakedPlaces;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\DriftRun;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropSpec;

/** A bake that is taken up from any of its states gives what a whole one does, and so does one in slices of a frame. */
final class TakenUpTest extends TestCase
{
    /** @return array<string, array{array<string, mixed>}> */
    public static function shots(): array
    {
        $tiles = ['pattern' => 'tiles', 'values' => ['grid' => [3, 2, 1]]];
        $free = ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]];
        $front = static fn (mixed $x, float $none = 0.4): array => Trials::source(
            'front',
            ['point' => [$x, 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => $none, 'falloff' => 'linear'],
        );
        $drift = static fn (string $map, array ...$moves): array => ['kind' => 'drift', 'drift' => ['map' => $map, 'ease' => 'linear', 'moves' => $moves]];
        $offset = static fn (array $by): array => ['move' => 'offset', 'values' => ['by' => $by, 'random' => 0, 'strewn' => 0, 'seed' => 1]];
        $near = [
            'id' => 'near',
            'name' => 'Near',
            'sources' => [Trials::source('proximity', ['to' => 'ball', 'full' => 0.2, 'none' => 0.9, 'falloff' => 'linear'])],
        ];

        return [
            'a shockwave from a touch that pushes away from it' => [Trials::document([
                Trials::box(
                    'stone',
                    [0, 0.5, 0],
                    [
                        'break' => $tiles,
                        'motion' => [
                            'kind' => 'free',
                            'held' => 'still',
                            'release' => ['on' => 'shockwave', 'wave' => 0.8],
                            'pushes' => [
                                ['push' => 'away', 'values' => ['from' => 'touch', 'speed' => 2, 'reach' => 0]],
                                ['push' => 'striker', 'values' => ['share' => 0.5, 'reach' => 0]],
                            ],
                        ],
                    ],
                ),
                Trials::box('ram', [Trials::keys([0 => 1.2, 12 => 0.25]), 0.5, 0], ['motion' => ['kind' => 'keyed']]),
            ])],
            'a wall in mortar on anchors, hit while it crumbles' => [Trials::document([
                Trials::box('wall', [0, 0, 0], [
                    'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.6, 'height' => 0.5, 'depth' => 0.1, 'segments' => 1]],
                    'break' => ['pattern' => 'tiles', 'values' => ['grid' => [4, 4, 1]]],
                    'motion' => [
                        'kind' => 'free', 'values' => ['mortar' => 'lime mortar', 'amount' => Trials::keys([0 => 1.0, 14 => 0.002])],
                        'release' => ['on' => 'frame', 'frame' => 2],
                    ],
                    'dust' => [
                        ['id' => 'cracks', 'name' => 'Cracks', 'from' => 'cracks', 'values' => ['dense' => 2000, 'life' => 0.3]],
                        ['id' => 'trail', 'name' => 'Trail', 'from' => 'trail', 'values' => ['dense' => 200]],
                    ],
                ]),
                Trials::box('stone', [0.1, 0.3, -0.5], [
                    'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.1, 'detail' => 2]],
                    'motion' => ['kind' => 'free', 'values' => ['velocity' => [0, 0, 4]]],
                ]),
            ])],
            'pieces that grow and stop, with something on them' => [Trials::document([
                Trials::box(
                    'plinth',
                    [0, 0, 0],
                    [
                        'break' => $tiles,
                        'weights' => [[
                            'id' => 'grow',
                            'name' => 'Grow',
                            'sources' => [Trials::source(
                                'front',
                                [
                                    'point' => [0, Trials::keys([0 => -0.5, 10 => 0.5]), 0],
                                    'direction' => [0, 1, 0],
                                    'full' => 0,
                                    'none' => 0.4,
                                    'falloff' => 'linear',
                                ],
                            )],
                        ]],
                        'motion' => $drift('grow', ['move' => 'size', 'values' => ['to' => 1.2, 'random' => 0, 'seed' => 1]]),
                    ],
                ),
                Trials::box('load', [0, 0.6, 0], ['motion' => $free]),
            ])],
            'a drift by nearness to what falls, and what lies in its way' => [Trials::document([
                Trials::box('ball', [0, 1.0, 0], ['motion' => $free]),
                Trials::box(
                    'gate',
                    [0.6, 0, 0],
                    [
                        'weights' => [$near],
                        'motion' => $drift('near', $offset([0.5, 0, 0])),
                    ],
                ),
                Trials::box('brick', [1.0, 0, 0], ['motion' => $free]),
            ])],
            'the same with a map that knows what was before' => [Trials::document([
                Trials::box('ball', [0, 1.0, 0], ['motion' => $free]),
                Trials::box(
                    'gate',
                    [0.6, 0, 0],
                    [
                        'weights' => [$near + ['inTime' => [['step' => 'lag', 'values' => ['half' => 0.1]]]]],
                        'motion' => $drift('near', $offset([0.5, 0, 0])),
                    ],
                ),
                Trials::box('brick', [1.0, 0, 0], ['motion' => $free]),
            ])],
            'friction that is keyed away under what rests' => [Trials::document([
                Trials::box(
                    'one',
                    [0, 0, 0],
                    [
                        'material' => [
                            'name' => 'stone',
                            'colour' => '#9a988f',
                            'inner' => '#b3b0a6',
                            'density' => 2600,
                            'friction' => ['keys' => [['frame' => 0, 'value' => 1, 'ease' => 'hold'], ['frame' => 14, 'value' => 0.3]]],
                            'bounce' => 0,
                        ],
                        'motion' => $free,
                    ],
                ),
                Trials::box('other', [0.01, 0.31, 0], ['motion' => $free]),
            ],
                [
                    'frames' => ['first' => 0, 'last' => 30, 'rate' => [24, 1]],
                    'world' => [
                        'gravity' => [0, -9.8, 0],
                        'ground' => true,
                        'friction' => ['keys' => [['frame' => 0, 'value' => 1, 'ease' => 'hold'], ['frame' => 20, 'value' => 0.5]]],
                        'bounce' => 0,
                    ],
                ])],
            'a map whose value jumps at a cue that physics decides' => [Trials::document([
                Trials::box('ball', [0, 0.8, 0], ['motion' => $free]),
                Trials::box(
                    'gate',
                    [1.5, 0, 0],
                    [
                        'weights' => [[
                            'id' => 'jump',
                            'name' => 'Jump',
                            'sources' => [$front(['keys' => [
                                ['frame' => 0, 'value' => -0.1],
                                ['cue' => 'land', 'offset' => 0, 'value' => 0.1, 'ease' => 'hold'],
                            ]])],
                        ]],
                        'motion' => $drift('jump', $offset([0, 1, 0])),
                    ],
                ),
            ], ['cues' => [['id' => 'land', 'name' => 'Land', 'at' => ['on' => 'touch', 'one' => 'ball', 'other' => 'ground']]]])],
        ];
    }

    /** @param  array<string, mixed>  $document */
    #[DataProvider('shots')]
    public function test_every_state_leads_to_the_same(array $document): void
    {
        self::assertSame([], Trials::lost($document));
    }

    /**
     * What drifts is at every frame where it is evaluated to be, as the page and the hand-off have it, the frames asked for in any order.
     *
     * @param  array<string, mixed>  $document
     */
    #[DataProvider('shots')]
    public function test_what_is_evaluated_is_what_is_baked(array $document): void
    {
        $ready = Trials::ready($document);
        $bake = $ready->frames();
        $frames = iterator_to_array($bake, false);
        $shot = $bake->getReturn()->shot();
        [$shards, $parts] = Trials::made($shot);
        $keys = array_map(strval(...), array_keys($frames));
        $fresh = static fn (): DriftRun => new DriftRun(new MapRun(
            $shot,
            $parts,
            null,
            new BakedPlaces($shot, static fn (PropSpec $p): array => $shards[$p->id], static fn (int $k): array => $frames[$k]->streams, count($frames), $keys),
        ));
        $drifting = array_filter($shot->props, static fn (PropSpec $p): bool => $p->motion->drift !== null);
        foreach ($drifting as $number => $prop) {
            $inOrder = $fresh();
            $backwards = $fresh();
            $far = $last = 0.0;
            $back = [];
            foreach (array_reverse(array_keys($frames)) as $k) {
                $back[$k] = $backwards->at($prop->id, (float) $frames[$k]->number);
            }
            foreach ($frames as $k => $frame) {
                $baked = array_values((array) unpack('g*', $frame->streams[$number][StreamKind::Poses->value]));
                [$poses, $sizes] = $inOrder->at($prop->id, (float) $frame->number);
                self::assertSame([$poses, $sizes], $back[$k], 'frame '.$frame->number.' asked for in another order');
                self::assertSame([$poses, $sizes], $fresh()->at($prop->id, (float) $frame->number), 'frame '.$frame->number.' asked for alone');
                foreach ($poses as $i => $v) {
                    // The pieces of a bake are kept in single precision, and so is what the map looked at.
                    self::assertEqualsWithDelta($v, $i % 8 === 3 ? $v : $baked[$i], 2e-5, $prop->name.' at frame '.$frame->number);
                }
                $far = max($far, abs($poses[0] - $poses[1] - $last));
                $last = $poses[0] - $poses[1];
            }
            self::assertTrue($far > 0.01 || max($sizes) > 1.1, 'it moves or grows');
        }
        self::assertSame($drifting === [], ! str_contains((string) json_encode($document), '"drift"'));
    }

    /** @param  array<string, mixed>  $document */
    #[DataProvider('shots')]
    public function test_slices_of_a_frame_and_one_long_one_give_the_same(array $document): void
    {
        self::assertSame(array_map(md5(...), Trials::baked($document)), array_map(md5(...), Trials::baked($document, true)));
    }
}
