<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

use YardBreak\Core\Break\JoinedShards;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;

/**
 * Pieces thinner than anything is meant to be: where a cut runs along a face of the solid, shifted a little so that it
 * meets no edge, it leaves films behind. They go to the neighbour they share most with.
 */
final class Ghosts
{
    /** Twice volume over area of a piece that is none, as a share of the solid's longest side. */
    private const THINNEST = 1e-6;

    /** Nothing of more than this share of a cube round the solid can be so thin. */
    private const BULKY = 1e-5;

    /**
     * @param  list<Shard>  $shards
     * @param  float  $scale  the solid's longest side
     * @return list<Shard>
     */
    public static function joined(array $shards, float $scale): array
    {
        $ghosts = array_keys(array_filter($shards, static fn (Shard $s): bool => self::isGhost($s, $scale)));
        usort($ghosts, static fn (int $a, int $b): int => $shards[$a]->mass->volume <=> $shards[$b]->mass->volume);
        $gone = [];
        while ($ghosts !== []) {
            $ghost = array_shift($ghosts);
            $to = self::neighbour($ghost, $shards, $gone, $scale);
            if ($to === null) {
                continue;
            }
            $shards[$to] = JoinedShards::of([$shards[$to], $shards[$ghost]]);
            $gone[$ghost] = true;
        }

        return array_values(array_diff_key($shards, $gone));
    }

    public static function isGhost(Shard $shard, float $scale): bool
    {
        return $shard->mass->volume < self::BULKY * $scale ** 3 && $shard->thickness() < self::THINNEST * $scale;
    }

    /**
     * @param  list<Shard>  $shards
     * @param  array<int, true>  $gone
     * @return int|null the shard that shares most wall with this one
     */
    private static function neighbour(int $ghost, array $shards, array $gone, float $scale): ?int
    {
        $mesh = $shards[$ghost]->mesh;
        $areas = FaceNormals::areas($mesh);
        $walls = [];
        foreach (self::faces($mesh) as $f => $corners) {
            $walls[self::key($mesh, $corners)] = $areas[$f];
        }
        $box = Aabb::around($mesh);
        $best = null;
        $most = 0.0;
        foreach ($shards as $k => $other) {
            if ($k === $ghost || isset($gone[$k]) || ! self::near($box, Aabb::around($other->mesh), 1e-9 * $scale)) {
                continue;
            }
            $shared = 0.0;
            foreach (self::faces($other->mesh) as $corners) {
                $shared += $walls[self::key($other->mesh, $corners)] ?? 0.0;
            }
            if ($shared > $most) {
                $most = $shared;
                $best = $k;
            }
        }

        return $best;
    }

    private static function near(Aabb $a, Aabb $b, float $by): bool
    {
        return $a->low->x <= $b->high->x + $by && $b->low->x <= $a->high->x + $by
            && $a->low->y <= $b->high->y + $by && $b->low->y <= $a->high->y + $by
            && $a->low->z <= $b->high->z + $by && $b->low->z <= $a->high->z + $by;
    }

    /** @return iterable<int, array{int, int, int}> */
    private static function faces(Mesh $m): iterable
    {
        for ($f = 0, $n = $m->faceCount(); $f < $n; $f++) {
            yield $f => [$m->faces[3 * $f], $m->faces[3 * $f + 1], $m->faces[3 * $f + 2]];
        }
    }

    /**
     * The places of a face's corners, whichever way it faces: neighbours have the very same ones.
     *
     * @param  array{int, int, int}  $corners
     */
    private static function key(Mesh $m, array $corners): string
    {
        $places = array_map(static fn (int $p): string => pack('d3', $m->x[$p], $m->y[$p], $m->z[$p]), $corners);
        sort($places);

        return implode('', $places);
    }
}
