<?php

declare(strict_types=1);

namespace App\Yard;

use App\Storage\AssetStore;
use App\Storage\MapStore;
use App\Storage\ShardStore;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Format\PictureReader;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Progress;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropParts;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Weight\Picture;

/** What maps are made of, out of the yard's stores. */
final class StoredParts implements PropParts
{
    /** @var array{string, list<Shard>} pieces asked for last, and what they are made of: frame by frame the same are looked at */
    private array $last = ['', []];

    public function __construct(private readonly PropMaker $maker, private readonly ShardStore $shards, private readonly AssetStore $assets, private readonly Progress $progress = new SilentProgress)
    {
    }

    /** The same, telling how it gets on; that may end it. */
    public function telling(Progress $progress): self
    {
        return new self($this->maker, $this->shards, $this->assets, $progress);
    }

    public function recall(string $of): ?array
    {
        return (new MapStore)->recall($of);
    }

    public function keep(string $of, array $values): void
    {
        (new MapStore)->keep($of, $values);
    }

    public function goOn(): void
    {
        $this->progress->report(0.0);
    }

    public function mesh(PropSpec $prop): Mesh
    {
        return $this->maker->mesh($prop);
    }

    public function pieces(PropSpec $prop): array
    {
        $key = $prop->shardKey();
        if ($this->last[0] !== $key) {
            $this->last = [$key, $this->shards->of($prop, $this->progress)];
        }

        return $this->last[1];
    }

    public function joints(PropSpec $prop): array
    {
        return $this->shards->joints($prop, $this->progress);
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
