<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

/**
 * Counts and offsets of a wall of UK standard bricks, 215 × 102.5 × 65 mm with joints of 10 mm and half bond
 * (BS EN 771-1 with its UK national annex; the sizes are common practice).
 */
final class MasonryTest extends TestCase
{
    private const BRICK = 0.215 * 0.065 * 0.1025;

    /** Five bricks long, four courses high, one brick deep. */
    private const WALL = ['width' => 5 * 0.215 + 4 * 0.01, 'height' => 4 * 0.065 + 3 * 0.01, 'thickness' => 0.1025];

    public function test_stacked_bricks_are_whole_and_as_many_as_fit(): void
    {
        $bricks = self::bricks(['bond' => 'stack']);
        self::assertCount(20, $bricks);
        foreach ($bricks as $brick) {
            self::assertEqualsWithDelta(1.0, $brick->mass->volume / self::BRICK, 1e-6);
        }
    }

    public function test_running_bond_shifts_every_second_course_by_half(): void
    {
        $bricks = self::bricks(['bond' => 'running']);
        // Five whole ones in the first and third course; four and two halves in the others.
        self::assertCount(22, $bricks);
        $whole = array_filter($bricks, static fn (Shard $b): bool => abs($b->mass->volume / self::BRICK - 1) < 1e-6);
        self::assertCount(18, $whole);
        // Half a pitch less half a joint and a joint: a half brick is 102.5 mm long, so three and their joint make one.
        foreach (array_diff_key($bricks, $whole) as $half) {
            self::assertEqualsWithDelta(0.1025 / 0.215, $half->mass->volume / self::BRICK, 1e-6);
        }
        $starts = self::starts($bricks);
        self::assertEqualsWithDelta(0.225 / 2, $starts[1] - $starts[0], 1e-6);
        self::assertEqualsWithDelta($starts[0], $starts[2], 1e-6);
    }

    public function test_third_bond_shifts_by_a_third(): void
    {
        $starts = self::starts(self::bricks(['bond' => 'third']));
        self::assertEqualsWithDelta(0.225 / 3, fmod($starts[0] - $starts[1] + 0.225, 0.225), 1e-6);
        self::assertEqualsWithDelta($starts[0], $starts[3], 1e-6);
    }

    public function test_mortar_fills_what_bricks_leave_and_open_joints_leave_it_out(): void
    {
        $wall = self::WALL['width'] * self::WALL['height'] * self::WALL['thickness'];
        $sum = static fn (array $values): float => array_sum(array_map(static fn (Shard $s): float => $s->mass->volume, self::broken($values)));
        self::assertEqualsWithDelta($wall, $sum(['bond' => 'stack']), 1e-12);
        self::assertEqualsWithDelta(20 * self::BRICK, $sum(['bond' => 'stack', 'filling' => 'gap']), 1e-9);
    }

    public function test_without_joints_there_is_a_brick_for_every_unit(): void
    {
        self::assertCount(
            8,
            BreakCatalogue::make('courses', ['unit' => [0.5, 0.5, 0.5], 'joint' => 0, 'bond' => 'stack'])->break(Solids::shape('box'), new SilentProgress),
        );
        self::assertCount(10, BreakCatalogue::make('courses', ['unit' => [0.5, 0.5, 0.5], 'joint' => 0])->break(Solids::shape('box'), new SilentProgress));
    }

    /**
     * @param  array<string, mixed>  $values
     * @return array<int, Shard> pieces as high as a brick or as its course
     */
    private static function bricks(array $values): array
    {
        return array_values(array_filter(
            self::broken($values),
            static fn (Shard $s): bool => abs(max($s->mesh->y) - min($s->mesh->y) - 0.065) < 1e-6 && max($s->mesh->x) - min($s->mesh->x) > 0.05,
        ));
    }

    /**
     * @param  array<string, mixed>  $values
     * @return list<Shard>
     */
    private static function broken(array $values): array
    {
        return BreakCatalogue::make('courses', $values)->break(Solids::shape('sheet', self::WALL), new SilentProgress);
    }

    /**
     * @param  array<int, Shard>  $bricks
     * @return array<int, float> where the first whole brick of each course starts
     */
    private static function starts(array $bricks): array
    {
        $starts = [];
        foreach ($bricks as $b) {
            if (abs($b->mass->volume / self::BRICK - 1) < 1e-6) {
                $course = (int) round(min($b->mesh->y) / 0.075);
                $starts[$course] = min($starts[$course] ?? INF, min($b->mesh->x));
            }
        }

        return $starts;
    }
}
