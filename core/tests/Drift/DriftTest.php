<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Drift;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Drift\Drift;
use YardBreak\Core\Drift\Flight;
use YardBreak\Core\Drift\Pieces;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\DriftRun;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Shot\Documents;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Ease;

/** Where pieces drift to, by the formula of each move. */
final class DriftTest extends TestCase
{
    /**
     * @return iterable<string, array{string, array<string, mixed>, \Closure(Vec3, float): Vec3}> move, values, and how far a piece at a place is off at an
     * amount
     */
    public static function ways(): iterable
    {
        yield 'offset' => [
            'offset',
            ['by' => [1, 2, -3], 'random' => 0, 'strewn' => 0],
            static fn (Vec3 $p, float $d): Vec3 => (new Vec3(1, 2, -3))->times($d),
        ];
        yield 'toward a point, in metres' => [
            'toward',
            ['point' => [0, 4, 0], 'counted' => 'metres', 'by' => 0.5],
            static fn (Vec3 $p, float $d): Vec3 => (new Vec3(0, 4, 0))->minus($p)->unit()->times(0.5 * $d),
        ];
        yield 'away from it by a share' => [
            'toward',
            ['point' => [0, 4, 0], 'counted' => 'share', 'by' => -0.25],
            static fn (Vec3 $p, float $d): Vec3 => (new Vec3(0, 4, 0))->minus($p)->times(-0.25 * $d),
        ];
        yield 'along a bent line' => [
            'path',
            ['kind' => 'line', 'points' => [[5, 5, 5], [5, 8, 5], [6, 8, 5]], 'spread' => 0],
            static fn (Vec3 $p, float $d): Vec3 => 4 * $d <= 3 ? new Vec3(0, 4 * $d, 0) : new Vec3(4 * $d - 3, 3, 0),
        ];
        yield 'along a helix about y' => [
            'path',
            ['kind' => 'helix', 'axis' => [0, 1, 0], 'length' => 2, 'radius' => 0.5, 'turns' => 1, 'spread' => 0],
            static fn (Vec3 $p, float $d): Vec3 => new Vec3(0.5 * $d * sin(2 * M_PI * $d), 2 * $d, 0.5 * $d * cos(2 * M_PI * $d)),
        ];
        yield 'grid burst' => [
            'burst',
            ['from' => [0, 0, 0], 'up' => [0, 1, 0], 'out' => 2, 'lift' => 0.5, 'tip' => 0, 'random' => 0],
            static fn (Vec3 $p, float $d): Vec3 => (new Vec3($p->x, 0, $p->z))->times(2 * $d / hypot($p->x, $p->z))->plus(new Vec3(0, 0.5 * 4 * $d * (1 - $d), 0)),
        ];
    }

    /** @param  array<string, mixed>  $values */
    #[DataProvider('ways')]
    public function test_a_move_takes_pieces_where_its_formula_says(string $move, array $values, \Closure $off): void
    {
        $pieces = self::pieces();
        foreach ([0.0, 0.2, 0.5, 0.9, 1.0] as $w) {
            $flight = self::drift(['moves' => [['move' => $move, 'values' => $values]]])->at(
                0.0,
                $pieces,
                array_fill(0, $pieces->count(), $w),
                self::nowhere(...),
            );
            foreach ($pieces->x as $i => $x) {
                $want = $off(new Vec3($x, $pieces->y[$i], $pieces->z[$i]), $w);
                self::assertEqualsWithDelta($want->toArray(), [$flight->x[$i], $flight->y[$i], $flight->z[$i]], 1e-12);
            }
        }
    }

    public function test_turns_and_sizes_add_up_with_what_else_moves(): void
    {
        $flight = self::drift(['moves' => [
            ['move' => 'turn', 'values' => ['axis' => [0, 0, 0.5], 'angle' => 90, 'random' => 0]],
            ['move' => 'turn', 'values' => ['axis' => [0, 0, 1], 'angle' => 30, 'random' => 0]],
            ['move' => 'size', 'values' => ['to' => 0.2]], ['move' => 'size', 'values' => ['to' => 3]],
        ]])->at(0.0, self::pieces(), array_fill(0, 12, 0.5), self::nowhere(...));
        self::assertEqualsWithDelta(array_fill(0, 12, M_PI / 3), $flight->rz, 1e-12);
        self::assertEqualsWithDelta(array_fill(0, 12, 0.6 * 2.0), $flight->size, 1e-12);
    }

    /** With random shares every piece stays between its least and its most, and another seed gives others. */
    public function test_random_shares_keep_within_their_bounds(): void
    {
        $pieces = self::pieces(400);
        $at = static fn (int $seed): Flight => self::drift(['moves' => [[
            'move' => 'offset',
            'values' => ['by' => [0, 2, 0], 'random' => 0.4, 'strewn' => 0.1, 'seed' => $seed],
        ]]])->at(0.0, $pieces, array_fill(0, 400, 1.0), self::nowhere(...));
        $flight = $at(3);
        self::assertGreaterThanOrEqual(2 * 0.6 - 0.1, min($flight->y));
        self::assertLessThanOrEqual(2.1, max($flight->y));
        self::assertLessThanOrEqual(0.1, max(array_map(abs(...), $flight->x)));
        // Evenly: the mean of 400 within four standard deviations of 2·0.8.
        self::assertEqualsWithDelta(1.6, array_sum($flight->y) / 400, 4 * sqrt((0.8 ** 2 + 0.2 ** 2) / 12 / 400));
        self::assertSame($flight->y, $at(3)->y);
        self::assertNotSame($flight->y, $at(4)->y);
    }

    /** Whatever the moves and the ease, at weight 0 a piece is exactly where it belongs; assembled, at weight 1. */
    public function test_what_has_not_begun_or_is_assembled_is_exactly_in_its_place(): void
    {
        $moves = array_map(
            static fn (string $m): array => ['move' => $m, 'values' => $m === 'path' ? [] : ($m === 'toward' ? ['by' => 3] : [])],
            ['offset', 'turn', 'size', 'toward', 'path', 'burst'],
        );
        $pieces = self::pieces(200);
        $place = new Placement(new Vec3(0.3, 1.7, -2.9), Quaternion::fromEuler(new Vec3(0.4, -1.1, 2.3)));
        foreach (['linear', 'smooth', 'overshoot', 'bounce', 'long-tail', [0.1, 1.4, 0.3, -0.7]] as $ease) {
            foreach ([[false, 0.0], [true, 1.0]] as [$assemble, $w]) {
                $drift = self::drift(['moves' => $moves, 'ease' => $ease, 'assemble' => $assemble, 'order' => 'random', 'stagger' => 0.7]);
                [$poses, $sizes] = Drift::stood($pieces, $drift->at(7.0, $pieces, array_fill(0, 200, $w), self::nowhere(...)), $place);
                foreach ($pieces->x as $i => $x) {
                    $want = $place->point(new Vec3($x, $pieces->y[$i], $pieces->z[$i]));
                    self::assertEqualsWithDelta($want->toArray(), array_slice($poses, 8 * $i, 3), 1e-12);
                    self::assertEqualsWithDelta(
                        [$place->turn->x, $place->turn->y, $place->turn->z, $place->turn->w],
                        array_slice($poses, 8 * $i + 4, 4),
                        1e-12,
                    );
                    self::assertEqualsWithDelta(1.0, $sizes[$i], 1e-12);
                }
                $gone = $drift->at(7.0, $pieces, array_fill(0, 200, 1.0 - $w), self::nowhere(...));
                self::assertGreaterThan(0.1, max($gone->y));
            }
        }
    }

    public function test_the_ease_shapes_the_way_and_assembling_is_the_same_run_backwards(): void
    {
        $pieces = self::pieces();
        foreach ([0.25, 0.6] as $w) {
            $there = self::drift([
                'moves' => [['move' => 'offset', 'values' => ['by' => [0, 1, 0], 'random' => 0]]],
                'ease' => 'overshoot',
            ])->at(0.0, $pieces, array_fill(0, 12, $w), self::nowhere(...));
            self::assertEqualsWithDelta(Ease::of('overshoot')->at($w), $there->y[0], 1e-12);
            $back = self::drift([
                'assemble' => true,
                'moves' => [['move' => 'offset', 'values' => ['by' => [0, 1, 0], 'random' => 0]]],
                'ease' => 'overshoot',
            ])->at(0.0, $pieces, array_fill(0, 12, $w), self::nowhere(...));
            self::assertEqualsWithDelta(1.0, $there->y[0] + $back->y[0], 1e-12);
        }
    }

    /** With a stagger of 1 the first is done when the last begins: at weight w the k-th of n has clamp(2w − k/(n − 1)). */
    public function test_pieces_go_one_after_the_other(): void
    {
        $pieces = self::pieces();
        foreach ([
            'small' => $pieces->volumes,
            'large' => array_map(static fn (float $v): float => -$v, $pieces->volumes),
            'near' => array_map(static fn (float $x, float $y, float $z): float => hypot(hypot($x, $y), $z), $pieces->x, $pieces->y, $pieces->z),
        ] as $order => $keys) {
            $flight = self::drift([
                'order' => $order,
                'stagger' => 1.0,
                'ease' => 'linear',
                'moves' => [['move' => 'offset', 'values' => ['by' => [0, 1, 0], 'random' => 0]]],
            ])->at(0.0, $pieces, array_fill(0, 12, 0.5), self::nowhere(...));
            asort($keys);
            foreach (array_keys($keys) as $rank => $i) {
                self::assertEqualsWithDelta(max(0.0, min(1.0, 1.0 - $rank / 11)), $flight->y[$i], 1e-12);
            }
        }
    }

    public function test_a_piece_placed_by_hand_flies_there_and_nowhere_else(): void
    {
        $pieces = self::pieces();
        $flight = self::drift([
            'ends' => [['piece' => 'piece 3', 'by' => [1, 2, 3], 'turn' => [0, 90, 0], 'size' => 0.5]],
            'moves' => [['move' => 'offset', 'values' => ['by' => [0, 9, 0], 'random' => 0]]],
            'ease' => 'linear',
        ])->at(0.0, $pieces, array_fill(0, 12, 0.5), self::nowhere(...));
        self::assertEqualsWithDelta([0.5, 1.0, 1.5, M_PI / 4, 0.75], [$flight->x[3], $flight->y[3], $flight->z[3], $flight->ry[3], $flight->size[3]], 1e-12);
        self::assertEqualsWithDelta(4.5, $flight->y[4], 1e-12);
    }

    public function test_it_drifts_toward_a_prop_where_that_is_at_the_frame(): void
    {
        $run = new DriftRun(self::maps(self::board([
            'moves' => [['move' => 'toward', 'values' => ['to' => 'lamp', 'counted' => 'share', 'by' => 1]]],
            'ease' => 'linear',
        ])));
        [$poses] = $run->at('block', 20.0);
        for ($i = 0; $i < 6; $i++) {
            // At frame 20 the map is full, and the lamp half way from 0 to 4 along z.
            self::assertEqualsWithDelta([3.0, 1.0, 2.0], array_slice($poses, 8 * $i, 3), 1e-9);
        }
    }

    /** Faults are said with their place. */
    public function test_what_is_wrong_is_said(): void
    {
        foreach ([
            [['map' => 'gone', 'moves' => []], 'props[0].motion.drift.map', 'goes by a weight map that is none of its own'],
            [['moves' => [['move' => 'dance', 'values' => new \stdClass]]], 'props[0].motion.drift.moves[0].move', 'cannot drift by "dance"'],
            [
                ['moves' => [['move' => 'path', 'values' => ['kind' => 'line', 'points' => [[0, 0, 0]]]]]],
                'props[0].motion.drift.moves[0].values.points',
                'A path of one point leads nowhere.',
            ],
            [
                ['moves' => [['move' => 'path', 'values' => ['kind' => 'line', 'points' => [[1, 0, 0], [1, 0, 0]]]]]],
                'props[0].motion.drift.moves[0].values.points',
                'All points of the path are the same.',
            ],
            [['moves' => [['move' => 'turn', 'values' => ['angle' => 'far']]]], 'props[0].motion.drift.moves[0].values.angle', 'must be a number'],
            [['moves' => [['move' => 'toward', 'values' => ['to' => 'nobody']]]], 'props[0].motion.drift', 'drifts toward is not there'],
        ] as [$drift, $path, $message]) {
            try {
                (new DriftRun(self::maps(self::board($drift))))->at('block', 5.0);
                self::fail('nothing was said');
            } catch (Problem $e) {
                self::assertSame($path, $e->path);
                self::assertStringContainsString($message, $e->getMessage());
            }
        }
    }

    /** Every frame of a bake is the frame that is evaluated, to the precision of a stream; what loops, loops. */
    public function test_a_bake_has_the_frames_that_are_evaluated(): void
    {
        $d = self::board([
            'moves' => [
                ['move' => 'offset', 'values' => ['by' => [0, 1, 0.5]]],
                ['move' => 'turn', 'values' => ['angle' => 200, 'tumble' => 90]],
                ['move' => 'size', 'values' => ['to' => 0.3]],
            ],
            'order' => 'random',
            'stagger' => 0.5,
        ]);
        $d['props'][0]['weights'][0]['sources'][0]['values']['point'][0]['after'] = 'swing';
        $run = new DriftRun(self::maps($d));
        $baker = self::baker($d);
        for ($frame = $baker->firstFrame(); ; $frame = $baker->nextFrame()) {
            [$poses, $sizes] = $run->at('block', (float) $frame->number);
            self::assertEqualsWithDelta($poses, array_values(unpack('g*', $frame->stream(0, StreamKind::Poses)) ?: []), 1e-5);
            $baked = $frame->stream(0, StreamKind::Sizes);
            self::assertEqualsWithDelta(
                $sizes,
                $baked === '' ? array_fill(0, 6, 1.0) : array_values(unpack('g*', $baked) ?: []),
                2e-3,
                'to the least size a body has',
            );
            if ($frame->number === 40) {
                break;
            }
        }
        self::assertEqualsWithDelta($run->at('block', 12.0), $run->at('block', 28.0), 1e-12, 'it swings about frame 20');
    }

    /** In the frame of the release pieces are where they drift, and go on as fast as they came. */
    public function test_what_is_handed_over_goes_on_without_a_jump(): void
    {
        $d = self::board([
            'handOver' => true,
            'ease' => 'linear',
            'moves' => [
                ['move' => 'offset', 'values' => ['by' => [0, 2, 0], 'random' => 0]],
                ['move' => 'turn', 'values' => ['axis' => [0, 0, 1], 'angle' => 120, 'random' => 0]],
            ],
        ]);
        $d['props'][0]['motion']['release'] = ['on' => 'frame', 'frame' => 10];
        // A band wider than the board lets all of it drift alike; nothing pulls.
        $d['props'][0]['weights'][0]['sources'][0]['values'] = [
            'direction' => [1, 0, 0],
            'point' => [['keys' => [['frame' => 0, 'value' => 0], ['frame' => 24, 'value' => 1000]]], 0, 0],
            'full' => -500,
            'none' => 500,
            'falloff' => 'linear',
        ];
        $d['world']['gravity'] = [0, 0, 0];
        // Whole, for tiles that turn beside each other would push.
        $d['props'][0]['break'] = null;
        $baker = self::baker($d);
        $frames = [$baker->firstFrame()];
        while ($baker->frameNumber() < 16) {
            $frames[] = $baker->nextFrame();
        }
        self::assertSame([0, 1], [$frames[9]->figures['released']['block'], $frames[10]->figures['released']['block']]);
        $evaluated = new DriftRun(self::maps($d));
        foreach ([0] as $i) {
            $y = static fn (int $f): float => self::float($frames[$f], 8 * $i + 1);
            self::assertEqualsWithDelta($evaluated->at('block', 10.0)[0][8 * $i + 1], $y(10), 1e-5);
            $speed = $y(10) - $y(9);
            self::assertGreaterThan(0.05, $speed);
            for ($f = 10; $f < 16; $f++) {
                self::assertEqualsWithDelta($speed, $y($f + 1) - $y($f), 1e-4, "piece $i after frame $f");
            }
            // The turn goes on too: 120° in 24 frames by the ramp of the map.
            $angle = static fn (int $f): float => 2 * atan2(self::float($frames[$f], 8 * $i + 6), self::float($frames[$f], 8 * $i + 7));
            self::assertEqualsWithDelta($angle(10) - $angle(9), $angle(13) - $angle(12), 2e-3);
        }
    }

    public function test_only_what_changes_makes_other_frames(): void
    {
        $d = self::board(['moves' => [[
            'move' => 'offset',
            'values' => ['by' => [0, ['keys' => [['frame' => 0, 'value' => 1], ['frame' => 10, 'value' => 1], ['frame' => 20, 'value' => 2]]], 0]],
        ]]]);
        $keys = (new DriftRun(self::maps($d)))->keys('block');
        $was = History::of(self::spec($d));
        $d['props'][0]['motion']['drift']['moves'][0]['values']['by'][1]['keys'][2]['value'] = 3;
        $now = (new DriftRun(self::maps($d)))->keys('block');
        self::assertSame(array_slice($keys, 0, 11), array_slice($now, 0, 11));
        self::assertNotSame($keys[11], $now[11]);
        self::assertSame(11, History::of(self::spec($d))->partsFrom($was)['frame'] ?? null);
    }

    /**
     * @param  array<string, mixed>  $d
     */
    private static function drift(array $d): Drift
    {
        return Drift::of($d + ['map' => 'm', 'ease' => 'linear'], new Cues);
    }

    private static function pieces(int $n = 12): Pieces
    {
        $random = new SeededRandom(5);
        $some = static fn (): array => array_map(static fn (): float => $random->between(-1.0, 1.0), range(1, $n));

        return new Pieces($some(), $some(), $some(), array_map(abs(...), $some()), array_map(static fn (int $k): string => 'piece '.$k, range(0, $n - 1)));
    }

    /** @return array{float, float, float} */
    private static function nowhere(string $id): array
    {
        return [0.0, 0.0, 0.0];
    }

    /**
     * A board of 6 tiles that drifts by a front from left to right within 20 frames, and a lamp that moves before it.
     *
     * @param  array<string, mixed>  $drift
     * @return array<string, mixed>
     */
    private static function board(array $drift): array
    {
        $d = json_decode(Documents::json(), true);
        $d['frames']['last'] = 40;
        $d['props'][0] = [
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 1.2, 'height' => 0.2, 'depth' => 0.05]],
            'break' => ['pattern' => 'tiles', 'values' => ['grid' => [6, 1, 1]]],
            'motion' => ['kind' => 'drift', 'drift' => $drift + ['map' => 'sweep', 'moves' => []]],
            'weights' => [[
                'id' => 'sweep',
                'name' => 'Sweep',
                'sources' => [[
                    'source' => 'front',
                    'values' => [
                        'direction' => [1, 0, 0],
                        'point' => [['keys' => [['frame' => 0, 'value' => -1], ['frame' => 20, 'value' => 1]]], 0, 0],
                        'full' => 0.0,
                        'none' => 0.3,
                        'falloff' => 'linear',
                    ],
                ]],
            ]],
        ] + $d['props'][0];
        $d['props'][0]['place']['position'] = [0, 1, 0];
        $d['props'][] = [
            'id' => 'lamp',
            'name' => 'Lamp',
            'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['detail' => 2]],
            'place' => ['position' => [3, 1, ['keys' => [['frame' => 0, 'value' => 0], ['frame' => 40, 'value' => 4]]]], 'turn' => [0, 0, 0], 'size' => 1],
            'motion' => ['kind' => 'keyed'],
            'break' => null,
        ] + $d['props'][0];
        unset($d['props'][1]['weights']);

        return $d;
    }

    /** @param  array<string, mixed>  $d */
    private static function spec(array $d): ShotSpec
    {
        return ShotSpec::fromJson((string) json_encode($d, JSON_PRESERVE_ZERO_FRACTION));
    }

    /** @param  array<string, mixed>  $d */
    private static function maps(array $d): MapRun
    {
        return new MapRun(self::spec($d), self::parts());
    }

    /** @param  array<string, mixed>  $d */
    private static function baker(array $d): Baker
    {
        $shot = self::spec($d);
        $shards = [];
        foreach ($shot->props as $prop) {
            $shards[$prop->id] = self::maker()->shards($prop, new SilentProgress);
        }

        return Baker::of($shot, $shards, self::parts());
    }

    private static function parts(): MadeParts
    {
        return new MadeParts(self::maker(), self::noAssets());
    }

    private static function maker(): PropMaker
    {
        return new PropMaker(self::noAssets());
    }

    private static function noAssets(): AssetSource
    {
        return new class implements AssetSource
        {
            public function path(string $asset): string
            {
                return '';
            }
        };
    }

    private static function float(Frame $frame, int $k): float
    {
        return (unpack('g', $frame->stream(0, StreamKind::Poses), 4 * $k) ?: [1 => NAN])[1];
    }
}
