<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Ease;
use YardBreak\Core\Timing\Rate;
use YardBreak\Core\Timing\Timecode;

final class TimingTest extends TestCase
{
    /**
     * W3C css-easing-1, "Cubic Bézier easing functions": the named functions and their control points. The points on each
     * curve come from its definition, B(s) = 3(1−s)²s·P₁ + 3(1−s)s²·P₂ + s³, for chosen s: x(s) in, y(s) out.
     */
    public function test_curves_follow_css_easing(): void
    {
        foreach ([
            'ease' => [0.25, 0.1, 0.25, 1],
            'ease-in' => [0.42, 0, 1, 1],
            'ease-out' => [0, 0, 0.58, 1],
            'ease-in-out' => [0.42, 0, 0.58, 1],
            'overshooting' => [0.3, -0.6, 0.4, 1.7],
            'steep' => [0, 1, 1, 0],
            'sudden' => [1, 0, 0, 1],
        ] as $name => [$x1, $y1, $x2, $y2]) {
            $ease = Ease::of([$x1, $y1, $x2, $y2]);
            for ($k = 0; $k <= 200; $k++) {
                $s = $k / 200;
                $b = static fn (float $p1, float $p2): float => 3 * (1 - $s) ** 2 * $s * $p1 + 3 * (1 - $s) * $s * $s * $p2 + $s ** 3;
                // Where the curve stands upright a rounding of x moves y by its cube root.
                self::assertEqualsWithDelta($b($y1, $y2), $ease->at($b($x1, $x2)), $name === 'sudden' ? 1e-4 : 1e-6, "$name at $s");
            }
            self::assertSame([0.0, 1.0], [$ease->at(0.0), $ease->at(1.0)], $name);
        }
    }

    public function test_slopes_are_those_of_the_curve(): void
    {
        foreach ([...array_keys(Ease::NAMES), [0.25, 0.1, 0.25, 1]] as $value) {
            $ease = Ease::of($value);
            foreach ([0.1, 0.33, 0.5, 0.77, 0.93] as $t) {
                $measured = ($ease->at($t + 1e-6) - $ease->at($t - 1e-6)) / 2e-6;
                self::assertEqualsWithDelta($measured, $ease->slope($t), 1e-4 * max(1.0, abs($measured)), json_encode($value)." at $t");
            }
        }
    }

    /** A ball dropped from height 1 that keeps half its speed: after the first hit it rises to e² = ¼, after the second to 1/16. */
    public function test_the_bounce_is_that_of_a_ball(): void
    {
        $ease = Ease::of('bounce');
        // Fall 1, bounces 2·½, 2·¼, 2·⅛: 2.75 in all.
        foreach ([[1.0, 1.0], [1.5, 0.75], [2.0, 1.0], [2.25, 15 / 16], [2.5, 1.0], [2.625, 63 / 64], [2.75, 1.0], [0.5, 0.25]] as [$t, $y]) {
            self::assertEqualsWithDelta($y, $ease->at($t / 2.75), 1e-12, "after $t");
        }
    }

    public function test_eases_do_what_they_are_called(): void
    {
        $at = static fn (string $name, float $t): float => Ease::of($name)->at($t);
        self::assertGreaterThan(0.4, $at('hard-start', 0.25));
        self::assertGreaterThan(0.85, $at('long-tail', 0.25));
        self::assertGreaterThan(1.02, max(array_map(static fn (int $k): float => $at('overshoot', $k / 50), range(0, 50))));
        self::assertSame([0.0, 1.0], [$at('hold', 0.999), $at('hold', 1.0)]);
    }

    /** @return list<array{int, array{int, int}, string}> frame, rate, timecode */
    public static function timecodes(): array
    {
        return [
            // SMPTE ST 12-1: in drop-frame counting numbers 0 and 1 are left out at the start of each minute but the tenths.
            [0, [30000, 1001], '00:00:00;00'], [1799, [30000, 1001], '00:00:59;29'], [1800, [30000, 1001], '00:01:00;02'], [3597, [30000, 1001], '00:01:59;29'],
            [3598, [30000, 1001], '00:02:00;02'],
            [17981, [30000, 1001], '00:09:59;29'],
            [17982, [30000, 1001], '00:10:00;00'],
            [107892, [30000, 1001], '01:00:00;00'],
            // At twice the rate, four numbers.
            [3599, [60000, 1001], '00:00:59;59'], [3600, [60000, 1001], '00:01:00;04'], [35964, [60000, 1001], '00:10:00;00'],
            // 23.976 drops none: an hour of timecode is longer than an hour.
            [86400, [24000, 1001], '01:00:00:00'], [1001, [24, 1], '00:00:41:17'], [1500, [25, 1], '00:01:00:00'], [-25, [25, 1], '-00:00:01:00'],
        ];
    }

    /** @param  array{int, int}  $rate */
    #[DataProvider('timecodes')]
    public function test_timecodes_are_those_of_the_standard(int $frame, array $rate, string $code): void
    {
        self::assertSame($code, Timecode::of($frame, Rate::of($rate)));
        self::assertSame($frame, Timecode::frame($code, Rate::of($rate)));
    }

    public function test_every_frame_of_a_day_and_back(): void
    {
        foreach (Rate::COMMON as $rate) {
            $rate = Rate::of($rate);
            for ($frame = 0; $frame < 24 * 3600 * $rate->nominal() - 100_000; $frame += 997) {
                self::assertSame($frame, Timecode::frame(Timecode::of($frame, $rate), $rate));
            }
        }
        // Drop-frame keeps within two frames of the clock, and is exact at each tenth minute but for 0.1 % of a second a day.
        $ntsc = Rate::of([30000, 1001]);
        self::assertEqualsWithDelta(3600.0, $ntsc->secondsAt(107892), 0.0036 + 1e-9);
    }

    public function test_numbers_that_drop_frame_leaves_out_are_refused(): void
    {
        foreach (['00:01:00;00', '00:02:00;01', '00:61:00;00', '1:2:3', '00:00:00;30'] as $wrong) {
            try {
                Timecode::frame($wrong, Rate::of([30000, 1001]));
                self::fail($wrong.' was taken');
            } catch (Problem $e) {
                self::assertNotSame('', $e->remedy);
            }
        }
    }

    public function test_rates_are_exact(): void
    {
        self::assertSame([24000, 1001], Rate::near(23.976)->toArray());
        self::assertSame([30000, 1001], Rate::near(29.97)->toArray());
        self::assertSame([47, 2], Rate::near(23.5)->toArray());
        self::assertSame([25, 1], Rate::of([50, 2])->toArray());
        self::assertSame(1001.0 / 24000.0, Rate::of([24000, 1001])->secondsAt(1));
        self::assertEqualsWithDelta(96.0, Rate::of([24000, 1001])->frameAt(Rate::of([24000, 1001])->secondsAt(96)), 1e-12);
        foreach ([[0, 1], [24, 0], [24], 'fast', [-24, 1], [2000, 1], [24.5, 1]] as $wrong) {
            try {
                Rate::of($wrong);
                self::fail('it was taken');
            } catch (Problem $e) {
                self::assertNotSame('', $e->getMessage());
            }
        }
    }
}
