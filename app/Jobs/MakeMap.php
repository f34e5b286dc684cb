<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Storage\MapStore;
use App\Storage\YardFiles;
use YardBreak\Core\Check\MapCheck;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\ShotSpec;

/** Works out the weights of a map, and at last what is doubtful about it. */
final class MakeMap extends MakeFrames
{
    /** @param  'points'|'pieces'  $kind */
    public function __construct(string $shotId, private readonly string $map, private readonly string $kind, string $key, int $frame)
    {
        parent::__construct($shotId, $key, $frame);
    }

    public static function findingsName(string $key): string
    {
        return 'maps/findings/'.$key.'.json';
    }

    protected function isThere(ShotSpec $shot): bool
    {
        return $shot->map($this->map) !== null;
    }

    protected function keys(MapRun $run): array
    {
        return $run->keys($this->map, $this->kind);
    }

    protected function remembers(MapRun $run): bool
    {
        return $run->remembers($this->map);
    }

    protected function bytes(MapRun $run, int $frame): string
    {
        return MapStore::encode($run->at($this->map, $this->kind, $frame));
    }

    protected function finish(MapRun $run, array $keys): void
    {
        if ($this->kind === MapRun::SURFACE) {
            YardFiles::write(self::findingsName($this->key), (string) json_encode(MapCheck::of($run, $this->map, array_map(MapStore::coverage(...), $keys))));
        }
    }
}
