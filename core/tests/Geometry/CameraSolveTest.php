<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\CameraSolve;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;

/** Cameras made up, and found again from what they see. What they see is worked out here, by angles, apart from what finds them. */
final class CameraSolveTest extends TestCase
{
    private const SHAPE = [1920, 1080];

    private const CORNERS = [[0, 0, 0], [2, 0, 0.3], [2, 1.5, 0], [0.2, 1.4, -0.5], [1, 0.4, 1.2], [1.6, 0.9, -1.1]];

    /**
     * @param  array{float, float, float}  $at
     * @param  array{float, float, float}  $angles  degrees: to the left, up, and leaning to the left
     */
    #[DataProvider('cameras')]
    public function test_a_made_up_camera_is_found_from_six_points(array $at, array $angles, float $focal): void
    {
        $found = CameraSolve::of(array_map(static fn (array $p): array => [new Vec3(...$p), self::seen($p, $at, $angles, $focal)], self::CORNERS), self::SHAPE);
        self::assertLessThan(0.1, $found->residual, 'pixels');
        self::assertEqualsWithDelta($at, $found->position->toArray(), 1e-4);
        self::assertEqualsWithDelta($focal, $found->focal, 1e-5 * $focal);
        // A seventh place is seen where the made-up one sees it.
        $seventh = [0.7, 0.2, 0.6];
        $there = $found->turn->inverse()->turn((new Vec3(...$seventh))->minus($found->position));
        self::assertEqualsWithDelta(self::seen($seventh, $at, $angles, $focal), [960.0 - $focal * 1920.0 * $there->x / $there->z, 540.0 + $focal * 1920.0 * $there->y / $there->z], 0.1);
    }

    /** @return iterable<string, array{array{float, float, float}, array{float, float, float}, float}> */
    public static function cameras(): iterable
    {
        yield 'before it' => [[1.0, 1.2, 6.0], [0.0, -5.0, 0.0], 1.4];
        yield 'from the side, leaning' => [[-5.0, 1.7, 2.0], [-72.0, -9.0, 6.0], 1.0];
        yield 'from behind with a long lens' => [[3.0, 4.0, -14.0], [170.0, -14.0, -3.0], 4.2];
        yield 'close and wide' => [[1.5, 0.3, 3.0], [8.0, 8.0, 2.0], 0.6];
        yield 'from above' => [[1.2, 7.0, 1.5], [20.0, -75.0, 0.0], 1.2];
    }

    public function test_four_lines_and_two_points_do_as_well(): void
    {
        [$at, $angles, $focal] = [[3.0, 1.5, 5.5], [25.0, -8.0, 3.0], 1.3];
        $seen = static fn (array $p): array => self::seen($p, $at, $angles, $focal);
        // Of a line in the picture other places than its ends are marked.
        $along = static fn (array $p, array $q, float $s): array => [$seen($p)[0] + $s * ($seen($q)[0] - $seen($p)[0]), $seen($p)[1] + $s * ($seen($q)[1] - $seen($p)[1])];
        $lines = [[[0, 0, 0], [2, 0, 0]], [[0, 0, 0], [0, 1.5, 0]], [[2, 0, 0], [2, 0, -1]], [[2, 1.5, 0], [2, 1.5, -1]]];
        $matches = array_map(static fn (array $l): array => [new Vec3(...$l[0]), $along($l[0], $l[1], 0.2), new Vec3(...$l[1]), $along($l[0], $l[1], 0.9)], $lines);
        foreach ([[1, 0.7, 0.5], [0, 1.5, -1]] as $p) {
            $matches[] = [new Vec3(...$p), $seen($p)];
        }
        $found = CameraSolve::of($matches, self::SHAPE);
        self::assertLessThan(0.1, $found->residual);
        self::assertEqualsWithDelta($at, $found->position->toArray(), 1e-3);
        self::assertEqualsWithDelta($focal, $found->focal, 1e-3);
    }

    /** Marked half a pixel off, the residual is of that size, and which is worst off is told. */
    public function test_what_is_marked_badly_is_told_apart(): void
    {
        [$at, $angles, $focal] = [[1.0, 1.2, 6.0], [0.0, -5.0, 0.0], 1.4];
        $matches = [];
        foreach ([...self::CORNERS, [0.5, 1.1, 0.9], [1.8, 0.2, 0.8], [0.1, 0.6, 0.4]] as $k => $p) {
            [$u, $v] = self::seen($p, $at, $angles, $focal);
            $matches[] = [new Vec3(...$p), [$u + ($k === 4 ? 30.0 : 0.0), $v]];
        }
        $found = CameraSolve::of($matches, self::SHAPE);
        self::assertSame(4, array_keys($found->left, max($found->left))[0]);
        self::assertGreaterThan(3.0, $found->residual);
        self::assertLessThan(30.0, $found->residual);
    }

    /** Seen straight on from afar, a lens twice as long from twice as far sees all but the same. */
    public function test_what_tells_little_of_the_lens_is_said(): void
    {
        $flat = [[0, 0, 0], [2, 0, 0], [2, 1.5, 0], [0, 1.5, 0], [1, 0.7, 0], [0.4, 1.1, 0]];
        $sure = static fn (array $places): float => CameraSolve::of(array_map(static fn (array $p): array => [new Vec3(...$p), self::seen($p, [1.0, 0.7, 12.0], [0.0, 0.0, 0.0], 2.0)], $places), self::SHAPE)->sure;
        self::assertGreaterThan(20.0 * $sure(self::CORNERS), $sure($flat));
    }

    public function test_what_does_not_tell_is_refused_in_words(): void
    {
        $see = static fn (array $places): array => array_map(static fn (array $p): array => [new Vec3(...$p), self::seen($p, [1.0, 1.2, 6.0], [0.0, -5.0, 0.0], 1.4)], $places);
        foreach ([
            'lie on one line' => array_map(static fn (int $k): array => [0.3 * $k, 0.1 * $k, 0.2 * $k], range(0, 5)),
            'are one' => array_fill(0, 6, [1, 1, 1]),
            'from 3 matches' => array_slice(self::CORNERS, 0, 3),
            'Nothing is matched yet' => [],
        ] as $words => $places) {
            try {
                CameraSolve::of($see($places), self::SHAPE);
                self::fail($words);
            } catch (Problem $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
    }

    /**
     * Where a camera sees a place: turned to the left about y, then up about its right, then leaning to the left about its line of sight.
     *
     * @param  array{float|int, float|int, float|int}  $p
     * @param  array{float, float, float}  $at
     * @param  array{float, float, float}  $angles  degrees
     * @return array{float, float} pixels
     */
    private static function seen(array $p, array $at, array $angles, float $focal): array
    {
        [$left, $up, $lean] = array_map(deg2rad(...), $angles);
        [$x, $y, $z] = [$p[0] - $at[0], $p[1] - $at[1], $p[2] - $at[2]];
        [$x, $z] = [$x * cos($left) - $z * sin($left), $x * sin($left) + $z * cos($left)];
        [$y, $z] = [$y * cos($up) + $z * sin($up), -$y * sin($up) + $z * cos($up)];
        [$x, $y] = [$x * cos($lean) + $y * sin($lean), -$x * sin($lean) + $y * cos($lean)];

        return [960.0 + 1920.0 * $focal * $x / -$z, 540.0 - 1920.0 * $focal * $y / -$z];
    }
}
