<?php

declare(strict_types=1);

namespace App\Storage;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Break\ShardFile;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Progress;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\SilentProgress;

/** The pieces of props, computed once for each set of values that decides them. */
final class ShardStore
{
    public function __construct(private readonly PropMaker $maker)
    {
    }

    public function has(PropSpec $prop): bool
    {
        return is_file(YardFiles::path($this->name($prop)));
    }

    /** @return list<Shard> */
    public function of(PropSpec $prop, Progress $progress = new SilentProgress): array
    {
        $path = YardFiles::path($this->name($prop));
        if (is_file($path)) {
            return ShardFile::decode((string) file_get_contents($path));
        }
        $shards = $this->maker->shards($prop, $progress);
        YardFiles::write($this->name($prop), ShardFile::encode($shards));
        YardFiles::write($this->name($prop).'.films', (string) BreakFigures::unusable($shards));

        return $shards;
    }

    /** How many of its pieces are too thin to be moved; none as long as they are not made. */
    public function unusable(PropSpec $prop): int
    {
        return (int) @file_get_contents(YardFiles::path($this->name($prop).'.films'));
    }

    private function name(PropSpec $prop): string
    {
        $key = $prop->shardKey();

        return 'shards/'.substr($key, 0, 2).'/'.$key;
    }
}
