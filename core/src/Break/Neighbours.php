<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\Cell;
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

    /** Points strewn along a side, at most. */
    private const MOST = 100;

    /**
     * @param  list<Shard>  $shards
     * @return list<Joint> by their pieces
     */
    public static function of(array $shards): array
    {
        /** @var array<string, array{int, int}> $open faces that have not met their like */
        $open = [];
        /** @var array<int, JointSum> $found */
        $found = [];
        foreach ($shards as $piece => $shard) {
            $m = $shard->mesh;
            foreach ($m->sides ?? [] as $f => $side) {
                if ($side !== Mesh::INNER) {
                    continue;
                }
                $key = self::key($m, $f);
                if (isset($open[$key]) && $open[$key][0] !== $piece) {
                    self::between($found, $open[$key][0], $piece)->addFace(...self::corners(...self::ofSmaller($shards, $open[$key], [$piece, $f])));
                    unset($open[$key]);
                } else {
                    $open[$key] = [$piece, $f];
                }
            }
        }
        self::across($shards, array_values($open), $found);
        ksort($found);
        $out = [];
        foreach ($found as $pair => $sum) {
            $out[] = $sum->joint($pair >> 32, $pair & 0xFFFFFFFF, $shards);
        }

        return $out;
    }

    /**
     * A face that two pieces share, as the one of the smaller number has it: it looks towards the other.
     *
     * @param  list<Shard>  $shards
     * @param  array{int, int}  $one  piece and face
     * @param  array{int, int}  $other
     * @return array{Mesh, int}
     */
    private static function ofSmaller(array $shards, array $one, array $other): array
    {
        [$piece, $f] = min($one, $other);

        return [$shards[$piece]->mesh, $f];
    }

    /** @param  array<int, JointSum>  $found */
    private static function between(array &$found, int $one, int $other): JointSum
    {
        return $found[min($one, $other) << 32 | max($one, $other)] ??= new JointSum;
    }

    /**
     * @param  list<Shard>  $shards
     * @param  list<array{int, int}>  $open  piece and face
     * @param  array<int, JointSum>  $found
     */
    private static function across(array $shards, array $open, array &$found): void
    {
        if ($open === []) {
            return;
        }
        $volumes = array_map(static fn (Shard $s): float => $s->mass->volume, $shards);
        sort($volumes);
        $reach = self::JOINT * max(1e-30, $volumes[intdiv(count($volumes), 2)]) ** (1 / 3);
        $patches = [];
        foreach ($open as [$piece, $f]) {
            self::strew($patches, $piece, $shards[$piece]->mesh, $f, $reach);
        }
        $points = self::middles($patches);
        foreach (self::meetings($points, $reach) as [$i, $other]) {
            // Seen from both sides.
            $normal = new Vec3($points['nx'][$i], $points['ny'][$i], $points['nz'][$i]);
            self::between($found, $points['piece'][$i], $other)->addPatch(
                0.5 * $points['area'][$i], new Vec3($points['x'][$i], $points['y'][$i], $points['z'][$i]), $points['piece'][$i] < $other ? $normal : $normal->times(-1.0),
            );
        }
    }

    /**
     * @param  array{piece: list<int>, x: list<float>, y: list<float>, z: list<float>, nx: list<float>, ny: list<float>, nz: list<float>, area: list<float>}  $points
     * @return list<array{int, int}> points, and the pieces they meet
     */
    private static function meetings(array $points, float $reach): array
    {
        ['piece' => $piece, 'x' => $x, 'y' => $y, 'z' => $z, 'nx' => $nx, 'ny' => $ny, 'nz' => $nz] = $points;
        $k = 1.0 / $reach;
        $cells = [];
        foreach ($x as $i => $v) {
            $cells[Cell::of($v * $k, $y[$i] * $k, $z[$i] * $k)][] = $i;
        }
        $out = [];
        foreach ($cells as $cell => $own) {
            $near = [];
            foreach (Cell::beside() as $step) {
                foreach ($cells[$cell + $step] ?? [] as $j) {
                    $near[] = $j;
                }
            }
            self::meet($out, $own, $near, $piece, $x, $y, $z, $nx, $ny, $nz, $reach);
        }

        return $out;
    }

    /**
     * A loop as hot as this one stands alone, on lists.
     *
     * @param  list<array{int, int}>  $out
     * @param  list<int>  $own
     * @param  list<int>  $near
     * @param  list<int>  $piece
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<float>  $nx
     * @param  list<float>  $ny
     * @param  list<float>  $nz
     */
    private static function meet(
        array &$out, array $own, array $near, array $piece, array $x, array $y, array $z, array $nx, array $ny, array $nz, float $reach,
    ): void {
        // The middle of a patch that is bent lies a little beside it.
        $least = -0.1 * $reach;
        $aside = 0.36 * $reach * $reach;
        $count = count($near);
        foreach ($own as $i) {
            $mine = $piece[$i];
            $px = $x[$i];
            $py = $y[$i];
            $pz = $z[$i];
            $mx = $nx[$i];
            $my = $ny[$i];
            $mz = $nz[$i];
            $met = [];
            for ($q = 0; $q < $count; $q++) {
                $j = $near[$q];
                if ($mx * $nx[$j] + $my * $ny[$j] + $mz * $nz[$j] >= self::OPPOSITE) {
                    continue;
                }
                $dx = $x[$j] - $px;
                $dy = $y[$j] - $py;
                $dz = $z[$j] - $pz;
                $ahead = $dx * $mx + $dy * $my + $dz * $mz;
                // Before it, and not off to the side.
                if ($ahead > $least && $ahead <= $reach && $dx * $dx + $dy * $dy + $dz * $dz - $ahead * $ahead <= $aside && $piece[$j] !== $mine) {
                    $met[$piece[$j]] = true;
                }
            }
            foreach ($met as $other => $_) {
                $out[] = [$i, $other];
            }
        }
    }

    /**
     * Strews points over a face, in rows along its longest side, and adds them to the patches they lie in: what of a piece lies
     * within half the reach and looks much the same way counts as one.
     *
     * @param  array<string, array{int, float, float, float, float, float, float, float}>  $patches  piece, area, and sums by area of places and normals
     */
    private static function strew(array &$patches, int $piece, Mesh $m, int $f, float $reach): void
    {
        [$a, $b, $c] = self::corners($m, $f);
        $ab = $b->minus($a)->length();
        $bc = $c->minus($b)->length();
        $ca = $a->minus($c)->length();
        $long = max($ab, $bc, $ca);
        [$a, $b, $c] = $ab === $long ? [$a, $b, $c] : ($bc === $long ? [$b, $c, $a] : [$c, $a, $b]);
        $u = $b->minus($a);
        $v = $c->minus($a);
        $normal = $u->cross($v);
        $area = 0.5 * $normal->length();
        if ($area <= 0.0) {
            return;
        }
        $normal = $normal->unit();
        $way = (int) round(1.5 * $normal->x).' '.(int) round(1.5 * $normal->y).' '.(int) round(1.5 * $normal->z);
        $apart = 0.7 * $reach;
        $k = 2.0 / $reach;
        $along = min(self::MOST, (int) ceil($long / $apart));
        $rows = min(self::MOST, (int) ceil(2.0 * $area / $long / $apart));
        for ($j = 0; $j < $rows; $j++) {
            $r = ($j + 0.5) / $rows;
            $n = max(1, (int) ceil($along * (1.0 - $r)));
            $share = 2.0 * $area * (1.0 - $r) / ($rows * $n);
            for ($i = 0; $i < $n; $i++) {
                $s = (1.0 - $r) * ($i + 0.5) / $n;
                $x = $a->x + $s * $u->x + $r * $v->x;
                $y = $a->y + $s * $u->y + $r * $v->y;
                $z = $a->z + $s * $u->z + $r * $v->z;
                $key = $piece.' '.(int) floor($x * $k).' '.(int) floor($y * $k).' '.(int) floor($z * $k).' '.$way;
                if (isset($patches[$key])) {
                    $p = &$patches[$key];
                    $p[1] += $share;
                    $p[2] += $share * $x;
                    $p[3] += $share * $y;
                    $p[4] += $share * $z;
                    $p[5] += $share * $normal->x;
                    $p[6] += $share * $normal->y;
                    $p[7] += $share * $normal->z;
                    unset($p);
                } else {
                    $patches[$key] = [$piece, $share, $share * $x, $share * $y, $share * $z, $share * $normal->x, $share * $normal->y, $share * $normal->z];
                }
            }
        }
    }

    /**
     * @param  array<string, array{int, float, float, float, float, float, float, float}>  $patches
     * @return array{piece: list<int>, x: list<float>, y: list<float>, z: list<float>, nx: list<float>, ny: list<float>, nz: list<float>, area: list<float>}
     */
    private static function middles(array $patches): array
    {
        $out = ['piece' => [], 'x' => [], 'y' => [], 'z' => [], 'nx' => [], 'ny' => [], 'nz' => [], 'area' => []];
        foreach ($patches as [$piece, $area, $x, $y, $z, $nx, $ny, $nz]) {
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($l <= 0.0) {
                continue;
            }
            $out['piece'][] = $piece;
            $out['x'][] = $x / $area;
            $out['y'][] = $y / $area;
            $out['z'][] = $z / $area;
            $out['nx'][] = $nx / $l;
            $out['ny'][] = $ny / $l;
            $out['nz'][] = $nz / $l;
            $out['area'][] = $area;
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
}
