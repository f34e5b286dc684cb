<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\SeededRandom;

/** Roughness of inner walls that dies out towards their rims, so that what meets there still fits. */
final readonly class Relief
{
    /** A wall may rise no faster from its rim than this, or walls that meet sharply would cross. */
    private const STEEPNESS = 0.3;

    /** Edges no shorter than this, in units of the frame; walls thinner than that stay flat. */
    private const FINEST = 0.012;

    /**
     * @param  float  $height  of the relief, in units of the frame
     * @param  float  $wave  length of its longest waves
     * @param  float  $step  edge length of the triangles that carry it
     */
    public function __construct(private Noise $noise, private float $height, private float $wave, private float $step)
    {
    }

    /**
     * @param  float  $roughness  0…1
     * @param  float  $size  of what is broken, in units of the frame
     */
    public static function of(float $roughness, float $size, SeededRandom $random): self
    {
        return new self(new Noise($random), 0.25 * $roughness * $size, 0.5 * $size, max(self::FINEST, 0.12 * $size));
    }

    /**
     * The triangles of a wall with points strewn in and lifted.
     *
     * @param  list<int>  $tri  flat triples
     * @param  array<int, float>  $u  coordinates in the wall's plane by point
     * @param  array<int, float>  $v
     * @param  array{float, float, float}  $a  the axis of u
     * @param  array{float, float, float}  $b  the axis of v
     * @param  array{float, float, float}  $n  the wall's normal
     * @param  list<float>  $px  the new points are appended
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @return list<int>
     */
    public function over(array $tri, array $u, array $v, array $a, array $b, array $n, array &$px, array &$py, array &$pz): array
    {
        $rim = self::rim($tri);
        $k = 1.0 / $this->wave;
        $height = $this->height;
        $noise = $this->noise;

        return self::filled($tri, $u, $v, $a, $b, $n, $px, $py, $pz, $this->step, static function (
            float $pu,
            float $pv,
            float $x,
            float $y,
            float $z,
        ) use ($rim, $u, $v, $k, $height, $noise): float {
            $most = self::STEEPNESS * sqrt(self::nearest($rim, $u, $v, $pu, $pv));
            $h = $height * ($noise->at($x * $k, $y * $k, $z * $k) + 0.5 * $noise->at(2.0 * $x * $k, 2.0 * $y * $k, 2.0 * $z * $k));

            return $h > $most ? $most : ($h < -$most ? -$most : $h);
        });
    }

    /**
     * The triangles of a wall with points strewn in, so that those with a short side at the rim do not reach far across.
     *
     * @param  list<int>  $tri  flat triples
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @param  array{float, float, float}  $n
     * @param  list<float>  $px
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  (\Closure(float, float, float, float, float): float)|null  $lift  how far a point is lifted, from its place in the wall and in space
     * @return list<int>
     */
    public static function filled(
        array $tri, array $u, array $v, array $a, array $b, array $n, array &$px, array &$py, array &$pz, float $step, ?\Closure $lift = null,
    ): array {
        $first = array_key_first($u);
        $d = $n[0] * $px[$first] + $n[1] * $py[$first] + $n[2] * $pz[$first];
        $filled = new FilledTriangulation($tri, $u, $v);
        foreach ($filled->fill($step, count($px)) as [$pu, $pv]) {
            $x = $a[0] * $pu + $b[0] * $pv + $n[0] * $d;
            $y = $a[1] * $pu + $b[1] * $pv + $n[1] * $d;
            $z = $a[2] * $pu + $b[2] * $pv + $n[2] * $d;
            $h = $lift === null ? 0.0 : $lift($pu, $pv, $x, $y, $z);
            $px[] = $x + $h * $n[0];
            $py[] = $y + $h * $n[1];
            $pz[] = $z + $h * $n[2];
        }

        return $filled->triangles();
    }

    /**
     * @param  list<int>  $tri
     * @return list<array{int, int}> edges with a triangle on one side only
     */
    private static function rim(array $tri): array
    {
        $edges = [];
        for ($i = 0, $n = count($tri); $i < $n; $i++) {
            $edges[$tri[$i] << 31 | $tri[$i % 3 === 2 ? $i - 2 : $i + 1]] = true;
        }
        $rim = [];
        foreach ($edges as $edge => $_) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            if (! isset($edges[$q << 31 | $p])) {
                $rim[] = [$p, $q];
            }
        }

        return $rim;
    }

    /**
     * Squared distance to the rim.
     *
     * @param  list<array{int, int}>  $rim
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     */
    private static function nearest(array $rim, array $u, array $v, float $pu, float $pv): float
    {
        $best = INF;
        foreach ($rim as [$p, $q]) {
            $eu = $u[$q] - $u[$p];
            $ev = $v[$q] - $v[$p];
            $du = $pu - $u[$p];
            $dv = $pv - $v[$p];
            $t = ($du * $eu + $dv * $ev) / max(1e-300, $eu * $eu + $ev * $ev);
            $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);
            $d = ($du - $t * $eu) ** 2 + ($dv - $t * $ev) ** 2;
            $best = $d < $best ? $d : $best;
        }

        return $best;
    }
}
