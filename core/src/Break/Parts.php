<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Progress;

/** A compound prop taken apart into the parts it is made of: the letters of a word. */
final class Parts implements Pattern
{
    public static function label(): string
    {
        return 'Parts';
    }

    public static function meaning(): string
    {
        return 'The parts it is made of, as they are';
    }

    public static function options(): array
    {
        return [];
    }

    public static function of(array $values): self
    {
        return new self;
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        $out = [];
        $parts = Islands::of($solid->faces, $solid->x, $solid->y, $solid->z);
        // From left to right, as a word is read.
        usort($parts, static fn (array $a, array $b): int => self::left($solid, $a) <=> self::left($solid, $b));
        foreach ($parts as $k => $part) {
            $mesh = $solid->only($part);
            $out[] = new Shard(sprintf('part-%04d', $k + 1), $mesh, MassProperties::of($mesh));
        }

        return $out;
    }

    /** @param  list<int>  $part */
    private static function left(Mesh $solid, array $part): float
    {
        return min(array_map(static fn (int $f): float => $solid->x[$solid->faces[3 * $f]], $part));
    }
}
