<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\FineMesh;
use YardBreak\Core\Geometry\Mesh;

/** The pieces of a prop whose surface changes by weight maps, in faces so small that the change can be seen. */
final class Skin
{
    /** Whether weight maps change what the surface of a prop looks like. */
    public static function has(PropSpec $prop): bool
    {
        return self::maps($prop) !== [];
    }

    /** @return array<'second'|'appears'|'relief', string> id of the map by what it changes */
    public static function maps(PropSpec $prop): array
    {
        return array_filter([
            'second' => $prop->material->second->map ?? '',
            'appears' => $prop->appears === null || $prop->appears->byPiece() ? '' : $prop->appears->map,
            'relief' => $prop->relief->map ?? '',
        ], static fn (string $map): bool => $map !== '');
    }

    /**
     * The same pieces in smaller faces; as they are where their points move by themselves.
     *
     * @param  list<Shard>  $shards
     * @return list<Shard>
     */
    public static function fine(PropSpec $prop, array $shards): array
    {
        if ($prop->isFinished()) {
            return $shards;
        }
        $longest = FineMesh::SHARE * Aabb::around(...array_map(static fn (Shard $s): Mesh => $s->mesh, $shards))->diagonal();

        return array_map(static fn (Shard $s): Shard => new Shard($s->name, FineMesh::to($s->mesh, $longest), $s->mass), $shards);
    }
}
