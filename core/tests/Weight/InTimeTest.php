<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Solids;
use YardBreak\Core\Weight\InTime\Step;
use YardBreak\Core\Weight\Points;
use YardBreak\Core\Weight\WeightCatalogue;

/** Expected courses are the closed forms of each step, worked out here. */
final class InTimeTest extends TestCase
{
    private const FRAME = 1 / 24;

    public function test_latch_keeps_the_most_there_was(): void
    {
        self::assertSame([[0.2], [0.8], [0.8], [0.8], [0.9]], self::course('latch', [], [[0.2], [0.8], [0.1], [0.0], [0.9]]));
    }

    /** After n half-lives 2⁻ⁿ of the way is left. */
    public function test_lag_does_half_of_what_is_left_in_each_half_life(): void
    {
        $out = self::course('lag', ['half' => 2 * self::FRAME], [[0.0], ...array_fill(0, 8, [1.0])]);
        foreach ([2 => 0.5, 4 => 0.75, 8 => 1 - 1 / 16] as $frame => $want) {
            self::assertEqualsWithDelta($want, $out[$frame][0], 1e-12);
        }
        self::assertSame([[0.3], [0.9]], self::course('lag', ['half' => 0], [[0.3], [0.9]]));
    }

    /** A step of 0.5 from rest: x(t) = ½(1 − e^(−ζωt)(cos ω_d t + ζ/√(1 − ζ²) sin ω_d t)), any textbook of vibrations. */
    public function test_ripple_is_the_step_response_of_a_damped_spring(): void
    {
        $f = 1.5;
        $zeta = 0.3;
        $out = self::course('ripple', ['frequency' => $f, 'damping' => $zeta], [[0.0], ...array_fill(0, 40, [0.5])]);
        $omega = 2 * M_PI * $f;
        $damped = $omega * sqrt(1 - $zeta ** 2);
        $most = 0.0;
        foreach ($out as $frame => [$x]) {
            $t = $frame * self::FRAME;
            self::assertEqualsWithDelta(
                0.5 * (1 - exp(-$zeta * $omega * $t) * (cos($damped * $t) + $zeta / sqrt(1 - $zeta ** 2) * sin($damped * $t))),
                $x,
                1e-9,
            );
            $most = max($most, $x);
        }
        // First overshoot: e^(−πζ/√(1−ζ²)) of the step, read at frames.
        self::assertEqualsWithDelta(0.5 * (1 + exp(-M_PI * $zeta / sqrt(1 - $zeta ** 2))), $most, 0.01);
    }

    /** Critically damped it does not overshoot: x = ½(1 − e^(−ωt)(1 + ωt)). */
    public function test_damped_fully_it_does_not_overshoot(): void
    {
        $out = self::course('ripple', ['frequency' => 1.0, 'damping' => 1.0], [[0.0], ...array_fill(0, 40, [0.5])]);
        foreach ($out as $frame => [$x]) {
            $wt = 2 * M_PI * $frame * self::FRAME;
            self::assertEqualsWithDelta(0.5 * (1 - exp(-$wt) * (1 + $wt)), $x, 1e-9);
        }
    }

    public function test_fade_stays_and_then_goes_evenly_and_a_new_rise_begins_anew(): void
    {
        $in = [[0.0], [0.6], [0.6], [0.0], [0.0], [0.0], [0.0], [0.0], [0.9], [0.9], [0.9]];
        $out = self::course('fade', ['after' => 2 * self::FRAME, 'over' => 3 * self::FRAME], $in);
        $want = [0.0, 0.6, 0.6, 0.6, 0.4, 0.2, 0.0, 0.0, 0.9, 0.9, 0.9];
        foreach ($want as $frame => $w) {
            self::assertEqualsWithDelta($w, $out[$frame][0], 1e-9, (string) $frame);
        }
    }

    /** A ramp of 0.1 a frame comes later by a time of its own at each piece, the same time always. */
    public function test_delay_is_a_shift_in_time_of_its_own_at_each_piece(): void
    {
        $n = 200;
        $in = array_map(static fn (int $f): array => array_fill(0, $n, min(1.0, 0.02 * $f)), range(0, 60));
        $out = self::course('delay', ['least' => 2 * self::FRAME, 'most' => 10 * self::FRAME, 'seed' => 4], $in, self::pieces($n));
        $waits = [];
        for ($i = 0; $i < $n; $i++) {
            $waits[$i] = 40 - $out[40][$i] / 0.02;
            self::assertGreaterThanOrEqual(2.0 - 1e-9, $waits[$i]);
            self::assertLessThanOrEqual(10.0 + 1e-9, $waits[$i]);
            foreach ([15, 25, 47] as $frame) {
                self::assertEqualsWithDelta($out[40][$i] - 0.02 * (40 - $frame), $out[$frame][$i], 1e-9);
            }
            self::assertSame(0.0, $out[2][$i]);
        }
        // Evenly between both: the mean of 200 within four standard deviations.
        self::assertEqualsWithDelta(6.0, array_sum($waits) / $n, 4 * 8 / sqrt(12 * $n));
    }

    /** Touched at one corner of the grid at the first frame it runs by the way over the flat sheet. */
    public function test_spread_runs_over_the_surface_at_its_speed_and_never_back(): void
    {
        $sheet = self::sheet();
        $n = $sheet->count();
        $touched = array_fill(0, $n, 0.0);
        $touched[0] = 1.0;
        $still = array_fill(0, $n, 0.0);
        $out = self::course('spread', ['speed' => 0.6, 'soft' => 0.1], [$touched, ...array_fill(0, 40, $still)], $sheet);
        foreach ([0, 10, 25, 40] as $frame) {
            foreach ($out[$frame] as $i => $w) {
                $way = hypot($sheet->x[$i] - $sheet->x[0], $sheet->z[$i] - $sheet->z[0]);
                if ($i === 0) {
                    continue;
                }
                self::assertEqualsWithDelta(max(0.0, min(1.0, (0.6 * $frame * self::FRAME - $way) / 0.1)), $w, 0.02 * $way / 0.1 + 1e-9);
                self::assertGreaterThanOrEqual($out[max(0, $frame - 1)][$i], $w);
            }
        }
    }

    /** Half the pieces in a row touched one after the other: the next ones follow by their distance and the speed. */
    public function test_spread_goes_from_piece_to_piece(): void
    {
        $row = self::pieces(5, [[0, 1, 0.5], [1, 2, 0.5], [3, 4, 0.5]]);
        $out = self::course('spread', ['speed' => 12.0, 'soft' => 0.0], [[1.0, 0, 0, 0, 0], ...array_fill(0, 3, [0.0, 0, 0, 0, 0])], $row);
        self::assertSame(
            [[1.0, 0, 0, 0, 0], [1.0, 1.0, 0, 0, 0], [1.0, 1.0, 1.0, 0, 0], [1.0, 1.0, 1.0, 0, 0]],
            array_map(static fn (array $f): array => array_map(static fn (float|int $w): float|int => $w > 0 ? (float) $w : 0, $f), $out),
        );
    }

    public function test_a_ragged_front_runs_unevenly_and_another_seed_otherwise(): void
    {
        $sheet = self::sheet();
        $touched = array_fill(0, $sheet->count(), 0.0);
        $touched[0] = 1.0;
        $run = static fn (float $ragged, int $seed): array => self::course(
            'spread',
            ['speed' => 0.6, 'soft' => 0.0, 'ragged' => $ragged, 'size' => 0.15, 'seed' => $seed],
            [$touched, ...array_fill(0, 24, $touched)],
            $sheet,
        )[24];
        self::assertNotSame($run(0.0, 1), $run(0.8, 1));
        self::assertNotSame($run(0.8, 1), $run(0.8, 2));
        self::assertEqualsWithDelta(array_sum($run(0.0, 1)), array_sum($run(0.8, 1)), 0.4 * array_sum($run(0.0, 1)));
    }

    /** A ring: what is near swings first, what is far later, and all come to rest. */
    public function test_a_ripple_runs_out_as_a_ring(): void
    {
        $sheet = self::sheet();
        $touched = array_fill(0, $sheet->count(), 0.0);
        $touched[0] = 1.0;
        $out = self::course(
            'ripple',
            ['frequency' => 4.0, 'damping' => 0.4, 'speed' => 1.2],
            [$touched, ...array_fill(0, 60, array_fill(0, $sheet->count(), 0.0))],
            $sheet,
        );
        foreach ($out[0] as $i => $_) {
            $way = hypot($sheet->x[$i] - $sheet->x[0], $sheet->z[$i] - $sheet->z[0]);
            if ($i > 0) {
                $arrives = $way / 1.2 / self::FRAME;
                self::assertSame(0.0, $out[max(0, (int) floor(0.98 * $arrives) - 1)][$i]);
                self::assertGreaterThan(0.3, max($out[(int) ceil($arrives)][$i], $out[(int) ceil(1.02 * $arrives) + 1][$i]));
            }
            self::assertLessThan(0.01, $out[60][$i]);
        }
    }

    /** Taken up from a state of any frame, the rest comes out to the last bit as it would have. */
    #[DataProvider('steps')]
    public function test_a_state_that_is_taken_up_goes_on_the_same(string $name): void
    {
        $sheet = self::sheet();
        $random = new SeededRandom(13);
        $in = array_map(static fn (): array => array_map(static fn (): float => $random->share() < 0.04 ? $random->share() : 0.0, $sheet->x), range(0, 20));
        $values = self::values($name, $name === 'spread' ? ['ragged' => 0.5] : ($name === 'ripple' ? ['speed' => 0.5] : []));
        $whole = self::course($name, $values, $in, $sheet);
        $step = WeightCatalogue::STEPS[$name]::over($sheet);
        foreach ($in as $frame => $weights) {
            $again = WeightCatalogue::STEPS[$name]::over($sheet);
            if ($frame > 0) {
                $again->restore(unserialize(serialize($step->state())));
                // What has only been taken up is kept as well.
                self::assertEquals($step->state(), $again->state());
            }
            $step = $again;
            self::assertSame($whole[$frame], $step->next($weights, $values, $frame === 0 ? 0.0 : self::FRAME), $name.' '.$frame);
        }
    }

    /** @return iterable<string, array{string}> */
    public static function steps(): iterable
    {
        foreach (array_keys(WeightCatalogue::STEPS) as $name) {
            yield $name => [$name];
        }
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  list<list<float|int>>  $in  by frame
     * @return list<list<float>> by frame
     */
    private static function course(string $name, array $values, array $in, ?Points $on = null): array
    {
        /** @var Step $step */
        $step = WeightCatalogue::STEPS[$name]::over($on ?? self::pieces(1));
        $values = self::values($name, $values);
        $out = [];
        foreach ($in as $frame => $weights) {
            $out[] = $step->next(array_map(floatval(...), $weights), $values, $frame === 0 ? 0.0 : self::FRAME);
        }

        return $out;
    }

    /**
     * @param  array<string, mixed>  $values
     * @return array<string, mixed>
     */
    private static function values(string $name, array $values): array
    {
        return Option::resolve(WeightCatalogue::STEPS[$name]::options(), $values);
    }

    /** @param  list<array{int, int, float}>  $ways */
    private static function pieces(int $count, array $ways = []): Points
    {
        $zero = array_fill(0, $count, 0.0);

        return Points::ofPieces(
            'test',
            'test',
            array_map(strval(...), range(1, $count)),
            [$zero, $zero, $zero],
            array_fill(0, $count, 1.0),
            static fn (): array => $ways,
        );
    }

    /** A flat sheet of a metre, in the plane of x and z. */
    private static function sheet(): Points
    {
        $mesh = Solids::shape('box', ['width' => 1, 'height' => 0.001, 'depth' => 1, 'segments' => 24]);
        $n = $mesh->vertexCount();

        return Points::ofMesh('test', 'test', $mesh, static fn (): array => ['whole'], static fn (): array => array_fill(0, $n, 0));
    }
}
