<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Problem;

/** Binary glTF 2.0 (Khronos 2021): triangle meshes of the default scene with their node transforms and places in a picture, and the first base colour. */
final class GlbReader
{
    private const COMPONENT = [5120 => ['c', 1], 5121 => ['C', 1], 5122 => ['v', 2], 5123 => ['v', 2], 5125 => ['V', 4], 5126 => ['g', 4]];

    private const WIDTH = ['SCALAR' => 1, 'VEC2' => 2, 'VEC3' => 3, 'VEC4' => 4];

    private const IDENTITY = [1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0];

    /** What a file may require: nothing that keeps the shape in another way. */
    private const UNDERSTOOD = '/^(KHR_materials_\w+|KHR_texture_\w+|EXT_texture_\w+|KHR_lights_punctual|KHR_mesh_quantization|KHR_node_visibility|KHR_xmp_json_ld)$/';

    /** Nodes visited; those that several others hold count for each. */
    private const MOST_NODES = 20_000;

    /** Numbers read, all meshes of all nodes together. */
    private const MOST_NUMBERS = 6 * MeshBuilder::MOST_VERTICES;

    /** Of these, where most are the same ones read again: a small file must not stand for a large mesh. */
    private const MOST_REPEATED = 1_000_000;

    private const DEEPEST = 64;

    /** @var array<mixed> */
    private array $json = [];

    private string $bin = '';

    private MeshBuilder $mesh;

    /** @var list<float>|null */
    private ?array $colour = null;

    private int $nodes = 0;

    private int $numbers = 0;

    private function __construct(private readonly string $name)
    {
        $this->mesh = new MeshBuilder($name, true);
    }

    /** @param  resource  $in */
    public static function read($in, string $name): MeshFile
    {
        $self = new self($name);
        $self->open((string) stream_get_contents($in));
        $self->judge();
        $nodes = self::list($self->json['nodes'] ?? null);
        $scenes = self::list($self->json['scenes'] ?? null);
        $roots = $scenes === [] ? array_keys($nodes) : self::list($self->item('scenes', $self->json['scene'] ?? 0)['nodes'] ?? null);
        foreach ($roots as $node) {
            $self->node($node, self::IDENTITY, 0);
        }

        return $self->mesh->file($self->colour);
    }

    private function open(string $data): void
    {
        $length = strlen($data);
        if ($length < 20 || ! str_starts_with($data, 'glTF')) {
            throw $this->bad('does not begin like a GLB file', 'Check that the ending matches the content.');
        }
        $head = unpack('Vversion/Vlength', $data, 4) ?: [];
        if ($head['version'] !== 2) {
            throw $this->bad('is of glTF version '.$head['version'], 'Export it as glTF 2.0.');
        }
        if ($head['length'] > $length) {
            throw $this->bad('is cut off', 'Export it again.');
        }
        $told = false;
        for ($at = 12; $at + 8 <= $length;) {
            $chunk = unpack('Vsize/Vkind', $data, $at) ?: [];
            if ($at + 8 + $chunk['size'] > $length) {
                throw $this->bad('is cut off', 'Export it again.');
            }
            if ($chunk['kind'] === 0x4E4F534A && ! $told) {
                $json = json_decode(substr($data, $at + 8, $chunk['size']), true, self::DEEPEST, JSON_INVALID_UTF8_SUBSTITUTE);
                if (! is_array($json)) {
                    throw $this->bad('has an unreadable description', 'Export it again.');
                }
                $this->json = $json;
                $told = true;
            } elseif ($chunk['kind'] === 0x004E4942 && $this->bin === '') {
                $this->bin = substr($data, $at + 8, $chunk['size']);
            }
            $at += 8 + $chunk['size'];
        }
        if (! $told) {
            throw $this->bad('has no description', 'Export it again.');
        }
    }

    /** Refuses what would be read wrongly. */
    private function judge(): void
    {
        foreach (self::list($this->json['extensionsRequired'] ?? null) as $extension) {
            if (! is_string($extension) || preg_match(self::UNDERSTOOD, $extension) !== 1) {
                throw $this->bad(
                    'needs "'.mb_substr(is_string($extension) ? $extension : '?', 0, 40).'", which is not read here',
                    'Export it without compression and extensions.',
                );
            }
        }
        $buffer = self::list($this->json['buffers'] ?? null)[0] ?? null;
        if (is_array($buffer) && isset($buffer['uri'])) {
            throw $this->outside();
        }
    }

    /** @param  list<float>  $parent column-major */
    private function node(mixed $index, array $parent, int $depth): void
    {
        if ($depth > self::DEEPEST || ++$this->nodes > self::MOST_NODES) {
            throw $this->bad('has a tree of nodes that is too deep or too large', 'Join its parts, then export it again.');
        }
        $node = $this->item('nodes', $index);
        $own = isset($node['matrix'])
            ? $this->several($node['matrix'], 16, 'matrix')
            : self::matrix(
                $this->several($node['translation'] ?? [0, 0, 0], 3, 'translation'),
                $this->several($node['rotation'] ?? [0, 0, 0, 1], 4, 'rotation'),
                $this->several($node['scale'] ?? [1, 1, 1], 3, 'scale'),
            );
        $m = [];
        for ($c = 0; $c < 4; $c++) {
            for ($r = 0; $r < 4; $r++) {
                $m[] = $parent[$r] * $own[4 * $c] + $parent[4 + $r] * $own[4 * $c + 1] + $parent[8 + $r] * $own[4 * $c + 2] + $parent[12 + $r] * $own[4 * $c + 3];
            }
        }
        if (isset($node['mesh'])) {
            $mesh = $this->item('meshes', $node['mesh']);
            $name = $node['name'] ?? $mesh['name'] ?? null;
            $this->mesh->named(NamedFaces::Group, is_string($name) ? mb_substr($name, 0, 200) : 'mesh');
            foreach (self::list($mesh['primitives'] ?? null) as $primitive) {
                $this->primitive(is_array($primitive) ? $primitive : [], $m);
            }
        }
        foreach (self::list($node['children'] ?? null) as $child) {
            $this->node($child, $m, $depth + 1);
        }
    }

    /**
     * @param  array<mixed>  $p
     * @param  list<float>  $m
     */
    private function primitive(array $p, array $m): void
    {
        $mode = $p['mode'] ?? 4;
        $attributes = is_array($p['attributes'] ?? null) ? $p['attributes'] : [];
        if (! in_array($mode, [4, 5, 6], true) || ! isset($attributes['POSITION'])) {
            return;
        }
        if (isset($p['extensions']['KHR_draco_mesh_compression'])) {
            throw $this->bad('is compressed in a way that is not read here', 'Export it without mesh compression.');
        }
        $flip = $m[0] * ($m[5] * $m[10] - $m[6] * $m[9]) - $m[4] * ($m[1] * $m[10] - $m[2] * $m[9]) + $m[8] * ($m[1] * $m[6] - $m[2] * $m[5]) < 0;
        $positions = $this->values($attributes['POSITION'], 3);
        $ids = [];
        for ($i = 0, $n = count($positions); $i < $n; $i += 3) {
            [$x, $y, $z] = [$positions[$i], $positions[$i + 1], $positions[$i + 2]];
            $ids[] = $this->mesh->vertex(
                $m[0] * $x + $m[4] * $y + $m[8] * $z + $m[12],
                $m[1] * $x + $m[5] * $y + $m[9] * $z + $m[13],
                $m[2] * $x + $m[6] * $y + $m[10] * $z + $m[14],
            );
        }
        $material = isset($p['material']) ? $this->item('materials', $p['material']) : null;
        $this->mesh->named(
            NamedFaces::Material,
            $material === null
                ? ''
                : (
                    is_string($material['name'] ?? null)
                    && $material['name'] !== '' ? mb_substr($material['name'], 0, 200) : 'material '.((int) $p['material'] + 1)
                ),
        );
        $places = isset($attributes['TEXCOORD_0']) ? $this->values($attributes['TEXCOORD_0'], 2) : null;
        $order = isset($p['indices']) ? $this->values($p['indices'], 1) : array_keys($ids);
        $n = count($order);
        for ($i = 0; $i + 2 < $n; $i += $mode === 4 ? 3 : 1) {
            [$a, $b, $c] = $mode === 6 ? [$order[0], $order[$i + 1], $order[$i + 2]] : [$order[$i], $order[$i + 1], $order[$i + 2]];
            if (($mode === 5 && $i % 2 === 1) !== $flip) {
                [$b, $c] = [$c, $b];
            }
            $corners = [(int) $a, (int) $b, (int) $c];
            // glTF counts v downwards.
            $uvs = $places === null
                ? null
                : array_map(static fn (int $k): array => [self::finite($places[2 * $k] ?? 0), 1.0 - self::finite($places[2 * $k + 1] ?? 0)], $corners);
            $this->mesh->polygon(array_map(static fn (int $k): int => $ids[$k] ?? -1, $corners), null, $uvs);
        }
        if ($this->colour === null && $material !== null) {
            $this->colour = array_slice($this->several($material['pbrMetallicRoughness']['baseColorFactor'] ?? [1, 1, 1, 1], 4, 'base colour'), 0, 3);
        }
    }

    /**
     * The numbers of an accessor.
     *
     * @param  int  $width  how many belong together
     * @return list<float|int>
     */
    private function values(mixed $accessor, int $width): array
    {
        $a = $this->item('accessors', $accessor);
        if (! isset($a['bufferView']) || isset($a['sparse'])) {
            throw $this->outside();
        }
        $view = $this->item('bufferViews', $a['bufferView']);
        if (($view['buffer'] ?? 0) !== 0) {
            throw $this->outside();
        }
        $type = $a['componentType'] ?? null;
        [$code, $size] = self::COMPONENT[is_int($type) ? $type : 0] ?? throw $this->bad('has an unknown number type', 'Export it again.');
        if ($width === 1 && ! in_array($type, [5121, 5123, 5125], true) || (self::WIDTH[is_string($a['type'] ?? null) ? $a['type'] : ''] ?? 0) !== $width) {
            throw $this->bad('has points or corners of the wrong kind', 'Export it again.');
        }
        $most = strlen($this->bin);
        $stride = isset($view['byteStride']) ? $this->whole($view['byteStride'], $size * $width, 252) : $size * $width;
        $at = $this->whole($view['byteOffset'] ?? 0, 0, $most) + $this->whole($a['byteOffset'] ?? 0, 0, $most);
        $count = $this->whole($a['count'] ?? 0, 0, $most);
        if ($count > 0 && $at + ($count - 1) * $stride + $size * $width > $most) {
            throw $this->beyond();
        }
        $this->numbers += $count * $width;
        if ($this->numbers > min(self::MOST_NUMBERS, max(self::MOST_REPEATED, $most))) {
            throw $this->bad('holds more than can be read', 'Reduce the mesh before bringing it in.');
        }
        $out = [];
        $normalised = ($a['normalized'] ?? false) ? [5120 => 127, 5121 => 255, 5122 => 32767, 5123 => 65535][$type] ?? 1 : 0;
        for ($i = 0; $i < $count; $i++, $at += $stride) {
            foreach (unpack($code.$width, $this->bin, $at) ?: [] as $v) {
                if ($type === 5122 && $v > 32767) {
                    $v -= 65536;
                }
                $out[] = $normalised ? max(-1.0, $v / $normalised) : $v;
            }
        }

        return $out;
    }

    /** @return array<mixed> an object of one of the description's lists */
    private function item(string $list, mixed $index): array
    {
        $item = is_int($index) ? self::list($this->json[$list] ?? null)[$index] ?? null : null;

        return is_array($item) ? $item : throw $this->bad('names something among its '.$list.' that is not there', 'Export it again.');
    }

    /** @return list<mixed> */
    private static function list(mixed $value): array
    {
        return is_array($value) && array_is_list($value) ? $value : [];
    }

    /** @return list<float> */
    private function several(mixed $value, int $count, string $what): array
    {
        $list = self::list($value);
        $out = [];
        foreach ($list as $v) {
            if (! is_int($v) && ! is_float($v) || ! is_finite((float) $v)) {
                $out = [];
                break;
            }
            $out[] = (float) $v;
        }
        if (count($out) !== $count) {
            throw $this->bad('has a '.$what.' that is not '.$count.' numbers', 'Export it again.');
        }

        return $out;
    }

    private function whole(mixed $value, int $least, int $most): int
    {
        if (! is_int($value) || $value < $least || $value > $most) {
            throw $this->beyond();
        }

        return $value;
    }

    private static function finite(float|int $value): float
    {
        return is_finite((float) $value) ? (float) $value : 0.0;
    }

    /**
     * @param  list<float>  $t
     * @param  list<float>  $q
     * @param  list<float>  $s
     * @return list<float>
     */
    private static function matrix(array $t, array $q, array $s): array
    {
        [$x, $y, $z, $w] = $q;

        return [
            (1 - 2 * ($y * $y + $z * $z)) * $s[0], 2 * ($x * $y + $z * $w) * $s[0], 2 * ($x * $z - $y * $w) * $s[0], 0.0,
            2 * ($x * $y - $z * $w) * $s[1], (1 - 2 * ($x * $x + $z * $z)) * $s[1], 2 * ($y * $z + $x * $w) * $s[1], 0.0,
            2 * ($x * $z + $y * $w) * $s[2], 2 * ($y * $z - $x * $w) * $s[2], (1 - 2 * ($x * $x + $y * $y)) * $s[2], 0.0,
            $t[0], $t[1], $t[2], 1.0,
        ];
    }

    private function outside(): Problem
    {
        return $this->bad('keeps its data outside the file or in a way that is not read here', 'Export it as one self-contained GLB.');
    }

    private function beyond(): Problem
    {
        return $this->bad('names data beyond its end', 'The file is cut off; export it again.');
    }

    private function bad(string $what, string $remedy): Problem
    {
        return Problem::inFile($this->name.' '.$what.'.', $remedy);
    }
}
