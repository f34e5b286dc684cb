<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/**
 * Cloth that moves: places and speeds of its points.
 *
 * Each sub-step is one linearised implicit Euler step (Baraff & Witkin 1998, "Large steps in cloth simulation") at the place the
 * points would come to: (M + (h² + hβ)K) Δ = h F − hβ K v, some rounds of conjugate gradients with `Levels`, begun with how each part as a
 * whole is pushed, so that what falls freely falls exactly. Membrane: Green strain, plane stress, the geometric term of tension only.
 * Bending: quadratic hinges (Bergou et al. 2006). What touches is part of the solve: its speed along the normal is set, and let go where
 * it would be drawn; friction is Coulomb's on what it presses.
 */
final class Sheet
{
    /** Ratio of Poisson of the membrane. */
    private const POISSON = 0.3;

    /** By which hinges are stiffened: free at its edges a strip of them bends by so much more than a beam (measured on the standard cantilever, three meshes). */
    private const BEAM = 1.13;

    /** Rounds of conjugate gradients at most: few where it moves gently, many where it is stiff. */
    private const ROUNDS = 30;

    /** Of the first residual, squared, at which it is solved: forces are taken anew in every sub-step, so that what is left is not lost. */
    private const SOLVED = 1e-2;

    /** m/s at most with which what lies too deep is pushed out. */
    public const PUSH = 0.5;

    /** m/s at most with which what is held again goes home. */
    public const HOME = 5.0;

    /** s in which partly held points come home. */
    private const HOLDS = 0.02;

    /** 1/s, the most of what holds partly. */
    private const STIFFEST = 400.0;

    /** Share from which a point is held outright. */
    public const HELD = 0.98;

    /** @var list<float> m */
    public array $x;

    /** @var list<float> */
    public array $y;

    /** @var list<float> */
    public array $z;

    /** @var list<float> m/s */
    public array $vx;

    /** @var list<float> */
    public array $vy;

    /** @var list<float> */
    public array $vz;

    private readonly Levels $levels;

    /** @var array<int, float> points that would have left what they touched in the last sub-step */
    private array $drawn = [];

    /** @var list<float> kg */
    public readonly array $mass;

    public function __construct(public readonly Weave $weave, float $weight)
    {
        $this->levels = Levels::of($weave);
        $this->x = $weave->x;
        $this->y = $weave->y;
        $this->z = $weave->z;
        $this->vx = $this->vy = $this->vz = array_fill(0, $weave->count(), 0.0);
        $this->mass = array_map(static fn (float $a): float => max(1e-9, $a * $weight), $weave->share);
    }

    /**
     * One sub-step.
     *
     * @param  Pull  $pull  what acts on it over the sub-step
     */
    public function step(float $h, ClothSettings $settings, Pull $pull): void
    {
        $n = $this->weave->count();
        $px = $py = $pz = [];
        for ($i = 0; $i < $n; $i++) {
            $px[] = $this->x[$i] + $h * $this->vx[$i];
            $py[] = $this->y[$i] + $h * $this->vy[$i];
            $pz[] = $this->z[$i] + $h * $this->vz[$i];
        }
        $diagonal = array_fill(0, 6 * $n, 0.0);
        $off = array_fill(0, 3 * count($this->weave->pairs), 0.0);
        [$fx, $fy, $fz] = [$pull->fx, $pull->fy, $pull->fz];
        [$fx, $fy, $fz, $diagonal, $off] = $this->membrane($px, $py, $pz, $fx, $fy, $fz, $diagonal, $off, $settings->stretch, $pull->growth);
        if ($settings->bend > 0.0) {
            [$fx, $fy, $fz, $diagonal, $off] = $this->bending($px, $py, $pz, $fx, $fy, $fz, $diagonal, $off, $settings->bend, $settings->keeps);
        }
        $beta = $pull->damping;
        [$kx, $ky, $kz] = self::product($diagonal, $off, $this->weave->pairs, $this->vx, $this->vy, $this->vz);
        $scale = $h * $h + $h * $beta;
        $bx = $by = $bz = [];
        for ($i = 0; $i < $n; $i++) {
            $bx[] = $h * ($fx[$i] - $beta * $kx[$i]);
            $by[] = $h * ($fy[$i] - $beta * $ky[$i]);
            $bz[] = $h * ($fz[$i] - $beta * $kz[$i]);
        }
        foreach ($off as $k => $v) {
            $off[$k] = $scale * $v;
        }
        for ($i = 0, $k = 0; $i < $n; $i++, $k += 6) {
            $own = $this->mass[$i] + $h * $pull->slows[$i];
            $diagonal[$k] = $scale * $diagonal[$k] + $own;
            $diagonal[$k + 1] = $scale * $diagonal[$k + 1] + $own;
            $diagonal[$k + 2] = $scale * $diagonal[$k + 2] + $own;
            $diagonal[$k + 3] *= $scale;
            $diagonal[$k + 4] *= $scale;
            $diagonal[$k + 5] *= $scale;
        }
        foreach ($pull->hold as $i => $hold) {
            if ($hold > 0.0 && $hold < self::HELD) {
                $this->draw($i, $h, $hold, $pull, $px, $py, $pz, $diagonal, $bx, $by, $bz);
            }
        }
        [$dx, $dy, $dz] = $this->solve($diagonal, $off, $bx, $by, $bz, $h, $pull);
        for ($i = 0; $i < $n; $i++) {
            $this->vx[$i] += $dx[$i];
            $this->vy[$i] += $dy[$i];
            $this->vz[$i] += $dz[$i];
        }
        foreach ($pull->off as [$i, $j, $least, $nx, $ny, $nz]) {
            $this->keepOff($i, $j, $least, $nx, $ny, $nz, $pull);
        }
        for ($i = 0; $i < $n; $i++) {
            $this->x[$i] += $h * $this->vx[$i];
            $this->y[$i] += $h * $this->vy[$i];
            $this->z[$i] += $h * $this->vz[$i];
        }
    }

    /**
     * Adds what stretching does.
     *
     * @param  list<float>  $px
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<float>  $fx
     * @param  list<float>  $fy
     * @param  list<float>  $fz
     * @param  list<float>  $diagonal
     * @param  list<float>  $off
     * @param  list<float>|null  $growth  times its rest length, by point; null for none
     * @return array{list<float>, list<float>, list<float>, list<float>, list<float>}
     */
    private function membrane(array $px, array $py, array $pz, array $fx, array $fy, array $fz, array $diagonal, array $off, float $stretch, ?array $growth): array
    {
        $faces = $this->weave->faces;
        $inverse = $this->weave->inverse;
        $areas = $this->weave->areas;
        $sides = $this->weave->sides;
        $c11 = $stretch / (1.0 - self::POISSON * self::POISSON);
        $c12 = self::POISSON * $c11;
        $c33 = 0.5 * (1.0 - self::POISSON) * $c11;
        for ($f = 0, $n = count($areas); $f < $n; $f++) {
            $a = $faces[3 * $f];
            $b = $faces[3 * $f + 1];
            $c = $faces[3 * $f + 2];
            $i0 = $inverse[4 * $f];
            $i1 = $inverse[4 * $f + 1];
            $i3 = $inverse[4 * $f + 3];
            $area = $areas[$f];
            if ($growth !== null) {
                $g = 3.0 / ($growth[$a] + $growth[$b] + $growth[$c]);
                $i0 *= $g;
                $i1 *= $g;
                $i3 *= $g;
                $area /= $g * $g;
            }
            $ux = $px[$b] - $px[$a];
            $uy = $py[$b] - $py[$a];
            $uz = $pz[$b] - $pz[$a];
            $wx = $px[$c] - $px[$a];
            $wy = $py[$c] - $py[$a];
            $wz = $pz[$c] - $pz[$a];
            // Columns of the deformation: along the first edge, and across.
            $rx = $i0 * $ux;
            $ry = $i0 * $uy;
            $rz = $i0 * $uz;
            $sx = $i1 * $ux + $i3 * $wx;
            $sy = $i1 * $uy + $i3 * $wy;
            $sz = $i1 * $uz + $i3 * $wz;
            $e11 = 0.5 * ($rx * $rx + $ry * $ry + $rz * $rz - 1.0);
            $e22 = 0.5 * ($sx * $sx + $sy * $sy + $sz * $sz - 1.0);
            $e12 = 0.5 * ($rx * $sx + $ry * $sy + $rz * $sz);
            $s11 = $c11 * $e11 + $c12 * $e22;
            $s22 = $c11 * $e22 + $c12 * $e11;
            $s12 = 2.0 * $c33 * $e12;
            // Slopes of the shape functions of b and c; a has what is left.
            $b1 = $i0;
            $b2 = $i1;
            $q2 = $i3;
            $a1 = -$b1;
            $a2 = -$b2 - $q2;
            $p1x = $area * ($s11 * $rx + $s12 * $sx);
            $p1y = $area * ($s11 * $ry + $s12 * $sy);
            $p1z = $area * ($s11 * $rz + $s12 * $sz);
            $p2x = $area * ($s12 * $rx + $s22 * $sx);
            $p2y = $area * ($s12 * $ry + $s22 * $sy);
            $p2z = $area * ($s12 * $rz + $s22 * $sz);
            $tx = $b1 * $p1x + $b2 * $p2x;
            $ty = $b1 * $p1y + $b2 * $p2y;
            $tz = $b1 * $p1z + $b2 * $p2z;
            $gx = $q2 * $p2x;
            $gy = $q2 * $p2y;
            $gz = $q2 * $p2z;
            $fx[$b] -= $tx;
            $fy[$b] -= $ty;
            $fz[$b] -= $tz;
            $fx[$c] -= $gx;
            $fy[$c] -= $gy;
            $fz[$c] -= $gz;
            $fx[$a] += $tx + $gx;
            $fy[$a] += $ty + $gy;
            $fz[$a] += $tz + $gz;
            // Only tension stiffens; what is pressed would make the matrix lose its sign.
            $mean = 0.5 * ($s11 + $s22);
            $radius = sqrt(0.25 * ($s11 - $s22) ** 2 + $s12 * $s12);
            if ($mean - $radius >= 0.0) {
                $t11 = $s11;
                $t22 = $s22;
                $t12 = $s12;
            } elseif ($mean + $radius <= 0.0) {
                $t11 = $t22 = $t12 = 0.0;
            } else {
                // The one direction that is drawn.
                $most = $mean + $radius;
                $k = $most / (2.0 * $radius);
                $t11 = $k * ($s11 - $mean + $radius);
                $t22 = $k * ($s22 - $mean + $radius);
                $t12 = $k * $s12;
            }
            $rrx = $area * $rx * $rx;
            $rry = $area * $ry * $ry;
            $rrz = $area * $rz * $rz;
            $rxy = $area * $rx * $ry;
            $ryz = $area * $ry * $rz;
            $rzx = $area * $rz * $rx;
            $ssx = $area * $sx * $sx;
            $ssy = $area * $sy * $sy;
            $ssz = $area * $sz * $sz;
            $sxy = $area * $sx * $sy;
            $syz = $area * $sy * $sz;
            $szx = $area * $sz * $sx;
            $mxx = 2.0 * $area * $rx * $sx;
            $myy = 2.0 * $area * $ry * $sy;
            $mzz = 2.0 * $area * $rz * $sz;
            $mxy = $area * ($rx * $sy + $ry * $sx);
            $myz = $area * ($ry * $sz + $rz * $sy);
            $mzx = $area * ($rz * $sx + $rx * $sz);
            // b with b, c with c, then a with b, b with c, c with a; what a has with itself is what balances it.
            $k1 = $a1;
            $k2 = $a2;
            $l1 = $b1;
            $l2 = $b2;
            for ($e = 0; $e < 3; $e++) {
                $p = $c11 * $k1 * $l1 + $c33 * $k2 * $l2;
                $q = $c11 * $k2 * $l2 + $c33 * $k1 * $l1;
                $m = 0.5 * ($c12 + $c33) * ($k1 * $l2 + $k2 * $l1);
                $g = $area * ($t11 * $k1 * $l1 + $t22 * $k2 * $l2 + $t12 * ($k1 * $l2 + $k2 * $l1));
                $xx = $p * $rrx + $q * $ssx + $m * $mxx + $g;
                $yy = $p * $rry + $q * $ssy + $m * $myy + $g;
                $zz = $p * $rrz + $q * $ssz + $m * $mzz + $g;
                $xy = $p * $rxy + $q * $sxy + $m * $mxy;
                $yz = $p * $ryz + $q * $syz + $m * $myz;
                $zx = $p * $rzx + $q * $szx + $m * $mzx;
                $i = 6 * $sides[3 * $f + $e];
                $off[$i] += $xx;
                $off[$i + 1] += $yy;
                $off[$i + 2] += $zz;
                $off[$i + 3] += $xy;
                $off[$i + 4] += $yz;
                $off[$i + 5] += $zx;
                // Rows sum to nothing: moved as a whole nothing resists.
                $i = 6 * ($e === 0 ? $a : ($e === 1 ? $b : $c));
                $j = 6 * ($e === 0 ? $b : ($e === 1 ? $c : $a));
                $diagonal[$i] -= $xx;
                $diagonal[$i + 1] -= $yy;
                $diagonal[$i + 2] -= $zz;
                $diagonal[$i + 3] -= $xy;
                $diagonal[$i + 4] -= $yz;
                $diagonal[$i + 5] -= $zx;
                $diagonal[$j] -= $xx;
                $diagonal[$j + 1] -= $yy;
                $diagonal[$j + 2] -= $zz;
                $diagonal[$j + 3] -= $xy;
                $diagonal[$j + 4] -= $yz;
                $diagonal[$j + 5] -= $zx;
                if ($e === 0) {
                    $k1 = $b1;
                    $k2 = $b2;
                    $l1 = 0.0;
                    $l2 = $q2;
                } else {
                    $k1 = 0.0;
                    $k2 = $q2;
                    $l1 = $a1;
                    $l2 = $a2;
                }
            }
        }

        return [$fx, $fy, $fz, $diagonal, $off];
    }

    /**
     * Adds what bending does.
     *
     * @param  list<float>  $px
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<float>  $fx
     * @param  list<float>  $fy
     * @param  list<float>  $fz
     * @param  list<float>  $diagonal
     * @param  list<float>  $off
     * @return array{list<float>, list<float>, list<float>, list<float>, list<float>}
     */
    private function bending(array $px, array $py, array $pz, array $fx, array $fy, array $fz, array $diagonal, array $off, float $rigid, bool $keeps): array
    {
        $hinges = $this->weave->hinges;
        $bends = $this->weave->bends;
        $wide = $this->weave->wide;
        $bent = $this->weave->bent;
        for ($h = 0, $n = count($wide); $h < $n; $h++) {
            $o = 10 * $h;
            $a = $hinges[$o];
            $b = $hinges[$o + 1];
            $c = $hinges[$o + 2];
            $d = $hinges[$o + 3];
            $ka = $bends[4 * $h];
            $kb = $bends[4 * $h + 1];
            $kc = $bends[4 * $h + 2];
            $kd = $bends[4 * $h + 3];
            $k = self::BEAM * $rigid / $wide[$h];
            $lx = $ka * $px[$a] + $kb * $px[$b] + $kc * $px[$c] + $kd * $px[$d];
            $ly = $ka * $py[$a] + $kb * $py[$b] + $kc * $py[$c] + $kd * $py[$d];
            $lz = $ka * $pz[$a] + $kb * $pz[$b] + $kc * $pz[$c] + $kd * $pz[$d];
            if ($keeps && ($bent[$h] > 1e-12 || $bent[$h] < -1e-12)) {
                // Towards as much along the normal as it has now.
                $ex = $px[$b] - $px[$a];
                $ey = $py[$b] - $py[$a];
                $ez = $pz[$b] - $pz[$a];
                $cx = $px[$c] - $px[$d];
                $cy = $py[$c] - $py[$d];
                $cz = $pz[$c] - $pz[$d];
                $nx = $ey * $cz - $ez * $cy;
                $ny = $ez * $cx - $ex * $cz;
                $nz = $ex * $cy - $ey * $cx;
                $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                if ($l > 1e-18) {
                    $l = $bent[$h] / $l;
                    $lx -= $l * $nx;
                    $ly -= $l * $ny;
                    $lz -= $l * $nz;
                }
            }
            $lx *= $k;
            $ly *= $k;
            $lz *= $k;
            $fx[$a] -= $ka * $lx;
            $fy[$a] -= $ka * $ly;
            $fz[$a] -= $ka * $lz;
            $fx[$b] -= $kb * $lx;
            $fy[$b] -= $kb * $ly;
            $fz[$b] -= $kb * $lz;
            $fx[$c] -= $kc * $lx;
            $fy[$c] -= $kc * $ly;
            $fz[$c] -= $kc * $lz;
            $fx[$d] -= $kd * $lx;
            $fy[$d] -= $kd * $ly;
            $fz[$d] -= $kd * $lz;
            $v = $k * $ka * $ka;
            $i = 6 * $a;
            $diagonal[$i] += $v;
            $diagonal[$i + 1] += $v;
            $diagonal[$i + 2] += $v;
            $v = $k * $kb * $kb;
            $i = 6 * $b;
            $diagonal[$i] += $v;
            $diagonal[$i + 1] += $v;
            $diagonal[$i + 2] += $v;
            $v = $k * $kc * $kc;
            $i = 6 * $c;
            $diagonal[$i] += $v;
            $diagonal[$i + 1] += $v;
            $diagonal[$i + 2] += $v;
            $v = $k * $kd * $kd;
            $i = 6 * $d;
            $diagonal[$i] += $v;
            $diagonal[$i + 1] += $v;
            $diagonal[$i + 2] += $v;
            for ($e = 0; $e < 6; $e++) {
                $v = $k * ($e < 3 ? $ka : ($e < 5 ? $kb : $kc)) * ($e === 0 ? $kb : ($e === 1 || $e === 3 ? $kc : $kd));
                $i = 6 * $hinges[$o + 4 + $e];
                $off[$i] += $v;
                $off[$i + 1] += $v;
                $off[$i + 2] += $v;
            }
        }

        return [$fx, $fy, $fz, $diagonal, $off];
    }

    /**
     * The matrix times something.
     *
     * @param  array<int, float>  $diagonal  six numbers a point: xx, yy, zz, xy, yz, zx
     * @param  array<int, float>  $off  six numbers a pair
     * @param  list<int>  $pairs
     * @param  array<int, float>  $vx
     * @param  array<int, float>  $vy
     * @param  array<int, float>  $vz
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function product(array $diagonal, array $off, array $pairs, array $vx, array $vy, array $vz): array
    {
        $rx = $ry = $rz = [];
        for ($i = 0, $k = 0, $n = count($vx); $i < $n; $i++, $k += 6) {
            $x = $vx[$i];
            $y = $vy[$i];
            $z = $vz[$i];
            $rx[] = $diagonal[$k] * $x + $diagonal[$k + 3] * $y + $diagonal[$k + 5] * $z;
            $ry[] = $diagonal[$k + 3] * $x + $diagonal[$k + 1] * $y + $diagonal[$k + 4] * $z;
            $rz[] = $diagonal[$k + 5] * $x + $diagonal[$k + 4] * $y + $diagonal[$k + 2] * $z;
        }
        for ($p = 0, $k = 0, $n = count($pairs); $p < $n; $p += 2, $k += 6) {
            $i = $pairs[$p];
            $j = $pairs[$p + 1];
            $xx = $off[$k];
            $yy = $off[$k + 1];
            $zz = $off[$k + 2];
            $xy = $off[$k + 3];
            $yz = $off[$k + 4];
            $zx = $off[$k + 5];
            $x = $vx[$j];
            $y = $vy[$j];
            $z = $vz[$j];
            $rx[$i] += $xx * $x + $xy * $y + $zx * $z;
            $ry[$i] += $xy * $x + $yy * $y + $yz * $z;
            $rz[$i] += $zx * $x + $yz * $y + $zz * $z;
            $x = $vx[$i];
            $y = $vy[$i];
            $z = $vz[$i];
            $rx[$j] += $xx * $x + $xy * $y + $zx * $z;
            $ry[$j] += $xy * $x + $yy * $y + $yz * $z;
            $rz[$j] += $zx * $x + $yz * $y + $zz * $z;
        }

        return [$rx, $ry, $rz];
    }

    /**
     * A critically damped spring towards home, as far as it is held (implicit).
     *
     * @param  list<float>  $px
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  array<int, float>  $diagonal
     * @param  array<int, float>  $bx
     * @param  array<int, float>  $by
     * @param  array<int, float>  $bz
     */
    private function draw(int $i, float $h, float $hold, Pull $pull, array $px, array $py, array $pz, array &$diagonal, array &$bx, array &$by, array &$bz): void
    {
        $omega = min(self::STIFFEST, $hold / (1.0 - $hold) / self::HOLDS);
        $k = $this->mass[$i] * $omega * $omega;
        $c = 2.0 * $this->mass[$i] * $omega;
        $dx = $pull->homeX[$i] - $px[$i];
        $dy = $pull->homeY[$i] - $py[$i];
        $dz = $pull->homeZ[$i] - $pz[$i];
        // From far off it comes no faster than it may.
        $far = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
        $most = 2.0 * self::HOME / $omega;
        $share = $far > $most ? $most / $far : 1.0;
        $bx[$i] += $h * ($k * $share * $dx + $c * ($pull->goX[$i] - $this->vx[$i]));
        $by[$i] += $h * ($k * $share * $dy + $c * ($pull->goY[$i] - $this->vy[$i]));
        $bz[$i] += $h * ($k * $share * $dz + $c * ($pull->goZ[$i] - $this->vz[$i]));
        for ($a = 0; $a < 3; $a++) {
            $diagonal[6 * $i + $a] += $h * $h * $k + $h * $c;
        }
    }

    /**
     * Conjugate gradients; what is held or touches is set.
     *
     * @param  array<int, float>  $diagonal
     * @param  array<int, float>  $off
     * @param  array<int, float>  $bx
     * @param  array<int, float>  $by
     * @param  array<int, float>  $bz
     * @return array{array<int, float>, array<int, float>, array<int, float>} m/s that each point gains
     */
    private function solve(array $diagonal, array $off, array $bx, array $by, array $bz, float $h, Pull $pull): array
    {
        $n = count($bx);
        $pairs = $this->weave->pairs;
        $free = array_fill(0, $n, true);
        $dx = $dy = $dz = array_fill(0, $n, 0.0);
        foreach ($pull->hold as $i => $hold) {
            if ($hold >= self::HELD) {
                $free[$i] = false;
                [$gx, $gy, $gz] = $this->home($i, $h, $pull);
                $dx[$i] = $gx - $this->vx[$i];
                $dy[$i] = $gy - $this->vy[$i];
                $dz[$i] = $gz - $this->vz[$i];
            }
        }
        // What was drawn off a surface may leave it, unless it is in it.
        $touch = array_filter($pull->touch, fn (array $t, int $i): bool => $free[$i] && (! isset($this->drawn[$i]) || $t[3] > 0.0), ARRAY_FILTER_USE_BOTH);
        $whole = $diagonal;
        $coupled = $off;
        if (in_array(false, $free, true)) {
            foreach ($free as $i => $is) {
                if (! $is) {
                    for ($a = 0; $a < 6; $a++) {
                        $whole[6 * $i + $a] = 0.0;
                    }
                }
            }
            for ($p = 0, $k = 0, $m = count($pairs); $p < $m; $p += 2, $k += 6) {
                if (! $free[$pairs[$p]] || ! $free[$pairs[$p + 1]]) {
                    $coupled[$k] = $coupled[$k + 1] = $coupled[$k + 2] = $coupled[$k + 3] = $coupled[$k + 4] = $coupled[$k + 5] = 0.0;
                }
            }
        }
        $inverse = Levels::inverted($whole);
        $levels = $this->levels->inverses($whole, $coupled);
        // Each part begins as what pushes it as a whole makes it.
        [$dx, $dy, $dz] = $this->begun($free, $bx, $by, $bz, $dx, $dy, $dz, $whole, $coupled);
        foreach ($touch as $i => [$nx, $ny, $nz, $to]) {
            $gap = $to - ($this->vx[$i] + $dx[$i]) * $nx - ($this->vy[$i] + $dy[$i]) * $ny - ($this->vz[$i] + $dz[$i]) * $nz;
            if ($gap > 0.0) {
                $dx[$i] += $gap * $nx;
                $dy[$i] += $gap * $ny;
                $dz[$i] += $gap * $nz;
            } else {
                // It leaves by itself.
                unset($touch[$i]);
            }
        }
        [$ax, $ay, $az] = self::product($diagonal, $off, $pairs, $dx, $dy, $dz);
        $rx = $ry = $rz = [];
        for ($i = 0; $i < $n; $i++) {
            $is = $free[$i];
            $rx[] = $is ? $bx[$i] - $ax[$i] : 0.0;
            $ry[] = $is ? $by[$i] - $ay[$i] : 0.0;
            $rz[] = $is ? $bz[$i] - $az[$i] : 0.0;
        }
        $press = [];
        self::takeOut($touch, $rx, $ry, $rz, $press);
        $first = 0.0;
        $old = 0.0;
        $qx = $qy = $qz = [];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $zx = $zy = $zz = [];
            for ($i = 0, $k = 0; $i < $n; $i++, $k += 6) {
                $a = $rx[$i];
                $b = $ry[$i];
                $c = $rz[$i];
                $zx[] = $inverse[$k] * $a + $inverse[$k + 3] * $b + $inverse[$k + 5] * $c;
                $zy[] = $inverse[$k + 3] * $a + $inverse[$k + 1] * $b + $inverse[$k + 4] * $c;
                $zz[] = $inverse[$k + 5] * $a + $inverse[$k + 4] * $b + $inverse[$k + 2] * $c;
            }
            [$zx, $zy, $zz] = $this->levels->add($levels, $rx, $ry, $rz, $zx, $zy, $zz);
            foreach ($free as $i => $is) {
                if (! $is) {
                    $zx[$i] = $zy[$i] = $zz[$i] = 0.0;
                }
            }
            $none = [];
            self::takeOut($touch, $zx, $zy, $zz, $none);
            $rho = 0.0;
            for ($i = 0; $i < $n; $i++) {
                $rho += $rx[$i] * $zx[$i] + $ry[$i] * $zy[$i] + $rz[$i] * $zz[$i];
            }
            if ($round === 0) {
                $first = $rho;
                [$qx, $qy, $qz] = [$zx, $zy, $zz];
            } else {
                $beta = $rho / $old;
                for ($i = 0; $i < $n; $i++) {
                    $qx[$i] = $zx[$i] + $beta * $qx[$i];
                    $qy[$i] = $zy[$i] + $beta * $qy[$i];
                    $qz[$i] = $zz[$i] + $beta * $qz[$i];
                }
            }
            if ($rho <= self::SOLVED * $first || $rho <= 1e-300) {
                break;
            }
            [$ax, $ay, $az] = self::product($diagonal, $off, $pairs, $qx, $qy, $qz);
            $curve = 0.0;
            for ($i = 0; $i < $n; $i++) {
                $curve += $qx[$i] * $ax[$i] + $qy[$i] * $ay[$i] + $qz[$i] * $az[$i];
            }
            if ($curve <= 0.0) {
                break;
            }
            $step = $rho / $curve;
            for ($i = 0; $i < $n; $i++) {
                $dx[$i] += $step * $qx[$i];
                $dy[$i] += $step * $qy[$i];
                $dz[$i] += $step * $qz[$i];
                if ($free[$i]) {
                    $rx[$i] -= $step * $ax[$i];
                    $ry[$i] -= $step * $ay[$i];
                    $rz[$i] -= $step * $az[$i];
                }
            }
            self::takeOut($touch, $rx, $ry, $rz, $press);
            $old = $rho;
        }
        $this->drawn = array_filter(array_intersect_key($press, $touch), static fn (float $p): bool => $p > 0.0);
        $this->rub($touch, $press, $diagonal, $dx, $dy, $dz);
        foreach ($pull->touch as $i => [$nx, $ny, $nz, $to]) {
            // Nothing goes in that was not known to touch.
            $gap = $free[$i] ? $to - ($this->vx[$i] + $dx[$i]) * $nx - ($this->vy[$i] + $dy[$i]) * $ny - ($this->vz[$i] + $dz[$i]) * $nz : 0.0;
            if ($gap > 0.0) {
                $dx[$i] += $gap * $nx;
                $dy[$i] += $gap * $ny;
                $dz[$i] += $gap * $nz;
            }
        }

        return [$dx, $dy, $dz];
    }

    /**
     * Takes out what lies along the normals of what touches.
     *
     * @param  array<int, array{float, float, float, float, float, float, float, float}>  $touch
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  array<int, float>  $z
     * @param  array<int, float>  $press  adds it up here
     */
    private static function takeOut(array $touch, array &$x, array &$y, array &$z, array &$press): void
    {
        foreach ($touch as $i => [$nx, $ny, $nz]) {
            $along = $x[$i] * $nx + $y[$i] * $ny + $z[$i] * $nz;
            $x[$i] -= $along * $nx;
            $y[$i] -= $along * $ny;
            $z[$i] -= $along * $nz;
            $press[$i] = ($press[$i] ?? 0.0) + $along;
        }
    }

    /**
     * Friction on what is pressed: as much speed along the surface as that lets it lose.
     *
     * @param  array<int, array{float, float, float, float, float, float, float, float}>  $touch
     * @param  array<int, float>  $press  N·s, what would go into the surface
     * @param  list<float>  $diagonal
     * @param  array<int, float>  $dx
     * @param  array<int, float>  $dy
     * @param  array<int, float>  $dz
     */
    private function rub(array $touch, array $press, array $diagonal, array &$dx, array &$dy, array &$dz): void
    {
        foreach ($touch as $i => [$nx, $ny, $nz, , $sx, $sy, $sz, $friction]) {
            $pressed = -($press[$i] ?? 0.0);
            if ($pressed <= 0.0 || $friction <= 0.0) {
                continue;
            }
            $vx = $this->vx[$i] + $dx[$i] - $sx;
            $vy = $this->vy[$i] + $dy[$i] - $sy;
            $vz = $this->vz[$i] + $dz[$i] - $sz;
            $along = $vx * $nx + $vy * $ny + $vz * $nz;
            $vx -= $along * $nx;
            $vy -= $along * $ny;
            $vz -= $along * $nz;
            $speed = sqrt($vx * $vx + $vy * $vy + $vz * $vz);
            if ($speed < 1e-12) {
                continue;
            }
            $heavy = ($diagonal[6 * $i] + $diagonal[6 * $i + 1] + $diagonal[6 * $i + 2]) / 3.0;
            $k = min(1.0, $friction * $pressed / $heavy / $speed);
            $dx[$i] -= $k * $vx;
            $dy[$i] -= $k * $vy;
            $dz[$i] -= $k * $vz;
        }
    }

    /**
     * What pushes each part as a whole gives all of its free points alike.
     *
     * @param  list<bool>  $free
     * @param  array<int, float>  $bx
     * @param  array<int, float>  $by
     * @param  array<int, float>  $bz
     * @param  array<int, float>  $dx
     * @param  array<int, float>  $dy
     * @param  array<int, float>  $dz
     * @param  array<int, float>  $diagonal  zeros for what is held
     * @param  array<int, float>  $off  zeros where either is held
     * @return array{array<int, float>, array<int, float>, array<int, float>}
     */
    private function begun(array $free, array $bx, array $by, array $bz, array $dx, array $dy, array $dz, array $diagonal, array $off): array
    {
        $parts = $this->weave->parts;
        $count = $parts === [] ? 0 : max($parts) + 1;
        $block = array_fill(0, 6 * $count, 0.0);
        $sx = $sy = $sz = array_fill(0, $count, 0.0);
        foreach ($parts as $i => $part) {
            if (! $free[$i]) {
                continue;
            }
            $sx[$part] += $bx[$i];
            $sy[$part] += $by[$i];
            $sz[$part] += $bz[$i];
            for ($a = 0; $a < 6; $a++) {
                $block[6 * $part + $a] += $diagonal[6 * $i + $a];
            }
        }
        $pairs = $this->weave->pairs;
        for ($p = 0, $k = 0, $m = count($pairs); $p < $m; $p += 2, $k += 6) {
            $o = 6 * $parts[$pairs[$p]];
            $block[$o] += 2.0 * $off[$k];
            $block[$o + 1] += 2.0 * $off[$k + 1];
            $block[$o + 2] += 2.0 * $off[$k + 2];
            $block[$o + 3] += 2.0 * $off[$k + 3];
            $block[$o + 4] += 2.0 * $off[$k + 4];
            $block[$o + 5] += 2.0 * $off[$k + 5];
        }
        $inverse = Levels::inverted($block);
        foreach ($parts as $i => $part) {
            if ($free[$i]) {
                $k = 6 * $part;
                $dx[$i] += $inverse[$k] * $sx[$part] + $inverse[$k + 3] * $sy[$part] + $inverse[$k + 5] * $sz[$part];
                $dy[$i] += $inverse[$k + 3] * $sx[$part] + $inverse[$k + 1] * $sy[$part] + $inverse[$k + 4] * $sz[$part];
                $dz[$i] += $inverse[$k + 5] * $sx[$part] + $inverse[$k + 4] * $sy[$part] + $inverse[$k + 2] * $sz[$part];
            }
        }

        return [$dx, $dy, $dz];
    }

    /** @return array{float, float, float} m/s with which a held point goes home, or along with it */
    private function home(int $i, float $h, Pull $pull): array
    {
        $dx = $pull->homeX[$i] - $this->x[$i];
        $dy = $pull->homeY[$i] - $this->y[$i];
        $dz = $pull->homeZ[$i] - $this->z[$i];
        $off = sqrt(($dx - $h * $pull->goX[$i]) ** 2 + ($dy - $h * $pull->goY[$i]) ** 2 + ($dz - $h * $pull->goZ[$i]) ** 2);
        if ($off <= self::HOME * $h) {
            return [$dx / $h, $dy / $h, $dz / $h];
        }
        $k = self::HOME / sqrt($dx * $dx + $dy * $dy + $dz * $dz);

        return [$pull->goX[$i] + $k * $dx, $pull->goY[$i] + $k * $dy, $pull->goZ[$i] + $k * $dz];
    }

    /** Two points come no nearer than they may. */
    private function keepOff(int $i, int $j, float $least, float $nx, float $ny, float $nz, Pull $pull): void
    {
        $speed = ($this->vx[$i] - $this->vx[$j]) * $nx + ($this->vy[$i] - $this->vy[$j]) * $ny + ($this->vz[$i] - $this->vz[$j]) * $nz;
        if ($speed >= $least) {
            return;
        }
        $wi = ($pull->hold[$i] ?? 0.0) >= self::HELD ? 0.0 : 1.0 / $this->mass[$i];
        $wj = ($pull->hold[$j] ?? 0.0) >= self::HELD ? 0.0 : 1.0 / $this->mass[$j];
        if ($wi + $wj <= 0.0) {
            return;
        }
        $push = ($least - $speed) / ($wi + $wj);
        $this->vx[$i] += $wi * $push * $nx;
        $this->vy[$i] += $wi * $push * $ny;
        $this->vz[$i] += $wi * $push * $nz;
        $this->vx[$j] -= $wj * $push * $nx;
        $this->vy[$j] -= $wj * $push * $ny;
        $this->vz[$j] -= $wj * $push * $nz;
    }

    /** m/s, of the fastest point. */
    public function fastest(): float
    {
        $most = 0.0;
        foreach ($this->vx as $i => $v) {
            $most = max($most, $v * $v + $this->vy[$i] ** 2 + $this->vz[$i] ** 2);
        }

        return sqrt($most);
    }

    public function place(int $i): Vec3
    {
        return new Vec3($this->x[$i], $this->y[$i], $this->z[$i]);
    }

    public function pack(PackWriter $out): void
    {
        foreach ([$this->x, $this->y, $this->z, $this->vx, $this->vy, $this->vz] as $list) {
            $out->floats($list);
        }
        $out->small(array_keys($this->drawn));
    }

    public function unpack(PackReader $in): void
    {
        foreach (['x', 'y', 'z', 'vx', 'vy', 'vz'] as $list) {
            $this->$list = $in->floats();
        }
        $this->drawn = array_fill_keys($in->small(), 1.0);
    }
}
