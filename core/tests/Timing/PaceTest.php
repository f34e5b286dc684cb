<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Timing;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Timing\Ease;
use YardBreak\Core\Timing\Pace;
use YardBreak\Core\Timing\Rate;
use YardBreak\Core\Timing\Timecode;
use YardBreak\Core\Timing\Track;

/** Moments and frames by hand. */
final class PaceTest extends TestCase
{
    /** Half speed from frame 10 to 20: five moments pass; before and after it is as on the clock. */
    public function test_moments_pass_as_fast_as_the_rate_says_and_as_on_the_clock_beyond_it(): void
    {
        $pace = new Pace(Track::constant(0.5), 10, 20);
        foreach ([[10.0, 0.0], [14.0, 2.0], [15.0, 2.5], [20.0, 5.0], [26.0, 11.0], [7.0, -3.0]] as [$frame, $scene]) {
            self::assertSame($scene, $pace->scene($frame));
            self::assertSame($frame, $pace->frame($scene));
        }
        self::assertSame(18.0, $pace->later(14.0, 2.0), 'two moments take four frames');
        self::assertSame(16.0, Pace::even()->later(14.0, 2.0));
        self::assertSame(-4.0, Pace::even()->frame(-4.0));
    }

    /** A fall lasts 1, then hops of half the speed each: half as long each way, a quarter as high. Of the whole 1 + 2(½ + ¼ + ⅛). */
    public function test_a_bounce_falls_and_hops_by_halves(): void
    {
        $bounce = Ease::of('bounce');
        $all = 2.75;
        foreach ([[0.5, 0.25], [1.0, 1.0], [1.5, 0.75], [2.0, 1.0], [2.25, 1.0 - 1 / 16], [2.5, 1.0], [2.625, 1.0 - 1 / 64], [1.25, 0.75 + 1 / 16]] as [$t, $share]) {
            self::assertEqualsWithDelta($share, $bounce->at($t / $all), 1e-9, "at $t of 2.75");
        }
    }

    /** SMPTE 12M: an hour at 24 is 86,400 frames, and the first numbers of a tenth minute are there in drop-frame code too. */
    public function test_hours_of_a_timecode(): void
    {
        self::assertSame('01:00:00:05', Timecode::of(86405, Rate::of([24, 1])));
        self::assertSame(17982, Timecode::frame('00:10:00;00', Rate::of([30000, 1001])));
        self::assertSame(1800, Timecode::frame('00:01:00;02', Rate::of([30000, 1001])));
    }
}
