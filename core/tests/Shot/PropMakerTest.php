<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/** From a file as somebody saved it to a prop in metres with y up. */
final class PropMakerTest extends TestCase implements AssetSource
{
    /** A box of 100 × 200 × 300 in the file's units, in the group `stone`; and one more triangle in the group `dirt`. */
    private const BOX = "g stone\nv 0 0 0\nv 100 0 0\nv 100 200 0\nv 0 200 0\nv 0 0 300\nv 100 0 300\nv 100 200 300\nv 0 200 300\nf 4 3 2 1\nf 5 6 7 8\nf 1 2 6 5\nf 3 4 8 7\nf 2 3 7 6\nf 1 5 8 4\ng dirt\nv 900 0 0\nv 901 0 0\nv 900 1 0\nf 9 10 11\n";

    private string $file = '';

    protected function setUp(): void
    {
        $this->file = (string) tempnam(sys_get_temp_dir(), 'box');
        file_put_contents($this->file, self::BOX);
    }

    protected function tearDown(): void
    {
        unlink($this->file);
    }

    public function path(string $asset): string
    {
        return $this->file;
    }

    /** The inch is 25.4 mm and the foot twelve of them (international yard and pound agreement, 1959). */
    /** @return array<string, array{string, float}> */
    public static function units(): array
    {
        return ['metres' => ['m', 1.0], 'centimetres' => ['cm', 0.01], 'millimetres' => ['mm', 0.001], 'inches' => ['in', 0.0254], 'feet' => ['ft', 0.3048]];
    }

    #[DataProvider('units')]
    public function test_units_become_metres(string $unit, float $metres): void
    {
        $size = Aabb::around($this->made(['unit' => $unit, 'group' => 'stone']))->size();
        self::assertEqualsWithDelta([100 * $metres, 200 * $metres, 300 * $metres], $size->toArray(), 1e-9 * $metres);
    }

    public function test_z_up_is_turned_upright_without_turning_inside_out(): void
    {
        $mesh = $this->made(['up' => 'z', 'unit' => 'cm', 'group' => 'stone']);
        self::assertEqualsWithDelta([1.0, 3.0, 2.0], Aabb::around($mesh)->size()->toArray(), 1e-12);
        $fitness = Fitness::of($mesh);
        self::assertFalse($fitness->insideOut);
        self::assertTrue($fitness->canBreak());
    }

    public function test_normals_are_turned_upright_with_the_faces(): void
    {
        file_put_contents($this->file, "v 0 0 0\nv 1 0 0\nv 0 2 1\nvn 0 -0.4472135955 0.894427191\nf 1//1 2//1 3//1\n");
        $mesh = $this->made(['up' => 'z']);
        self::assertEqualsWithDelta(FaceNormals::flat($mesh), $mesh->normals, 1e-6);
        self::assertGreaterThan(0.8, $mesh->normals[1] ?? 0.0, 'what looked up still does');
    }

    /** A ball of half a cubic metre stands, by its keys, at the block's side at frame 10 and far off before; the block is turned about. */
    public function test_a_prop_cuts_where_it_stands_at_the_frame_asked_for(): void
    {
        $volume = function (int $frame, bool $there = true, array $more = []): float {
            $spec = ShotSpec::fromJson(Documents::json(static function (array $d) use ($frame, $there, $more): array {
                $block = $d['props'][0];
                $ball = ['id' => 'ball', 'name' => 'Ball', 'source' => [
                    'kind' => 'shape',
                    'shape' => 'ball',
                    'values' => ['radius' => 0.3],
                ], 'hidden' => true, 'motion' => ['kind' => 'keyed'],
                    'place' => [
                        'position' => [['keys' => [['frame' => 0, 'value' => 9.0], ['frame' => 10, 'value' => 0.5]]], 1.2, 0],
                        'turn' => [0, 0, 0],
                        'size' => 1,
                    ]] + $more + $block;
                $block['place']['turn'] = [0, 90, 0];
                $block['break'] = ['pattern' => 'punch', 'values' => ['cutter' => 'prop', 'tool' => 'ball', 'frame' => $frame, 'roughness' => 0]];
                $d['props'] = $there ? [$block, $ball] : [$block];

                return $d;
            }));
            self::assertCount(1, $spec->props, 'the hidden one is no part of the bake');
            $shards = (new PropMaker($this))->shards($spec->props[0], new SilentProgress);

            return array_sum(array_map(static fn (Shard $s): float => str_starts_with($s->name, 'shard-0001') ? $s->mass->volume : 0.0, $shards));
        };
        // Half a ball lies in the block, wherever the block's own x looks.
        self::assertEqualsWithDelta(1.0, $volume(10) / (2 / 3 * M_PI * 0.3 ** 3), 0.02);
        foreach ([[0, true, 'misses'], [10, false, 'no longer there']] as [$frame, $there, $words]) {
            try {
                $volume($frame, $there);
                self::fail('it was cut');
            } catch (Problem $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
    }

    public function test_the_key_of_the_shards_follows_the_prop_they_are_cut_with_and_nothing_else_of_it(): void
    {
        $key = static fn (\Closure $change): string => ShotSpec::fromJson(Documents::json(static function (array $d) use ($change): array {
            $tool = ['id' => 'tool', 'name' => 'Tool'] + $d['props'][0];
            $d['props'][0]['break'] = ['pattern' => 'punch', 'values' => ['cutter' => 'prop', 'tool' => 'tool']];
            $d['props'][1] = $change($tool);

            return $d;
        }))->props[0]->shardKey();
        $plain = $key(static fn (array $t): array => $t);
        self::assertNotSame($plain, $key(static fn (array $t): array => ['place' => ['position' => [0.1, 1, 0]] + $t['place']] + $t));
        self::assertNotSame(
            $plain,
            $key(static fn (array $t): array => ['source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.4]]] + $t),
        );
        self::assertSame($plain, $key(static fn (array $t): array => ['name' => 'Another', 'material' => ['density' => 7000] + $t['material']] + $t));
    }

    /** Walls get places on a picture only where there is one. */
    public function test_the_key_of_the_shards_tells_whether_there_are_pictures(): void
    {
        $picture = ['asset' => str_repeat('a', 64), 'file' => 'moss.png'];
        $key = fn (array $material): string => $this->prop(
            [],
            ['material' => ['name' => 'brick', 'colour' => '#aa5533', 'inner' => '#cc7755', 'density' => 1900, 'friction' => 0.6, 'bounce' => 0.1] + $material],
        )->shardKey();
        self::assertCount(
            4,
            array_unique([
                $key([]),
                $key(['picture' => $picture]),
                $key(['innerPicture' => $picture + ['metres' => 1]]),
                $key(['picture' => $picture, 'innerPicture' => $picture + ['metres' => 1]]),
            ]),
        );
        self::assertSame($key(['picture' => $picture]), $key(['picture' => ['asset' => str_repeat('b', 64)] + $picture]));
    }

    public function test_only_drawn_lines_have_a_plan(): void
    {
        $lines = ['unit' => 'm', 'lines' => [['points' => [[-1, 1], [2, 1]], 'closed' => false]]];
        $prop = $this->prop(
            ['unit' => 'cm', 'group' => 'stone'],
            [
                'break' => ['pattern' => 'cells', 'values' => ['count' => 3]],
                'rework' => [
                    ['pattern' => 'score', 'values' => ['lines' => $lines], 'pieces' => null],
                    ['pattern' => 'score', 'values' => ['axis' => [0, 1, 0], 'lines' => $lines], 'pieces' => null],
                ],
            ],
        );
        $plans = $prop->plans((new PropMaker($this))->mesh(...));
        self::assertNull($plans['break']);
        self::assertEqualsWithDelta(
            [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0]],
            array_map(static fn (?array $plan): array => array_map(abs(...), $plan['w'] ?? []), $plans['rework']),
            1e-12,
            'through the thinnest side, or along the axis given',
        );
    }

    public function test_only_the_chosen_group_is_used(): void
    {
        self::assertSame(13, $this->made([])->faceCount());
        self::assertSame(12, $this->made(['group' => 'stone'])->faceCount());
        self::assertSame(1, $this->made(['group' => 'dirt'])->faceCount());
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('no group "gravel"');
        $this->made(['group' => 'gravel']);
    }

    public function test_size_scales_about_the_props_own_origin(): void
    {
        $box = Aabb::around($this->made(['unit' => 'cm', 'group' => 'stone'], ['place' => ['position' => [5, 5, 5], 'turn' => [0, 0, 0], 'size' => 2]]));
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], $box->low->toArray(), 1e-12);
        self::assertEqualsWithDelta([2.0, 4.0, 6.0], $box->high->toArray(), 1e-12);
    }

    public function test_a_whole_prop_is_one_piece_and_an_open_one_is_not_broken(): void
    {
        $maker = new PropMaker($this);
        $whole = $maker->shards($this->prop(['unit' => 'cm', 'group' => 'stone']), new SilentProgress);
        self::assertCount(1, $whole);
        self::assertEqualsWithDelta(6.0, $whole[0]->mass->volume, 1e-9);
        $broken = $maker->shards(
            $this->prop(['unit' => 'cm', 'group' => 'stone'], ['break' => ['pattern' => 'cells', 'values' => ['count' => 7]]]),
            new SilentProgress,
        );
        self::assertCount(7, $broken);
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('Block cannot be broken. The surface is open');
        $maker->shards($this->prop(['unit' => 'cm'], ['break' => ['pattern' => 'cells', 'values' => ['count' => 7]]]), new SilentProgress);
    }

    /** @param  array<string, mixed>  $source */
    private function made(array $source, array $with = []): \YardBreak\Core\Geometry\Mesh
    {
        return (new PropMaker($this))->mesh($this->prop($source, $with));
    }

    /**
     * @param  array<string, mixed>  $source
     * @param  array<string, mixed>  $with
     */
    private function prop(array $source, array $with = []): PropSpec
    {
        return ShotSpec::fromJson(Documents::json(static function (array $d) use ($source, $with): array {
            $d['props'][0] = array_replace(
                $d['props'][0],
                $with,
                ['source' => $source + ['kind' => 'mesh', 'asset' => str_repeat('0', 64), 'file' => 'box.obj', 'up' => 'y', 'unit' => 'm']],
            );

            return $d;
        }))->props[0];
    }
}
