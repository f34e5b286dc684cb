<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;

/** Moves the surface along its normals: out for a shell that must not touch its core, in with a negative distance. */
final class Push implements Step
{
    public static function label(): string
    {
        return 'Push out';
    }

    public static function meaning(): string
    {
        return 'Moves the surface out along its normals';
    }

    public static function options(): array
    {
        return [new Option('distance', 'Distance', 'How far; in with a minus.', Number::class, 0.001, -100, 100, 'm', share: 0.002)];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        [$x, $y, $z] = self::pushed($mesh, $values['distance']);

        return new Mesh($x, $y, $z, $mesh->faces);
    }

    /**
     * Every point goes as far as its faces need to lie the distance away: farther at an edge than on a flat, up to
     * three times.
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    public static function pushed(Mesh $mesh, float $distance): array
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($mesh);
        $x = $mesh->x;
        $y = $mesh->y;
        $z = $mesh->z;
        $around = array_fill(0, count($x), []);
        foreach ($mesh->faces as $c => $p) {
            $f = intdiv($c, 3);
            $l = sqrt($nx[$f] ** 2 + $ny[$f] ** 2 + $nz[$f] ** 2);
            if ($l <= 0.0) {
                continue;
            }
            // Weighed by the angle at the corner, so that it does not matter how a flat side is divided (Thürmer & Wüthrich 1998).
            $a = $mesh->faces[$c - $c % 3 + ($c + 1) % 3];
            $b = $mesh->faces[$c - $c % 3 + ($c + 2) % 3];
            $u = [$mesh->x[$a] - $mesh->x[$p], $mesh->y[$a] - $mesh->y[$p], $mesh->z[$a] - $mesh->z[$p]];
            $v = [$mesh->x[$b] - $mesh->x[$p], $mesh->y[$b] - $mesh->y[$p], $mesh->z[$b] - $mesh->z[$p]];
            $angle = atan2($l, $u[0] * $v[0] + $u[1] * $v[1] + $u[2] * $v[2]);
            $around[$p][] = [$nx[$f] / $l, $ny[$f] / $l, $nz[$f] / $l, $angle];
        }
        foreach ($around as $p => $normals) {
            $s = [0.0, 0.0, 0.0];
            foreach ($normals as [$a, $b, $c, $w]) {
                $s = [$s[0] + $w * $a, $s[1] + $w * $b, $s[2] + $w * $c];
            }
            $l = sqrt($s[0] ** 2 + $s[1] ** 2 + $s[2] ** 2);
            if ($l <= 1e-9) {
                continue;
            }
            $s = [$s[0] / $l, $s[1] / $l, $s[2] / $l];
            $sum = $weight = 0.0;
            foreach ($normals as [$a, $b, $c, $w]) {
                $sum += $w * ($a * $s[0] + $b * $s[1] + $c * $s[2]);
                $weight += $w;
            }
            $k = $distance / max(1.0 / 3.0, $sum / $weight);
            $x[$p] += $k * $s[0];
            $y[$p] += $k * $s[1];
            $z[$p] += $k * $s[2];
        }

        return [$x, $y, $z];
    }
}
