<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Geometry\Vec3;

/** Touches of bodies that wait for one, found in a search. */
final class Touches
{
    /** @var list<Touch> */
    public array $all = [];

    public function clear(): void
    {
        $this->all = [];
    }

    /**
     * Notes two bodies that meet within the span, for those that wait.
     *
     * @param  int  $b  −1 for the ground
     */
    public function note(World $w, int $a, int $b, float $nx, float $ny, float $nz, float $gap, float $x, float $y, float $z, float $span): void
    {
        $va = self::speedAt($w, $a, $x, $y, $z);
        $vb = $b < 0 ? Vec3::zero() : self::speedAt($w, $b, $x, $y, $z);
        $approach = ($va->x - $vb->x) * $nx + ($va->y - $vb->y) * $ny + ($va->z - $vb->z) * $nz;
        if ($gap > $approach * $span + 1e-4 * $w->pieceSize) {
            return;
        }
        foreach ([[$a, $b], [$b, $a]] as [$body, $other]) {
            if ($body >= 0 && isset($w->waiting[$body])) {
                $this->all[] = new Touch($body, $other, new Vec3($x, $y, $z), $approach);
            }
        }
    }

    private static function speedAt(World $w, int $b, float $x, float $y, float $z): Vec3
    {
        if ($w->state[$b] === World::STILL || $w->state[$b] === World::RESTING) {
            return Vec3::zero();
        }
        $rx = $x - $w->px[$b];
        $ry = $y - $w->py[$b];
        $rz = $z - $w->pz[$b];

        return new Vec3(
            $w->vx[$b] + $w->wy[$b] * $rz - $w->wz[$b] * $ry,
            $w->vy[$b] + $w->wz[$b] * $rx - $w->wx[$b] * $rz,
            $w->vz[$b] + $w->wx[$b] * $ry - $w->wy[$b] * $rx,
        );
    }
}
