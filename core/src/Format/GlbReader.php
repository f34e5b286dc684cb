<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Problem;

/** Binary glTF 2.0: triangle meshes of the default scene with their node transforms and places in a picture, and the first base colour. */
final class GlbReader
{
    private const COMPONENT = [5120 => ['c', 1], 5121 => ['C', 1], 5122 => ['v', 2], 5123 => ['v', 2], 5125 => ['V', 4], 5126 => ['g', 4]];

    private const WIDTH = ['SCALAR' => 1, 'VEC2' => 2, 'VEC3' => 3, 'VEC4' => 4];

    /** @var array<string, mixed> */
    private array $json;

    private string $bin = '';

    private MeshBuilder $mesh;

    /** @var list<float>|null */
    private ?array $colour = null;

    private function __construct(private readonly string $name)
    {
        $this->mesh = new MeshBuilder($name, true);
    }

    /** @param  resource  $in */
    public static function read($in, string $name): MeshFile
    {
        $self = new self($name);
        $self->open((string) stream_get_contents($in));
        $scene = $self->json['scenes'][$self->json['scene'] ?? 0]['nodes'] ?? array_keys($self->json['nodes'] ?? []);
        foreach ($scene as $node) {
            $self->node((int) $node, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], 0);
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
        for ($at = 12; $at + 8 <= $length;) {
            $chunk = unpack('Vsize/Vkind', $data, $at) ?: [];
            if ($at + 8 + $chunk['size'] > $length) {
                throw $this->bad('is cut off', 'Export it again.');
            }
            if ($chunk['kind'] === 0x4E4F534A) {
                $json = json_decode(substr($data, $at + 8, $chunk['size']), true, 64);
                if (! is_array($json)) {
                    throw $this->bad('has an unreadable description', 'Export it again.');
                }
                $this->json = $json;
            } elseif ($chunk['kind'] === 0x004E4942) {
                $this->bin = substr($data, $at + 8, $chunk['size']);
            }
            $at += 8 + $chunk['size'];
        }
        if (! isset($this->json)) {
            throw $this->bad('has no description', 'Export it again.');
        }
    }

    /** @param  list<float|int>  $parent column-major */
    private function node(int $index, array $parent, int $depth): void
    {
        $node = $this->json['nodes'][$index] ?? null;
        if (! is_array($node) || $depth > 64) {
            throw $this->bad('has a broken tree of nodes', 'Export it again.');
        }
        $own = $node['matrix'] ?? self::matrix($node['translation'] ?? [0, 0, 0], $node['rotation'] ?? [0, 0, 0, 1], $node['scale'] ?? [1, 1, 1]);
        $m = [];
        for ($c = 0; $c < 4; $c++) {
            for ($r = 0; $r < 4; $r++) {
                $m[] = $parent[$r] * $own[4 * $c] + $parent[4 + $r] * $own[4 * $c + 1] + $parent[8 + $r] * $own[4 * $c + 2] + $parent[12 + $r] * $own[4 * $c + 3];
            }
        }
        if (isset($node['mesh'])) {
            $this->mesh->group((string) ($node['name'] ?? $this->json['meshes'][$node['mesh']]['name'] ?? 'mesh'));
            foreach ($this->json['meshes'][$node['mesh']]['primitives'] ?? [] as $primitive) {
                $this->primitive($primitive, $m);
            }
        }
        foreach ($node['children'] ?? [] as $child) {
            $this->node((int) $child, $m, $depth + 1);
        }
    }

    /**
     * @param  array<string, mixed>  $p
     * @param  list<float>  $m
     */
    private function primitive(array $p, array $m): void
    {
        $mode = $p['mode'] ?? 4;
        if ($mode < 4 || ! isset($p['attributes']['POSITION'])) {
            return;
        }
        if (isset($p['extensions']['KHR_draco_mesh_compression'])) {
            throw $this->bad('is compressed in a way that is not read here', 'Export it without mesh compression.');
        }
        $flip = $m[0] * ($m[5] * $m[10] - $m[6] * $m[9]) - $m[4] * ($m[1] * $m[10] - $m[2] * $m[9]) + $m[8] * ($m[1] * $m[6] - $m[2] * $m[5]) < 0;
        $positions = $this->values((int) $p['attributes']['POSITION']);
        $ids = [];
        for ($i = 0, $n = count($positions); $i + 2 < $n; $i += 3) {
            [$x, $y, $z] = [$positions[$i], $positions[$i + 1], $positions[$i + 2]];
            $ids[] = $this->mesh->vertex($m[0] * $x + $m[4] * $y + $m[8] * $z + $m[12], $m[1] * $x + $m[5] * $y + $m[9] * $z + $m[13], $m[2] * $x + $m[6] * $y + $m[10] * $z + $m[14]);
        }
        $places = isset($p['attributes']['TEXCOORD_0']) ? $this->values((int) $p['attributes']['TEXCOORD_0']) : null;
        $order = isset($p['indices']) ? $this->values((int) $p['indices']) : array_keys($ids);
        $n = count($order);
        for ($i = 0; $i + 2 < $n; $i += $mode === 4 ? 3 : 1) {
            [$a, $b, $c] = $mode === 6 ? [$order[0], $order[$i + 1], $order[$i + 2]] : [$order[$i], $order[$i + 1], $order[$i + 2]];
            if (($mode === 5 && $i % 2 === 1) !== $flip) {
                [$b, $c] = [$c, $b];
            }
            // glTF counts v downwards.
            $uvs = $places === null ? null : array_map(static fn (int $k): array => [(float) ($places[2 * $k] ?? 0), 1.0 - (float) ($places[2 * $k + 1] ?? 0)], [(int) $a, (int) $b, (int) $c]);
            $this->mesh->polygon([$ids[$a] ?? -1, $ids[$b] ?? -1, $ids[$c] ?? -1], null, $uvs);
        }
        $this->colour ??= isset($p['material']) ? array_slice($this->json['materials'][$p['material']]['pbrMetallicRoughness']['baseColorFactor'] ?? [1, 1, 1], 0, 3) : null;
    }

    /** @return list<float|int> */
    private function values(int $accessor): array
    {
        $a = $this->json['accessors'][$accessor] ?? null;
        $view = is_array($a) ? $this->json['bufferViews'][$a['bufferView'] ?? -1] ?? null : null;
        if (! is_array($a) || ! is_array($view) || ($view['buffer'] ?? 0) !== 0 || isset($a['sparse'])) {
            throw $this->bad('keeps its data outside the file or in a way that is not read here', 'Export it as one self-contained GLB.');
        }
        [$code, $size] = self::COMPONENT[$a['componentType']] ?? throw $this->bad('has an unknown number type', 'Export it again.');
        $width = self::WIDTH[$a['type']] ?? 1;
        $stride = $view['byteStride'] ?? $size * $width;
        $at = ($view['byteOffset'] ?? 0) + ($a['byteOffset'] ?? 0);
        $count = (int) $a['count'];
        if ($count > MeshBuilder::MOST_VERTICES * 3 || $count > 0 && $at + ($count - 1) * $stride + $size * $width > strlen($this->bin)) {
            throw $this->bad('names data beyond its end', 'The file is cut off; export it again.');
        }
        $out = [];
        $normalised = ($a['normalized'] ?? false) ? [5120 => 127, 5121 => 255, 5122 => 32767, 5123 => 65535][$a['componentType']] ?? 1 : 0;
        for ($i = 0; $i < $count; $i++, $at += $stride) {
            foreach (unpack($code.$width, $this->bin, $at) ?: [] as $v) {
                if ($a['componentType'] === 5122 && $v > 32767) {
                    $v -= 65536;
                }
                $out[] = $normalised ? max(-1.0, $v / $normalised) : $v;
            }
        }

        return $out;
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

    private function bad(string $what, string $remedy): Problem
    {
        return Problem::inFile($this->name.' '.$what.'.', $remedy);
    }
}
