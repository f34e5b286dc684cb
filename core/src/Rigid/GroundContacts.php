<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/** Contacts with the ground, which meets the true corners of hulls, not their rounded cores. */
final class GroundContacts
{
    /** Points of one collider that are kept. */
    private const MOST = 8;

    /** Likewise on ground that is not flat. */
    private const MOST_UNEVEN = 10;

    /** Shares of the smaller of its size and the width of the ground that these are from each other. */
    private const APART = 0.1;

    /** @var array<int, float> impulse by corner */
    private array $push = [];

    /** @var array<int, array{float, float, float, float}> friction (3) and twist, by collider on flat ground, by −1 − name of the point on other */
    private array $rub = [];

    /** @var list<array{int, list<int>}> of each group of contacts of this search: what its friction is kept by, and its corners */
    private array $groups = [];

    /** Adds the contacts of what may meet the ground within the span. */
    public function add(World $w, float $span, Touches $touches): void
    {
        $ground = $w->ground;
        if ($ground === null) {
            return;
        }
        $set = $w->colliders;
        $this->groups = [];
        $kept = [];
        $fall = $span * $w->strongest();
        $flat = $ground->isFlat();
        foreach ($set->body as $c => $b) {
            $state = $w->state[$b];
            $waits = isset($w->waiting[$b]);
            if ($state !== World::MOVING && ! ($waits && $state === World::KEYED)) {
                continue;
            }
            $reach = (abs($w->vy[$b]) + $fall + 0.5 * $w->size[$b] * sqrt($w->wx[$b] ** 2 + $w->wy[$b] ** 2 + $w->wz[$b] ** 2)) * $span + 0.005 * $set->size[$c] + $w->apart($set->group[$c], -1);
            if (! $flat) {
                // On a slope what slides along comes nearer too.
                $reach += $span * sqrt($w->vx[$b] ** 2 + $w->vz[$b] ** 2);
            }
            if ($reach < $set->box[6 * $c + 2] - 2.0 * $set->margin[$c]) {
                continue;
            }
            $groups = $flat ? $this->onFlat($w, $c, $b, $reach) : $this->onUneven($w, $ground, $c, $b, $reach);
            if ($groups === []) {
                continue;
            }
            if ($waits || Touches::tells($w, $b) || $touches->heeds($w, $b, -1)) {
                self::note($w, $c, $groups, $span, $touches);
            }
            if ($state === World::MOVING) {
                foreach ($groups as $group) {
                    $this->put($w, $c, $b, $group, $kept);
                }
            }
        }
        $this->push = $kept;
    }

    /**
     * All points share the normal of the plane, and so their friction.
     *
     * @return list<array{normal: array{float, float, float}, points: list<float>, rub: int}> points as of `ContactPatch::carrying`: place (3), number of the
     *   corner, two free, gap
     */
    private function onFlat(World $w, int $c, int $b, float $reach): array
    {
        $set = $w->colliders;
        $m = $w->matrix($b);
        $m10 = $m[3];
        $m11 = $m[4];
        $m12 = $m[5];
        $base = $w->py[$b] - $set->roundness[$c];
        $found = [];
        for ($v = $set->first[$c], $end = $set->first[$c + 1]; $v < $end; $v++) {
            $x = $set->lx[$v];
            $y = $set->ly[$v];
            $z = $set->lz[$v];
            $h = $m10 * $x + $m11 * $y + $m12 * $z + $base;
            if ($h < $reach) {
                array_push(
                    $found,
                    $m[0] * $x + $m[1] * $y + $m[2] * $z + $w->px[$b],
                    $h,
                    $m[6] * $x + $m[7] * $y + $m[8] * $z + $w->pz[$b],
                    (float) $v,
                    0.0,
                    0.0,
                    $h,
                );
            }
        }
        $found = ContactPatch::carrying($found, self::MOST, $set->size[$c]);

        return $found === [] ? [] : [['normal' => [0.0, 1.0, 0.0], 'points' => $found, 'rub' => $c]];
    }

    /**
     * Each point has a normal of its own.
     *
     * @return list<array{normal: array{float, float, float}, points: list<float>, rub: int}>
     */
    private function onUneven(World $w, Ground $ground, int $c, int $b, float $reach): array
    {
        $all = UnevenContacts::of($w, $ground, $c, $b, $w->matrix($b), $reach);
        // The nearest first, each some way from those before it.
        usort($all, static fn (array $p, array $q): int => [$p[6], $p[7]] <=> [$q[6], $q[7]]);
        $apart = (self::APART * min($ground->width(), $w->colliders->size[$c])) ** 2;
        $out = [];
        foreach ($all as [$x, $y, $z, $nx, $ny, $nz, $gap, $name]) {
            foreach ($out as ['points' => $p]) {
                if (($p[0] - $x) ** 2 + ($p[1] - $y) ** 2 + ($p[2] - $z) ** 2 < $apart) {
                    continue 2;
                }
            }
            $out[] = ['normal' => [$nx, $ny, $nz], 'points' => [$x, $y, $z, (float) $name, 0.0, 0.0, $gap], 'rub' => -1 - $name];
            if (count($out) === self::MOST_UNEVEN) {
                break;
            }
        }

        return $out;
    }

    /** @param  non-empty-list<array{normal: array{float, float, float}, points: list<float>, rub: int}>  $groups */
    private static function note(World $w, int $c, array $groups, float $span, Touches $touches): void
    {
        $least = [INF, [0.0, 1.0, 0.0], 0.0, 0.0, 0.0];
        foreach ($groups as ['normal' => $normal, 'points' => $p]) {
            for ($i = 0, $n = count($p); $i < $n; $i += 7) {
                if ($p[$i + 6] < $least[0]) {
                    $least = [$p[$i + 6], $normal, $p[$i], $p[$i + 1], $p[$i + 2]];
                }
            }
        }
        [$gap, [$nx, $ny, $nz], $x, $y, $z] = $least;
        // Those that touch first bear the blow together.
        $bears = [new Vec3($x, $y, $z)];
        foreach ($groups as ['points' => $p]) {
            for ($i = 0, $n = count($p); $i < $n; $i += 7) {
                if ($p[$i + 6] < $gap + ContactSearch::TOGETHER * $w->pieceSize && ($p[$i] !== $x || $p[$i + 1] !== $y || $p[$i + 2] !== $z)) {
                    $bears[] = new Vec3($p[$i], $p[$i + 1], $p[$i + 2]);
                }
            }
        }
        $touches->note($w, $c, -1, -$nx, -$ny, -$nz, $gap - $w->apart($w->colliders->group[$c], -1), $x, $y, $z, $span, Vec3::mean($bears));
    }

    /**
     * @param  array{normal: array{float, float, float}, points: list<float>, rub: int}  $group
     * @param  array<int, float>  $kept  impulses by corner, of this search
     */
    private function put(World $w, int $c, int $b, array $group, array &$kept): void
    {
        $set = $w->colliders;
        $out = $w->contacts;
        ['normal' => $normal, 'points' => $p, 'rub' => $rub] = $group;
        $corners = [];
        $off = $w->apart($set->group[$c], -1);
        for ($i = 0, $n = count($p); $i < $n; $i += 7) {
            $corners[] = $v = (int) $p[$i + 3];
            $out->x[] = $p[$i];
            $out->y[] = $p[$i + 1];
            $out->z[] = $p[$i + 2];
            // As with surfaces: what rests lies on the ground itself.
            $out->gap[] = $p[$i + 6] - $off - Tolerances::SLOP * $w->pieceSize;
            $push = $this->push[$v] ?? 0.0;
            $kept[$v] = $push;
            $out->push[] = $push;
        }
        $out->a[] = $b;
        $out->b[] = -1;
        $out->colliderA[] = $c;
        $out->colliderB[] = -1;
        $out->key[] = -1 - count($this->groups);
        $this->groups[] = [$rub, $corners];
        $out->nx[] = -$normal[0];
        $out->ny[] = -$normal[1];
        $out->nz[] = -$normal[2];
        $out->friction[] = sqrt($set->friction[$c] * $w->groundFriction);
        $out->bounce[] = $set->bounce[$c] > $w->groundBounce ? $set->bounce[$c] : $w->groundBounce;
        $out->first[] = count($out->x);
        [$out->rubX[], $out->rubY[], $out->rubZ[], $out->twist[]] = $this->rub[$rub] ?? [0.0, 0.0, 0.0, 0.0];
    }

    /**
     * Takes over the impulses the solver left of a group of contacts.
     *
     * @param  list<float>  $push  corner by corner
     * @param  array{float, float, float, float}  $rub
     */
    public function keep(int $group, array $push, array $rub): void
    {
        [$by, $corners] = $this->groups[$group];
        $this->rub[$by] = $rub;
        foreach ($push as $k => $p) {
            $this->push[$corners[$k]] = $p;
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
        $this->rub = $this->groups = [];
        foreach ($colliders as $k => $c) {
            $this->rub[$c] = [$rub[4 * $k], $rub[4 * $k + 1], $rub[4 * $k + 2], $rub[4 * $k + 3]];
        }
    }
}
