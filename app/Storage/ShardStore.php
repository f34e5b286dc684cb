<?php

declare(strict_types=1);

namespace App\Storage;

use App\Models\Bake;
use YardBreak\Core\Bake\Bakeable;
use YardBreak\Core\Break\Joint;
use YardBreak\Core\Break\Neighbours;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Break\ShardFile;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
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
        return is_file(YardFiles::folder($this->name($prop)));
    }

    /** @return list<Shard> */
    public function of(PropSpec $prop, Progress $progress = new SilentProgress): array
    {
        $kept = YardFiles::kept($this->name($prop));
        if ($kept !== null) {
            return ShardFile::decode($kept);
        }
        $shards = $this->maker->shards($prop, $progress);
        YardFiles::keep($this->name($prop), ShardFile::encode($shards));
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
        $classes = [Solid::class, Hull::class, ContactSurface::class, MassProperties::class, Vec3::class];

        return $this->once(
            $prop,
            self::solidsKind($prop),
            $classes,
            fn (): array => Bakeable::solids($prop, $this->of($prop, $progress), $progress),
        );
    }

    /** Whether what its pieces collide as is there, or soon had: that of what falls may take longer than a question may wait for. */
    public function isReady(PropSpec $prop): bool
    {
        return $this->has($prop) && ($prop->motion->movedBy === null || $this->hasSolids($prop));
    }

    public function hasSolids(PropSpec $prop): bool
    {
        return is_file(YardFiles::folder($this->solidsName($prop)));
    }

    /** The file they are kept in. */
    public function solidsName(PropSpec $prop): string
    {
        return $this->keptName($prop, self::solidsKind($prop));
    }

    private static function solidsKind(PropSpec $prop): string
    {
        return 'solids-'.$prop->motion->collidesAs();
    }

    private function keptName(PropSpec $prop, string $what): string
    {
        return $this->name($prop).'.'.$what.'-'.ShotSpec::BAKE_VERSION;
    }

    /**
     * What its pieces share where they lie face to face.
     *
     * @return list<Joint>
     */
    public function joints(PropSpec $prop, Progress $progress = new SilentProgress): array
    {
        return $this->once($prop, 'joints', [Joint::class, Vec3::class], fn (): array => Neighbours::of($this->of($prop, $progress)));
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
        $name = $this->keptName($prop, $what);
        $kept = YardFiles::kept($name);
        $kept = $kept === null ? null : @unserialize($kept, ['allowed_classes' => $classes]);
        if (is_array($kept) && array_is_list($kept)) {
            /** @var list<T> $kept */
            return $kept;
        }
        $found = $find();
        YardFiles::keep($name, serialize($found));

        return $found;
    }

    /**
     * Pieces made before, by what they were made of; made again where that is what the prop would be broken into today.
     *
     * @return list<Shard>
     *
     * @throws Problem where they are gone
     */
    public function kept(string $key, ?PropSpec $prop): array
    {
        if ($prop?->shardKey() === $key) {
            return $this->of($prop);
        }
        $kept = YardFiles::kept(self::named($key));

        return $kept === null ? throw Problem::onDisk('The pieces this bake was made of are gone.', 'Bake again.') : ShardFile::decode($kept);
    }

    /**
     * The pieces a bake was made of, whatever would be broken today.
     *
     * @return array<string, list<Shard>> by prop
     *
     * @throws Problem where they are gone
     */
    public function ofBake(Bake $bake): array
    {
        $props = array_column($bake->spec()->props, null, 'id');
        $shards = [];
        foreach ($bake->shards as $id => $key) {
            $shards[$id] = $this->kept($key, $props[$id] ?? null);
        }
        if (array_map(count(...), array_values($shards)) !== $bake->counts) {
            throw Problem::onDisk('The pieces kept are not those this bake was made of.', 'Bake again.');
        }

        return $shards;
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
