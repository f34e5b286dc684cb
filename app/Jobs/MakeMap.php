<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Storage\MapPath;
use App\Storage\MapStore;
use App\Storage\YardFiles;
use YardBreak\Core\Check\MapCheck;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\ShotSpec;

/** Works out the weights of a map, and at last what is doubtful about it. */
final class MakeMap extends MakeFrames
{
    /** @param  'points'|'pieces'|'skin'  $kind */
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
        if ($this->kind !== MapRun::SKIN) {
            return MapStore::encode($run->weightsAt($this->map, $this->kind, $frame));
        }
        // The surface of the prop unbroken is worked out as a rule, being looked at too: what is kept of it is carried over.
        $bytes = MapPath::read(YardFiles::folder(''), $run->keys($this->map, MapRun::SURFACE)[$frame - $run->shot->first]) ?? MapStore::encode($run->weightsAt($this->map, MapRun::SURFACE, $frame));

        return MapStore::encode($run->carried($this->map, MapStore::decode($bytes), $frame));
    }

    protected function finish(MapRun $run, array $keys): void
    {
        if ($this->kind === MapRun::SURFACE) {
            YardFiles::write(self::findingsName($this->key), (string) json_encode(MapCheck::of($run, $this->map, array_map(MapStore::coverage(...), $keys))));
        }
    }
}
