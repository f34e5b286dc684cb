<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Collide\Colliders;
use YardBreak\Core\Force\Obstacles;
use YardBreak\Core\Geometry\Vec3;

/** Surfaces of a shot's props, as far as forces look at them. */
final readonly class SceneObstacles implements Obstacles
{
    /** Share of the way to a place that something must stand before it to hide it. */
    private const BEFORE = 0.999;

    /** @param  \Closure(list<string>): Colliders  $of  the props of some ids where they are now */
    public function __construct(private ShotSpec $shot, private \Closure $of)
    {
    }

    /** As all stands at the first frame. */
    public static function still(ShotSpec $shot, PropParts $parts): self
    {
        return new self($shot, static fn (array $ids): Colliders => Standing::of($shot, $ids, $parts));
    }

    public function ways(string $prop, array $x, array $y, array $z): array
    {
        $none = array_fill(0, count($x), 0.0);
        if ($this->shot->prop($prop) === null) {
            return [$none, $none, $none];
        }
        $found = ($this->of)([$prop])->nearest($x, $y, $z, INF);
        $wx = $wy = $wz = [];
        foreach ($found->distance as $i => $d) {
            $d = is_finite($d) ? -$d : 0.0;
            $wx[] = $d * $found->nx[$i];
            $wy[] = $d * $found->ny[$i];
            $wz[] = $d * $found->nz[$i];
        }

        return [$wx, $wy, $wz];
    }

    public function hidden(string $by, string $but, Vec3 $from, array $x, array $y, array $z): array
    {
        $ids = [];
        foreach ($this->shot->props as $prop) {
            if ($prop->id !== $but && ($by === '' ? ! $prop->motion->letsGo() : $prop->id === $by)) {
                $ids[] = $prop->id;
            }
        }
        if ($ids === []) {
            return array_fill(0, count($x), false);
        }
        $n = count($x);
        $hits = ($this->of)($ids)->sweep([array_fill(0, $n, $from->x), array_fill(0, $n, $from->y), array_fill(0, $n, $from->z)], [$x, $y, $z], 0.0);

        return array_map(static fn (float $share): bool => $share < self::BEFORE, $hits->share);
    }
}
