<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Problem;

/** Shards as one binary text: coordinates in full precision, shading normals, places in a picture and rims as float32. */
final class ShardFile
{
    private const MAGIC = 'YBSHARD3';

    /** @param  list<Shard>  $shards */
    public static function encode(array $shards): string
    {
        $out = self::MAGIC.pack('V', count($shards));
        foreach ($shards as $s) {
            $m = $s->mesh;
            $out .= pack(
                'vV3',
                strlen($s->name),
                count($m->x),
                $m->faceCount(),
                ($m->normals === null ? 0 : 1) + ($m->uvs === null ? 0 : 2) + ($m->rim === null ? 0 : 4),
            ).$s->name;
            $out .= pack('e*', ...$m->x).pack('e*', ...$m->y).pack('e*', ...$m->z).pack('V*', ...$m->faces);
            $out .= pack('C*', ...($m->sides ?? array_fill(0, $m->faceCount(), 0)));
            if ($m->normals !== null) {
                $out .= pack('g*', ...$m->normals);
            }
            if ($m->uvs !== null) {
                $out .= pack('g*', ...$m->uvs);
            }
            if ($m->rim !== null) {
                $out .= pack('g*', ...$m->rim);
            }
        }

        return $out;
    }

    /**
     * @return list<Shard>
     *
     * @throws Problem where the text is damaged
     */
    public static function decode(string $bytes): array
    {
        if (! str_starts_with($bytes, self::MAGIC)) {
            throw Problem::damaged('A stored break is damaged.');
        }
        $at = 12;
        $shards = [];
        for ($left = (int) (unpack('V', $bytes, 8) ?: [1 => 0])[1]; $left > 0; $left--) {
            [
                'name' => $length,
                'points' => $points,
                'faces' => $faces,
                'carries' => $carries,
            ] = unpack('vname/Vpoints/Vfaces/Vcarries', $bytes, $at) ?: throw Problem::damaged('A stored break is cut off.');
            $at += 14;
            $name = substr($bytes, $at, $length);
            $at += $length;
            $take = static function (string $code, int $count, int $size) use ($bytes, &$at): array {
                $values = $count === 0 ? [] : array_values(unpack($code.$count, $bytes, $at) ?: []);
                $at += $count * $size;

                return $values;
            };
            $mesh = new Mesh(
                $take('e', $points, 8),
                $take('e', $points, 8),
                $take('e', $points, 8),
                $take('V', 3 * $faces, 4),
                sides: $take('C', $faces, 1),
                normals: ($carries & 1) === 1 ? $take('g', 9 * $faces, 4) : null,
                uvs: ($carries & 2) === 2 ? $take('g', 6 * $faces, 4) : null,
                rim: ($carries & 4) === 4 ? $take('g', 3 * $faces, 4) : null,
            );
            $shards[] = new Shard($name, $mesh, MassProperties::of($mesh));
        }

        return $shards;
    }
}
