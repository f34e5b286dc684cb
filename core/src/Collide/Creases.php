<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Geometry\Mesh;

/** Where a surface stands out: its corners, its convex edges, and its rim where it is open, in its own coordinates. What is coarser than it may meet it there first. */
final readonly class Creases
{
    /** Sine of the angle from which on two faces do not count as flat. */
    private const BENT = 0.02;

    /**
     * @param  list<float>  $x  m, corners
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<float>  $nx  unit: which way the surface looks there
     * @param  list<float>  $ny
     * @param  list<float>  $nz
     * @param  list<int>  $edges  flat: corners at their ends
     * @param  list<float>  $ex  unit: which way the surface looks along each
     * @param  list<float>  $ey
     * @param  list<float>  $ez
     */
    private function __construct(
        public array $x,
        public array $y,
        public array $z,
        public array $nx,
        public array $ny,
        public array $nz,
        public array $edges,
        public array $ex,
        public array $ey,
        public array $ez,
    ) {
    }

    public static function of(Mesh $mesh): self
    {
        [$sum, $sides] = self::looked($mesh);
        $number = $edges = $ex = $ey = $ez = $rim = [];
        foreach ($sides as $key => $two) {
            if (count($two) === 1) {
                // The rim of an open surface stands out from it, in its plane.
                [$p, $q] = [$key >> 32, $key & 0xFFFFFFFF];
                $out = self::outOf($two[0][1], [$mesh->x[$p], $mesh->y[$p], $mesh->z[$p]], [$mesh->x[$q], $mesh->y[$q], $mesh->z[$q]]);
                foreach ([$p, $q] as $end) {
                    $edges[] = $number[$end] ??= count($number);
                    foreach ($out as $axis => $o) {
                        $rim[$end][$axis] = ($rim[$end][$axis] ?? 0.0) + $o;
                    }
                }
                [$ex[], $ey[], $ez[]] = $out;
            }
            if (count($two) !== 2) {
                continue;
            }
            [[$n], [$m, $apex]] = $two;
            $a = $key >> 32;
            // The other face falls away from this one.
            $beyond = self::minus($apex, [$mesh->x[$a], $mesh->y[$a], $mesh->z[$a]]);
            if ($beyond[0] * $n[0] + $beyond[1] * $n[1] + $beyond[2] * $n[2] >= 0.0 || self::sine($n, $m) < self::BENT) {
                continue;
            }
            $both = self::unit([$n[0] + $m[0], $n[1] + $m[1], $n[2] + $m[2]]);
            foreach ([$a, $key & 0xFFFFFFFF] as $p) {
                $edges[] = $number[$p] ??= count($number);
            }
            [$ex[], $ey[], $ez[]] = $both;
        }
        $x = $y = $z = $nx = $ny = $nz = [];
        foreach ($number as $p => $_) {
            [$x[], $y[], $z[]] = [$mesh->x[$p], $mesh->y[$p], $mesh->z[$p]];
            [$nx[], $ny[], $nz[]] = self::unit($rim[$p] ?? $sum[$p]);
        }

        return new self($x, $y, $z, $nx, $ny, $nz, $edges, $ex, $ey, $ez);
    }

    /**
     * @param  array{float, float, float}  $apex
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @return array{float, float, float} unit: across an edge, away from the corner beside it
     */
    private static function outOf(array $apex, array $a, array $b): array
    {
        $along = self::unit(self::minus($b, $a));
        $out = self::minus($a, $apex);
        $k = $out[0] * $along[0] + $out[1] * $along[1] + $out[2] * $along[2];

        return self::unit([$out[0] - $k * $along[0], $out[1] - $k * $along[1], $out[2] - $k * $along[2]]);
    }

    /**
     * @return array{array<int, array{float, float, float}>, array<int, list<array{array{float, float, float}, array{float, float, float}}>>} by point, what
     *   faces about it look towards, by their angles there (Thürmer & Wüthrich 1998); by edge, normal and far corner of each of its faces
     */
    private static function looked(Mesh $mesh): array
    {
        $known = $same = [];
        foreach ($mesh->x as $i => $x) {
            $same[] = $known[sprintf('%.7g %.7g %.7g', $x, $mesh->y[$i], $mesh->z[$i])] ??= $i;
        }
        $sum = $sides = [];
        for ($f = 0, $n = count($mesh->faces); $f < $n; $f += 3) {
            $corners = [$same[$mesh->faces[$f]], $same[$mesh->faces[$f + 1]], $same[$mesh->faces[$f + 2]]];
            $at = array_map(static fn (int $p): array => [$mesh->x[$p], $mesh->y[$p], $mesh->z[$p]], $corners);
            $normal = self::unit(self::cross(self::minus($at[1], $at[0]), self::minus($at[2], $at[0])));
            if ($normal === [0.0, 0.0, 0.0]) {
                continue;
            }
            foreach ([0, 1, 2] as $k) {
                [$p, $q] = [$corners[$k], $corners[($k + 1) % 3]];
                $u = self::unit(self::minus($at[($k + 1) % 3], $at[$k]));
                $v = self::unit(self::minus($at[($k + 2) % 3], $at[$k]));
                $angle = acos(max(-1.0, min(1.0, $u[0] * $v[0] + $u[1] * $v[1] + $u[2] * $v[2])));
                foreach ([0, 1, 2] as $axis) {
                    $sum[$p][$axis] = ($sum[$p][$axis] ?? 0.0) + $angle * $normal[$axis];
                }
                $sides[min($p, $q) << 32 | max($p, $q)][] = [$normal, $at[($k + 2) % 3]];
            }
        }

        return [$sum, $sides];
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @return array{float, float, float}
     */
    private static function minus(array $a, array $b): array
    {
        return [$a[0] - $b[0], $a[1] - $b[1], $a[2] - $b[2]];
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @return array{float, float, float}
     */
    private static function cross(array $a, array $b): array
    {
        return [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     */
    private static function sine(array $a, array $b): float
    {
        [$x, $y, $z] = self::cross($a, $b);

        return sqrt($x * $x + $y * $y + $z * $z);
    }

    /**
     * @param  array<int, float>  $a  three
     * @return array{float, float, float} nothing where it has no length
     */
    private static function unit(array $a): array
    {
        $l = sqrt($a[0] * $a[0] + $a[1] * $a[1] + $a[2] * $a[2]);

        return $l > 1e-18 ? [$a[0] / $l, $a[1] / $l, $a[2] / $l] : [0.0, 0.0, 0.0];
    }
}
