<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Format\GlbPiece;
use YardBreak\Core\Format\GlbSurface;
use YardBreak\Core\Format\GlbWriter;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Format\MeshWriter;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\References\OutsideTools;
use YardBreak\Core\Tests\Solids;

final class RoundTripTest extends TestCase
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

    /** @return array<string, array{string, float}> */
    public static function kinds(): array
    {
        // STL and GLB hold float32, PLY is written in double precision, OBJ with nine digits.
        return ['stl' => ['stl', 1e-6], 'ply' => ['ply', 1e-14], 'obj' => ['obj', 1e-8], 'glb' => ['glb', 1e-6]];
    }

    #[DataProvider('kinds')]
    public function test_a_mesh_comes_back_as_it_was(string $kind, float $precision): void
    {
        $mesh = Solids::vase();
        MeshWriter::write($mesh, $path = $this->folder.'/vase.'.$kind, $kind);
        $back = MeshReader::read($path)->mesh;
        self::assertSame($mesh->faceCount(), $back->faceCount());
        self::assertTrue(Fitness::of($back)->canBreak());
        self::assertEqualsWithDelta(1.0, MassProperties::of($back)->volume / MassProperties::of($mesh)->volume, $precision);
    }

    /** GTS (Debian libgts-bin) calls a surface closed, orientable and manifold; it must not do so once a face is gone. */
    public function test_shards_as_stl_are_closed_for_gts(): void
    {
        foreach (array_slice((new Cells(12, 3))->break(Solids::vase(), new SilentProgress), 0, 6) as $k => $shard) {
            MeshWriter::write($shard->mesh, $path = $this->folder."/$k.stl", 'stl');
            [, $out] = self::shell('stl2gts < '.escapeshellarg($path).' | gtscheck -v 2>&1');
            self::assertTrue(self::isSolidForGts($out), $out);
        }
        $bytes = (string) file_get_contents($path);
        file_put_contents($path, substr($bytes, 0, 80).pack('V', (int) unpack('V', $bytes, 80)[1] - 1).substr($bytes, 134));
        [, $out] = self::shell('stl2gts < '.escapeshellarg($path).' | gtscheck -v 2>&1');
        self::assertFalse(self::isSolidForGts($out), $out);
    }

    /** Debian's assimp reads the OBJ with the same faces; a cut-off file does not come through the same way. */
    public function test_an_obj_is_read_by_assimp(): void
    {
        $mesh = Solids::shape('ring', ['segments' => 20, 'rows' => 8]);
        MeshWriter::write($mesh, $path = $this->folder.'/ring.obj', 'obj');
        [$code, $out] = self::shell('assimp info '.escapeshellarg($path).' 2>&1');
        self::assertSame(0, $code, $out);
        self::assertMatchesRegularExpression('/Faces:\s+320\b/', $out);
        file_put_contents($path, preg_replace('/^f .*$/m', 'f 1 2 99999', (string) file_get_contents($path)));
        [$code, $out] = self::shell('assimp info '.escapeshellarg($path).' 2>&1');
        self::assertTrue($code !== 0 || ! preg_match('/Faces:\s+320\b/', $out), $out);
    }

    public function test_a_ply_is_read_by_meshio(): void
    {
        $mesh = Solids::shape('cone', ['segments' => 16, 'rows' => 3]);
        MeshWriter::write($mesh, $path = $this->folder.'/cone.ply', 'ply');
        $got = OutsideTools::python(<<<'PY'
            import json, sys, meshio
            m = meshio.read(json.load(sys.stdin)); c = m.cells_dict["triangle"]
            print(json.dumps({"points": len(m.points), "faces": len(c), "top": int(c.max()), "high": float(m.points[:, 1].max())}))
            PY, $path);
        self::assertSame(['points' => $mesh->vertexCount(), 'faces' => $mesh->faceCount(), 'top' => $mesh->vertexCount() - 1, 'high' => 1.0], $got);
    }

    /** A marked rim is a material a band and an attribute the validator takes; meshio reads the weight from the PLY. */
    public function test_a_marked_rim_goes_into_files_as_materials_and_as_a_weight(): void
    {
        $shard = BreakCatalogue::make(
            'punch',
            ['radius' => 0.1, 'bands' => 2, 'rim' => 'marked', 'keep' => 'hole'],
        )->break(Solids::shape('sheet'), new SilentProgress)[0];
        MeshWriter::write($shard->mesh, $path = $this->folder.'/torn.glb', 'glb');
        $report = OutsideTools::node('validate.mjs', $path);
        self::assertSame([0, 0], [$report['errors'], $report['warnings']], json_encode($report) ?: '');
        $bytes = (string) file_get_contents($path);
        $json = json_decode(substr($bytes, 20, unpack('V', $bytes, 12)[1]), true);
        self::assertEqualsCanonicalizing(['outer-1', 'inner-1', 'rim-1-1', 'rim-2-1'], array_column($json['materials'], 'name'));
        foreach ($json['meshes'][0]['primitives'] as $primitive) {
            self::assertSame('SCALAR', $json['accessors'][$primitive['attributes']['_RIM']]['type']);
        }
        MeshWriter::write($shard->mesh, $path = $this->folder.'/torn.ply', 'ply');
        $got = OutsideTools::python(<<<'PY'
            import json, sys, meshio
            m = meshio.read(json.load(sys.stdin)); r = m.point_data["rim"]
            print(json.dumps({"points": len(r), "low": float(r.min()), "high": float(r.max())}))
            PY, $path);
        self::assertSame($shard->mesh->vertexCount(), $got['points']);
        self::assertEqualsWithDelta([0.0, 1.0], [$got['low'], $got['high']], 1e-6);
        MeshWriter::write($shard->mesh, $path = $this->folder.'/torn.obj', 'obj');
        preg_match_all('/^g \S+ (\S+)/m', (string) file_get_contents($path), $groups);
        self::assertEqualsCanonicalizing(['outer', 'inner', 'rim-1', 'rim-2'], $groups[1]);
    }

    /** The Khronos validator finds nothing in an animated file, and something in a damaged one. */
    public function test_an_animated_glb_passes_the_khronos_validator(): void
    {
        $pieces = [];
        foreach ((new Cells(8, 3))->break(Solids::vase(), new SilentProgress) as $s) {
            $c = $s->mass->centroid;
            $pieces[] = new GlbPiece(
                'Jar '.$s->name,
                $s->mesh->movedBy($c->times(-1.0)),
                new GlbSurface([0.5, 0.2, 0.1], 0.75),
                new GlbSurface([0.6, 0.3, 0.2], 0.95),
                $c->toArray(),
            );
        }
        $frames = $times = $sizes = [];
        for ($f = 0; $f < 12; $f++) {
            $times[] = $f / 24;
            // Half of them are shown from the third frame on, and shrink.
            $sizes[] = implode('', array_map(static fn (int $i): string => pack('g', $i % 2 === 0 ? 1.0 : ($f < 3 ? 0.0 : 1 - $f / 20)), array_keys($pieces)));
            $frames[] = implode(
                '',
                array_map(
                    static fn (GlbPiece $p): string => pack(
                        'g8',
                        $p->position[0],
                        $p->position[1] - $f * 0.01,
                        $p->position[2],
                        1.0,
                        0.0,
                        sin($f * 0.02),
                        0.0,
                        cos($f * 0.02),
                    ),
                    $pieces,
                ),
            );
        }
        (new GlbWriter($pieces))->write($path = $this->folder.'/jar.glb', ['times' => $times, 'frames' => $frames, 'sizes' => $sizes, 'steps' => true]);
        $report = OutsideTools::node('validate.mjs', $path);
        self::assertSame([0, 0], [$report['errors'], $report['warnings']], json_encode($report) ?: '');
        self::assertSame(array_map(static fn (GlbPiece $p): string => $p->name, $pieces), $report['names']);
        self::assertSame(1, $report['animations']);
        $bytes = (string) file_get_contents($path);
        $json = json_decode(substr($bytes, 20, unpack('V', $bytes, 12)[1] ?? 0), true);
        $scales = array_values(array_filter($json['animations'][0]['channels'], static fn (array $c): bool => $c['target']['path'] === 'scale'));
        self::assertCount(4, $scales);
        self::assertSame(
            ['STEP'],
            array_values(array_unique(array_map(static fn (array $c): string => $json['animations'][0]['samplers'][$c['sampler']]['interpolation'], $scales))),
        );
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], $json['nodes'][1]['scale'], 1e-9);
        file_put_contents($path, substr($bytes, 0, -400));
        self::assertGreaterThan(0, OutsideTools::node('validate.mjs', $path)['errors']);
    }

    /** @return array<string, array{string, bool}> a mesh of an npm package, and whether it is closed */
    public static function realMeshes(): array
    {
        return ['bunny' => ['bunny', true], 'primitive-torus' => ['primitive-torus', false]];
    }

    #[DataProvider('realMeshes')]
    public function test_real_meshes_are_judged_right_and_closed_ones_break(string $package, bool $closed): void
    {
        $obj = OutsideTools::node('mesh.mjs', $package)['obj'];
        file_put_contents($path = $this->folder.'/real.obj', $obj);
        $mesh = MeshReader::read($path)->mesh;
        $fitness = Fitness::of($mesh);
        self::assertSame($closed, $fitness->closed);
        if ($closed) {
            $mesh = $mesh->withNormals(\YardBreak\Core\Geometry\FaceNormals::smooth($mesh));
            $sum = 0.0;
            foreach ((new Cells(80, 2))->break($mesh, new SilentProgress) as $s) {
                self::assertTrue(Fitness::of($s->mesh)->canBreak());
                $sum += $s->mass->volume;
            }
            self::assertEqualsWithDelta(1.0, $sum / $fitness->volume, 1e-12);
        } else {
            self::assertGreaterThan(0, $fitness->boundaryEdges);
        }
    }

    /** The Manifold library refuses holes and flipped faces; it takes every shard, with the same volume (float32 in). */
    public function test_every_shard_is_a_solid_for_the_manifold_library(): void
    {
        $shards = (new Cells(60, 9))->break(Solids::shape('ring', ['segments' => 60, 'rows' => 20]), new SilentProgress);
        foreach ($shards as $k => $s) {
            MeshWriter::write($s->mesh, sprintf('%s/%04d.obj', $this->folder, $k), 'obj');
        }
        $got = OutsideTools::node('solid.mjs', $this->folder);
        self::assertCount(count($shards), $got);
        foreach ($got as $k => $row) {
            self::assertSame('ok', $row['status'], (string) $k);
            self::assertEqualsWithDelta(1.0, $row['volume'] / $shards[$k]->mass->volume, 1e-4);
        }
    }

    public function test_obj_reads_quads_polygons_groups_and_negative_indices(): void
    {
        // An L-shaped prism: a concave polygon of six corners on both ends.
        $text = "g prism ends\n";
        foreach ([0, 1] as $z) {
            foreach ([[0, 0], [2, 0], [2, 1], [1, 1], [1, 2], [0, 2]] as [$x, $y]) {
                $text .= "v $x $y $z\n";
            }
        }
        $text .= "f -6 -5 -4 -3 -2 -1\nf 6 5 4 3 2 1\ng sides\n";
        for ($k = 0; $k < 6; $k++) {
            $l = ($k + 1) % 6;
            $text .= 'f '.($k + 1).'/1 '.($l + 1).'/1 '.($l + 7).'/1 '.($k + 7)."/1\n";
        }
        file_put_contents($path = $this->folder.'/l.obj', $text);
        $file = MeshReader::read($path);
        self::assertSame(['prism ends', 'sides'], $file->names(NamedFaces::Group));
        $fitness = Fitness::of($file->mesh);
        self::assertTrue($fitness->canBreak());
        self::assertSame(20, $fitness->faces);
        self::assertEqualsWithDelta(3.0, $fitness->volume, 1e-12);
    }

    public function test_ply_reads_all_three_encodings_alike(): void
    {
        $x = [0.0, 1.0, 0.0, 0.0];
        $y = [0.0, 0.0, 1.0, 0.0];
        $z = [0.0, 0.0, 0.0, 1.0];
        $faces = [[0, 2, 1], [0, 1, 3], [1, 2, 3], [0, 3, 2]];
        foreach (['ascii' => null, 'binary_little_endian' => ['g3', 'CV3'], 'binary_big_endian' => ['G3', 'CN3']] as $encoding => $codes) {
            $text = "ply\nformat $encoding 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nelement face 4\nproperty list uchar int vertex_index\nend_header\n";
            foreach ($x as $i => $_) {
                $text .= $codes === null ? "{$x[$i]} {$y[$i]} {$z[$i]} 9\n" : pack($codes[0], $x[$i], $y[$i], $z[$i]).chr(9);
            }
            foreach ($faces as $f) {
                $text .= $codes === null ? '3 '.implode(' ', $f)."\n" : pack($codes[1], 3, ...$f);
            }
            file_put_contents($path = $this->folder.'/t.ply', $text);
            $fitness = Fitness::of(MeshReader::read($path)->mesh);
            self::assertTrue($fitness->canBreak(), $encoding);
            self::assertEqualsWithDelta(1 / 6, $fitness->volume, 1e-12);
        }
    }

    private static function isSolidForGts(string $report): bool
    {
        foreach (['incompatible faces', 'duplicate faces', 'boundary edges', 'duplicate edges', 'non-manifold edges'] as $fault) {
            if (! str_contains($report, $fault.': 0')) {
                return false;
            }
        }

        return true;
    }

    /** @return array{int, string} */
    private static function shell(string $command): array
    {
        [$code, $out] = OutsideTools::run(['bash', '-c', $command]);

        return [$code, $out];
    }
}
