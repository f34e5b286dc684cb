<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\SurfaceGap;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/**
 * Contacts of hulls with the true surfaces of what is held or driven. What was found stays while a hull hardly moves against a surface;
 * an impulse is handed on to one new point only.
 */
final class SurfaceContacts
{
    /** Numbers of these contacts lie from here on, beside those of pairs of hulls. */
    public const KEYS = 1 << 40;

    /** Rounds for which a pair that is not near is kept. */
    private const KEPT = 16;

    /** Share of the size of a piece within which a point takes over an impulse. */
    private const NEAR = 0.12;

    /** Cosine of the angle within which a contact takes over the friction of another. */
    private const SAME = 0.95;

    /** @var array<int, SurfacePair> by the two colliders, the hull's in the higher bits */
    private array $pairs = [];

    /** @var list<array{SurfacePair, int}> the contacts of this search: whose, and which of them */
    private array $out = [];

    private int $round = 0;

    /**
     * Adds the contacts of the pairs.
     *
     * @param  list<int>  $pairs  of colliders, flat: a hull's and a surface's
     */
    public function add(World $w, array $pairs, float $span, Touches $touches): void
    {
        $this->out = [];
        $this->round++;
        $set = $w->colliders;
        $fall = $span * $w->strongest();
        for ($i = 0, $n = count($pairs); $i < $n; $i += 2) {
            $c = $pairs[$i];
            $d = $pairs[$i + 1];
            $surface = $set->surface[$d];
            if ($surface === null) {
                continue;
            }
            $a = $set->body[$c];
            $b = $set->body[$d];
            $key = $c << 24 | $d;
            $pair = $this->pairs[$key] ?? null;
            if ($pair === null || $pair->stamp < $this->round - 1) {
                $this->pairs[$key] = $pair = new SurfacePair;
            }
            $pair->stamp = $this->round;
            $reach = (self::closing($w, $a, $b) + $fall) * $span + 0.005 * $set->size[$c] + $w->apart($set->group[$c], $set->group[$d]);
            $this->look($w, $pair, $surface, $c, $d, $reach, $span);
            if ($pair->contacts !== []) {
                $this->put($w, $pair, $c, $d, $span, $touches);
            }
        }
        if ($this->round % self::KEPT === 0) {
            $this->pairs = array_filter($this->pairs, fn (SurfacePair $p): bool => $p->stamp >= $this->round - 1);
        }
    }

    /** m/s, how fast any place of a body can come against the surface of another. */
    private static function closing(World $w, int $a, int $b): float
    {
        $rx = $w->px[$a] - $w->px[$b];
        $ry = $w->py[$a] - $w->py[$b];
        $rz = $w->pz[$a] - $w->pz[$b];
        $vx = $w->vx[$a] - $w->vx[$b] - $w->wy[$b] * $rz + $w->wz[$b] * $ry;
        $vy = $w->vy[$a] - $w->vy[$b] - $w->wz[$b] * $rx + $w->wx[$b] * $rz;
        $vz = $w->vz[$a] - $w->vz[$b] - $w->wx[$b] * $ry + $w->wy[$b] * $rx;
        $wx = $w->wx[$a] - $w->wx[$b];
        $wy = $w->wy[$a] - $w->wy[$b];
        $wz = $w->wz[$a] - $w->wz[$b];
        $growing = isset($w->growth[$b]) ? abs($w->growth[$b][0]) * sqrt($rx * $rx + $ry * $ry + $rz * $rz) : 0.0;

        return sqrt($vx * $vx + $vy * $vy + $vz * $vz) + 0.5 * $w->size[$a] * sqrt($wx * $wx + $wy * $wy + $wz * $wz) + $growing;
    }

    /** Brings what is kept of a pair up to date. */
    private function look(World $w, SurfacePair $pair, ContactSurface $surface, int $c, int $d, float $reach, float $span): void
    {
        $set = $w->colliders;
        $a = $set->body[$c];
        $b = $set->body[$d];
        $scale = $set->scale[$d];
        $ma = $w->matrix($a);
        $mb = $w->matrix($b);
        $pose = RelativePose::of(
            $mb, $w->px[$a] - $w->px[$b], $w->py[$a] - $w->py[$b], $w->pz[$a] - $w->pz[$b], $w->qx[$b], $w->qy[$b], $w->qz[$b], $w->qw[$b], $w->qx[$a],
            $w->qy[$a], $w->qz[$a], $w->qw[$a],
        );
        // What is round turns its points away under it.
        if ($pair->pose !== [] && ! isset($w->growth[$b]) && $set->roundness[$c] <= 0.0 && RelativePose::isSame($pose, $pair->pose, $set->size[$c])) {
            return;
        }
        $query = new SurfaceMeeting($surface);
        $query->span = $span;
        $query->size = $set->size[$c] / $scale;
        $query->roundness = $set->roundness[$c] / $scale;
        // The turn of the hull's body, seen from the surface's.
        $m = self::product($mb, $ma);
        $k = 1.0 / $scale;
        for ($v = $set->first[$c], $end = $set->first[$c + 1]; $v < $end; $v++) {
            $x = $set->lx[$v];
            $y = $set->ly[$v];
            $z = $set->lz[$v];
            $query->x[] = $k * ($m[0] * $x + $m[1] * $y + $m[2] * $z + $pose[0]);
            $query->y[] = $k * ($m[3] * $x + $m[4] * $y + $m[5] * $z + $pose[1]);
            $query->z[] = $k * ($m[6] * $x + $m[7] * $y + $m[8] * $z + $pose[2]);
        }
        $corners = count($query->x);
        $query->mx = array_sum($query->x) / $corners;
        $query->my = array_sum($query->y) / $corners;
        $query->mz = array_sum($query->z) / $corners;
        if (! $query->isNear($k * $reach, $pair->before)) {
            $pair->before = [$query->mx, $query->my, $query->mz];
            $pair->pose = $pair->contacts = $pair->push = $pair->rub = [];

            return;
        }
        for ($f = $set->firstFace[$c], $end = $set->firstFace[$c + 1]; $f < $end; $f++) {
            $x = $set->faceNormal[3 * $f];
            $y = $set->faceNormal[3 * $f + 1];
            $z = $set->faceNormal[3 * $f + 2];
            $nx = $m[0] * $x + $m[1] * $y + $m[2] * $z;
            $ny = $m[3] * $x + $m[4] * $y + $m[5] * $z;
            $nz = $m[6] * $x + $m[7] * $y + $m[8] * $z;
            $v = $set->loop[$set->loopStart[$f]] - $set->first[$c];
            array_push($query->hullNormals, $nx, $ny, $nz);
            $query->hullInner[] = $set->faceInner[$f];
            $query->hullLevels[] = $nx * $query->x[$v] + $ny * $query->y[$v] + $nz * $query->z[$v];
        }
        self::speeds($w, $query, $a, $b, $mb, $pose, $k);
        if ($surface->closed) {
            $pair->side = 1;
        } elseif ($pair->side === 0) {
            $pair->side = $query->side($k * $reach + $query->size);
        }
        [$groups, $through] = $query->contacts($k * $reach, $pair->side, $pair->before);
        if (! $through) {
            $pair->before = [$query->mx, $query->my, $query->mz];
        }
        if ($groups === []) {
            $pair->pose = $pair->contacts = $pair->push = $pair->rub = [];

            return;
        }
        $this->remake($pair, $groups, $pose, $m, $scale, $set->size[$c]);
    }

    /**
     * Speeds of the hull's middle against the surface.
     *
     * @param  array<int, float>  $mb
     * @param  list<float>  $pose
     */
    private static function speeds(World $w, SurfaceMeeting $query, int $a, int $b, array $mb, array $pose, float $k): void
    {
        [$query->wx, $query->wy, $query->wz] = self::turnedBack($mb, $w->wx[$a] - $w->wx[$b], $w->wy[$a] - $w->wy[$b], $w->wz[$a] - $w->wz[$b]);
        [$vx, $vy, $vz] = self::turnedBack($mb, $w->vx[$a] - $w->vx[$b], $w->vy[$a] - $w->vy[$b], $w->vz[$a] - $w->vz[$b]);
        [$sx, $sy, $sz] = self::turnedBack($mb, $w->wx[$b], $w->wy[$b], $w->wz[$b]);
        $vx -= $sy * $pose[2] - $sz * $pose[1];
        $vy -= $sz * $pose[0] - $sx * $pose[2];
        $vz -= $sx * $pose[1] - $sy * $pose[0];
        // From the centre of mass to the middle of the hull; and what grows comes towards it.
        $rx = $query->mx - $k * $pose[0];
        $ry = $query->my - $k * $pose[1];
        $rz = $query->mz - $k * $pose[2];
        $growing = $w->growth[$b][0] ?? 0.0;
        $query->vx = $k * $vx + $query->wy * $rz - $query->wz * $ry - $growing * $query->mx;
        $query->vy = $k * $vy + $query->wz * $rx - $query->wx * $rz - $growing * $query->my;
        $query->vz = $k * $vz + $query->wx * $ry - $query->wy * $rx - $growing * $query->mz;
    }

    /**
     * @param  array<int, float>  $m  rotation
     * @return array{float, float, float} seen from what is turned so
     */
    private static function turnedBack(array $m, float $x, float $y, float $z): array
    {
        return [$m[0] * $x + $m[3] * $y + $m[6] * $z, $m[1] * $x + $m[4] * $y + $m[7] * $z, $m[2] * $x + $m[5] * $y + $m[8] * $z];
    }

    /**
     * Takes over what was found, and for each point the impulse of the old one nearest to it.
     *
     * @param  list<list<float>>  $groups
     * @param  list<float>  $pose
     * @param  array<int, float>  $m  turn of the hull's body seen from the surface's
     */
    private function remake(SurfacePair $pair, array $groups, array $pose, array $m, float $scale, float $size): void
    {
        $contacts = $push = $rub = [];
        $old = $pair->contacts;
        foreach ($groups as $group) {
            $contact = [$group[0], $group[1], $group[2]];
            for ($i = 0, $n = count($group); $i < $n; $i += SurfaceMeeting::POINT) {
                $x = $scale * $group[$i + 6] - $pose[0];
                $y = $scale * $group[$i + 7] - $pose[1];
                $z = $scale * $group[$i + 8] - $pose[2];
                array_push(
                    $contact,
                    $m[0] * $x + $m[3] * $y + $m[6] * $z, $m[1] * $x + $m[4] * $y + $m[7] * $z, $m[2] * $x + $m[5] * $y + $m[8] * $z,
                    $scale * $group[$i + 3], $scale * $group[$i + 4], $scale * $group[$i + 5],
                );
            }
            $contacts[] = $contact = RelativePose::kept($contact);
            $push[] = array_fill(0, intdiv(count($contact) - 3, 6), 0.0);
            $rub[] = [0.0, 0.0, 0.0, 0.0];
        }
        // The nearest pairs of old and new points first, each once.
        $near = (self::NEAR * $size) ** 2;
        $match = [];
        foreach ($contacts as $g => $contact) {
            foreach ($old as $h => $was) {
                $alike = $contact[0] * $was[0] + $contact[1] * $was[1] + $contact[2] * $was[2];
                if ($alike < self::SAME) {
                    continue;
                }
                for ($i = 3, $n = count($contact); $i < $n; $i += 6) {
                    for ($k = 3, $end = count($was); $k < $end; $k += 6) {
                        $e = ($contact[$i] - $was[$k]) ** 2 + ($contact[$i + 1] - $was[$k + 1]) ** 2 + ($contact[$i + 2] - $was[$k + 2]) ** 2;
                        if ($e < $near) {
                            $match[] = [$e, $g, intdiv($i - 3, 6), $h, intdiv($k - 3, 6)];
                        }
                    }
                }
            }
        }
        sort($match);
        $given = $taken = $from = [];
        foreach ($match as [, $g, $i, $h, $k]) {
            if (isset($given["$h $k"]) || isset($taken["$g $i"])) {
                continue;
            }
            $given["$h $k"] = $taken["$g $i"] = true;
            $push[$g][$i] = $pair->push[$h][$k];
            if (! isset($from[$g]) && ! in_array($h, $from, true)) {
                $from[$g] = $h;
                $rub[$g] = $pair->rub[$h];
            }
        }
        $pair->contacts = $contacts;
        $pair->push = $push;
        $pair->rub = $rub;
        $pair->pose = RelativePose::kept($pose);
    }

    private function put(World $w, SurfacePair $pair, int $c, int $d, float $span, Touches $touches): void
    {
        $set = $w->colliders;
        $out = $w->contacts;
        $a = $set->body[$c];
        $b = $set->body[$d];
        $ma = $w->matrix($a);
        $mb = $w->matrix($b);
        $counts = $w->state[$a] === World::MOVING || $w->state[$a] === World::RESTING && $w->state[$b] === World::KEYED;
        $off = $w->apart($set->group[$c], $set->group[$d]);
        $heeds = $set->group[$c] !== $set->group[$d]
            && (isset($w->waiting[$a]) || isset($w->waiting[$b]) || Touches::tells($w, $a) || Touches::tells($w, $b) || $touches->heeds($w, $a, $b));
        $soonest = INF;
        $least = [0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0];
        $bears = [];
        foreach ($pair->contacts as $g => $contact) {
            $nx = $mb[0] * $contact[0] + $mb[1] * $contact[1] + $mb[2] * $contact[2];
            $ny = $mb[3] * $contact[0] + $mb[4] * $contact[1] + $mb[5] * $contact[2];
            $nz = $mb[6] * $contact[0] + $mb[7] * $contact[1] + $mb[8] * $contact[2];
            for ($i = 3, $k = 0, $n = count($contact); $i < $n; $i += 6, $k++) {
                $hx = $ma[0] * $contact[$i] + $ma[1] * $contact[$i + 1] + $ma[2] * $contact[$i + 2] + $w->px[$a];
                $hy = $ma[3] * $contact[$i] + $ma[4] * $contact[$i + 1] + $ma[5] * $contact[$i + 2] + $w->py[$a];
                $hz = $ma[6] * $contact[$i] + $ma[7] * $contact[$i + 1] + $ma[8] * $contact[$i + 2] + $w->pz[$a];
                $gx = $hx - ($mb[0] * $contact[$i + 3] + $mb[1] * $contact[$i + 4] + $mb[2] * $contact[$i + 5] + $w->px[$b]);
                $gy = $hy - ($mb[3] * $contact[$i + 3] + $mb[4] * $contact[$i + 4] + $mb[5] * $contact[$i + 5] + $w->py[$b]);
                $gz = $hz - ($mb[6] * $contact[$i + 3] + $mb[7] * $contact[$i + 4] + $mb[8] * $contact[$i + 5] + $w->pz[$b]);
                $gap = $gx * $nx + $gy * $ny + $gz * $nz - $off;
                if ($heeds) {
                    $ahead = $gap - $span * Touches::approach($w, $a, $b, -$nx, -$ny, -$nz, $hx, $hy, $hz);
                    $bears[] = [$ahead, $hx, $hy, $hz];
                    if ($ahead < $soonest) {
                        $soonest = $ahead;
                        $least = [$gap, $nx, $ny, $nz, $hx, $hy, $hz];
                    }
                }
                if ($counts) {
                    $out->x[] = $hx - 0.5 * ($gap + $off) * $nx;
                    $out->y[] = $hy - 0.5 * ($gap + $off) * $ny;
                    $out->z[] = $hz - 0.5 * ($gap + $off) * $nz;
                    // What rests sinks in by what is let be: so much nearer it counts, and lies on the surface itself.
                    $out->gap[] = $gap - Tolerances::SLOP * $w->pieceSize;
                    $out->push[] = $pair->push[$g][$k];
                }
            }
            if ($counts) {
                $out->a[] = $a;
                $out->b[] = $b;
                $out->colliderA[] = $c;
                $out->colliderB[] = $d;
                $out->key[] = self::KEYS + count($this->out);
                $this->out[] = [$pair, $g];
                $out->nx[] = -$nx;
                $out->ny[] = -$ny;
                $out->nz[] = -$nz;
                $out->friction[] = sqrt($set->friction[$c] * $set->friction[$d]);
                $out->bounce[] = max($set->bounce[$c], $set->bounce[$d]);
                $out->first[] = count($out->x);
                [$out->rubX[], $out->rubY[], $out->rubZ[], $out->twist[]] = $pair->rub[$g];
            }
        }
        if ($heeds) {
            [$gap, $nx, $ny, $nz, $x, $y, $z] = $least;
            $together = array_filter($bears, static fn (array $p): bool => $p[0] < $soonest + ContactSearch::TOGETHER * $w->pieceSize);
            $middle = Vec3::mean(array_map(static fn (array $p): Vec3 => new Vec3($p[1], $p[2], $p[3]), array_values($together)));
            $touches->note($w, $c, $d, -$nx, -$ny, -$nz, $gap, $x, $y, $z, $span, $middle);
        }
    }

    /**
     * Notes where two of these surfaces meet within the span, where anyone wants to know: nothing gives way.
     *
     * @param  list<int>  $pairs  of colliders, flat
     */
    public static function note(World $w, array $pairs, float $span, Touches $touches): void
    {
        $set = $w->colliders;
        for ($i = 0, $n = count($pairs); $i < $n; $i += 2) {
            $c = $pairs[$i];
            $d = $pairs[$i + 1];
            [$one, $other] = [$set->surface[$c], $set->surface[$d]];
            $a = $set->body[$c];
            $b = $set->body[$d];
            if ($one === null || $other === null || $set->group[$c] === $set->group[$d] || ! $touches->heeds($w, $a, $b)) {
                continue;
            }
            $back = (new Quaternion($w->qx[$a], $w->qy[$a], $w->qz[$a], $w->qw[$a]))->inverse();
            $share = $set->scale[$d] / $set->scale[$c];
            $m = array_map(
                static fn (float $v): float => $v * $share,
                Mesh::matrix($back->after(new Quaternion($w->qx[$b], $w->qy[$b], $w->qz[$b], $w->qw[$b]))),
            );
            $middle = new Vec3($w->px[$a], $w->py[$a], $w->pz[$a]);
            $at = $back->turn((new Vec3($w->px[$b], $w->py[$b], $w->pz[$b]))->minus($middle))->times(1.0 / $set->scale[$c]);
            $reach = self::closing($w, $a, $b) * $span + 0.5 * $w->size[$b] * $span * sqrt($w->wx[$b] ** 2 + $w->wy[$b] ** 2 + $w->wz[$b] ** 2);
            $met = SurfaceGap::between($one, $other, $m, $at->toArray(), ($reach + 1e-3 * $set->size[$c]) / $set->scale[$c]);
            if ($met->places === null) {
                continue;
            }
            $out = $back->inverse();
            [$p, $q] = array_map(
                static fn (array $place): Vec3 => $out->turn(Vec3::of($place)->times($set->scale[$c]))->plus($middle),
                $met->places,
            );
            $gap = $q->minus($p);
            $normal = $gap->length() > 1e-9 ? $gap->unit() : self::course($w, $a, $b, $p);
            $touches->note($w, $c, $d, $normal->x, $normal->y, $normal->z, max(0.0, $gap->length()), $p->x, $p->y, $p->z, $span, $p);
        }
    }

    /** The way one body goes, seen from another; where surfaces cross that is all there is to tell a normal by. */
    private static function course(World $w, int $a, int $b, Vec3 $at): Vec3
    {
        $way = new Vec3(
            Touches::approach($w, $a, $b, 1.0, 0.0, 0.0, $at->x, $at->y, $at->z),
            Touches::approach($w, $a, $b, 0.0, 1.0, 0.0, $at->x, $at->y, $at->z),
            Touches::approach($w, $a, $b, 0.0, 0.0, 1.0, $at->x, $at->y, $at->z),
        );

        return $way->length() > 0.0 ? $way->unit() : new Vec3(0.0, 1.0, 0.0);
    }

    /**
     * Takes over the impulses the solver left of a contact.
     *
     * @param  list<float>  $push
     * @param  array{float, float, float, float}  $rub
     */
    public function keep(int $key, array $push, array $rub): void
    {
        [$pair, $g] = $this->out[$key - self::KEYS];
        if (isset($pair->push[$g])) {
            $pair->push[$g] = $push;
            $pair->rub[$g] = $rub;
        }
    }

    public function pack(PackWriter $out): void
    {
        $keys = $sides = $stamps = $counts = $poses = $contacts = $push = $rub = $before = [];
        foreach ($this->pairs as $key => $pair) {
            if ($pair->stamp < $this->round) {
                continue;
            }
            $keys[] = $key;
            $sides[] = $pair->side + 1;
            array_push($before, ...($pair->before ?? [NAN, NAN, NAN]));
            $counts[] = count($pair->contacts);
            array_push($poses, ...$pair->pose);
            foreach ($pair->contacts as $g => $contact) {
                $counts[] = count($pair->push[$g]);
                array_push($contacts, ...$contact);
                array_push($push, ...$pair->push[$g]);
                array_push($rub, ...$pair->rub[$g]);
            }
        }
        $out->int($this->round);
        $out->ints($keys);
        $out->flags($sides);
        $out->flags($counts);
        $out->singles($poses);
        $out->singles($contacts);
        $out->floats($push);
        $out->floats($rub);
        $out->floats($before);
    }

    public function unpack(PackReader $in): void
    {
        $this->round = $in->int();
        $keys = $in->ints();
        $sides = $in->flags();
        $counts = $in->flags();
        $poses = $in->singles();
        $contacts = $in->singles();
        $push = $in->floats();
        $rub = $in->floats();
        $before = $in->floats();
        $this->pairs = $this->out = [];
        $atCount = $atPose = $atContact = $atPush = $atRub = 0;
        foreach ($keys as $i => $key) {
            $pair = new SurfacePair;
            $pair->side = $sides[$i] - 1;
            $pair->stamp = $this->round;
            $pair->before = is_nan($before[3 * $i]) ? null : [$before[3 * $i], $before[3 * $i + 1], $before[3 * $i + 2]];
            $groups = $counts[$atCount++];
            if ($groups > 0) {
                $pair->pose = array_slice($poses, $atPose, 7);
                $atPose += 7;
            }
            for ($g = 0; $g < $groups; $g++) {
                $points = $counts[$atCount++];
                $pair->contacts[] = array_slice($contacts, $atContact, 3 + 6 * $points);
                $atContact += 3 + 6 * $points;
                $pair->push[] = array_slice($push, $atPush, $points);
                $atPush += $points;
                $pair->rub[] = [$rub[$atRub], $rub[$atRub + 1], $rub[$atRub + 2], $rub[$atRub + 3]];
                $atRub += 4;
            }
            $this->pairs[$key] = $pair;
        }
    }

    /**
     * @param  array<int, float>  $a  turned back
     * @param  array<int, float>  $b
     * @return list<float>
     */
    private static function product(array $a, array $b): array
    {
        $out = [];
        for ($i = 0; $i < 3; $i++) {
            for ($j = 0; $j < 3; $j++) {
                $out[] = $a[$i] * $b[$j] + $a[3 + $i] * $b[3 + $j] + $a[6 + $i] * $b[6 + $j];
            }
        }

        return $out;
    }
}
