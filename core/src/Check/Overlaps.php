<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Collide\SurfaceGap;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Progress;
use YardBreak\Core\SilentProgress;

/**
 * How deep pieces lie in each other and in the ground at one moment, by their true surfaces: the deepest corner of the one within
 * the other, as a share of how thick the thinner of the two is. What stands to each other as it did before the break is left out.
 */
final class Overlaps
{
    /** Share of the size within which two pieces stand to each other as before. */
    private const AS_BEFORE = 1e-5;

    /** @var list<ContactSurface|null> about their middles; made where they are asked for */
    private array $surfaces = [];

    /** @var list<float> metres, how thick each is */
    private array $thickness = [];

    /** @var list<Aabb> in the world */
    private array $boxes = [];

    /** @var array<int, array{depth: float, share: float, other: int|null, at: array{float, float, float}}> by piece, the deepest of each */
    private array $deepest = [];

    /**
     * @param  list<Shard>  $shards  of all props
     * @param  list<Pose>  $poses  of the same
     * @param  list<int>  $props  which prop each is of
     */
    private function __construct(private readonly array $shards, private readonly array $poses, private readonly array $props)
    {
        foreach ($shards as $k => $shard) {
            $pose = $poses[$k];
            $this->surfaces[] = null;
            $this->thickness[] = $pose->size * $shard->thickness();
            $this->boxes[] = Aabb::around($shard->mesh->placed($pose->placement($shard->centre())));
        }
    }

    /**
     * @param  list<Shard>  $shards  of all props
     * @param  list<Pose>  $poses  of the same
     * @param  list<int>  $props  which prop each is of
     * @return list<array{piece: int, depth: float, share: float, other: int|null, at: array{float, float, float}}> the pieces that have been let go,
     *   deepest share first: metres, share of the thinner one's thickness, number of the other or null for the ground, and where
     */
    public static function of(array $shards, array $poses, array $props, ?Ground $ground, Progress $progress = new SilentProgress): array
    {
        $own = new self($shards, $poses, $props);
        $free = array_keys(array_filter($poses, static fn (Pose $p): bool => $p->state !== Pose::HELD));
        foreach ($free as $k) {
            $own->deepest[$k] = ['depth' => 0.0, 'share' => 0.0, 'other' => null, 'at' => $poses[$k]->at->toArray()];
            if ($ground !== null) {
                $own->inGround($k, $ground);
            }
        }
        $pairs = $own->pairs();
        foreach ($pairs as $i => [$k, $m]) {
            $progress->report($i / count($pairs));
            $own->each($k, $m);
            $own->each($m, $k);
        }
        uasort($own->deepest, static fn (array $a, array $b): int => $b['share'] <=> $a['share']);
        $out = [];
        foreach ($own->deepest as $k => $found) {
            $out[] = ['piece' => $k, ...$found];
        }

        return $out;
    }

    /**
     * The share that so many of all stay below.
     *
     * @param  list<array{share: float, ...}>  $found  deepest first
     * @param  float  $part  of all, as 0.95
     */
    public static function percentile(array $found, float $part): float
    {
        return $found === [] ? 0.0 : $found[min(count($found) - 1, (int) floor((1.0 - $part) * count($found)))]['share'];
    }

    /** @return list<array{int, int}> pieces whose boxes meet, one of them let go, and which do not stand to each other as before */
    private function pairs(): array
    {
        $lows = array_map(static fn (Aabb $b): float => $b->low->x, $this->boxes);
        asort($lows);
        $open = $out = [];
        foreach ($lows as $k => $low) {
            $open = array_filter($open, fn (int $m): bool => $this->boxes[$m]->high->x >= $low);
            foreach ($open as $m) {
                if ((isset($this->deepest[$k]) || isset($this->deepest[$m])) && $this->boxes[$k]->meets($this->boxes[$m]) && ! $this->standAsBefore($k, $m)) {
                    $out[] = [min($k, $m), max($k, $m)];
                }
            }
            $open[] = $k;
        }

        return $out;
    }

    private function standAsBefore(int $k, int $m): bool
    {
        [$p, $q] = [$this->poses[$k], $this->poses[$m]];
        if ($this->props[$k] !== $this->props[$m] || $p->size !== $q->size) {
            return false;
        }
        $apart = $this->shards[$m]->centre()->minus($this->shards[$k]->centre());
        $now = $p->turn->inverse()->turn($q->at->minus($p->at))->times(1.0 / max(1e-12, $p->size));
        $turned = $p->turn->inverse()->after($q->turn);

        return $now->minus($apart)->length() < self::AS_BEFORE * max(1e-9, $apart->length())
            && sqrt($turned->x ** 2 + $turned->y ** 2 + $turned->z ** 2) < self::AS_BEFORE;
    }

    /** Corners of one that lie within another. */
    private function each(int $k, int $m): void
    {
        $one = $this->surface($k);
        $other = $this->surface($m);
        if (! $other->closed) {
            return;
        }
        // Their surfaces are about their middles.
        $place = $this->poses[$m]->placement(Vec3::zero());
        $seen = self::points($one)->placed($place->inverse()->after($this->poses[$k]->placement(Vec3::zero())));
        $box = $other->box;
        $deepest = 0.0;
        $where = null;
        foreach ($seen->x as $v => $px) {
            $py = $seen->y[$v];
            $pz = $seen->z[$v];
            if ($px <= $box[0] || $px >= $box[1] || $py <= $box[2] || $py >= $box[3] || $pz <= $box[4] || $pz >= $box[5]) {
                continue;
            }
            $depth = -SurfaceGap::to($other, $px, $py, $pz, $other->size);
            if ($depth > $deepest) {
                $deepest = $depth;
                $where = [$px, $py, $pz];
            }
        }
        if ($where !== null) {
            $at = $place->point(new Vec3(...$where));
            $thin = min($this->thickness[$k], $this->thickness[$m]);
            $this->note($k, $m, $deepest * $place->size, $thin, $at);
            $this->note($m, $k, $deepest * $place->size, $thin, $at);
        }
    }

    private function inGround(int $k, Ground $ground): void
    {
        if ($this->boxes[$k]->low->y >= 0.0) {
            return;
        }
        $points = self::points($this->surface($k))->placed($this->poses[$k]->placement(Vec3::zero()));
        foreach ($points->x as $v => $px) {
            $py = $points->y[$v];
            $pz = $points->z[$v];
            if ($py >= 0.0) {
                continue;
            }
            // Along the normal of the slope there.
            [$sx, $sz] = $ground->slope($px, $pz);
            $depth = ($ground->height($px, $pz) - $py) / sqrt(1.0 + $sx * $sx + $sz * $sz);
            if ($depth > 0.0) {
                $this->note($k, null, $depth, $this->thickness[$k], new Vec3($px, $py, $pz));
            }
        }
    }

    private function note(int $k, ?int $other, float $depth, float $thickness, Vec3 $at): void
    {
        $share = $depth / max(1e-12, $thickness);
        if (isset($this->deepest[$k]) && $share > $this->deepest[$k]['share']) {
            $this->deepest[$k] = ['depth' => $depth, 'share' => $share, 'other' => $other, 'at' => $at->toArray()];
        }
    }

    private function surface(int $k): ContactSurface
    {
        return $this->surfaces[$k] ??= new ContactSurface($this->shards[$k]->mesh->movedBy($this->shards[$k]->centre()->times(-1.0)));
    }

    /** Its points alone. */
    private static function points(ContactSurface $surface): Mesh
    {
        return new Mesh($surface->x, $surface->y, $surface->z, []);
    }
}
