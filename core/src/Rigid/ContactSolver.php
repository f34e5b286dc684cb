<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/**
 * Moves the bodies through one span in sub-steps.
 *
 * Each sub-step: gravity, last impulses again, one pass of soft contacts, a move, one pass that takes out the
 * push-out speed and applies bounce. Contacts are springs of set stiffness and damping solved implicitly
 * (Catto 2011, "Soft constraints", game developers conference); friction is one two-way row and one twist row
 * a manifold, limited by Coulomb's cone.
 */
final class ContactSolver
{
    private const BOUNCE_ROUNDS = 8;

    private const UNLOCK_ROUNDS = 4;

    public function run(World $w, float $span, int $steps): void
    {
        $h = $span / $steps;
        $inverse = $this->inverses($w);
        $c = $w->contacts;
        $rows = [ContactRows::normal($w, $c, $inverse), ContactRows::friction($w, $c, $inverse)];
        $this->subSteps($w, $c, $rows, $inverse, $h, $steps);
    }

    /**
     * Inverse mass, and inverse inertia in world axes (six numbers), zero for what does not move.
     *
     * @return array{list<float>, list<float>}
     */
    private function inverses(World $w): array
    {
        $mass = $inertia = [];
        $state = $w->state;
        foreach ($state as $b => $s) {
            if ($s !== World::MOVING) {
                $mass[] = 0.0;
                $inertia[] = 0.0;
                $inertia[] = 0.0;
                $inertia[] = 0.0;
                $inertia[] = 0.0;
                $inertia[] = 0.0;
                $inertia[] = 0.0;

                continue;
            }
            $mass[] = 1.0 / $w->mass[$b];
            [$a, $d, $f, $e, $g, $i] = $w->inverseInertia($b);
            $x = $w->qx[$b];
            $y = $w->qy[$b];
            $z = $w->qz[$b];
            $v = $w->qw[$b];
            $m00 = 1.0 - 2.0 * ($y * $y + $z * $z);
            $m01 = 2.0 * ($x * $y - $z * $v);
            $m02 = 2.0 * ($x * $z + $y * $v);
            $m10 = 2.0 * ($x * $y + $z * $v);
            $m11 = 1.0 - 2.0 * ($x * $x + $z * $z);
            $m12 = 2.0 * ($y * $z - $x * $v);
            $m20 = 2.0 * ($x * $z - $y * $v);
            $m21 = 2.0 * ($y * $z + $x * $v);
            $m22 = 1.0 - 2.0 * ($x * $x + $y * $y);
            $t00 = $m00 * $a + $m01 * $e + $m02 * $i;
            $t01 = $m00 * $e + $m01 * $d + $m02 * $g;
            $t02 = $m00 * $i + $m01 * $g + $m02 * $f;
            $t10 = $m10 * $a + $m11 * $e + $m12 * $i;
            $t11 = $m10 * $e + $m11 * $d + $m12 * $g;
            $t12 = $m10 * $i + $m11 * $g + $m12 * $f;
            $t20 = $m20 * $a + $m21 * $e + $m22 * $i;
            $t21 = $m20 * $e + $m21 * $d + $m22 * $g;
            $t22 = $m20 * $i + $m21 * $g + $m22 * $f;
            $inertia[] = $t00 * $m00 + $t01 * $m01 + $t02 * $m02;
            $inertia[] = $t10 * $m10 + $t11 * $m11 + $t12 * $m12;
            $inertia[] = $t20 * $m20 + $t21 * $m21 + $t22 * $m22;
            $inertia[] = $t00 * $m10 + $t01 * $m11 + $t02 * $m12;
            $inertia[] = $t10 * $m20 + $t11 * $m21 + $t12 * $m22;
            $inertia[] = $t00 * $m20 + $t01 * $m21 + $t02 * $m22;
        }
        // The ground, as the last body.
        $mass[] = 0.0;
        array_push($inertia, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0);

        return [$mass, $inertia];
    }

    /**
     * @param  array{list<float>, list<float>}  $rows
     * @param  array{list<float>, list<float>}  $inverse
     */
    private function subSteps(World $w, ContactSet $c, array $rows, array $inverse, float $h, int $steps): void
    {
        [$normal, $rub] = $rows;
        [$mass] = $inverse;
        $fastest = Tolerances::FASTEST * $w->fastest() + Tolerances::PRESS_SPEED * $w->pieceSize;
        $vx = $w->vx;
        $vy = $w->vy;
        $vz = $w->vz;
        $wx = $w->wx;
        $wy = $w->wy;
        $wz = $w->wz;
        $w->vx = $w->vy = $w->vz = $w->wx = $w->wy = $w->wz = [];
        $ground = count($vx);
        $vx[] = $vy[] = $vz[] = $wx[] = $wy[] = $wz[] = 0.0;
        $moving = $this->moving($w);
        $touching = $grown = [];
        $first = $c->first;
        $ma = $c->a;
        $mb = [];
        foreach ($c->b as $m => $b) {
            $mb[] = $b < 0 ? $ground : $b;
            $touching[$ma[$m]] = true;
            $touching[$mb[$m]] = true;
        }
        if ($w->growth !== []) {
            [$ma, $mb, $surfaces] = $this->growing($w, $c, $ma, $mb, count($vx));
            foreach ($surfaces as [$body, $x, $y, $z]) {
                $grown[] = count($vx);
                $vx[] = $vx[$body] + $x;
                $vy[] = $vy[$body] + $y;
                $vz[] = $vz[$body] + $z;
                $wx[] = $wx[$body];
                $wy[] = $wy[$body];
                $wz[] = $wz[$body];
                $mass[] = 0.0;
            }
        }
        // How far each body has come within the span.
        $dx = $dy = $dz = $tx = $ty = $tz = array_fill(0, count($vx), 0.0);
        // What rests or stands has no velocity, whatever is stored.
        foreach ($w->state as $b => $s) {
            if ($s !== World::MOVING && $s !== World::KEYED) {
                $vx[$b] = $vy[$b] = $vz[$b] = $wx[$b] = $wy[$b] = $wz[$b] = 0.0;
            }
        }
        $cnx = $c->nx;
        $cny = $c->ny;
        $cnz = $c->nz;
        $friction = $c->friction;
        $bounce = $c->bounce;
        $push = $c->push;
        $rub1 = $rub2 = [];
        $twist = $c->twist;
        foreach ($ma as $m => $_) {
            $r = ContactRows::MANIFOLD * $m;
            $rub1[] = $c->rubX[$m] * $rub[$r] + $c->rubY[$m] * $rub[$r + 1] + $c->rubZ[$m] * $rub[$r + 2];
            $rub2[] = $c->rubX[$m] * $rub[$r + ContactRows::SECOND] + $c->rubY[$m] * $rub[$r + ContactRows::SECOND + 1] + $c->rubZ[$m] * $rub[$r + ContactRows::SECOND + 2];
        }
        [$asleep, $hit] = $this->asleep($c, $mb, $vx, $vy, $vz, $wx, $wy, $wz, $mass);
        $approach = $push === [] ? [] : array_fill(0, count($push), 0.0);
        $manifolds = count($ma);
        $pressed = $manifolds === 0 ? [] : array_fill(0, $manifolds, false);
        // What a sub-step adds to the speed of each.
        $gx = $gy = $gz = [];
        $extra = $w->accelerations();
        foreach ($moving as $b) {
            $gx[$b] = ($w->gravity->x + ($extra[$b]->x ?? 0.0)) * $h;
            $gy[$b] = ($w->gravity->y + ($extra[$b]->y ?? 0.0)) * $h;
            $gz[$b] = ($w->gravity->z + ($extra[$b]->z ?? 0.0)) * $h;
        }
        $omega = 2.0 * M_PI * min(Tolerances::CONTACT_STIFFNESS, 0.25 / $h);
        $k = $h * $omega * (2.0 * Tolerances::CONTACT_DAMPING + $h * $omega);
        $rate = $omega / (2.0 * Tolerances::CONTACT_DAMPING + $h * $omega);
        $softMass = $k / (1.0 + $k);
        $softImpulse = 1.0 / (1.0 + $k);
        $slop = Tolerances::SLOP * $w->pieceSize;
        $press = Tolerances::PRESS_SPEED * $w->pieceSize;
        $bounceFrom = Tolerances::BOUNCE_FROM;
        $driven = [...array_keys(array_filter($touching, static fn (int $b): bool => $b < $ground && $w->state[$b] === World::KEYED, ARRAY_FILTER_USE_KEY)), ...$grown];
        $met = array_values(array_filter($moving, static fn (int $b): bool => isset($touching[$b])));
        $size = $w->size;
        $fastestSquared = $fastest * $fastest;
        for ($step = 0; $step < $steps; $step++) {
            foreach ($moving as $b) {
                $vx[$b] += $gx[$b];
                $vy[$b] += $gy[$b];
                $vz[$b] += $gz[$b];
            }
            $fallX = $vx;
            $fallY = $vy;
            $fallZ = $vz;
            // Last impulses again, for all manifolds before any is solved.
            for ($m = 0; $m < $manifolds; $m++) {
                $from = $first[$m];
                $end = $first[$m + 1];
                $a = $ma[$m];
                $b = $mb[$m];
                $q1 = $rub1[$m];
                $q2 = $rub2[$m];
                $q3 = $twist[$m];
                $sum = 0.0;
                $sx = $sy = $sz = $ux = $uy = $uz = 0.0;
                for ($k = $from; $k < $end; $k++) {
                    $p = $push[$k];
                    if ($p > 0.0) {
                        $i = ContactRows::POINT * $k;
                        $sum += $p;
                        $sx += $p * $normal[$i + 6];
                        $sy += $p * $normal[$i + 7];
                        $sz += $p * $normal[$i + 8];
                        $ux += $p * $normal[$i + 9];
                        $uy += $p * $normal[$i + 10];
                        $uz += $p * $normal[$i + 11];
                    }
                }
                if ($sum > 0.0) {
                    $r = ContactRows::MANIFOLD * $m;
                    $px = $sum * $cnx[$m] + $q1 * $rub[$r] + $q2 * $rub[$r + ContactRows::SECOND];
                    $py = $sum * $cny[$m] + $q1 * $rub[$r + 1] + $q2 * $rub[$r + ContactRows::SECOND + 1];
                    $pz = $sum * $cnz[$m] + $q1 * $rub[$r + 2] + $q2 * $rub[$r + ContactRows::SECOND + 2];
                    $ia = $mass[$a];
                    $ib = $mass[$b];
                    if ($ia > 0.0) {
                        $vx[$a] -= $ia * $px;
                        $vy[$a] -= $ia * $py;
                        $vz[$a] -= $ia * $pz;
                        $wx[$a] -= $sx + $q1 * $rub[$r + 9] + $q2 * $rub[$r + ContactRows::SECOND + 9] + $q3 * $rub[$r + ContactRows::TWIST];
                        $wy[$a] -= $sy + $q1 * $rub[$r + 10] + $q2 * $rub[$r + ContactRows::SECOND + 10] + $q3 * $rub[$r + ContactRows::TWIST + 1];
                        $wz[$a] -= $sz + $q1 * $rub[$r + 11] + $q2 * $rub[$r + ContactRows::SECOND + 11] + $q3 * $rub[$r + ContactRows::TWIST + 2];
                    }
                    if ($ib > 0.0) {
                        $vx[$b] += $ib * $px;
                        $vy[$b] += $ib * $py;
                        $vz[$b] += $ib * $pz;
                        $wx[$b] += $ux + $q1 * $rub[$r + 12] + $q2 * $rub[$r + ContactRows::SECOND + 12] + $q3 * $rub[$r + ContactRows::TWIST + 3];
                        $wy[$b] += $uy + $q1 * $rub[$r + 13] + $q2 * $rub[$r + ContactRows::SECOND + 13] + $q3 * $rub[$r + ContactRows::TWIST + 4];
                        $wz[$b] += $uz + $q1 * $rub[$r + 14] + $q2 * $rub[$r + ContactRows::SECOND + 14] + $q3 * $rub[$r + ContactRows::TWIST + 5];
                    }
                } else {
                    $rub1[$m] = $rub2[$m] = $twist[$m] = 0.0;
                }
            }
            for ($pass = 0; $pass < 2; $pass++) {
                for ($m = 0; $m < $manifolds; $m++) {
                    $a = $ma[$m];
                    $b = $mb[$m];
                    if ($pass === 1 && ! $pressed[$m]) {
                        continue;
                    }
                    if ($asleep[$m]) {
                        if (! $hit[$a] && ! $hit[$b]) {
                            continue;
                        }
                        $asleep[$m] = false;
                    }
                    $pressed[$m] = false;
                    $ia = $mass[$a];
                    $ib = $mass[$b];
                    $ax = $vx[$a];
                    $ay = $vy[$a];
                    $az = $vz[$a];
                    $aw = $wx[$a];
                    $av = $wy[$a];
                    $au = $wz[$a];
                    $bx = $vx[$b];
                    $by = $vy[$b];
                    $bz = $vz[$b];
                    $bw = $wx[$b];
                    $bv = $wy[$b];
                    $bu = $wz[$b];
                    $nx = $cnx[$m];
                    $ny = $cny[$m];
                    $nz = $cnz[$m];
                    $r = ContactRows::MANIFOLD * $m;
                    $from = $first[$m];
                    $end = $first[$m + 1];
                    $total = 0.0;
                    if ($pass === 0) {
                        if ($bounce[$m] > 0.0) {
                            // The speed at which a point not yet pushed on comes in, before anything slows it.
                            for ($k = $from; $k < $end; $k++) {
                                if ($push[$k] === 0.0) {
                                    $i = ContactRows::POINT * $k;
                                    $approach[$k] = ($bx - $ax) * $nx + ($by - $ay) * $ny + ($bz - $az) * $nz
                                        + $normal[$i + 3] * $bw + $normal[$i + 4] * $bv + $normal[$i + 5] * $bu
                                        - $normal[$i] * $aw - $normal[$i + 1] * $av - $normal[$i + 2] * $au;
                                }
                            }
                        }
                        $mx = $dx[$b] - $dx[$a];
                        $my = $dy[$b] - $dy[$a];
                        $mz = $dz[$b] - $dz[$a];
                        $shift = $mx * $nx + $my * $ny + $mz * $nz;
                        $sx = $tx[$a];
                        $sy = $ty[$a];
                        $sz = $tz[$a];
                        $ux = $tx[$b];
                        $uy = $ty[$b];
                        $uz = $tz[$b];
                        for ($k = $from; $k < $end; $k++) {
                            $i = ContactRows::POINT * $k;
                            $n0 = $normal[$i];
                            $n1 = $normal[$i + 1];
                            $n2 = $normal[$i + 2];
                            $n3 = $normal[$i + 3];
                            $n4 = $normal[$i + 4];
                            $n5 = $normal[$i + 5];
                            $v = ($bx - $ax) * $nx + ($by - $ay) * $ny + ($bz - $az) * $nz
                                + $n3 * $bw + $n4 * $bv + $n5 * $bu - $n0 * $aw - $n1 * $av - $n2 * $au;
                            $gap = $normal[$i + ContactRows::GAP] + $shift + $n3 * $ux + $n4 * $uy + $n5 * $uz - $n0 * $sx - $n1 * $sy - $n2 * $sz;
                            $p = $push[$k];
                            if ($gap > 0.0) {
                                $e = -$normal[$i + ContactRows::YIELDS] * ($v + $gap / $h);
                            } else {
                                $bias = $rate * ($gap + $slop);
                                if ($bias > 0.0) {
                                    $bias = 0.0;
                                } elseif ($bias < -$press) {
                                    $bias = -$press;
                                }
                                $e = -$normal[$i + ContactRows::YIELDS] * $softMass * ($v + $bias) - $softImpulse * $p;
                            }
                            $now = $p + $e;
                            if ($now < 0.0) {
                                $now = 0.0;
                            }
                            $e = $now - $p;
                            $push[$k] = $now;
                            $total += $now;
                            if ($e !== 0.0) {
                                $ax -= $e * $ia * $nx;
                                $ay -= $e * $ia * $ny;
                                $az -= $e * $ia * $nz;
                                $aw -= $e * $normal[$i + 6];
                                $av -= $e * $normal[$i + 7];
                                $au -= $e * $normal[$i + 8];
                                $bx += $e * $ib * $nx;
                                $by += $e * $ib * $ny;
                                $bz += $e * $ib * $nz;
                                $bw += $e * $normal[$i + 9];
                                $bv += $e * $normal[$i + 10];
                                $bu += $e * $normal[$i + 11];
                            }
                        }
                    } else {
                        // A bounce is wanted exactly, so its points are gone over until they agree.
                        $e0 = $bounce[$m];
                        $rounds = 1;
                        if ($e0 > 0.0 && $end - $from > 1) {
                            for ($k = $from; $k < $end; $k++) {
                                if ($push[$k] > 0.0 && $approach[$k] < -$bounceFrom) {
                                    $rounds = self::BOUNCE_ROUNDS;
                                }
                            }
                        }
                        while ($rounds-- > 0) {
                            $total = 0.0;
                            for ($k = $from; $k < $end; $k++) {
                                $p = $push[$k];
                                if ($p <= 0.0) {
                                    continue;
                                }
                                $i = ContactRows::POINT * $k;
                                $v = ($bx - $ax) * $nx + ($by - $ay) * $ny + ($bz - $az) * $nz
                                    + $normal[$i + 3] * $bw + $normal[$i + 4] * $bv + $normal[$i + 5] * $bu
                                    - $normal[$i] * $aw - $normal[$i + 1] * $av - $normal[$i + 2] * $au;
                                if ($e0 > 0.0 && $approach[$k] < -$bounceFrom) {
                                    $v += $e0 * $approach[$k];
                                }
                                $now = $p - $normal[$i + ContactRows::YIELDS] * $v;
                                if ($now < 0.0) {
                                    $now = 0.0;
                                }
                                $e = $now - $p;
                                $push[$k] = $now;
                                $total += $now;
                                $ax -= $e * $ia * $nx;
                                $ay -= $e * $ia * $ny;
                                $az -= $e * $ia * $nz;
                                $aw -= $e * $normal[$i + 6];
                                $av -= $e * $normal[$i + 7];
                                $au -= $e * $normal[$i + 8];
                                $bx += $e * $ib * $nx;
                                $by += $e * $ib * $ny;
                                $bz += $e * $ib * $nz;
                                $bw += $e * $normal[$i + 9];
                                $bv += $e * $normal[$i + 10];
                                $bu += $e * $normal[$i + 11];
                            }
                        }
                    }
                    $o1 = $rub1[$m];
                    $o2 = $rub2[$m];
                    if ($total > 0.0 || $o1 !== 0.0 || $o2 !== 0.0) {
                        // Friction: both tangents at once, cut back to the cone.
                        $limit = $friction[$m] * $total;
                        $ux = $bx - $ax;
                        $uy = $by - $ay;
                        $uz = $bz - $az;
                        $t0 = $rub[$r];
                        $t1 = $rub[$r + 1];
                        $t2 = $rub[$r + 2];
                        $s0 = $rub[$r + ContactRows::SECOND];
                        $s1 = $rub[$r + ContactRows::SECOND + 1];
                        $s2 = $rub[$r + ContactRows::SECOND + 2];
                        $v1 = $ux * $t0 + $uy * $t1 + $uz * $t2
                            + $rub[$r + 6] * $bw + $rub[$r + 7] * $bv + $rub[$r + 8] * $bu
                            - $rub[$r + 3] * $aw - $rub[$r + 4] * $av - $rub[$r + 5] * $au;
                        $v2 = $ux * $s0 + $uy * $s1 + $uz * $s2
                            + $rub[$r + ContactRows::SECOND + 6] * $bw + $rub[$r + ContactRows::SECOND + 7] * $bv + $rub[$r + ContactRows::SECOND + 8] * $bu
                            - $rub[$r + ContactRows::SECOND + 3] * $aw - $rub[$r + ContactRows::SECOND + 4] * $av - $rub[$r + ContactRows::SECOND + 5] * $au;
                        $q1 = $o1 - $rub[$r + 15] * $v1;
                        $q2 = $o2 - $rub[$r + ContactRows::SECOND + 15] * $v2;
                        $l = $q1 * $q1 + $q2 * $q2;
                        if ($l > $limit * $limit) {
                            $l = $limit / sqrt($l);
                            $q1 *= $l;
                            $q2 *= $l;
                        }
                        $rub1[$m] = $q1;
                        $rub2[$m] = $q2;
                        $q1 -= $o1;
                        $q2 -= $o2;
                        $px = $q1 * $t0 + $q2 * $s0;
                        $py = $q1 * $t1 + $q2 * $s1;
                        $pz = $q1 * $t2 + $q2 * $s2;
                        $ax -= $ia * $px;
                        $ay -= $ia * $py;
                        $az -= $ia * $pz;
                        $bx += $ib * $px;
                        $by += $ib * $py;
                        $bz += $ib * $pz;
                        $aw -= $q1 * $rub[$r + 9] + $q2 * $rub[$r + ContactRows::SECOND + 9];
                        $av -= $q1 * $rub[$r + 10] + $q2 * $rub[$r + ContactRows::SECOND + 10];
                        $au -= $q1 * $rub[$r + 11] + $q2 * $rub[$r + ContactRows::SECOND + 11];
                        $bw += $q1 * $rub[$r + 12] + $q2 * $rub[$r + ContactRows::SECOND + 12];
                        $bv += $q1 * $rub[$r + 13] + $q2 * $rub[$r + ContactRows::SECOND + 13];
                        $bu += $q1 * $rub[$r + 14] + $q2 * $rub[$r + ContactRows::SECOND + 14];
                        $reach = $rub[$r + ContactRows::SPREAD];
                        if ($reach > 0.0) {
                            $o3 = $twist[$m];
                            $q3 = $o3 - $rub[$r + ContactRows::TWIST_YIELDS] * (($bw - $aw) * $nx + ($bv - $av) * $ny + ($bu - $au) * $nz);
                            $limit *= $reach;
                            if ($q3 > $limit) {
                                $q3 = $limit;
                            } elseif ($q3 < -$limit) {
                                $q3 = -$limit;
                            }
                            $twist[$m] = $q3;
                            $q3 -= $o3;
                            $aw -= $q3 * $rub[$r + ContactRows::TWIST];
                            $av -= $q3 * $rub[$r + ContactRows::TWIST + 1];
                            $au -= $q3 * $rub[$r + ContactRows::TWIST + 2];
                            $bw += $q3 * $rub[$r + ContactRows::TWIST + 3];
                            $bv += $q3 * $rub[$r + ContactRows::TWIST + 4];
                            $bu += $q3 * $rub[$r + ContactRows::TWIST + 5];
                        }
                    }
                    if ($total > 0.0) {
                        $pressed[$m] = true;
                        $hit[$a] = $hit[$b] = true;
                    }
                    if ($ia > 0.0) {
                        $vx[$a] = $ax;
                        $vy[$a] = $ay;
                        $vz[$a] = $az;
                        $wx[$a] = $aw;
                        $wy[$a] = $av;
                        $wz[$a] = $au;
                    }
                    if ($ib > 0.0) {
                        $vx[$b] = $bx;
                        $vy[$b] = $by;
                        $vz[$b] = $bz;
                        $wx[$b] = $bw;
                        $wy[$b] = $bv;
                        $wz[$b] = $bu;
                    }
                    if ($pass === 1 && $bounce[$m] > 0.0) {
                        // What bounced parts now: its impulse must not be given again.
                        for ($k = $from; $k < $end; $k++) {
                            if ($approach[$k] < -$bounceFrom && $push[$k] > 0.0) {
                                $push[$k] = 0.0;
                                $approach[$k] = 0.0;
                                $rub1[$m] = $rub2[$m] = $twist[$m] = 0.0;
                            }
                        }
                    }
                }
                // What is pinched would be shot out like a wet stone, for nothing gives way here and no force is too large.
                foreach ($met as $b) {
                    $speed = $vx[$b] * $vx[$b] + $vy[$b] * $vy[$b] + $vz[$b] * $vz[$b];
                    if ($speed > $fastestSquared) {
                        $less = $fastest / sqrt($speed);
                        $vx[$b] *= $less;
                        $vy[$b] *= $less;
                        $vz[$b] *= $less;
                    }
                    $rim = $size[$b] * $size[$b] * ($wx[$b] * $wx[$b] + $wy[$b] * $wy[$b] + $wz[$b] * $wz[$b]);
                    if ($rim > $fastestSquared) {
                        $less = $fastest / sqrt($rim);
                        $wx[$b] *= $less;
                        $wy[$b] *= $less;
                        $wz[$b] *= $less;
                    }
                }
                if ($pass === 0) {
                    foreach ($driven as $b) {
                        $dx[$b] += $h * $vx[$b];
                        $dy[$b] += $h * $vy[$b];
                        $dz[$b] += $h * $vz[$b];
                        $tx[$b] += $h * $wx[$b];
                        $ty[$b] += $h * $wy[$b];
                        $tz[$b] += $h * $wz[$b];
                    }
                    foreach ($moving as $b) {
                        $dx[$b] += $h * $vx[$b];
                        $dy[$b] += $h * $vy[$b];
                        $dz[$b] += $h * $vz[$b];
                        if ($vx[$b] === $fallX[$b] && $vy[$b] === $fallY[$b] && $vz[$b] === $fallZ[$b]) {
                            // Nothing pushed it: it moves by its mean speed, exactly, however long the step.
                            $dx[$b] -= 0.5 * $h * $gx[$b];
                            $dy[$b] -= 0.5 * $h * $gy[$b];
                            $dz[$b] -= 0.5 * $h * $gz[$b];
                        }
                        if (isset($touching[$b])) {
                            $tx[$b] += $h * $wx[$b];
                            $ty[$b] += $h * $wy[$b];
                            $tz[$b] += $h * $wz[$b];
                        }
                    }
                }
            }
        }
        $w->vx = array_slice($vx, 0, $ground);
        $w->vy = array_slice($vy, 0, $ground);
        $w->vz = array_slice($vz, 0, $ground);
        $w->wx = array_slice($wx, 0, $ground);
        $w->wy = array_slice($wy, 0, $ground);
        $w->wz = array_slice($wz, 0, $ground);
        $c->push = $push;
        $c->twist = $twist;
        foreach ($ma as $m => $_) {
            $r = ContactRows::MANIFOLD * $m;
            $c->rubX[$m] = $rub1[$m] * $rub[$r] + $rub2[$m] * $rub[$r + ContactRows::SECOND];
            $c->rubY[$m] = $rub1[$m] * $rub[$r + 1] + $rub2[$m] * $rub[$r + ContactRows::SECOND + 1];
            $c->rubZ[$m] = $rub1[$m] * $rub[$r + 2] + $rub2[$m] * $rub[$r + ContactRows::SECOND + 2];
        }
        $this->unlock($w, $c, $mass, $dx, $dy, $dz);
        foreach ($moving as $b) {
            $w->px[$b] += $dx[$b];
            $w->py[$b] += $dy[$b];
            $w->pz[$b] += $dz[$b];
            if (isset($touching[$b])) {
                $w->turnBy($b, $tx[$b], $ty[$b], $tz[$b]);
            } else {
                $w->spinFreely($b, $h * $steps, $steps);
            }
        }
    }

    /**
     * Where something grows its surface moves as a body of its own would, another at every manifold.
     *
     * @param  list<int>  $ma  bodies of the manifolds
     * @param  list<int>  $mb
     * @param  int  $next  number of the first such body
     * @return array{list<int>, list<int>, list<array{int, float, float, float}>} the bodies with those, and for each of them the one it is part of and its speed from growing
     */
    private function growing(World $w, ContactSet $c, array $ma, array $mb, int $next): array
    {
        $surfaces = [];
        $own = function (int $body, int $m) use ($w, $c, $next, &$surfaces): int {
            if (! isset($w->growth[$body])) {
                return $body;
            }
            [$rate, $x, $y, $z] = $w->growth[$body];
            $k = $c->first[$m];
            $surfaces[] = [$body, $rate * ($c->x[$k] - $x), $rate * ($c->y[$k] - $y), $rate * ($c->z[$k] - $z)];

            return $next + count($surfaces) - 1;
        };
        $a = $b = [];
        foreach ($ma as $m => $body) {
            $a[] = $own($body, $m);
            $b[] = $own($mb[$m], $m);
        }

        return [$a, $b, $surfaces];
    }

    /**
     * Pieces driven deep into each other by a hit jam: whatever presses them apart is pressed back by what lies
     * around them. Such pairs are moved apart outright, which gives them no speed.
     *
     * @param  list<float>  $mass  inverse masses
     * @param  array<int, float>  $dx  how far each body has come within the span
     * @param  array<int, float>  $dy
     * @param  array<int, float>  $dz
     */
    private function unlock(World $w, ContactSet $c, array $mass, array &$dx, array &$dy, array &$dz): void
    {
        $bearable = Tolerances::LOCKED_OVERLAP * $w->pieceSize;
        $ground = count($w->px);
        $first = $c->first;
        $gaps = $c->gap;
        $near = $deepest = [];
        $locked = false;
        foreach ($c->a as $m => $a) {
            $least = 0.0;
            for ($k = $first[$m], $end = $first[$m + 1]; $k < $end; $k++) {
                if ($gaps[$k] < $least) {
                    $least = $gaps[$k];
                }
            }
            if ($least < -0.5 * $bearable) {
                $near[] = $m;
                $deepest[] = $least;
                $locked = $locked || $least < -$bearable;
            }
        }
        for ($round = 0; $locked && $round < self::UNLOCK_ROUNDS; $round++) {
            foreach ($near as $i => $m) {
                $a = $c->a[$m];
                $b = $c->b[$m] < 0 ? $ground : $c->b[$m];
                $both = $mass[$a] + $mass[$b];
                if ($both === 0.0) {
                    continue;
                }
                $nx = $c->nx[$m];
                $ny = $c->ny[$m];
                $nz = $c->nz[$m];
                $apart = ($dx[$b] - $dx[$a]) * $nx + ($dy[$b] - $dy[$a]) * $ny + ($dz[$b] - $dz[$a]) * $nz;
                $wanted = Tolerances::UNLOCKING * (-$deepest[$i] - $bearable) - $apart;
                if ($wanted <= 0.0) {
                    continue;
                }
                $ka = $wanted * $mass[$a] / $both;
                $kb = $wanted * $mass[$b] / $both;
                $dx[$a] -= $ka * $nx;
                $dy[$a] -= $ka * $ny;
                $dz[$a] -= $ka * $nz;
                $dx[$b] += $kb * $nx;
                $dy[$b] += $kb * $ny;
                $dz[$b] += $kb * $nz;
            }
        }
    }

    /**
     * Manifolds between bodies that move as one without pushing each other can change nothing until one of the
     * two is hit: a broken prop in flight costs nothing here.
     *
     * @param  list<int>  $mb
     * @param  list<float>  $vx
     * @param  list<float>  $vy
     * @param  list<float>  $vz
     * @param  list<float>  $wx
     * @param  list<float>  $wy
     * @param  list<float>  $wz
     * @param  list<float>  $mass
     * @return array{list<bool>, list<bool>} by manifold; and by body whether it was hit, nothing yet
     */
    private function asleep(ContactSet $c, array $mb, array $vx, array $vy, array $vz, array $wx, array $wy, array $wz, array $mass): array
    {
        $out = [];
        foreach ($c->a as $m => $a) {
            $b = $mb[$m];
            $still = $mass[$a] > 0.0 && $mass[$b] > 0.0
                && abs($vx[$a] - $vx[$b]) + abs($vy[$a] - $vy[$b]) + abs($vz[$a] - $vz[$b]) < 1e-9
                && abs($wx[$a] - $wx[$b]) + abs($wy[$a] - $wy[$b]) + abs($wz[$a] - $wz[$b]) < 1e-9
                && abs($wx[$a]) + abs($wy[$a]) + abs($wz[$a]) < 1e-9;
            for ($k = $c->first[$m], $end = $c->first[$m + 1]; $still && $k < $end; $k++) {
                $still = $c->push[$k] === 0.0 && $c->gap[$k] > -1e-9;
            }
            $out[] = $still;
        }

        return [$out, array_fill(0, count($vx), false)];
    }

    /** @return list<int> */
    private function moving(World $w): array
    {
        $out = [];
        foreach ($w->state as $b => $s) {
            if ($s === World::MOVING) {
                $out[] = $b;
            }
        }

        return $out;
    }
}
