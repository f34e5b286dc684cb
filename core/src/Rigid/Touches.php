<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Geometry\Vec3;

/** Touches found in a search: of bodies that wait for one, of groups that were not known to have met, and blows on what is brittle. */
final class Touches
{
    /** @var list<BodyTouch> */
    public array $all = [];

    /** @var array<int, true> pairs of groups whose touches are of no more interest, each in both orders; the ground is group −1 */
    public array $known = [];

    public function clear(): void
    {
        $this->all = [];
    }

    public function settle(int $group, int $other): void
    {
        $this->known[$group << 16 | $other & 0xFFFF] = $this->known[$other << 16 | $group & 0xFFFF] = true;
    }

    /** Whether the touch of a body and another, or the ground, is still of interest. */
    public function heeds(World $w, int $body, int $other): bool
    {
        return ! isset($this->known[$w->groupOf($body) << 16 | ($other < 0 ? 0xFFFF : $w->groupOf($other))]);
    }

    /** Whether blows on a body are told, whatever it meets. */
    public static function tells(World $w, int $body): bool
    {
        return isset($w->brittle[$body]) || isset($w->loud[$w->groupOf($body)]);
    }

    /** Whether a blow on one of two bodies would be of interest wherever it comes from, and there is one. */
    public static function isBlow(World $w, int $a, int $b, float $nx, float $ny, float $nz, float $x, float $y, float $z): bool
    {
        $from = min($w->brittle[$a] ?? INF, $w->brittle[$b] ?? INF);
        if ($w->loud !== [] && $w->groupOf($a) !== $w->groupOf($b)) {
            $from = min($from, $w->loud[$w->groupOf($a)] ?? INF, $w->loud[$w->groupOf($b)] ?? INF);
        }

        return $from < INF && self::approach($w, $a, $b, $nx, $ny, $nz, $x, $y, $z) >= $from;
    }

    /**
     * Notes two colliders that meet within the span.
     *
     * @param  int  $d  −1 for the ground
     * @param  Vec3  $middle  of the points that touch together, which bear the blow
     */
    public function note(World $w, int $c, int $d, float $nx, float $ny, float $nz, float $gap, float $x, float $y, float $z, float $span, Vec3 $middle): void
    {
        $a = $w->colliders->body[$c];
        $b = $d < 0 ? -1 : $w->colliders->body[$d];
        $approach = self::approach($w, $a, $b, $nx, $ny, $nz, $x, $y, $z);
        if ($gap > $approach * $span + 1e-4 * $w->pieceSize) {
            return;
        }
        $at = new Vec3($x, $y, $z);
        $normal = new Vec3($nx, $ny, $nz);
        $gives = $w->yield($a, $middle, $normal) + ($b < 0 ? 0.0 : $w->yield($b, $middle, $normal));
        $this->all[] = new BodyTouch(
            $c,
            $d,
            $at,
            $normal,
            $approach,
            $approach <= 0.0 ? 0.0 : ($gives > 0.0 ? $approach / $gives : INF),
            $approach > 0.0 ? min($span, max(0.0, $gap / $approach)) : 0.0,
        );
    }

    /** m/s, how fast one body comes at another, or at the ground, along a normal from the first to the second. */
    public static function approach(World $w, int $a, int $b, float $nx, float $ny, float $nz, float $x, float $y, float $z): float
    {
        $va = self::speedAt($w, $a, $x, $y, $z);
        $vb = $b < 0 ? Vec3::zero() : self::speedAt($w, $b, $x, $y, $z);

        return ($va->x - $vb->x) * $nx + ($va->y - $vb->y) * $ny + ($va->z - $vb->z) * $nz;
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
