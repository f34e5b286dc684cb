<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * The same surface in smaller faces, where they are large: so fine that what changes over it can be told at its points. Points
 * and their numbers stay, new ones come after them; no face is bent.
 */
final class FineMesh
{
    /** No edge is longer than this share of the diagonal of the whole. */
    public const SHARE = 1 / 40;

    /** Rounds in which edges are halved, at most. */
    private const ROUNDS = 12;

    public static function of(Mesh $mesh): Mesh
    {
        return self::to($mesh, self::SHARE * Aabb::around($mesh)->diagonal());
    }

    /** @param  float  $longest  metres: no edge is longer afterwards, as far as the rounds of halving go */
    public static function to(Mesh $mesh, float $longest): Mesh
    {
        for ($k = 0; $k < self::ROUNDS; $k++) {
            $finer = self::halved($mesh, $longest);
            if ($finer === null) {
                break;
            }
            $mesh = $finer;
        }

        return $mesh;
    }

    /** All longer edges cut in the middle, and the faces beside them accordingly; null where there are none. */
    private static function halved(Mesh $mesh, float $longest): ?Mesh
    {
        [$x, $y, $z, $faces] = [$mesh->x, $mesh->y, $mesh->z, $mesh->faces];
        $limit = $longest * $longest;
        $middle = [];
        for ($k = 0, $n = count($faces); $k < $n; $k++) {
            $a = $faces[$k];
            $b = $faces[$k % 3 === 2 ? $k - 2 : $k + 1];
            $key = $a < $b ? $a << 31 | $b : $b << 31 | $a;
            if (! isset($middle[$key]) && ($x[$a] - $x[$b]) ** 2 + ($y[$a] - $y[$b]) ** 2 + ($z[$a] - $z[$b]) ** 2 > $limit) {
                $middle[$key] = count($x);
                $x[] = 0.5 * ($x[$a] + $x[$b]);
                $y[] = 0.5 * ($y[$a] + $y[$b]);
                $z[] = 0.5 * ($z[$a] + $z[$b]);
            }
        }
        if ($middle === []) {
            return null;
        }
        $out = $normals = $sides = $uvs = $rim = [];
        for ($f = 0, $n = intdiv(count($faces), 3); $f < $n; $f++) {
            [$a, $b, $c] = [$faces[3 * $f], $faces[3 * $f + 1], $faces[3 * $f + 2]];
            $cut = [];
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                $cut[] = $middle[$p < $q ? $p << 31 | $q : $q << 31 | $p] ?? -1;
            }
            $points = [$a, $b, $c, ...$cut];
            foreach (self::parts($cut, $points, $x, $y, $z) as $part) {
                foreach ($part as $corner) {
                    $out[] = $points[$corner];
                    foreach ([[$mesh->normals, &$normals, 3], [$mesh->uvs, &$uvs, 2], [$mesh->rim, &$rim, 1]] as [$from, &$to, $width]) {
                        if ($from !== null) {
                            // A middle has the mean of both ends.
                            [$one, $other] = $corner < 3 ? [$corner, $corner] : [$corner - 3, ($corner - 2) % 3];
                            for ($i = 0; $i < $width; $i++) {
                                $to[] = 0.5 * ($from[$width * (3 * $f + $one) + $i] + $from[$width * (3 * $f + $other) + $i]);
                            }
                        }
                    }
                }
                $sides[] = $mesh->sides[$f] ?? Mesh::OUTER;
            }
        }

        return new Mesh(
            $x,
            $y,
            $z,
            $out,
            $mesh->normals === null ? null : self::ofUnitLength($normals),
            $mesh->sides === null ? null : $sides,
            $mesh->uvs === null ? null : $uvs,
            $mesh->rim === null ? null : $rim,
        );
    }

    /**
     * A face by which of its edges are cut.
     *
     * @param  list<int>  $cut  by edge: its middle, or −1
     * @param  list<int>  $points  its corners, then those middles
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<array{int, int, int}> 0…2 for its corners, 3…5 for the middles of its edges
     */
    private static function parts(array $cut, array $points, array $x, array $y, array $z): array
    {
        $is = array_map(static fn (int $m): bool => $m >= 0, $cut);
        $count = count(array_filter($is));
        if ($count === 0) {
            return [[0, 1, 2]];
        }
        if ($count === 3) {
            return [[0, 3, 5], [3, 1, 4], [5, 4, 2], [3, 4, 5]];
        }
        if ($count === 1) {
            $e = (int) array_search(true, $is, true);

            return [[$e, 3 + $e, ($e + 2) % 3], [3 + $e, ($e + 1) % 3, ($e + 2) % 3]];
        }
        // Two are cut: the corner between them comes off, and what is left is parted along its shorter diagonal.
        $e = (int) array_search(false, $is, true);
        [$a, $b, $tip] = [$e, ($e + 1) % 3, ($e + 2) % 3];
        [$right, $left] = [3 + ($e + 1) % 3, 3 + ($e + 2) % 3];
        $square = static fn (int $p, int $q): float => ($x[$points[$p]] - $x[$points[$q]]) ** 2 + ($y[$points[$p]] - $y[$points[$q]]) ** 2 + ($z[$points[$p]] - $z[$points[$q]]) ** 2;

        return $square($a, $right) <= $square($b, $left)
            ? [[$tip, $left, $right], [$a, $b, $right], [$a, $right, $left]]
            : [[$tip, $left, $right], [$a, $b, $left], [$b, $right, $left]];
    }

    /**
     * @param  list<float>  $normals
     * @return list<float>
     */
    private static function ofUnitLength(array $normals): array
    {
        for ($i = 0, $n = count($normals); $i < $n; $i += 3) {
            $l = sqrt($normals[$i] ** 2 + $normals[$i + 1] ** 2 + $normals[$i + 2] ** 2);
            if ($l > 0.0) {
                $normals[$i] /= $l;
                $normals[$i + 1] /= $l;
                $normals[$i + 2] /= $l;
            }
        }

        return $normals;
    }
}
