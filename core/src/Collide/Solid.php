<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Progress;
use YardBreak\Core\SilentProgress;

/** A piece as a rigid body: its mass, and what it collides with: convex hulls where it is to move freely, its true surface where it never does. */
final readonly class Solid
{
    public const PARTS = 'parts';

    public const HULL = 'hull';

    public const BALL = 'ball';

    /** Nothing: its points move by themselves. */
    public const NONE = 'none';

    /** What a piece that moves freely may collide as. */
    public const SHAPES = [self::PARTS, self::HULL, self::BALL];

    /** Share of its size that the surface of a whole prop may lie inside its hulls, and how many these may be. */
    private const WHOLE_WITHIN = 0.02;

    private const WHOLE_PARTS = 16;

    /** Likewise of a shard. */
    private const SHARD_WITHIN = 0.03;

    private const SHARD_PARTS = 12;

    /** m³, what a body has at least. */
    private const LEAST_VOLUME = 1e-12;

    /** Thickness of a film, as a share of its own extent. */
    private const FILM = 1e-4;

    /**
     * @param  MassProperties  $mass  of density 1; its volume may be none
     * @param  Vec3  $centre  what it turns about, in its prop's coordinates
     * @param  list<Hull>  $hulls  about that centre; none where it is held
     * @param  ContactSurface|null  $surface  about that centre; only where it is held
     * @param  bool  $film  whether it is too thin to be moved well
     * @param  float  $deviation  share of its size that its surface lies inside its hulls at most
     */
    private function __construct(
        public string $name,
        public MassProperties $mass,
        public Vec3 $centre,
        public array $hulls,
        public ?ContactSurface $surface,
        public bool $film,
        public float $deviation = 0.0,
    ) {
    }

    /**
     * Pieces that are let go to something that moves them.
     *
     * @param  list<Shard>  $shards  of one prop
     * @param  string  $shape  one of SHAPES, or NONE
     * @param  float  $ball  how large a ball is, as a share of the size of its piece; 0 for one of like volume
     * @return list<self>
     */
    public static function free(array $shards, string $shape = self::PARTS, Progress $progress = new SilentProgress, float $ball = 0.0): array
    {
        $out = [];
        $n = count($shards);
        foreach ($shards as $k => $shard) {
            $progress->report($k / $n);
            $out[] = self::of($shard, $n === 1, $shape, $ball);
        }

        return $out;
    }

    /**
     * Pieces that stay where they are, or go where keys or maps lead them.
     *
     * @param  list<Shard>  $shards  of one prop
     * @param  float  $deviation  metres that what others meet of them may lie off their surface
     * @return list<self>
     */
    public static function held(array $shards, float $deviation = 0.0, Progress $progress = new SilentProgress): array
    {
        $out = [];
        $within = count($shards) === 1 ? $progress : new SilentProgress;
        foreach ($shards as $k => $shard) {
            $progress->report($k / count($shards));
            $centre = $shard->centre();
            $out[] = new self($shard->name, $shard->mass, $centre, [], new ContactSurface(SimplerSurface::of($shard->mesh, $deviation, $within)->movedBy($centre->times(-1.0))), false);
        }

        return $out;
    }

    /** Its mass about what it turns about, never none. */
    public function own(): MassProperties
    {
        return new MassProperties(max($this->mass->volume, self::LEAST_VOLUME), $this->centre, $this->mass->inertia);
    }

    /** The same with so many times the mass. */
    public function weighing(float $share): self
    {
        $mass = new MassProperties($share * $this->mass->volume, $this->mass->centroid, array_map(static fn (float $i): float => $share * $i, $this->mass->inertia));

        return new self($this->name, $mass, $this->centre, $this->hulls, $this->surface, $this->film, $this->deviation);
    }

    /** @return array{list<float>, list<float>, list<float>} corners of its hulls, in its prop's coordinates */
    public function corners(): array
    {
        $x = $y = $z = [];
        foreach ($this->hulls as $hull) {
            foreach ($hull->x as $i => $v) {
                $x[] = $this->centre->x + $v;
                $y[] = $this->centre->y + $hull->y[$i];
                $z[] = $this->centre->z + $hull->z[$i];
            }
        }

        return [$x, $y, $z];
    }

    /** Metres, the largest extent of what it collides with. */
    public function size(): float
    {
        return $this->surface !== null ? $this->surface->size : max(0.0, ...array_map(static fn (Hull $h): float => $h->size, $this->hulls));
    }

    /** Metres, how far its hulls reach from a place about its centre. */
    public function reachesFrom(Vec3 $at): float
    {
        $far = 0.0;
        foreach ($this->hulls as $hull) {
            foreach ($hull->x as $i => $x) {
                $far = max($far, ($x - $at->x) ** 2 + ($hull->y[$i] - $at->y) ** 2 + ($hull->z[$i] - $at->z) ** 2);
            }
        }

        return sqrt($far);
    }

    /**
     * What it collides with, as surfaces.
     *
     * @return list<ContactSurface|float> metres, the radius of a ball about its centre
     */
    public function surfaces(): array
    {
        return $this->surface !== null
            ? [$this->surface]
            : array_map(static fn (Hull $h): ContactSurface|float => $h->roundness > 0.0 ? $h->roundness : new ContactSurface($h->mesh()), $this->hulls);
    }

    /** A whole prop is taken more exactly than a shard. */
    private static function of(Shard $shard, bool $alone, string $shape, float $ball): self
    {
        $centre = $shard->centre();
        if ($shape === self::NONE) {
            return new self($shard->name, $shard->mass, $centre, [], null, false);
        }
        $m = $shard->mesh->movedBy($centre->times(-1.0));
        $radius = $alone ? Hull::ballRadius($m->x, $m->y, $m->z) : null;
        if ($shape === self::BALL && $ball > 0.0) {
            $radius = max(1e-6, 0.5 * $ball * max(max($m->x) - min($m->x), max($m->y) - min($m->y), max($m->z) - min($m->z)));
        } elseif ($shape === self::BALL) {
            $radius ??= max(1e-6, (0.75 / M_PI * abs($shard->mass->volume)) ** (1.0 / 3.0));
        }
        [$hulls, $deviation] = match (true) {
            $radius !== null => [[Hull::ball($radius)], 0.0],
            $shape === self::HULL => ConvexParts::of($m, 1.0, 1),
            default => ConvexParts::of($m, ...($alone ? [self::WHOLE_WITHIN, self::WHOLE_PARTS, true] : [self::SHARD_WITHIN, self::SHARD_PARTS, false])),
        };
        $size = max(array_map(static fn (Hull $h): float => $h->size, $hulls));

        return new self($shard->name, $shard->mass, $centre, $hulls, null, $shard->thickness() < self::FILM * $size, $deviation);
    }

    /**
     * The mass of several taken as one.
     *
     * @param  non-empty-list<self>  $solids
     */
    public static function together(array $solids): MassProperties
    {
        $volume = 0.0;
        $moment = Vec3::zero();
        foreach ($solids as $s) {
            $volume += $s->mass->volume;
            $moment = $moment->plus($s->mass->centroid->times($s->mass->volume));
        }
        $centre = $moment->times(1.0 / $volume);
        $sum = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        foreach ($solids as $s) {
            $d = $s->mass->centroid->minus($centre);
            $v = $s->mass->volume;
            // Parallel axes.
            $shift = [
                $d->y * $d->y + $d->z * $d->z,
                $d->z * $d->z + $d->x * $d->x,
                $d->x * $d->x + $d->y * $d->y,
                -$d->x * $d->y,
                -$d->y * $d->z,
                -$d->z * $d->x,
            ];
            foreach ($shift as $i => $value) {
                $sum[$i] += $s->mass->inertia[$i] + $v * $value;
            }
        }

        return new MassProperties($volume, $centre, $sum);
    }
}
