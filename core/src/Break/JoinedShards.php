<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\TouchingEdges;
use YardBreak\Core\Geometry\UsedPoints;

/** Shards put back together: walls they share, face by face, are taken out; everything else stays as it is. */
final class JoinedShards
{
    /**
     * @param  non-empty-list<Shard>  $shards
     * @return Shard with the name of the first
     */
    public static function of(array $shards): Shard
    {
        $x = $y = $z = $known = $corners = $normals = $sides = $uvs = $rim = $open = [];
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
                $sides[] = $m->sides[$f] ?? 0;
                $uvs[] = array_slice($m->uvs ?? [], 6 * $f, 6);
                $rim[] = $m->rim === null ? [0.0, 0.0, 0.0] : array_slice($m->rim, 3 * $f, 3);
            }
        }
        $faces = $outNormals = $outSides = $outUvs = $outRim = [];
        foreach ($corners as $k => [$a, $b, $c]) {
            array_push($faces, $a, $b, $c);
            array_push($outNormals, ...$normals[$k]);
            $outSides[] = $sides[$k];
            array_push($outUvs, ...$uvs[$k]);
            array_push($outRim, ...$rim[$k]);
        }
        [$faces, $x, $y, $z] = UsedPoints::of($faces, $x, $y, $z);
        try {
            $mesh = TouchingEdges::parted(new Mesh(
                $x,
                $y,
                $z,
                $faces,
                $outNormals === [] ? null : $outNormals,
                $outSides,
                count($outUvs) === 2 * count($faces) ? $outUvs : null,
                array_filter($outRim) === [] ? null : $outRim,
            ));
        } catch (\UnexpectedValueException) {
            // One of two neighbours was cut further, so their walls do not match: both stay, back to back.
            $mesh = Mesh::merged(...array_map(static fn (Shard $s): Mesh => $s->mesh, $shards));

            return new Shard($shards[0]->name, $mesh, MassProperties::of($mesh));
        }

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
}
