<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\FaceNeighbours;

final class FaceNeighboursTest extends TestCase
{
    private const TETRAHEDRON = [0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3];

    public function test_every_face_of_a_tetrahedron_lies_beside_the_three_others(): void
    {
        self::assertSame([3, 2, 1, 0, 2, 3, 0, 3, 1, 0, 1, 2], FaceNeighbours::beyond(self::TETRAHEDRON));
        self::assertSame([-1, -1, -1], FaceNeighbours::beyond([0, 1, 2]));
    }

    public function test_a_point_two_solids_share_is_pinched(): void
    {
        $beyond = FaceNeighbours::beyond(self::TETRAHEDRON);
        self::assertSame([], FaceNeighbours::pinched(self::TETRAHEDRON, $beyond, 4));
        // A second one that has corner 3 and three of its own.
        $two = [...self::TETRAHEDRON, ...array_map(static fn (int $p): int => $p === 0 ? 3 : $p + 3, self::TETRAHEDRON)];
        self::assertSame([3 => true], FaceNeighbours::pinched($two, FaceNeighbours::beyond($two), 7));
    }
}
