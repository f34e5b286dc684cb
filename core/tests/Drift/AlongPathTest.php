<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Drift;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Drift\AlongPath;
use YardBreak\Core\Drift\Chance;
use YardBreak\Core\Drift\Flight;
use YardBreak\Core\Drift\Pieces;
use YardBreak\Core\Option;

final class AlongPathTest extends TestCase
{
    /** Each piece flies beside the line by its own chance along each axis, the more the farther it has come. */
    public function test_pieces_spread_across_the_path_as_they_go(): void
    {
        $n = 30;
        $zeros = array_fill(0, $n, 0.0);
        $pieces = new Pieces($zeros, $zeros, $zeros, array_fill(0, $n, 1.0), array_fill(0, $n, 'piece'));
        $path = AlongPath::of(Option::resolve(AlongPath::options(), ['kind' => 'line', 'points' => [[0, 0, 0], [4, 0, 0]], 'spread' => 0.5, 'seed' => 7]));
        $chance = Chance::of(7, $n, 3);
        foreach ([1.0, 0.25] as $share) {
            $flight = new Flight($n);
            $path->add($pieces, array_fill(0, $n, $share), null, $flight);
            foreach (range(0, $n - 1) as $i) {
                self::assertEqualsWithDelta(4.0 * $share + 0.5 * $share * $chance[3 * $i], $flight->x[$i], 1e-12);
                self::assertEqualsWithDelta(0.5 * $share * $chance[3 * $i + 1], $flight->y[$i], 1e-12);
                self::assertEqualsWithDelta(0.5 * $share * $chance[3 * $i + 2], $flight->z[$i], 1e-12);
            }
        }
        self::assertGreaterThan(0.2, max(array_map(abs(...), $chance)), 'they do spread');
    }
}
