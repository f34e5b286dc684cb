<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Format\MeshFile;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Format\Text;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Problem;
use YardBreak\Core\Tests\References\OutsideTools;

/** What each format allows, by its specification, written here by hand. */
final class ReadersTest extends TestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        $this->folder = OutsideTools::folder();
    }

    protected function tearDown(): void
    {
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    public function test_obj_lines_may_be_continued_and_carry_texture_and_normal_indices(): void
    {
        $mesh = $this->read("# a comment\nv 0 0 0 1.0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvn 0 0 1\nf 1/1/1 \\\n 2/1/1 3/1/1\n", 'obj')->mesh;
        self::assertSame([0, 1, 2], $mesh->faces);
        self::assertEqualsWithDelta([0, 0, 1, 0, 0, 1, 0, 0, 1], $mesh->normals, 0.0);
    }

    public function test_obj_normals_are_left_out_where_not_every_corner_has_one(): void
    {
        self::assertNull($this->read("v 0 0 0\nv 1 0 0\nv 0 1 0\nvn 0 0 1\nf 1//1 2//1 3//1\nf 1 3 2\n", 'obj')->mesh->normals);
    }

    public function test_obj_repeated_corners_are_dropped_and_faces_of_two_left_out(): void
    {
        $mesh = $this->read("v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 2 3 1\nf 1 3 4\nf 1 2\n", 'obj')->mesh;
        self::assertSame([[0, 1, 2], [0, 2, 3]], array_chunk($mesh->faces, 3));
    }

    /** Both ways in use: places of the points, and places of the corners of each face, which go first. */
    public function test_ply_places_in_a_picture_are_read_from_points_or_from_faces(): void
    {
        $points = "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nproperty float s\nproperty float t\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0 0.25 0.5\n1 0 0 0.75 0.5\n0 1 0 0.25 1\n3 0 1 2\n";
        self::assertEqualsWithDelta([0.25, 0.5, 0.75, 0.5, 0.25, 1.0], $this->read($points, 'ply')->mesh->uvs, 1e-12);
        $faces = str_replace(
            ["property list uchar int vertex_indices\n", '3 0 1 2'],
            ["property list uchar int vertex_indices\nproperty list uchar float texcoord\n", '3 0 1 2 6 0 0 1 0 0 1'],
            $points,
        );
        self::assertEqualsWithDelta([0.0, 0.0, 1.0, 0.0, 0.0, 1.0], $this->read($faces, 'ply')->mesh->uvs, 1e-12);
        self::assertNull($this->read(
            str_replace(["property float s\nproperty float t\n", ' 0.25 0.5', ' 0.75 0.5', ' 0.25 1'], '', $points),
            'ply',
        )->mesh->uvs);
    }

    public function test_a_group_is_taken_out_with_only_its_own_points(): void
    {
        $file = $this->read("v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\ng floor\nf 1 2 3\ng wall\nf 1 3 4\ng floor\nf 1 4 2\ng nothing\n", 'obj');
        self::assertSame(['floor', 'wall'], $file->names(NamedFaces::Group));
        $floor = $file->named(NamedFaces::Group, 'floor');
        self::assertSame([2, 4], [$floor->faceCount(), $floor->vertexCount()]);
        $wall = $file->named(NamedFaces::Group, 'wall');
        self::assertSame([1, 3], [$wall->faceCount(), $wall->vertexCount()]);
        self::assertEqualsWithDelta(
            [0, 0, 0, 0, 1, 0, 0, 0, 1],
            [$wall->x[0], $wall->y[0], $wall->z[0], $wall->x[1], $wall->y[1], $wall->z[1], $wall->x[2], $wall->y[2], $wall->z[2]],
            0.0,
        );
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('no group "roof"');
        $file->named(NamedFaces::Group, 'roof');
    }

    public function test_faces_are_named_by_their_material_too(): void
    {
        $file = $this->read("v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 4\ng floor\nusemtl wet clay\nf 1 2 3\ng wall\nf 1 4 2\n", 'obj');
        self::assertSame(['wet clay'], $file->names(NamedFaces::Material));
        self::assertSame(2, $file->named(NamedFaces::Material, 'wet clay')->faceCount());
        self::assertSame(['floor', 'wall'], $file->names(NamedFaces::Group));
        self::assertSame(['material 1'], $this->read(self::glb([0, 1, 2, 0, 2, 3], 4, [], [1.0, 0.0, 0.0, 1.0]), 'glb')->names(NamedFaces::Material));
        self::assertSame([], $this->read(self::glb([0, 1, 2], 4, []), 'glb')->names(NamedFaces::Material));
    }

    public function test_text_stl_may_hold_several_solids_in_any_case(): void
    {
        $facet = "FACET NORMAL 0 0 1\n OUTER LOOP\n VERTEX 0 0 0\n VERTEX 1 0 0\n VERTEX 0 1 0\n ENDLOOP\nENDFACET\n";
        $mesh = $this->read("solid a\n{$facet}endsolid a\nsolid b\n".str_replace(' 1 0 0', ' 2 0 0', $facet)."endsolid b\n", 'stl')->mesh;
        self::assertSame(2, $mesh->faceCount());
        self::assertSame(4, $mesh->vertexCount(), 'points at the same place are one');
    }

    public function test_binary_stl_is_known_by_its_size_even_when_it_begins_with_solid(): void
    {
        $bytes = str_pad('solid but binary', 80).pack('V', 1).pack('g12v', 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0);
        self::assertSame(1, $this->read($bytes, 'stl')->mesh->faceCount());
    }

    public function test_ply_elements_and_properties_it_does_not_need_are_passed_over(): void
    {
        $text = "ply\nformat ascii 1.0\ncomment made by hand\nelement camera 1\nproperty list uchar float place\nelement vertex 3\nproperty uchar red\nproperty double y\nproperty double x\nproperty double z\nelement face 1\nproperty list uchar int texture\nproperty list uchar uint vertex_indices\nend_header\n2 9 9\n1 10 0 0\n1 20 1 0\n1 30 0 1\n1 7 3 0 1 2\n";
        $mesh = $this->read($text, 'ply')->mesh;
        self::assertEqualsWithDelta([10, 20, 30], $mesh->y, 0.0);
        self::assertEqualsWithDelta([0, 1, 0], $mesh->x, 0.0);
    }

    /** glTF 2.0, 3.7.2.1: primitives may be strips and fans. One square, as a strip and as a fan. */
    public function test_glb_strips_and_fans_and_scaled_nodes(): void
    {
        foreach ([5 => [0, 1, 3, 2], 6 => [0, 1, 2, 3]] as $mode => $order) {
            $file = $this->read(self::glb($order, $mode, ['scale' => [2, 3, 1], 'translation' => [0, 0, 5]]), 'glb');
            $f = Fitness::of($file->mesh);
            self::assertSame(2, $f->faces, "mode $mode");
            self::assertEqualsWithDelta(6.0, $f->area, 1e-6);
            self::assertEqualsWithDelta(5.0, min($file->mesh->z), 1e-6);
            self::assertTrue($f->oriented, "mode $mode turns every second triangle");
        }
    }

    /** A node that mirrors turns its triangles round, so that they keep facing outwards (glTF 2.0, 3.5.3). */
    public function test_glb_mirrored_nodes_keep_facing_outwards(): void
    {
        $plain = $this->read(self::glb([0, 1, 2, 0, 2, 3], 4, []), 'glb')->mesh;
        $mirrored = $this->read(self::glb([0, 1, 2, 0, 2, 3], 4, ['scale' => [-1, 1, 1]]), 'glb')->mesh;
        self::assertGreaterThan(0.0, self::upwards($plain->x, $plain->y, $plain->faces));
        self::assertGreaterThan(0.0, self::upwards($mirrored->x, $mirrored->y, $mirrored->faces));
    }

    /** sRGB of IEC 61966-2-1: linear 0.21586 is 128 of 255, and 0 and 1 are themselves. */
    public function test_glb_base_colour_comes_as_the_web_writes_it(): void
    {
        $file = $this->read(self::glb([0, 1, 2, 0, 2, 3], 4, [], [1.0, 0.0, 0.21586050, 1.0]), 'glb');
        self::assertSame('#ff0080', $file->webColour());
        self::assertNull($this->read(self::glb([0, 1, 2], 4, []), 'glb')->webColour());
    }

    /** @return array<string, array{string, string, string}> bytes, kind, words of the refusal */
    public static function bad(): array
    {
        return [
            'OBJ face of words' => ["v 0 0 0\nf a b c\n", 'obj', 'line 2'],
            'OBJ face at zero' => ["v 0 0 0\nv 1 0 0\nv 0 1 0\nf 0 1 2\n", 'obj', 'other than 0'],
            'OBJ index before the first' => ["v 0 0 0\nv 1 0 0\nv 0 1 0\nf -4 -2 -1\n", 'obj', 'only 3 points'],
            'STL facet of four' => [
                "solid\nfacet normal 0 0 1\nvertex 0 0 0\nvertex 1 0 0\nvertex 1 1 0\nvertex 0 1 0\nendfacet\nendsolid\n",
                'stl',
                'not a triangle',
            ],
            'STL words for numbers' => ["solid\nfacet normal 0 0 1\nvertex 0 zero 0\n", 'stl', 'not numbers'],
            'STL too short' => ['abc', 'stl', 'too short'],
            'PLY without coordinates' => ["ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nend_header\n0\n", 'ply', ''],
            'PLY of an unknown encoding' => ["ply\nformat middle_endian 1.0\nend_header\n", 'ply', ''],
            'PLY without an end of its header' => ["ply\nformat ascii 1.0\nelement vertex 1\n", 'ply', ''],
            'GLB with a point number out of range' => [self::glb([0, 1, 99], 4, []), 'glb', 'names point'],
            'GLB with nodes in a ring' => [
                self::container(['asset' => ['version' => '2.0'], 'scene' => 0, 'scenes' => [['nodes' => [0]]], 'nodes' => [['children' => [0]]]], ''),
                'glb',
                'tree of nodes',
            ],
            'GLB with its data in another file' => [self::changed(static function (array $j): array {
                $j['buffers'][0]['uri'] = 'square.bin';

                return $j;
            }), 'glb', 'outside the file'],
            'GLB that needs what is not known' => [
                self::changed(static fn (array $j): array => ['extensionsRequired' => ['EXT_meshopt_compression']] + $j),
                'glb',
                'EXT_meshopt_compression',
            ],
            'GLB whose node names a mesh that is missing' => [self::changed(static function (array $j): array {
                $j['nodes'][0]['mesh'] = 3;

                return $j;
            }), 'glb', 'not there'],
            'GLB with a short matrix' => [self::changed(static function (array $j): array {
                $j['nodes'][0]['matrix'] = [1, 0, 0, 0, 0, 1, 0];

                return $j;
            }), 'glb', '16 numbers'],
            'GLB that strides over nothing' => [self::changed(static function (array $j): array {
                $j['bufferViews'][0]['byteStride'] = 0;

                return $j;
            }), 'glb', 'beyond its end'],
            'PLY whose x is a list' => [
                "ply\nformat ascii 1.0\nelement vertex 3\nproperty list uchar float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n1 0 0 0\n1 1 0 0\n1 0 1 0\n3 0 1 2\n",
                'ply',
                'without x, y and z',
            ],
            'PLY with more entries than a number can say' => [
                "ply\nformat ascii 1.0\nelement vertex 99999999999999999999\nproperty float x\nend_header\n0\n",
                'ply',
                'room for',
            ],
            'OBJ face of too many corners' => ["v 0 0 0\nv 1 0 0\nv 0 1 0\nf".str_repeat(' 1 2 3', 4000)."\n", 'obj', '12,000 corners'],
            'OBJ line without an end' => [str_repeat("\\\n", 1100000), 'obj', 'longer than a line'],
            'GLB with unreadable JSON' => ['glTF'.pack('VVVV', 2, 24, 4, 0x4E4F534A).'{"a"', 'glb', 'unreadable'],
        ];
    }

    /** Signed volume of a tetrahedron at the origin: 1/6. A mark of byte order is no part of the first line. */
    public function test_obj_that_begins_with_a_byte_order_mark_keeps_its_first_point(): void
    {
        $mesh = $this->read("\xEF\xBB\xBFv 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n", 'obj')->mesh;
        self::assertEqualsWithDelta(1 / 6, Fitness::of($mesh)->volume, 1e-12);
    }

    public function test_names_in_other_letters_than_utf_8_are_read_as_text_of_some_kind(): void
    {
        $file = $this->read("v 0 0 0\nv 1 0 0\nv 0 1 0\no T\xF6pfchen\nf 1 2 3\no \x80\xFF\x81\nf 1 3 2\n", 'obj');
        self::assertSame('Töpfchen', $file->names(NamedFaces::Group)[0]);
        self::assertTrue(mb_check_encoding($file->names(NamedFaces::Group)[1], 'UTF-8'));
        self::assertSame('Töpfchen.obj', Text::fileName("C:\\meshes\\T\xF6pfchen.obj"));
        self::assertSame('a.obj', Text::fileName("../\0../a.obj"));
    }

    /** Entries of no properties hold nothing, however many there are said to be. */
    public function test_ply_elements_without_properties_cost_nothing(): void
    {
        $begun = microtime(true);
        $file = $this->read(
            "ply\nformat ascii 1.0\nelement junk 1000000000000\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n",
            'ply',
        );
        self::assertSame(1, $file->mesh->faceCount());
        self::assertLessThan(1.0, microtime(true) - $begun);
    }

    public function test_glb_nodes_that_hold_each_other_twice_are_not_followed_for_ever(): void
    {
        $nodes = array_map(static fn (int $k): array => ['children' => [$k + 1, $k + 1]], range(0, 59));
        try {
            $this->read(
                self::container(['asset' => ['version' => '2.0'], 'scene' => 0, 'scenes' => [['nodes' => [0]]], 'nodes' => [...$nodes, ['name' => 'end']]], ''),
                'glb',
            );
            self::fail('it was read');
        } catch (Problem $e) {
            self::assertStringContainsString('too large', $e->getMessage());
        }
    }

    /** A square of 20,000 primitives, each its four corners again. */
    public function test_glb_that_says_the_same_over_and_over_is_refused_before_it_is_read(): void
    {
        $glb = self::glb([0, 1, 2, 0, 2, 3], 4, []);
        $length = (unpack('V', $glb, 12) ?: [1 => 0])[1];
        $json = (array) json_decode(substr($glb, 20, $length), true);
        foreach ([200 => true, 100_000 => false] as $times => $good) {
            $json['meshes'][0]['primitives'] = array_fill(0, $times, ['attributes' => ['POSITION' => 0], 'indices' => 1]);
            $begun = microtime(true);
            try {
                self::assertSame(2 * $times, $this->read(self::container($json, substr($glb, 28 + $length)), 'glb')->mesh->faceCount());
                self::assertTrue($good);
            } catch (Problem $e) {
                self::assertFalse($good);
                self::assertStringContainsString('more than can be read', $e->getMessage());
            }
            self::assertLessThan(10.0, microtime(true) - $begun);
        }
    }

    #[DataProvider('bad')]
    public function test_what_cannot_be_is_refused_in_words(string $bytes, string $kind, string $words): void
    {
        try {
            $this->read($bytes, $kind);
            self::fail('it was read');
        } catch (Problem $e) {
            self::assertStringContainsString($words, $e->getMessage());
            self::assertNotSame('', $e->remedy);
        }
    }

    /** Files cut anywhere are read whole up to the cut or refused in words; nothing else may happen. */
    public function test_a_file_cut_anywhere_is_refused_or_read_but_never_breaks_the_reader(): void
    {
        $whole = [
            'obj' => "g a\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 1 4 3\n",
            'stl' => str_pad('x', 80).pack('V', 2).str_repeat(pack('g12v', 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0), 2),
            'ply' => "ply\nformat binary_little_endian 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n".pack('g9', 0, 0, 0, 1, 0, 0, 0, 1, 0).pack('CV3', 3, 0, 1, 2),
            'glb' => self::glb([0, 1, 2, 0, 2, 3], 4, ['rotation' => [0, 0, 0.7071068, 0.7071068]]),
        ];
        foreach ($whole as $kind => $bytes) {
            self::assertGreaterThan(0, $this->read($bytes, $kind)->mesh->faceCount());
            $refused = 0;
            for ($length = 1, $n = strlen($bytes); $length < $n; $length += 3) {
                try {
                    $this->read(substr($bytes, 0, $length), $kind);
                } catch (Problem) {
                    $refused++;
                }
            }
            self::assertGreaterThan(10, $refused, $kind);
        }
    }

    private function read(string $bytes, string $kind): MeshFile
    {
        file_put_contents($path = $this->folder.'/mesh.'.$kind, $bytes);

        return MeshReader::read($path);
    }

    /** @param  \Closure(array<string, mixed>): array<string, mixed>  $change  of a GLB's description */
    private static function changed(\Closure $change): string
    {
        $whole = self::glb([0, 1, 2, 0, 2, 3], 4, []);
        $size = (unpack('V', $whole, 12) ?: [1 => 0])[1];

        return self::container($change((array) json_decode(substr($whole, 20, $size), true)), substr($whole, 28 + $size));
    }

    /**
     * A unit square in the plane z = 0 as a GLB.
     *
     * @param  list<int>  $order
     * @param  array<string, list<float|int>>  $node
     * @param  list<float>|null  $colour
     */
    private static function glb(array $order, int $mode, array $node, ?array $colour = null): string
    {
        $points = pack('g12', 0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0);
        $indices = pack('v*', ...$order);
        $json = [
            'asset' => ['version' => '2.0'], 'scene' => 0, 'scenes' => [['nodes' => [0]]], 'nodes' => [['mesh' => 0] + $node],
            'meshes' => [['primitives' => [[
                'attributes' => ['POSITION' => 0],
                'indices' => 1,
                'mode' => $mode,
            ] + ($colour === null ? [] : ['material' => 0])]]],
            'accessors' => [
                ['bufferView' => 0, 'componentType' => 5126, 'count' => 4, 'type' => 'VEC3', 'min' => [0, 0, 0], 'max' => [1, 1, 0]],
                ['bufferView' => 1, 'componentType' => 5123, 'count' => count($order), 'type' => 'SCALAR'],
            ],
            'bufferViews' => [['buffer' => 0, 'byteOffset' => 0, 'byteLength' => 48], ['buffer' => 0, 'byteOffset' => 48, 'byteLength' => strlen($indices)]],
            'buffers' => [['byteLength' => 48 + strlen($indices)]],
        ] + ($colour === null ? [] : ['materials' => [['pbrMetallicRoughness' => ['baseColorFactor' => $colour]]]]);

        return self::container($json, $points.$indices);
    }

    /** @param  array<string, mixed>  $json */
    private static function container(array $json, string $binary): string
    {
        $text = (string) json_encode($json);
        $text .= str_repeat(' ', (4 - strlen($text) % 4) % 4);
        $binary .= str_repeat("\0", (4 - strlen($binary) % 4) % 4);
        $chunks = pack('VV', strlen($text), 0x4E4F534A).$text.($binary === '' ? '' : pack('VV', strlen($binary), 0x004E4942).$binary);

        return 'glTF'.pack('VV', 2, 12 + strlen($chunks)).$chunks;
    }

    /**
     * Sum of the faces' areas seen from +z.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<int>  $faces
     */
    private static function upwards(array $x, array $y, array $faces): float
    {
        $sum = 0.0;
        foreach (array_chunk($faces, 3) as [$a, $b, $c]) {
            $sum += ($x[$b] - $x[$a]) * ($y[$c] - $y[$a]) - ($y[$b] - $y[$a]) * ($x[$c] - $x[$a]);
        }

        return 0.5 * $sum;
    }
}
