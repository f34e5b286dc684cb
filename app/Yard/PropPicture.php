<?php

declare(strict_types=1);

namespace App\Yard;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Check\Fitness;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\FrontProjection;
use YardBreak\Core\Geometry\Mesh;

/**
 * All pieces of a prop in one buffer for the browser: a length (uint32), a JSON description padded to four
 * bytes, then three vertices a face — positions about the piece's centre (float32 × 3), normals with the
 * interior mark (int16 × 4), the number of the piece (uint16), padded to four bytes, and, where `mapped`, its place in a
 * picture (float32 × 2).
 */
final class PropPicture
{
    /**
     * @param  list<Shard>  $shards
     * @param  array{u: list<float>, v: list<float>, w: list<float>}|null  $plan  directions of the plan its pattern is drawn on
     */
    public static function encode(array $shards, ?array $plan = null): string
    {
        $positions = $normals = $pieces = $places = '';
        $mapped = array_filter($shards, static fn (Shard $s): bool => $s->mesh->uvs !== null) !== [];
        $list = [];
        $faces = 0;
        foreach ($shards as $i => $s) {
            $c = $s->mass->volume > 0.0 ? $s->mass->centroid->toArray() : [0.0, 0.0, 0.0];
            $list[] = ['name' => $s->name, 'volume' => $s->mass->volume, 'centre' => $c];
            $faces += $s->mesh->faceCount();
            self::append($s->mesh, $c, $i, $positions, $normals, $pieces);
            $places .= $mapped ? pack('g*', ...$s->mesh->uvs ?? array_fill(0, 6 * $s->mesh->faceCount(), FrontProjection::NONE)) : '';
        }
        $whole = count($shards) === 1 ? Fitness::of($shards[0]->mesh)->toArray() : null;
        $head = (string) json_encode(['vertices' => 3 * $faces, 'pieces' => $list, 'figures' => BreakFigures::of($shards), 'fitness' => $whole, 'plan' => $plan, 'mapped' => $mapped]);
        $head .= str_repeat(' ', (4 - strlen($head) % 4) % 4);

        return pack('V', strlen($head)).$head.$positions.$normals.$pieces.str_repeat("\0", strlen($pieces) % 4).$places;
    }

    /** @param  array<int, float>  $c */
    private static function append(Mesh $m, array $c, int $piece, string &$positions, string &$normals, string &$pieces): void
    {
        [$cx, $cy, $cz] = [$c[0], $c[1], $c[2]];
        $n = $m->normals ?? FaceNormals::flat($m);
        $p = $s = [];
        foreach ($m->faces as $k => $v) {
            $p[] = $m->x[$v] - $cx;
            $p[] = $m->y[$v] - $cy;
            $p[] = $m->z[$v] - $cz;
            $s[] = (int) ($n[3 * $k] * 32767);
            $s[] = (int) ($n[3 * $k + 1] * 32767);
            $s[] = (int) ($n[3 * $k + 2] * 32767);
            $s[] = ($m->sides[intdiv($k, 3)] ?? 0) * 32767;
        }
        $positions .= pack('g*', ...$p);
        $normals .= pack('s*', ...$s);
        $pieces .= str_repeat(pack('v', $piece), count($m->faces));
    }
}
