<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;

/**
 * Which pieces of a prop lie face to face. Cuts are shared to the last bit, so most faces meet their like; what is parted by
 * a joint, or was cut again on one side only, is found by points strewn over it that look at each other.
 */
final class Neighbours
{
    /** A joint as wide as this share of a piece still joins. */
    private const JOINT = 0.15;

    /** Faces look at each other from this cosine between their normals on. */
    private const OPPOSITE = -0.7;

    /** Points strewn over a face, at most. */
    private const MOST = 400;

    /**
     * @param  list<Shard>  $shards
     * @return list<array{int, int, float, Vec3}> two pieces, the smaller number first; the area they share in m², and its middle
     */
    public static function of(array $shards): array
    {
        /** @var array<string, array{int, int}> $open faces that have not met their like */
        $open = [];
        $found = [];
        foreach ($shards as $piece => $shard) {
            $m = $shard->mesh;
            foreach ($m->sides ?? [] as $f => $side) {
                if ($side !== Mesh::INNER) {
                    continue;
                }
                $key = self::key($m, $f);
                if (isset($open[$key]) && $open[$key][0] !== $piece) {
                    self::add($found, $open[$key][0], $piece, self::area($m, $f), self::middle($m, $f));
                    unset($open[$key]);
                } else {
                    $open[$key] = [$piece, $f];
                }
            }
        }
        self::across($shards, array_values($open), $found);
        ksort($found);
        $out = [];
        foreach ($found as $pair => [$area, $sum]) {
            $out[] = [$pair >> 32, $pair & 0xFFFFFFFF, $area, $sum->times(1.0 / $area)];
        }

        return $out;
    }

    /**
     * @param  list<Shard>  $shards
     * @return list<array{int, int, float}> two pieces, and how far it is from the middle of one to that of the other through what they share
     */
    public static function ways(array $shards): array
    {
        return array_map(static fn (array $n): array => [$n[0], $n[1], $shards[$n[0]]->centre()->minus($n[3])->length() + $shards[$n[1]]->centre()->minus($n[3])->length()], self::of($shards));
    }

    /** @param  array<int, array{float, Vec3}>  $found */
    private static function add(array &$found, int $one, int $other, float $area, Vec3 $at): void
    {
        $pair = min($one, $other) << 32 | max($one, $other);
        [$sum, $middle] = $found[$pair] ?? [0.0, Vec3::zero()];
        $found[$pair] = [$sum + $area, $middle->plus($at->times($area))];
    }

    /**
     * @param  list<Shard>  $shards
     * @param  list<array{int, int}>  $open  piece and face
     * @param  array<int, array{float, Vec3}>  $found
     */
    private static function across(array $shards, array $open, array &$found): void
    {
        if ($open === []) {
            return;
        }
        $volumes = array_map(static fn (Shard $s): float => $s->mass->volume, $shards);
        sort($volumes);
        $reach = self::JOINT * max(1e-30, $volumes[intdiv(count($volumes), 2)]) ** (1 / 3);
        $k = 1.0 / $reach;
        $cells = [];
        foreach ($open as [$piece, $f]) {
            foreach (self::strewn($shards[$piece]->mesh, $f, $reach) as [$at, $normal, $area]) {
                $cells[(int) floor($at->x * $k).' '.(int) floor($at->y * $k).' '.(int) floor($at->z * $k)][] = [$piece, $at, $normal, $area];
            }
        }
        foreach ($cells as $cell => $own) {
            [$i, $j, $l] = array_map(intval(...), explode(' ', (string) $cell));
            $near = [];
            for ($a = -1; $a <= 1; $a++) {
                for ($b = -1; $b <= 1; $b++) {
                    for ($c = -1; $c <= 1; $c++) {
                        array_push($near, ...$cells[($i + $a).' '.($j + $b).' '.($l + $c)] ?? []);
                    }
                }
            }
            foreach ($own as [$piece, $at, $normal, $area]) {
                $met = [];
                foreach ($near as [$other, $there, $its]) {
                    if ($other !== $piece && ! isset($met[$other]) && $normal->dot($its) < self::OPPOSITE) {
                        $way = $there->minus($at);
                        $ahead = $way->dot($normal);
                        // Before it, and not off to the side.
                        if ($ahead > -1e-6 * $reach && $ahead <= $reach && $way->dot($way) - $ahead * $ahead <= 0.36 * $reach * $reach) {
                            $met[$other] = true;
                        }
                    }
                }
                foreach (array_keys($met) as $other) {
                    // Seen from both sides.
                    self::add($found, $piece, $other, 0.5 * $area, $at);
                }
            }
        }
    }

    /** @return list<array{Vec3, Vec3, float}> points of a face, its normal, and the area each stands for */
    private static function strewn(Mesh $m, int $f, float $apart): array
    {
        [$a, $b, $c] = self::corners($m, $f);
        $normal = $b->minus($a)->cross($c->minus($a));
        $area = 0.5 * $normal->length();
        if ($area <= 0.0) {
            return [];
        }
        $normal = $normal->unit();
        $n = max(1, min((int) sqrt(self::MOST), (int) ceil(max($b->minus($a)->length(), $c->minus($a)->length(), $c->minus($b)->length()) / (0.7 * $apart))));
        $out = [];
        for ($i = 0; $i < $n; $i++) {
            for ($j = 0; $i + $j < $n; $j++) {
                foreach ($i + $j + 1 < $n ? [1 / 3, 2 / 3] : [1 / 3] as $t) {
                    $out[] = [$a->plus($b->minus($a)->times(($i + $t) / $n))->plus($c->minus($a)->times(($j + $t) / $n)), $normal, $area / ($n * $n)];
                }
            }
        }

        return $out;
    }

    /** The same for the same three points, whatever their order. */
    private static function key(Mesh $m, int $f): string
    {
        $parts = [];
        for ($c = 3 * $f; $c < 3 * $f + 3; $c++) {
            $p = $m->faces[$c];
            $parts[] = pack('e3', $m->x[$p], $m->y[$p], $m->z[$p]);
        }
        sort($parts);

        return implode('', $parts);
    }

    /** @return array{Vec3, Vec3, Vec3} */
    private static function corners(Mesh $m, int $f): array
    {
        $at = static fn (int $p): Vec3 => new Vec3($m->x[$p], $m->y[$p], $m->z[$p]);

        return [$at($m->faces[3 * $f]), $at($m->faces[3 * $f + 1]), $at($m->faces[3 * $f + 2])];
    }

    private static function area(Mesh $m, int $f): float
    {
        [$a, $b, $c] = self::corners($m, $f);

        return 0.5 * $b->minus($a)->cross($c->minus($a))->length();
    }

    private static function middle(Mesh $m, int $f): Vec3
    {
        [$a, $b, $c] = self::corners($m, $f);

        return $a->plus($b)->plus($c)->times(1 / 3);
    }
}
