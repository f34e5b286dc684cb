<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Debris;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;
use YardBreak\Core\Rigid\World;

/** Looks after pieces that were let go: when they meet their own kind, and when they go. */
final class Tending
{
    /** A piece goes from this weight on. */
    private const GOES = 0.5;

    /** @var array<int, array{float, float, float, float}> by body that does not meet its own kind yet: when it was let go, s, and where, m */
    private array $since = [];

    /** @var array<int, float> s at rest, by body */
    private array $rested = [];

    /** @var array<int, array{float, float, float, float}> by body that goes: share of its size left, and m/s */
    private array $going = [];

    public function __construct(private readonly World $world)
    {
    }

    public function released(int $body): void
    {
        $w = $this->world;
        $this->since[$body] = [$w->time, $w->px[$body], $w->py[$body], $w->pz[$body]];
        $w->encounters->unarmed[$body] = true;
    }

    /** Lets those of so many bodies meet their own kind that have come far enough, or waited long enough. */
    public function arm(Debris $debris, int $body): void
    {
        if (! isset($this->since[$body])) {
            return;
        }
        $w = $this->world;
        [$time, $x, $y, $z] = $this->since[$body];
        $way = sqrt(($w->px[$body] - $x) ** 2 + ($w->py[$body] - $y) ** 2 + ($w->pz[$body] - $z) ** 2);
        if ($debris->afterWay > 0.0 && $way >= $debris->afterWay || $debris->afterTime > 0.0 && $w->time - $time >= $debris->afterTime - 1e-9) {
            unset($this->since[$body], $w->encounters->unarmed[$body]);
            // Where they overlap as they begin to meet they are not pushed apart at once.
            $w->forgiveOverlaps();
        }
    }

    /**
     * Lets a body go that has come to where it does, or been at rest for as long.
     *
     * @param  Vec3  $home  where its prop was at first
     * @param  float  $weight  of the map it goes by, where it does
     */
    public function mayGo(Debris $debris, int $body, Vec3 $home, float $weight, float $seconds): void
    {
        $w = $this->world;
        if (isset($this->going[$body])) {
            $this->shrink($debris, $body, $seconds);

            return;
        }
        $this->rested[$body] = $w->state[$body] === World::RESTING ? ($this->rested[$body] ?? 0.0) + $seconds : 0.0;
        [$wide, $high, $deep] = $debris->box;
        $left = $wide > 0.0 && abs($w->px[$body] - $home->x) > 0.5 * $wide || $high > 0.0 && abs($w->py[$body] - $home->y) > 0.5 * $high || $deep > 0.0 && abs($w->pz[$body] - $home->z) > 0.5 * $deep;
        if ($left || $weight >= self::GOES || $debris->goneAfter > 0.0 && $this->rested[$body] >= $debris->goneAfter) {
            $moves = $w->state[$body] === World::MOVING;
            $this->going[$body] = [1.0, ...$moves ? [$w->vx[$body], $w->vy[$body], $w->vz[$body]] : [0.0, 0.0, 0.0]];
            $w->dismiss($body);
            $this->shrink($debris, $body, 0.0);
        }
    }

    /** What goes while it flies flies on. */
    private function shrink(Debris $debris, int $body, float $seconds): void
    {
        $w = $this->world;
        [$share, $vx, $vy, $vz] = $this->going[$body];
        if ($share <= 0.0) {
            return;
        }
        if ($vx !== 0.0 || $vy !== 0.0 || $vz !== 0.0) {
            $g = $w->gravity;
            $w->px[$body] += $seconds * ($vx + 0.5 * $seconds * $g->x);
            $w->py[$body] += $seconds * ($vy + 0.5 * $seconds * $g->y);
            $w->pz[$body] += $seconds * ($vz + 0.5 * $seconds * $g->z);
            [$vx, $vy, $vz] = [$vx + $seconds * $g->x, $vy + $seconds * $g->y, $vz + $seconds * $g->z];
        }
        $this->going[$body] = [$debris->goneIn > 0.0 ? max(0.0, $share - $seconds / $debris->goneIn) : 0.0, $vx, $vy, $vz];
    }

    /** Share of its size that a body has while it goes; 1 for one that does not. */
    public function share(int $body): float
    {
        return $this->going[$body][0] ?? 1.0;
    }

    public function isGoing(int $body): bool
    {
        return isset($this->going[$body]);
    }

    public function gone(): int
    {
        return count($this->going);
    }

    public function pack(PackWriter $out): void
    {
        foreach ([$this->since, $this->going] as $list) {
            $out->small(array_keys($list));
            $out->floats(array_merge(...array_values($list)));
        }
        $out->small(array_keys($this->rested));
        $out->floats(array_values($this->rested));
    }

    public function unpack(PackReader $in): void
    {
        $lists = [];
        for ($k = 0; $k < 2; $k++) {
            $bodies = $in->small();
            $lists[] = array_combine($bodies, array_chunk($in->floats(), 4));
        }
        [$this->since, $this->going] = $lists;
        $this->rested = array_combine($in->small(), $in->floats());
        $this->world->encounters->unarmed = array_fill_keys(array_keys($this->since), true);
        $this->world->encounters->gone += array_fill_keys(array_keys($this->going), true);
    }
}
