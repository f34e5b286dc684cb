<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/**
 * The sub-steps of one span: what is gone through in each, phase by phase, on arrays that all phases share. A phase takes the
 * arrays it changes out of here, so that no other copy of them is held, and puts them back.
 */
final class SubSteps
{
    private const BOUNCE_ROUNDS = 8;

    private const UNLOCK_ROUNDS = 4;

    private const SHORE_ROUNDS = 8;

    /** @var list<float> speed of each body, then of the ground, then of surfaces that grow */
    private array $vx;

    /** @var list<float> */
    private array $vy;

    /** @var list<float> */
    private array $vz;

    /** @var list<float> */
    private array $wx;

    /** @var list<float> */
    private array $wy;

    /** @var list<float> */
    private array $wz;

    /** @var list<float> inverse mass of each */
    private array $mass;

    /** @var list<float> how far each has come within the span, and turned */
    private array $dx;

    /** @var list<float> */
    private array $dy;

    /** @var list<float> */
    private array $dz;

    /** @var list<float> */
    private array $tx;

    /** @var list<float> */
    private array $ty;

    /** @var list<float> */
    private array $tz;

    /** @var list<int> bodies of each manifold */
    private array $ma;

    /** @var list<int> */
    private array $mb = [];

    /** @var list<float> friction impulses of each manifold along its two tangents, and its twist */
    private array $rub1 = [];

    /** @var list<float> */
    private array $rub2 = [];

    /** @var list<float> */
    private array $twist;

    /** @var list<float> impulse of each point */
    private array $push;

    /** @var list<float> the speed at which each point comes in, where it bounces */
    private array $approach;

    /** @var list<bool> by manifold: whether it can change nothing until one of its bodies is hit */
    private array $asleep;

    /** @var list<bool> by manifold: whether anything pushed in it in the last pass */
    private array $pressed;

    /** @var list<bool> by body: whether something pushed it */
    private array $hit;

    /** @var list<int> what stands on what, as of `Stacks` */
    private array $stacks;

    /** @var list<float> impulse with which each manifold was shored in the last sub-step */
    private array $borne;

    /** @var list<int> bodies that move */
    private array $moving;

    /** @var list<int> those of them that are in a manifold */
    private array $met;

    /** @var list<int> bodies and surfaces in manifolds that are driven */
    private array $driven;

    /** @var array<int, true> bodies in manifolds */
    private array $touching = [];

    /** @var array<int, float> what a sub-step adds to the speed of each that moves */
    private array $gx = [];

    /** @var array<int, float> */
    private array $gy = [];

    /** @var array<int, float> */
    private array $gz = [];

    /** @var list<int> manifolds of bodies whose loads are asked for */
    private readonly array $weighed;

    private readonly int $ground;

    /** m/s */
    private readonly float $fastest;

    /**
     * @param  array{list<float>, list<float>}  $rows  of points and of manifolds
     * @param  list<float>  $mass  inverse masses, the ground's last
     * @param  float  $h  seconds a sub-step
     */
    public function __construct(private readonly World $w, private readonly ContactSet $c, private readonly array $rows, array $mass, private readonly float $h)
    {
        $this->fastest = Tolerances::FASTEST * $w->fastest() + Tolerances::PRESS_SPEED * $w->pieceSize;
        $this->mass = $mass;
        $this->ground = count($w->vx);
        $this->takeSpeeds();
        $this->moving = self::moving($w);
        $this->ma = $c->a;
        foreach ($c->b as $m => $b) {
            $this->mb[] = $b < 0 ? $this->ground : $b;
            $this->touching[$this->ma[$m]] = true;
            $this->touching[$this->mb[$m]] = true;
        }
        $grown = $this->addSurfaces();
        $this->dx = $this->dy = $this->dz = $this->tx = $this->ty = $this->tz = array_fill(0, count($this->vx), 0.0);
        $this->driven = [
            ...array_keys(array_filter($this->touching, fn (int $b): bool => $b < $this->ground && $w->state[$b] === World::KEYED, ARRAY_FILTER_USE_KEY)),
            ...$grown,
        ];
        $this->met = array_values(array_filter($this->moving, fn (int $b): bool => isset($this->touching[$b])));
        $this->takeImpulses();
        $this->stacks = Stacks::of($w, $c, $this->ma, $this->mb, $mass);
        $this->weighed = $w->weighed === [] ? [] : array_keys(array_filter($c->a, static fn (int $a, int $m): bool => isset($w->weighed[$a]) || isset($w->weighed[$c->b[$m]]), ARRAY_FILTER_USE_BOTH));
        $extra = $w->accelerations();
        foreach ($this->moving as $b) {
            $this->gx[$b] = ($w->gravity->x + ($extra[$b]->x ?? 0.0)) * $h;
            $this->gy[$b] = ($w->gravity->y + ($extra[$b]->y ?? 0.0)) * $h;
            $this->gz[$b] = ($w->gravity->z + ($extra[$b]->z ?? 0.0)) * $h;
        }
    }

    public function run(int $steps): void
    {
        for ($step = 0; $step < $steps; $step++) {
            [$fallX, $fallY, $fallZ] = $this->fall();
            $this->handDown();
            $this->pushAgain();
            $this->press(0);
            $this->w->owed = $this->stacks === [] ? [] : $this->shore();
            $this->limit();
            $this->move($fallX, $fallY, $fallZ);
            $this->press(1);
            $this->limit();
            if ($this->weighed !== []) {
                $this->weigh();
            }
        }
        $this->giveBack($steps);
    }

    private function takeSpeeds(): void
    {
        $w = $this->w;
        foreach (['vx', 'vy', 'vz', 'wx', 'wy', 'wz'] as $speed) {
            $this->$speed = $w->$speed;
            $w->$speed = [];
            $this->$speed[] = 0.0;
        }
        // What rests or stands has no velocity, whatever is stored.
        foreach ($w->state as $b => $s) {
            if ($s !== World::MOVING && $s !== World::KEYED) {
                $this->vx[$b] = $this->vy[$b] = $this->vz[$b] = $this->wx[$b] = $this->wy[$b] = $this->wz[$b] = 0.0;
            }
        }
    }

    /** @return list<int> surfaces that grow, each as a body of its own */
    private function addSurfaces(): array
    {
        if ($this->w->growth === []) {
            return [];
        }
        $grown = [];
        [$this->ma, $this->mb, $surfaces] = $this->growing($this->w, $this->c, $this->ma, $this->mb, count($this->vx));
        foreach ($surfaces as [$body, $x, $y, $z]) {
            $grown[] = count($this->vx);
            $this->vx[] = $this->vx[$body] + $x;
            $this->vy[] = $this->vy[$body] + $y;
            $this->vz[] = $this->vz[$body] + $z;
            $this->wx[] = $this->wx[$body];
            $this->wy[] = $this->wy[$body];
            $this->wz[] = $this->wz[$body];
            $this->mass[] = 0.0;
        }

        return $grown;
    }

    private function takeImpulses(): void
    {
        $c = $this->c;
        $rub = $this->rows[1];
        $this->push = $c->push;
        $this->twist = $c->twist;
        foreach ($this->ma as $m => $_) {
            $r = ContactRows::MANIFOLD * $m;
            $this->rub1[] = $c->rubX[$m] * $rub[$r] + $c->rubY[$m] * $rub[$r + 1] + $c->rubZ[$m] * $rub[$r + 2];
            $this->rub2[] = $c->rubX[$m] * $rub[$r + ContactRows::SECOND] + $c->rubY[$m] * $rub[$r + ContactRows::SECOND + 1] + $c->rubZ[$m] * $rub[$r + ContactRows::SECOND + 2];
        }
        [$this->asleep, $this->hit] = $this->asleep($c, $this->mb, $this->vx, $this->vy, $this->vz, $this->wx, $this->wy, $this->wz, $this->mass);
        $this->approach = array_fill(0, count($this->push), 0.0);
        $this->pressed = array_fill(0, count($this->ma), false);
        $this->borne = array_fill(0, count($this->ma), 0.0);
    }

    /** @return array{list<float>, list<float>, list<float>} the speeds after gravity, before anything pushes */
    private function fall(): array
    {
        $vx = $this->vx;
        $vy = $this->vy;
        $vz = $this->vz;
        $this->vx = $this->vy = $this->vz = [];
        $gx = $this->gx;
        $gy = $this->gy;
        $gz = $this->gz;
        foreach ($this->moving as $b) {
            $vx[$b] += $gx[$b];
            $vy[$b] += $gy[$b];
            $vz[$b] += $gz[$b];
        }
        $this->vx = $vx;
        $this->vy = $vy;
        $this->vz = $vz;

        return [$vx, $vy, $vz];
    }

    /** What was shored in the last sub-step weighs on what bears it in this one. */
    private function handDown(): void
    {
        foreach ($this->w->owed as $b => [$x, $y, $z, $p, $q, $r]) {
            if ($this->mass[$b] > 0.0) {
                $this->vx[$b] += $x;
                $this->vy[$b] += $y;
                $this->vz[$b] += $z;
                $this->wx[$b] += $p;
                $this->wy[$b] += $q;
                $this->wz[$b] += $r;
            }
        }
    }

    /** Last impulses again, for all manifolds before any is solved. */
    private function pushAgain(): void
    {
        $vx = $this->vx;
        $vy = $this->vy;
        $vz = $this->vz;
        $wx = $this->wx;
        $wy = $this->wy;
        $wz = $this->wz;
        $rub1 = $this->rub1;
        $rub2 = $this->rub2;
        $twist = $this->twist;
        $this->vx = $this->vy = $this->vz = $this->wx = $this->wy = $this->wz = $this->rub1 = $this->rub2 = $this->twist = [];
        $push = $this->push;
        $borne = $this->borne;
        $ma = $this->ma;
        $mb = $this->mb;
        $mass = $this->mass;
        [$normal, $rub] = $this->rows;
        $first = $this->c->first;
        $cnx = $this->c->nx;
        $cny = $this->c->ny;
        $cnz = $this->c->nz;
        $manifolds = count($ma);
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
            if ($sum > 0.0 || $borne[$m] > 0.0) {
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
        $this->vx = $vx;
        $this->vy = $vy;
        $this->vz = $vz;
        $this->wx = $wx;
        $this->wy = $wy;
        $this->wz = $wz;
        $this->rub1 = $rub1;
        $this->rub2 = $rub2;
        $this->twist = $twist;
    }

    /**
     * One pass over all manifolds: 0 presses apart by soft contacts, 1 takes out the speed that gave and lets bounce.
     *
     * @param  0|1  $pass
     */
    private function press(int $pass): void
    {
        $vx = $this->vx;
        $vy = $this->vy;
        $vz = $this->vz;
        $wx = $this->wx;
        $wy = $this->wy;
        $wz = $this->wz;
        $push = $this->push;
        $rub1 = $this->rub1;
        $rub2 = $this->rub2;
        $twist = $this->twist;
        $approach = $this->approach;
        $asleep = $this->asleep;
        $pressed = $this->pressed;
        $hit = $this->hit;
        $this->vx = $this->vy = $this->vz = $this->wx = $this->wy = $this->wz = $this->push = $this->rub1 = $this->rub2 = $this->twist = $this->approach = $this->asleep = $this->pressed = $this->hit = [];
        $ma = $this->ma;
        $mb = $this->mb;
        $mass = $this->mass;
        $dx = $this->dx;
        $dy = $this->dy;
        $dz = $this->dz;
        $tx = $this->tx;
        $ty = $this->ty;
        $tz = $this->tz;
        [$normal, $rub] = $this->rows;
        $first = $this->c->first;
        $cnx = $this->c->nx;
        $cny = $this->c->ny;
        $cnz = $this->c->nz;
        $friction = $this->c->friction;
        $bounce = $this->c->bounce;
        $h = $this->h;
        $manifolds = count($ma);
        $omega = 2.0 * M_PI * min(Tolerances::CONTACT_STIFFNESS, 0.25 / $h);
        $k = $h * $omega * (2.0 * Tolerances::CONTACT_DAMPING + $h * $omega);
        $rate = $omega / (2.0 * Tolerances::CONTACT_DAMPING + $h * $omega);
        $softMass = $k / (1.0 + $k);
        $softImpulse = 1.0 / (1.0 + $k);
        $slop = Tolerances::SLOP * $this->w->pieceSize;
        $press = Tolerances::PRESS_SPEED * $this->w->pieceSize;
        $bounceFrom = Tolerances::BOUNCE_FROM;
        $borne = $this->borne;
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
            $pressing = $total + $borne[$m];
            if ($pressing > 0.0 || $o1 !== 0.0 || $o2 !== 0.0) {
                // Friction: both tangents at once, cut back to the cone.
                $limit = $friction[$m] * $pressing;
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
        $this->vx = $vx;
        $this->vy = $vy;
        $this->vz = $vz;
        $this->wx = $wx;
        $this->wy = $wy;
        $this->wz = $wz;
        $this->push = $push;
        $this->rub1 = $rub1;
        $this->rub2 = $rub2;
        $this->twist = $twist;
        $this->approach = $approach;
        $this->asleep = $asleep;
        $this->pressed = $pressed;
        $this->hit = $hit;
    }

    /**
     * From the ground up, what still sinks into what it stands on is stopped as if that stood fast, where that is slow. What that bears
     * by it, it is given in the next sub-step.
     *
     * @return array<int, array{float, float, float, float, float, float}> by body, what it is still to be given: m/s and rad/s
     */
    private function shore(): array
    {
        $owed = [];
        $this->borne = array_fill(0, count($this->ma), 0.0);
        $vx = $this->vx;
        $vy = $this->vy;
        $vz = $this->vz;
        $wx = $this->wx;
        $wy = $this->wy;
        $wz = $this->wz;
        $this->vx = $this->vy = $this->vz = $this->wx = $this->wy = $this->wz = [];
        $dx = $this->dx;
        $dy = $this->dy;
        $dz = $this->dz;
        $tx = $this->tx;
        $ty = $this->ty;
        $tz = $this->tz;
        $ma = $this->ma;
        $mb = $this->mb;
        $mass = $this->mass;
        $normal = $this->rows[0];
        $first = $this->c->first;
        $cnx = $this->c->nx;
        $cny = $this->c->ny;
        $cnz = $this->c->nz;
        $h = $this->h;
        $slow = Tolerances::SHORED_SPEED ** 2;
        // A hundredth of what a sub-step adds is as good as nothing.
        $enough = 0.01 * $h * $this->w->gravity->length();
        foreach ($this->stacks as $code) {
            $m = $code >> 1;
            $a = $ma[$m];
            $b = $mb[$m];
            $isSecond = ($code & 1) === 1;
            [$upper, $lower] = $isSecond ? [$b, $a] : [$a, $b];
            if ($slow < $vx[$lower] * $vx[$lower] + $vy[$lower] * $vy[$lower] + $vz[$lower] * $vz[$lower]) {
                continue;
            }
            $nx = $cnx[$m];
            $ny = $cny[$m];
            $nz = $cnz[$m];
            $shift = ($dx[$b] - $dx[$a]) * $nx + ($dy[$b] - $dy[$a]) * $ny + ($dz[$b] - $dz[$a]) * $nz;
            $im = $mass[$upper];
            $turned = $isSecond ? 9 : 6;
            $lever = $isSecond ? 3 : 0;
            $sign = $isSecond ? 1.0 : -1.0;
            $sum = $p = $q = $r = 0.0;
            for ($round = 0, $more = true; $round < self::SHORE_ROUNDS && $more; $round++) {
                $more = false;
                for ($k = $first[$m], $end = $first[$m + 1]; $k < $end; $k++) {
                    $i = ContactRows::POINT * $k;
                    $n0 = $normal[$i];
                    $n1 = $normal[$i + 1];
                    $n2 = $normal[$i + 2];
                    $n3 = $normal[$i + 3];
                    $n4 = $normal[$i + 4];
                    $n5 = $normal[$i + 5];
                    $v = ($vx[$b] - $vx[$a]) * $nx + ($vy[$b] - $vy[$a]) * $ny + ($vz[$b] - $vz[$a]) * $nz
                        + $n3 * $wx[$b] + $n4 * $wy[$b] + $n5 * $wz[$b] - $n0 * $wx[$a] - $n1 * $wy[$a] - $n2 * $wz[$a];
                    $gap = $normal[$i + ContactRows::GAP] + $shift + $n3 * $tx[$b] + $n4 * $ty[$b] + $n5 * $tz[$b] - $n0 * $tx[$a] - $n1 * $ty[$a] - $n2 * $tz[$a];
                    if ($gap > 0.0) {
                        $v += $gap / $h;
                    }
                    if ($v >= -$enough) {
                        continue;
                    }
                    $more = true;
                    $u = $i + $turned;
                    $l = $i + $lever;
                    $e = -$v / ($im + $normal[$l] * $normal[$u] + $normal[$l + 1] * $normal[$u + 1] + $normal[$l + 2] * $normal[$u + 2]);
                    $sum += $e;
                    $u = $i + 15 - $turned;
                    $p += $e * $normal[$u];
                    $q += $e * $normal[$u + 1];
                    $r += $e * $normal[$u + 2];
                    $e *= $sign;
                    $u = $i + $turned;
                    $vx[$upper] += $e * $im * $nx;
                    $vy[$upper] += $e * $im * $ny;
                    $vz[$upper] += $e * $im * $nz;
                    $wx[$upper] += $e * $normal[$u];
                    $wy[$upper] += $e * $normal[$u + 1];
                    $wz[$upper] += $e * $normal[$u + 2];
                }
            }
            if ($sum > 0.0) {
                $this->borne[$m] = $sum;
                $this->asleep[$m] = false;
                $this->pressed[$m] = $this->hit[$upper] = true;
                if ($mass[$lower] > 0.0) {
                    $owed[$lower] ??= [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
                    $e = -$sign * $sum * $mass[$lower];
                    $owed[$lower][0] += $e * $nx;
                    $owed[$lower][1] += $e * $ny;
                    $owed[$lower][2] += $e * $nz;
                    $owed[$lower][3] -= $sign * $p;
                    $owed[$lower][4] -= $sign * $q;
                    $owed[$lower][5] -= $sign * $r;
                }
            }
        }
        $this->vx = $vx;
        $this->vy = $vy;
        $this->vz = $vz;
        $this->wx = $wx;
        $this->wy = $wy;
        $this->wz = $wz;

        return $owed;
    }

    /** What is pinched would be shot out like a wet stone, for nothing gives way here and no force is too large. */
    private function limit(): void
    {
        $vx = $this->vx;
        $vy = $this->vy;
        $vz = $this->vz;
        $wx = $this->wx;
        $wy = $this->wy;
        $wz = $this->wz;
        $this->vx = $this->vy = $this->vz = $this->wx = $this->wy = $this->wz = [];
        $size = $this->w->size;
        $fastest = $this->fastest;
        $fastestSquared = $fastest * $fastest;
        foreach ($this->met as $b) {
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
        $this->vx = $vx;
        $this->vy = $vy;
        $this->vz = $vz;
        $this->wx = $wx;
        $this->wy = $wy;
        $this->wz = $wz;
    }

    /**
     * @param  list<float>  $fallX  speeds before anything pushed
     * @param  list<float>  $fallY
     * @param  list<float>  $fallZ
     */
    private function move(array $fallX, array $fallY, array $fallZ): void
    {
        $dx = $this->dx;
        $dy = $this->dy;
        $dz = $this->dz;
        $tx = $this->tx;
        $ty = $this->ty;
        $tz = $this->tz;
        $this->dx = $this->dy = $this->dz = $this->tx = $this->ty = $this->tz = [];
        $vx = $this->vx;
        $vy = $this->vy;
        $vz = $this->vz;
        $wx = $this->wx;
        $wy = $this->wy;
        $wz = $this->wz;
        $gx = $this->gx;
        $gy = $this->gy;
        $gz = $this->gz;
        $touching = $this->touching;
        $h = $this->h;
        foreach ($this->driven as $b) {
            $dx[$b] += $h * $vx[$b];
            $dy[$b] += $h * $vy[$b];
            $dz[$b] += $h * $vz[$b];
            $tx[$b] += $h * $wx[$b];
            $ty[$b] += $h * $wy[$b];
            $tz[$b] += $h * $wz[$b];
        }
        foreach ($this->moving as $b) {
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
        $this->dx = $dx;
        $this->dy = $dy;
        $this->dz = $dz;
        $this->tx = $tx;
        $this->ty = $ty;
        $this->tz = $tz;
    }

    /** Speeds, impulses and places to the world and its contacts. */
    /** Adds up what was pushed in this sub-step where loads are asked for. */
    private function weigh(): void
    {
        $first = $this->c->first;
        $rub = $this->rows[1];
        foreach ($this->weighed as $m) {
            $sum = $this->c->whole[$m] ?? array_fill(0, $first[$m + 1] - $first[$m] + 3, 0.0);
            $i = 0;
            for ($k = $first[$m], $end = $first[$m + 1]; $k < $end; $k++, $i++) {
                $sum[$i] += $this->push[$k];
            }
            $r = ContactRows::MANIFOLD * $m;
            for ($axis = 0; $axis < 3; $axis++, $i++) {
                $sum[$i] += $this->rub1[$m] * $rub[$r + $axis] + $this->rub2[$m] * $rub[$r + ContactRows::SECOND + $axis];
            }
            $this->c->whole[$m] = $sum;
        }
    }

    private function giveBack(int $steps): void
    {
        $w = $this->w;
        $c = $this->c;
        $rub = $this->rows[1];
        foreach (['vx', 'vy', 'vz', 'wx', 'wy', 'wz'] as $speed) {
            $w->$speed = array_slice($this->$speed, 0, $this->ground);
        }
        $c->push = $this->push;
        $c->twist = $this->twist;
        $c->borne = $this->stacks === [] ? [] : $this->borne;
        foreach ($this->ma as $m => $_) {
            $r = ContactRows::MANIFOLD * $m;
            $c->rubX[$m] = $this->rub1[$m] * $rub[$r] + $this->rub2[$m] * $rub[$r + ContactRows::SECOND];
            $c->rubY[$m] = $this->rub1[$m] * $rub[$r + 1] + $this->rub2[$m] * $rub[$r + ContactRows::SECOND + 1];
            $c->rubZ[$m] = $this->rub1[$m] * $rub[$r + 2] + $this->rub2[$m] * $rub[$r + ContactRows::SECOND + 2];
        }
        $this->unlock($w, $c, $this->mass, $this->dx, $this->dy, $this->dz);
        foreach ($this->moving as $b) {
            $w->px[$b] += $this->dx[$b];
            $w->py[$b] += $this->dy[$b];
            $w->pz[$b] += $this->dz[$b];
            if (isset($this->touching[$b])) {
                $w->turnBy($b, $this->tx[$b], $this->ty[$b], $this->tz[$b]);
            } else {
                $w->spinFreely($b, $this->h * $steps, $steps);
            }
        }
    }

    /**
     * Where something grows its surface moves as a body of its own would, another at every manifold.
     *
     * @param  list<int>  $ma  bodies of the manifolds
     * @param  list<int>  $mb
     * @param  int  $next  number of the first such body
     * @return array{list<int>, list<int>, list<array{int, float, float, float}>} the bodies with those, and for each of them the one it is part of and its
     *   speed from growing
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
     * around them. Such pairs are moved apart outright, which gives them no speed; what rests gives way like the rest, and rests on.
     *
     * @param  array<int, float>  $mass  inverse masses
     * @param  array<int, float>  $dx  how far each body has come within the span
     * @param  array<int, float>  $dy
     * @param  array<int, float>  $dz
     */
    private function unlock(World $w, ContactSet $c, array $mass, array &$dx, array &$dy, array &$dz): void
    {
        $bearable = min(Tolerances::LOCKED_OVERLAP * $w->pieceSize, Tolerances::LOCKED_OVERLAP_THIN * $w->pieceThickness);
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
        if (! $locked) {
            return;
        }
        $was = [];
        foreach ($near as $m) {
            foreach ([$c->a[$m], $c->b[$m]] as $body) {
                if ($body >= 0 && ($w->state[$body] === World::RESTING || $w->state[$body] === World::MOVING)) {
                    $mass[$body] = 1.0 / $w->mass[$body];
                    $was[$body] = [$dx[$body], $dy[$body], $dz[$body]];
                }
            }
        }
        for ($round = 0; $round < self::UNLOCK_ROUNDS; $round++) {
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
        foreach ($was as $body => [$x, $y, $z]) {
            $shift = sqrt(($dx[$body] - $x) ** 2 + ($dy[$body] - $y) ** 2 + ($dz[$body] - $z) ** 2);
            if ($shift > 0.0) {
                $w->shifted[$body] = $shift;
                if ($w->state[$body] === World::RESTING) {
                    $w->px[$body] += $dx[$body] - $x;
                    $w->py[$body] += $dy[$body] - $y;
                    $w->pz[$body] += $dz[$body] - $z;
                }
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
    private static function moving(World $w): array
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
