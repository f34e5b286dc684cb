<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Timing;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Track;

final class TrackTest extends TestCase
{
    private const KEYS = [['frame' => 10, 'value' => 1], ['frame' => 20, 'value' => 3, 'ease' => 'hold'], ['frame' => 24, 'value' => -1]];

    public function test_a_number_is_the_same_always(): void
    {
        $track = Track::of(4);
        self::assertSame([4.0, 4.0, 0.0, true], [$track->at(-9), $track->at(1e6), $track->slope(3), $track->isConstant()]);
    }

    public function test_it_runs_by_its_eases_and_is_exact_at_its_keys(): void
    {
        $track = Track::of(['keys' => self::KEYS]);
        self::assertSame([1.0, 1.0, 2.0, 3.0, 3.0, -1.0, -1.0], array_map($track->at(...), [-5.0, 10.0, 15.0, 20.0, 23.999, 24.0, 99.0]));
        self::assertSame([0.0, 0.2, 0.0, 0.0], array_map($track->slope(...), [9.0, 10.0, 21.0, 30.0]));
        $smooth = Track::of(['keys' => [['frame' => 0, 'value' => 5, 'ease' => 'smooth'], ['frame' => 8, 'value' => 9]]]);
        // Smooth is 3t² − 2t³.
        self::assertEqualsWithDelta(5 + 4 * (3 / 16 - 2 / 64), $smooth->at(2), 1e-12);
        self::assertEqualsWithDelta(4 / 8 * (6 / 4 - 6 / 16), $smooth->slope(2), 1e-9);
    }

    public function test_outside_its_keys_it_holds_repeats_or_swings(): void
    {
        $of = static fn (string $before, string $after): Track => Track::of(['keys' => self::KEYS, 'before' => $before, 'after' => $after]);
        $repeat = $of('repeat', 'repeat');
        $swing = $of('swing', 'swing');
        foreach ([11.0, 15.5, 19.0, 22.0] as $frame) {
            $value = $repeat->at($frame);
            foreach ([-28, -14, 14, 140] as $later) {
                self::assertEqualsWithDelta($value, $repeat->at($frame + $later), 1e-12);
            }
            self::assertEqualsWithDelta($value, $swing->at(24 + (24 - $frame)), 1e-12, 'back again');
            self::assertEqualsWithDelta($value, $swing->at(10 - ($frame - 10)), 1e-12);
            self::assertEqualsWithDelta($value, $swing->at($frame + 28), 1e-12);
            self::assertEqualsWithDelta(-$repeat->slope($frame), $swing->slope(48 - $frame), 1e-12);
        }
        self::assertSame([1.0, -1.0], [$of('hold', 'repeat')->at(3), $of('repeat', 'hold')->at(99)]);
    }

    public function test_of_two_keys_on_a_frame_the_last_counts_and_order_does_not_matter(): void
    {
        $track = Track::of(['keys' => [['frame' => 8, 'value' => 2], ['frame' => 0, 'value' => 1], ['frame' => 8, 'value' => 7]]]);
        self::assertSame([1.0, 7.0, [0.0, 8.0]], [$track->at(0), $track->at(8), $track->frames]);
    }

    public function test_a_key_follows_its_cue(): void
    {
        $value = ['keys' => [['frame' => 0, 'value' => 0], ['cue' => 'hit', 'offset' => -2, 'value' => 1], ['cue' => 'hit', 'offset' => 3, 'value' => 0]]];
        foreach ([10.0, 12.5] as $hit) {
            $track = Track::of($value, new Cues(['hit' => $hit]));
            self::assertSame([0.0, $hit - 2, $hit + 3], $track->frames);
        }
        $unknown = Track::of($value, new Cues(['hit' => null]));
        self::assertSame([true, 0.0, 0.0], [$unknown->waits(), $unknown->at(0), $unknown->at(50)]);
        $value['keys'][] = ['frame' => 40, 'value' => 4];
        self::assertSame(2.0, Track::of($value, new Cues(['hit' => null]))->at(20), 'others stand without it');
    }

    public function test_a_cue_that_happens_changes_nothing_that_was_before_and_goes_on_from_there(): void
    {
        $value = ['keys' => [
            ['frame' => 0, 'value' => 0],
            ['frame' => 40, 'value' => 4],
            ['cue' => 'hit', 'offset' => 10, 'value' => 0],
            ['cue' => 'late', 'offset' => 0, 'value' => 9],
        ]];
        $cues = new Cues(['hit' => null, 'late' => null]);
        $before = Track::of($value, $cues);
        $hit = Track::of($value, $cues->anchored('hit', 20.0));
        $both = Track::of($value, $cues->anchored('hit', 20.0)->anchored('late', 25.0));
        for ($frame = 0.0; $frame <= 50.0; $frame += 0.5) {
            if ($frame <= 20.0) {
                self::assertSame($before->at($frame), $hit->at($frame), "at $frame");
            }
            if ($frame < 25.0) {
                self::assertSame($hit->at($frame), $both->at($frame), "at $frame");
            }
        }
        // From 2 at frame 20 down to 0 at 30, then up to 4 at 40; the second cue jumps.
        self::assertSame([1.0, 0.0, 2.0, 4.0], array_map($hit->at(...), [25.0, 30.0, 35.0, 60.0]));
        self::assertSame([9.0, 4.5, 0.0, 4.0], [$both->at(25), $both->at(27.5), $both->at(30), $both->at(40)]);
    }

    /** What `acts` says must cover every change of value, and come no later than it. */
    public function test_what_acts_tells_from_when_on_two_tracks_differ(): void
    {
        $random = new SeededRandom(5);
        $eases = ['hold', 'linear', 'smooth', 'overshoot', 'bounce', 'long-tail', [0.2, 0.9, 0.4, 0.1]];
        $kept = 0;
        for ($round = 0; $round < 400; $round++) {
            $keys = [];
            for ($k = 0, $n = 2 + (int) (6 * $random->share()); $k < $n; $k++) {
                $keys[] = [
                    'frame' => (int) (50 * $random->share()) + ($round % 3 === 0 ? 0.5 : 0),
                    'value' => (int) (4 * $random->share()),
                    'ease' => $eases[(int) (7 * $random->share())],
                ];
            }
            $outside = ['before' => Track::OUTSIDE[$round % 5 === 0 ? 1 : 0], 'after' => Track::OUTSIDE[$round % 4 === 0 ? 2 : 0]];
            $k = (int) (count($keys) * $random->share());
            // Every other one goes another way from frame 20 on.
            $tied = $round % 2 === 0 ? [] : [['cue' => 'hit', 'offset' => 6, 'value' => 9]];
            $cues = (new Cues(['hit' => null]))->anchored('hit', 20.0);
            $one = Track::of(['keys' => [...$keys, ...$tied]] + $outside, $cues);
            match ((int) (4 * $random->share())) {
                0 => $keys[$k]['frame'] += 3,
                1 => $keys[$k]['value'] += 1,
                2 => $keys[$k]['ease'] = $eases[(int) (7 * $random->share())],
                default => $keys[] = ['frame' => 31, 'value' => 2],
            };
            $other = Track::of(['keys' => [...$keys, ...$tied]] + $outside, $cues);
            $told = self::parts($one, $other);
            for ($frame = 0; $frame <= 60; $frame++) {
                // Between the frames as well: all of (frame − 1, frame].
                foreach ([0.75, 0.5, 0.25, 0.0] as $back) {
                    if ($one->at($frame - $back) !== $other->at($frame - $back)) {
                        self::assertLessThanOrEqual($frame, $told, 'it differs at '.($frame - $back).': '.json_encode([$keys, $k]));
                        break 2;
                    }
                }
            }
            $kept += $told > 5 ? 1 : 0;
        }
        self::assertGreaterThan(150, $kept, 'an edit late in a track leaves what was before');
    }

    /** The first frame in whose computing they differ, or one after all. */
    private static function parts(Track $one, Track $other): int
    {
        $by = static function (Track $t): array {
            $out = [];
            foreach ($t->acts() as [$after, $what]) {
                $out[$after < 0 ? 0 : (int) floor($after) + 1][] = $what;
            }

            return $out;
        };
        $a = $by($one);
        $b = $by($other);
        for ($frame = 0; $frame <= 61; $frame++) {
            if (($a[$frame] ?? []) !== ($b[$frame] ?? [])) {
                return $frame;
            }
        }

        return 99;
    }

    public function test_what_is_no_value_in_time_is_said_with_its_place(): void
    {
        foreach ([
            ['', 'a number, or keys', 'seven'],
            ['keys', 'no keys', ['keys' => []]],
            ['keys[1].value', 'a number', ['keys' => [['frame' => 0, 'value' => 1], ['frame' => 2, 'value' => 'x']]]],
            ['keys[0].frame', 'a number', ['keys' => [['value' => 1]]]],
            ['keys[0].value', 'a number', ['keys' => [['frame' => 1, 'value' => NAN]]]],
            ['keys[0]', 'needs a frame', ['keys' => [3]]],
            ['keys[0].ease', 'no such ease', ['keys' => [['frame' => 1, 'value' => 1, 'ease' => 'wobbly']]]],
            ['keys[0].cue', 'not there', ['keys' => [['cue' => 'gone', 'value' => 1]]]],
            ['keys[0].fame', 'no such setting', ['keys' => [['fame' => 1, 'value' => 1]]]],
            ['after', 'holds, repeats or swings', ['keys' => [['frame' => 1, 'value' => 1]], 'after' => 'stops']],
            ['loop', 'no such setting', ['keys' => [['frame' => 1, 'value' => 1]], 'loop' => true]],
        ] as [$path, $words, $value]) {
            try {
                Track::of($value);
                self::fail('it was taken: '.json_encode($path));
            } catch (Problem $e) {
                self::assertSame($path, $e->path);
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
    }
}
