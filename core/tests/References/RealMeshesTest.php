<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Format\MeshFile;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\Mend;
use YardBreak\Core\Shape\Repair;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

/** Meshes other people made: Debian `libcgal-demo` (closed, open, shuffled) and `assimp-testmodels` (odd and malformed files). */
final class RealMeshesTest extends TestCase
{
    private const ASSIMP = '/usr/share/assimp/models';

    /** @return array<string, array{string, int}> name and number of shards */
    public static function closed(): array
    {
        return ['elephant' => ['elephant', 60], 'a cheese of 133 holes' => ['cheese', 120], 'armadillo, 52,000 faces' => ['armadillo', 200]];
    }

    #[DataProvider('closed')]
    public function test_a_closed_mesh_breaks_into_closed_shards_of_the_same_volume(string $name, int $count): void
    {
        $mesh = OutsideMeshes::cgal($name);
        $fitness = Fitness::of($mesh);
        self::assertTrue($fitness->canBreak(), json_encode($fitness->faults()) ?: '');
        $sum = 0.0;
        foreach ((new Cells($count, 3))->break($mesh->withNormals(FaceNormals::smooth($mesh)), new SilentProgress) as $shard) {
            $f = Fitness::of($shard->mesh);
            self::assertTrue($f->closed && $f->oriented, $shard->name);
            $sum += $shard->mass->volume;
        }
        self::assertEqualsWithDelta(1.0, $sum / $fitness->volume, 1e-11);
    }

    /** Genus 133 by CGAL's own documentation: V − E + F = 2 − 2g on a closed surface (Euler–Poincaré). */
    public function test_the_holes_of_the_cheese_are_counted_right(): void
    {
        $mesh = OutsideMeshes::cgal('cheese');
        $f = Fitness::of($mesh);
        self::assertTrue($f->closed);
        self::assertSame(1, $f->parts);
        self::assertSame(2 - 2 * 133, $mesh->vertexCount() - intdiv(3 * $mesh->faceCount(), 2) + $mesh->faceCount());
    }

    /** A cow whose surface crosses itself locally breaks all the same; two balls within each other are refused in words. */
    public function test_surfaces_that_cross_themselves_break_closed_or_are_refused_by_name(): void
    {
        $cow = OutsideMeshes::cgal('cow');
        $sum = 0.0;
        foreach ((new Cells(50, 3))->break($cow->withNormals(FaceNormals::smooth($cow)), new SilentProgress) as $shard) {
            self::assertTrue(Fitness::of($shard->mesh)->closed);
            $sum += $shard->mass->volume;
        }
        self::assertEqualsWithDelta(1.0, $sum / Fitness::of($cow)->volume, 1e-11);
        $ball = Solids::shape('ball');
        $both = Mesh::merged($ball, $ball->movedBy(new Vec3(0.3, 0.0, 0.0)));
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('crosses or overlaps itself');
        (new Cells(50, 3))->break($both->withNormals(FaceNormals::smooth($both)), new SilentProgress);
    }

    public function test_an_open_mesh_is_refused_by_name_and_filling_mends_it(): void
    {
        $mesh = OutsideMeshes::cgal('elephant-with-holes');
        $f = Fitness::of($mesh);
        self::assertFalse($f->closed);
        self::assertGreaterThan(0, $f->boundaryEdges);
        self::assertContains('fill', array_column($f->faults(), 'repair'));
        $mended = Fitness::of(Repair::fill($mesh));
        self::assertTrue($mended->closed);
        self::assertTrue($mended->oriented);
        self::assertEqualsWithDelta(1.0, $mended->volume / Fitness::of(OutsideMeshes::cgal('elephant'))->volume, 0.05, 'near the unharmed elephant');
    }

    public function test_shuffled_faces_are_seen_and_turned_right(): void
    {
        $mesh = OutsideMeshes::cgal('cube-shuffled');
        self::assertFalse(Fitness::of($mesh)->oriented);
        $mended = Fitness::of(Repair::orient(Repair::weld($mesh)));
        self::assertTrue($mended->oriented);
        self::assertFalse($mended->insideOut);
        self::assertEqualsWithDelta($mended->bounds->size()->x ** 3, $mended->volume, 1e-9 * $mended->volume, 'a cube');
    }

    /** @return array<string, array{string, string}> a file that must be refused, and words its refusal must have */
    public static function malformed(): array
    {
        return [
            'empty OBJ' => ['invalid/empty.obj', 'is empty'],
            'empty PLY' => ['invalid/empty.ply', 'is empty'],
            'index out of range' => ['invalid/malformed.obj', 'names point 12'],
            'another text encoding' => ['OBJ/box_UTF16BE.obj', 'not a text file'],
            'points only' => ['OBJ/point_cloud.obj', 'holds no faces'],
            'lines only' => ['OBJ/testline.obj', 'holds no faces'],
            'a PLY of points' => ['PLY/points.ply', 'holds no faces'],
            'a PLY cut off' => ['PLY/issue623.ply', 'breaks off'],
            'a PLY that promises more than it has' => ['PLY/pond.0.ply', 'more than the file has room for'],
            'infinite coordinates' => ['glTF2/BoxWithInfinites-glTF-Binary/BoxWithInfinites.glb', 'not numbers'],
            'an older glTF' => ['glTF/BoxTextured-glTF-Binary/BoxTextured.glb', 'version 1'],
        ];
    }

    #[DataProvider('malformed')]
    public function test_a_malformed_file_is_refused_in_words(string $file, string $words): void
    {
        try {
            MeshReader::read(self::ASSIMP.'/'.$file);
            self::fail('it was read');
        } catch (Problem $e) {
            self::assertStringContainsString($words, $e->getMessage());
            self::assertNotSame('', $e->remedy);
        }
    }

    /** @return array<string, array{string}> */
    public static function odd(): array
    {
        $files = [];
        foreach ([
            'OBJ/box_longline.obj',
            'OBJ/box_without_lineending.obj',
            'OBJ/box_mat_with_spaces.obj',
            'OBJ/cube_with_vertexcolors.obj',
            'OBJ/concave_polygon.obj',
            'OBJ/WusonOBJ.obj',
            'OBJ/regr01.obj',
            'OBJ/empty_mat.obj',
            'PLY/Wuson.ply',
            'PLY/cube_binary.ply',
            'PLY/cube_uv.ply',
            'PLY/float-color.ply',
            'STL/3DSMaxExport.STL',
            'STL/Spider_ascii.stl',
            'STL/Spider_binary.stl',
            'STL/sphereWithHole.stl',
            'STL/triangle_with_two_solids.stl',
            'glTF2/BoxBadNormals-glTF-Binary/BoxBadNormals.glb',
            'glTF2/BoxTextured-glTF-Binary/BoxTextured.glb',
        ] as $file) {
            $files[$file] = [$file];
        }

        return $files;
    }

    /** Debian's assimp counts the same triangles in the same file. */
    #[DataProvider('odd')]
    public function test_an_odd_file_is_read_with_as_many_triangles_as_assimp_reads(string $file): void
    {
        [, $out] = OutsideTools::run(['assimp', 'info', self::ASSIMP.'/'.$file]);
        self::assertSame(1, preg_match('/Faces:\s+(\d+)/', $out, $found), $out);
        self::assertSame((int) $found[1], self::assimp($file)->mesh->faceCount());
    }

    private static function assimp(string $file): MeshFile
    {
        return MeshReader::read(self::ASSIMP.'/'.$file, strtolower(basename($file)));
    }

    /** @return array<string, array{string}> open, shuffled, doubled and torn meshes of CGAL's data */
    public static function unfit(): array
    {
        $names = [
            'blobby-shuffled', 'boeing', 'oblong-shuffled', 'mesh_with_border', 'double-torus-3-holes', 'elephant-with-holes', 'ALSTOM_TEST4', 'head',
            'mask_cone', 'patch-13', 'tetra_intersected_by_triangle', 'polygon_mesh', 'corner_with_sharp_edge', 'lion-head',
        ];

        return array_combine($names, array_map(static fn (string $n): array => [$n], $names));
    }

    #[DataProvider('unfit')]
    public function test_one_repair_finds_its_own_order(string $name): void
    {
        $mesh = OutsideMeshes::cgal($name);
        self::assertFalse(Fitness::of($mesh)->canBreak());
        [$mended, $done] = Mend::of($mesh);
        $fitness = Fitness::of($mended);
        self::assertTrue($fitness->canBreak(), json_encode($fitness->faults()) ?: '');
        self::assertNotSame([], $done);
        // What is fit is left alone.
        self::assertSame([$mended, []], Mend::of($mended));
    }

    /** The faces of a cube in any order, some turned over, some twice, one missing, one side divided so that its border meets nothing. */
    public function test_all_faults_at_once_are_mended_to_the_same_solid(): void
    {
        $cube = Solids::shape('box', ['segments' => 2]);
        $x = $y = $z = $faces = [];
        for ($f = 0, $n = $cube->faceCount(); $f < $n; $f++) {
            if ($f === 5) {
                continue;
            }
            foreach (array_fill(0, $f % 7 === 0 ? 2 : 1, $f % 3 === 0 ? [0, 2, 1] : [0, 1, 2]) as $corners) {
                foreach ($corners as $c) {
                    $p = $cube->faces[3 * $f + $c];
                    $faces[] = count($x);
                    [$x[], $y[], $z[]] = [$cube->x[$p], $cube->y[$p], $cube->z[$p]];
                }
            }
        }
        [$mended, $done] = Mend::of(new Mesh($x, $y, $z, $faces));
        self::assertTrue(Fitness::of($mended)->canBreak(), implode(' ', $done));
        self::assertEqualsWithDelta(1.0, Fitness::of($mended)->volume, 1e-12);
        self::assertCount(4, $done, implode(' ', $done));
    }

    /** A triangle whose side is divided by its neighbours' corner leaves no gap when its own side is divided too. */
    public function test_points_on_edges_are_made_corners(): void
    {
        // A square pyramid whose floor is one square, and one of whose sides is two triangles that meet in the middle of their edge.
        $mesh = new Mesh(
            [0.0, 1.0, 1.0, 0.0, 0.5, 0.5],
            [0.0, 0.0, 0.0, 0.0, 1.0, 0.0],
            [0.0, 0.0, 1.0, 1.0, 0.5, 0.0],
            [0, 1, 2, 0, 2, 3, 0, 4, 5, 5, 4, 1, 1, 4, 2, 2, 4, 3, 3, 4, 0],
        );
        self::assertFalse(Fitness::of($mesh)->closed);
        [$mended, $done] = Mend::of($mesh);
        self::assertTrue(Fitness::of($mended)->canBreak(), implode(' ', $done));
        self::assertEqualsWithDelta(1.0 / 3.0, Fitness::of($mended)->volume, 1e-12);
        self::assertStringContainsString('1 edge was split', implode(' ', $done));
    }
}
