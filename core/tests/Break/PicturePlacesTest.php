<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\JoinedShards;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Break\ShardFile;
use YardBreak\Core\Format\GlbPiece;
use YardBreak\Core\Format\GlbSurface;
use YardBreak\Core\Format\GlbWriter;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Format\MeshWriter;
use YardBreak\Core\Geometry\BoxProjection;
use YardBreak\Core\Geometry\FrontProjection;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\References\OutsideTools;
use YardBreak\Core\Tests\Solids;

/** Where in a picture points lie, through breaks and files. */
final class PicturePlacesTest extends TestCase
{
    /** @return array<string, array{string, array<string, mixed>}> */
    public static function patterns(): array
    {
        return [
            'cells' => ['cells', ['count' => 20]],
            'halving' => ['halving', ['passes' => 3, 'roughness' => 0.4]],
            'tiles' => ['tiles', ['grid' => [3, 3, 2], 'jitter' => 0.5]],
            'flakes' => ['flakes', ['faces' => 9, 'thickness' => 0.001]],
            'flakes of one face' => ['flakes', ['faces' => 1, 'thickness' => 0.001]],
            'parts' => ['parts', []],
        ];
    }

    /** @param  array<string, mixed>  $values */
    #[DataProvider('patterns')]
    public function test_the_outside_keeps_its_places_and_the_inside_gets_true_scale(string $pattern, array $values): void
    {
        $solid = self::mapped(Solids::shape('ball', ['detail' => 8]));
        foreach (BreakCatalogue::make($pattern, $values)->break($solid, new SilentProgress) as $shard) {
            $m = $shard->mesh;
            self::assertCount(6 * $m->faceCount(), $m->uvs ?? []);
            foreach ($m->faces as $c => $p) {
                $f = intdiv($c, 3);
                if (($m->sides[$f] ?? 0) === 0) {
                    // The map is linear in space, so any point of the surface can be checked.
                    self::assertEqualsWithDelta([2 * $m->x[$p] + $m->z[$p], 3 * $m->y[$p] - 1], array_slice($m->uvs ?? [], 2 * $c, 2), 1e-9);
                } elseif ($shard->name !== 'core') {
                    // Along the axis a face looks at most, a metre is a metre.
                    [$a, $b] = [$m->faces[3 * $f], $m->faces[3 * $f + 1]];
                    $flat = hypot(($m->uvs[6 * $f + 2] ?? 0) - ($m->uvs[6 * $f] ?? 0), ($m->uvs[6 * $f + 3] ?? 0) - ($m->uvs[6 * $f + 1] ?? 0));
                    $true = (new Vec3($m->x[$b] - $m->x[$a], $m->y[$b] - $m->y[$a], $m->z[$b] - $m->z[$a]))->length();
                    self::assertLessThanOrEqual($true + 1e-9, $flat);
                }
            }
        }
    }

    public function test_box_projection_is_at_true_scale_and_never_mirrored(): void
    {
        $box = Solids::shape('box', ['width' => 2.0, 'height' => 3.0, 'depth' => 4.0]);
        $uvs = BoxProjection::of($box);
        $area = 0.0;
        for ($f = 0; $f < $box->faceCount(); $f++) {
            [$au, $av, $bu, $bv, $cu, $cv] = array_slice($uvs, 6 * $f, 6);
            $own = 0.5 * (($bu - $au) * ($cv - $av) - ($bv - $av) * ($cu - $au));
            self::assertGreaterThan(0.0, $own);
            $area += $own;
        }
        self::assertEqualsWithDelta(2 * (2 * 3 + 3 * 4 + 4 * 2), $area, 1e-9);
    }

    public function test_they_are_kept_in_stored_shards_and_in_joined_ones(): void
    {
        $solid = self::mapped(Solids::shape('box'));
        $shards = BreakCatalogue::make('tiles', ['grid' => [2, 2, 1]])->break($solid, new SilentProgress);
        foreach (ShardFile::decode(ShardFile::encode($shards)) as $k => $shard) {
            self::assertEqualsWithDelta($shards[$k]->mesh->uvs, $shard->mesh->uvs, 1e-6);
        }
        self::assertCount(6 * JoinedShards::of($shards)->mesh->faceCount(), JoinedShards::of($shards)->mesh->uvs ?? []);
    }

    /** Written and read again, and counted by Debian's assimp; the Khronos validator takes the GLB. */
    public function test_they_go_through_files(): void
    {
        $mesh = self::mapped(Solids::shape('box'));
        $folder = OutsideTools::folder();
        foreach (['obj', 'glb', 'ply'] as $kind) {
            MeshWriter::write($mesh, $path = $folder.'/box.'.$kind, $kind);
            $back = MeshReader::read($path)->mesh;
            self::assertCount(6 * $mesh->faceCount(), $back->uvs ?? []);
            foreach ($back->faces as $c => $p) {
                self::assertEqualsWithDelta([2 * $back->x[$p] + $back->z[$p], 3 * $back->y[$p] - 1], array_slice($back->uvs ?? [], 2 * $c, 2), 1e-6, $kind);
            }
            [, $out] = OutsideTools::run(['assimp', 'info', $path]);
            self::assertStringContainsString('12', $out);
        }
        self::assertSame(0, OutsideTools::node('validate.mjs', $folder.'/box.glb')['errors']);
        exec('rm -rf '.escapeshellarg($folder));
    }

    public function test_a_slab_traced_in_a_picture_shows_it_on_both_large_sides_and_not_on_the_others(): void
    {
        // Twice as wide as high; the square lies in its right half.
        $outline = ['frame' => [1.0, 0.5], 'lines' => [['points' => [[0.1, -0.1], [0.3, -0.1], [0.3, 0.1], [0.1, 0.1]], 'closed' => true]]];
        $slab = ShapeCatalogue::mesh('outline', ['outline' => $outline, 'size' => 2.0, 'depth' => 0.1]);
        $shown = 0;
        for ($f = 0; $f < $slab->faceCount(); $f++) {
            $front = abs($slab->z[$slab->faces[3 * $f]] - $slab->z[$slab->faces[3 * $f + 1]]) < 1e-9
                && abs($slab->z[$slab->faces[3 * $f]] - $slab->z[$slab->faces[3 * $f + 2]]) < 1e-9;
            $places = array_slice($slab->uvs ?? [], 6 * $f, 6);
            $shown += $front ? 1 : 0;
            if (! $front) {
                self::assertSame(array_fill(0, 6, FrontProjection::NONE), $places);

                continue;
            }
            // 0.1 … 0.3 of the width to the right of the middle, 0.1 of the width up and down, which is a fifth of the height.
            foreach ([0, 2, 4] as $k) {
                self::assertContains(round($places[$k], 9), [0.6, 0.8]);
                self::assertContains(round($places[$k + 1], 9), [0.3, 0.7]);
            }
        }
        self::assertSame(4, $shown);
    }

    public function test_a_picture_is_carried_in_the_file_and_only_where_it_shows(): void
    {
        $folder = OutsideTools::folder();
        $image = imagecreatetruecolor(8, 4);
        self::assertNotFalse($image);
        imagepng($image, $folder.'/fern.png');
        $mesh = Solids::shape('sheet', ['segments' => 2]);
        $mesh = $mesh->withUvs(FrontProjection::of($mesh));
        $pieces = array_map(
            static fn (Shard $s): GlbPiece => new GlbPiece($s->name, $s->mesh, new GlbSurface([0.7, 0.7, 0.7], 0.4, $folder.'/fern.png')),
            BreakCatalogue::make('cells', ['count' => 5])->break($mesh, new SilentProgress),
        );
        (new GlbWriter($pieces))->write($path = $folder.'/slab.glb');
        $report = OutsideTools::node('validate.mjs', $path);
        self::assertSame([0, 0], [$report['errors'], $report['warnings']], json_encode($report) ?: '');
        $bytes = (string) file_get_contents($path);
        $json = json_decode(substr($bytes, 20, unpack('V', $bytes, 12)[1]), true);
        self::assertCount(1, $json['images'], 'one picture for all pieces');
        self::assertEqualsCanonicalizing(
            ['outer', 'inner', 'outer-picture'],
            array_values(array_unique(array_map(static fn (array $m): string => substr($m['name'], 0, (int) strrpos($m['name'], '-')), $json['materials']))),
        );
        exec('rm -rf '.escapeshellarg($folder));
    }

    /** One picture a quarter of a metre wide: the places of inner corners, in metres, are four times as large in the file. */
    public function test_a_picture_on_the_inside_repeats_at_its_own_width(): void
    {
        $folder = OutsideTools::folder();
        $image = imagecreatetruecolor(4, 4);
        self::assertNotFalse($image);
        imagepng($image, $folder.'/clay.png');
        $mesh = Solids::shape('box');
        $mesh = $mesh->withUvs(array_fill(0, 6 * $mesh->faceCount(), FrontProjection::NONE));
        $shard = BreakCatalogue::make('tiles', ['grid' => [2, 1, 1]])->break($mesh, new SilentProgress)[0];
        (new GlbWriter([new GlbPiece(
            'half',
            $shard->mesh,
            inner: new GlbSurface([0.5, 0.5, 0.5], 0.8, $folder.'/clay.png', 0.25),
        )]))->write($path = $folder.'/half.glb');
        $report = OutsideTools::node('validate.mjs', $path);
        self::assertSame([0, 0], [$report['errors'], $report['warnings']], json_encode($report) ?: '');
        $back = MeshReader::read($path)->mesh;
        $places = [];
        foreach ($back->uvs ?? [] as $i => $v) {
            if ($i % 2 === 0 && ($back->uvs[$i - $i % 6] ?? -1.0) !== FrontProjection::NONE) {
                $places[] = [$v, $back->uvs[$i + 1] ?? 0.0];
            }
        }
        // The one wall is a square metre, four pictures by four.
        self::assertEqualsWithDelta(4.0, max(array_column($places, 0)) - min(array_column($places, 0)), 1e-5);
        self::assertEqualsWithDelta(4.0, max(array_column($places, 1)) - min(array_column($places, 1)), 1e-5);
        exec('rm -rf '.escapeshellarg($folder));
    }

    private static function mapped(Mesh $m): Mesh
    {
        $uvs = [];
        foreach ($m->faces as $p) {
            array_push($uvs, 2 * $m->x[$p] + $m->z[$p], 3 * $m->y[$p] - 1);
        }

        return new Mesh($m->x, $m->y, $m->z, $m->faces, $m->normals, $m->sides, $uvs);
    }
}
