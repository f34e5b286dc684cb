<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/** By how much a surface is drawn: the larger principal stretch of each face, less one, from the eigenvalues of its right Cauchy–Green tensor. */
final class Stretch
{
    /** Of the mean face, that one is at least as large as to count. */
    private const SPECK = 0.05;

    /**
     * @param  list<float>  $x  m, where points are
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<float>|null  $growth  times its rest length, by point; null for none
     * @return list<float> by face; below 0 where it is pressed every way
     */
    public static function of(Weave $weave, array $x, array $y, array $z, ?array $growth): array
    {
        $out = [];
        $faces = $weave->faces;
        for ($t = 0, $n = count($faces); $t < $n; $t += 3) {
            [$a, $b, $c] = [$faces[$t], $faces[$t + 1], $faces[$t + 2]];
            $g = $growth === null ? 1.0 : 3.0 / ($growth[$a] + $growth[$b] + $growth[$c]);
            [$b1, $b2, $q2] = [$g * $weave->inverse[$t], $g * $weave->inverse[$t + 1], $g * $weave->inverse[$t + 2]];
            [$ux, $uy, $uz] = [$x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]];
            [$rx, $ry, $rz] = [$b1 * $ux, $b1 * $uy, $b1 * $uz];
            $sx = $b2 * $ux + $q2 * ($x[$c] - $x[$a]);
            $sy = $b2 * $uy + $q2 * ($y[$c] - $y[$a]);
            $sz = $b2 * $uz + $q2 * ($z[$c] - $z[$a]);
            $rr = $rx * $rx + $ry * $ry + $rz * $rz;
            $ss = $sx * $sx + $sy * $sy + $sz * $sz;
            $rs = $rx * $sx + $ry * $sy + $rz * $sz;
            $out[] = sqrt(0.5 * ($rr + $ss) + sqrt(0.25 * ($rr - $ss) ** 2 + $rs * $rs)) - 1.0;
        }

        return $out;
    }

    /**
     * The face that is drawn most, of those that matter: specks between others say little of the cloth.
     *
     * @param  non-empty-list<float>  $byFace
     */
    public static function most(Weave $weave, array $byFace): int
    {
        $least = self::SPECK * array_sum($weave->areas) / count($weave->areas);
        $out = 0;
        $most = -INF;
        foreach ($byFace as $f => $stretch) {
            if ($stretch > $most && $weave->areas[$f] >= $least) {
                [$most, $out] = [$stretch, $f];
            }
        }

        return $out;
    }

    /**
     * @param  list<float>  $byFace
     * @return list<float> by point: the most of the faces round it, none below 0
     */
    public static function atPoints(Weave $weave, array $byFace): array
    {
        $out = array_fill(0, $weave->count(), 0.0);
        foreach ($weave->faces as $k => $p) {
            $out[$p] = max($out[$p], $byFace[intdiv($k, 3)]);
        }

        return $out;
    }
}
