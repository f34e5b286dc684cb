<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Force\Effect;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/**
 * What forces do to bodies. What hangs on their speed is linearised and followed exactly through the span (the exponential Euler
 * method of Rosenbrock's kind; Hochbruck & Ostermann 2010, "Exponential integrators"), so that what is light is not blown to and
 * fro: plain damping is exact, and so is the balance of a force and gravity.
 */
final class Blown
{
    /** Share of what held a resting body at its place by which a force must have changed to wake it again. */
    private const CHANGED = 0.1;

    /** Share of gravity that moves what rolls. */
    private const ROLLS = 0.005;

    /** @var array<int, array{float, float, float}> m/s², what bodies were woken by last */
    private array $woke = [];

    /**
     * @param  list<int>  $bodies
     * @param  list<Sail>  $sails  of each
     * @param  list<float>  $sizes  times as large as each was made
     * @param  float  $drag  their drag coefficient
     * @param  list<float>  $frictions  of each
     * @param  list<float>  $densities  kg/m³, of what each is made of
     * @param  float  $span  seconds until they are looked at again
     */
    public function by(World $w, Effect $effect, array $bodies, array $sails, array $sizes, float $drag, array $frictions, array $densities, float $span): void
    {
        [$gx, $gy, $gz] = $w->gravity->toArray();
        foreach ($bodies as $i => $b) {
            if (isset($effect->strikes[$i])) {
                $this->strike($w, $b, $effect->strikes[$i], $sails[$i], $sizes[$i]);
            }
            // What it is in bears as much of it as it takes the place of.
            $borne = $effect->density[$i] / max(1e-9, $densities[$i]);
            $half = 0.5 * $effect->density[$i] * $drag;
            $rests = $w->state[$b] === World::RESTING;
            [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = $w->matrix($b);
            $vx = $vy = $vz = $sx = $sy = $sz = 0.0;
            if (! $rests) {
                $vx = $w->vx[$b];
                $vy = $w->vy[$b];
                $vz = $w->vz[$b];
                [$x, $y, $z] = [$w->wx[$b], $w->wy[$b], $w->wz[$b]];
                $sx = $m0 * $x + $m3 * $y + $m6 * $z;
                $sy = $m1 * $x + $m4 * $y + $m7 * $z;
                $sz = $m2 * $x + $m5 * $y + $m8 * $z;
            }
            $ax = $effect->ax[$i] - $borne * $gx;
            $ay = $effect->ay[$i] - $borne * $gy;
            $az = $effect->az[$i] - $borne * $gz;
            $mx = $my = $mz = $more = $turning = 0.0;
            $mass = $w->mass[$b];
            if ($half > 0.0) {
                $x = $effect->ux[$i] - $vx;
                $y = $effect->uy[$i] - $vy;
                $z = $effect->uz[$i] - $vz;
                [$x, $y, $z, $mx, $my, $mz, $more, $turning] = $sails[$i]->pressed(
                    $m0 * $x + $m3 * $y + $m6 * $z, $m1 * $x + $m4 * $y + $m7 * $z, $m2 * $x + $m5 * $y + $m8 * $z, $sx, $sy, $sz, $half, $sizes[$i],
                );
                $ax += ($m0 * $x + $m1 * $y + $m2 * $z) / $mass;
                $ay += ($m3 * $x + $m4 * $y + $m5 * $z) / $mass;
                $az += ($m6 * $x + $m7 * $y + $m8 * $z) / $mass;
            }
            if ($rests) {
                $push = new Vec3($ax, $ay, $az);
                $w->accelerate($b, $push, false);
                if ($this->wakes($w, $b, $push, $frictions[$i], $sails[$i]->rolls())) {
                    $w->wakeUp($b);
                }

                continue;
            }
            $slows = $effect->slowing[$i];
            $mean = self::mean($span * ($more / $mass + $slows));
            $w->accelerate($b, new Vec3(
                ($ax - $slows * $vx + $gx) * $mean - $gx,
                ($ay - $slows * $vy + $gy) * $mean - $gy,
                ($az - $slows * $vz + $gz) * $mean - $gz,
            ), false);
            [$xx, $yy, $zz, $xy, $yz, $zx] = $w->inverseInertia($b);
            $mean = $span * self::mean($span * ($turning * max($xx, $yy, $zz) + $slows));
            $x = ($xx * $mx + $xy * $my + $zx * $mz - $slows * $sx) * $mean;
            $y = ($xy * $mx + $yy * $my + $yz * $mz - $slows * $sy) * $mean;
            $z = ($zx * $mx + $yz * $my + $zz * $mz - $slows * $sz) * $mean;
            if ($x !== 0.0 || $y !== 0.0 || $z !== 0.0) {
                $w->kick($b, Vec3::zero(), new Vec3($m0 * $x + $m1 * $y + $m2 * $z, $m3 * $x + $m4 * $y + $m5 * $z, $m6 * $x + $m7 * $y + $m8 * $z));
            }
        }
    }

    /** @param  Vec3  $by  N·s for each m² turned that way */
    private function strike(World $w, int $b, Vec3 $by, Sail $sail, float $size): void
    {
        $turn = new Quaternion($w->qx[$b], $w->qy[$b], $w->qz[$b], $w->qw[$b]);
        $w->wakeUp($b);
        $w->kick($b, $by->times($sail->area($turn->inverse()->turn($by)) * $size * $size / $w->mass[$b]), Vec3::zero());
    }

    /** The mean over a span of what dies away by a factor of e^−x within it. */
    private static function mean(float $x): float
    {
        return $x < 1e-6 ? 1.0 - 0.5 * $x : -expm1(-$x) / $x;
    }

    /** Whether a push moves what rests: it is lifted, or slides, or rolls; and not again by what it withstood. */
    private function wakes(World $w, int $b, Vec3 $push, float $friction, bool $rolls): bool
    {
        $g = $w->gravity->length();
        $up = $g > 0.0 ? $w->gravity->times(-1.0 / $g) : Vec3::zero();
        $lift = $push->dot($up);
        $aside = $push->minus($up->times($lift))->length();
        if ($lift < $g && $aside <= ($rolls ? self::ROLLS * $g : $friction * ($g - $lift))) {
            return false;
        }
        $last = $this->woke[$b] ?? null;
        if ($last !== null && $push->minus(Vec3::of($last))->length() < self::CHANGED * $push->length()) {
            return false;
        }
        $this->woke[$b] = $push->toArray();

        return true;
    }

    public function pack(PackWriter $out): void
    {
        $out->small(array_keys($this->woke));
        $out->floats(array_merge(...array_values($this->woke)));
    }

    public function unpack(PackReader $in): void
    {
        $this->woke = array_combine($in->small(), array_chunk($in->floats(), 3));
    }
}
