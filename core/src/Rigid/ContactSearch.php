<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/**
 * Finds what touches: bounding boxes first, then distance and contact points pair by pair.
 *
 * Every pair keeps its last simplex, its contact points in the axes of both bodies, their impulses, and the
 * overlap it was forgiven. While a pair hardly moves against itself its points are only carried along.
 */
final class ContactSearch
{
    /** Points whose gaps differ by less than this share of the size of a piece meet at once. */
    public const TOGETHER = 1e-3;

    /** The second collider's share of a pair's number; the first lies above it. */
    private const SECOND = 0xFFFFFF;

    /** Overlaps found in the next search were there at release and are not to be punished. */
    public bool $forgiveNext = false;

    /** @var array<int, int> pair of colliders → slot */
    private array $slot = [];

    /** @var list<int> */
    private array $free = [];

    /** @var array<int, array<int, float>> relative place when the points were made: position (3), turn (4); then the normal in the first body's axes */
    private array $pose = [];

    /** @var list<list<int>> */
    private array $simplex = [];

    /** @var list<list<float>> six numbers a point: in the first body's axes, in the second's */
    private array $points = [];

    /** @var array<int, bool> pairs that had one point because they were not about to meet, which is looked at anew each time */
    private array $lone = [];

    /** @var list<list<float>> */
    private array $push = [];

    /** @var list<array{float, float, float, float}> */
    private array $rub = [];

    /** @var list<float> */
    private array $forgiven = [];

    /** @var list<int> round in which the pair was last near */
    private array $stamp = [];

    /** @var list<float> metres a pair is known to be apart, less what it may have closed since; 0 where it is not known */
    private array $clear = [];

    /** @var list<float> m/s the pair could close at when that was last lessened */
    private array $pace = [];

    private int $round = 0;

    public readonly Touches $touches;

    private readonly GroundContacts $ground;

    private readonly SurfaceContacts $surfaces;

    private ConvexDistance $distance;

    public function __construct()
    {
        $this->touches = new Touches;
        $this->ground = new GroundContacts;
        $this->surfaces = new SurfaceContacts;
        $this->distance = new ConvexDistance;
    }

    /**
     * Pairs of colliders whose boxes may meet within the span, flat.
     *
     * @return list<int>
     */
    public function pairs(World $w, float $span): array
    {
        $set = $w->colliders;
        $body = $set->body;
        $box = $set->box;
        $state = $w->state;
        $vx = $w->vx;
        $vy = $w->vy;
        $vz = $w->vz;
        $wx = $w->wx;
        $wy = $w->wy;
        $wz = $w->wz;
        $size = $w->size;
        $waiting = $w->waiting;
        $brittle = $w->brittle;
        $apart = $w->apart;
        $group = $set->group;
        $n = count($body);
        $x0 = $x1 = $y0 = $y1 = $z0 = $z1 = $kind = [];
        $fall = $span * $span * $w->strongest();
        [$mx, $my, $mz] = $w->meanVelocity();
        $keyed = in_array(World::RESTING, $state, true) ? BroadPhase::KEYED : BroadPhase::STILL;
        for ($c = 0; $c < $n; $c++) {
            $b = $body[$c];
            $k = 6 * $c;
            $s = $state[$b];
            $moving = $s === World::MOVING || $s === World::KEYED;
            $kind[] = $s === World::MOVING
                ? BroadPhase::MOVING
                : (isset($waiting[$b]) || $s !== World::RESTING && isset($brittle[$b]) ? BroadPhase::WAITING : ($s === World::KEYED ? $keyed : ($s === World::RESTING ? BroadPhase::RESTING : BroadPhase::STILL)));
            // Seen from the mean motion: pieces that fall together do not reach for each other.
            $dx = -$mx * $span;
            $dy = -$my * $span;
            $dz = -$mz * $span;
            $grow = 0.0;
            if ($moving) {
                $dx += $vx[$b] * $span;
                $dy += $vy[$b] * $span;
                $dz += $vz[$b] * $span;
                $grow = $fall + sqrt($wx[$b] * $wx[$b] + $wy[$b] * $wy[$b] + $wz[$b] * $wz[$b]) * $size[$b] * $span * 0.5;
            }
            $grow += 0.01 * $w->pieceSize + ($apart[$group[$c]] ?? 0.0);
            $x0[] = $box[$k] - $grow + ($dx < 0.0 ? $dx : 0.0);
            $x1[] = $box[$k + 1] + $grow + ($dx > 0.0 ? $dx : 0.0);
            $y0[] = $box[$k + 2] - $grow + ($dy < 0.0 ? $dy : 0.0);
            $y1[] = $box[$k + 3] + $grow + ($dy > 0.0 ? $dy : 0.0);
            $z0[] = $box[$k + 4] - $grow + ($dz < 0.0 ? $dz : 0.0);
            $z1[] = $box[$k + 5] + $grow + ($dz > 0.0 ? $dz : 0.0);
        }

        return $w->encounters->among($w, BroadPhase::pairs($x0, $x1, $y0, $y1, $z0, $z1, $kind, $body, $group));
    }

    /** @param  list<int>  $pairs */
    public function contacts(World $w, array $pairs, float $span): void
    {
        $this->keepImpulses($w->contacts);
        $w->contacts->clear();
        $this->touches->clear();
        $this->round++;
        [$pairs, $surfaces, $driven] = self::apart($w->colliders, $pairs);
        $carried = $this->meet($w, $pairs, $span, ! $this->forgiveNext);
        $this->ground->add($w, $span, $this->touches);
        $this->surfaces->add($w, $surfaces, $span, $this->touches);
        SurfaceContacts::note($w, $driven, $span, $this->touches);
        if ($carried !== [] && self::isHit($w->contacts, $carried, $w->colliders->body)) {
            $this->meet($w, $carried, $span, false);
        }
        $this->forgiveNext = false;
        if ($this->round % 16 === 0) {
            $this->forget();
        }
    }

    /**
     * Pairs of hulls, pairs of a hull and a true surface, in that order, and pairs of surfaces.
     *
     * @param  list<int>  $pairs  of colliders, flat
     * @return array{list<int>, list<int>, list<int>}
     */
    private static function apart(ColliderSet $set, array $pairs): array
    {
        $surface = $set->surface;
        if (array_filter($surface) === []) {
            return [$pairs, [], []];
        }
        $hulls = $surfaces = $driven = [];
        for ($i = 0, $n = count($pairs); $i < $n; $i += 2) {
            $c = $pairs[$i];
            $d = $pairs[$i + 1];
            if ($surface[$c] === null && $surface[$d] === null) {
                $hulls[] = $c;
                $hulls[] = $d;
            } elseif ($surface[$c] === null) {
                $surfaces[] = $c;
                $surfaces[] = $d;
            } elseif ($surface[$d] === null) {
                $surfaces[] = $d;
                $surfaces[] = $c;
            } else {
                $driven[] = $c;
                $driven[] = $d;
            }
        }

        return [$hulls, $surfaces, $driven];
    }

    /**
     * Whether a contact was found with any body of these pairs.
     *
     * @param  list<int>  $pairs  of colliders, flat
     * @param  list<int>  $bodyOf
     */
    private static function isHit(ContactSet $contacts, array $pairs, array $bodyOf): bool
    {
        $in = [];
        foreach ($pairs as $c) {
            $in[$bodyOf[$c]] = true;
        }
        foreach ($contacts->a as $m => $a) {
            if (isset($in[$a]) || isset($in[$contacts->b[$m]])) {
                return true;
            }
        }

        return false;
    }

    /**
     * Adds the contacts of the pairs.
     *
     * @param  list<int>  $pairs
     * @param  bool  $leave  whether to leave out pairs that fly as one: they can change nothing until one is hit
     * @return list<int> the pairs left out
     */
    private function meet(World $w, array $pairs, float $span, bool $leave): array
    {
        [$meeting, $carried, $turns] = $this->look($w, $pairs, $span, $leave);
        $this->put($w, $meeting, $turns, $span);

        return $carried;
    }

    /**
     * Finds which of the pairs may meet within the span, and brings what is kept of them up to date.
     *
     * @param  list<int>  $pairs
     * @param  bool  $leave  whether to leave out pairs that fly as one: they can change nothing until one is hit
     * @return array{list<int>, list<int>, array<int, array<int, float>>} the slot and the two colliders of each that may, flat; the pairs left out; and
     *   turns of bodies as matrices
     */
    private function look(World $w, array $pairs, float $span, bool $leave): array
    {
        $meeting = $carried = [];
        $set = $w->colliders;
        $bodyOf = $set->body;
        $groups = $set->group;
        $sizes = $set->size;
        $margins = $set->margin;
        $apart = $w->apart !== [];
        $px = $w->px;
        $py = $w->py;
        $pz = $w->pz;
        $qx = $w->qx;
        $qy = $w->qy;
        $qz = $w->qz;
        $qw = $w->qw;
        $vx = $w->vx;
        $vy = $w->vy;
        $vz = $w->vz;
        $rim = $this->rimSpeeds($w, $span);
        $state = $w->state;
        $turns = [];
        $slots = $this->slot;
        $clear = $this->clear;
        $pace = $this->pace;
        $stamp = $this->stamp;
        $this->slot = $this->clear = $this->pace = $this->stamp = [];
        $round = $this->round;
        $fall = $span * $w->strongest();
        for ($i = 0, $n = count($pairs); $i < $n; $i += 2) {
            $c = $pairs[$i];
            $d = $pairs[$i + 1];
            $a = $bodyOf[$c];
            $b = $bodyOf[$d];
            $key = $c << 24 | $d;
            $dx = $vx[$a] - $vx[$b];
            $dy = $vy[$a] - $vy[$b];
            $dz = $vz[$a] - $vz[$b];
            $linear = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
            $speed = $linear + $rim[$a] + $rim[$b];
            $smaller = $sizes[$c] < $sizes[$d] ? $sizes[$c] : $sizes[$d];
            $reach = ($speed + $fall) * $span + 0.005 * $smaller;
            $slot = $slots[$key] ?? -1;
            if ($slot >= 0 && $stamp[$slot] < $round - 1 && $this->points[$slot] === []) {
                // Lost from sight in between: how far apart they were no longer tells anything.
                unset($slots[$key]);
                $this->free[] = $slot;
                $slot = -1;
            }
            if ($leave && $slot >= 0 && $speed < 1e-9 && $state[$a] === World::MOVING && $state[$b] === World::MOVING) {
                $stamp[$slot] = $round;
                $carried[] = $c;
                $carried[] = $d;

                continue;
            }
            if ($slot < 0) {
                $slot = array_pop($this->free) ?? count($stamp);
                $slots[$key] = $slot;
                $this->simplex[$slot] = [$set->first[$c], $set->first[$d]];
                $this->points[$slot] = [];
                $this->push[$slot] = [];
                $this->rub[$slot] = [0.0, 0.0, 0.0, 0.0];
                $this->forgiven[$slot] = 0.0;
                $clear[$slot] = 0.0;
                $pace[$slot] = 0.0;
            } elseif ($clear[$slot] > 0.0) {
                // Known to be apart: no need to look again before they can have met.
                $clear[$slot] -= (($speed > $pace[$slot] ? $speed : $pace[$slot]) + $fall) * $span;
                $pace[$slot] = $speed;
                if ($clear[$slot] > $reach) {
                    $stamp[$slot] = $round;

                    continue;
                }
            }
            $stamp[$slot] = $round;
            $ma = $turns[$a] ??= $w->matrix($a);
            $mb = $turns[$b] ??= $w->matrix($b);
            $keep = false;
            $now = null;
            if ($this->points[$slot] !== [] && ! $this->lone[$slot]) {
                $now = RelativePose::of(
                    $ma, $px[$b] - $px[$a], $py[$b] - $py[$a], $pz[$b] - $pz[$a], $qx[$a], $qy[$a], $qz[$a], $qw[$a], $qx[$b], $qy[$b], $qz[$b],
                    $qw[$b],
                );
                $keep = RelativePose::isSame($now, $this->pose[$slot], $smaller);
            }
            if (! $keep) {
                $query = $this->distance;
                $query->colliderA = $c;
                $query->colliderB = $d;
                $query->turnA = $ma;
                $query->turnB = $mb;
                $off = $apart ? $w->apart($groups[$c], $groups[$d]) : 0.0;
                $query->between($set, $this->simplex[$slot], $reach + $off + $margins[$c] + $margins[$d]);
                $this->simplex[$slot] = $query->simplex;
                $gap = $query->gap - $off - $margins[$c] - $margins[$d];
                $closing = ($vx[$a] - $vx[$b]) * $query->nx + ($vy[$a] - $vy[$b]) * $query->ny + ($vz[$a] - $vz[$b]) * $query->nz;
                // Metres within which they meet as they move now.
                $course = ($closing + $speed - $linear + $fall) * $span + 0.005 * $smaller;
                if ($gap > $course && $gap > Tolerances::OFF_COURSE * $reach) {
                    $clear[$slot] = $gap;
                    $pace[$slot] = $speed;
                    $this->points[$slot] = [];
                    $this->push[$slot] = [];
                    $this->rub[$slot] = [0.0, 0.0, 0.0, 0.0];
                    $this->forgiven[$slot] = 0.0;

                    continue;
                }
                $clear[$slot] = 0.0;
                // What will not meet as it moves now, but is near, gets one point, in case something else drives it on.
                $lone = $gap > $course;
                $found = $lone ? ContactPatch::nearest($set, $c, $d, $query) : ContactPatch::points($set, $c, $d, $ma, $mb, $query, $reach + $off);
                if ($this->forgiveNext && $groups[$c] === $groups[$d]) {
                    for ($k = 6, $m = count($found); $k < $m; $k += 7) {
                        if (-$found[$k] > $this->forgiven[$slot]) {
                            $this->forgiven[$slot] = -$found[$k];
                        }
                    }
                }
                $now ??= RelativePose::of(
                    $ma, $px[$b] - $px[$a], $py[$b] - $py[$a], $pz[$b] - $pz[$a], $qx[$a], $qy[$a], $qz[$a], $qw[$a], $qx[$b], $qy[$b], $qz[$b],
                    $qw[$b],
                );
                $this->remake($w, $slot, $a, $b, $ma, $mb, $now, $found);
                $this->lone[$slot] = $lone;
            }
            array_push($meeting, $slot, $c, $d);
        }
        $this->slot = $slots;
        $this->clear = $clear;
        $this->pace = $pace;
        $this->stamp = $stamp;

        return [$meeting, $carried, $turns];
    }

    /**
     * Puts the contacts of pairs that may meet.
     *
     * @param  list<int>  $meeting  slot and the two colliders of each, flat
     * @param  array<int, array<int, float>>  $turns  of their bodies, as matrices
     */
    private function put(World $w, array $meeting, array $turns, float $span): void
    {
        $contacts = $w->contacts;
        $set = $w->colliders;
        $bodyOf = $set->body;
        $groups = $set->group;
        $frictions = $set->friction;
        $bounces = $set->bounce;
        $px = $w->px;
        $py = $w->py;
        $pz = $w->pz;
        $state = $w->state;
        $waiting = $w->waiting;
        $brittle = $w->brittle !== [] || $w->loud !== [];
        $known = $this->touches->known;
        $apart = $w->apart !== [];
        $outX = $contacts->x;
        $outY = $contacts->y;
        $outZ = $contacts->z;
        $outGap = $contacts->gap;
        $outPush = $contacts->push;
        $outA = $contacts->a;
        $outC = $contacts->colliderA;
        $outD = $contacts->colliderB;
        $outB = $contacts->b;
        $outKey = $contacts->key;
        $outNx = $contacts->nx;
        $outNy = $contacts->ny;
        $outNz = $contacts->nz;
        $outFriction = $contacts->friction;
        $outBounce = $contacts->bounce;
        $outFirst = $contacts->first;
        $outRubX = $contacts->rubX;
        $outRubY = $contacts->rubY;
        $outRubZ = $contacts->rubZ;
        $outTwist = $contacts->twist;
        // Taken out while they grow, lest each append copy them.
        $contacts->clear();
        for ($i = 0, $n = count($meeting); $i < $n; $i += 3) {
            $slot = $meeting[$i];
            $c = $meeting[$i + 1];
            $d = $meeting[$i + 2];
            $a = $bodyOf[$c];
            $b = $bodyOf[$d];
            $ma = $turns[$a];
            $mb = $turns[$b];
            $now = $this->pose[$slot];
            $nx = $ma[0] * $now[7] + $ma[1] * $now[8] + $ma[2] * $now[9];
            $ny = $ma[3] * $now[7] + $ma[4] * $now[8] + $ma[5] * $now[9];
            $nz = $ma[6] * $now[7] + $ma[7] * $now[8] + $ma[8] * $now[9];
            $points = $this->points[$slot];
            $push = $this->push[$slot];
            $forgiven = $this->forgiven[$slot];
            $off = $apart ? $w->apart($groups[$c], $groups[$d]) : 0.0;
            $bx = $px[$b] - $px[$a];
            $by = $py[$b] - $py[$a];
            $bz = $pz[$b] - $pz[$a];
            $sa = $state[$a];
            $sb = $state[$b];
            $counts = $sa === World::MOVING
                || $sb === World::MOVING
                || $sa === World::KEYED
                && $sb === World::RESTING
                || $sa === World::RESTING
                && $sb === World::KEYED;
            $least = INF;
            $bare = INF;
            $atX = $atY = $atZ = 0.0;
            for ($k = 0, $j = 0, $m = count($points); $j < $m; $j += 6, $k++) {
                $x = $points[$j];
                $y = $points[$j + 1];
                $z = $points[$j + 2];
                $ax = $ma[0] * $x + $ma[1] * $y + $ma[2] * $z;
                $ay = $ma[3] * $x + $ma[4] * $y + $ma[5] * $z;
                $az = $ma[6] * $x + $ma[7] * $y + $ma[8] * $z;
                $x = $points[$j + 3];
                $y = $points[$j + 4];
                $z = $points[$j + 5];
                // From the point on the first surface to the one on the second.
                $dx = $mb[0] * $x + $mb[1] * $y + $mb[2] * $z + $bx - $ax;
                $dy = $mb[3] * $x + $mb[4] * $y + $mb[5] * $z + $by - $ay;
                $dz = $mb[6] * $x + $mb[7] * $y + $mb[8] * $z + $bz - $az;
                $gap = $dx * $nx + $dy * $ny + $dz * $nz - $off;
                if ($gap < $bare) {
                    $bare = $gap;
                }
                if ($gap < 0.0 && $forgiven > 0.0) {
                    $gap += $forgiven;
                    if ($gap > 0.0) {
                        $gap = 0.0;
                    }
                }
                if ($gap < $least) {
                    $least = $gap;
                    $atX = $ax + $px[$a];
                    $atY = $ay + $py[$a];
                    $atZ = $az + $pz[$a];
                }
                if ($counts) {
                    $outX[] = $px[$a] + $ax + 0.5 * $dx;
                    $outY[] = $py[$a] + $ay + 0.5 * $dy;
                    $outZ[] = $pz[$a] + $az + 0.5 * $dz;
                    $outGap[] = $gap;
                    $outPush[] = $push[$k] ?? 0.0;
                }
            }
            if (
                $groups[$c] !== $groups[$d]
                && ($waiting !== [] && (isset($waiting[$a]) || isset($waiting[$b])) || ! isset($known[$groups[$c] << 16 | $groups[$d]]))
                || $brittle && Touches::isBlow($w, $a, $b, $nx, $ny, $nz, $atX, $atY, $atZ)
            ) {
                // Those of its points that touch first bear the blow together.
                $middle = new Vec3($atX, $atY, $atZ);
                if ($counts) {
                    $bears = [];
                    for ($k = $outFirst[count($outFirst) - 1], $m = count($outX); $k < $m; $k++) {
                        if ($outGap[$k] < $least + self::TOGETHER * $w->pieceSize) {
                            $bears[] = new Vec3($outX[$k], $outY[$k], $outZ[$k]);
                        }
                    }
                    $middle = Vec3::mean($bears);
                }
                $this->touches->note($w, $c, $d, $nx, $ny, $nz, $least, $atX, $atY, $atZ, $span, $middle);
            }
            if ($counts) {
                $outA[] = $a;
                $outB[] = $b;
                $outC[] = $c;
                $outD[] = $d;
                $outKey[] = $slot;
                $outNx[] = $nx;
                $outNy[] = $ny;
                $outNz[] = $nz;
                $outFriction[] = sqrt($frictions[$c] * $frictions[$d]);
                $outBounce[] = $bounces[$c] > $bounces[$d] ? $bounces[$c] : $bounces[$d];
                $outFirst[] = count($outX);
                [$outRubX[], $outRubY[], $outRubZ[], $outTwist[]] = $this->rub[$slot];
            }
            if (-$bare < $forgiven) {
                $this->forgiven[$slot] = $bare < 0.0 ? -$bare : 0.0;
            }
        }
        $contacts->a = $outA;
        $contacts->colliderA = $outC;
        $contacts->colliderB = $outD;
        $contacts->b = $outB;
        $contacts->key = $outKey;
        $contacts->nx = $outNx;
        $contacts->ny = $outNy;
        $contacts->nz = $outNz;
        $contacts->friction = $outFriction;
        $contacts->bounce = $outBounce;
        $contacts->first = $outFirst;
        $contacts->rubX = $outRubX;
        $contacts->rubY = $outRubY;
        $contacts->rubZ = $outRubZ;
        $contacts->twist = $outTwist;
        $contacts->x = $outX;
        $contacts->y = $outY;
        $contacts->z = $outZ;
        $contacts->gap = $outGap;
        $contacts->push = $outPush;
    }

    /** @return list<float> m/s, how fast each body's rim moves by its spin */
    private function rimSpeeds(World $w, float $span): array
    {
        $out = [];
        $wx = $w->wx;
        $wy = $w->wy;
        $wz = $w->wz;
        foreach ($w->size as $b => $size) {
            $out[] = 0.5 * $size * sqrt($wx[$b] * $wx[$b] + $wy[$b] * $wy[$b] + $wz[$b] * $wz[$b]);
        }
        foreach ($w->shifted as $b => $shift) {
            $out[$b] += $shift / $span;
        }

        return $out;
    }

    /** Takes over the impulses the solver left, as the start of the next span. */
    private function keepImpulses(ContactSet $contacts): void
    {
        foreach ($contacts->key as $m => $slot) {
            $rub = [$contacts->rubX[$m], $contacts->rubY[$m], $contacts->rubZ[$m], $contacts->twist[$m]];
            $push = array_slice($contacts->push, $contacts->first[$m], $contacts->first[$m + 1] - $contacts->first[$m]);
            if ($slot >= SurfaceContacts::KEYS) {
                $this->surfaces->keep($slot, $push, $rub);
            } elseif ($slot >= 0) {
                $this->push[$slot] = $push;
                $this->rub[$slot] = $rub;
            } else {
                $this->ground->keep(-1 - $slot, $push, $rub);
            }
        }
    }

    /**
     * @param  array<int, float>  $ma
     * @param  array<int, float>  $mb
     * @param  array<int, float>  $pose
     * @param  list<float>  $found
     */
    private function remake(World $w, int $slot, int $a, int $b, array $ma, array $mb, array $pose, array $found): void
    {
        $old = $this->points[$slot];
        $oldPush = $this->push[$slot];
        $near = 0.12 * ($w->size[$a] < $w->size[$b] ? $w->size[$a] : $w->size[$b]);
        $near *= $near;
        $points = $push = [];
        $aX = $w->px[$a];
        $aY = $w->py[$a];
        $aZ = $w->pz[$a];
        $bX = $w->px[$b];
        $bY = $w->py[$b];
        $bZ = $w->pz[$b];
        for ($i = 0, $n = count($found); $i < $n; $i += 7) {
            $x = $found[$i] - $aX;
            $y = $found[$i + 1] - $aY;
            $z = $found[$i + 2] - $aZ;
            $ax = $ma[0] * $x + $ma[3] * $y + $ma[6] * $z;
            $ay = $ma[1] * $x + $ma[4] * $y + $ma[7] * $z;
            $az = $ma[2] * $x + $ma[5] * $y + $ma[8] * $z;
            $x = $found[$i + 3] - $bX;
            $y = $found[$i + 4] - $bY;
            $z = $found[$i + 5] - $bZ;
            $points[] = $ax;
            $points[] = $ay;
            $points[] = $az;
            $points[] = $mb[0] * $x + $mb[3] * $y + $mb[6] * $z;
            $points[] = $mb[1] * $x + $mb[4] * $y + $mb[7] * $z;
            $points[] = $mb[2] * $x + $mb[5] * $y + $mb[8] * $z;
            $p = 0.0;
            $best = $near;
            for ($k = 0, $m = count($oldPush); $k < $m; $k++) {
                $x = $old[6 * $k] - $ax;
                $y = $old[6 * $k + 1] - $ay;
                $z = $old[6 * $k + 2] - $az;
                $e = $x * $x + $y * $y + $z * $z;
                if ($e < $best) {
                    $best = $e;
                    $p = $oldPush[$k];
                }
            }
            $push[] = $p;
        }
        // One old impulse may be near several new points: together they push no more than the old ones did.
        $sum = array_sum($push);
        $limit = array_sum($oldPush);
        if ($sum > $limit) {
            foreach ($push as $k => $p) {
                $push[$k] = $p * $limit / $sum;
            }
        }
        $d = $this->distance;
        $pose[] = $ma[0] * $d->nx + $ma[3] * $d->ny + $ma[6] * $d->nz;
        $pose[] = $ma[1] * $d->nx + $ma[4] * $d->ny + $ma[7] * $d->nz;
        $pose[] = $ma[2] * $d->nx + $ma[5] * $d->ny + $ma[8] * $d->nz;
        // Finer than the hulls are, and half the room in a state.
        $this->pose[$slot] = RelativePose::kept($pose);
        $this->points[$slot] = RelativePose::kept($points);
        $this->push[$slot] = $push;
    }

    /** Drops pairs that have parted. */
    private function forget(): void
    {
        foreach ($this->slot as $key => $slot) {
            if ($this->stamp[$slot] < $this->round - 16) {
                unset($this->slot[$key]);
                $this->free[] = $slot;
            }
        }
    }

    /** What it has kept of every pair; the pairs are numbered anew. */
    public function pack(World $w, PackWriter $out): void
    {
        // Impulses of the last span are taken over now rather than at the next search.
        $this->keepImpulses($w->contacts);
        $simplex = $simplexes = $counts = $points = $pose = $lone = $push = $rub = $forgiven = $stamp = $clear = $pace = [];
        $keys = [];
        foreach ($this->slot as $key => $slot) {
            if ($this->points[$slot] === [] && $this->stamp[$slot] < $this->round) {
                continue;
            }
            $keys[] = $key;
            $simplexes[] = count($this->simplex[$slot]);
            $first = [$w->colliders->first[$key >> 24], $w->colliders->first[$key & self::SECOND]];
            foreach ($this->simplex[$slot] as $k => $corner) {
                $simplex[] = $corner - $first[$k & 1];
            }
            $n = count($this->points[$slot]);
            $counts[] = intdiv($n, 6);
            $forgiven[] = $this->forgiven[$slot];
            $stamp[] = $this->stamp[$slot];
            $clear[] = $this->clear[$slot];
            $pace[] = $this->pace[$slot];
            if ($n > 0) {
                $lone[] = $this->lone[$slot] ? 1 : 0;
                array_push($points, ...$this->points[$slot]);
                array_push($pose, ...$this->pose[$slot]);
                array_push($push, ...$this->push[$slot]);
                array_push($rub, ...$this->rub[$slot]);
            }
        }
        $out->int($this->round);
        $out->flags([$this->forgiveNext ? 1 : 0]);
        $out->ints($keys);
        $out->flags($simplexes);
        $out->flags($simplex);
        $out->flags($counts);
        $out->singles($points);
        $out->singles($pose);
        $out->flags($lone);
        $out->floats($push);
        $out->floats($rub);
        $out->floats($forgiven);
        $out->small($stamp);
        $out->floats($clear);
        $out->floats($pace);
        $this->ground->pack($out);
        $this->surfaces->pack($out);
    }

    public function unpack(ColliderSet $colliders, PackReader $in): void
    {
        $this->round = $in->int();
        $this->forgiveNext = $in->flags() === [1];
        $keys = $in->ints();
        $simplexes = $in->flags();
        $simplex = $in->flags();
        $counts = $in->flags();
        $points = $in->singles();
        $pose = $in->singles();
        $lone = $in->flags();
        $push = $in->floats();
        $rub = $in->floats();
        $this->slot = array_flip($keys);
        $this->free = $this->pose = $this->simplex = $this->points = $this->lone = $this->push = $this->rub = [];
        $atSimplex = $atPoint = $touching = 0;
        foreach ($keys as $slot => $key) {
            $first = [$colliders->first[$key >> 24], $colliders->first[$key & self::SECOND]];
            $corners = [];
            for ($end = $atSimplex + $simplexes[$slot]; $atSimplex < $end; $atSimplex++) {
                $corners[] = $simplex[$atSimplex] + $first[count($corners) & 1];
            }
            $this->simplex[] = $corners;
            $n = $counts[$slot];
            $this->points[] = array_slice($points, 6 * $atPoint, 6 * $n);
            $this->push[] = array_slice($push, $atPoint, $n);
            $atPoint += $n;
            if ($n > 0) {
                $this->pose[$slot] = array_slice($pose, 10 * $touching, 10);
                $this->lone[$slot] = $lone[$touching] === 1;
                $this->rub[$slot] = [$rub[4 * $touching], $rub[4 * $touching + 1], $rub[4 * $touching + 2], $rub[4 * $touching + 3]];
                $touching++;
            } else {
                $this->rub[$slot] = [0.0, 0.0, 0.0, 0.0];
            }
        }
        $this->forgiven = $in->floats();
        $this->stamp = $in->small();
        $this->clear = $in->floats();
        $this->pace = $in->floats();
        $this->ground->unpack($in);
        $this->surfaces->unpack($in);
    }
}
