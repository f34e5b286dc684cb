<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Problem;
use YardBreak\Core\Weight\Picture;

/** For whoever asks only what maps depend on, not what they are. */
final class NoParts implements PropParts
{
    use KeepsNothing;

    public function mesh(PropSpec $prop): Mesh
    {
        throw self::none();
    }

    public function pieces(PropSpec $prop): array
    {
        throw self::none();
    }

    public function joints(PropSpec $prop): array
    {
        throw self::none();
    }

    public function named(PropSpec $prop, NamedFaces $by, string $name): Mesh
    {
        throw self::none();
    }

    public function picture(string $asset): Picture
    {
        throw self::none();
    }

    private static function none(): Problem
    {
        return new Problem('internal', 'There is nothing here to work a weight map out from.', '', 'Report this; it is a fault of Yard Break.');
    }
}
