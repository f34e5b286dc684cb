<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Bake\ReleaseOrder;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Shot\Documents;

/**
 * A wall of 6 × 4 tiles, each 0.2 × 0.2 × 0.1 m, standing on the ground; nothing pulls. Expected moments are those of the
 * distances between the middles of tiles, worked out here.
 */
final class ReleaseTest extends TestCase
{
    /** The front passes the middles of the columns one after the other; the weight is ½ half way through its band. */
    public function test_pieces_go_as_their_weight_crosses_the_level(): void
    {
        $d = self::wall(['on' => 'weight', 'map' => 'sweep', 'level' => 0.5]);
        $d['props'][0]['weights'] = [self::sweep(-1.0, 1.0, 24)];
        foreach (self::goes($d, 24) as $piece => $frame) {
            // The plane is at −1 + f/12, half the band before it.
            $x = self::middle($piece)->x;
            self::assertSame((int) ceil(12 * ($x - 0.05 + 1.0) - 1e-9), $frame, (string) $x);
        }
    }

    public function test_each_waits_a_random_while_of_its_own_and_always_the_same(): void
    {
        $d = self::wall(['on' => 'frame', 'frame' => 3, 'wait' => 0.5, 'seed' => 7]);
        $frames = self::goes($d, 24);
        self::assertSame($frames, self::goes($d, 24));
        self::assertGreaterThanOrEqual(3, min($frames));
        self::assertLessThanOrEqual(15, max($frames));
        self::assertGreaterThan(6, count(array_unique($frames)));
        $d['props'][0]['motion']['release']['seed'] = 8;
        self::assertNotSame($frames, self::goes($d, 24));
    }

    /** From the lower left corner at frame 2 with 1.5 m/s, no farther than 0.9 m. */
    public function test_a_shockwave_reaches_pieces_by_their_distance(): void
    {
        $d = self::wall(['on' => 'shockwave', 'at' => [-0.6, 0.0, 0.0], 'frame' => 2, 'wave' => 1.5, 'reach' => 0.9]);
        $within = 0;
        foreach (self::goes($d, 30) as $piece => $frame) {
            $far = self::middle($piece)->minus(new Vec3(-0.6, 0.0, 0.0))->length();
            self::assertSame($far <= 0.9 ? (int) ceil(2 + $far / 1.5 * 24 - 1e-9) : null, $frame);
            $within += $far <= 0.9 ? 1 : 0;
        }
        self::assertGreaterThan(5, $within);
        self::assertLessThan(24, $within);
    }

    /** A ball swings into the wall near its left end: the wave starts there, at the frame of the touch, and goes outward. */
    public function test_a_shockwave_starts_where_and_when_it_is_touched(): void
    {
        $d = self::struck(['on' => 'shockwave', 'wave' => 2.0]);
        // The ball's surface meets the wall's, z = 0.05, at frame 10: 2 m in 10 frames from z = 2.15, radius 0.1.
        $frames = self::goes($d, 30);
        self::assertSame((int) ceil(10 + 0.05 / 2.0 * 24), min($frames), 'the middle of the tile that is hit lies 5 cm deep');
        foreach ($frames as $piece => $frame) {
            $far = self::middle($piece)->minus(new Vec3(-0.5, 0.3, 0.05))->length();
            self::assertEqualsWithDelta(10 + $far / 2.0 * 24, $frame, 1.5, 'within a search and rounding up');
        }
    }

    public function test_only_touches_of_the_chosen_and_of_their_speed_count(): void
    {
        foreach ([
            [['ball'], 0.0, 10],
            [['other'], 0.0, null],
            [['ball'], 4.7, 10],
            [['ball'], 4.9, null],
            [['other', 'ball'], 0.0, 10],
        ] as [$by, $speed, $want]) {
            $d = self::struck(['on' => 'touch', 'reach' => null, 'by' => $by, 'speed' => $speed]);
            $first = array_filter(self::goes($d, 14), is_int(...));
            self::assertSame($want, $first === [] ? null : min($first), implode($by).' '.$speed);
        }
    }

    /** One corner tile goes at frame 1; each ring of neighbours a quarter second later than the one before. */
    public function test_neighbours_follow_step_by_step(): void
    {
        $d = self::wall(['on' => 'frame', 'frame' => 900]);
        $corner = self::nearest(-0.5, 0.1);
        $d['props'][0]['motion'] += [
            'groups' => [['name' => 'First', 'pieces' => [self::shards()[$corner]->name], 'release' => ['on' => 'frame', 'frame' => 1]]],
            'follow' => ['after' => 0.25],
        ];
        foreach (self::goes($d, 60) as $piece => $frame) {
            $steps = (int) round(abs(self::middle($piece)->x + 0.5) / 0.2 + abs(self::middle($piece)->y - 0.1) / 0.2);
            self::assertSame(1 + 6 * $steps, $frame);
        }
    }

    /** The second row is taken out: what stood on it goes in the same frame, the row on the ground stays. */
    public function test_what_lost_its_support_does_not_hang_in_the_air(): void
    {
        $d = self::wall(['on' => 'frame', 'frame' => 900]);
        $row = array_values(array_filter(array_keys(self::shards()), static fn (int $p): bool => abs(self::middle($p)->y - 0.3) < 0.01));
        $d['props'][0]['motion'] += [
            'groups' => [[
                'name' => 'Row',
                'pieces' => array_map(static fn (int $p): string => self::shards()[$p]->name, $row),
                'release' => ['on' => 'frame', 'frame' => 5],
            ]],
            'follow' => ['after' => null, 'unsupported' => true],
        ];
        foreach (self::goes($d, 12) as $piece => $frame) {
            self::assertSame(self::middle($piece)->y < 0.2 ? null : 5, $frame);
        }
        // An anchored tile of the upper row holds all that hangs on it.
        $d['props'][0]['motion']['anchors'] = [self::shards()[self::nearest(0.5, 0.7)]->name];
        foreach (self::goes($d, 12) as $piece => $frame) {
            self::assertSame(abs(self::middle($piece)->y - 0.3) < 0.01 ? 5 : null, $frame);
        }
    }

    /** After one frame without gravity a piece has gone as far as what it was sent off with takes it. */
    public function test_pieces_are_sent_off_as_the_pushes_say(): void
    {
        $send = static function (array $pushes, ?array $release = null): array {
            $d = $release === null ? self::wall(['on' => 'frame', 'frame' => 2]) : self::struck($release);
            $d['props'][0]['motion']['pushes'] = $pushes;
            $d['props'][0]['weights'] = [[
                'id' => 'left',
                'name' => 'Left',
                'sources' => [['source' => 'front', 'values' => ['direction' => [1, 0, 0], 'full' => 0.0, 'none' => 0.0001]]],
            ]];
            // One tile by itself, or they would push each other.
            $d['props'][0]['break'] = null;
            $d['props'][0]['source']['values'] = ['width' => 0.2, 'height' => 0.2, 'depth' => 0.1];
            $d['props'][0]['place']['position'] = [-0.5, 0.2, 0];
            $baker = self::baker($d);
            $baker->firstFrame();
            $from = $release === null ? 2 : 11;
            while ($baker->frameNumber() < $from) {
                $before = $baker->nextFrame();
            }
            $after = $baker->nextFrame();

            return array_map(static fn (int $k): float => 24 * (self::float($after, $k) - self::float($before ?? $after, $k)), [0, 1, 2]);
        };
        // The tile's middle is at (−0.5, 0.3, 0).
        self::assertEqualsWithDelta([0.0, 3.0, 0.0], $send([['push' => 'away', 'values' => ['from' => 'point', 'point' => [0, -0.4, 0], 'speed' => 3]]]), 1e-5);
        self::assertEqualsWithDelta(
            [0.0, 1.5, 0.0],
            $send([['push' => 'away', 'values' => ['from' => 'point', 'point' => [0, -0.4, 0], 'speed' => 3, 'reach' => 1.0]]]),
            1e-5,
        );
        $random = $send([['push' => 'random', 'values' => ['speed' => 2, 'spin' => 0, 'seed' => 5]]]);
        self::assertLessThanOrEqual(2.0 + 1e-6, hypot(hypot(...array_slice($random, 0, 2)), $random[2]));
        self::assertGreaterThan(0.05, hypot(hypot(...array_slice($random, 0, 2)), $random[2]));
        self::assertSame($random, $send([['push' => 'random', 'values' => ['speed' => 2, 'spin' => 0, 'seed' => 5]]]));
        // By a map that is full left of the tile's middle and none right of it: at the middle itself it is full.
        self::assertEqualsWithDelta(
            [0.0, 3.0, 0.0],
            $send([['push' => 'away', 'map' => 'left', 'values' => ['from' => 'point', 'point' => [0, -0.4, 0], 'speed' => 3]]]),
            1e-5,
        );
    }

    /** Whatever their numbers: those within reach of the touch go, though others before them are too far away. */
    public function test_a_touch_lets_go_what_is_within_its_reach_and_nothing_else(): void
    {
        foreach ([-0.5, 0.5] as $x) {
            $d = self::struck(['on' => 'touch', 'reach' => 0.35]);
            $d['props'][1]['place']['position'][0] = $x;
            $baker = self::baker($d);
            $before = $frame = $baker->firstFrame();
            while ($frame->figures['released']['block'] === 0 && $frame->number < 20) {
                $before = $frame;
                $frame = $baker->nextFrame();
            }
            $at = $frame->marks[0]['at'];
            $gone = $near = [];
            for ($k = 0; $k < 24; $k++) {
                if (self::float($frame, 8 * $k + 3) > 0.5) {
                    $gone[] = $k;
                }
                $far = sqrt((self::float($before, 8 * $k) - $at[0]) ** 2 + (self::float($before, 8 * $k + 1) - $at[1]) ** 2 + (self::float($before, 8 * $k + 2) - $at[2]) ** 2);
                if ($far <= 0.35) {
                    $near[] = $k;
                }
            }
            self::assertSame($near, $gone, "struck at $x");
            self::assertGreaterThan(2, count($near));
            self::assertLessThan(24, count($near));
        }
    }

    /** What is sent with the striker has a share of its speed, and moves the way it moved: −z. */
    public function test_pieces_go_along_with_the_striker(): void
    {
        $speeds = static function (float $share): float {
            $d = self::struck(['on' => 'touch', 'reach' => null]);
            $d['props'][0]['motion']['pushes'] = [['push' => 'striker', 'values' => ['share' => $share]]];
            $baker = self::baker($d);
            $baker->firstFrame();
            while ($baker->frameNumber() < 12) {
                $before = $baker->nextFrame();
            }
            $after = $baker->nextFrame();
            $sum = 0.0;
            for ($k = 0; $k < 24; $k++) {
                $sum += 24 * (self::float($after, 8 * $k + 2) - self::float($before ?? $after, 8 * $k + 2)) / 24;
            }

            return $sum;
        };
        // The ball comes with 2 m in 10 frames: 4.8 m/s. What it pushes by itself comes on top, with or without.
        self::assertEqualsWithDelta(-0.5 * 4.8, $speeds(0.5) - $speeds(0.0), 0.5);
    }

    /** The ball comes at 4.8 m/s to a tile in the first column, second row: beside it lie three others. */
    public function test_a_clump_loses_what_lies_round_a_blow_it_does_not_stand(): void
    {
        $loose = static function (float $firm): array {
            $d = self::struck(['on' => 'frame', 'frame' => 0]);
            $d['props'][0]['motion']['values'] = ['clump' => 1000, 'firm' => $firm];
            $baker = self::baker($d);
            $baker->firstFrame();
            do {
                $frame = $baker->nextFrame();
            } while ($frame->number < 20);
            $at = static fn (int $piece): Vec3 => new Vec3(self::float($frame, 8 * $piece), self::float($frame, 8 * $piece + 1), self::float($frame, 8 * $piece + 2));
            // Measured from the corner farthest from the blow.
            $far = self::nearest(0.5, 0.7);

            return array_values(array_filter(
                range(0, 23),
                static fn (int $p): bool => abs($at($p)->minus($at($far))->length() - self::middle($p)->minus(self::middle($far))->length()) > 1e-3,
            ));
        };
        self::assertSame([], $loose(5.0), 'it moves on as one');
        $hit = self::nearest(-0.5, 0.3);
        $gone = $loose(4.5);
        self::assertContains($hit, $gone);
        self::assertSame([], array_diff($gone, [$hit, self::nearest(-0.5, 0.1), self::nearest(-0.5, 0.5), self::nearest(-0.3, 0.3)]));
    }

    /** Taken up after every frame, a bake by maps with steps, waits and followers gives the same bytes. */
    public function test_a_bake_by_maps_is_taken_up_to_the_last_bit(): void
    {
        $d = self::wall(['on' => 'weight', 'map' => 'sweep', 'wait' => 0.2]);
        $d['world']['gravity'] = [0, -9.80665, 0];
        $d['props'][0]['weights'] = [['inTime' => [
            ['step' => 'spread', 'values' => ['speed' => 1.0]],
            ['step' => 'lag', 'values' => ['half' => 0.05]],
        ]] + self::sweep(-1.0, 0.0, 24)];
        $d['props'][0]['motion'] += [
            'follow' => ['after' => 0.3, 'unsupported' => true, 'wait' => 0.1],
            'pushes' => [['push' => 'random', 'map' => 'sweep', 'values' => ['speed' => 1]]],
        ];
        $whole = self::baker($d);
        $once = [md5(self::bytes($whole->firstFrame()))];
        $state = $whole->pack();
        $twice = $once;
        for ($k = 0; $k < 20; $k++) {
            $once[] = md5(self::bytes($whole->nextFrame()));
            $again = self::baker($d);
            $again->unpack($state);
            $twice[] = md5(self::bytes($again->nextFrame()));
            $state = $again->pack();
        }
        self::assertSame($once, $twice);
        self::assertGreaterThan(8, count(array_unique($once)));
    }

    /** Without a bake the order is the one the bake keeps to: by weight with waits and followers, by shockwave, and by nothing but a touch. */
    public function test_the_order_told_beforehand_is_that_of_the_bake(): void
    {
        $weighed = self::wall(['on' => 'weight', 'map' => 'sweep', 'wait' => 0.2]);
        $weighed['props'][0]['weights'] = [self::sweep(-1.0, 0.2, 24)];
        $weighed['props'][0]['motion'] += [
            'follow' => ['after' => 0.4, 'unsupported' => true, 'wait' => 0.1],
            'anchors' => [self::shards()[self::nearest(0.5, 0.7)]->name],
        ];
        $wave = self::wall(['on' => 'shockwave', 'at' => [0.1, 0.2, 0], 'frame' => 3, 'wave' => 0.8, 'reach' => 0.6]);
        $wave['props'][0]['motion'] += ['follow' => ['after' => null, 'unsupported' => true]];
        foreach ([$weighed, $wave, self::wall(['on' => 'touch', 'reach' => null])] as $d) {
            $shot = self::spec($d);
            $told = ReleaseOrder::of($shot, 0, new MadeParts(self::maker(), self::noAssets(), ['block' => self::shards()]));
            self::assertSame(self::goes($d, 60), $told);
        }
    }

    /** A key tied to "half of the wall reached" stands where that is: foreseen where keys decide it, found by the bake where physics does. */
    public function test_a_map_reaching_a_share_is_a_cue(): void
    {
        $d = self::wall(['on' => 'cue', 'cue' => 'half', 'offset' => 2]);
        $d['props'][0]['weights'] = [self::sweep(-1.0, 1.0, 24)];
        $d['cues'] = [['id' => 'half', 'name' => 'Half', 'at' => ['on' => 'reaching', 'map' => 'sweep', 'share' => 0.5]]];
        // The plane is past the middle of the wall by half its band at −1 + f/12 = 0.05 − …: frame 12 lies at 0, ½ is 0.05 before it.
        $frames = array_unique(self::goes($d, 24));
        self::assertCount(1, $frames);
        self::assertEqualsWithDelta(12 + 2, reset($frames), 1.0);
        self::assertTrue(self::spec($d)->isForeseen(self::spec($d)->cues[0]));

        $d['props'][0]['weights'][0]['sources'] = [['source' => 'proximity', 'values' => ['to' => 'ball', 'full' => 0.6, 'none' => 0.61]]];
        $d['props'][] = self::ball(
            ['kind' => 'free', 'held' => 'still', 'release' => ['on' => 'frame', 'frame' => 0], 'velocity' => [0, 0, -4.8]],
            [0.0, 0.4, 2.15],
        );
        self::assertFalse(self::spec($d)->isForeseen(self::spec($d)->cues[0]));
        $baker = self::baker($d);
        $baker->firstFrame();
        $anchored = [];
        while ($baker->frameNumber() < 20) {
            $anchored += $baker->nextFrame()->anchored;
        }
        // Half of the wall's points lie within 0.6 m of the ball from about a third of a metre before the wall on.
        self::assertArrayHasKey('half', $anchored);
        self::assertGreaterThan(5.0, $anchored['half']);
        self::assertLessThan(11.0, $anchored['half']);
    }

    /** A later key of the map leaves the frames before it as they were, and is named as what makes the next ones others. */
    public function test_changing_a_map_late_keeps_the_frames_before(): void
    {
        $d = self::wall(['on' => 'weight', 'map' => 'sweep']);
        $d['props'][0]['weights'] = [self::sweep(-1.0, 1.0, 12)];
        $d['props'][0]['weights'][0]['sources'][0]['values']['point'][0]['keys'][] = ['frame' => 20, 'value' => 2.0];
        $was = History::of(self::spec($d));
        $d['props'][0]['weights'][0]['sources'][0]['values']['point'][0]['keys'][2]['value'] = 3.0;
        $now = History::of(self::spec($d));
        self::assertSame(['frame' => 13, 'what' => 'weight map Sweep'], $now->partsFrom($was));
        self::assertSame(array_slice($was->chain(), 0, 13), array_slice($now->chain(), 0, 13));
        self::assertNotSame($was->chain()[13], $now->chain()[13]);
    }

    public function test_maps_that_are_none_of_the_prop_are_refused(): void
    {
        $d = self::wall(['on' => 'weight', 'map' => 'gone']);
        foreach ([
            'release' => $d,
            'groups[0].release' => self::with(
                $d,
                [
                    'release' => ['on' => 'frame', 'frame' => 1],
                    'groups' => [['name' => 'A', 'pieces' => ['x'], 'release' => ['on' => 'weight', 'map' => 'gone']]],
                ],
            ),
            'pushes[0]' => self::with(
                $d,
                ['release' => ['on' => 'frame', 'frame' => 1], 'pushes' => [['push' => 'random', 'map' => 'gone', 'values' => new \stdClass]]],
            ),
        ] as $path => $wrong) {
            try {
                self::spec($wrong);
                self::fail('it was taken');
            } catch (Problem $e) {
                self::assertSame('props[0].motion.'.$path.'.map', $e->path);
                self::assertStringContainsString('goes by a weight map that is none of its own', $e->getMessage());
            }
        }
    }

    /**
     * @param  array<string, mixed>  $d
     * @param  array<string, mixed>  $motion
     * @return array<string, mixed>
     */
    private static function with(array $d, array $motion): array
    {
        $d['props'][0]['motion'] = $motion + $d['props'][0]['motion'];

        return $d;
    }

    /** @return array<string, mixed> a front along x between two places from frame 0 to a last one, its band 0.1 m wide */
    private static function sweep(float $from, float $to, int $last): array
    {
        return [
            'id' => 'sweep',
            'name' => 'Sweep',
            'sources' => [[
                'source' => 'front',
                'values' => [
                    'direction' => [1, 0, 0],
                    'point' => [['keys' => [['frame' => 0, 'value' => $from], ['frame' => $last, 'value' => $to]]], 0, 0],
                    'full' => 0.0,
                    'none' => 0.1,
                    'falloff' => 'linear',
                ],
            ]],
        ];
    }

    /**
     * @param  array<string, mixed>  $release
     * @return array<string, mixed>
     */
    private static function wall(array $release): array
    {
        $d = json_decode(Documents::json(), true);
        $d['frames']['last'] = 60;
        $d['world']['gravity'] = [0, 0, 0];
        $d['props'][0] = [
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 1.2, 'height' => 0.8, 'depth' => 0.1]],
            'break' => ['pattern' => 'tiles', 'values' => ['grid' => [6, 4, 1]]],
            'motion' => ['kind' => 'free', 'held' => 'still', 'release' => $release],
        ] + $d['props'][0];
        $d['props'][0]['place']['position'] = [0, 0, 0];

        return $d;
    }

    /**
     * The wall, a ball that is driven into it at −0.5, 0.3, and one that touches it earlier at its other end.
     *
     * @param  array<string, mixed>  $release
     * @return array<string, mixed>
     */
    private static function struck(array $release): array
    {
        $d = self::wall($release);
        $d['props'][] = self::ball(
            ['kind' => 'keyed'],
            [-0.5, 0.2, ['keys' => [['frame' => 0, 'value' => 2.15], ['frame' => 10, 'value' => 0.15], ['frame' => 20, 'value' => 0.05]]]],
        );

        return $d;
    }

    /**
     * @param  array<string, mixed>  $motion
     * @param  array<mixed>  $position
     * @return array<string, mixed>
     */
    private static function ball(array $motion, array $position): array
    {
        return ['id' => 'ball', 'name' => 'Ball', 'source' => [
            'kind' => 'shape',
            'shape' => 'ball',
            'values' => ['radius' => 0.1, 'detail' => 6],
        ], 'place' => ['position' => $position, 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'metal', 'colour' => '#888888', 'inner' => '#888888', 'density' => 7000, 'friction' => 0.5, 'bounce' => 0.1],
            'break' => null,
            'motion' => $motion];
    }

    /**
     * @param  array<string, mixed>  $d
     * @return list<int|null> by piece: the first frame in which it is not held
     */
    private static function goes(array $d, int $last): array
    {
        $baker = self::baker($d);
        $out = array_fill(0, 24, null);
        for ($frame = $baker->firstFrame(); ; $frame = $baker->nextFrame()) {
            foreach ($out as $piece => $at) {
                if ($at === null && self::float($frame, 8 * $piece + 3) > 0.5) {
                    $out[$piece] = $frame->number;
                }
            }
            if ($frame->number >= $last) {
                return $out;
            }
        }
    }

    private static function float(Frame $frame, int $k): float
    {
        return (unpack('g', $frame->stream(0, StreamKind::Poses), 4 * $k) ?: [1 => NAN])[1];
    }

    private static function bytes(Frame $frame): string
    {
        return FrameRecord::encode($frame->number, $frame->streams);
    }

    private static function middle(int $piece): Vec3
    {
        return self::shards()[$piece]->centre();
    }

    private static function nearest(float $x, float $y): int
    {
        foreach (self::shards() as $piece => $shard) {
            if (abs($shard->centre()->x - $x) < 0.01 && abs($shard->centre()->y - $y) < 0.01) {
                return $piece;
            }
        }
        self::fail('there is no such tile');
    }

    /** @return list<Shard> of the wall */
    private static function shards(): array
    {
        static $shards = null;

        return $shards ??= self::maker()->shards(self::spec(self::wall(['on' => 'frame', 'frame' => 0]))->props[0], new SilentProgress);
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

    /** @param  array<string, mixed>  $d */
    private static function spec(array $d): ShotSpec
    {
        return ShotSpec::fromJson((string) json_encode($d, JSON_PRESERVE_ZERO_FRACTION));
    }

    /** @param  array<string, mixed>  $d */
    private static function baker(array $d): Baker
    {
        $shot = self::spec($d);
        $shards = [];
        foreach ($shot->props as $prop) {
            $shards[$prop->id] = self::maker()->shards($prop, new SilentProgress);
        }

        return Baker::of($shot, $shards, new MadeParts(self::maker(), self::noAssets(), $shards));
    }
}
