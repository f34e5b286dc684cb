<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SilentProgress;

/** A piece as a rigid body: its mass, and the convex hulls it collides with. */
final readonly class Solid
{
    /** A solid whose hull is larger than itself by more than this collides as several hulls. */
    private const HOLLOW = 1.06;

    /** Thickness of a film, as a share of its own extent. */
    private const FILM = 1e-4;

    /**
     * @param  MassProperties  $mass  of density 1; its volume may be none
     * @param  Vec3  $centre  what it turns about, in its prop's coordinates
     * @param  list<Hull>  $hulls  about that centre
     * @param  bool  $film  whether it is too thin to be moved well
     */
    private function __construct(public string $name, public MassProperties $mass, public Vec3 $centre, public array $hulls, public bool $film)
    {
    }

    /**
     * @param  list<Shard>  $shards  of one prop
     * @return list<self>
     */
    public static function all(array $shards, Progress $progress = new SilentProgress): array
    {
        $out = [];
        $n = count($shards);
        foreach ($shards as $k => $shard) {
            $progress->report($k / $n);
            $out[] = self::of($shard, $n === 1);
        }

        return $out;
    }

    /** A single hollow prop (a bowl, a ring) collides as several hulls, a shard as one. */
    private static function of(Shard $shard, bool $alone): self
    {
        $centre = $shard->centre();
        $hulls = self::hulls($shard, $centre, $alone);
        $size = max(array_map(static fn (Hull $h): float => $h->size, $hulls));

        return new self($shard->name, $shard->mass, $centre, $hulls, $shard->thickness() < self::FILM * $size);
    }

    /** @return non-empty-list<Hull> */
    private static function hulls(Shard $shard, Vec3 $centre, bool $alone): array
    {
        $mesh = $shard->mesh;
        $parts = [$mesh];
        if ($alone) {
            $m = $mesh->movedBy($centre->times(-1.0));
            $radius = Hull::ballRadius($m->x, $m->y, $m->z);
            if ($radius !== null) {
                return [Hull::ball($radius)];
            }
        }
        if ($alone && $shard->mass->volume > 0.0 && self::hullVolume($mesh) > self::HOLLOW * $shard->mass->volume) {
            try {
                $parts = array_map(static fn (Shard $s): Mesh => $s->mesh, (new Cells(32, 1, 0.8))->break($mesh, new SilentProgress)) ?: $parts;
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

    private static function hullVolume(Mesh $mesh): float
    {
        try {
            return Hull::around($mesh->x, $mesh->y, $mesh->z)->volume();
        } catch (\UnexpectedValueException) {
            return 0.0;
        }
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
