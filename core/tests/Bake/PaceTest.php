<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Timing\Pace;
use YardBreak\Core\Timing\Track;

/** Time that passes slower, faster or not at all: the motion is the same, spread over other frames. */
final class PaceTest extends TestCase
{
    private const G = 9.80665;

    /** A rate of ½ shows every moment half as far; one that falls evenly from 1 to 0 over 10 frames, half of them; a stop, none. */
    public function test_moments_are_the_integral_of_the_rate(): void
    {
        $half = new Pace(Track::constant(0.5), 10, 20);
        self::assertSame(3.0, $half->scene(16.0));
        self::assertSame(16.0, $half->frame(3.0));
        $ramp = new Pace(Track::of(Trials::keys([0 => 1.0, 10 => 0.0])), 0, 20);
        self::assertEqualsWithDelta(5.0, $ramp->scene(10.0), 1e-6);
        self::assertEqualsWithDelta(4.0 - 0.05 * 16, $ramp->scene(4.0), 1e-6);
        self::assertEqualsWithDelta(5.0, $ramp->scene(17.0), 1e-6);
        foreach ([0.5, 2.25, 4.9] as $moment) {
            self::assertEqualsWithDelta($moment, $ramp->scene($ramp->frame($moment)), 1e-6);
        }
        $stop = new Pace(Track::of(['keys' => [['frame' => 0, 'value' => 1, 'ease' => 'hold'], ['frame' => 4, 'value' => 0, 'ease' => 'hold'], ['frame' => 9, 'value' => 1, 'ease' => 'hold']]]), 0, 20);
        self::assertSame([4.0, 4.0, 5.0], [$stop->scene(4.0), $stop->scene(9.0), $stop->scene(10.0)]);
        self::assertSame([9.0, 4.0], [$stop->frame(4.0), $stop->frame(4.0, false)]);
        self::assertTrue((new Pace(Track::constant(1.0), 0, 9))->isEven());
    }

    /** A wall knocked down, with dust: at half the pace every other frame has the same bytes. */
    public function test_at_half_the_pace_every_other_frame_is_the_same(): void
    {
        $full = self::baked(self::wall(), 24);
        $half = self::baked(self::wall(), 48, 0.5);
        foreach ($full as $k => $frame) {
            self::assertSame($frame->streams, $half[2 * $k]->streams, "moment $k");
        }
        $cracks = static fn (array $frames): int => array_sum(array_map(static fn (Frame $f): int => count($f->figures['cracks']['wall'] ?? []), $frames));
        self::assertGreaterThan(3, $cracks($full));
        self::assertSame($cracks($full), $cracks($half));
        self::assertSame(count(array_merge(...array_column($full, 'marks'))), count(array_merge(...array_column($half, 'marks'))));
    }

    /** From full speed to a tenth, a stop and back: whole moments are met with the same bytes wherever they come to be shown. */
    public function test_a_ramp_and_a_stop_spread_the_same_motion(): void
    {
        $full = self::baked(self::wall(), 30);
        $rate = ['keys' => [['frame' => 4, 'value' => 1, 'ease' => 'hold'], ['frame' => 6, 'value' => 0.1, 'ease' => 'hold'], ['frame' => 26, 'value' => 0, 'ease' => 'hold'], ['frame' => 30, 'value' => 2, 'ease' => 'hold'], ['frame' => 34, 'value' => 1]]];
        $frames = self::baked(self::wall(), 44, $rate);
        $pace = new Pace(Track::of($rate), 0, 44);
        $met = 0;
        foreach ($frames as $f => $frame) {
            $moment = $pace->scene((float) $f);
            if (abs($moment - round($moment)) < 1e-9) {
                self::assertSame($full[(int) $moment]->streams, $frame->streams, "frame $f");
                $met++;
            }
        }
        self::assertGreaterThan(20, $met);
        self::assertSame($frames[26]->streams, $frames[29]->streams, 'it stands');
    }

    /** Frames in between show free flight as it is, to the last digits a stream holds. */
    public function test_free_flight_is_exact_between_the_steps(): void
    {
        $frames = self::baked([self::ball(5.0)], 60, 0.1);
        foreach ($frames as $f => $frame) {
            $t = 0.1 * $f / 24;
            self::assertEqualsWithDelta(5.0 + 0.15 - 0.5 * self::G * $t * $t, self::pose($frame)[1], 1e-6, "frame $f");
        }
    }

    /** A hit is shown where it is, not passed over from one step to the next. */
    public function test_a_ball_that_bounces_in_slow_motion_touches_the_ground(): void
    {
        $frames = self::baked([self::ball(0.5)], 240, 0.1);
        $lowest = min(array_map(static fn (Frame $f): float => self::pose($f)[1], $frames));
        self::assertEqualsWithDelta(0.15, $lowest, 0.012, 'a frame of the clock is 13 cm at that speed');
    }

    /** What is let go at a frame is let go at it, however slowly time passes there. */
    public function test_what_is_let_go_goes_at_its_frame(): void
    {
        $ball = self::ball(5.0);
        $ball['motion']['release']['frame'] = 33;
        $frames = self::baked([$ball], 60, 0.3);
        foreach ($frames as $f => $frame) {
            $t = 0.3 * max(0, $f - 33) / 24;
            self::assertEqualsWithDelta(5.0 + 0.15 - 0.5 * self::G * $t * $t, self::pose($frame)[1], 1e-6, "frame $f");
            self::assertSame($f < 33 ? 0 : 1, $frame->figures['released']['ball']);
        }
        self::assertSame((float) Pose::HELD, self::pose($frames[32])[3]);
    }

    /** Keyed props keep to their frames, or follow. */
    public function test_keyed_props_keep_to_their_frames_or_follow(): void
    {
        $cart = Trials::box('cart', [Trials::keys([0 => 0, 24 => 2.4]), 0, 0], ['motion' => ['kind' => 'keyed']]);
        foreach ([[false, 1.2], [true, 0.6]] as [$follow, $x]) {
            $frames = self::baked([$cart], 24, 0.5, $follow);
            self::assertEqualsWithDelta($x, self::pose($frames[12])[0], 1e-6);
        }
    }

    /** What is keyed and follows knocks things about as it does on the clock; what lies is pushed as fast. */
    public function test_what_follows_meets_things_as_on_the_clock(): void
    {
        $props = [Trials::box('cart', [Trials::keys([0 => -1.5, 24 => 1.5]), 0, 0], ['motion' => ['kind' => 'keyed']]), self::ball(0.0)];
        $full = self::baked($props, 24);
        $half = self::baked($props, 48, 0.5, true);
        foreach ($full as $k => $frame) {
            self::assertEqualsWithDelta(self::pose($frame, 1), self::pose($half[2 * $k], 1), 1e-6, "moment $k");
        }
        self::assertGreaterThan(1.0, self::pose($full[24], 1)[0]);
    }

    /** Taken up again after any frame, it goes on with the same bytes. */
    public function test_taken_up_anywhere_it_goes_on_the_same(): void
    {
        $wall = self::wall();
        $wall[] = ['motion' => ['kind' => 'free', 'values' => (object) [], 'release' => ['on' => 'frame', 'frame' => 17]]] + self::ball(2.0);
        $document = self::document($wall, 40, ['keys' => [['frame' => 3, 'value' => 1], ['frame' => 12, 'value' => 0.15], ['frame' => 30, 'value' => 1.7]]]);
        $ready = Trials::ready($document);
        $baker = $ready->baker();
        $whole = [$baker->firstFrame()];
        $states = [$baker->pack()];
        while ($baker->frameNumber() < 40) {
            $whole[] = $baker->nextFrame();
            $states[] = $baker->pack();
        }
        foreach ([0, 3, 7, 12, 13, 16, 17, 18, 21, 27, 33, 39] as $from) {
            $again = $ready->baker($states[$from]);
            for ($f = $from + 1; $f <= min(40, $from + 9); $f++) {
                $frame = $again->nextFrame();
                self::assertSame($whole[$f]->streams, $frame->streams, "from $from, frame $f");
                self::assertSame([$whole[$f]->marks, $whole[$f]->figures['cracks'], $whole[$f]->anchored], [$frame->marks, $frame->figures['cracks'], $frame->anchored], "from $from, frame $f");
            }
        }
    }

    /** A frame within a step of physics hangs on all that acts in it: it is not kept where that changes. */
    public function test_frames_within_a_step_hang_on_all_of_it(): void
    {
        $of = static function (float $pull): History {
            $d = self::document([self::ball(5.0)], 40, 0.1);
            $d['world']['gravity'] = [0, ['keys' => [['frame' => 0, 'value' => -9.8, 'ease' => 'hold'], ['frame' => 17, 'value' => $pull, 'ease' => 'hold']]], 0];

            return History::of(ShotSpec::fromJson((string) json_encode($d, JSON_PRESERVE_ZERO_FRACTION)));
        };
        // The step from moment 1 to 2 is shown by frames 10 to 20: frames 0 to 10 stay.
        self::assertSame(11, $of(-9.8)->shares($of(-3.0), 41));
    }

    /** Slow motion from a hit on, which only the bake finds. */
    public function test_the_pace_may_change_at_a_touch(): void
    {
        $document = self::document([self::ball(1.0)], 60, ['keys' => [['frame' => 0, 'value' => 1, 'ease' => 'hold'], ['cue' => 'hit', 'offset' => 0, 'value' => 0.1]]]);
        $document['cues'] = [['id' => 'hit', 'name' => 'Hit', 'at' => ['on' => 'touch', 'one' => 'ball', 'other' => 'ground', 'speed' => 0.5]]];
        $frames = iterator_to_array(Trials::ready($document)->frames(), false);
        $full = self::baked([self::ball(1.0)], 24);
        $found = (int) array_merge(...array_map(static fn (Frame $f): array => $f->anchored, $frames))['hit'];
        // 1 m takes 10.8 frames.
        self::assertSame(11, $found);
        foreach ([0, 5, 11] as $k) {
            self::assertSame($full[$k]->streams, $frames[$k]->streams);
        }
        foreach ([1, 2, 3] as $k) {
            self::assertSame($full[11 + $k]->streams, $frames[11 + 10 * $k]->streams, "moment $k after");
        }
    }

    /** @return list<array<string, mixed>> a wall in mortar with dust from its cracks, and a ball that flies at it */
    private static function wall(): array
    {
        return [
            Trials::box('wall', [0, 0, 0], [
                'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 1.2, 'height' => 0.8, 'depth' => 0.12, 'segments' => 1]],
                'break' => ['pattern' => 'tiles', 'values' => ['grid' => [5, 4, 1]]],
                'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => ['mortar' => 'own', 'tension' => 0.02, 'shear' => 0.03]],
                'dust' => [
                    ['id' => 'dust', 'name' => 'Dust', 'from' => 'cracks', 'values' => ['dense' => 2000]],
                    ['id' => 'chips', 'name' => 'Chips', 'from' => 'hits', 'values' => ['dense' => 0.5, 'shape' => 'cube', 'size' => 20]],
                ],
            ]),
            Trials::box('striker', [0.1, 0.3, 1.0], ['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => ['velocity' => [0, 1.0, -6.0]]]]),
        ];
    }

    /** @return array<string, mixed> */
    private static function ball(float $height): array
    {
        return Trials::box('ball', [0, $height, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.15, 'detail' => 6]],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.7],
            'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]],
        ]);
    }

    /**
     * @param  list<array<string, mixed>>  $props
     * @param  float|array<string, mixed>  $pace
     * @return array<string, mixed>
     */
    private static function document(array $props, int $last, float|array $pace = 1.0, bool $follow = false): array
    {
        $d = Trials::document($props, ['frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]]]);
        $d['world'] += ['pace' => $pace, 'keysFollow' => $follow];

        return $d;
    }

    /**
     * @param  list<array<string, mixed>>  $props
     * @param  float|array<string, mixed>  $pace
     * @return list<Frame>
     */
    private static function baked(array $props, int $last, float|array $pace = 1.0, bool $follow = false): array
    {
        return iterator_to_array(Trials::ready(self::document($props, $last, $pace, $follow))->frames(), false);
    }

    /** @return list<float> place and state of a prop's first piece */
    private static function pose(Frame $frame, int $prop = 0): array
    {
        return array_values(unpack('g4', $frame->stream($prop, StreamKind::Poses)) ?: []);
    }
}
