<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\SurfacePoint;
use YardBreak\Core\Motion\Surfaces;

/** The hulls of all bodies as they stand now. */
final class BodySurfaces implements Surfaces
{
    private readonly ColliderSet $set;

    private readonly ConvexDistance $query;

    /** Number of the collider that stands for the point asked about. */
    private readonly int $probe;

    public function __construct(private readonly World $world)
    {
        $world->colliders->follow($world);
        $this->set = clone $world->colliders;
        $this->probe = $this->set->add(count($world->state), Hull::ball(0.0), Vec3::zero(), 0.0, 0.0, -1);
        $this->query = new ConvexDistance;
    }

    public function nearest(Vec3 $point, float $within): ?SurfacePoint
    {
        $set = $this->set;
        $v = $set->first[$this->probe];
        $set->cx[$v] = $point->x;
        $set->cy[$v] = $point->y;
        $set->cz[$v] = $point->z;
        $best = null;
        $least = $within;
        foreach ($set->body as $c => $body) {
            if ($c === $this->probe || $this->world->state[$body] === World::ABSENT) {
                continue;
            }
            $k = 6 * $c;
            $away = max($set->box[$k] - $point->x, $point->x - $set->box[$k + 1], $set->box[$k + 2] - $point->y, $point->y - $set->box[$k + 3], $set->box[$k + 4] - $point->z, $point->z - $set->box[$k + 5]);
            if ($away > $least) {
                continue;
            }
            $query = $this->query;
            $query->colliderA = $c;
            $query->colliderB = $this->probe;
            $query->turnA = $this->world->matrix($body);
            $query->turnB = [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0];
            $query->between($set, [$set->first[$c], $v], $least + $set->margin[$c]);
            $distance = $query->gap - $set->margin[$c];
            if ($distance <= $least) {
                $least = $distance;
                $best = [$body, new Vec3($query->nx, $query->ny, $query->nz)];
            }
        }
        if ($best === null) {
            return null;
        }
        [$body, $normal] = $best;
        $at = $point->minus($normal->times($least));

        return new SurfacePoint($at, $normal, $least, $this->velocity($body, $at), $this->world->groupOf($body));
    }

    private function velocity(int $body, Vec3 $at): Vec3
    {
        $w = $this->world;
        if ($w->state[$body] === World::STILL || $w->state[$body] === World::RESTING) {
            return Vec3::zero();
        }
        $arm = $at->minus(new Vec3($w->px[$body], $w->py[$body], $w->pz[$body]));
        $velocity = (new Vec3($w->vx[$body], $w->vy[$body], $w->vz[$body]))->plus((new Vec3($w->wx[$body], $w->wy[$body], $w->wz[$body]))->cross($arm));
        if (isset($w->growth[$body])) {
            [$rate, $x, $y, $z] = $w->growth[$body];
            $velocity = $velocity->plus($at->minus(new Vec3($x, $y, $z))->times($rate));
        }

        return $velocity;
    }
}
