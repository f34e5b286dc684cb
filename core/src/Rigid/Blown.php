<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Force\Field;
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
     * @param  float  $density  kg/m³, of what they are made of
     * @param  float  $span  seconds until they are looked at again
     */
    public function by(World $w, Field $field, array $bodies, array $sails, array $sizes, float $drag, array $frictions, float $density, float $span): void
    {
        $g = $w->gravity;
        // What everything is in bears as much of it as it takes the place of.
        $borne = $field->density / max(1e-9, $density);
        foreach ($bodies as $i => $b) {
            $turn = new Quaternion($w->qx[$b], $w->qy[$b], $w->qz[$b], $w->qw[$b]);
            $back = $turn->inverse();
            $rests = $w->state[$b] === World::RESTING;
            $velocity = $rests ? Vec3::zero() : new Vec3($w->vx[$b], $w->vy[$b], $w->vz[$b]);
            $spin = $rests ? Vec3::zero() : $back->turn(new Vec3($w->wx[$b], $w->wy[$b], $w->wz[$b]));
            $wind = $back->turn((new Vec3($field->ux[$i], $field->uy[$i], $field->uz[$i]))->minus($velocity));
            [$fx, $fy, $fz, $mx, $my, $mz, $more, $turning] = $sails[$i]->pressed($wind, $spin, 0.5 * $field->density * $drag, $sizes[$i]);
            $pulled = (new Vec3($field->ax[$i], $field->ay[$i], $field->az[$i]))->minus($g->times($borne));
            $slows = $field->slowing[$i];
            $push = $turn->turn(new Vec3($fx, $fy, $fz))->times(1.0 / $w->mass[$b])->plus($pulled)->minus($velocity->times($slows));
            $all = $push->plus($g);
            $w->accelerate($b, $all->times(self::mean($span * ($more / $w->mass[$b] + $slows)))->minus($g), false);
            if ($rests) {
                if ($this->wakes($w, $b, $push, $frictions[$i], $sails[$i]->rolls())) {
                    $w->wakeUp($b);
                }

                continue;
            }
            [$xx, $yy, $zz, $xy, $yz, $zx] = $w->inverseInertia($b);
            $mean = self::mean($span * ($turning * max($xx, $yy, $zz) + $slows));
            $gained = new Vec3(
                $xx * $mx + $xy * $my + $zx * $mz - $slows * $spin->x,
                $xy * $mx + $yy * $my + $yz * $mz - $slows * $spin->y,
                $zx * $mx + $yz * $my + $zz * $mz - $slows * $spin->z,
            );
            $w->kick($b, Vec3::zero(), $turn->turn($gained->times($span * $mean)));
        }
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
