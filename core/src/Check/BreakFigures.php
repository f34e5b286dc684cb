<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\FaceNormals;

/** The figures a break is judged by. */
final class BreakFigures
{
    /** A piece is a sliver where its longest extent exceeds this many times the cube root of its volume. */
    private const SLIVER = 8.0;

    /**
     * @param  list<Shard>  $shards
     * @return array{pieces: int, volume: float, smallest: float, median: float, largest: float, largest_to_median: float, watertight: int, slivers: list<int>, interior_area: float, triangles: int}
     */
    public static function of(array $shards): array
    {
        $volumes = [];
        $slivers = [];
        $tight = $triangles = 0;
        $interior = 0.0;
        foreach ($shards as $i => $s) {
            $volumes[] = $s->mass->volume;
            $triangles += $s->mesh->faceCount();
            $fitness = self::isClosed($s);
            $tight += $fitness ? 1 : 0;
            $interior += self::interiorArea($s);
            if (count($shards) > 1 && self::slimness($s) > self::SLIVER) {
                $slivers[] = $i;
            }
        }
        $sum = array_sum($volumes);
        sort($volumes);
        $n = count($volumes);
        $median = $n % 2 === 1 ? $volumes[intdiv($n, 2)] : ($volumes[intdiv($n, 2) - 1] + $volumes[intdiv($n, 2)]) / 2;

        return [
            'pieces' => $n, 'volume' => $sum, 'smallest' => $volumes[0], 'median' => $median, 'largest' => $volumes[$n - 1],
            'largest_to_median' => $median > 0.0 ? $volumes[$n - 1] / $median : 0.0,
            'watertight' => $tight, 'slivers' => $slivers, 'interior_area' => $interior, 'triangles' => $triangles,
        ];
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

    private static function interiorArea(Shard $s): float
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($s->mesh);
        $sum = 0.0;
        foreach ($s->mesh->interior ?? [] as $f => $inside) {
            if ($inside === 1) {
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
