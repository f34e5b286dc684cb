<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Colliders;
use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Collide\NearestSurfaces;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Dust\Dust;
use YardBreak\Core\Dust\DustMover;
use YardBreak\Core\Force\Effect;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Body;
use YardBreak\Core\Motion\Cast;
use YardBreak\Core\Motion\Figures;
use YardBreak\Core\Motion\FrameWriter;
use YardBreak\Core\Motion\Leads;
use YardBreak\Core\Motion\Member;
use YardBreak\Core\Motion\Moment;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\Push\Leaving;
use YardBreak\Core\Motion\Push\Sent;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Motion\Surroundings;
use YardBreak\Core\Motion\Touch;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\Shot\BlendRun;
use YardBreak\Core\Shot\DriftRun;
use YardBreak\Core\Shot\ForceSpec;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\MovedPieces;
use YardBreak\Core\Shot\PropParts;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\SceneObstacles;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Timing\Cues;

/**
 * Conducts a shot frame by frame: movers move on, cues that were reached are anchored, what is due is let go, the frame is
 * written. Its state can be packed after any frame and taken up again with the same result to the last bit.
 */
final class Baker implements MovedPieces, Surroundings
{
    private const STATE = 'BAKE';

    private const STATE_VERSION = 5;

    /** Frames of the clock within which a moment is taken for another. */
    private const SAME = 1e-7;

    /** Moments of drifting props that are kept. */
    private const DRIFTS_KEPT = 8;

    /** Frames to either side of a moment by which the speed of what keys move is told. */
    private const HALF = 0.05;

    /** With all of its cues that are known beforehand. */
    private readonly ShotSpec $begun;

    private ShotSpec $shot;

    /** The moment that was reached, between two frames too. */
    private Moment $now;

    /** @var array<string, array{Colliders, float|null}> by whether the ground is one of them and numbers of their props: and the frame they were brought to */
    private array $seen = [];

    private int $frame;

    /** Whether physics is between two moments it goes by. */
    private bool $onItsWay = false;

    /** The moment of the scene that physics has come to: frames of the clock since the first. */
    private float $scene = 0.0;

    /** Seconds a frame lasts for physics, on the way it went last. */
    private float $frameTime;

    /** Seconds by which the frame lies before the moment physics has come to. */
    private float $back = 0.0;

    /** State before the step of physics that was taken last, where frames show moments within it. */
    private ?string $before = null;

    /** A moment of the scene at which physics must stop, for something is let go there. */
    private float $stop = INF;

    /** What movers told since it was written last. */
    private ?Figures $told = null;

    /** @var list<Member> */
    private array $members;

    private readonly Holds $holds;

    /** Null where nothing of the shot goes by a weight map. */
    private readonly ?MapRun $maps;

    /** @var array<int, array{Vec3, Vec3}> by prop: where it was last touched so that something was let go, and how fast what touched it moved there */
    private array $struck = [];

    /** @var array<string, array{list<float>, list<float>}> by prop and frame */
    private array $drifted = [];

    private ?BlendRun $blends = null;

    /** @var array<string, array<int, list<float>>> weights on the points of pieces, by map and frame */
    private array $onSurface = [];

    /** Where the step began that is being taken, as a frame. */
    private float $since = 0.0;

    /** @var array<int, list<Vec3>> by prop: which way the outer surface of each piece looks, in its own coordinates */
    private array $outwards = [];

    /** @var list<Mover> in the order they move, and in which they are asked who has a piece */
    private array $movers = [];

    /** @var list<list<Vec3>> by prop: middles of its pieces, in its own coordinates */
    private readonly array $middles;

    /** @var array<int, array{Placement, list<Pose>}> by prop: where it stood last, and where its pieces did that follow it */
    private array $standing = [];

    /** @var array<int, list<Touch>> hits of the frame being computed, by prop of which they are heard */
    private array $hits = [];

    /** @var array<string, true> pairs of props whose first contact was marked */
    private array $met = [];

    /** @var list<array{prop: string, other: string, speed: float, at: array{float, float, float}}> first contacts of the frame being computed */
    private array $marks = [];

    /** @var list<array{float, array{prop: string, other: string, speed: float, at: array{float, float, float}}}> those found that belong to a later one: the frame each falls at */
    private array $ahead = [];

    /** @var array<string, float> cues reached while the frame is computed */
    private array $reached = [];

    /**
     * @param  ShotSpec  $shot  with those of its touches found that keys alone decide
     * @param  array<string, list<Solid>>  $solids  by prop id
     * @param  PropParts|null  $parts  what maps are made of, and which pieces lie face to face; needed where anything goes by them
     * @param  (\Closure(): float)|null  $clock  seconds, where it is to be told what they were spent on
     *
     * @throws Problem where a moving piece has no volume, or a key comes before what it is tied to
     */
    public function __construct(
        ShotSpec $shot,
        array $solids,
        private readonly Progress $progress = new SilentProgress,
        private readonly ?PropParts $parts = null,
        private readonly ?\Closure $clock = null,
    ) {
        self::throwIfTooEarly($shot);
        $this->begun = $this->shot = $shot;
        $this->frameTime = $shot->frameTime();
        $this->members = self::membersOf($shot);
        $this->frame = $shot->first;
        $this->now = new Moment((float) $shot->first, $shot->frameTime());
        $pieces = array_map(static fn (PropSpec $p): array => $solids[$p->id], $shot->props);
        $this->holds = new Holds(
            $shot,
            array_map(static fn (PropSpec $p, array $own): Prepared => Prepared::ofSolids($shot, $p, $own, $parts), $shot->props, $pieces),
        );
        $this->middles = array_map(static fn (array $own): array => array_map(static fn (Solid $s): Vec3 => $s->centre, $own), $pieces);
        $this->maps = $parts === null ? null : new MapRun($shot, $parts, null, $this);
        $cast = new Cast(
            $this->members,
            $pieces,
            fn (int $prop): array => $this->parts?->pieces($this->shot->props[$prop]) ?? throw self::withoutMaps(),
            fn (int $prop): ?array => $this->parts?->joints($this->shot->props[$prop]),
            $shot->steps(),
            $shot->ground,
        );
        // What leads pieces is asked by those that meet them.
        foreach (array_reverse($shot->movers()) as $class) {
            array_unshift($this->movers, $class::begin($cast, $this->moment(), $this));
        }
    }

    /**
     * @param  array<string, list<Shard>>  $shards  by prop id
     *
     * @throws Problem
     */
    public static function of(ShotSpec $shot, array $shards, ?PropParts $parts = null): self
    {
        return Bakeable::of($shot, $shards, $parts)->baker();
    }

    /**
     * @param  array<string, list<Shard>>  $shards
     * @return list<Piece> in the order of the props, and of the records in a frame's streams
     */
    public static function pieces(ShotSpec $shot, array $shards): array
    {
        $out = [];
        foreach ($shot->props as $k => $prop) {
            foreach ($shards[$prop->id] as $number => $shard) {
                $out[] = new Piece($prop->break === null ? $prop->name : $prop->name.' '.$shard->name, $k, $number, $shard);
            }
        }

        return $out;
    }

    /** The shot with all cues that were reached so far. */
    public function shot(): ShotSpec
    {
        return $this->shot;
    }

    /** The number of the frame computed last, or the first before any was. */
    public function frameNumber(): int
    {
        return $this->frame;
    }

    /** The frame the bake starts from, with nothing moved yet. */
    public function firstFrame(): Frame
    {
        $this->anchor();
        $this->arrive();
        $this->letGo();

        return $this->written();
    }

    public function nextFrame(): Frame
    {
        $this->goOn();

        return $this->written();
    }

    /** To the next frame, and what it shows. */
    private function goOn(): void
    {
        $this->reached = [];
        $shows = $this->shot->pace->scene($this->frame + 1.0);
        while ($this->scene < $shows - self::SAME) {
            // By whole frames of the clock: so that the motion is the same however it is spread over frames.
            $next = floor($this->scene + self::SAME) + 1.0;
            $this->step($this->stop > $this->scene + self::SAME ? min($next, $this->stop) : $next);
        }
        $this->frame++;
        $this->back = $this->scene > $shows + self::SAME ? ($this->scene - $shows) * $this->shot->frameTime() : 0.0;
        $this->marks = array_column(array_filter($this->ahead, fn (array $mark): bool => $mark[0] <= $this->frame + self::SAME || $this->back <= 0.0), 1);
        $this->ahead = array_values(array_filter($this->ahead, fn (array $mark): bool => $mark[0] > $this->frame + self::SAME && $this->back > 0.0));
        $this->anchor();
        $this->arrive();
        $this->letGo();
    }

    /** Physics goes on to a moment of the scene. */
    private function step(float $to): void
    {
        $pace = $this->shot->pace;
        if (! $pace->isEven()) {
            $this->before = $this->packed();
        }
        $this->back = 0.0;
        $this->hits = [];
        $from = $pace->frame($this->scene);
        $frames = $pace->frame($to, false) - $from;
        $this->frameTime = ($to - $this->scene) * $this->shot->frameTime() / $frames;
        $start = new Moment($from, $this->frameTime);
        $this->since = $from;
        $this->onItsWay = true;
        $exchanges = max(1, ...array_map(static fn (Mover $m): int => $m->exchanges($start), $this->movers));
        for ($k = 0; $k < $exchanges; $k++) {
            $this->reach($start->plus($frames * $k / $exchanges));
            foreach ($this->movers as $mover) {
                $mover->advance($start->plus($frames * $k / $exchanges), $start->plus($frames * ($k + 1) / $exchanges), $this);
            }
        }
        $this->onItsWay = false;
        $this->scene = $to;
        if (! $pace->isEven()) {
            $this->come($start->plus($frames));
            $this->tell();
        }
    }

    /** Has movers stand where a moment has them. */
    private function come(Moment $at): void
    {
        $this->reach($at);
        foreach ($this->movers as $mover) {
            $mover->arrive($at, $this);
        }
    }

    private function tell(): void
    {
        $now = array_reduce($this->movers, static fn (Figures $sum, Mover $m): Figures => $sum->with($m->figures()), new Figures);
        $this->told = $this->told?->then($now) ?? $now;
    }

    /** What was let go at a frame that shows a moment physics has passed: it goes back, and stops there. */
    private function goBack(): void
    {
        $frame = $this->frame;
        $this->stop = $this->shot->pace->scene((float) $frame);
        $this->restore($this->before ?? '');
        while ($this->frame < $frame) {
            $this->goOn();
        }
        $this->stop = INF;
    }

    /** The state after the frame computed last. */
    public function pack(): string
    {
        $out = new PackWriter(self::STATE, self::STATE_VERSION);
        $out->int($this->frame);
        // Where it shows a moment that physics has passed, that step is taken anew.
        $out->packed($this->back > 0.0 && $this->before !== null ? $this->before : $this->packed());

        return $out->bytes();
    }

    private function packed(): string
    {
        $out = new PackWriter(self::STATE, self::STATE_VERSION);
        $out->int($this->frame);
        $out->floats([$this->scene, $this->stop > $this->scene ? $this->stop : INF]);
        $out->text((string) json_encode(
            [
                'holds' => $this->holds->state(),
                'met' => array_keys($this->met),
                'struck' => (object) array_map(static fn (array $s): array => [$s[0]->toArray(), $s[1]->toArray()], $this->struck),
                'cues' => (object) $this->shot->moments->happened(),
                'ahead' => $this->ahead,
                'cracks' => (object) ($this->told->cracks ?? []),
            ],
            JSON_PRESERVE_ZERO_FRACTION,
        ));
        $out->packed($this->maps === null ? '' : serialize($this->maps->state()));
        $out->small([count($this->movers)]);
        foreach ($this->movers as $mover) {
            $out->packed($mover->pack());
        }

        return $out->bytes();
    }

    /** @throws Problem where the state is not one this version knows */
    public function unpack(string $state): void
    {
        $in = new PackReader($state, self::STATE, self::STATE_VERSION);
        $frame = $in->int();
        $this->restore($in->packed());
        $in->end();
        while ($this->frame < $frame) {
            $this->goOn();
        }
    }

    /** @throws Problem */
    private function restore(string $state): void
    {
        $in = new PackReader($state, self::STATE, self::STATE_VERSION);
        $this->frame = $in->int();
        [$this->scene, $stop] = $in->floats();
        $this->stop = min($this->stop, $stop);
        $this->back = 0.0;
        $this->before = null;
        $this->reach($this->moment());
        $kept = json_decode($in->text(), true, 8, JSON_THROW_ON_ERROR);
        $maps = $in->packed();
        $this->holds->restore($kept['holds']);
        $this->met = array_fill_keys($kept['met'], true);
        $this->struck = array_map(
            static fn (array $s): array => [Vec3::of(array_map(floatval(...), $s[0])), Vec3::of(array_map(floatval(...), $s[1]))],
            $kept['struck'],
        );
        $this->ahead = $kept['ahead'];
        $this->told = $kept['cracks'] === [] ? null : new Figures(cracks: $kept['cracks']);
        $this->follow($this->begun->with($this->begun->moments->allAnchored(array_map(floatval(...), $kept['cues']))));
        if ($this->maps !== null && $maps !== '') {
            $this->maps->restore(unserialize($maps, ['allowed_classes' => false]));
        }
        if ($in->small() !== [count($this->movers)]) {
            throw new Problem('state', 'The state kept of this bake is that of other movers.', '', 'Bake from the start.');
        }
        foreach ($this->movers as $mover) {
            $mover->unpack($in->packed());
        }
        $in->end();
        foreach (array_keys($this->met) as $pair) {
            [$one, $other] = array_map(intval(...), explode(':', $pair));
            if (! $this->heeds($one, $other)) {
                foreach ($this->movers as $mover) {
                    $mover->settle($one, $other);
                }
            }
        }
    }

    public function member(int $prop): Member
    {
        return $this->members[$prop];
    }

    public function ledAt(int $prop, float $frame): ?array
    {
        foreach ($this->movers as $mover) {
            if ($mover instanceof Leads && $mover->leads($prop)) {
                return $mover->ledAt($prop, $frame);
            }
        }

        return null;
    }

    public function body(int $prop, int $piece): ?Body
    {
        return $this->moverOf($prop, $piece)?->body($prop, $piece);
    }

    public function push(int $prop, int $piece, Vec3 $at, Vec3 $impulse): void
    {
        $this->moverOf($prop, $piece)?->push($prop, $piece, $at, $impulse);
    }

    /** What says where a piece is; null where it follows its prop. */
    private function moverOf(int $prop, int $piece): ?Mover
    {
        foreach ($this->movers as $mover) {
            if ($mover->has($prop, $piece)) {
                return $mover;
            }
        }

        return null;
    }

    /**
     * Where a piece is.
     *
     * @param  Placement  $place  where its prop stands, for what follows it
     */
    private function pose(int $prop, int $piece, Placement $place): Pose
    {
        return $this->moverOf($prop, $piece)?->pose($prop, $piece, $this->back) ?? Pose::standing($place, $this->middles[$prop][$piece]);
    }

    public function byMaps(int $prop, float $frame): array
    {
        $key = $prop.' '.$frame;
        if (! isset($this->drifted[$key])) {
            $this->drifted = array_slice($this->drifted, -self::DRIFTS_KEPT, null, true);
            $this->drifted[$key] = $this->maps === null ? throw self::withoutMaps() : (new DriftRun($this->maps))->at($this->shot->props[$prop]->id, $frame);
        }

        return $this->drifted[$key];
    }

    public function weights(string $map, bool $ofPieces, float $frame): array
    {
        return $this->maps?->weightsBetween($map, $ofPieces ? MapRun::PIECES : MapRun::SURFACE, $frame) ?? throw self::withoutMaps();
    }

    public function onSurface(string $map, float $frame): array
    {
        $maps = $this->maps ?? throw self::withoutMaps();
        $before = (int) floor($frame);
        $share = $frame - $before;
        $at = function (int $frame) use ($maps, $map): array {
            $known = $this->onSurface[$map] ?? [];
            $known[$frame] ??= $maps->onSkin($map, $frame, false);
            // Those of a frame and the next.
            $this->onSurface[$map] = array_slice($known, -2, null, true);

            return $known[$frame];
        };
        $weights = $at($before);
        if ($share > 0.0) {
            foreach ($at($before + 1) as $i => $then) {
                $weights[$i] += $share * ($then - $weights[$i]);
            }
        }

        return $weights;
    }

    public function blended(int $prop, float $frame): ?array
    {
        $spec = $this->shot->props[$prop];

        return $spec->blend === null ? null : ($this->blends ??= new BlendRun($this->maps ?? throw self::withoutMaps()))->at($spec->id, $frame);
    }

    public function openings(int $prop): array
    {
        return array_merge([], ...array_map(static fn (Mover $m): array => $m->openings($prop), $this->movers));
    }

    public function hearsHits(int $prop): bool
    {
        return array_filter($this->shot->props[$prop]->dust, static fn (Dust $d): bool => $d->hearsHits()) !== [];
    }

    public function hits(int $prop): array
    {
        return $this->hits[$prop] ?? [];
    }

    public function poseOf(int $prop, int $piece): Pose
    {
        return $this->pose($prop, $piece, $this->shot->props[$prop]->place->at($this->now->frame));
    }

    public function gravity(float $frame): Vec3
    {
        return $this->shot->gravity->at($frame);
    }

    public function isPushed(int $prop): bool
    {
        return $this->shot->forcesOn($this->shot->props[$prop]) !== [];
    }

    public function forces(int $prop, array $pieces, array $x, array $y, array $z, float $frame, float $span): Effect
    {
        return $this->shot->effect($this->shot->props[$prop], $pieces, $x, $y, $z, $frame, $span, fn (string $map): array => $this->weights($map, true, $frame), $this->obstacles());
    }

    /** What forces may know of surfaces as they are now. */
    private function obstacles(): SceneObstacles
    {
        return new SceneObstacles($this->shot, function (array $ids): Colliders {
            $numbers = array_keys(array_filter($this->shot->props, static fn (PropSpec $p): bool => in_array($p->id, $ids, true)));

            return $this->standingNow($numbers, null);
        });
    }

    public function groundFriction(float $frame): float
    {
        return $this->shot->groundFriction->at($frame);
    }

    public function groundBounce(float $frame): float
    {
        return $this->shot->groundBounce->at($frame);
    }

    public function waits(int $prop): bool
    {
        if ($this->holds->waitsForTouch($prop)) {
            return true;
        }
        $id = $this->shot->props[$prop]->id;
        foreach ($this->shot->cues as $cue) {
            if ($cue->isTouch() && ($cue->one === $id || $cue->other === $id) && $this->shot->moments->frame($cue->id) === null) {
                return true;
            }
        }

        return false;
    }

    public function touched(Touch $touch): bool
    {
        $prop = $this->shot->props[$touch->prop];
        $other = $touch->other < 0 ? 'ground' : $this->shot->props[$touch->other]->id;
        if ($touch->speed >= Touch::HIT && is_finite($touch->impulse) && $this->hearsHits($touch->prop)) {
            $this->hits[$touch->prop][] = $touch;
        }
        $pair = self::pairOf($touch->prop, $touch->other);
        if (! isset($this->met[$pair])) {
            $this->met[$pair] = true;
            $this->ahead[] = [$touch->frame, ['prop' => $prop->id, 'other' => $other, 'speed' => $touch->speed, 'at' => $touch->at->toArray()]];
        }
        foreach ($this->shot->cues as $cue) {
            if ($cue->isTouch() && $touch->speed >= $cue->speed && $cue->isOf($prop->id, $other) && $this->shot->moments->frame($cue->id) === null) {
                $this->reached[$cue->id] = ceil($touch->frame + 1e-9);
            }
        }
        $place = $this->members[$touch->prop]->place->at($touch->frame);
        $pieces = $this->holds->touched($touch, $other, fn (int $piece): Vec3 => $this->pose($touch->prop, $piece, $place)->at);
        if ($this->holds->began($touch->prop)) {
            $this->struck[$touch->prop] = [$touch->at, $this->velocityOf($touch)];
        }

        return $pieces !== [] && $this->release($touch->prop, $pieces, $touch->frame);
    }

    /** m/s, of what touched there. */
    private function velocityOf(Touch $touch): Vec3
    {
        if ($touch->other < 0) {
            return Vec3::zero();
        }
        $mover = $this->moverOf($touch->other, $touch->otherPiece);
        if ($mover !== null) {
            return $mover->velocityOf($touch->other, $touch->otherPiece, $touch->at);
        }
        $member = $this->members[$touch->other];
        if (! $member->place->moves()) {
            return Vec3::zero();
        }
        // As it came: its keys may end where it hits.
        $here = $member->place->at($touch->frame)->inverse()->point($touch->at);

        return $touch->at->minus($member->place->at($touch->frame - self::HALF)->point($here))->times(1.0 / (self::HALF * $this->frameTime));
    }

    public function heeds(int $one, int $other): bool
    {
        if (! isset($this->met[self::pairOf($one, $other)])) {
            return true;
        }
        $name = fn (int $k): string => $k < 0 ? 'ground' : $this->shot->props[$k]->id;
        foreach ($this->shot->cues as $cue) {
            if (
                $cue->isTouch()
                && $cue->isOf($name($one), $name($other))
                && $this->shot->moments->frame($cue->id) === null
                && ! isset($this->reached[$cue->id])
            ) {
                return true;
            }
        }

        return false;
    }

    public function colliders(): Colliders
    {
        return $this->standingNow($this->firm(), $this->shot->ground);
    }

    /**
     * Colliders of some props, where these are now.
     *
     * @param  list<int>  $props  numbers
     */
    private function standingNow(array $props, ?Ground $ground): Colliders
    {
        $key = ($ground === null ? '' : 'ground ').implode(' ', $props);
        [$colliders, $at] = $this->seen[$key] ?? [$this->collidersOf($props, $ground), null];
        $this->seen[$key] = [$colliders, $this->now->frame];
        if ($at !== $this->now->frame) {
            $this->bring($colliders, $props);
        }

        return $colliders;
    }

    /** @return list<int> numbers of the props that have a shape others can meet */
    private function firm(): array
    {
        return array_keys(array_filter($this->members, static fn (Member $m): bool => ! $m->waves()));
    }

    /** @param  list<int>  $props  numbers */
    private function collidersOf(array $props, ?Ground $ground): Colliders
    {
        $out = new Colliders($ground);
        foreach ($props as $k) {
            foreach ($this->surfaces($k) as $piece => $mesh) {
                $out->add($k, $piece, $mesh);
            }
        }

        return $out;
    }

    /**
     * Brings colliders to where their props are now.
     *
     * @param  list<int>  $props  numbers, in the order they were added
     */
    private function bring(Colliders $colliders, array $props): void
    {
        $poses = $motions = $surfaces = [];
        foreach ($props as $k) {
            $member = $this->members[$k];
            foreach ($this->middles[$k] as $piece => $_) {
                $body = $this->body($k, $piece) ?? $this->standing($member, $piece);
                $pose = $this->pose($k, $piece, $member->place->at($this->now->frame));
                $poses[] = [$pose->at, $pose->turn, $pose->size];
                $motions[] = [$body->velocityAt($pose->at), $body->spin, $body->growth];
            }
            $surfaces[$k] = [$member->friction->at($this->now->frame), $member->bounce->at($this->now->frame)];
        }
        $colliders->moveTo(
            $poses,
            $motions,
            $surfaces + [NearestSurfaces::GROUND => [$this->groundFriction($this->now->frame), $this->groundBounce($this->now->frame)]],
        );
    }

    /** @return list<Mesh> the surfaces of a prop's pieces, each about its middle */
    private function surfaces(int $prop): array
    {
        return array_map(
            static fn (Shard $s): Mesh => $s->mesh->movedBy($s->centre()->times(-1.0)),
            $this->parts?->pieces($this->shot->props[$prop]) ?? throw self::withoutMaps(),
        );
    }

    /** A piece that follows its prop, as a body. */
    private function standing(Member $member, int $piece): Body
    {
        $middle = $this->middles[$member->number][$piece];
        $frame = $this->now->frame;
        $at = static fn (float $f): Pose => Pose::standing($member->place->at($f), $middle);

        return Body::driven(
            $at($frame - self::HALF),
            $at($frame),
            $at($frame + self::HALF),
            2.0 * self::HALF * $this->frameTime,
            $member->place->rotation($frame - self::HALF, 2.0 * self::HALF),
        );
    }

    public function clock(): ?\Closure
    {
        return $this->clock;
    }

    public function stillAtWork(): void
    {
        $this->progress->report(0.0);
    }

    private static function pairOf(int $one, int $other): string
    {
        return min($one, $other).':'.max($one, $other);
    }

    /** Whoever asks for the colliders from now on gets them as they are at this moment. */
    private function reach(Moment $moment): void
    {
        $this->now = $moment;
        $this->seen = array_map(static fn (array $seen): array => [$seen[0], null], $this->seen);
    }

    private function moment(): Moment
    {
        return new Moment((float) $this->frame, $this->shot->frameTime());
    }

    /** Takes over the shot as it is from now on. */
    private function follow(ShotSpec $shot): void
    {
        $this->shot = $shot;
        $this->members = self::membersOf($shot);
        $this->holds->follow($shot);
        $this->maps?->follow($shot, $this->frame);
        $this->drifted = $this->onSurface = [];
    }

    /** @return list<Member> */
    private static function membersOf(ShotSpec $shot): array
    {
        $out = [];
        foreach ($shot->props as $k => $p) {
            $out[] = new Member(
                $k,
                $p->id,
                'props['.$shot->numberOf($p->id).']',
                $p->name,
                $p->motion->ledBy,
                $p->motion->movedBy,
                $p->motion->settings,
                $p->place,
                $p->material->density,
                $p->material->friction,
                $p->material->bounce,
                $p->dust === [] ? [] : [DustMover::class => $p->dust],
                array_keys(array_filter($shot->props, static fn (PropSpec $q): bool => $q->id !== $p->id && in_array($q->id, $p->motion->passes, true))),
            );
        }

        return $out;
    }

    /** @throws Problem where it is asked for another frame than that which was reached */
    public function places(int $prop, int $frame): array
    {
        if ($frame !== $this->frame || $this->onItsWay) {
            throw new Problem(
                'internal',
                'Where physics has moved things was asked for at another moment than this one.',
                '',
                'Report this; it is a fault of Yard Break.',
            );
        }

        return array_map(static fn (Pose $pose, Vec3 $middle): Placement => $pose->placement($middle), $this->poses($prop), $this->middles[$prop]);
    }

    /** @return list<Pose> of a prop's pieces at the frame that was reached */
    private function poses(int $prop): array
    {
        $place = $this->members[$prop]->place->at((float) $this->frame);
        if (($this->standing[$prop][0] ?? null) != $place) {
            $this->standing[$prop] = [$place, array_map(static fn (Vec3 $middle): Pose => Pose::standing($place, $middle), $this->middles[$prop])];
        }
        $out = [];
        foreach ($this->standing[$prop][1] as $piece => $stands) {
            $out[] = $this->moverOf($prop, $piece)?->pose($prop, $piece, $this->back) ?? $stands;
        }

        return $out;
    }

    public function key(int $frame): string
    {
        return (string) $frame;
    }

    /** Cues that were reached stand from now on, and so does what is tied to them. */
    private function anchor(): void
    {
        foreach ($this->shot->cues as $cue) {
            if (
                $cue->map !== ''
                && $this->maps !== null
                && ! $this->shot->isForeseen($cue)
                && $this->shot->moments->frame($cue->id) === null
                && $this->maps->shareAt($cue->map, $this->frame) >= $cue->share - 1e-9
            ) {
                $this->reached[$cue->id] = (float) $this->frame;
            }
        }
        if ($this->reached !== []) {
            $this->follow($this->shot->with($this->shot->moments->allAnchored($this->reached)));
        }
    }

    private function arrive(): void
    {
        $at = new Moment((float) $this->frame, $this->shot->frameTime() * $this->shot->pace->rateAt((float) $this->frame));
        if ($this->back <= 0.0 && $this->frame <= $this->shot->pace->frame($this->scene, false) + self::SAME) {
            $this->come($at);

            return;
        }
        // Physics has passed this moment, or stands still.
        $this->reach($at);
        foreach ($this->movers as $mover) {
            if ($mover instanceof Leads) {
                $mover->arrive($at, $this);
            }
        }
    }

    public function onTheClock(float $frame): float
    {
        return $this->shot->first + $this->shot->pace->scene($frame);
    }

    public function since(): float
    {
        return $this->since;
    }

    public function isPaced(): bool
    {
        return ! $this->shot->pace->isEven();
    }

    private function letGo(): void
    {
        // Maps that know what was before are asked for at every frame.
        foreach ($this->shot->props as $prop) {
            foreach ($prop->maps() as $map) {
                $this->ofPieces($map, $this->frame);
            }
        }
        foreach ($this->shot->forces as $force) {
            if ($force->map !== '') {
                $this->ofPieces($force->map, $this->frame);
            }
        }
        $due = $this->holds->due($this->frame, $this->ofPieces(...));
        foreach ($this->freed() as $prop => $pieces) {
            $this->holds->letGo($prop, $pieces, (float) $this->frame);
            $due[$prop] = [...$due[$prop] ?? [], ...$pieces];
        }
        if ($due !== [] && $this->back > 0.0) {
            $this->goBack();

            return;
        }
        foreach ($due as $prop => $pieces) {
            $this->send($prop, $pieces, (float) $this->frame);
        }
    }

    /** @return array<int, list<int>> pieces by prop that forces let go on the way to the next frame: they are free as it strikes them */
    private function freed(): array
    {
        $out = [];
        foreach ($this->shot->props as $k => $prop) {
            $forces = $prop->motion->letsGo() ? array_filter($this->shot->forcesOn($prop), static fn (ForceSpec $f): bool => $f->letsGo()) : [];
            $held = $forces === [] ? [] : $this->holds->heldPieces($k);
            foreach ($held === [] ? [] : $forces as $force) {
                $places = array_map(fn (int $piece): Vec3 => $this->pose($k, $piece, $prop->place->at((float) $this->frame))->at, $held);
                $instant = $this->shot->instant($this->frame + 0.5, $this->shot->frameTime() * $this->shot->pace->rateAt($this->frame + 0.5), $this->obstacles(), $prop->id);
                foreach ($force->frees($instant, array_column($places, 'x'), array_column($places, 'y'), array_column($places, 'z')) as $i) {
                    $out[$k][] = $held[$i];
                }
            }
            if (isset($out[$k])) {
                $out[$k] = array_values(array_unique($out[$k]));
            }
        }

        return $out;
    }

    /**
     * @return list<float> of the pieces of a map's prop
     *
     * @throws Problem
     */
    private function ofPieces(string $map, int $frame): array
    {
        return $this->maps?->weightsAt($map, MapRun::PIECES, $frame) ?? throw self::withoutMaps();
    }

    private static function withoutMaps(): Problem
    {
        return new Problem('internal', 'This bake goes by weight maps, but was begun without them.', '', 'Report this; it is a fault of Yard Break.');
    }

    /** @param  list<int>  $pieces */
    private function release(int $prop, array $pieces, float $frame): bool
    {
        $this->holds->letGo($prop, $pieces, $frame);

        return $this->send($prop, $pieces, $frame);
    }

    /** @param  list<int>  $pieces  that are not held any more */
    private function send(int $prop, array $pieces, float $frame): bool
    {
        $sent = $this->pushed($prop, $pieces, $frame);
        $any = false;
        foreach ($this->movers as $mover) {
            $any = $mover->release($prop, $pieces, new Moment($frame, $this->shot->frameTime()), $sent) || $any;
        }

        return $any;
    }

    /**
     * @param  list<int>  $pieces
     * @return array<int, Sent> by piece
     */
    private function pushed(int $prop, array $pieces, float $frame): array
    {
        $spec = $this->shot->props[$prop];
        if ($spec->motion->pushes === []) {
            return [];
        }
        $place = $spec->place->at($frame);
        $this->outwards[$prop] ??= $this->parts === null ? [] : array_map(static fn (Shard $s): Vec3 => $s->outwards(), $this->parts->pieces($spec));
        $out = [];
        foreach ($spec->motion->pushes as [$class, $values, $map]) {
            $push = $class::of($values->at($frame));
            $amounts = $map === '' ? [] : $this->ofPieces($map, $this->frame);
            foreach ($pieces as $piece) {
                $pose = $this->pose($prop, $piece, $place);
                $normal = isset($this->outwards[$prop][$piece]) ? $pose->turn->turn($this->outwards[$prop][$piece]) : Vec3::zero();
                $leaving = new Leaving($piece, $pose->at, $normal, $place, ...$this->struck[$prop] ?? []);
                $out[$piece] = ($out[$piece] ?? Sent::nothing())->plus($push->on($leaving), $amounts === [] ? 1.0 : $amounts[$piece]);
            }
        }

        return $out;
    }

    private function written(): Frame
    {
        $frame = new FrameWriter($this->frame, $this->back);
        foreach ($this->movers as $mover) {
            $mover->write($frame);
        }
        Recorder::write($this->shot, $frame);
        if ($this->told === null || $this->back <= 0.0) {
            $this->tell();
        }
        $told = $this->told ?? new Figures;
        // What broke in a step of physics is told with the last frame that shows any of it.
        $figures = $this->back > 0.0 ? $told->still() : $told;
        $this->told = $this->back > 0.0 ? $told : null;
        $released = $cracks = [];
        foreach ($this->shot->props as $k => $prop) {
            if (isset($figures->cracks[$k])) {
                $cracks[$prop->id] = $figures->cracks[$k];
            }
            $poses = $this->poses($k);
            $frame->put($k, StreamKind::Poses, implode('', array_map(static fn (Pose $p): string => $p->bytes(), $poses)));
            $sizes = array_map(static fn (Pose $p): float => $p->size, $poses);
            if (array_filter($sizes, static fn (float $size): bool => $size !== 1.0) !== []) {
                $frame->put($k, StreamKind::Sizes, pack('g*', ...$sizes));
            }
            if ($prop->motion->letsGo()) {
                $released[$prop->id] = $this->holds->released($k);
            }
        }

        return new Frame($this->frame, $frame->streams(), ['released' => $released, 'cracks' => $cracks, ...$figures->toArray(), 'seconds' => 0.0], $this->marks, $this->shot->pace->isEven() ? $this->reached : $this->reachedNow());
    }

    /** @return array<string, float> cues that stand at this frame, of those only what happens decides */
    private function reachedNow(): array
    {
        return array_filter($this->shot->moments->happened(), fn (float $frame): bool => abs($frame - $this->frame) < self::SAME);
    }

    /** @throws Problem where something is to happen before the touch it is tied to, which only the bake can find */
    private static function throwIfTooEarly(ShotSpec $shot): void
    {
        foreach ($shot->cues as $cue) {
            if (! $cue->isFound() || $shot->isForeseen($cue)) {
                continue;
            }
            foreach ($shot->tiedTo($cue->id) as [$path, $offset]) {
                if ($offset < 0.0) {
                    throw Problem::inValue(
                        $path,
                        'This comes '.-$offset.' frames before the cue "'.$cue->name.'", but only the bake finds when that is, and it cannot change what was before.',
                        'Tie it to a frame, or key the prop that strikes instead of letting physics move it.',
                    );
                }
            }
        }
    }
}
