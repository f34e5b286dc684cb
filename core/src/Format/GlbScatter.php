<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Problem;

/**
 * Grains and chips of one frame as binary glTF 2.0 (Khronos 2021): grains as a primitive of points with their colours and, as `_SIZE`, how
 * large they are; chips as instances of one mesh a kind (extension EXT_mesh_gpu_instancing, Khronos registry), or as a node each for
 * readers that do not know it.
 */
final class GlbScatter
{
    private const FLOAT = 5126;

    private const BYTE = 5121;

    /** @var list<array<string, mixed>> */
    private array $accessors = [];

    /** @var list<array<string, mixed>> */
    private array $views = [];

    /** @var list<array<string, mixed>> */
    private array $nodes = [];

    /** @var list<array<string, mixed>> */
    private array $meshes = [];

    /** @var list<array<string, mixed>> */
    private array $materials = [];

    private string $bytes = '';

    /** @param  bool  $instanced  chips as instances; else as nodes */
    public function __construct(private readonly bool $instanced)
    {
    }

    /**
     * @param  list<array{float, float, float, float, int, int, int}>  $grains  x, y, z and size in metres, and red, green and blue, 0…255
     */
    public function addGrains(string $name, array $grains): void
    {
        if ($grains === []) {
            return;
        }
        $places = $sizes = $colours = '';
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        foreach ($grains as [$x, $y, $z, $size, $r, $g, $b]) {
            $places .= pack('g3', $x, $y, $z);
            $sizes .= pack('g', $size);
            $colours .= pack('C4', $r, $g, $b, 255);
            foreach ([$x, $y, $z] as $k => $v) {
                $low[$k] = min($low[$k], $v);
                $high[$k] = max($high[$k], $v);
            }
        }
        $n = count($grains);
        $this->meshes[] = ['name' => $name, 'primitives' => [[
            'mode' => 0,
            'attributes' => [
                'POSITION' => $this->accessor($places, self::FLOAT, 'VEC3', $n, ['min' => self::single($low), 'max' => self::single($high)]),
                'COLOR_0' => $this->accessor($colours, self::BYTE, 'VEC4', $n, ['normalized' => true]),
                '_SIZE' => $this->accessor($sizes, self::FLOAT, 'SCALAR', $n),
            ],
        ]]];
        $this->nodes[] = ['name' => $name, 'mesh' => count($this->meshes) - 1];
    }

    /**
     * @param  Mesh  $shape  about its middle, its largest extent 1
     * @param  list<array{float, float, float, float, array{float, float, float, float}}>  $chips  x, y, z and size in metres, and turn
     * @param  array{int, int, int}  $colour  0…255
     */
    public function addChips(string $name, Mesh $shape, array $chips, array $colour): void
    {
        if ($chips === []) {
            return;
        }
        $mesh = $this->shape($name, $shape, $colour);
        if (! $this->instanced) {
            foreach ($chips as $k => [$x, $y, $z, $size, $turn]) {
                $this->nodes[] = ['name' => $name.' '.($k + 1), 'mesh' => $mesh, 'translation' => [$x, $y, $z], 'rotation' => $turn, 'scale' => [$size, $size, $size]];
            }

            return;
        }
        $places = $turns = $sizes = '';
        foreach ($chips as [$x, $y, $z, $size, $turn]) {
            $places .= pack('g3', $x, $y, $z);
            $turns .= pack('g4', ...$turn);
            $sizes .= pack('g3', $size, $size, $size);
        }
        $n = count($chips);
        $this->nodes[] = ['name' => $name, 'mesh' => $mesh, 'extensions' => ['EXT_mesh_gpu_instancing' => ['attributes' => [
            'TRANSLATION' => $this->accessor($places, self::FLOAT, 'VEC3', $n),
            'ROTATION' => $this->accessor($turns, self::FLOAT, 'VEC4', $n),
            'SCALE' => $this->accessor($sizes, self::FLOAT, 'VEC3', $n),
        ]]]];
    }

    /** @throws Problem where the disk does not take it */
    public function write(string $path): void
    {
        $json = ['asset' => ['version' => '2.0', 'generator' => 'Yard Break'], 'scene' => 0, 'scenes' => [['name' => 'dust'] + ($this->nodes === [] ? [] : ['nodes' => array_keys($this->nodes)])]];
        if ($this->nodes !== []) {
            $json += ['nodes' => $this->nodes, 'meshes' => $this->meshes, 'accessors' => $this->accessors, 'bufferViews' => $this->views, 'buffers' => [['byteLength' => strlen($this->bytes)]]];
        }
        if ($this->materials !== []) {
            $json['materials'] = $this->materials;
        }
        if (array_filter($this->nodes, static fn (array $n): bool => isset($n['extensions'])) !== []) {
            $json['extensionsUsed'] = $json['extensionsRequired'] = ['EXT_mesh_gpu_instancing'];
        }
        $text = json_encode($json, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_SLASHES);
        $text .= str_repeat(' ', (4 - strlen($text) % 4) % 4);
        $out = new FileOutput($path);
        $out->put('glTF'.pack('VV', 2, 12 + 8 + strlen($text) + ($this->bytes === '' ? 0 : 8 + strlen($this->bytes))));
        $out->put(pack('V', strlen($text)).'JSON'.$text);
        if ($this->bytes !== '') {
            $out->put(pack('V', strlen($this->bytes))."BIN\0".$this->bytes);
        }
        $out->close();
    }

    /** @param  array{int, int, int}  $colour */
    private function shape(string $name, Mesh $shape, array $colour): int
    {
        // Flat faces: every corner of a face is a point of its own.
        $places = $normals = '';
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        $flat = FaceNormals::flat($shape);
        foreach ($shape->faces as $k => $p) {
            $at = [$shape->x[$p], $shape->y[$p], $shape->z[$p]];
            $places .= pack('g3', ...$at);
            $normals .= pack('g3', ...array_slice($flat, 3 * $k, 3));
            foreach ($at as $axis => $v) {
                $low[$axis] = min($low[$axis], $v);
                $high[$axis] = max($high[$axis], $v);
            }
        }
        // Colours of the web are bent; factors are not.
        $linear = array_map(static fn (int $c): float => round((($c / 255.0 + 0.055) / 1.055) ** 2.4, 5), $colour);
        $this->materials[] = ['name' => $name, 'pbrMetallicRoughness' => ['baseColorFactor' => [...$linear, 1.0], 'metallicFactor' => 0.0, 'roughnessFactor' => 0.9]];
        $n = count($shape->faces);
        $this->meshes[] = ['name' => $name, 'primitives' => [[
            'attributes' => [
                'POSITION' => $this->accessor($places, self::FLOAT, 'VEC3', $n, ['min' => self::single($low), 'max' => self::single($high)]),
                'NORMAL' => $this->accessor($normals, self::FLOAT, 'VEC3', $n),
            ],
            'material' => count($this->materials) - 1,
        ]]];

        return count($this->meshes) - 1;
    }

    /** @param  array<string, mixed>  $more */
    private function accessor(string $bytes, int $kind, string $type, int $count, array $more = []): int
    {
        $this->views[] = ['buffer' => 0, 'byteOffset' => strlen($this->bytes), 'byteLength' => strlen($bytes)];
        $this->bytes .= $bytes.str_repeat("\0", (4 - strlen($bytes) % 4) % 4);
        $this->accessors[] = ['bufferView' => count($this->views) - 1, 'componentType' => $kind, 'count' => $count, 'type' => $type] + $more;

        return count($this->accessors) - 1;
    }

    /**
     * @param  list<float>  $values
     * @return list<float> as single precision holds them
     */
    private static function single(array $values): array
    {
        return array_map(floatval(...), array_values(unpack('g*', pack('g*', ...$values)) ?: []));
    }
}
