<?php

declare(strict_types=1);

namespace App\Yard;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\ContactBalls;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Shape\ShapeCatalogue;

/** What the pieces of a prop collide as, in the form of their picture, with what there is to say of it. */
final class ContactPicture
{
    /**
     * @param  list<Shard>  $shards
     * @param  list<Solid>  $solids  of the same
     * @param  float  $simplified  metres that those which are held may lie off their surface
     */
    public static function encode(array $shards, array $solids, float $simplified): string
    {
        $meshes = array_map(self::mesh(...), $solids);
        $list = [];
        foreach ($shards as $k => $shard) {
            $list[] = ['name' => $shard->name, 'volume' => $shard->mass->volume, 'centre' => $solids[$k]->centre->toArray()];
        }
        $parts = array_map(static fn (Solid $s): int => count($s->hulls), $solids);
        $deviations = array_map(static fn (Solid $s): float => $s->deviation, $solids);

        return PropPicture::packed($meshes, $list, [
            'contact' => [
                'true' => $solids !== [] && $solids[0]->surface !== null,
                'faces' => array_sum(array_map(static fn (Solid $s): int => intdiv(count($s->surface->faces ?? []), 3), $solids)),
                'of' => array_sum(array_map(static fn (Shard $s): int => $s->mesh->faceCount(), $shards)),
                'simplified' => $simplified,
                'parts' => array_sum($parts),
                'several' => count(array_filter($parts, static fn (int $n): bool => $n > 1)),
                'deviation' => $deviations === [] ? 0.0 : max($deviations),
                'balls' => self::balls($shards, $solids),
                'deepest' => $deviations === [] ? 0 : (int) array_search(max($deviations), $deviations, true),
            ],
        ]);
    }

    /**
     * @param  list<Shard>  $shards
     * @param  list<Solid>  $solids
     * @return array{pairs: int, fits: float}|null null where they are no balls, or one alone
     */
    private static function balls(array $shards, array $solids): ?array
    {
        if (count($solids) < 2 || count(array_filter($solids, static fn (Solid $s): bool => ($s->hulls[0]->roundness ?? 0.0) > 0.0)) < count($solids)) {
            return null;
        }

        return ContactBalls::overlaps(
            array_map(static fn (Solid $s): Vec3 => $s->centre, $solids),
            array_map(static fn (Solid $s): float => $s->hulls[0]->roundness, $solids),
            array_map(static fn (Shard $s): float => max(Aabb::around($s->mesh)->size()->toArray()), $shards),
        );
    }

    /** About the middle of the piece. */
    private static function mesh(Solid $solid): Mesh
    {
        if ($solid->surface !== null) {
            return new Mesh($solid->surface->x, $solid->surface->y, $solid->surface->z, $solid->surface->faces);
        }

        return Mesh::merged(...array_map(self::ofHull(...), $solid->hulls));
    }

    private static function ofHull(Hull $hull): Mesh
    {
        if ($hull->roundness <= 0.0) {
            return $hull->mesh();
        }

        // Shapes stand on the ground.
        return ShapeCatalogue::mesh('ball', ['radius' => $hull->roundness])->movedBy(new Vec3(0.0, -$hull->roundness, 0.0));
    }
}
