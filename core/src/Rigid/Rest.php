<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/**
 * Lets bodies come to rest one by one, and wakes them when it matters.
 *
 * A body rests when it has hardly left its place for a while and something holds it; whether its neighbours
 * still rock is no concern of its. It wakes when it is hit hard enough, or when what it lies on moves away.
 */
final class Rest
{
    /** @var list<float> seconds each body has kept to its place */
    private array $still = [];

    /** @var list<array{float, float, float, float, float, float, float}> that place: position and turn */
    private array $anchor = [];

    /** @var array<int, list<array{int, float, float, float}>> what held each resting body, and where that was */
    private array $supports = [];

    /** @var list<float> seconds each body has been slow, in its place or not */
    private array $slow = [];

    /** @var array<int, array{float, float}> bodies that rest by other measures than usual: after how long, s, and within which share of their size */
    private array $measures = [];

    public function add(int $body): void
    {
        $this->still[] = $this->slow[] = 0.0;
        $this->anchor[] = [INF, INF, INF, 0.0, 0.0, 0.0, 1.0];
    }

    public function by(int $body, float $after, float $within): void
    {
        if ($after === Tolerances::REST_AFTER && $within === Tolerances::REST_SHIFT) {
            unset($this->measures[$body]);
        } else {
            $this->measures[$body] = [$after, $within];
        }
    }

    /** A body is no longer there: what it held wakes. */
    public function lost(int $body, World $w): void
    {
        unset($this->supports[$body]);
        foreach ($this->supports as $b => $list) {
            if (in_array($body, array_column($list, 0), true)) {
                $this->wakeUp($b, $w);
            }
        }
    }

    /** How many bodies have been slow for a while and do not rest all the same. */
    public function twitching(World $w): int
    {
        $n = 0;
        foreach ($w->state as $b => $state) {
            $n += $state === World::MOVING && $this->slow[$b] > Tolerances::TWITCHES_AFTER ? 1 : 0;
        }

        return $n;
    }

    public function woken(int $b, World $w): void
    {
        $this->still[$b] = 0.0;
        $this->anchor[$b] = [$w->px[$b], $w->py[$b], $w->pz[$b], $w->qx[$b], $w->qy[$b], $w->qz[$b], $w->qw[$b]];
        unset($this->supports[$b]);
    }

    /**
     * Wakes what is about to be hit, and what has lost its hold.
     *
     * @return bool whether anything
     */
    public function wake(World $w): bool
    {
        $c = $w->contacts;
        $wake = [];
        foreach ($c->a as $m => $a) {
            $b = $c->b[$m];
            if ($b < 0) {
                continue;
            }
            $sa = $w->state[$a];
            $sb = $w->state[$b];
            if ($sa !== World::RESTING && $sb !== World::RESTING) {
                continue;
            }
            $resting = $sa === World::RESTING ? $a : $b;
            $mover = $sa === World::RESTING ? $b : $a;
            $toward = $sa === World::RESTING ? -1.0 : 1.0;
            $deep = 0.0;
            for ($k = $c->first[$m], $end = $c->first[$m + 1]; $k < $end; $k++) {
                $deep = $c->gap[$k] < $deep ? $c->gap[$k] : $deep;
                $rx = $c->x[$k] - $w->px[$mover];
                $ry = $c->y[$k] - $w->py[$mover];
                $rz = $c->z[$k] - $w->pz[$mover];
                $vx = $w->vx[$mover] + $w->wy[$mover] * $rz - $w->wz[$mover] * $ry;
                $vy = $w->vy[$mover] + $w->wz[$mover] * $rx - $w->wx[$mover] * $rz;
                $vz = $w->vz[$mover] + $w->wx[$mover] * $ry - $w->wy[$mover] * $rx;
                $v = $toward * ($vx * $c->nx[$m] + $vy * $c->ny[$m] + $vz * $c->nz[$m]);
                // What is driven stops for nothing, however slow it is; and what lies on it is carried along.
                if (
                    $w->state[$mover] === World::KEYED ? $v > Tolerances::DRIVEN_SPEED
                    || $c->gap[$k] < Tolerances::SLOP * $w->pieceSize
                    && $vx * $vx + $vy * $vy + $vz * $vz > Tolerances::DRIVEN_SPEED ** 2 : $v * $w->mass[$mover] / ($w->mass[$mover] + $w->mass[$resting]) > Tolerances::WAKE_SPEED
                ) {
                    $wake[$resting] = true;
                }
            }
            if ($deep < -0.05 * $w->size[$resting]) {
                $wake[$resting] = true;
            }
        }
        foreach ($this->supports as $b => $list) {
            foreach ($list as [$s, $x, $y, $z]) {
                if ($w->state[$s] === World::RESTING || $w->state[$s] === World::STILL) {
                    continue;
                }
                $limit = Tolerances::WAKE_SHIFT * $w->size[$b];
                if (($w->px[$s] - $x) ** 2 + ($w->py[$s] - $y) ** 2 + ($w->pz[$s] - $z) ** 2 > $limit * $limit) {
                    $wake[$b] = true;
                    break;
                }
            }
        }
        foreach ($wake as $b => $_) {
            $this->wakeUp($b, $w);
        }

        return $wake !== [];
    }

    public function settle(World $w, float $span): void
    {
        $held = null;
        $deep = [];
        $rests = false;
        foreach ($w->state as $b => $state) {
            if ($state !== World::MOVING) {
                continue;
            }
            [$x, $y, $z, $qx, $qy, $qz, $qw] = $this->anchor[$b];
            [$after, $within] = $this->measures[$b] ?? [Tolerances::REST_AFTER, Tolerances::REST_SHIFT];
            $limit = $within * $w->size[$b];
            $d2 = ($w->px[$b] - $x) ** 2 + ($w->py[$b] - $y) ** 2 + ($w->pz[$b] - $z) ** 2;
            $dot = abs($w->qx[$b] * $qx + $w->qy[$b] * $qy + $w->qz[$b] * $qz + $w->qw[$b] * $qw);
            // 1 − cos(θ/2) ≈ θ²/8; the rim of the body moves by θ times half its size.
            // What was just hit has hardly moved yet, but it will.
            $hit = Tolerances::WAKE_SPEED * Tolerances::WAKE_SPEED < $w->vx[$b] * $w->vx[$b] + $w->vy[$b] * $w->vy[$b] + $w->vz[$b] * $w->vz[$b];
            $this->slow[$b] = $hit ? 0.0 : $this->slow[$b] + $span;
            if ($hit || $d2 > $limit * $limit || 2.0 * (1.0 - $dot) * $w->size[$b] * $w->size[$b] > $limit * $limit) {
                $this->woken($b, $w);

                continue;
            }
            $this->still[$b] += $span;
            if ($this->still[$b] > Tolerances::CALM_AFTER / Tolerances::REST_AFTER * $after) {
                $w->vx[$b] *= Tolerances::CALMING;
                $w->vy[$b] *= Tolerances::CALMING;
                $w->vz[$b] *= Tolerances::CALMING;
                $w->wx[$b] *= Tolerances::CALMING;
                $w->wy[$b] *= Tolerances::CALMING;
                $w->wz[$b] *= Tolerances::CALMING;
            }
            if ($this->still[$b] < $after) {
                continue;
            }
            if ($held === null) {
                [$held, $deep] = $this->holds($w);
            }
            if (! isset($held[$b]) || (isset($deep[$b]) && $this->still[$b] < Tolerances::JAMMED_AFTER)) {
                continue;
            }
            $w->state[$b] = World::RESTING;
            $this->slow[$b] = 0.0;
            $w->vx[$b] = $w->vy[$b] = $w->vz[$b] = 0.0;
            $w->wx[$b] = $w->wy[$b] = $w->wz[$b] = 0.0;
            $this->supports[$b] = $held[$b];
            $rests = true;
        }
        if ($rests) {
            $this->relieve($w);
        }
    }

    /** What rests weighs on nothing any more: what bore it in a stack would spring up by the impulses that did. */
    private function relieve(World $w): void
    {
        $c = $w->contacts;
        foreach ($c->borne as $m => $borne) {
            if ($borne > 0.0) {
                for ($k = $c->first[$m], $end = $c->first[$m + 1]; $k < $end; $k++) {
                    $c->push[$k] = 0.0;
                }
            }
        }
        $w->owed = [];
    }

    /**
     * @return array{array<int, list<array{int, float, float, float}>>, array<int, true>} by body: what pushes on it and where that is now; and which bodies
     * overlap something
     */
    private function holds(World $w): array
    {
        $held = $deep = [];
        $limit = -min(Tolerances::REST_OVERLAP * $w->pieceSize, Tolerances::REST_OVERLAP_THIN * $w->pieceThickness);
        $c = $w->contacts;
        foreach ($c->a as $m => $a) {
            $b = $c->b[$m];
            $push = $c->borne[$m] ?? 0.0;
            for ($k = $c->first[$m], $end = $c->first[$m + 1]; $k < $end; $k++) {
                $push += $c->push[$k];
                if ($c->gap[$k] < $limit) {
                    $deep[$a] = $deep[$b] = true;
                }
            }
            if ($push <= 0.0) {
                continue;
            }
            $held[$a] ??= [];
            if ($b >= 0) {
                $held[$b] ??= [];
                $held[$a][] = [$b, $w->px[$b], $w->py[$b], $w->pz[$b]];
                $held[$b][] = [$a, $w->px[$a], $w->py[$a], $w->pz[$a]];
            }
        }

        return [$held, $deep];
    }

    /** Everything that rests starts to move again, for what held it so may not any more. */
    public function wakeAll(World $w): void
    {
        foreach ($w->state as $b => $_) {
            $this->wakeUp($b, $w);
        }
    }

    public function wakeUp(int $b, World $w): void
    {
        if ($w->state[$b] === World::RESTING) {
            $w->state[$b] = World::MOVING;
            $this->woken($b, $w);
        }
    }

    public function pack(PackWriter $out): void
    {
        $out->floats($this->still);
        $out->floats($this->slow);
        $out->floats(array_merge(...$this->anchor));
        $out->small(array_keys($this->supports));
        $out->small(array_map(count(...), array_values($this->supports)));
        $bodies = $places = [];
        foreach ($this->supports as $list) {
            foreach ($list as [$body, $x, $y, $z]) {
                $bodies[] = $body;
                $places[] = $x;
                $places[] = $y;
                $places[] = $z;
            }
        }
        $out->small($bodies);
        $out->floats($places);
    }

    public function unpack(PackReader $in): void
    {
        $this->still = $in->floats();
        $this->slow = $in->floats();
        $flat = $in->floats();
        $this->anchor = [];
        for ($i = 0, $n = count($flat); $i < $n; $i += 7) {
            $this->anchor[] = [$flat[$i], $flat[$i + 1], $flat[$i + 2], $flat[$i + 3], $flat[$i + 4], $flat[$i + 5], $flat[$i + 6]];
        }
        $resting = $in->small();
        $counts = $in->small();
        $bodies = $in->small();
        $places = $in->floats();
        $this->supports = [];
        $at = 0;
        foreach ($resting as $k => $b) {
            $list = [];
            for ($end = $at + $counts[$k]; $at < $end; $at++) {
                $list[] = [$bodies[$at], $places[3 * $at], $places[3 * $at + 1], $places[3 * $at + 2]];
            }
            $this->supports[$b] = $list;
        }
    }
}
