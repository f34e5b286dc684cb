<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;

/** Mends what the fitness report finds. Normals are dropped wherever faces change; they are made anew after. */
final class Repair
{
    /** Joins points closer together than a millionth of the mesh's size. */
    public static function weld(Mesh $mesh, float $share = 1e-6): Mesh
    {
        if ($mesh->x === []) {
            return $mesh;
        }
        $size = max(max($mesh->x) - min($mesh->x), max($mesh->y) - min($mesh->y), max($mesh->z) - min($mesh->z));
        $cell = max($size * $share, 1e-300);
        $grid = $to = $x = $y = $z = [];
        $base = [min($mesh->x), min($mesh->y), min($mesh->z)];
        foreach ($mesh->x as $i => $vx) {
            $vy = $mesh->y[$i];
            $vz = $mesh->z[$i];
            $a = (int) floor(($vx - $base[0]) / $cell);
            $b = (int) floor(($vy - $base[1]) / $cell);
            $c = (int) floor(($vz - $base[2]) / $cell);
            $found = -1;
            for ($p = $a - 1; $p <= $a + 1 && $found < 0; $p++) {
                for ($q = $b - 1; $q <= $b + 1 && $found < 0; $q++) {
                    for ($r = $c - 1; $r <= $c + 1 && $found < 0; $r++) {
                        foreach ($grid[(($p * 2097151) + $q) * 2097151 + $r] ?? [] as $k) {
                            if (($x[$k] - $vx) ** 2 + ($y[$k] - $vy) ** 2 + ($z[$k] - $vz) ** 2 <= $cell * $cell) {
                                $found = $k;
                                break;
                            }
                        }
                    }
                }
            }
            if ($found < 0) {
                $found = count($x);
                $x[] = $vx;
                $y[] = $vy;
                $z[] = $vz;
                $grid[(($a * 2097151) + $b) * 2097151 + $c][] = $found;
            }
            $to[] = $found;
        }
        $faces = $uvs = [];
        for ($i = 0, $n = count($mesh->faces); $i < $n; $i += 3) {
            $a = $to[$mesh->faces[$i]];
            $b = $to[$mesh->faces[$i + 1]];
            $c = $to[$mesh->faces[$i + 2]];
            if ($a !== $b && $b !== $c && $a !== $c) {
                array_push($faces, $a, $b, $c);
                if ($mesh->uvs !== null) {
                    array_push($uvs, ...array_slice($mesh->uvs, 2 * $i, 6));
                }
            }
        }

        return new Mesh($x, $y, $z, $faces, uvs: $mesh->uvs === null ? null : $uvs);
    }

    /** Removes faces without area by joining the ends of their shortest edge; points left over go too. */
    public static function dropDegenerates(Mesh $mesh): Mesh
    {
        $to = range(0, max(0, count($mesh->x) - 1));
        $faces = $mesh->faces;
        for ($round = 0; $round < 8; $round++) {
            $keep = [];
            $changed = false;
            for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
                $a = self::root($to, $faces[$i]);
                $b = self::root($to, $faces[$i + 1]);
                $c = self::root($to, $faces[$i + 2]);
                if ($a === $b || $b === $c || $a === $c) {
                    continue;
                }
                if (self::isThin($mesh, $a, $b, $c)) {
                    [$p, $q] = self::shortestSide($mesh, $a, $b, $c);
                    $to[$q] = $p;
                    $changed = true;

                    continue;
                }
                array_push($keep, $a, $b, $c);
            }
            $faces = $keep;
            if (! $changed) {
                break;
            }
        }

        return self::compact(new Mesh($mesh->x, $mesh->y, $mesh->z, $faces));
    }

    /** Keeps one of every set of faces with the same corners; a face and its reverse cancel out. */
    public static function dropDoubles(Mesh $mesh): Mesh
    {
        return self::ofDoubles($mesh, false);
    }

    /** Keeps one of every set of faces with the same corners, whichever way they look. */
    public static function keepOneOfDoubles(Mesh $mesh): Mesh
    {
        return self::ofDoubles($mesh, true);
    }

    private static function ofDoubles(Mesh $mesh, bool $reversesToo): Mesh
    {
        $by = [];
        for ($i = 0, $n = count($mesh->faces); $i < $n; $i += 3) {
            $f = [$mesh->faces[$i], $mesh->faces[$i + 1], $mesh->faces[$i + 2]];
            while ($f[0] !== min($f)) {
                $f = [$f[1], $f[2], $f[0]];
            }
            $flip = $f[1] > $f[2];
            $key = $f[0].','.min($f[1], $f[2]).','.max($f[1], $f[2]);
            $by[$key] ??= [0, 0, $f];
            $by[$key][$flip ? 1 : 0]++;
        }
        $faces = [];
        foreach ($by as [$forward, $backward, $f]) {
            if (! $reversesToo && $forward > 0 && $backward > 0) {
                continue;
            }
            array_push($faces, ...$f);
        }

        return self::compact(new Mesh($mesh->x, $mesh->y, $mesh->z, $faces));
    }

    /** Turns faces so that neighbours agree and every part looks outwards. */
    public static function orient(Mesh $mesh): Mesh
    {
        $faces = $mesh->faces;
        $n = intdiv(count($faces), 3);
        $at = [];
        for ($i = 0; $i < 3 * $n; $i++) {
            $p = $faces[$i];
            $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $at[$p < $q ? ($p << 31) | $q : ($q << 31) | $p][] = intdiv($i, 3);
        }
        $done = array_fill(0, $n, false);
        for ($first = 0; $first < $n; $first++) {
            if ($done[$first]) {
                continue;
            }
            $done[$first] = true;
            $part = [$first];
            for ($h = 0; $h < count($part); $h++) {
                $f = $part[$h];
                for ($k = 0; $k < 3; $k++) {
                    $p = $faces[3 * $f + $k];
                    $q = $faces[3 * $f + ($k + 1) % 3];
                    $around = $at[$p < $q ? ($p << 31) | $q : ($q << 31) | $p];
                    if (count($around) !== 2) {
                        continue;
                    }
                    $g = $around[0] === $f ? $around[1] : $around[0];
                    if ($done[$g]) {
                        continue;
                    }
                    $done[$g] = true;
                    for ($j = 0; $j < 3; $j++) {
                        if ($faces[3 * $g + $j] === $p && $faces[3 * $g + ($j + 1) % 3] === $q) {
                            [$faces[3 * $g + 1], $faces[3 * $g + 2]] = [$faces[3 * $g + 2], $faces[3 * $g + 1]];
                            break;
                        }
                    }
                    $part[] = $g;
                }
            }
            $flat = [];
            foreach ($part as $f) {
                array_push($flat, $faces[3 * $f], $faces[3 * $f + 1], $faces[3 * $f + 2]);
            }
            if (MassProperties::ofFaces($mesh->x, $mesh->y, $mesh->z, $flat)->volume < 0) {
                foreach ($part as $f) {
                    [$faces[3 * $f + 1], $faces[3 * $f + 2]] = [$faces[3 * $f + 2], $faces[3 * $f + 1]];
                }
            }
        }

        if ($mesh->uvs === null) {
            return new Mesh($mesh->x, $mesh->y, $mesh->z, $faces);
        }
        $uvs = $mesh->uvs;
        for ($f = 0; $f < $n; $f++) {
            if ($faces[3 * $f + 1] !== $mesh->faces[3 * $f + 1]) {
                [$uvs[6 * $f + 2], $uvs[6 * $f + 3], $uvs[6 * $f + 4], $uvs[6 * $f + 5]] = [
                    $uvs[6 * $f + 4],
                    $uvs[6 * $f + 5],
                    $uvs[6 * $f + 2],
                    $uvs[6 * $f + 3],
                ];
            }
        }

        return new Mesh($mesh->x, $mesh->y, $mesh->z, $faces, uvs: $uvs);
    }

    /** Closes every hole. */
    public static function fill(Mesh $mesh): Mesh
    {
        return HoleFilling::of($mesh);
    }

    /** @param  list<int>  $to */
    private static function root(array $to, int $v): int
    {
        while ($to[$v] !== $v) {
            $v = $to[$v];
        }

        return $v;
    }

    private static function isThin(Mesh $m, int $a, int $b, int $c): bool
    {
        $ux = $m->x[$b] - $m->x[$a];
        $uy = $m->y[$b] - $m->y[$a];
        $uz = $m->z[$b] - $m->z[$a];
        $vx = $m->x[$c] - $m->x[$a];
        $vy = $m->y[$c] - $m->y[$a];
        $vz = $m->z[$c] - $m->z[$a];
        $s = sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2);

        return $s <= 1e-12 * max($ux * $ux + $uy * $uy + $uz * $uz, $vx * $vx + $vy * $vy + $vz * $vz);
    }

    /** @return array{int, int} */
    private static function shortestSide(Mesh $m, int $a, int $b, int $c): array
    {
        $best = INF;
        $pick = [$a, $b];
        foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
            $d = ($m->x[$p] - $m->x[$q]) ** 2 + ($m->y[$p] - $m->y[$q]) ** 2 + ($m->z[$p] - $m->z[$q]) ** 2;
            if ($d < $best) {
                $best = $d;
                $pick = [$p, $q];
            }
        }

        return $pick;
    }

    private static function compact(Mesh $mesh): Mesh
    {
        $new = $x = $y = $z = $faces = [];
        foreach ($mesh->faces as $v) {
            if (! isset($new[$v])) {
                $new[$v] = count($x);
                $x[] = $mesh->x[$v];
                $y[] = $mesh->y[$v];
                $z[] = $mesh->z[$v];
            }
            $faces[] = $new[$v];
        }

        return new Mesh($x, $y, $z, $faces);
    }
}
