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
    /** m/s: what would send a piece off so fast, if nothing held it, is a hit and no weight. */
    private const HIT = 0.5;

    /** s over which weights are taken as they are on the mean. */
    private const STEADY = 0.05;

    /** Of what stays, bonds break that are strained within this share of the most strained; then loads are looked at anew. */
    private const TOGETHER = 0.95;

    /** Likewise of a hit. */
    private const HIT_TOGETHER = 0.5;

    /** Times that loads are looked at anew: of a hit, and of what stays. */
    private const HITS = 24;

    private const FALLS = 60;

    /** Share to which loads are found: of a hit, and of what stays. */
    private const HIT_WITHIN = 0.03;

    private const WITHIN = 0.003;

    private readonly Bonds $bonds;

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

    /** @var array<int, array{float, float, float, float, float, float}> N and N·m that stay on a piece, as they are on the mean; by piece */
    private array $steady = [];

    /** @var array<int, array{float, list<float>, Vec3|null}> what was found last of those that hang together, by the first of them: the greatest strain, the loads it was found for, and the gravity where they are nothing else */
    private array $found = [];

    /** @var array<int, array{float, float}> as of `weakest`, by the first of those that hang together, while all is as it is */
    private array $weakest = [];

    /** @var list<non-empty-list<int>>|null what hangs together, while that is known */
    private ?array $groups = null;

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
            $this->found = $this->weakest = [];
        }
    }

    /** @param  list<int>  $pieces */
    public function letGo(array $pieces): void
    {
        foreach ($pieces as $piece) {
            $this->let[$piece] = true;
        }
        $this->groups = null;
        $this->found = $this->weakest = [];
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
     * Hits on pieces, each over the time of contact.
     *
     * @param  list<array{int, Vec3, Vec3}>  $hits  piece, place, and N·s; where that is INF, what drives it stops for nothing
     * @return bool whether anything broke
     */
    public function hit(array $hits): bool
    {
        $broke = false;
        foreach ($this->groups() as $group) {
            $in = array_flip($group);
            $own = array_filter($hits, static fn (array $hit): bool => isset($in[$hit[0]]));
            if ($own === [] || count($group) < 2) {
                continue;
            }
            foreach ($own as $k => [$piece, , $impulse]) {
                if (! is_finite($impulse->x + $impulse->y + $impulse->z)) {
                    $broke = $this->free($piece) || $broke;
                    unset($own[$k]);
                }
            }
            $broke = $own !== [] && $this->strike($group, array_values($own)) || $broke;
        }

        return $broke;
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
        for ($round = 0; $round < self::HITS; $round++) {
            $over = $bears = [];
            foreach (BondLoads::of($cluster, $this->bonds, $this->mortar->modulus, $this->mortar->contact, $pressed, self::HIT_WITHIN) as $bond => [$force, $moment]) {
                if (isset($pressed[$bond])) {
                    if ($force->dot($this->bonds->normal[$bond]) > 0.0) {
                        $over[$bond] = INF;
                    }
                } elseif ($this->mayBreak($bond) && ($strain = $this->strain($bond, $this->bonds->stress($bond, $force, $moment))) >= 1.0) {
                    $over[$bond] = $strain;
                    $bears[$bond] = $force->dot($this->bonds->normal[$bond]) < 0.0;
                }
            }
            if ($over === []) {
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
                } else {
                    $gone[] = $bond;
                    $this->bonds->broken[$bond] = true;
                }
            }
        }

        return $this->break([...$gone, ...array_keys($pressed)]);
    }

    /**
     * What pushed pieces over a span.
     *
     * @param  array<int, list<array{Vec3, Vec3}>>  $pushes  by piece: place, and N·s over the span
     * @param  array<int, true>  $struck  pieces of which it is known that they were hit in it
     * @param  Vec3  $gravity  m/s², in the prop's axes
     * @param  \Closure(int): Vec3  $spin  rad/s with which the body of a piece turns, in the prop's axes
     * @return array{bool, array<int, Vec3>} whether anything broke, and N·s that came as hits, by piece
     */
    public function bear(array $pushes, array $struck, float $seconds, Vec3 $gravity, \Closure $spin): array
    {
        $hits = [];
        $left = min(1.0, $seconds / self::STEADY);
        foreach ($pushes + $this->steady as $piece => $_) {
            $sum = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
            foreach (isset($struck[$piece]) ? [] : $pushes[$piece] ?? [] as [$at, $impulse]) {
                $moment = $at->minus($this->middle[$piece])->cross($impulse);
                foreach ([$impulse->x, $impulse->y, $impulse->z, $moment->x, $moment->y, $moment->z] as $k => $v) {
                    $sum[$k] += $v;
                }
            }
            $steady = $this->steady[$piece] ?? [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
            $more = new Vec3($sum[0] - $seconds * $steady[0], $sum[1] - $seconds * $steady[1], $sum[2] - $seconds * $steady[2]);
            if ($more->length() > self::HIT * $this->mass[$piece] && $more->dot(new Vec3($sum[0], $sum[1], $sum[2])) > 0.0) {
                $hits[] = [$piece, $this->middle[$piece], $more];

                continue;
            }
            foreach ($sum as $k => $v) {
                $steady[$k] += $left * ($v / $seconds - $steady[$k]);
            }
            // What has died away is none, so that nothing is looked at for ever.
            if (max(array_map(abs(...), $steady)) > 1e-6 * $this->mass[$piece]) {
                $this->steady[$piece] = $steady;
            } else {
                unset($this->steady[$piece]);
            }
        }
        $broke = $hits !== [] && $this->hit($hits);

        return [$this->weigh($gravity, $spin) || $broke, array_column($hits, 2, 0)];
    }

    /** Breaks what loads that stay are too much for, one after the other. */
    private function weigh(Vec3 $gravity, \Closure $spin): bool
    {
        $broke = false;
        for ($round = 0; $round < self::FALLS; $round++) {
            $over = [];
            foreach ($this->groups() as $group) {
                array_push($over, ...$this->over($group, $gravity, $spin));
            }
            if ($over === []) {
                break;
            }
            $broke = $this->break($over);
        }

        return $broke;
    }

    /**
     * @param  non-empty-list<int>  $group
     * @param  \Closure(int): Vec3  $spin
     * @return list<int> bonds that break first
     */
    private function over(array $group, Vec3 $gravity, \Closure $spin): array
    {
        if (count($group) < 2) {
            return [];
        }
        $cluster = $this->cluster($group);
        if (count($cluster->fixed) === count($group)) {
            return [];
        }
        if ($cluster->fixed !== [] && ($this->found[$group[0]][2] ?? null) == $gravity && array_intersect_key($this->steady, array_flip($group)) === []) {
            return [];
        }
        $loads = [];
        foreach ($group as $piece) {
            [$x, $y, $z, $p, $q, $r] = $this->steady[$piece] ?? [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
            $cluster->add($piece, new Vec3($x, $y, $z), new Vec3($p, $q, $r));
            if ($cluster->fixed !== []) {
                $cluster->add($piece, $gravity->times($this->mass[$piece]), Vec3::zero());
            }
        }
        $cluster->balance($spin($group[0]));
        foreach ($group as $piece) {
            array_push($loads, ...$cluster->loads[$piece]);
        }
        [$strain, $for] = $this->found[$group[0]] ?? [0.0, [], null];
        if (count($for) !== count($loads)) {
            [$strain, $for] = [0.0, array_fill(0, count($loads), 0.0)];
        }
        if ($strain + $this->most($group, $loads, $for) < 1.0) {
            return [];
        }
        $strains = [];
        foreach (BondLoads::of($cluster, $this->bonds, $this->mortar->modulus, within: self::WITHIN) as $bond => [$force, $moment]) {
            if ($this->mayBreak($bond)) {
                $strains[$bond] = $this->strain($bond, $this->bonds->stress($bond, $force, $moment));
            }
        }
        $most = $strains === [] ? 0.0 : max($strains);
        if ($most < 1.0) {
            $this->found[$group[0]] = [$most, $loads, array_intersect_key($this->steady, array_flip($group)) === [] ? $gravity : null];

            return [];
        }
        unset($this->found[$group[0]]);

        return array_keys(array_filter($strains, static fn (float $s): bool => $s >= 1.0 && $s >= self::TOGETHER * $most));
    }

    /**
     * No more strain than that can come of what loads differ by: all of it on the weakest bond, by the longest arm.
     *
     * @param  non-empty-list<int>  $group
     * @param  list<float>  $loads
     * @param  list<float>  $for
     */
    private function most(array $group, array $loads, array $for): float
    {
        $force = $moment = 0.0;
        for ($i = 0, $n = count($loads); $i < $n; $i += 6) {
            $force += abs($loads[$i] - $for[$i]) + abs($loads[$i + 1] - $for[$i + 1]) + abs($loads[$i + 2] - $for[$i + 2]);
            $moment += abs($loads[$i + 3] - $for[$i + 3]) + abs($loads[$i + 4] - $for[$i + 4]) + abs($loads[$i + 5] - $for[$i + 5]);
        }
        if ($force + $moment <= 0.0) {
            return 0.0;
        }
        [$byForce, $byMoment] = $this->weakest[$group[0]] ??= $this->weakest($group);

        // Loads in balance pass any section by half at most.
        return 0.5 * ($force * $byForce + $moment * $byMoment);
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

    private function share(int $bond): float
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
            $changed[$this->bonds->one[$bond]] = true;
        }
        foreach ($this->groups() as $group) {
            if (array_intersect_key($changed, array_flip($group)) !== []) {
                unset($this->found[$group[0]]);
            }
        }
        $this->groups = null;
        $this->weakest = [];

        return true;
    }

    /** @return int bonds that are broken */
    public function broken(): int
    {
        return count($this->bonds->broken);
    }

    public function pack(PackWriter $out): void
    {
        $out->small(array_keys($this->let));
        $out->small(array_keys($this->bonds->broken));
        $out->small(array_keys($this->steady));
        $out->floats(array_merge(...array_values($this->steady)));
        $out->floats([$this->amount, ...$this->shares]);
        $out->small(array_keys($this->found));
        foreach ($this->found as [$strain, $loads, $gravity]) {
            $out->floats([$strain, ...$loads]);
            $out->floats($gravity?->toArray() ?? []);
        }
    }

    public function unpack(PackReader $in): void
    {
        $this->let = array_fill_keys($in->small(), true);
        $this->bonds->broken = array_fill_keys($in->small(), true);
        $steady = $in->small();
        $this->steady = array_combine($steady, array_chunk($in->floats(), 6));
        $this->shares = $in->floats();
        $this->amount = (float) array_shift($this->shares);
        $this->found = [];
        foreach ($in->small() as $first) {
            $loads = $in->floats();
            $gravity = $in->floats();
            $this->found[$first] = [(float) array_shift($loads), $loads, $gravity === [] ? null : Vec3::of($gravity)];
        }
        $this->groups = null;
    }
}
