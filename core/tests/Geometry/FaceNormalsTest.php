<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;

final class FaceNormalsTest extends TestCase
{
    /** A cube's corner seen as one surface points along the diagonal, however its sides are cut into triangles. */
    public function test_smooth_normals_do_not_depend_on_how_a_surface_is_cut_into_triangles(): void
    {
        $points = [[0.0, 1.0, 0.0, 0.0, 1.0, 0.0, 1.0], [0.0, 0.0, 1.0, 0.0, 1.0, 1.0, 0.0], [0.0, 0.0, 0.0, 1.0, 0.0, 1.0, 1.0]];
        // Three sides that meet at the first point; the first of them cut through that corner, the others not.
        foreach ([[0, 4, 1, 0, 2, 4], [0, 2, 1, 2, 4, 1]] as $side) {
            $mesh = new Mesh(...[...$points, [...$side, 0, 3, 2, 3, 5, 2, 0, 1, 3, 1, 6, 3]]);
            $normals = FaceNormals::smooth($mesh, 2.0);
            foreach ($mesh->faces as $c => $v) {
                if ($v === 0) {
                    for ($a = 0; $a < 3; $a++) {
                        self::assertEqualsWithDelta(-1.0 / sqrt(3.0), $normals[3 * $c + $a], 1e-12);
                    }
                }
            }
        }
    }

    public function test_the_crease_angle_decides_what_is_one_surface(): void
    {
        // Two squares that meet along the z axis at 45 degrees.
        $mesh = new Mesh(
            [0.0, -1.0, -1.0, 0.0, 1.0, 1.0],
            [0.0, 0.0, 0.0, 0.0, -1.0, -1.0],
            [0.0, 0.0, 1.0, 1.0, 0.0, 1.0],
            [0, 1, 2, 0, 2, 3, 0, 3, 5, 0, 5, 4],
        );
        $sharp = FaceNormals::smooth($mesh, deg2rad(44.0));
        $round = FaceNormals::smooth($mesh, deg2rad(46.0));
        self::assertEqualsWithDelta(0.0, $sharp[0], 1e-12);
        self::assertEqualsWithDelta(sin(M_PI / 8), abs($round[0]), 1e-12);
        self::assertSame($sharp, FaceNormals::shaded($mesh->withNormals($sharp))->normals, 'normals a mesh came with stay');
    }
}
