<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Format\PictureReader;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Problem;
use YardBreak\Core\Weight\Picture;

/** What maps are made of that a break is steered by: meshes and pictures, but no pieces, for those are not made yet. */
final readonly class UnbrokenParts implements PropParts
{
    use KeepsNothing;

    public function __construct(private PropMaker $maker, private AssetSource $assets)
    {
    }

    public function mesh(PropSpec $prop): Mesh
    {
        return $this->maker->mesh($prop);
    }

    public function pieces(PropSpec $prop): array
    {
        throw self::unbroken($prop);
    }

    public function joints(PropSpec $prop): array
    {
        throw self::unbroken($prop);
    }

    public function named(PropSpec $prop, NamedFaces $by, string $name): Mesh
    {
        return $this->maker->named($prop, $by, $name);
    }

    public function picture(string $asset): Picture
    {
        return PictureReader::brightness($this->assets->path($asset));
    }

    private static function unbroken(PropSpec $prop): Problem
    {
        return Problem::inValue(
            '',
            'This map looks at the pieces of '.$prop->name.', so it cannot steer how pieces are made.',
            'Take a map that goes by places alone.',
        );
    }
}
