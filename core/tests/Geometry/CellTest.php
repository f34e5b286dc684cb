<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Cell;

final class CellTest extends TestCase
{
    public function test_cells_have_numbers_of_their_own_and_steps_lead_to_those_beside(): void
    {
        $seen = [];
        for ($x = -4; $x < 4; $x++) {
            for ($y = -4; $y < 4; $y++) {
                for ($z = -4; $z < 4; $z++) {
                    $seen[Cell::of($x + 0.5, $y + 0.25, $z + 0.75)] = true;
                    self::assertSame(Cell::of($x, $y, $z), Cell::of($x + 0.99, $y, $z + 0.5));
                    self::assertSame(
                        [Cell::of($x + 1, $y, $z), Cell::of($x, $y + 1, $z), Cell::of($x, $y, $z + 1)],
                        array_map(static fn (int $step): int => Cell::of($x, $y, $z) + $step, Cell::AXES),
                    );
                }
            }
        }
        self::assertCount(512, $seen);
        $beside = array_map(static fn (int $step): int => Cell::of(0.5, 0.5, 0.5) + $step, Cell::beside());
        $want = [];
        foreach ([-1, 0, 1] as $x) {
            foreach ([-1, 0, 1] as $y) {
                foreach ([-1, 0, 1] as $z) {
                    $want[] = Cell::of($x, $y, $z);
                }
            }
        }
        self::assertEqualsCanonicalizing($want, $beside);
    }

    /** However far out and however small the cells. */
    public function test_far_places_have_a_number_too(): void
    {
        self::assertSame(Cell::of(3e14, -2e15, 7e11), Cell::of(3e14, -2e15, 7e11));
        self::assertNotSame(Cell::of(3e14, 0.0, 0.0), Cell::of(3e14 + 1.0, 0.0, 0.0));
    }

    /** Numbers PHP looks up by their lowest 16 bits are spread over them: no more share one than chance has it. */
    public function test_numbers_are_spread_over_their_lowest_bits(): void
    {
        $shared = [];
        for ($x = 0; $x < 30; $x++) {
            for ($y = 0; $y < 30; $y++) {
                for ($z = 0; $z < 30; $z++) {
                    $low = Cell::of($x, $y, $z) & 0xFFFF;
                    $shared[$low] = ($shared[$low] ?? 0) + 1;
                }
            }
        }
        self::assertLessThan(16, max($shared));
    }
}
