<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Mortar;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/**
 * The pieces of one prop that mortar holds together: which hang together now, and which bonds the loads on them break.
 *
 * What is not let go is held by the prop; what is let go and hangs on something held stays with it until its bonds break.
 * Places and loads are in the prop's own axes.
 */
final class Bonded
{
    /** s after which loads that stay are looked at again. */
    private const EVERY = 0.02;

    /** Of what stays, bonds break that are strained within this share of the most strained; then loads are looked at anew. */
    private const TOGETHER = 0.8;

    /** Likewise of a hit. */
    private const HIT_TOGETHER = 0.5;

    /** A hit of less than this share of what the weakest bond of its piece bears is none. */
    private const FELT = 1.0;

    /** A hit counts as so many times as hard as one much the same was. */
    private const LIKE = 2.0;

    /** Times that loads are looked at anew: of a hit, and of what stays. */
    private const HITS = 24;

    private const FALLS = 4;

    /** Share to which loads are found: of a hit, and of what stays. */
    private const HIT_WITHIN = 0.1;

    private const WITHIN = 0.003;

    private const ROUGHLY = 0.05;

    /** What is strained less than this, or more than its inverse, need not be known better. */
    private const CALM = 0.7;

    public readonly Bonds $bonds;

    /** @var list<Vec3> middle of each piece */
    private readonly array $middle;

    /** @var list<float> kg */
    private readonly array $mass;

    /** @var list<array{float, float, float, float, float, float}> kg·m² */
    private readonly array $inertia;

    /** @var list<float> what each bond has of the strength of all */
    private readonly array $differences;

    /** @var list<float> by piece: what there is of the mortar */
    private array $shares;

    private float $amount = 1.0;

    /** @var array<int, true> pieces let go */
    private array $let = [];

    /** How many of the broken bonds were told. */
    private int $told = 0;

    /** Seconds since loads that stay were looked at. */
    private float $since = 0.0;

    private readonly Bearing $bearing;

    /** @var array<int, Found> what was found last of those that hang together, by the first of them */
    private array $found = [];

    /** @var array<int, array{float, float}> as of `weakest`, by the first of those that hang together, while all is as it is */
    private array $weakest = [];

    /** @var array<int, float> strain that 1 N·s made last, by pieces and the way it went, as of `way`, while what is round them is as it was */
    private array $felt = [];

    /** @var list<non-empty-list<int>>|null what hangs together, while that is known */
    private ?array $groups = null;

    /** @var array<int, int> by piece, the number of what it hangs together with, likewise */
    private array $groupOf = [];

    /**
     * @param  list<Joint>  $joints
     * @param  list<Solid>  $solids  all pieces of the prop
     * @param  float  $density  kg/m³
     * @param  bool  $whole  whether what is not let go moves as one, instead of being held
     */
    public function __construct(array $joints, array $solids, float $density, private readonly Mortar $mortar, private readonly bool $whole)
    {
        $this->bonds = new Bonds($joints);
        $this->middle = array_map(static fn (Solid $s): Vec3 => $s->centre, $solids);
        $this->mass = array_map(static fn (Solid $s): float => $density * $s->own()->volume, $solids);
        $this->inertia = array_map(static fn (Solid $s): array => array_map(static fn (float $i): float => $density * $i, $s->mass->inertia), $solids);
        $this->differences = $mortar->differences($this->bonds->count());
        $this->shares = array_fill(0, count($solids), 1.0);
        $this->bearing = new Bearing($this->middle, $this->mass);
    }

    /**
     * @param  list<float>|null  $shares  by piece: what there is of the mortar; null for all of it
     */
    public function strengthen(float $amount, ?array $shares): void
    {
        $shares ??= $this->shares;
        if ($amount !== $this->amount || $shares !== $this->shares) {
            $this->amount = $amount;
            $this->shares = $shares;
            $this->found = $this->weakest = $this->felt = [];
        }
    }

    /** @param  list<int>  $pieces */
    public function letGo(array $pieces): void
    {
        foreach ($pieces as $piece) {
            $this->let[$piece] = true;
        }
        $this->groups = null;
        $this->groupOf = $this->found = $this->weakest = $this->felt = [];
    }

    /** @return list<non-empty-list<int>> pieces that hang together, each in order */
    public function groups(): array
    {
        if ($this->groups !== null) {
            return $this->groups;
        }
        $groups = $this->bonds->together(array_keys($this->middle));
        if ($this->whole) {
            // What is not let go hangs together whatever happens.
            $firm = array_filter($groups, $this->isFirm(...));
            if (count($firm) > 1) {
                $one = array_merge(...array_values($firm));
                sort($one);
                $groups = [$one, ...array_values(array_diff_key($groups, $firm))];
            }
        }

        return $this->groups = array_values($groups);
    }

    /**
     * Whether something of these is not let go, so that what holds it holds all of them.
     *
     * @param  list<int>  $group
     */
    public function isFirm(array $group): bool
    {
        foreach ($group as $piece) {
            if (! isset($this->let[$piece])) {
                return true;
            }
        }

        return false;
    }

    /**
     * Whether loads may break any of these apart: there are several, and some are let go.
     *
     * @param  list<int>  $group
     */
    public function mayPart(array $group): bool
    {
        return count($group) > 1 && array_intersect_key($this->let, array_flip($group)) !== [];
    }

    /**
     * Hits on pieces, each over the time of contact.
     *
     * @param  list<array{int, Vec3, Vec3}>  $hits  piece, place, and N·s; where that is INF, what drives it stops for nothing
     * @return bool whether anything broke
     */
    public function hit(array $hits): bool
    {
        $broke = false;
        $struck = [];
        $driven = array_filter($hits, static fn (array $hit): bool => ! is_finite($hit[2]->x + $hit[2]->y + $hit[2]->z));
        foreach ($driven as [$piece]) {
            $broke = $this->free($piece) || $broke;
        }
        // What hangs together now is known by numbers that hold until the next bond breaks.
        foreach (array_diff_key($hits, $driven) as [$piece, $at, $impulse]) {
            if ($impulse->length() >= self::FELT * $this->mortar->contact * $this->weakestOf($piece)) {
                $struck[$this->groupOf($piece)][] = [$piece, $at, $impulse];
            }
        }
        $groups = $this->groups();
        foreach ($struck as $number => $own) {
            if (count($groups[$number]) > 1 && ! $this->isBorne($own)) {
                $broke = $this->strike($groups[$number], $own) || $broke;
            }
        }

        return $broke;
    }

    /** N that the weakest bond of a piece bears. */
    private function weakestOf(int $piece): float
    {
        $least = INF;
        foreach ($this->bonds->of[$piece] ?? [] as $bond) {
            if (! isset($this->bonds->broken[$bond])) {
                $least = min($least, $this->share($bond) * $this->bonds->area[$bond] * min($this->mortar->tension, $this->mortar->shear));
            }
        }

        return $least;
    }

    /** The number of what a piece hangs together with. */
    private function groupOf(int $piece): int
    {
        if ($this->groupOf === []) {
            foreach ($this->groups() as $number => $group) {
                $this->groupOf += array_fill_keys($group, $number);
            }
        }

        return $this->groupOf[$piece];
    }

    /**
     * Whether hits like these were looked at before, and all like them together would break nothing.
     *
     * @param  list<array{int, Vec3, Vec3}>  $hits
     */
    private function isBorne(array $hits): bool
    {
        $strain = 0.0;
        foreach ($hits as [$piece, , $impulse]) {
            $strain += $impulse->length() * ($this->felt[self::way($piece, $impulse)] ?? INF);
        }

        return self::LIKE * $strain < 1.0;
    }

    /** Hits of a piece that go much the same way. */
    private static function way(int $piece, Vec3 $impulse): int
    {
        [$x, $y, $z] = array_map(abs(...), $impulse->toArray());

        return 3 * $piece + ($x >= $y && $x >= $z ? 0 : ($y >= $z ? 1 : 2));
    }

    /** Breaks all that holds a piece, where it may. */
    private function free(int $piece): bool
    {
        $bonds = array_filter($this->bonds->of[$piece] ?? [], fn (int $bond): bool => ! isset($this->bonds->broken[$bond]) && $this->mayBreak($bond));

        return $this->break(array_values($bonds));
    }

    /**
     * What gives way under pressure goes on bearing pressure: what lies behind it is hit as well.
     *
     * @param  non-empty-list<int>  $group
     * @param  list<array{int, Vec3, Vec3}>  $hits
     */
    private function strike(array $group, array $hits): bool
    {
        $cluster = $this->cluster($group);
        foreach ($hits as [$piece, $at, $impulse]) {
            $cluster->push($piece, $at, $impulse->times(1.0 / $this->mortar->contact));
        }
        $gone = $pressed = [];
        $loads = new BondLoads($cluster, $this->bonds, $this->mortar->modulus, $this->mortar->contact);
        for ($round = 0; $round < self::HITS; $round++) {
            $over = $bears = [];
            $most = 0.0;
            foreach ($loads->borne(self::HIT_WITHIN) as $bond => [$force, $moment]) {
                if (isset($pressed[$bond])) {
                    if ($force->dot($this->bonds->normal[$bond]) > 0.0) {
                        $over[$bond] = INF;
                    }
                } elseif ($this->mayBreak($bond)) {
                    $most = max($most, $strain = $this->strain($bond, $this->bonds->stress($bond, $force, $moment)));
                    if ($strain >= 1.0) {
                        $over[$bond] = $strain;
                        $bears[$bond] = $force->dot($this->bonds->normal[$bond]) < 0.0;
                    }
                }
            }
            if ($over === []) {
                if ($round === 0 && count($hits) === 1) {
                    $this->felt[self::way($hits[0][0], $hits[0][2])] = $most / max(1e-30, $hits[0][2]->length());
                }
                break;
            }
            // What breaks first takes the load off what lies behind it.
            $finite = array_filter($over, is_finite(...));
            $least = $finite === [] ? 0.0 : self::HIT_TOGETHER * max($finite);
            foreach ($over as $bond => $strain) {
                if ($strain < $least) {
                    continue;
                }
                unset($pressed[$bond]);
                if ($bears[$bond] ?? false) {
                    $pressed[$bond] = true;
                    $loads->press($bond);
                } else {
                    $gone[] = $bond;
                    $loads->drop($bond);
                }
            }
        }

        return $this->break([...$gone, ...array_keys($pressed)]);
    }

    /**
     * What pushed pieces over a span.
     *
     * @param  array<int, list<Push>>  $pushes  by piece
     * @param  array<int, true>  $struck  pieces of which it is known that they were hit in it
     * @param  Vec3  $gravity  m/s², in the prop's axes
     * @param  \Closure(int): ?Vec3  $spin  rad/s with which the body of a piece turns, in the prop's axes; null where it rests
     * @param  \Closure(): array<int, Vec3>  $drawn  N on pieces by what forces and shaking do to each, in the prop's axes
     * @return array{bool, array<int, Vec3>} whether anything broke, and N·s that came as hits, by piece
     */
    public function bear(array $pushes, array $struck, float $seconds, Vec3 $gravity, \Closure $spin, \Closure $drawn): array
    {
        $hits = $this->bearing->take($pushes, $struck, $seconds, static fn (int $piece): bool => $spin($piece) === null);
        $broke = $hits !== [] && $this->hit($hits);
        $this->since += $seconds;
        if ($this->since >= self::EVERY) {
            $this->since = 0.0;
            $broke = $this->weigh($gravity, $spin, $drawn()) || $broke;
        }

        return [$broke, array_column($hits, 2, 0)];
    }

    /**
     * Breaks what loads that stay are too much for, one after the other.
     *
     * @param  \Closure(int): ?Vec3  $spin
     * @param  array<int, Vec3>  $drawn
     */
    private function weigh(Vec3 $gravity, \Closure $spin, array $drawn): bool
    {
        $broke = false;
        $groups = $this->groups();
        for ($round = 0; $round < self::FALLS && $groups !== []; $round++) {
            $parted = [];
            foreach ($groups as $group) {
                $over = count($group) > 1 ? $this->over($group, $gravity, $spin, $drawn) : [];
                if ($over !== []) {
                    $broke = $this->break($over);
                    array_push($parted, ...$this->bonds->together($group));
                }
            }
            $groups = $parted;
        }

        return $broke;
    }

    /**
     * @param  non-empty-list<int>  $group
     * @param  \Closure(int): ?Vec3  $spin
     * @param  array<int, Vec3>  $drawn  N by piece
     * @return list<int> bonds that break first
     */
    private function over(array $group, Vec3 $gravity, \Closure $spin, array $drawn): array
    {
        $turns = $spin($group[0]);
        if ($turns === null) {
            return [];
        }
        $cluster = $this->cluster($group);
        $found = $this->found[$group[0]] ?? null;
        $drawn = array_intersect_key($drawn, array_flip($group));
        $alone = $drawn === [] && $this->bearing->isFree($group);
        if (count($cluster->fixed) === count($group) || $cluster->fixed !== [] && $alone && $found !== null && $found->gravity == $gravity) {
            return [];
        }
        $places = $this->bearing->load($cluster);
        // What hangs on nothing held falls all alike.
        foreach ($cluster->fixed === [] && $cluster->supports === [] ? [] : $group as $piece) {
            $cluster->add($piece, $gravity->times($this->mass[$piece]), Vec3::zero());
        }
        foreach ($drawn as $piece => $force) {
            $cluster->add($piece, $force, Vec3::zero());
        }
        $cluster->balance($turns);
        if (($found ?? Found::nothing())->isEnough($cluster, $places, $this->weakest[$group[0]] ??= $this->weakest($group))) {
            return [];
        }
        $loads = new BondLoads($cluster, $this->bonds, $this->mortar->modulus);
        foreach ([self::ROUGHLY, self::WITHIN] as $within) {
            $strains = [];
            foreach ($loads->borne($within) as $bond => [$force, $moment]) {
                if ($this->mayBreak($bond)) {
                    $strains[$bond] = $this->strain($bond, $this->bonds->stress($bond, $force, $moment));
                }
            }
            $most = $strains === [] ? 0.0 : max($strains);
            // Far from what it bears a rough answer will do.
            if ($most < self::CALM || $most > 1.0 / self::CALM) {
                break;
            }
        }
        if ($most < 1.0) {
            $this->found[$group[0]] = Found::of($cluster, $most, $places, $alone ? $gravity : null);

            return [];
        }
        unset($this->found[$group[0]]);

        return array_keys(array_filter($strains, static fn (float $s): bool => $s >= 1.0 && $s >= self::TOGETHER * $most));
    }

    /**
     * @param  non-empty-list<int>  $group
     * @return array{float, float} strain by 1 N anywhere, and by 1 N·m
     */
    private function weakest(array $group): array
    {
        $low = $high = $this->middle[$group[0]];
        $in = array_fill_keys($group, true);
        foreach ($group as $piece) {
            $m = $this->middle[$piece];
            $low = new Vec3(min($low->x, $m->x), min($low->y, $m->y), min($low->z, $m->z));
            $high = new Vec3(max($high->x, $m->x), max($high->y, $m->y), max($high->z, $m->z));
        }
        $far = $high->minus($low)->length();
        $byForce = $byMoment = 0.0;
        foreach ($group as $piece) {
            foreach ($this->bonds->of[$piece] ?? [] as $bond) {
                if (isset($this->bonds->broken[$bond]) || ! isset($in[$this->bonds->one[$bond]], $in[$this->bonds->other[$bond]]) || ! $this->mayBreak($bond)) {
                    continue;
                }
                $tension = 1.0 / max(1e-9, $this->share($bond) * $this->mortar->tension);
                $shear = 1.0 / max(1e-9, $this->share($bond) * $this->mortar->shear);
                $bend = $this->bonds->bending($bond);
                $byForce = max($byForce, (1.0 / $this->bonds->area[$bond] + $far * $bend) * $tension, (1.0 / $this->bonds->area[$bond] + $far * $bend) * $shear);
                $byMoment = max($byMoment, $bend * max($tension, $shear));
            }
        }

        return [$byForce, $byMoment];
    }

    /** @param  non-empty-list<int>  $group */
    private function cluster(array $group): Cluster
    {
        $in = array_flip($group);
        $fixed = [];
        foreach ($this->whole ? [] : $group as $piece) {
            if (! isset($this->let[$piece])) {
                $fixed[$piece] = true;
            }
        }

        return new Cluster($group, array_intersect_key($this->middle, $in), array_intersect_key($this->mass, $in), array_intersect_key($this->inertia, $in), $fixed);
    }

    private function mayBreak(int $bond): bool
    {
        return isset($this->let[$this->bonds->one[$bond]]) || isset($this->let[$this->bonds->other[$bond]]);
    }

    /** Share of the strength of all that a bond has. */
    public function share(int $bond): float
    {
        return $this->amount * $this->differences[$bond] * 0.5 * ($this->shares[$this->bonds->one[$bond]] + $this->shares[$this->bonds->other[$bond]]);
    }

    /** @param  array{float, float, float}  $stress */
    private function strain(int $bond, array $stress): float
    {
        return $this->mortar->strain($stress, $this->share($bond));
    }

    /** @param  list<int>  $bonds */
    private function break(array $bonds): bool
    {
        foreach ($bonds as $bond) {
            $this->bonds->broken[$bond] = true;
        }
        if ($bonds === []) {
            return false;
        }
        $changed = [];
        foreach ($bonds as $bond) {
            $changed[$this->bonds->one[$bond]] = $changed[$this->bonds->other[$bond]] = true;
        }
        $groups = $this->groups();
        foreach ($changed as $piece => $_) {
            $first = $groups[$this->groupOf($piece)][0];
            unset($this->found[$first], $this->weakest[$first]);
            foreach ($this->bonds->of[$piece] as $bond) {
                foreach ([$this->bonds->one[$bond], $this->bonds->other[$bond]] as $near) {
                    unset($this->felt[3 * $near], $this->felt[3 * $near + 1], $this->felt[3 * $near + 2]);
                }
            }
        }
        $this->groups = null;
        $this->groupOf = [];

        return true;
    }

    /**
     * How much of what it bears each bond has to bear under its own weight, all standing still.
     *
     * @param  Vec3  $gravity  m/s², in the prop's axes
     * @param  list<array{int, Vec3, Vec3}>  $feet  where something that does not give way bears it: piece, place, and normal into the piece
     * @return array<int, float> by bond that bears anything
     */
    public function underWeight(Vec3 $gravity, array $feet): array
    {
        $out = [];
        foreach ($this->groups() as $number => $group) {
            $cluster = $this->cluster($group);
            foreach ($feet as [$piece, $at, $normal]) {
                if ($this->groupOf($piece) === $number) {
                    $cluster->support($piece, $at, $normal);
                }
            }
            if (count($group) < 2 || $cluster->fixed === [] && $cluster->supports === []) {
                continue;
            }
            foreach ($group as $piece) {
                $cluster->add($piece, $gravity->times($this->mass[$piece]), Vec3::zero());
            }
            foreach ((new BondLoads($cluster, $this->bonds, $this->mortar->modulus))->borne(self::WITHIN) as $bond => [$force, $moment]) {
                $out[$bond] = $this->strain($bond, $this->bonds->stress($bond, $force, $moment));
            }
        }

        return $out;
    }

    /**
     * The strain that a hit makes in the bond that has to bear most of it.
     *
     * @param  Vec3  $impulse  N·s
     */
    public function underHit(int $piece, Vec3 $impulse): float
    {
        $cluster = $this->cluster($this->groups()[$this->groupOf($piece)]);
        $cluster->add($piece, $impulse->times(1.0 / $this->mortar->contact), Vec3::zero());
        $most = 0.0;
        foreach ((new BondLoads($cluster, $this->bonds, $this->mortar->modulus, $this->mortar->contact))->borne(self::HIT_WITHIN) as $bond => [$force, $moment]) {
            $most = max($most, $this->strain($bond, $this->bonds->stress($bond, $force, $moment)));
        }

        return $most;
    }

    /** @return list<Joint> bonds that broke since it was told what cracked */
    public function opened(): array
    {
        return array_map(fn (int $bond): Joint => $this->bonds->joints[$bond], array_slice(array_keys($this->bonds->broken), $this->told));
    }

    /** @return list<array{int, int}> pairs of pieces whose bond broke since this was asked last */
    public function cracks(): array
    {
        $new = array_slice(array_keys($this->bonds->broken), $this->told);
        $this->told += count($new);

        return array_map(fn (int $bond): array => [$this->bonds->one[$bond], $this->bonds->other[$bond]], $new);
    }

    public function pack(PackWriter $out): void
    {
        $out->int($this->told);
        $out->small(array_keys($this->let));
        $out->small(array_keys($this->bonds->broken));
        $out->floats([$this->since, $this->amount, ...$this->shares]);
        $this->bearing->pack($out);
        $out->small(array_keys($this->found));
        foreach ($this->found as $found) {
            $found->pack($out);
        }
        $out->small(array_keys($this->felt));
        $out->floats(array_values($this->felt));
    }

    public function unpack(PackReader $in): void
    {
        $this->told = $in->int();
        $this->let = array_fill_keys($in->small(), true);
        $this->bonds->broken = array_fill_keys($in->small(), true);
        $this->shares = $in->floats();
        $this->since = (float) array_shift($this->shares);
        $this->amount = (float) array_shift($this->shares);
        $this->bearing->unpack($in);
        $this->found = [];
        foreach ($in->small() as $first) {
            $this->found[$first] = Found::unpack($in);
        }
        $felt = $in->small();
        $this->felt = array_combine($felt, $in->floats());
        $this->weakest = $this->groupOf = [];
        $this->groups = null;
    }
}
