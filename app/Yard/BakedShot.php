<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Bake;
use App\Storage\AssetStore;
use App\Storage\ShardStore;
use YardBreak\Core\Bake\BakedPlaces;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\HandOff;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Shot\Evaluation;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/** What was baked, with all that maps decide of it beside, ready to be written. */
final class BakedShot
{
    public function __construct(private readonly ShardStore $store, private readonly AssetStore $assets, private readonly PropMaker $maker)
    {
    }

    /**
     * @param  int  $frames  how many of it
     * @param  bool  $finished  whether surfaces are as they are finished after the bake, or in the points that were baked
     */
    public function writer(Bake $bake, int $frames, bool $finished = true): HandOff
    {
        $shards = $this->store->ofBake($bake);
        $maps = $this->run($bake, $frames, $shards);
        $shot = $maps->shot;
        $evaluation = new Evaluation($maps);
        $streams = $bake->files()->streams(...);

        return new HandOff($shot, Baker::pieces($shot, $shards), $this->assets, $frames, static fn (int $k): array => $evaluation->onto($streams($k), $shot->first + $k), $finished);
    }

    /** Weight maps as they were while it was baked. */
    public function maps(Bake $bake, int $frames): MapRun
    {
        return $this->run($bake, $frames, $this->store->ofBake($bake));
    }

    /** @param  array<string, list<Shard>>  $shards  by prop */
    private function run(Bake $bake, int $frames, array $shards): MapRun
    {
        $shot = self::shot($bake);
        $moved = new BakedPlaces($shot, static fn (PropSpec $p): array => $shards[$p->id], $bake->files()->streams(...), $frames, array_map(strval(...), range(0, $frames - 1)));

        return new MapRun($shot, new MadeParts($this->maker, $this->assets, $shards), null, $moved);
    }

    /** The shot as it is now where that would be baked alike: how it looks may have changed since. */
    private static function shot(Bake $bake): ShotSpec
    {
        $now = Foresight::known($bake->shot->spec());
        $shot = $bake->history()->partsFrom(History::of($now, $bake->anchored)) === null ? $now : Foresight::known($bake->spec());

        return $shot->with($shot->moments->allAnchored($bake->anchored));
    }
}
