<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Break\Neighbours;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Format\PictureReader;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Weight\Picture;

/** What maps are made of, made when it is asked for. */
final class MadeParts implements PropParts
{
    use KeepsNothing;

    /** @var array<string, list<Shard>> by prop */
    private array $shards;

    /** @var array<string, list<Joint>> by prop */
    private array $joints = [];

    /** @param  array<string, list<Shard>>  $shards  by prop, as far as they are made already */
    public function __construct(private readonly PropMaker $maker, private readonly AssetSource $assets, array $shards = [])
    {
        $this->shards = $shards;
    }

    public function mesh(PropSpec $prop): Mesh
    {
        return $this->maker->mesh($prop);
    }

    public function pieces(PropSpec $prop): array
    {
        return $this->shards[$prop->id] ??= $this->maker->shards($prop, new SilentProgress);
    }

    public function joints(PropSpec $prop): array
    {
        return $this->joints[$prop->id] ??= Neighbours::of($this->pieces($prop));
    }

    public function named(PropSpec $prop, NamedFaces $by, string $name): Mesh
    {
        return $this->maker->named($prop, $by, $name);
    }

    public function picture(string $asset): Picture
    {
        return PictureReader::brightness($this->assets->path($asset));
    }
}
