<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Trial;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Tests\Bake\Trials;
use YardBreak\Core\Trial\Cost;
use YardBreak\Core\Trial\Outcome;

/** Figures by which bakes are told apart, of frames made by hand. */
final class OutcomeTest extends TestCase
{
    public function test_figures_of_a_bake(): void
    {
        // Ten pieces round (1, 0) that end one to ten metres off along x; an eleventh stays held far away.
        $poses = static fn (float $times): array => [[StreamKind::Poses->value => implode('', array_map(static fn (int $k): string => pack('g8', 1.0 + $times * $k, 5.0, 0.0, 2.0, 0, 0, 0, 1), range(1, 10))).pack('g8', 90, 0, 0, 0, 0, 0, 0, 1)]];
        $figures = array_map(static fn (int $frame, int $moving): array => ['frame' => $frame, 'moving' => $moving, 'energy' => 3.0 * $moving, 'overlap' => 0.001 * $frame], range(10, 14), [0, 4, 0, 2, 0]);
        $outcome = Outcome::of($figures, $poses(0.0), $poses(1.0), 2.5, 11);
        self::assertSame([14, true, 12.0, 0.014, 2.5, 11], [$outcome->rests, $outcome->moved, $outcome->energy, $outcome->overlap, $outcome->seconds, $outcome->pieces]);
        self::assertEqualsWithDelta(9.0, $outcome->spread, 1e-5, 'nine tenths of the ten');
        self::assertEquals($outcome, Outcome::fromArray(json_decode((string) json_encode($outcome->toArray()), true)));
        $figures[4]['moving'] = 1;
        self::assertNull(Outcome::of($figures, $poses(0.0), $poses(1.0), 2.5, 11)->rests, 'something moves at its end');
        $still = array_map(static fn (array $f): array => ['moving' => 0] + $f, $figures);
        self::assertFalse(Outcome::of($still, [], [], 0.0, 0)->moved);
    }

    public function test_differences_are_said_in_words(): void
    {
        $before = new Outcome(40, true, 1.0, 10.0, 0.001, 2.0, 30);
        self::assertSame([], $before->against($before));
        self::assertSame(
            ['rests 14 frames later', 'spreads 60 cm farther', 'moves with 2.5 times the energy', 'overlaps by 4 mm at most, not 1 mm', '1 more piece'],
            (new Outcome(54, true, 1.6, 25.0, 0.004, 9.0, 31))->against($before),
        );
        self::assertSame(['rests 1 frame earlier', 'spreads 20 cm less far', 'moves with 50 % of the energy'], (new Outcome(39, true, 0.8, 5.0, 0.001, 2.0, 30))->against($before));
        self::assertSame(['does not come to rest by its end'], (new Outcome(null, true, 1.0, 10.0, 0.001, 2.0, 30))->against($before));
        self::assertSame(['comes to rest, at frame 40'], $before->against(new Outcome(null, true, 1.0, 10.0, 0.001, 2.0, 30)));
        self::assertSame(['nothing moves any more'], array_slice((new Outcome(null, false, null, 0.0, 0.001, 2.0, 30))->against($before), 0, 1));
    }

    public function test_what_it_takes_goes_by_pieces(): void
    {
        $shot = static fn (int $count): ShotSpec => Trials::ready(Trials::document([
            Trials::box('block', [0, 1, 0], ['break' => ['pattern' => 'cells', 'values' => ['count' => $count]], 'motion' => ['kind' => 'free']]), Trials::box('slab', [0, 0, 0]),
        ]))->shot;
        self::assertEqualsWithDelta((40.0 + 1.0) / 11.0, Cost::times($shot(40), $shot(10), ['block' => 10, 'slab' => 1]), 1e-9);
        self::assertSame(1.0, Cost::times($shot(10), $shot(10), ['block' => 10, 'slab' => 1]));
        $cost = Cost::of(50, 10, 4.0, ['seconds' => 0.01, 'bytes' => 500.0]);
        self::assertEqualsWithDelta([2.0, 100_000.0, 40], [$cost->seconds, $cost->bytes, $cost->pieces], 1e-9);
        self::assertSame(['block' => 40, 'slab' => 1], Cost::counts($shot(40)));
        self::assertGreaterThan(Cost::of(50, 100, 1.0, null)->seconds, Cost::of(50, 1000, 1.0, null)->seconds);
    }
}
