<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** Vertices of a mesh that lie in one place. */
final class SamePlaces
{
    /** Share of the size of the mesh within which places are one. */
    private const ONE = 1e-6;

    /**
     * @param  list<int>  $pieceOf  piece of each vertex: those of two are never one; none where it is all one
     * @return list<int> by vertex: the first vertex in the same place
     */
    public static function of(Mesh $mesh, array $pieceOf = []): array
    {
        if ($mesh->x === []) {
            return [];
        }
        $k = 1.0 / (self::ONE * max(1e-9, max($mesh->x) - min($mesh->x), max($mesh->y) - min($mesh->y), max($mesh->z) - min($mesh->z)));
        $known = $out = [];
        foreach ($mesh->x as $v => $x) {
            $out[] = $known[($pieceOf[$v] ?? 0).' '.round($k * $x).' '.round($k * $mesh->y[$v]).' '.round($k * $mesh->z[$v])] ??= $v;
        }

        return $out;
    }

    /**
     * The same, numbered without gaps.
     *
     * @param  list<int>  $pieceOf
     * @return array{list<int>, list<int>} by vertex its place, and by place the first vertex there
     */
    public static function numbered(Mesh $mesh, array $pieceOf = []): array
    {
        $first = self::of($mesh, $pieceOf);
        $vertices = array_keys(array_flip($first));
        $numbers = array_flip($vertices);

        return [array_map(static fn (int $v): int => $numbers[$v], $first), $vertices];
    }
}
