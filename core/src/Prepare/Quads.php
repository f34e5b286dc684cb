<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;

/** Four-sided faces found again in a mesh of triangles. */
final class Quads
{
    /** Cosine of the angle two triangles may enclose to pass as one flat face. */
    private const FLAT = 0.9998;

    /** A corner of a four-sided face may be off a right angle by at most this much, as a cosine. */
    private const SKEW = 0.35;

    /** @return list<list<int>> corners of every face, three or four */
    public static function of(Mesh $mesh): array
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($mesh);
        $faces = $mesh->faces;
        $at = [];
        for ($i = 0, $n = count($faces); $i < $n; $i++) {
            $at[$faces[$i] << 31 | $faces[$i % 3 === 2 ? $i - 2 : $i + 1]] = $i;
        }
        $pairs = [];
        foreach ($at as $edge => $i) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            $j = $at[$q << 31 | $p] ?? -1;
            if ($p > $q || $j < 0) {
                continue;
            }
            $f = intdiv($i, 3);
            $g = intdiv($j, 3);
            $dot = $nx[$f] * $nx[$g] + $ny[$f] * $ny[$g] + $nz[$f] * $nz[$g];
            $ll = ($nx[$f] ** 2 + $ny[$f] ** 2 + $nz[$f] ** 2) * ($nx[$g] ** 2 + $ny[$g] ** 2 + $nz[$g] ** 2);
            if ($dot <= 0.0 || $dot * $dot < self::FLAT * self::FLAT * $ll) {
                continue;
            }
            $r = $faces[$i % 3 === 0 ? $i + 2 : $i - 1];
            $s = $faces[$j % 3 === 0 ? $j + 2 : $j - 1];
            $corners = [$p, $s, $q, $r];
            $skew = self::skew($mesh, $corners);
            if ($skew < self::SKEW) {
                $pairs[] = [$skew, $f, $g, $corners];
            }
        }
        usort($pairs, static fn (array $a, array $b): int => $a[0] <=> $b[0] ?: $a[1] <=> $b[1]);
        $used = $out = [];
        foreach ($pairs as [, $f, $g, $corners]) {
            if (! isset($used[$f]) && ! isset($used[$g])) {
                $used[$f] = $used[$g] = true;
                $out[] = $corners;
            }
        }
        for ($f = 0, $n = $mesh->faceCount(); $f < $n; $f++) {
            if (! isset($used[$f])) {
                $out[] = array_slice($faces, 3 * $f, 3);
            }
        }

        return $out;
    }

    /** @param  array{int, int, int, int}  $corners */
    private static function skew(Mesh $m, array $corners): float
    {
        $worst = 0.0;
        foreach ($corners as $k => $p) {
            $a = $corners[($k + 1) % 4];
            $b = $corners[($k + 3) % 4];
            $u = [$m->x[$a] - $m->x[$p], $m->y[$a] - $m->y[$p], $m->z[$a] - $m->z[$p]];
            $v = [$m->x[$b] - $m->x[$p], $m->y[$b] - $m->y[$p], $m->z[$b] - $m->z[$p]];
            $l = sqrt(($u[0] ** 2 + $u[1] ** 2 + $u[2] ** 2) * ($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2));
            $worst = max($worst, $l > 0.0 ? abs($u[0] * $v[0] + $u[1] * $v[1] + $u[2] * $v[2]) / $l : 1.0);
        }

        return $worst;
    }
}
