<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;

/**
 * Pieces of a prop that move as one body, or as several, until they part. What is left when some go hangs together only as
 * far as its pieces lie face to face.
 *
 * All that is left of a whole may move as a body of its own; every other clump moves as the body of its first piece.
 */
final class Clumps
{
    /** @var array<int, non-empty-list<int>> pieces in order, by the body they move as */
    private array $pieces = [];

    /** @var array<int, int> by piece: the body it moves as with others */
    private array $carrier = [];

    /** @var array<int, Vec3> by that body: its centre of mass in the prop's coordinates */
    private array $centre = [];

    private ?ClumpPlan $plan = null;

    /**
     * @param  list<Solid>  $solids  of the prop, all of them
     * @param  list<int>  $bodies  of the pieces by themselves
     * @param  list<list<int>>  $colliders  of each piece
     * @param  \Closure(): ClumpPlan  $makePlan
     */
    public function __construct(
        private readonly array $solids,
        private readonly array $bodies,
        private readonly array $colliders,
        private readonly float $density,
        private readonly \Closure $makePlan,
    ) {
    }

    /** The body a piece moves as with others; null where it moves by itself. */
    public function carrierOf(int $piece): ?int
    {
        return $this->carrier[$piece] ?? null;
    }

    /** Where a piece that moves with others is now. */
    public function placeOf(World $w, int $piece): Vec3
    {
        $body = $this->carrier[$piece];

        return self::place($w, $body)->plus(self::turn($w, $body)->turn($this->solids[$piece]->centre->minus($this->centre[$body])));
    }

    /** Lets all pieces move as one body, which stands where they do. */
    public function gather(World $w, int $body): void
    {
        foreach ($this->bodies as $own) {
            $w->state[$own] = World::ABSENT;
        }
        $this->carry($w, $body, array_keys($this->solids));
    }

    /**
     * Lets pieces go that moved with others, moving on as they did.
     *
     * @param  list<int>  $pieces
     * @param  bool  $inClumps  whether those of one clump stay together
     * @return list<non-empty-list<int>> what goes as one
     */
    public function part(World $w, array $pieces, bool $inClumps): array
    {
        $out = $going = [];
        foreach ($pieces as $piece) {
            if (isset($this->carrier[$piece])) {
                $going[$this->carrier[$piece]][] = $piece;
            }
        }
        foreach ($going as $body => $gone) {
            $groups = $inClumps ? $this->plan()->parts($gone, true) : array_chunk($gone, 1);
            $this->divide($w, $body, [...$groups, ...$this->plan()->parts(array_values(array_diff($this->pieces[$body], $gone)), false)]);
            array_push($out, ...$groups);
        }

        return $out;
    }

    /**
     * Lets pieces go that were held each by itself, so that those of one clump move as one from now on.
     *
     * @param  list<int>  $pieces
     * @return list<non-empty-list<int>> what goes as one
     */
    public function join(World $w, array $pieces): array
    {
        $groups = $this->plan()->parts($pieces, true);
        foreach ($groups as $group) {
            if (count($group) > 1) {
                $this->merge($w, $group);
            }
        }

        return $groups;
    }

    /**
     * A blow on a piece of a clump: it comes off, with those beside it.
     *
     * @return bool whether anything did
     */
    public function knock(World $w, int $piece): bool
    {
        $body = $this->carrier[$piece] ?? null;
        if ($body === null) {
            return false;
        }
        $this->part($w, [$piece, ...array_values(array_intersect($this->plan()->beside($piece), $this->pieces[$body]))], false);

        return true;
    }

    /** Something pushes a piece as it goes: so much more m/s and rad/s, shared by all it moves with. */
    public function send(World $w, int $piece, Vec3 $velocity, Vec3 $spin): void
    {
        $body = $this->carrier[$piece];
        $mass = $this->solids[$piece]->mass->volume * $this->density;
        $w->push($body, $this->placeOf($w, $piece), $velocity->times($mass));
        $w->kick($body, Vec3::zero(), $spin->times($mass / $w->mass[$body]));
    }

    /** @return array<int, non-empty-list<int>> pieces in order, by the body they move as */
    public function all(): array
    {
        return $this->pieces;
    }

    /** @return non-empty-list<array{Hull, Vec3}> the hulls of all that moves as a body, and where each lies from its middle, in its axes */
    public function hullsOf(int $body): array
    {
        $out = [];
        foreach ($this->pieces[$body] as $piece) {
            foreach ($this->solids[$piece]->hulls as $hull) {
                $out[] = [$hull, $this->solids[$piece]->centre->minus($this->centre[$body])];
            }
        }

        return $out;
    }

    /**
     * Takes up who moves with whom: only that is set, for the state of the bodies is known.
     *
     * @param  array<int, non-empty-list<int>>  $pieces  as of `all`
     */
    public function restore(World $w, array $pieces): void
    {
        foreach (array_keys($this->carrier) as $piece) {
            $this->single($w, $piece);
        }
        $this->pieces = $this->carrier = $this->centre = [];
        foreach ($pieces as $body => $group) {
            $this->carry($w, $body, $group);
        }
    }

    private function plan(): ClumpPlan
    {
        return $this->plan ??= ($this->makePlan)();
    }

    /**
     * Parts what one body carries into groups, all of it, that move on as they did within it.
     *
     * @param  list<non-empty-list<int>>  $groups
     */
    public function divide(World $w, int $body, array $groups): void
    {
        $centre = $this->centre[$body];
        [$place, $turn] = [self::place($w, $body), self::turn($w, $body)];
        $velocity = new Vec3($w->vx[$body], $w->vy[$body], $w->vz[$body]);
        $spin = new Vec3($w->wx[$body], $w->wy[$body], $w->wz[$body]);
        $waits = isset($w->waiting[$body]);
        $extra = ! in_array($body, $this->bodies, true);
        $largest = max(array_map(count(...), $groups));
        foreach ($this->pieces[$body] as $piece) {
            unset($this->carrier[$piece]);
        }
        unset($this->pieces[$body], $this->centre[$body], $w->waiting[$body], $w->brittle[$body]);
        $w->state[$body] = World::ABSENT;
        foreach ($groups as $group) {
            if (count($group) === 1) {
                $carrier = $this->single($w, $group[0]);
                $middle = $this->solids[$group[0]]->centre;
            } else {
                $carrier = $extra && count($group) === $largest ? $body : $this->bodies[$group[0]];
                $extra = $extra && $carrier !== $body;
                $middle = $this->carry($w, $carrier, $group);
                if ($waits) {
                    $w->waiting[$carrier] = true;
                }
            }
            $arm = $turn->turn($middle->minus($centre));
            $w->place($carrier, $place->plus($arm), $turn);
            $w->release($carrier, $velocity->plus($spin->cross($arm)), $spin);
        }
    }

    /**
     * Makes one body of pieces that stand by themselves, with all the momentum they have.
     *
     * @param  non-empty-list<int>  $group
     */
    public function merge(World $w, array $group): void
    {
        $mass = 0.0;
        $momentum = $moment = Vec3::zero();
        foreach ($group as $piece) {
            $b = $this->bodies[$piece];
            $mass += $w->mass[$b];
            $moment = $moment->plus(self::place($w, $b)->times($w->mass[$b]));
            $momentum = $momentum->plus((new Vec3($w->vx[$b], $w->vy[$b], $w->vz[$b]))->times($w->mass[$b]));
        }
        $middle = $moment->times(1.0 / $mass);
        $turning = Vec3::zero();
        foreach ($group as $piece) {
            $b = $this->bodies[$piece];
            $velocity = new Vec3($w->vx[$b], $w->vy[$b], $w->vz[$b]);
            $turning = $turning->plus($w->angularMomentum($b))->plus(self::place($w, $b)->minus($middle)->cross($velocity->times($w->mass[$b])));
        }
        $carrier = $this->bodies[$group[0]];
        $turn = self::turn($w, $carrier);
        foreach ($group as $piece) {
            $w->state[$this->bodies[$piece]] = World::ABSENT;
        }
        $this->carry($w, $carrier, $group);
        $w->place($carrier, $middle, $turn);
        $w->release($carrier, $momentum->times(1.0 / $mass), $w->spinOf($carrier, $turning));
    }

    /**
     * @param  non-empty-list<int>  $group
     * @return Vec3 their centre of mass in the prop's coordinates
     */
    private function carry(World $w, int $body, array $group): Vec3
    {
        $mass = Solid::together(array_map(fn (int $piece): Solid => $this->solids[$piece], $group));
        $this->pieces[$body] = $group;
        $this->centre[$body] = $mass->centroid;
        foreach ($group as $piece) {
            $this->carrier[$piece] = $body;
            $this->attach($w, $piece, $body, $this->solids[$piece]->centre->minus($mass->centroid));
        }
        // As wide as what its farthest corner goes round.
        $w->size[$body] = 2.0 * max(array_map(
            fn (int $piece): float => $this->solids[$piece]->reachesFrom($mass->centroid->minus($this->solids[$piece]->centre)),
            $group,
        ));
        $this->weigh($w, $body, $mass);

        return $mass->centroid;
    }

    /** @return int the body of a piece, by itself from now on */
    private function single(World $w, int $piece): int
    {
        $body = $this->bodies[$piece];
        $this->attach($w, $piece, $body, Vec3::zero());
        $w->size[$body] = $this->solids[$piece]->size();
        $this->weigh($w, $body, $this->solids[$piece]->own());

        return $body;
    }

    private function attach(World $w, int $piece, int $body, Vec3 $offset): void
    {
        foreach ($this->colliders[$piece] as $k => $collider) {
            $w->colliders->attach($collider, $body, $this->solids[$piece]->hulls[$k], $offset);
        }
    }

    private function weigh(World $w, int $body, MassProperties $mass): void
    {
        $w->weigh($body, $mass->volume * $this->density, array_map(fn (float $v): float => $v * $this->density, $mass->inertia));
    }

    private static function place(World $w, int $body): Vec3
    {
        return new Vec3($w->px[$body], $w->py[$body], $w->pz[$body]);
    }

    private static function turn(World $w, int $body): Quaternion
    {
        return new Quaternion($w->qx[$body], $w->qy[$body], $w->qz[$body], $w->qw[$body]);
    }
}
