<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\FlatGround;
use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/**
 * Rigid bodies under gravity and contact.
 *
 * What flies freely moves by the mean of its speeds before and after each sub-step, so that free flight is exact whatever the
 * steps. How contacts are solved, and what was weighed against it, stands with `ContactSolver`.
 *
 * State is one packed array a quantity. Bodies carry colliders (convex hulls); a body may carry many.
 */
final class World
{
    public const STILL = 0;

    public const KEYED = 1;

    public const MOVING = 2;

    public const RESTING = 3;

    /** Not in the scene: its colliders belong to another body until it is released, or it has gone. */
    public const ABSENT = 4;

    /** @var list<int> one of the constants above, one a body */
    public array $state = [];

    /** @var list<float> centre of mass */
    public array $px = [];

    /** @var list<float> */
    public array $py = [];

    /** @var list<float> */
    public array $pz = [];

    /** @var list<float> turn */
    public array $qx = [];

    /** @var list<float> */
    public array $qy = [];

    /** @var list<float> */
    public array $qz = [];

    /** @var list<float> */
    public array $qw = [];

    /** @var list<float> velocity, m/s */
    public array $vx = [];

    /** @var list<float> */
    public array $vy = [];

    /** @var list<float> */
    public array $vz = [];

    /** @var list<float> spin, rad/s */
    public array $wx = [];

    /** @var list<float> */
    public array $wy = [];

    /** @var list<float> */
    public array $wz = [];

    /** @var list<float> kg */
    public array $mass = [];

    /** @var list<array{float, float, float, float, float, float}> xx, yy, zz, xy, yz, zx in body axes, kg·m² */
    public array $inertia = [];

    /** @var list<array{float, float, float, float, float, float}> */
    private array $inverseInertia = [];

    /** @var list<float> metres, the largest extent of the body's colliders */
    public array $size = [];

    /** @var array<int, Vec3> m/s² beside gravity, of the bodies that have any */
    private array $acceleration = [];

    /** @var list<int> what each belongs to: bodies of one group are one prop */
    private array $group = [];

    /** @var array<int, array{float, float, float, float}> bodies that grow: by which share a second, and from where */
    public array $growth = [];

    /** @var array<int, true> bodies that want to know when they are touched */
    public array $waiting = [];

    /** @var array<int, float> metres by which bodies were moved apart outright since the last search */
    public array $shifted = [];

    /** @var array<int, array{float, float, float, float, float, float}> what is still to be given to bodies for what they bear: m/s and rad/s */
    public array $owed = [];

    /** @var array<int, float> bodies that want to know of every blow, of their own group too: m/s from which it is one */
    public array $brittle = [];

    /** @var array<int, float> groups any body of which wants to know of every blow from others: m/s from which it is one */
    public array $loud = [];

    /** @var array<int, true> bodies of which it is to be known what pushes them, and how much */
    public array $weighed = [];

    /** @var array<int, float> groups that are not to be brought beyond a speed by what touches them, m/s */
    public array $limits = [];

    /** @var array<int, true> bodies that such a limit held back since this was last emptied */
    public array $limited = [];

    /** @var array<int, float> groups with rolling resistance: its arm as a share of half the size */
    public array $rolling = [];

    /** @var array<int, float> groups that other groups and the ground are to be kept off: metres */
    public array $apart = [];

    public readonly Encounters $encounters;

    public ColliderSet $colliders;

    public ContactSet $contacts;

    public Vec3 $gravity;

    /** Null for none. */
    public ?Ground $ground;

    public float $groundFriction = 0.5;

    public float $groundBounce = 0.1;

    /** Mean size of the moving pieces: the length tolerances are shares of. */
    public float $pieceSize = 0.1;

    /** Mean thickness of them: where each is thinnest. */
    public float $pieceThickness = 0.1;

    /** m/s, the fastest anything was let go or driven so far, the speed of its far ends in turning counted. */
    private float $fastest = 0.0;

    /** @var list<float> J/kg by body: what all that accelerates it has done on it since it had least of that */
    private array $gained = [];

    /** Seconds since the start. */
    public float $time = 0.0;

    /** @var (\Closure(): float)|null seconds, by which its work is measured; null where nobody wants to know */
    public ?\Closure $clock = null;

    /** @var array<string, float> seconds spent since they were last asked for, by phase of a step */
    private array $spent = [];

    private Rest $rest;

    private ContactSolver $solver;

    private ContactSearch $search;

    public function __construct()
    {
        $this->encounters = new Encounters;
        $this->gravity = new Vec3(0.0, -9.80665, 0.0);
        $this->ground = new FlatGround;
        $this->colliders = new ColliderSet;
        $this->contacts = new ContactSet;
        $this->rest = new Rest;
        $this->solver = new ContactSolver;
        $this->search = new ContactSearch;
    }

    /**
     * @param  array{float, float, float, float, float, float}  $inertia  about the centre of mass, body axes
     * @param  int  $group  what it belongs to, as its colliders do
     */
    public function addBody(int $state, Vec3 $position, Quaternion $turn, float $mass, array $inertia, int $group = 0): int
    {
        $this->state[] = $state;
        $this->px[] = $position->x;
        $this->py[] = $position->y;
        $this->pz[] = $position->z;
        $this->qx[] = $turn->x;
        $this->qy[] = $turn->y;
        $this->qz[] = $turn->z;
        $this->qw[] = $turn->w;
        $this->vx[] = $this->vy[] = $this->vz[] = 0.0;
        $this->wx[] = $this->wy[] = $this->wz[] = 0.0;
        $this->mass[] = $mass;
        $this->inertia[] = $inertia;
        $this->inverseInertia[] = self::inverted($inertia);
        $this->size[] = $this->gained[] = 0.0;
        $this->group[] = $group;
        $body = count($this->state) - 1;
        $this->rest->add($body);

        return $body;
    }

    /**
     * @param  Vec3  $offset  of the hull's origin from the body's centre of mass, body axes
     */
    public function addCollider(int $body, Hull $hull, Vec3 $offset, float $friction, float $bounce, int $group): int
    {
        $this->size[$body] = max($this->size[$body], $hull->size);
        $this->group[$body] = $group;

        return $this->colliders->add($body, $hull, $offset, $friction, $bounce, $group);
    }

    /** The true surface of what is held or driven, about the middle of its body. */
    public function addSurface(int $body, ContactSurface $surface, float $friction, float $bounce, int $group): int
    {
        $this->size[$body] = max($this->size[$body], $surface->size);
        $this->group[$body] = $group;

        return $this->colliders->addSurface($body, $surface, $friction, $bounce, $group);
    }

    /** Metres that bodies of two groups are to be kept from each other, −1 for the ground. */
    public function apart(int $one, int $other): float
    {
        return $one === $other ? 0.0 : ($this->apart[$one] ?? 0.0) + ($this->apart[$other] ?? 0.0);
    }

    /**
     * Takes its lengths from what moves.
     *
     * @param  list<Hull>  $hulls
     */
    public function measure(array $hulls): void
    {
        if ($hulls !== []) {
            $this->pieceSize = array_sum(array_map(static fn (Hull $h): float => $h->size, $hulls)) / count($hulls);
            $this->pieceThickness = array_sum(array_map(static fn (Hull $h): float => $h->thickness(), $hulls)) / count($hulls);
        }
    }

    /** Lets a body move from now on. */
    public function release(int $body, Vec3 $velocity, Vec3 $spin): void
    {
        $this->state[$body] = self::MOVING;
        $this->vx[$body] = $velocity->x;
        $this->vy[$body] = $velocity->y;
        $this->vz[$body] = $velocity->z;
        $this->wx[$body] = $spin->x;
        $this->wy[$body] = $spin->y;
        $this->wz[$body] = $spin->z;
        $this->rest->woken($body, $this);
        $this->fastest = max($this->fastest, $this->farEndSpeed($body));
    }

    /** Lets a body move on by itself as fast as it is driven. */
    public function letGo(int $body): void
    {
        $this->release($body, new Vec3($this->vx[$body], $this->vy[$body], $this->vz[$body]), new Vec3($this->wx[$body], $this->wy[$body], $this->wz[$body]));
    }

    /** Sends a body off with so much more, m/s and rad/s. */
    public function kick(int $body, Vec3 $velocity, Vec3 $spin): void
    {
        $this->vx[$body] += $velocity->x;
        $this->vy[$body] += $velocity->y;
        $this->vz[$body] += $velocity->z;
        $this->wx[$body] += $spin->x;
        $this->wy[$body] += $spin->y;
        $this->wz[$body] += $spin->z;
        $this->fastest = max($this->fastest, $this->farEndSpeed($body));
    }

    /** Something pushes a body at a place: an impulse in N·s. What rests wakes. */
    public function push(int $body, Vec3 $at, Vec3 $impulse): void
    {
        $turn = new Quaternion($this->qx[$body], $this->qy[$body], $this->qz[$body], $this->qw[$body]);
        $moment = $turn->inverse()->turn($at->minus(new Vec3($this->px[$body], $this->py[$body], $this->pz[$body]))->cross($impulse));
        [$xx, $yy, $zz, $xy, $yz, $zx] = $this->inverseInertia[$body];
        $spin = new Vec3(
            $xx * $moment->x + $xy * $moment->y + $zx * $moment->z,
            $xy * $moment->x + $yy * $moment->y + $yz * $moment->z,
            $zx * $moment->x + $yz * $moment->y + $zz * $moment->z,
        );
        $this->rest->wakeUp($body, $this);
        $this->kick($body, $impulse->times(1.0 / $this->mass[$body]), $turn->turn($spin));
    }

    /** m/s that a place on a body gains along a direction from 1 N·s against it there (its inverse effective mass, 1/kg); none of what is held or driven. */
    public function yield(int $body, Vec3 $at, Vec3 $direction): float
    {
        if ($this->state[$body] !== self::MOVING && $this->state[$body] !== self::RESTING) {
            return 0.0;
        }
        $turn = new Quaternion($this->qx[$body], $this->qy[$body], $this->qz[$body], $this->qw[$body]);
        $moment = $turn->inverse()->turn($at->minus(new Vec3($this->px[$body], $this->py[$body], $this->pz[$body]))->cross($direction));
        [$xx, $yy, $zz, $xy, $yz, $zx] = $this->inverseInertia[$body];

        return 1.0 / $this->mass[$body] + $moment->dot(new Vec3(
            $xx * $moment->x + $xy * $moment->y + $zx * $moment->z,
            $xy * $moment->x + $yy * $moment->y + $yz * $moment->z,
            $zx * $moment->x + $yz * $moment->y + $zz * $moment->z,
        ));
    }

    /** m/s, the fastest that anything was sent off, is driven, or can have become by what accelerates it: speed² grows with twice the work per mass. */
    public function fastest(): float
    {
        $gained = 0.0;
        foreach ($this->state as $b => $state) {
            if ($state === self::MOVING) {
                $gained = max($gained, $this->gained[$b]);
            } elseif ($state === self::KEYED) {
                $this->fastest = max($this->fastest, $this->farEndSpeed($b));
            }
        }

        return sqrt($this->fastest ** 2 + 2.0 * $gained);
    }

    /**
     * How fast bodies may be after a span whose group has a limit: as fast as that, or as they were and as forces make them.
     *
     * @return array<int, float> m/s, by body
     */
    private function unhindered(float $span): array
    {
        $out = [];
        foreach ($this->state as $b => $state) {
            if ($state === self::MOVING && isset($this->limits[$this->group[$b]])) {
                $a = isset($this->acceleration[$b]) ? $this->gravity->plus($this->acceleration[$b]) : $this->gravity;
                $out[$b] = max($this->limits[$this->group[$b]], (new Vec3($this->vx[$b], $this->vy[$b], $this->vz[$b]))->plus($a->times($span))->length());
            }
        }

        return $out;
    }

    private function holdBack(int $b, float $most): void
    {
        $speed = sqrt($this->vx[$b] ** 2 + $this->vy[$b] ** 2 + $this->vz[$b] ** 2);
        if ($speed > $most * (1.0 + 1e-9)) {
            $k = $most / $speed;
            $this->vx[$b] *= $k;
            $this->vy[$b] *= $k;
            $this->vz[$b] *= $k;
            $this->limited[$b] = true;
        }
    }

    /** Takes a body out of the scene: it meets nothing any more, and what it bore may fall. */
    public function dismiss(int $body): void
    {
        $this->state[$body] = self::ABSENT;
        $this->encounters->gone[$body] = true;
        $this->rest->lost($body, $this);
    }

    /** How long a body must keep still, s, and within which share of its size, to rest. */
    public function restsBy(int $body, float $after, float $within): void
    {
        $this->rest->by($body, $after, $within);
    }

    /** How many bodies have been slow for a while and do not rest all the same. */
    public function twitching(): int
    {
        return $this->rest->twitching($this);
    }

    /** Counts what gravity and all beside it do on what moves. */
    private function work(float $span): void
    {
        foreach ($this->state as $b => $state) {
            if ($state !== self::MOVING) {
                continue;
            }
            $a = isset($this->acceleration[$b]) ? $this->gravity->plus($this->acceleration[$b]) : $this->gravity;
            $this->gained[$b] = max(0.0, $this->gained[$b] + $span * ($a->x * $this->vx[$b] + $a->y * $this->vy[$b] + $a->z * $this->vz[$b]));
        }
    }

    private function farEndSpeed(int $b): float
    {
        return sqrt($this->vx[$b] ** 2 + $this->vy[$b] ** 2 + $this->vz[$b] ** 2) + $this->size[$b] * sqrt($this->wx[$b] ** 2 + $this->wy[$b] ** 2 + $this->wz[$b] ** 2);
    }

    public function place(int $body, Vec3 $position, Quaternion $turn): void
    {
        $this->px[$body] = $position->x;
        $this->py[$body] = $position->y;
        $this->pz[$body] = $position->z;
        $this->qx[$body] = $turn->x;
        $this->qy[$body] = $turn->y;
        $this->qz[$body] = $turn->z;
        $this->qw[$body] = $turn->w;
    }

    /**
     * Beside gravity, from now on: whatever pushes by the kilogram.
     *
     * @param  bool  $wakes  whether what rests is to move by it
     */
    public function accelerate(int $body, Vec3 $acceleration, bool $wakes = true): void
    {
        $was = $this->acceleration[$body] ?? Vec3::zero();
        if ($acceleration->length() > 0.0) {
            $this->acceleration[$body] = $acceleration;
        } else {
            unset($this->acceleration[$body]);
        }
        if ($wakes && $acceleration->minus($was)->length() > 1e-12) {
            $this->rest->wakeUp($body, $this);
        }
    }

    public function wakeUp(int $body): void
    {
        $this->rest->wakeUp($body, $this);
    }

    /** Friction has become less somewhere: what it held may go. */
    public function loosen(): void
    {
        $this->rest->wakeAll($this);
    }

    /** @return array<int, Vec3> m/s² beside gravity, of the bodies that have any */
    public function accelerations(): array
    {
        return $this->acceleration;
    }

    /** m/s², the most that any body may be accelerated with: how far things can come unforeseen follows from it. */
    public function strongest(): float
    {
        $most = $this->gravity->length();
        foreach ($this->acceleration as $a) {
            $most = max($most, $this->gravity->plus($a)->length());
        }

        return $most;
    }

    public function isAt(int $body, Vec3 $position, Quaternion $turn): bool
    {
        return $this->px[$body] === $position->x && $this->py[$body] === $position->y && $this->pz[$body] === $position->z
            && $this->qx[$body] === $turn->x && $this->qy[$body] === $turn->y && $this->qz[$body] === $turn->z && $this->qw[$body] === $turn->w;
    }

    /** Whether anything can still move. */
    public function isCalm(): bool
    {
        return ! in_array(self::MOVING, $this->state, true) && ! in_array(self::KEYED, $this->state, true);
    }

    /**
     * Finds contacts for the coming span. Releases may be decided on them before `advance` is called.
     *
     * @param  float  $span  seconds until the next search
     */
    public function findContacts(float $span): void
    {
        $start = $this->now();
        $this->colliders->follow($this);
        $pairs = $this->search->pairs($this, $span);
        $start = $this->spend('what is near', $start);
        $this->search->contacts($this, $pairs, $span);
        $this->spend('contacts', $start);
        $this->shifted = [];
    }

    private function now(): float
    {
        return $this->clock === null ? 0.0 : ($this->clock)();
    }

    /** @return float seconds, now */
    private function spend(string $phase, float $since): float
    {
        $now = $this->now();
        if ($now > $since) {
            $this->spent[$phase] = ($this->spent[$phase] ?? 0.0) + $now - $since;
        }

        return $now;
    }

    /** @return array<string, float> seconds by phase of a step, since this was asked last */
    public function spent(): array
    {
        [$spent, $this->spent] = [$this->spent, []];

        return $spent;
    }

    /** Moves on by `$span` in `$steps` sub-steps, using the contacts found. */
    public function advance(float $span, int $steps): void
    {
        if ($this->rest->wake($this)) {
            // What has just woken lies on what it lay on, at which no search looked while both rested.
            $this->findContacts($span);
        }
        if (in_array(self::KEYED, $this->state, true) && in_array(self::RESTING, $this->state, true)) {
            $this->contacts->keepOnly(fn (int $a, int $b): bool => $this->state[$a] === self::MOVING || $b >= 0 && $this->state[$b] === self::MOVING);
        }
        $start = $this->now();
        $free = $this->limits === [] ? [] : $this->unhindered($span);
        $this->solver->run($this, $span, $steps);
        if ($this->rolling !== []) {
            RollingResistance::act($this, $steps);
        }
        foreach ($free as $b => $most) {
            $this->holdBack($b, $most);
        }
        $this->spend('impulses', $start);
        $this->work($span);
        $this->time += $span;
        $this->rest->settle($this, $span);
    }

    /**
     * Moves on by one frame. Where something is about to hit, the frame is searched in finer parts.
     *
     * @param  int  $searches  contact searches, at least
     * @param  int  $steps  sub-steps after each of them
     */
    public function step(float $span, int $searches, int $steps, ?StepListener $listener = null): void
    {
        [$searches, $steps] = $this->effort($span, $searches, $steps);
        $finer = 1;
        for ($done = 0.0; $done < 1.0 - 1e-9; $done += $ahead) {
            $ahead = min(1.0 / ($searches * $finer), 1.0 - $done);
            $listener?->beforeSearch($done, $ahead, $ahead * $span);
            if ($this->isCalm() && $this->waiting === []) {
                $this->time += $ahead * $span;
                $this->contacts->whole = [];
                $listener?->afterSpan($ahead * $span);

                continue;
            }
            $this->findContacts($ahead * $span);
            if ($listener?->afterSearch($done) ?? false) {
                $this->forgiveOverlaps();
                $this->findContacts($ahead * $span);
            }
            if ($finer === 1 && $searches < Tolerances::FINEST && $this->closing($ahead * $span) > Tolerances::SEARCH_FINER_FROM * $this->pieceSize) {
                $finer = max(1, (int) ceil(Tolerances::FINEST / $searches));
                $ahead /= $finer;
                $steps = max(2, intdiv($steps, 2));
                $listener?->beforeSearch($done, $ahead, $ahead * $span);
                $this->findContacts($ahead * $span);
            }
            $this->advance($ahead * $span, $steps);
            $listener?->afterSpan($ahead * $span);
        }
    }

    /** Metres by which the fastest meeting pair would overlap after the span if nothing stopped it. */
    private function closing(float $span): float
    {
        $c = $this->contacts;
        $worst = 0.0;
        foreach ($c->a as $m => $a) {
            $b = $c->b[$m];
            $vx = -$this->vx[$a];
            $vy = -$this->vy[$a];
            $vz = -$this->vz[$a];
            if ($b >= 0) {
                $vx += $this->vx[$b];
                $vy += $this->vy[$b];
                $vz += $this->vz[$b];
            }
            $move = ($vx * $c->nx[$m] + $vy * $c->ny[$m] + $vz * $c->nz[$m]) * $span;
            for ($k = $c->first[$m], $end = $c->first[$m + 1]; $k < $end; $k++) {
                $over = -$move - ($c->gap[$k] > 0.0 ? $c->gap[$k] : 0.0);
                $worst = $over > $worst ? $over : $worst;
            }
        }

        return $worst;
    }

    /**
     * How often to look for contacts in the coming frame, and the sub-steps between: oftener while pieces fly
     * apart, for then those that turn on a bounce meet others the last search did not foresee.
     *
     * @return array{int, int}
     */
    public function effort(float $span, int $searches, int $steps): array
    {
        [$mx, $my, $mz] = $this->meanVelocity();
        $sum = 0.0;
        $n = 0;
        foreach ($this->state as $b => $s) {
            if ($s === self::MOVING) {
                $sum += ($this->vx[$b] - $mx) ** 2 + ($this->vy[$b] - $my) ** 2 + ($this->vz[$b] - $mz) ** 2;
                $n++;
            }
        }
        $apart = $n > 0 ? sqrt($sum / $n) * $span : 0.0;
        $more = max($searches, min(Tolerances::MOST_SEARCHES, (int) ceil($apart / (Tolerances::SEARCH_EVERY * $this->pieceSize))));
        // What is thin is pressed out of an overlap farther in half a frame than was looked for, into others.
        if ($this->pieceThickness < Tolerances::THIN * $this->pieceSize && $apart < Tolerances::SLOW * $this->pieceSize) {
            $more = max($more, Tolerances::FINEST);
        }

        return [$more, max(2, (int) ceil($searches * $steps / $more))];
    }

    /** @return array{float, float, float} m/s, of what moves */
    public function meanVelocity(): array
    {
        $x = $y = $z = 0.0;
        $n = 0;
        foreach ($this->state as $b => $s) {
            if ($s === self::MOVING) {
                $x += $this->vx[$b];
                $y += $this->vy[$b];
                $z += $this->vz[$b];
                $n++;
            }
        }

        return $n > 0 ? [$x / $n, $y / $n, $z / $n] : [0.0, 0.0, 0.0];
    }

    /** @return list<BodyTouch> of bodies that wait and of groups not known to have met, from the last search */
    public function touches(): array
    {
        return $this->search->touches->all;
    }

    /** Touches of these two groups are of no more interest. */
    public function settleTouch(int $group, int $other): void
    {
        $this->search->touches->settle($group, $other);
    }

    /** The group of a body's colliders. */
    public function groupOf(int $body): int
    {
        return $this->group[$body];
    }

    /** Gravity as it is from now on; what rests on nothing else may not under another one. */
    public function pull(Vec3 $gravity): void
    {
        $change = $gravity->minus($this->gravity)->length();
        $this->gravity = $gravity;
        if ($change > 1e-12) {
            $this->rest->wakeAll($this);
        }
    }

    /**
     * @param  array{float, float, float, float, float, float}  $inertia
     */
    public function weigh(int $body, float $mass, array $inertia): void
    {
        $this->mass[$body] = $mass;
        $this->inertia[$body] = $inertia;
        $this->inverseInertia[$body] = self::inverted($inertia);
    }

    /** What cannot be worked out again from how it was set up. */
    public function pack(PackWriter $out): void
    {
        $out->flags($this->state);
        foreach ([
            $this->px, $this->py, $this->pz, $this->qx, $this->qy, $this->qz, $this->qw, $this->vx, $this->vy, $this->vz, $this->wx, $this->wy,
            $this->wz,
        ] as $list) {
            $out->floats($list);
        }
        $out->small(array_keys($this->waiting));
        $out->small(array_keys($this->shifted));
        $out->floats(array_values($this->shifted));
        $out->small(array_keys($this->owed));
        $out->floats(array_merge(...array_values($this->owed)));
        $out->floats($this->gained);
        $out->floats([$this->fastest, $this->time, $this->gravity->x, $this->gravity->y, $this->gravity->z]);
        $this->rest->pack($out);
        $this->search->pack($this, $out);
    }

    public function unpack(PackReader $in): void
    {
        $this->state = $in->flags();
        foreach (['px', 'py', 'pz', 'qx', 'qy', 'qz', 'qw', 'vx', 'vy', 'vz', 'wx', 'wy', 'wz'] as $name) {
            $this->$name = $in->floats();
        }
        $this->waiting = array_fill_keys($in->small(), true);
        $this->shifted = array_combine($in->small(), $in->floats());
        $owed = $in->small();
        $this->owed = array_combine($owed, array_chunk($in->floats(), 6));
        $this->gained = $in->floats();
        [$this->fastest, $this->time, $x, $y, $z] = $in->floats();
        $this->gravity = new Vec3($x, $y, $z);
        $this->rest->unpack($in);
        $this->search->unpack($this->colliders, $in);
        $this->contacts->clear();
        $this->colliders->fresh = array_fill(0, count($this->colliders->fresh), false);
    }

    /** Neighbours that touch now may stay as close as they are without being pushed. */
    public function forgiveOverlaps(): void
    {
        $this->search->forgiveNext = true;
    }

    /**
     * Turns a body by a rotation vector (radians).
     */
    public function turnBy(int $b, float $x, float $y, float $z): void
    {
        $angle = sqrt($x * $x + $y * $y + $z * $z);
        $k = $angle < 1e-8 ? 0.5 : sin(0.5 * $angle) / $angle;
        $x *= $k;
        $y *= $k;
        $z *= $k;
        $v = cos(0.5 * $angle);
        $a = $this->qx[$b];
        $c = $this->qy[$b];
        $d = $this->qz[$b];
        $e = $this->qw[$b];
        $nx = $v * $a + $x * $e + $y * $d - $z * $c;
        $ny = $v * $c - $x * $d + $y * $e + $z * $a;
        $nz = $v * $d + $x * $c - $y * $a + $z * $e;
        $nw = $v * $e - $x * $a - $y * $c - $z * $d;
        $l = 1.0 / sqrt($nx * $nx + $ny * $ny + $nz * $nz + $nw * $nw);
        $this->qx[$b] = $nx * $l;
        $this->qy[$b] = $ny * $l;
        $this->qz[$b] = $nz * $l;
        $this->qw[$b] = $nw * $l;
    }

    /**
     * Torque-free turning: angular momentum stays as it is, the turn follows it by the midpoint rule.
     */
    public function spinFreely(int $b, float $span, int $steps): void
    {
        $wx = $this->wx[$b];
        $wy = $this->wy[$b];
        $wz = $this->wz[$b];
        $w2 = $wx * $wx + $wy * $wy + $wz * $wz;
        if ($w2 < 1e-8) {
            $this->turnBy($b, $wx * $span, $wy * $span, $wz * $span);

            return;
        }
        $momentum = $this->angularMomentum($b);
        // About a twentieth of a radian a step keeps energy to a part in a thousand over seconds.
        $steps = max(1, min(64, (int) ceil(sqrt($w2) * $span / 0.05)));
        $h = $span / $steps;
        for ($i = 0; $i < $steps; $i++) {
            $qx = $this->qx[$b];
            $qy = $this->qy[$b];
            $qz = $this->qz[$b];
            $qw = $this->qw[$b];
            $this->turnBy($b, 0.5 * $h * $this->wx[$b], 0.5 * $h * $this->wy[$b], 0.5 * $h * $this->wz[$b]);
            $mid = $this->spinOf($b, $momentum);
            $this->qx[$b] = $qx;
            $this->qy[$b] = $qy;
            $this->qz[$b] = $qz;
            $this->qw[$b] = $qw;
            $this->turnBy($b, $h * $mid->x, $h * $mid->y, $h * $mid->z);
            $spin = $this->spinOf($b, $momentum);
            $this->wx[$b] = $spin->x;
            $this->wy[$b] = $spin->y;
            $this->wz[$b] = $spin->z;
        }
    }

    /** kg·m²/s about the centre of mass, world axes. */
    public function angularMomentum(int $b): Vec3
    {
        $q = new Quaternion($this->qx[$b], $this->qy[$b], $this->qz[$b], $this->qw[$b]);
        $w = $q->inverse()->turn(new Vec3($this->wx[$b], $this->wy[$b], $this->wz[$b]));
        [$xx, $yy, $zz, $xy, $yz, $zx] = $this->inertia[$b];

        return $q->turn(new Vec3($xx * $w->x + $xy * $w->y + $zx * $w->z, $xy * $w->x + $yy * $w->y + $yz * $w->z, $zx * $w->x + $yz * $w->y + $zz * $w->z));
    }

    /** rad/s at which its angular momentum about the centre of mass is this, kg·m²/s, world axes. */
    public function spinOf(int $b, Vec3 $momentum): Vec3
    {
        $q = new Quaternion($this->qx[$b], $this->qy[$b], $this->qz[$b], $this->qw[$b]);
        $l = $q->inverse()->turn($momentum);
        [$xx, $yy, $zz, $xy, $yz, $zx] = $this->inverseInertia[$b];

        return $q->turn(new Vec3($xx * $l->x + $xy * $l->y + $zx * $l->z, $xy * $l->x + $yy * $l->y + $yz * $l->z, $zx * $l->x + $yz * $l->y + $zz * $l->z));
    }

    /** @return array<int, float> a body's turn as a matrix, row by row */
    public function matrix(int $b): array
    {
        $x = $this->qx[$b];
        $y = $this->qy[$b];
        $z = $this->qz[$b];
        $v = $this->qw[$b];

        return [
            1.0 - 2.0 * ($y * $y + $z * $z), 2.0 * ($x * $y - $z * $v), 2.0 * ($x * $z + $y * $v),
            2.0 * ($x * $y + $z * $v), 1.0 - 2.0 * ($x * $x + $z * $z), 2.0 * ($y * $z - $x * $v),
            2.0 * ($x * $z - $y * $v), 2.0 * ($y * $z + $x * $v), 1.0 - 2.0 * ($x * $x + $y * $y),
        ];
    }

    /** @return array{float, float, float, float, float, float} body axes */
    public function inverseInertia(int $b): array
    {
        return $this->inverseInertia[$b];
    }

    /**
     * @param  array{float, float, float, float, float, float}  $i
     * @return array{float, float, float, float, float, float}
     */
    private static function inverted(array $i): array
    {
        [$xx, $yy, $zz, $xy, $yz, $zx] = $i;
        $a = $yy * $zz - $yz * $yz;
        $b = $yz * $zx - $xy * $zz;
        $c = $xy * $yz - $yy * $zx;
        $det = $xx * $a + $xy * $b + $zx * $c;
        if ($det <= 0.0) {
            return [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        }

        return [$a / $det, ($xx * $zz - $zx * $zx) / $det, ($xx * $yy - $xy * $xy) / $det, $b / $det, ($xy * $zx - $xx * $yz) / $det, $c / $det];
    }

    /** J, kinetic. */
    public function energy(): float
    {
        $sum = 0.0;
        foreach ($this->state as $b => $state) {
            if ($state !== self::MOVING) {
                continue;
            }
            $sum += 0.5 * $this->mass[$b] * ($this->vx[$b] ** 2 + $this->vy[$b] ** 2 + $this->vz[$b] ** 2);
            $w = (new Quaternion(
                $this->qx[$b],
                $this->qy[$b],
                $this->qz[$b],
                $this->qw[$b],
            ))->inverse()->turn(new Vec3($this->wx[$b], $this->wy[$b], $this->wz[$b]));
            [$xx, $yy, $zz, $xy, $yz, $zx] = $this->inertia[$b];
            $sum += 0.5 * ($w->x * ($xx * $w->x + $xy * $w->y + $zx * $w->z) + $w->y * ($xy * $w->x + $yy * $w->y + $yz * $w->z) + $w->z * ($zx * $w->x + $yz * $w->y + $zz * $w->z));
        }

        return $sum;
    }
}
