<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;

/** The figures a break is judged by. */
final class BreakFigures
{
    /** Thickness of a film, as a share of the side of a cube as bulky as a piece is on the mean. */
    private const FILM = 2e-4;

    /** A piece is a sliver where its longest extent exceeds this many times the cube root of its volume. */
    private const SLIVER = 8.0;

    /** A piece is a giant where it is this many times the median, and this share of all. */
    private const GIANT = 10.0;

    private const GIANT_SHARE = 0.25;

    /** More triangles than this in one piece slow a bake down. */
    private const HEAVY = 4000;

    /**
     * @param  list<Shard>  $shards
     * @return array{pieces: int, volume: float, smallest: float, median: float, largest: float, largest_to_median: float, watertight: int, slivers: list<int>, giants: list<int>, heavy: list<int>, evenness: float, thinnest: float, interior_area: float, triangles: int}
     */
    public static function of(array $shards): array
    {
        $volumes = [];
        $slivers = $heavy = [];
        $thinnest = INF;
        $tight = $triangles = 0;
        $inner = 0.0;
        foreach ($shards as $i => $s) {
            $volumes[] = $s->mass->volume;
            $triangles += $s->mesh->faceCount();
            $fitness = self::isClosed($s);
            $tight += $fitness ? 1 : 0;
            $inner += self::innerArea($s);
            if ($s->mesh->faceCount() > self::HEAVY) {
                $heavy[] = $i;
            }
            $area = array_sum(FaceNormals::areas($s->mesh));
            $thinnest = $area > 0.0 ? min($thinnest, 2.0 * $s->mass->volume / $area) : $thinnest;
            if (count($shards) > 1 && self::slimness($s) > self::SLIVER) {
                $slivers[] = $i;
            }
        }
        $sum = array_sum($volumes);
        $unsorted = $volumes;
        sort($volumes);
        $n = count($volumes);
        $median = $n % 2 === 1 ? $volumes[intdiv($n, 2)] : ($volumes[intdiv($n, 2) - 1] + $volumes[intdiv($n, 2)]) / 2;

        $giants = [];
        foreach ($unsorted as $i => $volume) {
            if ($n > 3 && $volume > self::GIANT * $median && $volume > self::GIANT_SHARE * $sum) {
                $giants[] = $i;
            }
        }

        return [
            'pieces' => $n, 'volume' => $sum, 'smallest' => $volumes[0], 'median' => $median, 'largest' => $volumes[$n - 1],
            'largest_to_median' => $median > 0.0 ? $volumes[$n - 1] / $median : 0.0,
            'watertight' => $tight, 'slivers' => $slivers, 'giants' => $giants, 'heavy' => $heavy,
            'evenness' => self::evenness($volumes, $sum),
            'thinnest' => is_finite($thinnest) ? $thinnest : 0.0,
            'interior_area' => $inner,
            'triangles' => $triangles,
        ];
    }

    /**
     * Pieces too thin to be moved by contacts: beside their neighbours they are films.
     *
     * @param  list<Shard>  $shards
     */
    public static function unusable(array $shards): int
    {
        $volume = array_sum(array_map(static fn (Shard $s): float => max(0.0, $s->mass->volume), $shards));
        $least = self::FILM * ($volume / max(1, count($shards))) ** (1 / 3);

        return count(array_filter($shards, static fn (Shard $s): bool => $s->thickness() < $least));
    }

    /**
     * One minus the Gini coefficient: 1 where all are alike, near 0 where one has all.
     *
     * @param  list<float>  $sorted
     */
    private static function evenness(array $sorted, float $sum): float
    {
        $n = count($sorted);
        $weighed = 0.0;
        foreach ($sorted as $i => $v) {
            $weighed += (2 * ($i + 1) - $n - 1) * $v;
        }

        return $sum > 0.0 ? 1.0 - $weighed / ($n * $sum) : 0.0;
    }

    private static function isClosed(Shard $s): bool
    {
        $faces = $s->mesh->faces;
        $edges = [];
        for ($i = 0, $n = count($faces); $i < $n; $i++) {
            $edge = ($faces[$i] << 31) | $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            if (isset($edges[$edge])) {
                return false;
            }
            $edges[$edge] = true;
        }
        foreach ($edges as $edge => $_) {
            if (! isset($edges[(($edge & 0x7FFFFFFF) << 31) | ($edge >> 31)])) {
                return false;
            }
        }

        return true;
    }

    private static function innerArea(Shard $s): float
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($s->mesh);
        $sum = 0.0;
        foreach ($s->mesh->sides ?? [] as $f => $side) {
            if ($side === Mesh::INNER) {
                $sum += 0.5 * sqrt($nx[$f] ** 2 + $ny[$f] ** 2 + $nz[$f] ** 2);
            }
        }

        return $sum;
    }

    /** Longest extent over the cube root of the volume. */
    private static function slimness(Shard $s): float
    {
        $m = $s->mesh;
        $long = max(max($m->x) - min($m->x), max($m->y) - min($m->y), max($m->z) - min($m->z));

        return $s->mass->volume > 0.0 ? $long / $s->mass->volume ** (1 / 3) : INF;
    }
}
