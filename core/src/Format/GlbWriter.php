<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\FrontProjection;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;

/**
 * Binary glTF 2.0 (Khronos 2021): one node a piece, outer and inner surface and every rim band as materials of their
 * own, the rim's weight as the attribute `_RIM`, and the bake as
 * translation and rotation channels on one shared time accessor; a surface whose points move as morph targets, one a shape. Written as a stream; only the
 * description is
 * held in memory.
 */
final class GlbWriter
{
    /** @var list<array<string, mixed>> */
    private array $accessors = [];

    /** @var list<array<string, mixed>> */
    private array $views = [];

    /** @var array<string, int> */
    private array $materialOf = [];

    /** @var list<array<string, mixed>> */
    private array $materials = [];

    /** @var array<string, int> texture by the path of its picture */
    private array $textures = [];

    /** @var list<array<string, mixed>> */
    private array $images = [];

    private int $offset = 0;

    /** @param  list<GlbPiece>  $pieces */
    public function __construct(private readonly array $pieces)
    {
    }

    /**
     * @param  array{times: list<float>, frames: list<string>, sizes: list<string>, steps: bool, camera?: array{name: string, height: float, aspect: float, places: list<string>, turns: list<string>}|null}|null  $motion  seconds; for each frame the packed float32
     *                                                                                                        records of all pieces: position (3), state
     *                                                                                                        (1), turn (4); their sizes, a float32 each, 0
     *                                                                                                        for what is not seen; and whether sizes jump
     *                                                                                                        from frame to frame; the camera, with the
     *                                                                                                        angle its picture is high (radians), and its
     *                                                                                                        place and turn in each frame as float32
     */
    public function write(string $path, ?array $motion = null): void
    {
        $bin = new FileOutput($path.'.bin');
        $nodes = $meshes = [];
        foreach ($this->pieces as $i => $piece) {
            $meshes[] = ['name' => $piece->name, 'primitives' => $this->primitives($piece, $bin)] + ($piece->shapes === [] ? [] : ['weights' => self::shares($piece, $piece->shaped[0] ?? -1)]);
            $nodes[] = [
                'name' => $piece->name,
                'mesh' => $i,
                'translation' => self::single($piece->position),
                'rotation' => self::single($piece->turn),
            ] + ($motion === null ? [] : self::scale(substr($motion['sizes'][0], 4 * $i, 4)));
        }
        $camera = $motion['camera'] ?? null;
        if ($camera !== null) {
            $nodes[] = [
                'name' => $camera['name'],
                'camera' => 0,
                'translation' => self::floats($camera['places'][0]),
                'rotation' => self::floats($camera['turns'][0]),
            ];
        }
        $json = [
            'asset' => ['version' => '2.0', 'generator' => 'Yard Break'],
            'scene' => 0,
            'scenes' => [['name' => 'shot', 'nodes' => array_keys($nodes)]],
            'nodes' => $nodes,
            'meshes' => $meshes,
            'materials' => $this->materials,
        ];
        if ($camera !== null) {
            $json['cameras'] = [[
                'name' => $camera['name'],
                'type' => 'perspective',
                'perspective' => ['yfov' => $camera['height'], 'aspectRatio' => $camera['aspect'], 'znear' => 0.01],
            ]];
        }
        if ($this->images !== []) {
            $json['images'] = $this->images;
            $json['samplers'] = [['magFilter' => 9729, 'minFilter' => 9987]];
            $json['textures'] = array_map(static fn (int $i): array => ['source' => $i, 'sampler' => 0], array_keys($this->images));
        }
        if ($motion !== null && count($motion['times']) > 1) {
            $animation = $this->animation($motion, $bin);
            if ($animation['channels'] !== []) {
                $json['animations'] = [$animation];
            }
        }
        $json['accessors'] = $this->accessors;
        $json['bufferViews'] = $this->views;
        $json['buffers'] = [['byteLength' => $this->offset]];
        $text = json_encode($json, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_SLASHES);
        $text .= str_repeat(' ', (4 - strlen($text) % 4) % 4);
        $out = new FileOutput($path);
        $out->put('glTF'.pack('VV', 2, 12 + 8 + strlen($text) + 8 + $this->offset));
        $out->put(pack('VV', strlen($text), 0x4E4F534A).$text);
        $out->put(pack('VV', $this->offset, 0x004E4942));
        $out->append($bin);
        $bin->discard();
        $out->close();
    }

    /** @return list<array<string, mixed>> */
    private function primitives(GlbPiece $piece, FileOutput $bin): array
    {
        $m = $piece->mesh;
        $normals = $m->normals ?? FaceNormals::flat($m);
        $out = [];
        $kinds = self::kinds($piece);
        foreach (array_unique($kinds) as $kind) {
            $pictured = str_ends_with($kind, 'picture');
            $scale = $kind === 'inner picture' ? 1.0 / $piece->inner->metres : 1.0;
            $index = $seen = $from = $corners = [];
            $positions = $shading = $places = $rims = '';
            $low = [INF, INF, INF];
            $high = [-INF, -INF, -INF];
            for ($f = 0, $n = $m->faceCount(); $f < $n; $f++) {
                if ($kinds[$f] !== $kind) {
                    continue;
                }
                for ($c = 3 * $f; $c < 3 * $f + 3; $c++) {
                    $v = $m->faces[$c];
                    $normal = self::unitNormal($normals[3 * $c], $normals[3 * $c + 1], $normals[3 * $c + 2]);
                    $place = $m->uvs === null ? '' : pack('g2', $scale * $m->uvs[2 * $c], 1.0 - $scale * $m->uvs[2 * $c + 1]);
                    $rim = $m->rim === null ? '' : pack('g', $m->rim[$c]);
                    $key = $v.$normal.$place.$rim;
                    if (! isset($seen[$key])) {
                        $seen[$key] = count($seen);
                        $from[] = $v;
                        $point = [self::float32($m->x[$v]), self::float32($m->y[$v]), self::float32($m->z[$v])];
                        $positions .= pack('g3', ...$point);
                        $shading .= $normal;
                        $places .= $place;
                        $rims .= $rim;
                        foreach ($point as $a => $value) {
                            $low[$a] = $value < $low[$a] ? $value : $low[$a];
                            $high[$a] = $value > $high[$a] ? $value : $high[$a];
                        }
                    }
                    $index[] = $seen[$key];
                    $corners[] = $c;
                }
            }
            if ($index === []) {
                continue;
            }
            $count = count($seen);
            $out[] = [
                'attributes' => [
                    'POSITION' => $this->accessor($bin, $positions, 'VEC3', 5126, $count, 34962, $low, $high),
                    'NORMAL' => $this->accessor($bin, $shading, 'VEC3', 5126, $count, 34962),
                    ...($places === '' ? [] : ['TEXCOORD_0' => $this->accessor($bin, $places, 'VEC2', 5126, $count, 34962)]),
                    ...($rims === '' ? [] : ['_RIM' => $this->accessor($bin, $rims, 'SCALAR', 5126, $count, 34962)]),
                ],
                'indices' => $this->accessor(
                    $bin,
                    $count < 65536 ? pack('v*', ...$index) : pack('V*', ...$index),
                    'SCALAR',
                    $count < 65536 ? 5123 : 5125,
                    count($index),
                    34963,
                ),
                'material' => $this->materialFor($kind, $piece, $pictured, $bin),
                ...($piece->shapes === [] ? [] : ['targets' => array_map(
                    fn (string $shape): array => $this->target($m, $normals, $shape, $from, $index, $corners, $bin),
                    $piece->shapes,
                )]),
            ];
        }

        return $out;
    }

    /**
     * What a shape adds to places and normals. A corner's normal turns as its face does, so that creases stay creases.
     *
     * @param  list<float>  $normals  three a corner of the mesh
     * @param  string  $shape  packed places of all its points
     * @param  list<int>  $from  point of the mesh each point of the primitive is
     * @param  list<int>  $index  points of the primitive, three a face
     * @param  list<int>  $corners  corner of the mesh that each of these is
     * @return array{POSITION: int, NORMAL: int} accessors
     */
    private function target(Mesh $m, array $normals, string $shape, array $from, array $index, array $corners, FileOutput $bin): array
    {
        $p = array_values(unpack('g*', $shape) ?: []);
        $by = '';
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        foreach ($from as $v) {
            $step = [self::float32($p[3 * $v] - $m->x[$v]), self::float32($p[3 * $v + 1] - $m->y[$v]), self::float32($p[3 * $v + 2] - $m->z[$v])];
            $by .= pack('g3', ...$step);
            foreach ($step as $a => $value) {
                $low[$a] = min($low[$a], $value);
                $high[$a] = max($high[$a], $value);
            }
        }
        $sums = array_fill(0, count($from), Vec3::zero());
        $own = [];
        foreach ($index as $k => $i) {
            $c = $corners[$k];
            $own[$i] = new Vec3($normals[3 * $c], $normals[3 * $c + 1], $normals[3 * $c + 2]);
            [$a, $b, $d] = array_slice($m->faces, $c - $c % 3, 3);
            $at = static fn (int $v): Vec3 => new Vec3($p[3 * $v], $p[3 * $v + 1], $p[3 * $v + 2]);
            $home = static fn (int $v): Vec3 => new Vec3($m->x[$v], $m->y[$v], $m->z[$v]);
            $was = $home($b)->minus($home($a))->cross($home($d)->minus($home($a)));
            $is = $at($b)->minus($at($a))->cross($at($d)->minus($at($a)));
            $sums[$i] = $sums[$i]->plus(
                $was->length() > 0.0
                && $is->length() > 0.0 ? Quaternion::between($was->unit(), $is->unit())->turn($own[$i]) : $own[$i]
            );
        }
        $turned = '';
        foreach ($sums as $i => $sum) {
            $turned .= pack('g3', ...($sum->length() > 0.0 ? $sum->unit()->minus($own[$i]->unit())->toArray() : [0.0, 0.0, 0.0]));
        }

        return [
            'POSITION' => $this->accessor($bin, $by, 'VEC3', 5126, count($from), null, $low, $high),
            'NORMAL' => $this->accessor($bin, $turned, 'VEC3', 5126, count($from), null),
        ];
    }

    /** @return list<float> how much of each of its shapes a piece has */
    private static function shares(GlbPiece $piece, int $shape): array
    {
        return array_map(static fn (int $k): float => $k === $shape ? 1.0 : 0.0, array_keys($piece->shapes));
    }

    /**
     * @param  array{times: list<float>, frames: list<string>, sizes: list<string>, steps: bool, camera?: array{name: string, height: float, aspect: float, places: list<string>, turns: list<string>}|null}  $motion
     * @return array{name: string, samplers: list<array<string, mixed>>, channels: list<array<string, mixed>>}
     */
    private function animation(array $motion, FileOutput $bin): array
    {
        $times = $motion['times'];
        $packed = pack('g*', ...$times);
        $single = array_values(unpack('g*', $packed) ?: []);
        $clock = $this->accessor($bin, $packed, 'SCALAR', 5126, count($times), null, [min($single)], [max($single)]);
        $samplers = $channels = [];
        foreach ($this->pieces as $i => $piece) {
            $moves = $turns = $sizes = '';
            foreach ($motion['frames'] as $k => $frame) {
                $sizes .= str_repeat(substr($motion['sizes'][$k], 4 * $i, 4), 3);
                $moves .= substr($frame, 32 * $i, 12);
                $turns .= substr($frame, 32 * $i + 16, 16);
            }
            foreach ([
                'translation' => [$moves, 12, 'VEC3'],
                'rotation' => [$turns, 16, 'VEC4'],
                'scale' => [$sizes, 12, 'VEC3'],
            ] as $path => [$data, $width, $type]) {
                if ($data === str_repeat(substr($data, 0, $width), count($times))) {
                    continue;
                }
                $channels[] = ['sampler' => count($samplers), 'target' => ['node' => $i, 'path' => $path]];
                $samplers[] = [
                    'input' => $clock,
                    'output' => $this->accessor($bin, $data, $type, 5126, count($times), null),
                    'interpolation' => $path === 'scale' && $motion['steps'] ? 'STEP' : 'LINEAR',
                ];
            }
            if (count(array_unique($piece->shaped)) > 1) {
                $channels[] = ['sampler' => count($samplers), 'target' => ['node' => $i, 'path' => 'weights']];
                $data = implode('', array_map(static fn (int $shape): string => pack('g*', ...self::shares($piece, $shape)), $piece->shaped));
                $samplers[] = [
                    'input' => $clock,
                    'output' => $this->accessor($bin, $data, 'SCALAR', 5126, count($times) * count($piece->shapes), null),
                    'interpolation' => 'LINEAR',
                ];
            }
        }

        $camera = $motion['camera'] ?? null;
        foreach ($camera === null ? [] : [
            'translation' => [implode('', $camera['places']), 12, 'VEC3'],
            'rotation' => [implode('', $camera['turns']), 16, 'VEC4'],
        ] as $path => [$data, $width, $type]) {
            if ($data !== str_repeat(substr($data, 0, $width), count($times))) {
                $channels[] = ['sampler' => count($samplers), 'target' => ['node' => count($this->pieces), 'path' => $path]];
                $samplers[] = ['input' => $clock, 'output' => $this->accessor($bin, $data, $type, 5126, count($times), null), 'interpolation' => 'LINEAR'];
            }
        }

        return ['name' => 'bake', 'samplers' => $samplers, 'channels' => $channels];
    }

    /** @return list<float> */
    private static function floats(string $packed): array
    {
        return array_values(unpack('g*', $packed) ?: []);
    }

    /** @return array{scale?: list<float>} of a node that does not start at its full size */
    private static function scale(string $packed): array
    {
        $size = (unpack('g', $packed) ?: [1 => 1.0])[1];

        return $size === 1.0 ? [] : ['scale' => [$size, $size, $size]];
    }

    /**
     * @param  list<float>|null  $low
     * @param  list<float>|null  $high
     */
    private function accessor(
        FileOutput $bin,
        string $data,
        string $type,
        int $component,
        int $count,
        ?int $target,
        ?array $low = null,
        ?array $high = null,
    ): int {
        $this->views[] = array_filter(
            ['buffer' => 0, 'byteOffset' => $this->offset, 'byteLength' => strlen($data), 'target' => $target],
            static fn (mixed $v): bool => $v !== null,
        );
        $pad = (4 - strlen($data) % 4) % 4;
        $bin->put($data.str_repeat("\0", $pad));
        $this->offset += strlen($data) + $pad;
        $accessor = ['bufferView' => count($this->views) - 1, 'componentType' => $component, 'count' => $count, 'type' => $type];
        if ($low !== null) {
            $accessor['min'] = $low;
            $accessor['max'] = $high;
        }
        $this->accessors[] = $accessor;

        return count($this->accessors) - 1;
    }

    /** @return list<string> what each face shows: `outer`, `inner`, either with a picture, or `rim 1` and on */
    private static function kinds(GlbPiece $piece): array
    {
        $m = $piece->mesh;
        $out = [];
        for ($f = 0, $n = $m->faceCount(); $f < $n; $f++) {
            $side = $m->sides[$f] ?? Mesh::OUTER;
            $out[] = match (true) {
                $side === Mesh::INNER => $piece->inner->picture !== null && $m->uvs !== null ? 'inner picture' : 'inner',
                $side >= Mesh::RIM => 'rim '.($side - Mesh::RIM + 1),
                default => $piece->outer->picture !== null && $m->uvs !== null && $m->uvs[6 * $f] > FrontProjection::NONE + 1e-6 ? 'outer picture' : 'outer',
            };
        }

        return $out;
    }

    private function materialFor(string $kind, GlbPiece $piece, bool $pictured, FileOutput $bin): int
    {
        $surface = str_starts_with($kind, 'inner') ? $piece->inner : $piece->outer;
        if ($pictured) {
            return $this->material([1.0, 1.0, 1.0], $kind, $surface->roughness, $this->texture((string) $surface->picture, $bin));
        }
        if (str_starts_with($kind, 'rim')) {
            return $this->material(
                $piece->outer->mixedWith($piece->inner, Mesh::laidOpen(Mesh::RIM - 1 + (int) substr($kind, 4))),
                $kind,
                $piece->inner->roughness,
            );
        }

        return $this->material($surface->colour, $kind, $surface->roughness);
    }

    /** @param  array{float, float, float}  $colour */
    private function material(array $colour, string $side, float $roughness, ?int $texture = null): int
    {
        $key = $side.json_encode([$colour, $roughness, $texture]);
        if (! isset($this->materialOf[$key])) {
            $this->materialOf[$key] = count($this->materials);
            $this->materials[] = [
                'name' => strtr($side, ' ', '-').'-'.(count(array_filter(
                    $this->materials,
                    static fn (array $m): bool => str_starts_with($m['name'], strtr($side, ' ', '-').'-'),
                )) + 1),
                'pbrMetallicRoughness' => [
                    'baseColorFactor' => [...$colour, 1.0],
                    'metallicFactor' => 0.0,
                    'roughnessFactor' => $roughness,
                ] + ($texture === null ? [] : ['baseColorTexture' => ['index' => $texture]]),
            ];
        }

        return $this->materialOf[$key];
    }

    private function texture(string $path, FileOutput $bin): int
    {
        if (! isset($this->textures[$path])) {
            $bytes = (string) file_get_contents($path);
            $this->views[] = ['buffer' => 0, 'byteOffset' => $this->offset, 'byteLength' => strlen($bytes)];
            $pad = (4 - strlen($bytes) % 4) % 4;
            $bin->put($bytes.str_repeat("\0", $pad));
            $this->offset += strlen($bytes) + $pad;
            $this->textures[$path] = count($this->images);
            $this->images[] = ['bufferView' => count($this->views) - 1, 'mimeType' => str_starts_with($bytes, "\x89PNG") ? 'image/png' : 'image/jpeg'];
        }

        return $this->textures[$path];
    }

    private static function unitNormal(float $x, float $y, float $z): string
    {
        $l = sqrt($x * $x + $y * $y + $z * $z);

        return $l > 0.0 ? pack('g3', $x / $l, $y / $l, $z / $l) : pack('g3', 0.0, 1.0, 0.0);
    }

    private static function float32(float $v): float
    {
        return (unpack('g', pack('g', $v)) ?: [1 => $v])[1];
    }

    /**
     * @param  array<int, float>  $values
     * @return list<float>
     */
    private static function single(array $values): array
    {
        return array_values(array_map(static fn (float $v): float => self::float32($v), $values));
    }
}
