<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Force\Obstacles;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Push\Leaving;
use YardBreak\Core\Quantity;
use YardBreak\Core\Rigid\RigidSettings;
use YardBreak\Core\Rigid\Sail;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/**
 * How one piece would fly if it were let go alone at a frame: by gravity, forces and what it is sent off with, as a body that shows the
 * air the same on all sides, until it comes down to the ground. What it would meet on its way is left out.
 */
final readonly class Forecast
{
    /** Steps of a frame. */
    private const STEPS = 8;

    /** Seconds it is followed at most. */
    private const LONGEST = 8.0;

    /**
     * @param  list<array{float, float, float}>  $path  m, from frame to frame, and where it lands
     * @param  string  $words  what becomes of it
     */
    private function __construct(public array $path, public string $words)
    {
    }

    /**
     * @param  Solid  $solid  the piece
     * @param  Shard|null  $shard  the same, with its surface, where it is sent off by that
     * @param  \Closure(string): list<float>  $weights  of the pieces of a map's prop then
     */
    public static function of(ShotSpec $shot, PropSpec $prop, int $piece, Solid $solid, ?Shard $shard, float $frame, \Closure $weights, ?Obstacles $obstacles = null): self
    {
        $place = $prop->place->at($frame);
        $at = $place->point($solid->centre);
        $velocity = self::sentOff($prop, $piece, $solid, $shard, $frame, $weights)
            ->plus($prop->place->at($frame + 0.5)->point($solid->centre)->minus($prop->place->at($frame - 0.5)->point($solid->centre))->times(1.0 / $shot->frameTime()));
        $density = $prop->material->density;
        $mass = max(1e-12, $solid->own()->volume * $density);
        $area = $solid->hulls === [] ? 0.0 : Sail::of(array_map(static fn (Hull $h): array => [$h, Vec3::zero()], $solid->hulls))->meanArea();
        $drag = $prop->motion->settings instanceof RigidSettings ? $prop->motion->settings->drag : 1.0;
        $low = 0.5 * min(array_map(static fn (Hull $h): float => $h->thickness(), $solid->hulls) ?: [0.0]);
        $path = [$at->toArray()];
        $top = $at->y;
        $from = $at;
        $h = $shot->frameTime() / self::STEPS;
        for ($k = 0, $end = (int) (self::LONGEST / $h); $k < $end; $k++) {
            $now = $frame + $k / self::STEPS;
            $effect = $shot->effect($prop, [$piece], [$at->x], [$at->y], [$at->z], $now + 0.5 / self::STEPS, $h, $weights, $obstacles);
            $air = $effect->density[0];
            $against = (new Vec3($effect->ux[0], $effect->uy[0], $effect->uz[0]))->minus($velocity);
            // Air brakes by its square; taken at the speed it is left with, no step can overshoot.
            $k2 = 0.5 * $air * $drag * $area / $mass * $against->length() * $h;
            $pull = $shot->gravity->at($now)->times(1.0 - $air / $density)->plus(new Vec3($effect->ax[0], $effect->ay[0], $effect->az[0]));
            $struck = isset($effect->strikes[0]) ? $effect->strikes[0]->times($area / $mass) : Vec3::zero();
            $next = $velocity->plus($pull->times($h))->plus($against->times($k2 / (1.0 + $k2)))->plus($struck)->times(exp(-$effect->slowing[0] * $h));
            $at = $at->plus($velocity->plus($next)->times(0.5 * $h));
            $velocity = $next;
            $top = max($top, $at->y);
            $ground = $shot->ground?->height($at->x, $at->z);
            if ($ground !== null && $at->y - $low <= $ground && $velocity->y < 0.0) {
                $path[] = [$at->x, $ground + $low, $at->z];
                $far = sqrt(($at->x - $from->x) ** 2 + ($at->z - $from->z) ** 2);

                return new self($path, 'Alone it comes down '.Quantity::show($far, 'm').' off after '.Quantity::show(($k + 1) * $h, 's').', at '.Quantity::show($velocity->length(), 'm/s').($top > $from->y + 0.01 ? ', up to '.Quantity::show($top - $from->y, 'm').' higher on its way' : '').'.');
            }
            if (($k + 1) % self::STEPS === 0) {
                $path[] = $at->toArray();
            }
        }

        return new self($path, 'Alone it is still in the air after '.Quantity::show(self::LONGEST, 's').', '.Quantity::show($at->minus($from)->length(), 'm').' off.');
    }

    /**
     * m/s that it is pushed with as it goes.
     *
     * @param  \Closure(string): list<float>  $weights
     */
    private static function sentOff(PropSpec $prop, int $piece, Solid $solid, ?Shard $shard, float $frame, \Closure $weights): Vec3
    {
        $place = $prop->place->at($frame);
        $sum = $prop->motion->settings instanceof RigidSettings ? $prop->motion->settings->push($frame) : Vec3::zero();
        foreach ($prop->motion->pushes as [$class, $values, $map]) {
            $normal = $shard === null ? Vec3::zero() : $place->turn->turn($shard->outwards());
            $share = $map === '' ? 1.0 : $weights($map)[$piece];
            $sum = $sum->plus($class::of($values->at($frame))->on(new Leaving($piece, $place->point($solid->centre), $normal, $place))->velocity->times($share));
        }

        return $sum;
    }
}
