<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Motion\Body;
use YardBreak\Core\Motion\Cast;
use YardBreak\Core\Motion\Figures;
use YardBreak\Core\Motion\FrameWriter;
use YardBreak\Core\Motion\Member;
use YardBreak\Core\Motion\Moment;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\Push\Sent;
use YardBreak\Core\Motion\Surroundings;
use YardBreak\Core\Motion\Touch;
use YardBreak\Core\Motion\Trail;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Rigid\Debris\Debris;
use YardBreak\Core\Rigid\Debris\Tending;
use YardBreak\Core\Rigid\Mortar\Bonded;
use YardBreak\Core\Rigid\Mortar\Mortar;
use YardBreak\Core\Rigid\Mortar\Mortars;
use YardBreak\Core\Rigid\Mortar\OpenFaces;
use YardBreak\Core\Rigid\Mortar\Push;
use YardBreak\Core\Timing\PointInTime;
use YardBreak\Core\Timing\Values;

/** Moves pieces as rigid bodies; what is fixed, keyed or held stands in their way. */
final class RigidMover implements Mover, StepListener
{
    private const STATE = 'RIGD';

    private const STATE_VERSION = 8;

    /** What collides of a piece keyed to nothing keeps this share of its size, far too small to hit anything. */
    private const LEAST_SIZE = 1e-3;

    /** m/s from which a touch is a hit on what mortar holds together. */
    private const HIT_FROM = 0.1;

    /** m/s or rad/s from which a start may be what drove a piece away. */
    private const FAST = 300.0;

    private readonly World $world;

    /** @var list<list<int>> body of each piece, by prop */
    private array $bodies = [];

    /** @var list<list<list<int>>> colliders of each piece, by prop */
    private array $colliders = [];

    /** @var array<int, Clumps> by prop whose pieces may move together */
    private array $clumps = [];

    /** @var array<int, Bonded> by prop whose pieces mortar holds together */
    private array $bonded = [];

    /** @var array<int, array<int, true>> pieces that are being hit, by prop */
    private array $struck = [];

    /** @var array<int, true> props whose pieces move as one until they are let go */
    private array $wholes = [];

    /** @var list<array{int, int}> number of its prop, and piece, by collider */
    private array $owner = [];

    /** @var array<int, array{int, int}> likewise by body, one of those that move as it */
    private array $pieceOf = [];

    /** @var array<int, array{float, float}> friction and bounce, by prop */
    private array $surfaces = [];

    /** @var array<int, Vec3> where each prop was at first whose pieces are let go */
    private array $homes = [];

    /** @var list<list<bool>> whether each piece follows its prop, by prop */
    private array $held = [];

    /** @var array<int, list<float>> share of its full size each piece has, by prop whose size is keyed */
    private array $scales = [];

    /** @var list<float> kg/m³, by prop */
    private array $density = [];

    /** @var array<int, Sail> by body that one piece moves as, as far as the air has taken hold of it */
    private array $sails = [];

    /** @var array<int, array{int, Sail}> by body that several pieces move as: how many did as its sail was made, and that */
    private array $together = [];

    private readonly Blown $blown;

    private readonly Tending $tending;

    /** @var array<int, list<OpenFaces>> what the wind finds of each piece that mortar holds, by prop */
    private array $open = [];

    /** @var \Closure(int): list<Shard> pieces of a prop, with their surfaces */
    private readonly \Closure $shards;

    private readonly Trail $trail;

    /** @var array<int, list<float>> share of the prop's density that each piece has, by prop whose pieces are let go */
    private array $densities = [];

    /** @var array<int, list<float>> likewise of its friction */
    private array $frictions = [];

    private Moment $at;

    /** s a frame lasts on the clock. */
    private readonly float $frameTime;

    /** Of a frame, that it moves on by. */
    private float $share = 1.0;

    /** @var list<list<Solid>> pieces of each prop */
    private readonly array $solids;

    /** @var array{int, int} contact searches a frame, sub-steps after each */
    private readonly array $steps;

    private function __construct(Cast $cast, Moment $start, private readonly Surroundings $around)
    {
        $this->at = $start;
        $this->frameTime = $start->frameTime;
        [$members, $this->steps, $ground] = [$cast->members, $cast->steps, $cast->ground];
        $this->solids = array_map($this->weighed(...), $cast->members, $cast->solids);
        $this->world = new World;
        $this->world->ground = $ground;
        $this->world->clock = $around->clock();
        $this->blown = new Blown;
        $this->tending = new Tending($this->world);
        $this->shards = $cast->shards;
        $this->trail = new Trail;
        $loose = [];
        foreach ($members as $k => $member) {
            $this->bodies[] = $this->colliders[] = $this->held[] = [];
            $this->density[] = $member->density;
            $this->add($member, $this->solids[$k], $cast->joints, $start);
            if (self::settingsOf($member) !== null) {
                array_push($loose, ...array_merge(...array_map(static fn (Solid $s): array => $s->hulls, $cast->solids[$k])));
            }
        }
        $this->world->measure($loose);
        $this->world->forgiveOverlaps();
        array_map($this->conduct(...), $members);
        $this->meet($start->frame);
        foreach ($members as $k => $member) {
            if ($around->hearsHits($k)) {
                $this->world->loud[$k] = Touch::HIT;
            }
            if ($around->waits($k)) {
                foreach (isset($this->wholes[$k]) ? array_keys($this->clumps[$k]->all()) : $this->bodies[$k] as $body) {
                    $this->world->waiting[$body] = true;
                }
            }
        }
    }

    public static function label(): string
    {
        return 'Free';
    }

    public static function meaning(): string
    {
        return 'Moves by physics once released';
    }

    public static function options(): array
    {
        return [
            new Option(
                'held',
                'Until released',
                'Whether its pieces stay where they are until released, or move as one.',
                Choice::class,
                'still',
                choices: ['still', 'whole'],
                ofPieces: true,
            ),
            ...Mortar::options(),
            new Option(
                'clump', 'Pieces in a clump', 'About so many still hang together once let go; 1 for each by itself.', Whole::class, 1, 1, 1000,
                with: 'mortar='.Mortars::NONE, ofPieces: true,
            ),
            new Option(
                'firm',
                'Clumps stand a blow of',
                'One that is hit faster than this loses the pieces round the hit.',
                Number::class,
                3.0,
                0.0,
                1000.0,
                'm/s',
                with: 'clump>1',
                ofPieces: true,
            ),
            new Option('seed', 'Seed', 'Another number lets others hang together.', Whole::class, 1, 0, 999999, with: 'clump>1|mortar='.implode('|mortar=', Mortars::holding()), ofPieces: true),
            new Option(
                'shape',
                'Collides as',
                'Parts follow hollows and bows; one hull is quicker and fills them; a ball of like volume rolls.',
                Choice::class,
                Solid::PARTS,
                choices: Solid::SHAPES,
            ),
            ...Debris::options(),
            new Option('drag', 'Air drag', 'How air takes hold of its pieces: 1 for broken ones, 0.5 for balls, 1.2 for flat ones across the wind.', Number::class, 1.0, 0.0, 10.0),
            new Option(
                'velocity',
                'Velocity',
                'What its pieces are pushed with as they are let go; over frames, what it is then.',
                PointInTime::class,
                [0.0, 0.0, 0.0],
                -10000.0,
                10000.0,
                'm/s',
            ),
            new Option('spin', 'Spin', 'How fast they turn as they are let go.', PointInTime::class, [0.0, 0.0, 0.0], -100000.0, 100000.0, '°/s'),
        ];
    }

    public static function settings(Values $values): RigidSettings
    {
        $still = $values->still();

        return new RigidSettings(
            $still['held'] === 'whole', $still['shape'], $still['clump'], $still['firm'], $still['seed'], $still['drag'], $values->point('velocity'), $values->point('spin'),
            Mortar::of($values), Debris::of($values),
        );
    }

    public static function streams(): array
    {
        return [];
    }

    public static function needsMass(): bool
    {
        return true;
    }

    public static function begin(Cast $cast, Moment $start, Surroundings $around): self
    {
        return new self($cast, $start, $around);
    }

    public function has(int $prop, int $piece): bool
    {
        return $this->carrierOf($prop, $piece) !== null || ! $this->held[$prop][$piece];
    }

    public function release(int $prop, array $pieces, Moment $at, array $sent): bool
    {
        $settings = self::settingsOf($this->around->member($prop));
        $pieces = array_values(array_filter($pieces, fn (int $piece): bool => $this->held[$prop][$piece]));
        if ($settings === null || $pieces === []) {
            return false;
        }
        if (isset($this->bonded[$prop])) {
            $this->releaseBonded($prop, $pieces, $at, $sent, $settings);

            return true;
        }
        $whole = isset($this->wholes[$prop]);
        $clumps = $this->clumps[$prop] ?? null;
        $groups = match (true) {
            $clumps !== null && $whole => $clumps->part($this->world, $pieces, $settings->clump > 1),
            $clumps !== null && ! isset($this->scales[$prop]) => $clumps->join($this->world, $pieces),
            default => array_chunk($pieces, 1),
        };
        foreach ($groups as $group) {
            $body = $this->bodyOf($prop, $group[0]);
            foreach ($group as $piece) {
                $this->held[$prop][$piece] = false;
                unset($this->world->waiting[$this->bodies[$prop][$piece]], $this->world->growth[$this->bodies[$prop][$piece]]);
            }
            unset($this->world->waiting[$body]);
            if (! $whole) {
                $this->world->letGo($body);
                $this->world->kick($body, $settings->push($at->frame), $settings->spin($at->frame));
            }
            if ($settings->debris->waits()) {
                $this->tending->released($body);
            }
            foreach (array_intersect_key($sent, array_flip($group)) as $piece => $push) {
                $this->send($prop, $piece, $push);
            }
        }
        $this->heedBlows($prop, $settings->firm);
        $this->world->forgiveOverlaps();

        return true;
    }

    /**
     * Lets pieces go that mortar holds together: what hangs on something held stays where it is.
     *
     * @param  list<int>  $pieces
     * @param  array<int, Sent>  $sent
     */
    private function releaseBonded(int $prop, array $pieces, Moment $at, array $sent, RigidSettings $settings): void
    {
        $this->bonded[$prop]->letGo($pieces);
        foreach ($this->regroup($prop) as $group) {
            if (! isset($this->wholes[$prop])) {
                $this->world->kick($this->bodyOf($prop, $group[0]), $settings->push($at->frame), $settings->spin($at->frame));
            }
            if ($settings->debris->waits()) {
                $this->tending->released($this->bodyOf($prop, $group[0]));
            }
        }
        foreach ($sent as $piece => $push) {
            if (! $this->held[$prop][$piece]) {
                $this->send($prop, $piece, $push);
            }
        }
    }

    /**
     * Lets what hangs together move as one, and what does not move apart.
     *
     * @return list<non-empty-list<int>> pieces that came free, as they hang together
     */
    private function regroup(int $prop): array
    {
        $bonded = $this->bonded[$prop];
        $freed = $parts = [];
        foreach ($bonded->groups() as $group) {
            $whole = isset($this->wholes[$prop]);
            $firm = $bonded->isFirm($group);
            if (! $firm && $this->held[$prop][$group[0]]) {
                foreach ($group as $piece) {
                    $body = $this->bodies[$prop][$piece];
                    $this->held[$prop][$piece] = false;
                    unset($this->world->waiting[$body], $this->world->growth[$body]);
                }
                $freed[] = $group;
                if (! $whole && count($group) > 1) {
                    $this->clumps[$prop]->merge($this->world, $group);
                } elseif (! $whole) {
                    $this->world->letGo($this->bodies[$prop][$group[0]]);
                }
            }
            if ($whole || ! $firm) {
                $parts[$this->bodyOf($prop, $group[0])][] = $group;
            }
        }
        foreach ($parts as $body => $groups) {
            if (count($groups) > 1) {
                $this->clumps[$prop]->divide($this->world, $body, $groups);
            }
        }
        $this->heedLoads($prop);
        $this->world->forgiveOverlaps();

        return $freed;
    }

    /** What mortar holds together wants to know of what pushes it. */
    private function heedLoads(int $prop): void
    {
        $w = $this->world;
        foreach ([...$this->bodies[$prop], ...array_keys($this->clumps[$prop]->all())] as $body) {
            unset($w->brittle[$body], $w->weighed[$body]);
        }
        foreach ($this->bonded[$prop]->groups() as $group) {
            foreach ($this->bonded[$prop]->mayPart($group) ? $group : [] as $piece) {
                $body = $this->bodyOf($prop, $piece);
                $w->brittle[$body] = self::HIT_FROM;
                $w->weighed[$body] = true;
            }
        }
    }

    /** Mortar has the strength of a moment. */
    private function strengthen(float $frame): void
    {
        foreach ($this->bonded as $prop => $bonded) {
            $mortar = self::settingsOf($this->around->member($prop))?->mortar;
            if ($mortar !== null) {
                $bonded->strengthen($mortar->amount($frame), $mortar->map === '' ? null : $this->around->weights($mortar->map, true, $frame));
            }
        }
    }

    /**
     * Touches that are hits on what mortar holds together.
     *
     * @param  list<BodyTouch>  $touches
     * @return bool whether anything came apart
     */
    private function hitBonded(array $touches): bool
    {
        $w = $this->world;
        $hits = [];
        foreach ($touches as $touch) {
            if ($touch->speed < self::HIT_FROM) {
                continue;
            }
            $bounce = max($w->colliders->bounce[$touch->collider], $touch->other < 0 ? $w->groundBounce : $w->colliders->bounce[$touch->other]);
            foreach ([[$touch->collider, -1.0], [$touch->other, 1.0]] as [$collider, $way]) {
                [$prop, $piece] = $collider < 0 ? [-1, -1] : $this->owner[$collider];
                if (! isset($this->bonded[$prop])) {
                    continue;
                }
                $impulse = is_finite($touch->impulse) ? $touch->normal->times($way * (1.0 + $bounce) * $touch->impulse) : new Vec3(INF, INF, INF);
                $hits[$prop][] = [$piece, $this->local($prop, $piece)->point($touch->at), $this->local($prop, $piece)->turn->turn($impulse)];
                $this->struck[$prop][$piece] = true;
            }
        }
        $any = false;
        foreach ($hits as $prop => $own) {
            if ($this->bonded[$prop]->hit($own)) {
                $this->regroup($prop);
                $any = true;
            }
        }

        return $any;
    }

    /** From the scene to the coordinates of its prop, as a piece lies now. */
    private function local(int $prop, int $piece): Placement
    {
        $pose = $this->pose($prop, $piece);

        return Placement::about($this->solids[$prop][$piece]->centre, $pose->at, $pose->turn, 1.0)->inverse();
    }

    /** Notes where pieces are, for frames that show moments on the way. */
    private function mark(float $seconds): void
    {
        if (! $this->around->isPaced()) {
            return;
        }
        $pieces = [];
        foreach ($this->held as $prop => $held) {
            foreach (self::settingsOf($this->around->member($prop)) === null ? [] : $held as $piece => $_) {
                $pose = $this->pose($prop, $piece);
                $pieces[$prop][$piece] = [$pose, $this->velocityOf($prop, $piece, $pose->at)];
            }
        }
        $this->trail->add($seconds, $pieces);
    }

    public function afterSpan(float $seconds): void
    {
        $this->bear($seconds);
        $this->mark($this->trail->length() + $seconds);
    }

    /** What mortar bears of what pushed over a span. */
    private function bear(float $seconds): void
    {
        if ($this->bonded === []) {
            return;
        }
        $pushes = $this->pushes();
        foreach ($this->bonded as $prop => $bonded) {
            $turn = $this->local($prop, 0)->turn;
            [$broke, $hits] = $bonded->bear(
                $pushes[$prop] ?? [], $this->struck[$prop] ?? [], $seconds, $turn->turn($this->world->gravity),
                function (int $piece) use ($prop): ?Vec3 {
                    $b = $this->bodyOf($prop, $piece);

                    return $this->world->state[$b] === World::RESTING ? null : $this->local($prop, $piece)->turn->turn(new Vec3($this->world->wx[$b], $this->world->wy[$b], $this->world->wz[$b]));
                },
                fn (): array => $this->drawn($prop, $seconds),
            );
            if (! $broke) {
                continue;
            }
            // Where it was held its prop took the hit for it.
            foreach ($this->regroup($prop) as $group) {
                foreach (array_intersect_key($hits, array_flip($group)) as $piece => $impulse) {
                    $pose = $this->pose($prop, $piece);
                    $this->world->push($this->bodyOf($prop, $piece), $pose->at, $pose->turn->turn($impulse));
                }
            }
        }
        $this->struck = [];
    }

    /**
     * What forces, and the shaking of what they hang on, do to each of the pieces that mortar holds.
     *
     * @return array<int, Vec3> N by piece, in the prop's axes
     */
    private function drawn(int $prop, float $seconds): array
    {
        $member = $this->around->member($prop);
        $pushed = $this->around->isPushed($prop);
        if (! $pushed && ! $member->place->moves()) {
            return [];
        }
        $out = $x = $y = $z = [];
        $frame = $this->at->frame;
        $pieces = array_keys($this->bodies[$prop]);
        $half = 0.5 * $this->at->frameTime;
        foreach ($pieces as $piece) {
            [$x[], $y[], $z[]] = $this->pose($prop, $piece)->at->toArray();
            $solid = $this->solids[$prop][$piece];
            if ($member->place->moves() && $this->held[$prop][$piece]) {
                $at = static fn (float $f): Vec3 => $member->place->at($f)->point($solid->centre);
                $a = $at($frame + 0.5)->plus($at($frame - 0.5))->minus($at($frame)->times(2.0))->times(1.0 / ($half * $half));
                $out[$piece] = $member->place->at($frame)->turn->inverse()->turn($a)->times(-$solid->own()->volume * $this->density[$prop]);
            }
        }
        if (! $pushed) {
            return $out;
        }
        $drag = self::settingsOf($member)->drag ?? 1.0;
        $effect = $this->around->forces($prop, $pieces, $x, $y, $z, $frame, $seconds);
        foreach ($pieces as $piece) {
            $back = $this->local($prop, $piece)->turn;
            $mass = $this->solids[$prop][$piece]->own()->volume * $this->density[$prop];
            $force = $back->turn(new Vec3($effect->ax[$piece], $effect->ay[$piece], $effect->az[$piece]))->times($mass);
            $wind = $back->turn(new Vec3($effect->ux[$piece], $effect->uy[$piece], $effect->uz[$piece]));
            if ($effect->density[$piece] > 0.0) {
                $this->open[$prop] ??= array_map(OpenFaces::of(...), ($this->shards)($prop));
                $force = $force->plus($this->open[$prop][$piece]->pressed($wind, 0.5 * $effect->density[$piece] * $drag));
            }
            $out[$piece] = ($out[$piece] ?? Vec3::zero())->plus($force);
        }

        return $out;
    }

    /** @return array<int, array<int, list<Push>>> what pushed pieces that mortar holds over the span, by prop and piece, in the prop's coordinates */
    private function pushes(): array
    {
        $w = $this->world;
        $c = $w->contacts;
        $out = [];
        $locals = [];
        foreach ($c->whole as $m => $sum) {
            $points = count($sum) - 3;
            $rub = (new Vec3($sum[$points], $sum[$points + 1], $sum[$points + 2]))->times(1.0 / $points);
            $normal = new Vec3($c->nx[$m], $c->ny[$m], $c->nz[$m]);
            foreach ([[$c->colliderA[$m], $c->b[$m], -1.0], [$c->colliderB[$m], $c->a[$m], 1.0]] as [$collider, $by, $way]) {
                [$prop, $piece] = $collider < 0 ? [-1, -1] : $this->owner[$collider];
                if (! isset($this->bonded[$prop])) {
                    continue;
                }
                $local = $locals[$prop][$piece] ??= $this->local($prop, $piece);
                $firm = $by < 0 || $w->state[$by] !== World::MOVING;
                $into = $local->turn->turn($normal->times($way));
                for ($k = $c->first[$m], $i = 0; $i < $points; $k++, $i++) {
                    // What is borne by nothing at present may be, where it touches.
                    if ($sum[$i] > 0.0 || $firm && $c->gap[$k] <= 0.0) {
                        $out[$prop][$piece][] = new Push(
                            $local->point(new Vec3($c->x[$k], $c->y[$k], $c->z[$k])), $local->turn->turn($normal->times($sum[$i])->plus($rub)->times($way)), $into, $firm,
                        );
                    }
                }
            }
        }

        return $out;
    }

    private function send(int $prop, int $piece, Sent $push): void
    {
        if ($this->carrierOf($prop, $piece) !== null) {
            $this->clumps[$prop]->send($this->world, $piece, $push->velocity, $push->spin);
        } else {
            $this->world->kick($this->bodies[$prop][$piece], $push->velocity, $push->spin);
        }
    }

    /** What hangs together though it was let go wants to know of blows from a speed on. */
    private function heedBlows(int $prop, float $firm): void
    {
        foreach (isset($this->clumps[$prop]) && ! isset($this->bonded[$prop]) ? $this->clumps[$prop]->all() : [] as $body => $pieces) {
            if (! $this->held[$prop][$pieces[0]]) {
                $this->world->brittle[$body] = $firm;
            }
        }
    }

    /** Searches of a frame are its own business: what it knows nothing of must not come between them. */
    public function exchanges(Moment $from): int
    {
        return 1;
    }

    public function advance(Moment $from, Moment $to, Surroundings $around): void
    {
        $this->at = $from;
        $this->share = $to->frame - $from->frame;
        // As much of a frame as passes on the clock.
        $passes = $this->share * $from->frameTime / $this->frameTime;
        if ($from->frame <= $around->since()) {
            $this->trail->begin();
            $this->mark(0.0);
        }
        [$all, $steps] = $this->steps;
        $searches = max(1, (int) ceil($all * $passes - 1e-9));
        $this->world->step($from->secondsTo($to), $searches, (int) ceil($all * $steps * $passes / $searches - 1e-9), $this);
        $this->at = $to;
        $this->throwIfRunAway();
    }

    /** What is keyed reaches the frame as fast as its keys brought it there; what is let go now keeps that. */
    public function arrive(Moment $at, Surroundings $around): void
    {
        $this->at = $at;
        [$searches, $steps] = $this->steps;
        $this->drive($at->frame, -1.0 / ($searches * $steps));
    }

    public function beforeSearch(float $done, float $ahead, float $seconds): void
    {
        $this->around->stillAtWork();
        $frame = $this->at->frame + $done * $this->share;
        $ahead *= $this->share;
        // What changes in between is taken as it is half way.
        $this->meet($frame + 0.5 * $ahead);
        $this->strengthen($frame + 0.5 * $ahead);
        $this->drive($frame, $ahead);
        $this->tend($frame, $seconds);
        foreach (array_keys($this->bodies) as $prop) {
            $this->blow($prop, $frame + 0.5 * $ahead, $seconds);
        }
    }

    /**
     * What pieces let go do beside falling.
     *
     * @param  float  $seconds  until the next search
     */
    private function tend(float $frame, float $seconds): void
    {
        foreach ($this->held as $prop => $held) {
            $debris = self::settingsOf($this->around->member($prop))?->debris;
            if ($debris === null || ! $debris->waits() && ! $debris->lets()) {
                continue;
            }
            $weights = $debris->goneMap === '' ? null : $this->around->weights($debris->goneMap, true, $frame);
            $bodies = [];
            foreach ($held as $piece => $isHeld) {
                if (! $isHeld) {
                    $body = $this->bodyOf($prop, $piece);
                    $bodies[$body] = max($bodies[$body] ?? 0.0, $weights[$piece] ?? 0.0);
                }
            }
            foreach ($bodies as $body => $weight) {
                $this->tending->arm($debris, $body);
                if ($debris->lets()) {
                    $this->tending->mayGo($debris, $body, $this->homes[$prop], $weight, $seconds);
                }
            }
        }
    }

    /**
     * Pieces of a prop as heavy as they are by their size.
     *
     * @param  list<Solid>  $solids
     * @return list<Solid>
     */
    private function weighed(Member $member, array $solids): array
    {
        $debris = self::settingsOf($member)?->debris;
        if ($debris === null || $solids === []) {
            return $solids;
        }
        $volumes = array_map(static fn (Solid $s): float => $s->own()->volume, $solids);
        $this->densities[$member->number] = Debris::bySize($volumes, $debris->lightest);
        $this->frictions[$member->number] = Debris::bySize($volumes, $debris->smoothest);

        return $debris->lightest === 1.0 ? $solids : array_map(static fn (Solid $s, float $share): Solid => $s->weighing($share), $solids, $this->densities[$member->number]);
    }

    /** Tells the world how the pieces of a prop go. */
    private function conduct(Member $member): void
    {
        $prop = $member->number;
        $w = $this->world;
        foreach ($member->passes as $other) {
            $w->encounters->letPass($prop, $other);
        }
        if ($member->waves()) {
            $w->encounters->gone += array_fill_keys($this->bodies[$prop], true);
        }
        $settings = self::settingsOf($member);
        if ($settings === null) {
            return;
        }
        $debris = $settings->debris;
        $this->homes[$prop] = $member->place->at($this->at->frame)->position;
        if ($debris->meets !== Debris::EVERYTHING) {
            $w->encounters->keepApart($prop);
        }
        if ($debris->meets === Debris::STANDING) {
            $w->encounters->leaveAlone($prop);
        }
        if ($debris->limit > 0.0) {
            $w->limits[$prop] = $debris->limit;
        }
        if ($debris->apart > 0.0) {
            $w->apart[$prop] = $debris->apart;
        }
        if ($debris->rolling > 0.0) {
            $w->rolling[$prop] = $debris->rolling;
        }
        foreach ([...$this->bodies[$prop], ...isset($this->clumps[$prop]) ? array_keys($this->clumps[$prop]->all()) : []] as $body) {
            $w->restsBy($body, $debris->restAfter, $debris->restWithin);
        }
    }

    /** What forces do to the pieces of a prop that are let go, or that move as one. */
    private function blow(int $prop, float $frame, float $seconds): void
    {
        $settings = self::settingsOf($this->around->member($prop));
        if ($settings === null || ! $this->around->isPushed($prop)) {
            return;
        }
        $w = $this->world;
        $bodies = $pieces = $x = $y = $z = $sails = $sizes = $frictions = [];
        foreach ($this->held[$prop] as $piece => $held) {
            $body = $this->bodyOf($prop, $piece);
            if ($held && $this->carrierOf($prop, $piece) === null || isset($bodies[$body]) || $this->tending->isGoing($body)) {
                continue;
            }
            $bodies[$body] = $body;
            $pieces[] = $piece;
            // Where it is half way.
            $half = $w->state[$body] === World::MOVING ? 0.5 * $seconds : 0.0;
            $x[] = $w->px[$body] + $half * $w->vx[$body];
            $y[] = $w->py[$body] + $half * $w->vy[$body];
            $z[] = $w->pz[$body] + $half * $w->vz[$body];
        }
        if ($bodies === []) {
            return;
        }
        $effect = $this->around->forces($prop, $pieces, $x, $y, $z, $frame, $seconds);
        foreach ($pieces as $piece) {
            $sails[] = $this->sailOf($prop, $piece);
            $sizes[] = $this->scales[$prop][$piece] ?? 1.0;
            $collider = $this->colliders[$prop][$piece][0];
            $frictions[] = $w->colliders->friction[$collider];
        }
        $this->blown->by($w, $effect, array_values($bodies), $sails, $sizes, $settings->drag, $frictions, array_map(fn (int $piece): float => $this->density[$prop] * $this->densities[$prop][$piece], $pieces), $seconds);
    }

    /** What the air takes hold of, of the body a piece moves as. */
    private function sailOf(int $prop, int $piece): Sail
    {
        $carrier = $this->carrierOf($prop, $piece);
        if ($carrier === null) {
            return $this->sails[$this->bodies[$prop][$piece]] ??= Sail::of(array_map(static fn (Hull $h): array => [$h, Vec3::zero()], $this->solids[$prop][$piece]->hulls));
        }
        // Of what hangs together now: it falls apart bit by bit.
        $count = count($this->clumps[$prop]->all()[$carrier]);
        if (($this->together[$carrier][0] ?? 0) !== $count) {
            $this->together[$carrier] = [$count, Sail::of($this->clumps[$prop]->hullsOf($carrier))];
        }

        return $this->together[$carrier][1];
    }

    public function afterSearch(float $done): bool
    {
        $any = false;
        foreach ($this->world->touches() as $touch) {
            [$prop, $piece] = $this->owner[$touch->collider];
            [$other, $otherPiece] = $touch->other < 0 ? [-1, -1] : $this->owner[$touch->other];
            if ($other !== $prop) {
                $met = new Touch(
                    $prop,
                    $piece,
                    $other,
                    $otherPiece,
                    $touch->at,
                    $touch->speed,
                    $this->at->frame + $done * $this->share + $touch->in / $this->at->frameTime,
                    $touch->impulse,
                    $this->carrierOf($prop, $piece) !== null,
                    $other >= 0 && $this->carrierOf($other, $otherPiece) !== null,
                );
                $any = $this->around->touched($met) || $any;
                if ($other >= 0) {
                    $any = $this->around->touched($met->turned()) || $any;
                }
                if (! $this->around->heeds($prop, $other)) {
                    $this->world->settleTouch($prop, $other);
                }
            }
            $any = $this->knock($prop, $piece, $touch->speed) || $any;
            $any = $other >= 0 && $this->knock($other, $otherPiece, $touch->speed) || $any;
        }

        return $this->hitBonded($this->world->touches()) || $any;
    }

    /** A blow on what hangs together though it was let go. */
    private function knock(int $prop, int $piece, float $speed): bool
    {
        $body = $this->carrierOf($prop, $piece);
        if ($body === null || isset($this->bonded[$prop]) || $speed < ($this->world->brittle[$body] ?? INF)) {
            return false;
        }
        $firm = $this->world->brittle[$body];
        $this->clumps[$prop]->knock($this->world, $piece);
        $this->heedBlows($prop, $firm);

        return true;
    }

    public function pose(int $prop, int $piece, float $back = 0.0): Pose
    {
        $w = $this->world;
        if ($back > 0.0) {
            return $this->trail->at($this->trail->length() - $back, $prop, $piece, $w->gravity) ?? $this->pose($prop, $piece);
        }
        $carrier = $this->carrierOf($prop, $piece);
        $body = $carrier ?? $this->bodies[$prop][$piece];

        return new Pose(
            $carrier !== null ? $this->clumps[$prop]->placeOf($w, $piece) : new Vec3($w->px[$body], $w->py[$body], $w->pz[$body]),
            new Quaternion($w->qx[$body], $w->qy[$body], $w->qz[$body], $w->qw[$body]),
            ($this->scales[$prop][$piece] ?? 1.0) * $this->tending->share($body),
            match ($this->held[$prop][$piece] ? World::STILL : $w->state[$body]) {
                World::MOVING => Pose::MOVING,
                World::RESTING, World::ABSENT => Pose::RESTING,
                default => Pose::HELD,
            },
        );
    }

    public function velocityOf(int $prop, int $piece, Vec3 $at): Vec3
    {
        return $this->body($prop, $piece)->velocityAt($at);
    }

    public function body(int $prop, int $piece): Body
    {
        $w = $this->world;
        $b = $this->bodyOf($prop, $piece);

        return new Body(
            $w->mass[$b], $w->inertia[$b], new Vec3($w->px[$b], $w->py[$b], $w->pz[$b]), new Quaternion($w->qx[$b], $w->qy[$b], $w->qz[$b], $w->qw[$b]),
            new Vec3($w->vx[$b], $w->vy[$b], $w->vz[$b]), new Vec3($w->wx[$b], $w->wy[$b], $w->wz[$b]), $w->growth[$b][0] ?? 0.0,
        );
    }

    public function push(int $prop, int $piece, Vec3 $at, Vec3 $impulse): void
    {
        $this->world->push($this->bodyOf($prop, $piece), $at, $impulse);
    }

    /** The body a piece moves as, alone or with others. */
    private function bodyOf(int $prop, int $piece): int
    {
        return $this->carrierOf($prop, $piece) ?? $this->bodies[$prop][$piece];
    }

    private function carrierOf(int $prop, int $piece): ?int
    {
        return isset($this->clumps[$prop]) ? $this->clumps[$prop]->carrierOf($piece) : null;
    }

    public function write(FrameWriter $frame): void
    {
    }

    public function settle(int $one, int $other): void
    {
        $this->world->settleTouch($one, $other);
    }

    public function openings(int $prop): array
    {
        return isset($this->bonded[$prop]) ? $this->bonded[$prop]->opened() : [];
    }

    public function figures(): Figures
    {
        $moving = $resting = 0;
        $cracks = array_filter(array_map(static fn (Bonded $b): array => $b->cracks(), $this->bonded));
        foreach ($this->held as $prop => $held) {
            foreach ($held as $piece => $isHeld) {
                $state = $isHeld ? World::STILL : $this->world->state[$this->bodyOf($prop, $piece)];
                $moving += $state === World::MOVING ? 1 : 0;
                $resting += $state === World::RESTING ? 1 : 0;
            }
        }

        $limited = count($this->world->limited);
        $this->world->limited = [];

        return new Figures(
            $moving, $resting, $this->world->energy(), $this->world->contacts->deepest(Tolerances::SLOP * $this->world->pieceSize), $this->world->spent(), $cracks,
            twitching: $this->world->twitching(), limited: $limited, gone: $this->tending->gone(),
        );
    }

    public function pack(): string
    {
        $out = new PackWriter(self::STATE, self::STATE_VERSION);
        foreach ($this->held as $held) {
            $out->flags(array_map(static fn (bool $h): int => $h ? 1 : 0, $held));
        }
        foreach ($this->clumps as $clumps) {
            $out->small(array_keys($clumps->all()));
            foreach ($clumps->all() as $pieces) {
                $out->small($pieces);
            }
        }
        foreach ($this->bonded as $bonded) {
            $bonded->pack($out);
        }
        $out->small(array_keys($this->scales));
        foreach ($this->scales as $scales) {
            $out->floats($scales);
        }
        // What holds less than a moment ago wakes what rests, so how it held counts.
        $surfaces = array_map(fn (int $prop): array => $this->surfaces[$prop] ?? [0.0, 0.0], array_keys($this->colliders));
        $out->floats([$this->world->groundFriction, ...array_column($surfaces, 0)]);
        $out->floats(array_column($surfaces, 1));
        $this->blown->pack($out);
        $this->tending->pack($out);
        $this->world->pack($out);

        return $out->bytes();
    }

    public function unpack(string $state): void
    {
        $in = new PackReader($state, self::STATE, self::STATE_VERSION);
        foreach ($this->held as $prop => $held) {
            $this->held[$prop] = array_map(static fn (int $h): bool => $h === 1, $in->flags());
        }
        $this->world->brittle = [];
        foreach ($this->clumps as $prop => $clumps) {
            $pieces = [];
            foreach ($in->small() as $body) {
                $pieces[$body] = $in->small();
            }
            $clumps->restore($this->world, $pieces);
            $this->heedBlows($prop, self::settingsOf($this->around->member($prop))->firm ?? INF);
        }
        foreach ($this->bonded as $prop => $bonded) {
            $bonded->unpack($in);
            $this->heedLoads($prop);
        }
        foreach ($in->small() as $prop) {
            foreach ($in->floats() as $piece => $scale) {
                $this->size($prop, $piece, $scale);
            }
        }
        $frictions = $in->floats();
        $this->world->groundFriction = (float) array_shift($frictions);
        foreach ($in->floats() as $prop => $bounce) {
            $this->surface($prop, $frictions[$prop], $bounce);
        }
        $this->blown->unpack($in);
        $this->tending->unpack($in);
        $this->world->unpack($in);
        $in->end();
    }

    /**
     * @param  list<Solid>  $solids
     * @param  \Closure(int): (list<Joint>|null)  $joints
     */
    private function add(Member $member, array $solids, \Closure $joints, Moment $start): void
    {
        $prop = $member->number;
        $place = $member->place->at($start->frame);
        $settings = self::settingsOf($member);
        foreach ($solids as $solid) {
            if ($settings !== null && $solid->mass->volume <= 0.0) {
                throw Problem::inMesh(
                    $member->name.' encloses no volume, so it has no mass and cannot move freely.',
                    'Repair it on the Props stage, or make it fixed.',
                );
            }
        }
        foreach ($solids as $piece => $solid) {
            $own = $this->addBody($member, $place, $solid->own(), $piece);
            $colliders = array_map(fn (Hull $hull): int => $this->world->addCollider($own, $hull, Vec3::zero(), 0.0, 0.0, $prop), $solid->hulls);
            if ($solid->surface !== null) {
                $colliders[] = $this->world->addSurface($own, $solid->surface, 0.0, 0.0, $prop);
            }
            array_push($this->owner, ...array_fill(0, count($colliders), [$prop, $piece]));
            $this->bodies[$prop][] = $own;
            $this->colliders[$prop][] = $colliders;
            $this->held[$prop][] = true;
        }
        $together = $settings !== null && $member->ledBy === null && count($solids) > 1;
        $own = $together && $settings->mortar !== null && $member->place->size->isConstant() ? $joints($prop) ?? [] : [];
        if ($own !== []) {
            $this->bonded[$prop] = new Bonded($own, $solids, $member->density, $settings->mortar, $settings->whole);
        }
        if ($together && ($settings->whole || $settings->clump > 1 || $own !== [])) {
            $this->clumps[$prop] = new Clumps(
                $solids, $this->bodies[$prop], $this->colliders[$prop], $member->density,
                static fn (): ClumpPlan => self::plan(count($solids), $joints($prop), $settings),
            );
        }
        if ($together && $settings->whole) {
            $this->wholes[$prop] = true;
            $whole = $this->addBody($member, $place, Solid::together($solids), 0);
            $this->clumps[$prop]->gather($this->world, $whole);
            $this->world->release($whole, $settings->push($start->frame), $settings->spin($start->frame));
        } elseif (! $member->place->size->isConstant()) {
            foreach ($solids as $piece => $_) {
                $this->size($prop, $piece, $place->size);
            }
        }
    }

    /** @param  list<Joint>|null  $joints */
    private static function plan(int $pieces, ?array $joints, RigidSettings $settings): ClumpPlan
    {
        return ClumpPlan::of($pieces, $joints === null ? null : Joint::ways($joints), $settings->clump, $settings->seed);
    }

    /** Null where its pieces are never let go to this mover. */
    private static function settingsOf(Member $member): ?RigidSettings
    {
        return $member->settings instanceof RigidSettings ? $member->settings : null;
    }

    private function addBody(Member $member, Placement $place, MassProperties $mass, int $piece): int
    {
        $d = $member->density;
        $body = $this->world->addBody(
            World::STILL,
            $place->point($mass->centroid),
            $place->turn,
            $mass->volume * $d,
            array_map(static fn (float $v): float => $v * $d, $mass->inertia),
            $member->number,
        );
        $this->pieceOf[$body] = [$member->number, $piece];

        return $body;
    }

    /** Takes over what the world and the materials are at a moment. */
    private function meet(float $frame): void
    {
        $this->world->pull($this->around->gravity($frame));
        $friction = $this->around->groundFriction($frame);
        $loose = $friction < $this->world->groundFriction;
        $this->world->groundFriction = $friction;
        $this->world->groundBounce = $this->around->groundBounce($frame);
        foreach (array_keys($this->colliders) as $prop) {
            $member = $this->around->member($prop);
            $loose = $this->surface($prop, $member->friction->at($frame), $member->bounce->at($frame)) || $loose;
        }
        if ($loose) {
            $this->world->loosen();
        }
    }

    /**
     * Gives a prop's pieces their friction and bounce.
     *
     * @return bool whether they hold less than before
     */
    private function surface(int $prop, float $friction, float $bounce): bool
    {
        $set = $this->world->colliders;
        if (($this->surfaces[$prop] ?? [0.0, 0.0]) === [$friction, $bounce]) {
            return false;
        }
        $less = $friction < ($this->surfaces[$prop][0] ?? 0.0);
        $this->surfaces[$prop] = [$friction, $bounce];
        $shares = $this->frictions[$prop] ?? [];
        foreach ($this->colliders[$prop] as $piece => $colliders) {
            foreach ($colliders as $collider) {
                $set->surface($collider, $friction * ($shares[$piece] ?? 1.0), $bounce);
            }
        }

        return $less;
    }

    /**
     * Puts what is keyed where its keys say, moving towards where it will be, or from where it was.
     *
     * @param  float  $ahead  frames until then; below zero for before
     */
    private function drive(float $frame, float $ahead): void
    {
        $w = $this->world;
        $span = $ahead * $this->at->frameTime;
        foreach ($this->bodies as $prop => $bodies) {
            $member = $this->around->member($prop);
            $led = $this->around->ledAt($prop, $frame);
            if ($led !== null) {
                $this->driveEach($prop, $led, $this->around->ledAt($prop, $frame + $ahead) ?? $led, $span);

                continue;
            }
            if (isset($this->wholes[$prop]) || ! $member->place->moves()) {
                continue;
            }
            $now = $member->place->at($frame);
            $next = $member->place->at($frame + $ahead);
            $spin = $member->place->rotation($frame, $ahead)->times(1.0 / $span);
            $sized = ! $member->place->size->isConstant();
            // What does not move for a while is like what never does, so that a later key changes nothing before it.
            $moves = $now != $next;
            foreach ($bodies as $piece => $body) {
                if (! $this->held[$prop][$piece]) {
                    continue;
                }
                $solid = $this->solids[$prop][$piece];
                $here = $now->point($solid->centre);
                $w->state[$body] = $moves || ! $w->isAt($body, $here, $now->turn) ? World::KEYED : World::STILL;
                $w->place($body, $here, $now->turn);
                [$w->vx[$body], $w->vy[$body], $w->vz[$body]] = $next->point($solid->centre)->minus($here)->times(1.0 / $span)->toArray();
                [$w->wx[$body], $w->wy[$body], $w->wz[$body]] = $spin->toArray();
                if ($sized) {
                    $this->grow($prop, $piece, $body, $here, $now->size, $next->size, $span);
                }
            }
        }
    }

    /**
     * Puts pieces that are led where they are, each moving towards where it will be.
     *
     * @param  array{list<float>, list<float>}  $led  as of `Leads::ledAt`, now
     * @param  array{list<float>, list<float>}  $then
     * @param  float  $span  seconds until then; below zero for before
     */
    private function driveEach(int $prop, array $led, array $then, float $span): void
    {
        $w = $this->world;
        foreach ($this->bodies[$prop] as $piece => $body) {
            if (! $this->held[$prop][$piece]) {
                continue;
            }
            $now = Pose::of($led[0], $led[1], $piece);
            $next = Pose::of($then[0], $then[1], $piece);
            $moves = $now->at != $next->at || $now->turn != $next->turn || $now->size !== $next->size;
            $w->state[$body] = $moves || ! $w->isAt($body, $now->at, $now->turn) ? World::KEYED : World::STILL;
            $w->place($body, $now->at, $now->turn);
            [$w->vx[$body], $w->vy[$body], $w->vz[$body]] = $next->at->minus($now->at)->times(1.0 / $span)->toArray();
            [$w->wx[$body], $w->wy[$body], $w->wz[$body]] = $now->turn->rotationTo($next->turn)->times(1.0 / $span)->toArray();
            if ($now->size !== ($this->scales[$prop][$piece] ?? 1.0) || $now->size !== $next->size) {
                $this->scales[$prop] ??= array_fill(0, count($this->bodies[$prop]), 1.0);
                $this->grow($prop, $piece, $body, $now->at, $now->size, $next->size, $span);
            } else {
                unset($w->growth[$body]);
            }
        }
    }

    private function grow(int $prop, int $piece, int $body, Vec3 $centre, float $now, float $next, float $span): void
    {
        $w = $this->world;
        $this->size($prop, $piece, $now);
        unset($w->growth[$body]);
        [$now, $next] = [max(self::LEAST_SIZE, $now), max(self::LEAST_SIZE, $next)];
        if ($next !== $now) {
            // Its centre is moved already; what is left is how its surface draws away from that.
            $w->growth[$body] = [($next / $now - 1.0) / $span, $centre->x, $centre->y, $centre->z];
        }
    }

    /** Gives a piece a share of its full size. */
    private function size(int $prop, int $piece, float $scale): void
    {
        $this->scales[$prop][$piece] = $scale;
        $scale = max(self::LEAST_SIZE, $scale);
        $w = $this->world;
        $body = $this->bodies[$prop][$piece];
        $solid = $this->solids[$prop][$piece];
        $w->size[$body] = 0.0;
        foreach ($this->colliders[$prop][$piece] as $k => $collider) {
            $shape = $solid->surface ?? $solid->hulls[$k];
            $w->colliders->resize($collider, $shape, $scale);
            $w->size[$body] = max($w->size[$body], $scale * $shape->size);
        }
        $density = $this->density[$prop];
        $w->weigh(
            $body,
            $solid->own()->volume * $density * $scale ** 3,
            array_map(static fn (float $v): float => $v * $density * $scale ** 5, $solid->mass->inertia),
        );
    }

    /** @throws Problem saying which piece it is, and what most likely drove it */
    private function throwIfRunAway(): void
    {
        $w = $this->world;
        foreach ($w->state as $body => $state) {
            if ($state !== World::MOVING || is_finite($w->px[$body] + $w->py[$body] + $w->pz[$body] + $w->qw[$body])) {
                continue;
            }
            [$prop, $piece] = $this->pieceOf[$body];
            $member = $this->around->member($prop);
            $settings = self::settingsOf($member);
            $push = $settings?->push($this->at->frame)->length() ?? 0.0;
            $spin = $settings?->spin($this->at->frame)->length() ?? 0.0;
            $name = $member->name;
            throw new Problem('solver', 'The motion ran away at frame '.(int) $this->at->frame.': a piece of '.$name.' has no finite place any more.', $member->path, match (true) {
                $push > self::FAST || $spin > self::FAST => 'Lower the velocity or the spin '.$name.' starts with.',
                $this->solids[$prop][$piece]->film => 'That piece is a film, too thin to be moved: take the next seed, or break it into fewer pieces.',
                default => 'Choose the final quality, or let its pieces stand clear of what is keyed.',
            });
        }
    }
}
