<?php

declare(strict_types=1);

namespace App\Storage;

use YardBreak\Core\Break\Neighbours;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Break\ShardFile;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\Rigid\Hull;
use YardBreak\Core\Rigid\Solid;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
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

    /**
     * The pieces as rigid bodies.
     *
     * @return list<Solid>
     */
    public function solids(PropSpec $prop, Progress $progress = new SilentProgress): array
    {
        return $this->once($prop, 'solids', [Solid::class, Hull::class, MassProperties::class, Vec3::class], fn (): array => Solid::all($this->of($prop, $progress), $progress));
    }

    /**
     * Its pieces that lie face to face.
     *
     * @return list<array{int, int, float}> two of them, and metres from one middle to the other
     */
    public function ways(PropSpec $prop, Progress $progress = new SilentProgress): array
    {
        return $this->once($prop, 'ways', [], fn (): array => Neighbours::ways($this->of($prop, $progress)));
    }

    /**
     * What a bake is told of the pieces, found once.
     *
     * @template T
     *
     * @param  list<class-string>  $classes  of what is kept
     * @param  \Closure(): list<T>  $find
     * @return list<T>
     */
    private function once(PropSpec $prop, string $what, array $classes, \Closure $find): array
    {
        $name = $this->name($prop).'.'.$what.'-'.ShotSpec::BAKE_VERSION;
        $path = YardFiles::path($name);
        $kept = is_file($path) ? @unserialize((string) file_get_contents($path), ['allowed_classes' => $classes]) : null;
        if (is_array($kept) && array_is_list($kept)) {
            /** @var list<T> $kept */
            return $kept;
        }
        $found = $find();
        YardFiles::write($name, serialize($found));

        return $found;
    }

    /**
     * Pieces made before, by what they were made of.
     *
     * @return list<Shard>
     *
     * @throws Problem where they are gone
     */
    public function kept(string $key): array
    {
        $path = YardFiles::path(self::named($key));

        return is_file($path) ? ShardFile::decode((string) file_get_contents($path)) : throw Problem::onDisk('The pieces this bake was made of are gone.', 'Bake again.');
    }

    /** How many of its pieces are too thin to be moved; none as long as they are not made. */
    public function unusable(PropSpec $prop): int
    {
        return (int) @file_get_contents(YardFiles::path($this->name($prop).'.films'));
    }

    private function name(PropSpec $prop): string
    {
        return self::named($prop->shardKey());
    }

    private static function named(string $key): string
    {
        return 'shards/'.substr($key, 0, 2).'/'.$key;
    }
}
