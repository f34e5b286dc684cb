<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

/** How far two true surfaces are apart: both trees are gone down together, nearer halves first. */
final class SurfaceGap
{
    /** Corners of a triangle as pairs of its sides. */
    private const SIDES = [[0, 1], [1, 2], [2, 0]];

    /** Metres in the first's axes, 0 where they cross, −1 where the one lies within the other; what was enough where they are farther apart. */
    public float $least;

    /** @var array{array{float, float, float}, array{float, float, float}}|null where they are nearest, on the one and on the other, in the first's axes */
    public ?array $places = null;

    /**
     * @param  array<int, float>  $m  turn of the second seen from the first, times its size in that of the first
     * @param  array{float, float, float}  $at  where its middle is
     */
    private function __construct(
        private readonly ContactSurface $one,
        private readonly ContactSurface $other,
        private readonly array $m,
        private readonly array $at,
        float $enough,
    ) {
        $this->least = $enough;
    }

    /**
     * @param  array<int, float>  $m  turn of the second seen from the first, times its size in that of the first
     * @param  array{float, float, float}  $at  where its middle is
     * @param  float  $enough  metres: what is farther apart may be told as this
     */
    public static function between(ContactSurface $one, ContactSurface $other, array $m, array $at, float $enough): self
    {
        $gap = new self($one, $other, $m, $at, $enough);
        if ($one->from !== [] && $other->from !== []) {
            $gap->descend(0, 0);
        }
        if ($gap->least > 0.0 && $gap->isWithin()) {
            $gap->least = -1.0;
        }

        return $gap;
    }

    /** @return float metres from a place to the nearest of a surface, below zero inside one that is closed; or any not below `$enough` */
    public static function to(ContactSurface $s, float $x, float $y, float $z, float $enough): float
    {
        $best = $enough * $enough;
        $side = 1.0;
        $judged = INF;
        for ($node = 0, $n = count($s->from); $node < $n;) {
            $k = 6 * $node;
            $dx = max($s->boxes[$k] - $x, 0.0, $x - $s->boxes[$k + 1]);
            $dy = max($s->boxes[$k + 2] - $y, 0.0, $y - $s->boxes[$k + 3]);
            $dz = max($s->boxes[$k + 4] - $z, 0.0, $z - $s->boxes[$k + 5]);
            if ($dx * $dx + $dy * $dy + $dz * $dz > $best) {
                $node = $s->skip[$node];

                continue;
            }
            if ($s->from[$node] >= 0) {
                for ($k = $s->from[$node]; $k < $s->to[$node]; $k++) {
                    $f = $s->order[$k];
                    [$qx, $qy, $qz] = $s->nearestOn($f, $x, $y, $z);
                    $d = ($x - $qx) ** 2 + ($y - $qy) ** 2 + ($z - $qz) ** 2;
                    $front = ($x - $qx) * $s->normals[3 * $f] + ($y - $qy) * $s->normals[3 * $f + 1] + ($z - $qz) * $s->normals[3 * $f + 2];
                    // Of faces equally near, the one it stands over most tells the side.
                    $judge = $d - 1e-6 * $front * $front;
                    if ($judge < $judged && $d <= $best + 1e-18) {
                        $judged = $judge;
                        $side = $front < 0.0 ? -1.0 : 1.0;
                    }
                    $best = min($best, $d);
                }
            }
            $node++;
        }

        return ($s->closed ? $side : 1.0) * sqrt($best);
    }

    private function descend(int $a, int $b): void
    {
        $one = $this->one;
        $other = $this->other;
        if ($this->apart($a, $b) >= $this->least) {
            return;
        }
        $leafA = $one->from[$a] >= 0;
        $leafB = $other->from[$b] >= 0;
        if ($leafA && $leafB) {
            for ($i = $one->from[$a]; $i < $one->to[$a]; $i++) {
                for ($k = $other->from[$b]; $k < $other->to[$b]; $k++) {
                    $this->faces($one->order[$i], $other->order[$k]);
                }
            }

            return;
        }
        // The larger of the two is halved.
        $halves = ! $leafA && ($leafB || self::width($one, $a) > self::width($other, $b))
            ? [[$a + 1, $b], [$one->skip[$a + 1], $b]]
            : [[$a, $b + 1], [$a, $other->skip[$b + 1]]];
        if ($this->apart(...$halves[1]) < $this->apart(...$halves[0])) {
            $halves = [$halves[1], $halves[0]];
        }
        foreach ($halves as [$p, $q]) {
            $this->descend($p, $q);
        }
    }

    private static function width(ContactSurface $s, int $node): float
    {
        $k = 6 * $node;

        return ($s->boxes[$k + 1] - $s->boxes[$k]) + ($s->boxes[$k + 3] - $s->boxes[$k + 2]) + ($s->boxes[$k + 5] - $s->boxes[$k + 4]);
    }

    /** Metres two nodes are apart at least: the box of the one and a box round that of the other. */
    private function apart(int $a, int $b): float
    {
        $p = $this->one->boxes;
        $q = $this->other->boxes;
        $sum = 0.0;
        for ($axis = 0; $axis < 3; $axis++) {
            $middle = $this->at[$axis];
            $half = 0.0;
            for ($k = 0; $k < 3; $k++) {
                $low = $q[6 * $b + 2 * $k];
                $high = $q[6 * $b + 2 * $k + 1];
                $middle += $this->m[3 * $axis + $k] * 0.5 * ($low + $high);
                $half += abs($this->m[3 * $axis + $k]) * 0.5 * ($high - $low);
            }
            $d = max($p[6 * $a + 2 * $axis] - $middle - $half, 0.0, $middle - $half - $p[6 * $a + 2 * $axis + 1]);
            $sum += $d * $d;
        }

        return sqrt($sum);
    }

    private function faces(int $f, int $g): void
    {
        $a = $b = [];
        for ($k = 0; $k < 3; $k++) {
            $p = $this->one->faces[3 * $f + $k];
            $a[] = [$this->one->x[$p], $this->one->y[$p], $this->one->z[$p]];
            $b[] = $this->placed($this->other->faces[3 * $g + $k]);
        }
        // Two triangles that do not cross are nearest at a corner of one, or at two of their sides.
        foreach ([[$a, $b], [$b, $a]] as [$these, $those]) {
            foreach ($these as $point) {
                $near = ContactSurface::nearestOf($those[0], $those[1], $those[2], ...$point);
                $this->nearer(...($these === $a ? [$point, $near] : [$near, $point]));
            }
            foreach (self::SIDES as [$i, $k]) {
                $place = self::crossing($these[$i], $these[$k], $those);
                if ($place !== null) {
                    $this->least = 0.0;
                    $this->places = [$place, $place];

                    return;
                }
            }
        }
        foreach (self::SIDES as [$i, $k]) {
            foreach (self::SIDES as [$m, $n]) {
                $this->nearer(...self::sides($a[$i], $a[$k], $b[$m], $b[$n]));
            }
        }
    }

    /** @return array{float, float, float} a point of the second, seen from the first */
    private function placed(int $p): array
    {
        $x = $this->other->x[$p];
        $y = $this->other->y[$p];
        $z = $this->other->z[$p];

        return [
            $this->m[0] * $x + $this->m[1] * $y + $this->m[2] * $z + $this->at[0],
            $this->m[3] * $x + $this->m[4] * $y + $this->m[5] * $z + $this->at[1],
            $this->m[6] * $x + $this->m[7] * $y + $this->m[8] * $z + $this->at[2],
        ];
    }

    /** Whether the one lies wholly within the other, if they do not cross. */
    private function isWithin(): bool
    {
        $one = $this->one;
        $other = $this->other;
        if ($one->closed && $other->x !== [] && self::to($one, ...[...$this->placed(0), $one->size]) < 0.0) {
            return true;
        }
        if (! $other->closed || $one->x === []) {
            return false;
        }
        // Seen from the second: turned back, and by its size.
        $m = $this->m;
        $size = $m[0] * $m[0] + $m[3] * $m[3] + $m[6] * $m[6];
        $x = $one->x[0] - $this->at[0];
        $y = $one->y[0] - $this->at[1];
        $z = $one->z[0] - $this->at[2];

        return self::to(
            $other, ($m[0] * $x + $m[3] * $y + $m[6] * $z) / $size, ($m[1] * $x + $m[4] * $y + $m[7] * $z) / $size,
            ($m[2] * $x + $m[5] * $y + $m[8] * $z) / $size, $other->size,
        ) < 0.0;
    }

    /**
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}  $q
     */
    private function nearer(array $p, array $q): void
    {
        $d = sqrt(($p[0] - $q[0]) ** 2 + ($p[1] - $q[1]) ** 2 + ($p[2] - $q[2]) ** 2);
        if ($d < $this->least) {
            $this->least = $d;
            $this->places = [$p, $q];
        }
    }

    /**
     * Where a side goes through a triangle, if it does (Möller & Trumbore 1997, "Fast, minimum storage ray/triangle intersection").
     *
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}  $q
     * @param  list<array{float, float, float}>  $t
     * @return array{float, float, float}|null
     */
    private static function crossing(array $p, array $q, array $t): ?array
    {
        [$dx, $dy, $dz] = [$q[0] - $p[0], $q[1] - $p[1], $q[2] - $p[2]];
        [$ux, $uy, $uz] = [$t[1][0] - $t[0][0], $t[1][1] - $t[0][1], $t[1][2] - $t[0][2]];
        [$vx, $vy, $vz] = [$t[2][0] - $t[0][0], $t[2][1] - $t[0][1], $t[2][2] - $t[0][2]];
        [$hx, $hy, $hz] = [$dy * $vz - $dz * $vy, $dz * $vx - $dx * $vz, $dx * $vy - $dy * $vx];
        $det = $ux * $hx + $uy * $hy + $uz * $hz;
        if ($det === 0.0) {
            return null;
        }
        [$sx, $sy, $sz] = [$p[0] - $t[0][0], $p[1] - $t[0][1], $p[2] - $t[0][2]];
        $u = ($sx * $hx + $sy * $hy + $sz * $hz) / $det;
        [$kx, $ky, $kz] = [$sy * $uz - $sz * $uy, $sz * $ux - $sx * $uz, $sx * $uy - $sy * $ux];
        $v = ($dx * $kx + $dy * $ky + $dz * $kz) / $det;
        $w = ($vx * $kx + $vy * $ky + $vz * $kz) / $det;

        return $u >= 0.0 && $v >= 0.0 && $u + $v <= 1.0 && $w >= 0.0 && $w <= 1.0 ? [$p[0] + $w * $dx, $p[1] + $w * $dy, $p[2] + $w * $dz] : null;
    }

    /**
     * Where two straight sides are nearest (Ericson 2005, "Real-time collision detection", 5.1.9).
     *
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}  $q
     * @param  array{float, float, float}  $r
     * @param  array{float, float, float}  $s
     * @return array{array{float, float, float}, array{float, float, float}}
     */
    private static function sides(array $p, array $q, array $r, array $s): array
    {
        [$ux, $uy, $uz] = [$q[0] - $p[0], $q[1] - $p[1], $q[2] - $p[2]];
        [$vx, $vy, $vz] = [$s[0] - $r[0], $s[1] - $r[1], $s[2] - $r[2]];
        [$wx, $wy, $wz] = [$p[0] - $r[0], $p[1] - $r[1], $p[2] - $r[2]];
        $a = $ux * $ux + $uy * $uy + $uz * $uz;
        $e = $vx * $vx + $vy * $vy + $vz * $vz;
        $b = $ux * $vx + $uy * $vy + $uz * $vz;
        $c = $ux * $wx + $uy * $wy + $uz * $wz;
        $f = $vx * $wx + $vy * $wy + $vz * $wz;
        $det = $a * $e - $b * $b;
        $i = $det > 1e-15 * $a * $e ? min(1.0, max(0.0, ($b * $f - $c * $e) / $det)) : 0.0;
        $k = $e > 0.0 ? ($b * $i + $f) / $e : 0.0;
        if ($k < 0.0 || $k > 1.0) {
            $k = $k < 0.0 ? 0.0 : 1.0;
            $i = $a > 0.0 ? min(1.0, max(0.0, ($b * $k - $c) / $a)) : 0.0;
        }

        return [[$p[0] + $i * $ux, $p[1] + $i * $uy, $p[2] + $i * $uz], [$r[0] + $k * $vx, $r[1] + $k * $vy, $r[2] + $k * $vz]];
    }
}
