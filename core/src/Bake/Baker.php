<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Rigid\Hull;
use YardBreak\Core\Rigid\StepListener;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/**
 * Computes a shot frame by frame. Its whole state can be saved after any frame and taken up again with the
 * same result to the last bit.
 */
final class Baker implements StepListener
{
    /** A solid whose hull is larger than itself by more than this collides as several hulls. */
    private const HOLLOW = 1.06;

    /** m/s or rad/s from which a start may be what drove a piece away. */
    private const FAST = 300.0;

    /** Thickness of a film, as a share of its own extent. */
    private const FILM = 1e-4;

    private World $world;

    private int $frame;

    /** @var list<int> body of each piece, or −1 while it is part of a whole */
    private array $bodyOf = [];

    /** @var list<Vec3> centre of mass of each piece in its prop's coordinates */
    private array $centre = [];

    /** @var array<string, array{pieces: list<int>, whole: int, centre: Vec3|null, bodies: list<int>, colliders: list<list<int>>, held: list<bool>, own: list<int|null>}> by prop id */
    private array $state = [];

    /** @var array<int, array{int, int}> body → number of its prop, and piece (−1: the whole) */
    private array $owner = [];

    /** @var array<int, true> pieces too thin to be moved well */
    private array $films = [];

    private int $releasedCount = 0;

    /** @var list<array{frame: int, prop: string, other: string, speed: float, at: array{float, float, float}}> contacts of the frame being computed */
    private array $marks = [];

    /** @var array<string, true> pairs of props whose first contact was marked */
    private array $marked = [];

    /**
     * @param  array<string, list<Shard>>  $shards  by prop id
     *
     * @throws Problem where a moving piece has no volume
     */
    public function __construct(private readonly ShotSpec $shot, array $shards)
    {
        $this->frame = $shot->first;
        $this->world = $w = new World;
        $w->gravity = $shot->gravity;
        $w->ground = $shot->ground ? 0.0 : null;
        $w->groundFriction = $shot->groundFriction;
        $w->groundBounce = $shot->groundBounce;
        $sizes = [];
        foreach ($shot->props as $k => $prop) {
            $this->addProp($k, $prop, $shards[$prop->id], $sizes);
        }
        $w->pieceSize = $sizes === [] ? 0.1 : array_sum($sizes) / count($sizes);
        $w->forgiveOverlaps();
    }

    /**
     * @param  array<string, list<Shard>>  $shards
     * @return list<Piece> in the order of every frame's records
     */
    public static function pieces(ShotSpec $shot, array $shards): array
    {
        $out = [];
        foreach ($shot->props as $prop) {
            foreach ($shards[$prop->id] as $shard) {
                $out[] = new Piece($prop->break === null ? $prop->name : $prop->name.' '.$shard->name, $prop->id, $shard);
            }
        }

        return $out;
    }

    /** The number of the frame computed last, or the first before any was. */
    public function frameNumber(): int
    {
        return $this->frame;
    }

    /** The frame the bake starts from, with nothing moved yet. */
    public function firstFrame(): Frame
    {
        $this->arrive();

        return $this->snapshot([]);
    }

    public function nextFrame(): Frame
    {
        $this->marks = [];
        [$searches, $steps] = $this->shot->steps();
        $this->world->step(1.0 / $this->shot->rate, $searches, $steps, $this);
        $this->frame++;
        $this->arrive();

        return $this->snapshot($this->marks);
    }

    public function beforeSearch(float $done, float $ahead, float $seconds): void
    {
        $this->drive($this->frame + $done, $ahead, $seconds);
    }

    public function afterSearch(float $done): bool
    {
        return $this->releaseByTouch($this->frame + $done);
    }

    /**
     * @param  list<Shard>  $shards
     * @param  list<float>  $sizes
     */
    private function addProp(int $k, PropSpec $prop, array $shards, array &$sizes): void
    {
        $place = $prop->placeAt($this->shot->first);
        $standing = match (true) {
            $prop->motion === 'keyed', ! $prop->keys->isEmpty() => World::KEYED,
            default => World::STILL,
        };
        $entry = ['pieces' => [], 'whole' => -1, 'centre' => null, 'bodies' => [], 'colliders' => [], 'held' => [], 'own' => []];
        $own = $prop->ownFrames();
        $free = $prop->motion === 'free';
        $alone = count($shards) === 1;
        $whole = $free && $prop->held === 'whole' && ! $alone;
        if ($whole) {
            $mass = $this->together($shards);
            $entry['centre'] = $mass->centroid;
            $entry['whole'] = $this->addBody($prop, World::STILL, $place, $mass, $k, -1);
        }
        foreach ($shards as $shard) {
            $piece = count($this->bodyOf);
            $mass = $shard->mass;
            if ($free && $mass->volume <= 0.0) {
                throw Problem::inMesh($prop->name.' encloses no volume, so it has no mass and cannot move freely.', 'Repair it on the Props stage, or make it fixed.');
            }
            $centre = $shard->centre();
            $body = $this->addBody($prop, $whole ? World::ABSENT : $standing, $place, new MassProperties(max($mass->volume, 1e-12), $centre, $mass->inertia), $k, $piece);
            $carrier = $whole ? $entry['whole'] : $body;
            $offset = $whole && $entry['centre'] !== null ? $centre->minus($entry['centre']) : Vec3::zero();
            $colliders = [];
            foreach ($this->hulls($shard, $alone) as $hull) {
                $colliders[] = $this->world->addCollider($carrier, $hull, $offset, $prop->friction, $prop->bounce, $k);
                if ($free) {
                    $sizes[] = $hull->size;
                }
                $this->world->size[$body] = max($this->world->size[$body], $hull->size);
            }
            if ($shard->thickness() < self::FILM * $this->world->size[$body]) {
                $this->films[$piece] = true;
            }
            $this->bodyOf[] = $body;
            $this->centre[] = $centre;
            $entry['pieces'][] = $piece;
            $entry['bodies'][] = $body;
            $entry['colliders'][] = $colliders;
            $entry['held'][] = true;
            $entry['own'][] = $own[$shard->name] ?? null;
        }
        $this->state[$prop->id] = $entry;
        if ($whole) {
            $this->startWhole($prop, $entry);
        } elseif ($free && $prop->releaseOn === 'touch') {
            foreach ($entry['bodies'] as $k => $body) {
                if ($entry['own'][$k] === null) {
                    $this->world->waiting[$body] = true;
                }
            }
        }
    }

    private function addBody(PropSpec $prop, int $state, Placement $place, MassProperties $mass, int $k, int $piece): int
    {
        $d = $prop->density;
        $body = $this->world->addBody($state, $place->point($mass->centroid), $place->turn, $mass->volume * $d, array_map(static fn (float $v): float => $v * $d, $mass->inertia));
        $this->owner[$body] = [$k, $piece];

        return $body;
    }

    /** @param  list<Shard>  $shards */
    private function together(array $shards): MassProperties
    {
        $volume = 0.0;
        $moment = Vec3::zero();
        foreach ($shards as $s) {
            $volume += $s->mass->volume;
            $moment = $moment->plus($s->mass->centroid->times($s->mass->volume));
        }
        $centre = $moment->times(1.0 / $volume);
        $sum = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        foreach ($shards as $s) {
            $d = $s->mass->centroid->minus($centre);
            $v = $s->mass->volume;
            // Parallel axes.
            $shift = [$d->y * $d->y + $d->z * $d->z, $d->z * $d->z + $d->x * $d->x, $d->x * $d->x + $d->y * $d->y, -$d->x * $d->y, -$d->y * $d->z, -$d->z * $d->x];
            foreach ($shift as $i => $value) {
                $sum[$i] += $s->mass->inertia[$i] + $v * $value;
            }
        }

        return new MassProperties($volume, $centre, $sum);
    }

    /**
     * A single hollow prop (a bowl, a ring) collides as several hulls, a shard as one.
     *
     * @return list<Hull> about the piece's centre of mass
     */
    private function hulls(Shard $shard, bool $alone): array
    {
        $mesh = $shard->mesh;
        $centre = $shard->centre();
        $parts = [$mesh];
        if ($alone) {
            $m = $mesh->movedBy($centre->times(-1.0));
            $radius = Hull::ballRadius($m->x, $m->y, $m->z);
            if ($radius !== null) {
                return [Hull::ball($radius)];
            }
        }
        if ($alone && $shard->mass->volume > 0.0 && $this->hullVolume($mesh) > self::HOLLOW * $shard->mass->volume) {
            try {
                $parts = array_map(static fn (Shard $s): Mesh => $s->mesh, (new Cells(32, 1, 0.8))->break($mesh, new SilentProgress));
            } catch (Problem) {
                $parts = [$mesh];
            }
        }
        $out = [];
        foreach ($parts as $part) {
            $m = $part->movedBy($centre->times(-1.0));
            $out[] = Hull::near($m->x, $m->y, $m->z);
        }

        return $out;
    }

    private function hullVolume(Mesh $mesh): float
    {
        try {
            return Hull::around($mesh->x, $mesh->y, $mesh->z)->volume();
        } catch (\UnexpectedValueException) {
            return 0.0;
        }
    }

    /** @param  array{pieces: list<int>, whole: int, centre: Vec3|null, bodies: list<int>, colliders: list<list<int>>, held: list<bool>, own: list<int|null>}  $entry */
    private function startWhole(PropSpec $prop, array $entry): void
    {
        $this->world->release($entry['whole'], $prop->velocity, $prop->spin);
        if ($prop->releaseOn === 'touch') {
            $this->world->waiting[$entry['whole']] = true;
        }
    }

    /** Keyed bodies reach the frame as fast as their keys brought them there; those let go now keep that. */
    private function arrive(): void
    {
        [$searches, $steps] = $this->shot->steps();
        $back = -1.0 / ($searches * $steps);
        $this->drive($this->frame, $back, $back / $this->shot->rate);
        $this->releaseByFrame();
    }

    /**
     * Puts keyed bodies where their keys say, moving towards where they will be, or from where they were.
     *
     * @param  float  $ahead  frames until then; below zero for before
     * @param  float  $span  the same in seconds
     */
    private function drive(float $frame, float $ahead, float $span): void
    {
        foreach ($this->shot->props as $prop) {
            if ($prop->keys->isEmpty()) {
                continue;
            }
            $entry = $this->state[$prop->id];
            $now = $prop->placeAt($frame);
            $next = $span !== 0.0 ? $prop->placeAt($frame + $ahead) : $now;
            foreach ($entry['bodies'] as $k => $body) {
                if (! $entry['held'][$k] || $this->world->state[$body] !== World::KEYED) {
                    continue;
                }
                $c = $this->centre[$entry['pieces'][$k]];
                $here = $now->point($c);
                $this->world->place($body, $here, $now->turn);
                $v = $span !== 0.0 ? $next->point($c)->minus($here)->times(1.0 / $span) : Vec3::zero();
                $spin = $span !== 0.0 ? $now->turn->rotationTo($next->turn)->times(1.0 / $span) : Vec3::zero();
                [$this->world->vx[$body], $this->world->vy[$body], $this->world->vz[$body]] = $v->toArray();
                [$this->world->wx[$body], $this->world->wy[$body], $this->world->wz[$body]] = $spin->toArray();
            }
        }
    }

    private function releaseByFrame(): void
    {
        $any = false;
        foreach ($this->shot->props as $prop) {
            if ($prop->motion === 'free' && $prop->releaseOn === 'frame' && $this->frame >= $prop->releaseFrame) {
                $any = $this->release($prop, null, null) || $any;
            }
            if ($prop->motion === 'free' && $prop->groups !== []) {
                $any = $this->releaseGroups($prop) || $any;
            }
        }
        if ($any) {
            $this->world->forgiveOverlaps();
        }
    }

    private function releaseByTouch(float $at): bool
    {
        $any = false;
        foreach ($this->world->touches() as $touch) {
            if (! isset($this->world->waiting[$touch->body])) {
                continue;
            }
            [$k, $piece] = $this->owner[$touch->body];
            $prop = $this->shot->props[$k];
            $other = $touch->other < 0 ? -1 : $this->owner[$touch->other][0];
            if ($other === $k) {
                continue;
            }
            $key = $k.':'.$other;
            if (! isset($this->marked[$key])) {
                $this->marked[$key] = true;
                $this->marks[] = ['frame' => (int) ceil($at), 'prop' => $prop->id, 'other' => $other < 0 ? 'ground' : $this->shot->props[$other]->id, 'speed' => $touch->speed, 'at' => $touch->at->toArray()];
            }
            $any = $this->release($prop, $piece < 0 ? null : $piece, $touch->at) || $any;
        }

        return $any;
    }

    /** Lets pieces of a prop go: all, or those within its reach of a touch. */
    private function release(PropSpec $prop, ?int $piece, ?Vec3 $at): bool
    {
        $entry = $this->state[$prop->id];
        $w = $this->world;
        $all = $piece === null || $prop->reach === null;
        $any = false;
        if ($entry['whole'] >= 0) {
            return $this->releaseWhole($prop, $entry);
        }
        foreach ($entry['bodies'] as $k => $body) {
            if (! $entry['held'][$k] || $entry['own'][$k] !== null) {
                continue;
            }
            if (! $all && $entry['pieces'][$k] !== $piece) {
                $d = $at === null ? INF : (new Vec3($w->px[$body], $w->py[$body], $w->pz[$body]))->minus($at)->length();
                if ($d > $prop->reach) {
                    continue;
                }
            }
            $this->letGo($prop, $k, $body);
            $any = true;
        }

        return $any;
    }

    /** Lets pieces go whose own frame has come. */
    private function releaseGroups(PropSpec $prop): bool
    {
        $any = false;
        foreach ($this->state[$prop->id]['bodies'] as $k => $body) {
            $own = $this->state[$prop->id]['own'][$k];
            if ($own !== null && $this->state[$prop->id]['held'][$k] && $this->frame >= $own) {
                $this->letGo($prop, $k, $body);
                $any = true;
            }
        }

        return $any;
    }

    private function letGo(PropSpec $prop, int $k, int $body): void
    {
        $w = $this->world;
        $velocity = new Vec3($w->vx[$body], $w->vy[$body], $w->vz[$body]);
        $spin = new Vec3($w->wx[$body], $w->wy[$body], $w->wz[$body]);
        unset($w->waiting[$body]);
        $w->release($body, $velocity->plus($prop->velocity), $spin->plus($prop->spin));
        $this->state[$prop->id]['held'][$k] = false;
        $this->releasedCount++;
    }

    /** @param  array{pieces: list<int>, whole: int, centre: Vec3|null, bodies: list<int>, colliders: list<list<int>>, held: list<bool>, own: list<int|null>}  $entry */
    private function releaseWhole(PropSpec $prop, array $entry): bool
    {
        $w = $this->world;
        $whole = $entry['whole'];
        if ($entry['centre'] === null || $w->state[$whole] === World::ABSENT) {
            return false;
        }
        $turn = new Quaternion($w->qx[$whole], $w->qy[$whole], $w->qz[$whole], $w->qw[$whole]);
        $position = new Vec3($w->px[$whole], $w->py[$whole], $w->pz[$whole]);
        $velocity = new Vec3($w->vx[$whole], $w->vy[$whole], $w->vz[$whole]);
        $spin = new Vec3($w->wx[$whole], $w->wy[$whole], $w->wz[$whole]);
        unset($w->waiting[$whole]);
        $w->state[$whole] = World::ABSENT;
        foreach ($entry['bodies'] as $k => $body) {
            $offset = $this->centre[$entry['pieces'][$k]]->minus($entry['centre']);
            $arm = $turn->turn($offset);
            $w->place($body, $position->plus($arm), $turn);
            foreach ($entry['colliders'][$k] as $collider) {
                $w->colliders->handOver($collider, $body, $offset->times(-1.0));
            }
            $w->release($body, $velocity->plus($spin->cross($arm)), $spin);
            $this->state[$prop->id]['held'][$k] = false;
            $this->releasedCount++;
        }

        return true;
    }

    /** Says which piece it is, and what most likely drove it. */
    private function ranAway(int $body): Problem
    {
        [$k, $piece] = $this->owner[$body];
        $prop = $this->shot->props[$k];
        $remedy = match (true) {
            $prop->velocity->length() > self::FAST || $prop->spin->length() > self::FAST => 'Lower the velocity or the spin '.$prop->name.' starts with.',
            isset($this->films[$piece]) => 'That piece is a film, too thin to be moved: take the next seed, or break it into fewer pieces.',
            default => 'Choose the final quality, or let its pieces stand clear of what is keyed.',
        };

        return new Problem('solver', 'The motion ran away at frame '.$this->frame.': a piece of '.$prop->name.' has no finite place any more.', 'props['.$k.']', $remedy);
    }

    /**
     * @param  list<array{frame: int, prop: string, other: string, speed: float, at: array{float, float, float}}>  $marks
     */
    private function snapshot(array $marks): Frame
    {
        $w = $this->world;
        $out = '';
        $moving = $resting = 0;
        foreach ($this->state as $entry) {
            $whole = $entry['whole'];
            $together = $whole >= 0 && $w->state[$whole] !== World::ABSENT;
            $turn = $together ? new Quaternion($w->qx[$whole], $w->qy[$whole], $w->qz[$whole], $w->qw[$whole]) : null;
            foreach ($entry['bodies'] as $k => $body) {
                if ($together && $turn !== null && $entry['centre'] !== null) {
                    $arm = $turn->turn($this->centre[$entry['pieces'][$k]]->minus($entry['centre']));
                    $out .= pack('g8', $w->px[$whole] + $arm->x, $w->py[$whole] + $arm->y, $w->pz[$whole] + $arm->z, 0.0, $turn->x, $turn->y, $turn->z, $turn->w);

                    continue;
                }
                $state = $w->state[$body];
                if ($state === World::MOVING) {
                    $moving++;
                } elseif ($state === World::RESTING) {
                    $resting++;
                }
                if (! is_finite($w->px[$body] + $w->py[$body] + $w->pz[$body] + $w->qw[$body])) {
                    throw $this->ranAway($body);
                }
                $out .= pack('g8', $w->px[$body], $w->py[$body], $w->pz[$body], $state === World::MOVING ? 1.0 : ($state === World::RESTING ? 2.0 : 0.0), $w->qx[$body], $w->qy[$body], $w->qz[$body], $w->qw[$body]);
            }
        }
        $deepest = $w->contacts->gap === [] ? 0.0 : max(0.0, -min($w->contacts->gap));

        return new Frame($this->frame, $out, [
            'released' => $this->releasedCount, 'moving' => $moving, 'resting' => $resting,
            'energy' => $w->energy(), 'overlap' => $deepest, 'seconds' => 0.0,
        ], $marks);
    }
}
