<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;

/** A mover none of whose things is a piece that moves as one body: what it moves is written as streams of its own. */
trait WithoutBodies
{
    public static function needsMass(): bool
    {
        return false;
    }

    public function has(int $prop, int $piece): bool
    {
        return false;
    }

    public function exchanges(Moment $from): int
    {
        return 1;
    }

    public function arrive(Moment $at, Surroundings $around): void
    {
    }

    public function pose(int $prop, int $piece, float $back = 0.0): Pose
    {
        throw self::noBody();
    }

    public function velocityOf(int $prop, int $piece, Vec3 $at): Vec3
    {
        throw self::noBody();
    }

    public function body(int $prop, int $piece): ?Body
    {
        return null;
    }

    public function push(int $prop, int $piece, Vec3 $at, Vec3 $impulse): void
    {
        throw self::noBody();
    }

    public function settle(int $one, int $other): void
    {
    }

    public function openings(int $prop): array
    {
        return [];
    }

    public function figures(): Figures
    {
        return new Figures;
    }

    private static function noBody(): Problem
    {
        return new Problem('internal', 'A piece was asked for of a mover that has none.', '', 'Report this; it is a fault of Yard Break.');
    }
}
