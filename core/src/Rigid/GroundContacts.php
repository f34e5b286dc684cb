<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/** Contacts with the ground plane, which meets the true corners of hulls, not their rounded cores. */
final class GroundContacts
{
    /** @var array<int, float> impulse by corner */
    private array $push = [];

    /** @var array<int, array{float, float, float, float}> by collider: friction (3) and twist */
    private array $rub = [];

    /** @var array<int, list<int>> corners of each collider that met it in this search */
    private array $corners = [];

    /** Adds the contacts of what may meet the ground within the span. */
    public function add(World $w, float $span, Touches $touches): void
    {
        if ($w->ground === null) {
            return;
        }
        $set = $w->colliders;
        $out = $w->contacts;
        $level = $w->ground;
        $corners = [];
        $kept = [];
        $fall = $span * $w->strongest();
        foreach ($set->body as $c => $b) {
            $state = $w->state[$b];
            $waits = isset($w->waiting[$b]);
            if ($state !== World::MOVING && ! ($waits && $state === World::KEYED)) {
                continue;
            }
            $drop = (abs($w->vy[$b]) + $fall + 0.5 * $w->size[$b] * sqrt($w->wx[$b] ** 2 + $w->wy[$b] ** 2 + $w->wz[$b] ** 2)) * $span;
            $reach = $drop + 0.005 * $set->size[$c];
            if ($level + $reach < $set->box[6 * $c + 2] - 2.0 * $set->margin[$c]) {
                continue;
            }
            $m = $w->matrix($b);
            $m10 = $m[3];
            $m11 = $m[4];
            $m12 = $m[5];
            $base = $w->py[$b] - $level - $set->roundness[$c];
            $found = [];
            $ids = [];
            for ($v = $set->first[$c], $end = $set->first[$c + 1]; $v < $end; $v++) {
                $x = $set->lx[$v];
                $y = $set->ly[$v];
                $z = $set->lz[$v];
                $h = $m10 * $x + $m11 * $y + $m12 * $z + $base;
                if ($h < $reach) {
                    $px = $m[0] * $x + $m[1] * $y + $m[2] * $z + $w->px[$b];
                    $pz = $m[6] * $x + $m[7] * $y + $m[8] * $z + $w->pz[$b];
                    $ids[] = $v;
                    array_push($found, $px, $level + $h, $pz, (float) $v, 0.0, 0.0, $h);
                }
            }
            if ($found === []) {
                continue;
            }
            if (count($found) > 28) {
                $found = ContactPatch::four($found);
                $ids = [];
                for ($i = 3, $n = count($found); $i < $n; $i += 7) {
                    $ids[] = (int) $found[$i];
                }
            }
            $least = 0;
            for ($i = 7, $n = count($found); $i < $n; $i += 7) {
                if ($found[$i + 6] < $found[$least + 6]) {
                    $least = $i;
                }
            }
            if ($waits || $touches->heeds($w, $b, -1)) {
                $bears = [];
                for ($i = 0, $n = count($found); $i < $n; $i += 7) {
                    if ($found[$i + 6] < $found[$least + 6] + ContactSearch::TOGETHER * $w->pieceSize) {
                        $bears[] = new Vec3($found[$i], $found[$i + 1], $found[$i + 2]);
                    }
                }
                $touches->note($w, $b, -1, 0.0, -1.0, 0.0, $found[$least + 6], $found[$least], $found[$least + 1], $found[$least + 2], $span, Vec3::mean($bears));
            }
            if ($state !== World::MOVING) {
                continue;
            }
            $corners[$c] = $ids;
            foreach ($ids as $k => $v) {
                $out->x[] = $found[7 * $k];
                $out->y[] = $found[7 * $k + 1];
                $out->z[] = $found[7 * $k + 2];
                $out->gap[] = $found[7 * $k + 6];
                $push = $this->push[$v] ?? 0.0;
                $kept[$v] = $push;
                $out->push[] = $push;
            }
            $out->a[] = $b;
            $out->b[] = -1;
            $out->key[] = -1 - $c;
            $out->nx[] = 0.0;
            $out->ny[] = -1.0;
            $out->nz[] = 0.0;
            $out->friction[] = sqrt($set->friction[$c] * $w->groundFriction);
            $out->bounce[] = $set->bounce[$c] > $w->groundBounce ? $set->bounce[$c] : $w->groundBounce;
            $out->first[] = count($out->x);
            [$out->rubX[], $out->rubY[], $out->rubZ[], $out->twist[]] = $this->rub[$c] ?? [0.0, 0.0, 0.0, 0.0];
        }
        $this->corners = $corners;
        $this->push = $kept;
    }

    /**
     * Takes over the impulses the solver left of a collider's contacts.
     *
     * @param  list<float>  $push  corner by corner
     * @param  array{float, float, float, float}  $rub
     */
    public function keep(int $collider, array $push, array $rub): void
    {
        $this->rub[$collider] = $rub;
        foreach ($push as $k => $p) {
            $this->push[$this->corners[$collider][$k]] = $p;
        }
    }

    public function pack(PackWriter $out): void
    {
        $out->small(array_keys($this->push));
        $out->floats(array_values($this->push));
        $out->small(array_keys($this->rub));
        $out->floats(array_merge(...array_values($this->rub)));
    }

    public function unpack(PackReader $in): void
    {
        $corners = $in->small();
        $this->push = array_combine($corners, $in->floats());
        $colliders = $in->small();
        $rub = $in->floats();
        $this->rub = $this->corners = [];
        foreach ($colliders as $k => $c) {
            $this->rub[$c] = [$rub[4 * $k], $rub[4 * $k + 1], $rub[4 * $k + 2], $rub[4 * $k + 3]];
        }
    }
}
