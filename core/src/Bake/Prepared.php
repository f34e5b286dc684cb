<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Colliders;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Shot\Anchors;
use YardBreak\Core\Shot\PropParts;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Shot\Standing;

/** What is known of the pieces of a prop before anything moves. */
final readonly class Prepared
{
    /** What reaches lower than this share of its own size stands on the ground. */
    private const GROUNDED = 0.02;

    /**
     * @param  list<string>  $names
     * @param  list<Vec3>  $middles  in the prop's own coordinates
     * @param  array<int, true>  $grounded  pieces that stand on the ground
     * @param  array<int, true>  $anchored  pieces that stay held whatever happens
     * @param  \Closure(): list<Joint>  $joints  between pieces that lie face to face
     */
    private function __construct(public array $names, public array $middles, public array $grounded, public array $anchored, private \Closure $joints)
    {
    }

    public static function none(): self
    {
        return new self([], [], [], [], static fn (): array => []);
    }

    /**
     * @param  list<Solid>  $solids
     * @param  PropParts|null  $parts  where it is asked which pieces lie face to face; without them none do
     */
    public static function ofSolids(ShotSpec $shot, PropSpec $prop, array $solids, ?PropParts $parts): self
    {
        $grounded = [];
        $over = self::canStand($shot, $prop) ? Standing::of($shot, [Standing::GROUND], $parts) : null;
        foreach ($over === null ? [] : $solids as $piece => $solid) {
            foreach ($solid->hulls as $hull) {
                if (self::stands($over, $prop->place->at($shot->first), $hull->x, $hull->y, $hull->z, $solid->centre, $hull->size)) {
                    $grounded[$piece] = true;
                }
            }
        }

        $names = array_map(static fn (Solid $s): string => $s->name, $solids);

        return new self(
            $names, array_map(static fn (Solid $s): Vec3 => $s->centre, $solids), $grounded,
            $prop->motion->letsGo() ? Anchors::of($shot, $prop, $names, static fn (int $piece): array => $solids[$piece]->corners(), $parts) : [],
            static fn (): array => $parts === null ? [] : $parts->joints($prop),
        );
    }

    public static function ofParts(ShotSpec $shot, PropSpec $prop, PropParts $parts): self
    {
        $shards = $parts->pieces($prop);
        $grounded = [];
        $over = self::canStand($shot, $prop) ? Standing::of($shot, [Standing::GROUND], $parts) : null;
        foreach ($over === null ? [] : $shards as $piece => $shard) {
            $m = $shard->mesh;
            if (self::stands(
                $over,
                $prop->place->at($shot->first),
                $m->x,
                $m->y,
                $m->z,
                Vec3::zero(),
                max(max($m->x) - min($m->x), max($m->y) - min($m->y), max($m->z) - min($m->z)),
            )) {
                $grounded[$piece] = true;
            }
        }

        $names = array_map(static fn (Shard $s): string => $s->name, $shards);

        return new self(
            $names, array_map(static fn (Shard $s): Vec3 => $s->centre(), $shards), $grounded,
            Anchors::of($shot, $prop, $names, static fn (int $piece): array => [$shards[$piece]->mesh->x, $shards[$piece]->mesh->y, $shards[$piece]->mesh->z], $parts),
            static fn (): array => $parts->joints($prop),
        );
    }

    /** @return array<int, list<int>> pieces beside a piece */
    public function beside(): array
    {
        $out = [];
        foreach (($this->joints)() as $joint) {
            $out[$joint->one][] = $joint->other;
            $out[$joint->other][] = $joint->one;
        }

        return $out;
    }

    private static function canStand(ShotSpec $shot, PropSpec $prop): bool
    {
        return $shot->hasGround() && ($prop->motion->follow->unsupported ?? false);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    private static function stands(Colliders $ground, Placement $place, array $x, array $y, array $z, Vec3 $offset, float $size): bool
    {
        $px = $py = $pz = [];
        foreach ($x as $i => $v) {
            [$px[], $py[], $pz[]] = $place->point($offset->plus(new Vec3($v, $y[$i], $z[$i])))->toArray();
        }
        $near = self::GROUNDED * $size;

        return $px !== [] && min($ground->nearest($px, $py, $pz, $near)->distance) < $near;
    }
}
