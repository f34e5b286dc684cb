<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\FineMesh;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Tests\Solids;

final class FineMeshTest extends TestCase
{
    /** The same body to the last bits: closed, with the volume and the area it had, in edges no longer than a 40th of its diagonal. */
    public function test_it_is_the_same_surface_in_smaller_faces(): void
    {
        foreach (Solids::closed() as $name => [$mesh]) {
            $fine = FineMesh::of($mesh);
            $before = Fitness::of($mesh);
            $after = Fitness::of($fine);
            self::assertTrue($after->closed, $name);
            self::assertEqualsWithDelta(
                MassProperties::of($mesh)->volume,
                MassProperties::of($fine)->volume,
                1e-9 * abs(MassProperties::of($mesh)->volume),
                $name,
            );
            self::assertEqualsWithDelta($before->area, $after->area, 1e-9 * $before->area, $name);
            self::assertSame($mesh->x, array_slice($fine->x, 0, $mesh->vertexCount()), 'points keep their numbers');
            self::assertLessThanOrEqual($before->bounds->diagonal() / 40 * (1 + 1e-9), self::longest($fine), $name);
        }
    }

    public function test_what_is_fine_already_stays_as_it_is(): void
    {
        $ball = Solids::shape('ball', ['detail' => 60]);
        self::assertSame($ball, FineMesh::of($ball));
    }

    /** Shading, places in a picture and sides go along: at a middle they are the mean of both ends. */
    public function test_what_corners_have_goes_along(): void
    {
        $mesh = new Mesh([0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [0.0, 0.0, 0.0], [0, 1, 2], [0, 0, 1, 0, 0, 1, 0, 0, 1], [Mesh::INNER], [0, 0, 1, 0, 0, 1]);
        $fine = FineMesh::of($mesh);
        self::assertGreaterThan(500, $fine->faceCount());
        self::assertSame([Mesh::INNER], array_values(array_unique($fine->sides ?? [])));
        foreach ($fine->faces as $corner => $p) {
            self::assertEqualsWithDelta([$fine->x[$p], $fine->y[$p]], array_slice($fine->uvs ?? [], 2 * $corner, 2), 1e-12);
            self::assertEquals([0.0, 0.0, 1.0], array_slice($fine->normals ?? [], 3 * $corner, 3));
        }
    }

    private static function longest(Mesh $m): float
    {
        $most = 0.0;
        foreach ($m->faces as $k => $a) {
            $b = $m->faces[$k % 3 === 2 ? $k - 2 : $k + 1];
            $most = max($most, sqrt(($m->x[$a] - $m->x[$b]) ** 2 + ($m->y[$a] - $m->y[$b]) ** 2 + ($m->z[$a] - $m->z[$b]) ** 2));
        }

        return $most;
    }
}
