<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\HandOff;
use YardBreak\Core\Bake\Piece;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Tests\Shot\Documents;

/** What leaves is what is seen: sizes and visibility of every frame. */
final class HandOffTest extends TestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        mkdir($this->folder = sys_get_temp_dir().'/yard-hand-off-'.bin2hex(random_bytes(4)));
    }

    protected function tearDown(): void
    {
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    public function test_an_obj_holds_exactly_what_is_seen_at_its_size(): void
    {
        $writer = $this->writer();
        $read = function (int $frame) use ($writer): array {
            $writer->write('obj', $frame, $path = $this->folder.'/frame.obj');
            preg_match_all('/^o (\S+)$/m', (string) file_get_contents($path), $names);
            preg_match_all('/^v (\S+) (\S+) (\S+)$/m', (string) file_get_contents($path), $points);
            preg_match_all('/^f (.+)$/m', (string) file_get_contents($path), $faces);
            $corners = array_map(intval(...), preg_split('/[ ]+/', implode(' ', $faces[1])) ?: []);

            return [$names[1], array_map(floatval(...), $points[2]), $corners === [] ? 0 : max($corners)];
        };
        [$names, $heights, $last] = $read(0);
        self::assertSame([['Block', 'Other'], 16, 16], [$names, count($heights), $last]);
        self::assertEqualsWithDelta([0.0, 1.0, 3.0, 4.0], array_values(array_unique($this->sorted($heights))), 1e-6);
        [$names, $heights, $last] = $read(1);
        self::assertSame([['Other'], 8, 8], [$names, count($heights), $last], 'the first is not shown, and the corners count from 1 again');
        self::assertEqualsWithDelta([3.25, 3.75], array_values(array_unique($this->sorted($heights))), 1e-6, 'half as large about its middle');
        self::assertSame([[], 0, 0], $this->counted($read(2)), 'of size nothing');
        self::assertStringStartsWith(
            "# Yard Break, metres, frame 1003\n",
            (string) file_get_contents($this->folder.'/frame.obj'),
            'frames are numbered as the shot does',
        );
    }

    /** sRGB of IEC 61966-2-1: 51 of 255 is 0.03310 in linear light, 10 of 255 lies on the straight part, 10 ÷ 255 ÷ 12.92. */
    public function test_colours_leave_in_linear_light(): void
    {
        $this->writer(['colour' => '#330aff'])->write('glb', 0, $path = $this->folder.'/shot.glb');
        $bytes = (string) file_get_contents($path);
        $json = json_decode(substr($bytes, 20, (unpack('V', $bytes, 12) ?: [1 => 0])[1]), true);
        self::assertEqualsWithDelta([0.0331, 10 / 255 / 12.92, 1.0, 1.0], $json['materials'][0]['pbrMetallicRoughness']['baseColorFactor'] + [3 => 1.0], 1e-5);
    }

    public function test_pieces_are_called_by_their_prop_and_a_whole_prop_by_its_own_name(): void
    {
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d): array {
            $d['props'][] = ['id' => 'broken', 'name' => 'Broken', 'break' => ['pattern' => 'cells', 'values' => ['count' => 2]]] + $d['props'][0];

            return $d;
        }));
        $shard = static fn (string $name): Shard => new Shard($name, $mesh = ShapeCatalogue::mesh('box', []), MassProperties::of($mesh));
        $pieces = Baker::pieces($shot, ['block' => [$shard('whole')], 'broken' => [$shard('shard-0001'), $shard('shard-0002')]]);
        self::assertSame(
            [['Block', 0, 0], ['Broken shard-0001', 1, 0], ['Broken shard-0002', 1, 1]],
            array_map(static fn (Piece $p): array => [$p->name, $p->prop, $p->number], $pieces),
        );
    }

    public function test_a_frame_that_is_too_short_is_said(): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('too short');
        $this->writer()->write('obj', 3, $this->folder.'/frame.obj');
    }

    /**
     * @param  array{list<string>, list<float>, int}  $read
     * @return array{list<string>, int, int}
     */
    private function counted(array $read): array
    {
        return [$read[0], count($read[1]), $read[2]];
    }

    /**
     * @param  list<float>  $values
     * @return list<float>
     */
    private function sorted(array $values): array
    {
        $values = array_map(static fn (float $v): float => round($v, 6), $values);
        sort($values);

        return $values;
    }

    /** A prop keyed to nothing has no box in an OBJ, however small; as a shard it is written as it was made. */
    public function test_what_has_no_size_is_no_box_in_a_frame_but_a_shard_in_full(): void
    {
        $ready = Trials::ready(Trials::document([
            Trials::box(
                'box',
                [0, 0, 0],
                ['place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => Trials::keys([0 => 0, 8 => 1, 12 => 0])], 'motion' => ['kind' => 'keyed']],
            ),
            Trials::box('other', [1, 0, 0]),
        ]));
        $frames = iterator_to_array($ready->frames(), false);
        [$shards] = Trials::made($ready->shot);
        $none = new class implements AssetSource
        {
            public function path(string $asset): string
            {
                throw new \LogicException($asset);
            }
        };
        $out = new HandOff($ready->shot, Baker::pieces($ready->shot, $shards), $none, count($frames), static fn (int $k): array => $frames[$k]->streams);
        foreach ([0 => 1, 4 => 2, 8 => 2, 12 => 1, 20 => 1] as $frame => $count) {
            $out->write('obj', $frame, $path = $this->folder.'/frame.obj');
            self::assertCount($count, preg_grep('/^o /', explode("\n", (string) file_get_contents($path))) ?: [], "frame $frame");
        }
        $out->write('ply', 0, $path = $this->folder.'/box.ply');
        self::assertEqualsWithDelta(0.027, MassProperties::of(MeshReader::read($path)->mesh)->volume, 1e-6);
    }

    public function test_what_a_format_does_not_hold_is_said(): void
    {
        $keys = ['keys' => [['frame' => 0, 'value' => 0.2], ['frame' => 9, 'value' => 0.9]]];
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d) use ($keys): array {
            $d['props'][0]['material'] = ['roughness' => $keys, 'tint' => $keys, 'tintColour' => '#ff0000'] + $d['props'][0]['material'];
            $d['camera'] = [
                'position' => [0, 1, 5],
                'target' => [0, 0, 0],
                'focal' => ['keys' => [['frame' => 0, 'value' => 35], ['frame' => 9, 'value' => 50]]],
                'film' => 36,
                'shape' => [1920, 1080],
            ];

            return $d;
        }));
        self::assertSame(
            ['Block: its roughness stays as at the first key, it is not tinted.', 'Camera: it sees as wide all the time as at the first frame.'],
            HandOff::leftOut($shot, 'glb'),
        );
        self::assertSame(['Block: it has no roughness, it is not tinted.', 'Camera: it is left out.'], HandOff::leftOut($shot, 'obj'));
        self::assertSame([], HandOff::leftOut(ShotSpec::fromJson(Documents::json()), 'glb'));
    }

    /** @param  array<string, mixed>  $material */
    private function writer(array $material = []): HandOff
    {
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d) use ($material): array {
            $d['props'][0]['material'] = $material + $d['props'][0]['material'];
            $d['frames'] = ['first' => 1001, 'last' => 1004, 'rate' => [24, 1]];
            $d['props'][] = ['id' => 'other', 'name' => 'Other'] + $d['props'][0];

            return $d;
        }));
        $mesh = ShapeCatalogue::mesh('box', []);
        $mesh = new Mesh($mesh->x, $mesh->y, $mesh->z, $mesh->faces);
        $pose = static fn (float $y): string => pack('g8', 0, $y, 0, 0, 0, 0, 0, 1);
        $seen = static fn (string $v): array => [StreamKind::Visibility->value => $v];
        $size = static fn (float $v): array => [StreamKind::Sizes->value => pack('g', $v)];
        $poses = [[StreamKind::Poses->value => $pose(0.5)], [StreamKind::Poses->value => $pose(3.5)]];
        $frames = [
            $poses,
            [$poses[0] + $seen("\0"), $poses[1] + $size(0.5) + $seen("\1")],
            [$poses[0] + $seen("\0"), $poses[1] + $size(0.0)],
            [$poses[0], [StreamKind::Poses->value => 'short']],
        ];
        $none = new class implements AssetSource
        {
            public function path(string $asset): string
            {
                throw new \LogicException($asset);
            }
        };
        $shard = new Shard('whole', $mesh, MassProperties::of($mesh));

        return new HandOff(
            $shot,
            [new Piece('Block', 0, 0, $shard), new Piece('Other', 1, 0, $shard)],
            $none,
            $material === [] ? 4 : 3,
            static fn (int $k): array => $frames[$k],
        );
    }
}
