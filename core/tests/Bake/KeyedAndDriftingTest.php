<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\ShotSpec;

/** What keys and maps move is met, measured and made where it is, and as large as it is. */
final class KeyedAndDriftingTest extends TestCase
{
    /** A prop that grows from 1 to 3 at a cue is 1 before and 3 after, known beforehand or found late. */
    public function test_a_size_keyed_at_a_cue_is_what_is_written(): void
    {
        foreach (['known' => ['on' => 'frame', 'frame' => 10], 'late' => ['on' => 'touch', 'one' => 'ball', 'other' => 'ground']] as $at) {
            $frames = self::baked([
                Trials::box(
                    'box',
                    [2, 0, 0],
                    [
                        'place' => [
                            'position' => [2, 0, 0],
                            'turn' => [0, 0, 0],
                            'size' => ['keys' => [
                                ['frame' => 0, 'value' => 1],
                                ['cue' => 'grow', 'offset' => 0, 'value' => 1],
                                ['cue' => 'grow', 'offset' => 4, 'value' => 3],
                            ]],
                        ],
                        'motion' => ['kind' => 'keyed'],
                    ],
                ),
                Trials::box('ball', [0, 0.8, 0], ['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]]),
            ], ['cues' => [['id' => 'grow', 'name' => 'Grow', 'at' => $at]]]);
            $found = $at['on'] === 'frame'
                ? 10
                : (int) array_values(array_filter(array_map(static fn (Frame $f): ?float => $f->anchored['grow'] ?? null, $frames)))[0];
            self::assertEqualsWithDelta(0.3, self::height($frames[2], 0), 1e-6, $at['on']);
            self::assertEqualsWithDelta(0.3, self::height($frames[$found], 0), 1e-6, $at['on']);
            self::assertEqualsWithDelta(0.6, self::height($frames[$found + 2], 0), 1e-6, $at['on']);
            self::assertEqualsWithDelta(0.9, self::height($frames[$found + 4], 0), 1e-6, $at['on']);
        }
    }

    public function test_a_size_keyed_from_nothing_at_a_cue_is_taken(): void
    {
        $shot = Trials::document(
            [
                Trials::box(
                    'box',
                    [0, 0, 0],
                    [
                        'place' => [
                            'position' => [0, 0, 0],
                            'turn' => [0, 0, 0],
                            'size' => ['keys' => [['frame' => 0, 'value' => 0], ['cue' => 'go', 'offset' => 4, 'value' => 2]]],
                        ],
                        'motion' => ['kind' => 'keyed'],
                    ],
                ),
                Trials::box('ball', [0, 0.8, 0], ['motion' => ['kind' => 'free']]),
            ],
            ['cues' => [['id' => 'go', 'name' => 'Go', 'at' => ['on' => 'touch', 'one' => 'ball', 'other' => 'ground']]]],
        );
        self::assertSame(2.0, ShotSpec::fromJson((string) json_encode($shot))->props[0]->place->fullSize());
    }

    /** Two pieces, the second of them flying at 3 m/s: what it hits is sent off with that, not with what the first does. */
    public function test_the_piece_that_strikes_gives_its_own_speed(): void
    {
        $long = [
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.6, 'height' => 0.1, 'depth' => 0.1]],
            'break' => ['pattern' => 'tiles', 'values' => ['grid' => [2, 1, 1]]],
        ];
        $pieces = Trials::made(ShotSpec::fromJson((string) json_encode(Trials::document([Trials::box('shot', [0, 0, 0], $long)]))))[0]['shot'];
        // The second one goes ahead.
        $turn = $pieces[1]->centre()->x < $pieces[0]->centre()->x ? 0 : 180;
        $frames = self::baked([
            Trials::box(
                'target',
                [0, 0.5, 0],
                [
                    'break' => ['pattern' => 'tiles', 'values' => ['grid' => [2, 1, 1]]],
                    'motion' => [
                        'kind' => 'free',
                        'held' => 'still',
                        'release' => ['on' => 'touch'],
                        'pushes' => [['push' => 'striker', 'values' => ['share' => 1, 'reach' => 0]]],
                    ],
                ],
            ),
            Trials::box('shot', [1.2, 0.6, 0], $long + [
                'place' => ['position' => [1.2, 0.6, 0], 'turn' => [0, $turn, 0], 'size' => 1],
                'motion' => [
                    'kind' => 'free',
                    'held' => 'still',
                    'release' => ['on' => 'frame', 'frame' => 90],
                    'velocity' => [-3, 0, 0],
                    'groups' => [['name' => 'Second', 'release' => ['on' => 'frame', 'frame' => 0], 'pieces' => [$pieces[1]->name]]],
                ],
            ]),
        ], ['world' => ['gravity' => [0, 0, 0], 'ground' => false, 'friction' => 0.5, 'bounce' => 0]]);
        $x = static fn (int $k, int $piece): float => self::pose($frames[$k], 0, $piece)[0];
        foreach ([0, 1] as $piece) {
            self::assertLessThan(-2.9, ($x(23, $piece) - $x(21, $piece)) * 12, 'm/s');
        }
    }

    /** A tile that has drifted up a metre is met there, not at home. */
    public function test_what_drifts_is_touched_where_it_is(): void
    {
        $up = static fn (string $other): array => Trials::document([
            self::lifted([0, 1, 0]),
            Trials::box('bar', [Trials::keys([0 => 2.0, 12 => 0.0]), 1.0, 0], ['motion' => ['kind' => 'keyed']]),
            Trials::box('low', [Trials::keys([0 => 2.0, 12 => 0.0]), 0.0, 0], ['motion' => ['kind' => 'keyed']]),
        ], ['cues' => [['id' => 'meet', 'name' => 'Meet', 'at' => ['on' => 'touch', 'one' => 'tile', 'other' => $other]]]]);
        $bake = Trials::ready($up('low'))->frames();
        iterator_to_array($bake, false);
        self::assertNull($bake->getReturn()->shot()->moments->frame('meet'), 'nothing meets it at home');
        $bake = Trials::ready($up('bar'))->frames();
        iterator_to_array($bake, false);
        // The bar comes at 4 m/s from 2 m off, both 0.15 m half across: 1.7 m of 2 in 12 frames.
        self::assertEqualsWithDelta(11.0, (float) $bake->getReturn()->shot()->moments->frame('meet'), 1.01);
    }

    /** Nearness to what has drifted 3 m away is none. */
    public function test_nearness_is_to_where_what_drifts_is(): void
    {
        $shot = ShotSpec::fromJson((string) json_encode(Trials::document([
            self::lifted([0, 3, 0]),
            Trials::box(
                'plate',
                [0.35, 0, 0],
                ['weights' => [[
                    'id' => 'near',
                    'name' => 'Near',
                    'sources' => [Trials::source('proximity', ['to' => 'tile', 'full' => 0.1, 'none' => 0.5, 'falloff' => 'linear'])],
                ]]],
            ),
        ])));
        $run = new MapRun($shot, Trials::made($shot)[1]);
        self::assertSame(0.0, max($run->weightsAt('near', MapRun::SURFACE, 12)));
        $keys = $run->keys('near', MapRun::SURFACE);
        self::assertSame($keys[10], $keys[12], 'it stays there');
        // On its way it has other names.
        $coming = ShotSpec::fromJson((string) json_encode(Trials::document([
            self::lifted([0, 3, 0], Trials::keys([0 => -1, 10 => 1])),
            Trials::box(
                'plate',
                [0.35, 0, 0],
                ['weights' => [[
                    'id' => 'near',
                    'name' => 'Near',
                    'sources' => [Trials::source('proximity', ['to' => 'tile', 'full' => 0.1, 'none' => 0.5, 'falloff' => 'linear'])],
                ]]],
            ),
        ])));
        $run = new MapRun($coming, Trials::made($coming)[1]);
        self::assertSame(1.0, max($run->weightsAt('near', MapRun::SURFACE, 0)));
        self::assertSame(0.0, max($run->weightsAt('near', MapRun::SURFACE, 10)));
        self::assertGreaterThan(8, count(array_unique($run->keys('near', MapRun::SURFACE))));
    }

    public function test_what_drifts_strikes_as_fast_as_it_flies(): void
    {
        // A metre in 4 frames: 6 m/s along x, of which it gives twice as much.
        $frames = self::baked([
            self::lifted([1, 0, 0], Trials::keys([0 => -1, 8 => 1])),
            Trials::box(
                'target',
                [0.8, 0, 0],
                ['motion' => [
                    'kind' => 'free',
                    'held' => 'still',
                    'release' => ['on' => 'touch'],
                    'pushes' => [['push' => 'striker', 'values' => ['share' => 2, 'reach' => 0]]],
                ]],
            ),
        ], ['world' => ['gravity' => [0, 0, 0], 'ground' => false, 'friction' => 0.5, 'bounce' => 0]]);
        $x = static fn (int $k): float => self::pose($frames[$k], 1, 0)[0];
        self::assertGreaterThan(11.0, ($x(23) - $x(21)) * 12, 'm/s');
    }

    /** A cue by a map that is reached at the first frame is there, whoever finds it. */
    public function test_a_map_that_is_full_at_the_first_frame_is_reached_there(): void
    {
        foreach (['keyed' => 'fixed', 'free' => 'free'] as $kind) {
            $bake = Trials::ready(Trials::document([
                Trials::box(
                    'plate',
                    [0, 0, 0],
                    ['weights' => [[
                        'id' => 'near',
                        'name' => 'Near',
                        'sources' => [Trials::source('proximity', ['to' => 'ball', 'full' => 5, 'none' => 9, 'falloff' => 'linear'])],
                    ]]],
                ),
                Trials::box('ball', [0, 0.8, 0], ['motion' => ['kind' => $kind]]),
            ], ['cues' => [['id' => 'full', 'name' => 'Full', 'at' => ['on' => 'reaching', 'map' => 'near', 'share' => 0.5]]]]))->frames();
            iterator_to_array($bake, false);
            self::assertSame(0.0, $bake->getReturn()->shot()->moments->frame('full'), $kind);
        }
    }

    /** A prop held at a fifth of its size is no nearer than that. */
    public function test_a_held_prop_is_measured_and_met_at_the_size_it_has(): void
    {
        $document = Trials::document([
            Trials::box(
                'seed',
                [0, 0, 0],
                [
                    'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => Trials::keys([0 => 0.2, 20 => 1])],
                    'motion' => ['kind' => 'free', 'held' => 'still', 'release' => ['on' => 'frame', 'frame' => 20]],
                ],
            ),
            Trials::box(
                'plate',
                [0.3, 0, 0],
                ['weights' => [[
                    'id' => 'near',
                    'name' => 'Near',
                    'sources' => [Trials::source('proximity', ['to' => 'seed', 'full' => 0, 'none' => 0.2, 'falloff' => 'linear'])],
                ]]],
            ),
        ], ['cues' => [['id' => 'all', 'name' => 'All', 'at' => ['on' => 'reaching', 'map' => 'near', 'share' => 0.4]]]]);
        $bake = Trials::ready($document)->frames();
        $frames = iterator_to_array($bake, false);
        $shot = $bake->getReturn()->shot();
        [$shards, $parts] = Trials::made($shot);
        $run = new MapRun(
            $shot,
            $parts,
            null,
            new \YardBreak\Core\Bake\BakedPlaces(
                $shot,
                static fn ($p): array => $shards[$p->id],
                static fn (int $k): array => $frames[$k]->streams,
                count($frames),
                array_map(strval(...), array_keys($frames)),
            ),
        );
        // Its side stands 0.03 m from its middle, that of the plate 0.15 m.
        self::assertEqualsWithDelta(1.0 - 0.12 / 0.2, max($run->weightsAt('near', MapRun::SURFACE, 0)), 1e-6);
        self::assertEqualsWithDelta(1.0, max($run->weightsAt('near', MapRun::SURFACE, 20)), 1e-5);
    }

    /**
     * A box whose one piece drifts as far as said, at once or as a front of its own passes.
     *
     * @param  list<float>  $by
     * @return array<string, mixed>
     */
    private static function lifted(array $by, mixed $front = 1): array
    {
        return Trials::box('tile', [0, 0, 0], [
            'weights' => [[
                'id' => 'rise',
                'name' => 'Rise',
                'sources' => [Trials::source('front', ['point' => [$front, 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 1, 'falloff' => 'linear'])],
            ]],
            'motion' => [
                'kind' => 'drift',
                'drift' => [
                    'map' => 'rise',
                    'ease' => 'linear',
                    'moves' => [['move' => 'offset', 'values' => ['by' => $by, 'random' => 0, 'strewn' => 0, 'seed' => 1]]],
                ],
            ],
        ]);
    }

    /**
     * @param  list<array<string, mixed>>  $props
     * @param  array<string, mixed>  $with
     * @return list<Frame>
     */
    private static function baked(array $props, array $with = []): array
    {
        return iterator_to_array(Trials::ready(Trials::document($props, $with))->frames(), false);
    }

    /** @return list<float> */
    private static function pose(Frame $frame, int $prop, int $piece): array
    {
        return array_slice(array_values((array) unpack('g*', $frame->streams[$prop][StreamKind::Poses->value])), 8 * $piece, 8);
    }

    /** Metres a box is high that is 0.3 m so at size 1, of which the mesh is made at size 3. */
    private static function height(Frame $frame, int $prop): float
    {
        return 0.9 * (((array) unpack('g*', $frame->streams[$prop][StreamKind::Sizes->value] ?? pack('g', 1.0)))[1]);
    }
}
