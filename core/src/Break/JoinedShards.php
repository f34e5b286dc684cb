<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\TouchingEdges;

/** Shards put back together: walls they share, face by face, are taken out; everything else stays as it is. */
final class JoinedShards
{
    /**
     * @param  non-empty-list<Shard>  $shards
     * @return Shard with the name of the first
     */
    public static function of(array $shards): Shard
    {
        $x = $y = $z = $known = $corners = $normals = $interior = $uvs = $open = [];
        foreach ($shards as $shard) {
            $m = $shard->mesh;
            $own = [];
            foreach ($m->x as $v => $px) {
                // Neighbours have the very same coordinates where they meet.
                $key = pack('d3', $px, $m->y[$v], $m->z[$v]);
                if (! isset($known[$key])) {
                    $known[$key] = count($x);
                    $x[] = $px;
                    $y[] = $m->y[$v];
                    $z[] = $m->z[$v];
                }
                $own[] = $known[$key];
            }
            foreach (array_chunk($m->faces, 3) as $f => [$a, $b, $c]) {
                [$a, $b, $c] = [$own[$a], $own[$b], $own[$c]];
                $reverse = self::key($a, $c, $b);
                if (isset($open[$reverse])) {
                    unset($corners[$open[$reverse]], $open[$reverse]);

                    continue;
                }
                $k = count($normals);
                $open[self::key($a, $b, $c)] = $k;
                $corners[$k] = [$a, $b, $c];
                $normals[] = array_slice($m->normals ?? [], 9 * $f, 9);
                $interior[] = $m->interior[$f] ?? 0;
                $uvs[] = array_slice($m->uvs ?? [], 6 * $f, 6);
            }
        }
        $faces = $outNormals = $outInterior = $outUvs = [];
        foreach ($corners as $k => [$a, $b, $c]) {
            array_push($faces, $a, $b, $c);
            array_push($outNormals, ...$normals[$k]);
            $outInterior[] = $interior[$k];
            array_push($outUvs, ...$uvs[$k]);
        }
        try {
            [$faces, $x, $y, $z] = TouchingEdges::parted($faces, $x, $y, $z);
        } catch (\UnexpectedValueException) {
            // One of two neighbours was cut further, so their walls do not match: both stay, back to back.
            $mesh = Mesh::merged(...array_map(static fn (Shard $s): Mesh => $s->mesh, $shards));

            return new Shard($shards[0]->name, $mesh, MassProperties::of($mesh));
        }
        [$faces, $x, $y, $z] = self::used($faces, $x, $y, $z);
        $mesh = new Mesh($x, $y, $z, $faces, $outNormals === [] ? null : $outNormals, $outInterior, count($outUvs) === 2 * count($faces) ? $outUvs : null);

        return new Shard($shards[0]->name, $mesh, MassProperties::of($mesh));
    }

    private static function key(int $a, int $b, int $c): string
    {
        $least = min($a, $b, $c);
        while ($a !== $least) {
            [$a, $b, $c] = [$b, $c, $a];
        }

        return pack('V3', $a, $b, $c);
    }

    /**
     * @param  list<int>  $faces
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<int>, list<float>, list<float>, list<float>} without points no face has
     */
    private static function used(array $faces, array $x, array $y, array $z): array
    {
        $new = $nx = $ny = $nz = [];
        foreach ($faces as $i => $p) {
            if (! isset($new[$p])) {
                $new[$p] = count($nx);
                $nx[] = $x[$p];
                $ny[] = $y[$p];
                $nz[] = $z[$p];
            }
            $faces[$i] = $new[$p];
        }

        return [$faces, $nx, $ny, $nz];
    }
}
