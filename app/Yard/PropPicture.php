<?php

declare(strict_types=1);

namespace App\Yard;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Cloth\Finished;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\FineMesh;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\FrontProjection;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Stencil;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\Skin;
use YardBreak\Core\Weight\WeightCatalogue;

/**
 * All pieces of a prop in one buffer for the browser: a length (uint32), a JSON description padded to four
 * bytes, then three vertices a face — positions about the piece's centre (float32 × 3), normals with how much of the
 * inner surface shows (int16 × 4), the number of the piece (uint16), padded to four bytes, where `mapped`, its place in
 * a picture (float32 × 2), and, where `weighed`, its weight (uint8, 255 for 1). The prop unbroken has, after four bytes'
 * padding, the number of the point of its mesh (uint32); so has a prop whose
 * surface goes by weight maps (`skinned`): those of its pieces one after the other, as in a stream of the skin. Of one whose points move by
 * themselves see `finished`.
 */
final class PropPicture
{
    /**
     * @param  list<Shard>  $shards
     * @param  bool  $first  only a first look, the whole break being made
     */
    public static function encode(PropSpec $prop, array $shards, PropMaker $maker, bool $first = false): string
    {
        if (! $first && $prop->isFinished()) {
            return self::finished($prop, $shards, $maker);
        }
        if ($first || ! Skin::has($prop)) {
            return self::encoded($prop, $shards, $shards, $maker, $first);
        }
        $fine = Skin::fine($prop, $shards);
        $points = '';
        $before = 0;
        foreach ($fine as $shard) {
            $points .= pack('V*', ...array_map(static fn (int $v): int => $before + $v, $shard->mesh->faces));
            $before += $shard->mesh->vertexCount();
        }

        return self::padded(self::encoded($prop, $shards, $fine, $maker, false)).$points;
    }

    /** What a picture depends on. */
    public static function key(PropSpec $prop): string
    {
        return $prop->shardKey().(Skin::has($prop) ? '-skin' : '').($prop->isFinished() ? '-points-'.$prop->finish->key() : '');
    }

    /**
     * A prop whose points move by themselves: after the number of the point of each vertex (uint32) stands which way its face looks (int8, padded to four
     * bytes), then how its points follow from those that move: of each round, where the part of each point begins, which it is made from (uint32) and how much of
     * each (float32); which of these each point is (uint32) and by how much of the thickness it lies outside (float32); and the faces of the surface (uint32).
     *
     * @param  list<Shard>  $shards
     */
    private static function finished(PropSpec $prop, array $shards, PropMaker $maker): string
    {
        $finished = Finished::of(array_map(static fn (Shard $s): Mesh => $s->mesh, $shards), $prop->finish);
        $drawn = array_map(static fn (Shard $s, Mesh $mesh): Shard => new Shard($s->name, $mesh, $s->mass), $shards, $finished->pieces);
        $points = $looks = $rounds = '';
        $before = 0;
        foreach ($drawn as $k => $shard) {
            $points .= pack('V*', ...array_map(static fn (int $v): int => $before + $v, $shard->mesh->faces));
            $before += $shard->mesh->vertexCount();
            foreach ($finished->looks[$k] as $look) {
                $looks .= pack('c3', $look, $look, $look);
            }
        }
        foreach ($finished->rounds as $round) {
            $rounds .= pack('V*', ...$round->first).pack('V*', ...$round->from).pack('g*', ...$round->share);
        }
        $told = ['finish' => [
            'moving' => $finished->moving(),
            'rounds' => array_map(static fn (Stencil $s): array => [$s->count(), count($s->from)], $finished->rounds), 'points' => count($finished->rows), 'faces' => intdiv(count($finished->faces), 3),
            'thickness' => $prop->finish->thickness, 'smooth' => $prop->finish->smooth,
        ]];

        return self::padded(self::encoded($prop, $shards, $drawn, $maker, false, $told)).$points.self::padded($looks).$rounds
            .pack('V*', ...$finished->rows).pack('g*', ...$finished->sides).pack('V*', ...$finished->faces);
    }

    private static function padded(string $bytes): string
    {
        return $bytes.str_repeat("\0", (4 - strlen($bytes) % 4) % 4);
    }

    /**
     * @param  list<Shard>  $shards
     * @param  list<Shard>  $drawn  the same as they are drawn
     * @param  array<string, mixed>  $told  what else is said of them
     */
    private static function encoded(PropSpec $prop, array $shards, array $drawn, PropMaker $maker, bool $first, array $told = []): string
    {
        // The rim of a hole goes before what the break is steered by.
        $weight = $prop->weight();
        $rings = $maker->rings($prop, $shards);
        $positions = $normals = $pieces = $places = $weights = '';
        $mapped = array_filter($shards, static fn (Shard $s): bool => $s->mesh->uvs !== null) !== [];
        $rimmed = array_filter($shards, static fn (Shard $s): bool => $s->mesh->rim !== null) !== [];
        $list = [];
        $faces = 0;
        foreach ($drawn as $i => $s) {
            $c = $s->centre()->toArray();
            $list[] = ['name' => $s->name, 'volume' => $s->mass->volume, 'centre' => $c];
            $faces += $s->mesh->faceCount();
            self::append($s->mesh, $c, $i, $positions, $normals, $pieces);
            $places .= $mapped ? pack('g*', ...$s->mesh->uvs ?? array_fill(0, 6 * $s->mesh->faceCount(), FrontProjection::NONE)) : '';
            if ($rimmed) {
                $weights .= self::bytes($s->mesh->rim ?? array_fill(0, count($s->mesh->faces), 0.0));
            } elseif ($weight !== null) {
                $at = $weight->over($s->mesh);
                $weights .= self::bytes(array_map(static fn (int $p): float => $at[$p], $s->mesh->faces));
            }
        }
        $whole = match (true) {
            count($shards) !== 1 => null,
            // Unbroken it is the prepared mesh, and that is known.
            $prop->break === null => $maker->fitness($prop, $shards[0]->mesh)->toArray(),
            default => Fitness::of($shards[0]->mesh)->toArray(),
        };
        $head = (string) json_encode([
            'vertices' => 3 * $faces, 'pieces' => $list, 'figures' => BreakFigures::of($shards), 'fitness' => $whole, 'plans' => $prop->plans($maker->mesh(...)), 'mended' => $maker->mended($prop),
            'lengths' => self::lengths($shards),
            'rings' => $rings === null ? null : ['axis' => $rings['axis']->toArray(), 'of' => $rings['rings']],
            'mapped' => $mapped, 'weighed' => $weights !== '', 'first' => $first, 'skinned' => Skin::has($prop) && ! $first,
        ] + $told);
        $head .= str_repeat(' ', (4 - strlen($head) % 4) % 4);

        return pack('V', strlen($head)).$head.$positions.$normals.$pieces.str_repeat("\0", strlen($pieces) % 4).$places.$weights;
    }

    /** The prop unbroken, in the points that maps are asked for at. */
    public static function whole(PropSpec $prop, PropMaker $maker): string
    {
        $mesh = FineMesh::of($maker->mesh($prop));

        return self::padded(self::encode($prop, [PropMaker::asOne($mesh)], $maker, true)).pack('V*', ...$mesh->faces);
    }

    /**
     * Lengths that suit the prop by its size: of patterns, of steps and of weights.
     *
     * @param  list<Shard>  $shards
     * @return array{patterns: object, steps: object, weights: object}
     */
    private static function lengths(array $shards): array
    {
        $size = Aabb::around(...array_map(static fn (Shard $s): Mesh => $s->mesh, $shards))->size();

        return ['patterns' => (object) BreakCatalogue::lengths($size), 'steps' => (object) PrepareCatalogue::lengths($size), 'weights' => (object) WeightCatalogue::lengths($size)];
    }

    /** @param  list<float>  $shares */
    private static function bytes(array $shares): string
    {
        return pack('C*', ...array_map(static fn (float $w): int => (int) round(255.0 * $w), $shares));
    }

    /**
     * Surfaces about their pieces' centres, with no more to say of them than what is given.
     *
     * @param  list<Mesh>  $meshes  of each piece
     * @param  list<array{name: string, volume: float, centre: array{float, float, float}}>  $list
     * @param  array<string, mixed>  $told
     */
    public static function packed(array $meshes, array $list, array $told): string
    {
        $positions = $normals = $pieces = '';
        $faces = 0;
        foreach ($meshes as $i => $mesh) {
            $faces += $mesh->faceCount();
            self::append($mesh, [0.0, 0.0, 0.0], $i, $positions, $normals, $pieces);
        }
        $head = (string) json_encode(['vertices' => 3 * $faces, 'pieces' => $list, 'mapped' => false, 'weighed' => false, 'first' => false, 'skinned' => false, 'rings' => null] + $told);
        $head .= str_repeat(' ', (4 - strlen($head) % 4) % 4);

        return pack('V', strlen($head)).$head.$positions.$normals.$pieces.str_repeat("\0", strlen($pieces) % 4);
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
            $s[] = (int) (Mesh::laidOpen($m->sides[intdiv($k, 3)] ?? Mesh::OUTER) * 32767);
        }
        $positions .= pack('g*', ...$p);
        $normals .= pack('s*', ...$s);
        $pieces .= str_repeat(pack('v', $piece), count($m->faces));
    }
}
