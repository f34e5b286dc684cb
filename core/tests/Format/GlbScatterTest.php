<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Format;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Dust\Chip\ChipShape;
use YardBreak\Core\Dust\Chip\ChipShapes;
use YardBreak\Core\Format\GlbScatter;

/** What is written is taken apart again by the words of the standard (glTF 2.0, EXT_mesh_gpu_instancing). */
final class GlbScatterTest extends TestCase
{
    public function test_grains_are_points_and_chips_instances(): void
    {
        [$json, $bin] = self::written(true);
        self::assertSame(['EXT_mesh_gpu_instancing'], $json['extensionsUsed']);
        $points = $json['meshes'][$json['nodes'][0]['mesh']]['primitives'][0];
        self::assertSame(0, $points['mode']);
        self::assertEqualsWithDelta([1.0, 2.0, 3.0, -1.0, 0.5, 0.25], self::floats($json, $bin, $points['attributes']['POSITION'], 3), 1e-6);
        self::assertSame([-1.0, 0.5, 0.25], $json['accessors'][$points['attributes']['POSITION']]['min']);
        self::assertEqualsWithDelta([0.01, 0.02], self::floats($json, $bin, $points['attributes']['_SIZE'], 1), 1e-7);
        $view = $json['bufferViews'][$json['accessors'][$points['attributes']['COLOR_0']]['bufferView']];
        self::assertSame([10, 20, 30, 255, 40, 50, 60, 255], array_values(unpack('C8', $bin, $view['byteOffset']) ?: []));
        $instances = $json['nodes'][1]['extensions']['EXT_mesh_gpu_instancing']['attributes'];
        self::assertEqualsWithDelta([5.0, 6.0, 7.0], self::floats($json, $bin, $instances['TRANSLATION'], 3), 1e-6);
        self::assertEqualsWithDelta([0.0, 0.6, 0.0, 0.8], self::floats($json, $bin, $instances['ROTATION'], 4), 1e-6);
        self::assertEqualsWithDelta([0.3, 0.3, 0.3], self::floats($json, $bin, $instances['SCALE'], 3), 1e-6);
        // A cube: twelve faces of corners of their own, each normal straight off its face.
        $cube = $json['meshes'][$json['nodes'][1]['mesh']]['primitives'][0]['attributes'];
        $places = self::floats($json, $bin, $cube['POSITION'], 3);
        $normals = self::floats($json, $bin, $cube['NORMAL'], 3);
        self::assertCount(36 * 3, $places);
        for ($k = 0; $k < 36; $k++) {
            self::assertEqualsWithDelta(0.5, $places[3 * $k] * $normals[3 * $k] + $places[3 * $k + 1] * $normals[3 * $k + 1] + $places[3 * $k + 2] * $normals[3 * $k + 2], 1e-6);
        }
    }

    public function test_for_older_readers_each_chip_is_a_node(): void
    {
        [$json] = self::written(false);
        self::assertArrayNotHasKey('extensionsUsed', $json);
        self::assertCount(2, $json['nodes']);
        self::assertEquals([5.0, 6.0, 7.0], $json['nodes'][1]['translation']);
        self::assertEquals([0.3, 0.3, 0.3], $json['nodes'][1]['scale']);
    }

    public function test_nothing_is_a_file_all_the_same(): void
    {
        $path = tempnam(sys_get_temp_dir(), 'yard').'.glb';
        (new GlbScatter(true))->write($path);
        $bytes = (string) file_get_contents($path);
        unlink($path);
        self::assertSame(strlen($bytes), (unpack('V', $bytes, 8) ?: [])[1]);
        self::assertSame('dust', json_decode(substr($bytes, 20), true)['scenes'][0]['name']);
    }

    /** @return array{array<string, mixed>, string} what it says, and its bytes */
    private static function written(bool $instanced): array
    {
        $out = new GlbScatter($instanced);
        $out->addGrains('Jar dust', [[1.0, 2.0, 3.0, 0.01, 10, 20, 30], [-1.0, 0.5, 0.25, 0.02, 40, 50, 60]]);
        $out->addChips('Jar chips', ChipShape::scaled(ChipShapes::mesh('cube')), [[5.0, 6.0, 7.0, 0.3, [0.0, 0.6, 0.0, 0.8]]], [200, 100, 50]);
        $path = tempnam(sys_get_temp_dir(), 'yard').'.glb';
        $out->write($path);
        $bytes = (string) file_get_contents($path);
        unlink($path);
        self::assertSame(strlen($bytes), (unpack('V', $bytes, 8) ?: [])[1]);
        $long = (unpack('V', $bytes, 12) ?: [])[1];

        return [json_decode(substr($bytes, 20, $long), true), substr($bytes, 28 + $long)];
    }

    /**
     * @param  array<string, mixed>  $json
     * @return list<float>
     */
    private static function floats(array $json, string $bin, int $accessor, int $each): array
    {
        $a = $json['accessors'][$accessor];
        $view = $json['bufferViews'][$a['bufferView']];

        return array_values(unpack('g'.$each * $a['count'], $bin, $view['byteOffset']) ?: []);
    }
}
