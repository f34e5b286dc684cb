<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** Faces with only the points they use, numbered in the order they come. */
final class UsedPoints
{
    /**
     * @param  list<int>  $faces  flat triples
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<int>, list<float>, list<float>, list<float>}
     */
    public static function of(array $faces, array $x, array $y, array $z): array
    {
        $new = $kx = $ky = $kz = [];
        foreach ($faces as $c => $p) {
            if (! isset($new[$p])) {
                $new[$p] = count($kx);
                $kx[] = $x[$p];
                $ky[] = $y[$p];
                $kz[] = $z[$p];
            }
            $faces[$c] = $new[$p];
        }

        return [$faces, $kx, $ky, $kz];
    }
}
