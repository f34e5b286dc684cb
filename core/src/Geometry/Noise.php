<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

use YardBreak\Core\SeededRandom;

/** Improved gradient noise (Perlin 2002, "Improving noise"), with his permutation or one of a seed. */
final class Noise
{
    /** Ken Perlin's own permutation. */
    private const PERLIN = [
        151, 160, 137, 91, 90, 15, 131, 13, 201, 95, 96, 53, 194, 233, 7, 225, 140, 36, 103, 30, 69, 142, 8, 99, 37, 240, 21, 10, 23, 190, 6, 148,
        247, 120, 234, 75, 0, 26, 197, 62, 94, 252, 219, 203, 117, 35, 11, 32, 57, 177, 33, 88, 237, 149, 56, 87, 174, 20, 125, 136, 171, 168, 68,
        175, 74, 165, 71, 134, 139, 48, 27, 166, 77, 146, 158, 231, 83, 111, 229, 122, 60, 211, 133, 230, 220, 105, 92, 41, 55, 46, 245, 40, 244, 102,
        143, 54, 65, 25, 63, 161, 1, 216, 80, 73, 209, 76, 132, 187, 208, 89, 18, 169, 200, 196, 135, 130, 116, 188, 159, 86, 164, 100, 109, 198, 173,
        186, 3, 64, 52, 217, 226, 250, 124, 123, 5, 202, 38, 147, 118, 126, 255, 82, 85, 212, 207, 206, 59, 227, 47, 16, 58, 17, 182, 189, 28, 42,
        223, 183, 170, 213, 119, 248, 152, 2, 44, 154, 163, 70, 221, 153, 101, 155, 167, 43, 172, 9, 129, 22, 39, 253, 19, 98, 108, 110, 79, 113, 224,
        232, 178, 185, 112, 104, 218, 246, 97, 228, 251, 34, 242, 193, 238, 210, 144, 12, 191, 179, 162, 241, 81, 51, 145, 235, 249, 14, 239, 107, 49,
        192, 214, 31, 181, 199, 106, 157, 184, 84, 204, 176, 115, 121, 50, 45, 127, 4, 150, 254, 138, 236, 205, 93, 222, 114, 67, 29, 24, 72, 243,
        141, 128, 195, 78, 66, 215, 61, 156, 180,
    ];

    /** What each of the sixteen gradients has along x, y and z. */
    private const SLOPE_X = [1.0, -1.0, 1.0, -1.0, 1.0, -1.0, 1.0, -1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, -1.0, 0.0];

    private const SLOPE_Y = [1.0, 1.0, -1.0, -1.0, 0.0, 0.0, 0.0, 0.0, 1.0, -1.0, 1.0, -1.0, 1.0, -1.0, 1.0, -1.0];

    private const SLOPE_Z = [0.0, 0.0, 0.0, 0.0, 1.0, 1.0, -1.0, -1.0, 1.0, 1.0, -1.0, -1.0, 0.0, 1.0, 0.0, -1.0];

    /** @var list<int> twice the permutation, so that sums need no wrapping */
    private readonly array $p;

    public function __construct(?SeededRandom $random = null)
    {
        $p = self::PERLIN;
        if ($random !== null) {
            for ($i = 255; $i > 0; $i--) {
                $k = (int) ($random->share() * ($i + 1));
                [$p[$i], $p[$k]] = [$p[$k], $p[$i]];
            }
        }
        $this->p = array_merge($p, $p);
    }

    /** @return float about −1…1, zero where all three are whole */
    public function at(float $x, float $y, float $z): float
    {
        $p = $this->p;
        $fx = floor($x);
        $fy = floor($y);
        $fz = floor($z);
        $i = (int) $fx & 255;
        $j = (int) $fy & 255;
        $k = (int) $fz & 255;
        $x -= $fx;
        $y -= $fy;
        $z -= $fz;
        $u = $x * $x * $x * ($x * ($x * 6.0 - 15.0) + 10.0);
        $v = $y * $y * $y * ($y * ($y * 6.0 - 15.0) + 10.0);
        $w = $z * $z * $z * ($z * ($z * 6.0 - 15.0) + 10.0);
        $a = $p[$i] + $j;
        $aa = $p[$a] + $k;
        $ab = $p[$a + 1] + $k;
        $b = $p[$i + 1] + $j;
        $ba = $p[$b] + $k;
        $bb = $p[$b + 1] + $k;
        $low = self::mix(
            $v,
            self::mix($u, self::slope($p[$aa], $x, $y, $z), self::slope($p[$ba], $x - 1.0, $y, $z)),
            self::mix($u, self::slope($p[$ab], $x, $y - 1.0, $z), self::slope($p[$bb], $x - 1.0, $y - 1.0, $z)),
        );
        $high = self::mix(
            $v,
            self::mix($u, self::slope($p[$aa + 1], $x, $y, $z - 1.0), self::slope($p[$ba + 1], $x - 1.0, $y, $z - 1.0)),
            self::mix($u, self::slope($p[$ab + 1], $x, $y - 1.0, $z - 1.0), self::slope($p[$bb + 1], $x - 1.0, $y - 1.0, $z - 1.0)),
        );

        return self::mix($w, $low, $high);
    }

    /**
     * The same on one of the planes z = 0, 1, 2 …, at less than half the cost.
     *
     * @return float what `at` gives there
     */
    public function onPlane(float $x, float $y, int $z): float
    {
        $p = $this->p;
        $gx = self::SLOPE_X;
        $gy = self::SLOPE_Y;
        $fx = floor($x);
        $fy = floor($y);
        $i = (int) $fx & 255;
        $j = (int) $fy & 255;
        $k = $z & 255;
        $x -= $fx;
        $y -= $fy;
        $u = $x * $x * $x * ($x * ($x * 6.0 - 15.0) + 10.0);
        $v = $y * $y * $y * ($y * ($y * 6.0 - 15.0) + 10.0);
        $a = $p[$i] + $j;
        $b = $p[$i + 1] + $j;
        $h = $p[$p[$a] + $k] & 15;
        $s = $gx[$h] * $x + $gy[$h] * $y;
        $h = $p[$p[$b] + $k] & 15;
        $s += $u * ($gx[$h] * ($x - 1.0) + $gy[$h] * $y - $s);
        $h = $p[$p[$a + 1] + $k] & 15;
        $t = $gx[$h] * $x + $gy[$h] * ($y - 1.0);
        $h = $p[$p[$b + 1] + $k] & 15;
        $t += $u * ($gx[$h] * ($x - 1.0) + $gy[$h] * ($y - 1.0) - $t);

        return $s + $v * ($t - $s);
    }

    /** @return array{float, float, float} how it rises along x, y and z: its derivatives, exact */
    public function slopesAt(float $x, float $y, float $z): array
    {
        $p = $this->p;
        $gx = self::SLOPE_X;
        $gy = self::SLOPE_Y;
        $gz = self::SLOPE_Z;
        $fx = floor($x);
        $fy = floor($y);
        $fz = floor($z);
        $i = (int) $fx & 255;
        $j = (int) $fy & 255;
        $k = (int) $fz & 255;
        $x -= $fx;
        $y -= $fy;
        $z -= $fz;
        $u = $x * $x * $x * ($x * ($x * 6.0 - 15.0) + 10.0);
        $v = $y * $y * $y * ($y * ($y * 6.0 - 15.0) + 10.0);
        $w = $z * $z * $z * ($z * ($z * 6.0 - 15.0) + 10.0);
        $a = $p[$i] + $j;
        $b = $p[$i + 1] + $j;
        $c0 = $p[$p[$a] + $k] & 15;
        $c1 = $p[$p[$b] + $k] & 15;
        $c2 = $p[$p[$a + 1] + $k] & 15;
        $c3 = $p[$p[$b + 1] + $k] & 15;
        $c4 = $p[$p[$a] + $k + 1] & 15;
        $c5 = $p[$p[$b] + $k + 1] & 15;
        $c6 = $p[$p[$a + 1] + $k + 1] & 15;
        $c7 = $p[$p[$b + 1] + $k + 1] & 15;
        $x1 = $x - 1.0;
        $y1 = $y - 1.0;
        $z1 = $z - 1.0;
        $n0 = $gx[$c0] * $x + $gy[$c0] * $y + $gz[$c0] * $z;
        $n1 = $gx[$c1] * $x1 + $gy[$c1] * $y + $gz[$c1] * $z;
        $n2 = $gx[$c2] * $x + $gy[$c2] * $y1 + $gz[$c2] * $z;
        $n3 = $gx[$c3] * $x1 + $gy[$c3] * $y1 + $gz[$c3] * $z;
        $n4 = $gx[$c4] * $x + $gy[$c4] * $y + $gz[$c4] * $z1;
        $n5 = $gx[$c5] * $x1 + $gy[$c5] * $y + $gz[$c5] * $z1;
        $n6 = $gx[$c6] * $x + $gy[$c6] * $y1 + $gz[$c6] * $z1;
        $n7 = $gx[$c7] * $x1 + $gy[$c7] * $y1 + $gz[$c7] * $z1;
        // What each corner counts.
        $u1 = 1.0 - $u;
        $v1 = 1.0 - $v;
        $w1 = 1.0 - $w;
        $k0 = $u1 * $v1 * $w1;
        $k1 = $u * $v1 * $w1;
        $k2 = $u1 * $v * $w1;
        $k3 = $u * $v * $w1;
        $k4 = $u1 * $v1 * $w;
        $k5 = $u * $v1 * $w;
        $k6 = $u1 * $v * $w;
        $k7 = $u * $v * $w;
        $du = 30.0 * $x * $x * $x1 * $x1;
        $dv = 30.0 * $y * $y * $y1 * $y1;
        $dw = 30.0 * $z * $z * $z1 * $z1;

        return [
            $k0 * $gx[$c0] + $k1 * $gx[$c1] + $k2 * $gx[$c2] + $k3 * $gx[$c3] + $k4 * $gx[$c4] + $k5 * $gx[$c5] + $k6 * $gx[$c6] + $k7 * $gx[$c7]
                + $du * ($v1 * $w1 * ($n1 - $n0) + $v * $w1 * ($n3 - $n2) + $v1 * $w * ($n5 - $n4) + $v * $w * ($n7 - $n6)),
            $k0 * $gy[$c0] + $k1 * $gy[$c1] + $k2 * $gy[$c2] + $k3 * $gy[$c3] + $k4 * $gy[$c4] + $k5 * $gy[$c5] + $k6 * $gy[$c6] + $k7 * $gy[$c7]
                + $dv * ($u1 * $w1 * ($n2 - $n0) + $u * $w1 * ($n3 - $n1) + $u1 * $w * ($n6 - $n4) + $u * $w * ($n7 - $n5)),
            $k0 * $gz[$c0] + $k1 * $gz[$c1] + $k2 * $gz[$c2] + $k3 * $gz[$c3] + $k4 * $gz[$c4] + $k5 * $gz[$c5] + $k6 * $gz[$c6] + $k7 * $gz[$c7]
                + $dw * ($u1 * $v1 * ($n4 - $n0) + $u * $v1 * ($n5 - $n1) + $u1 * $v * ($n6 - $n2) + $u * $v * ($n7 - $n3)),
        ];
    }

    private static function mix(float $t, float $a, float $b): float
    {
        return $a + $t * ($b - $a);
    }

    private static function slope(int $hash, float $x, float $y, float $z): float
    {
        $h = $hash & 15;
        $u = $h < 8 ? $x : $y;
        $v = $h < 4 ? $y : ($h === 12 || $h === 14 ? $x : $z);

        return (($h & 1) === 0 ? $u : -$u) + (($h & 2) === 0 ? $v : -$v);
    }
}
