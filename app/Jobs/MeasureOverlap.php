<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Bake;
use App\Storage\Faults;
use App\Storage\ShardStore;
use App\Storage\YardFiles;
use App\Yard\Keeping;
use Illuminate\Contracts\Queue\ShouldBeUnique;
use Illuminate\Contracts\Queue\ShouldQueue;
use Throwable;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Piece;
use YardBreak\Core\Check\Overlaps;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;

/** Measures how deep the pieces of a baked frame lie in each other, by their true surfaces. */
final class MeasureOverlap implements LastsLong, ShouldBeUnique, ShouldQueue
{
    use RunsInQueue;

    /** Seconds after which it may be asked for again although nobody has heard of it. */
    public int $uniqueFor = 3600;

    /** Pieces that are told one by one, the deepest first. */
    private const TOLD = 12;

    public function __construct(private readonly string $bakeId, private readonly int $frame)
    {
    }

    public static function name(string $bakeId, int $frame): string
    {
        return 'pictures/overlap-1/'.$bakeId.'-'.$frame.'.json';
    }

    public static function faultName(string $bakeId, int $frame): string
    {
        return 'shards/faults/overlap-'.$bakeId.'-'.$frame.'.json';
    }

    public function uniqueId(): string
    {
        return 'overlap-'.$this->bakeId.'-'.$this->frame;
    }

    public function lock(): string
    {
        return $this->uniqueId();
    }

    public function handle(ShardStore $store): void
    {
        $bake = Bake::query()->find($this->bakeId);
        if ($bake === null) {
            return;
        }
        try {
            YardFiles::keep(self::name($this->bakeId, $this->frame), (string) json_encode(self::measured($bake, $this->frame, $store)));
        } catch (Problem $e) {
            $this->failed($e);
        } finally {
            Keeping::look();
        }
    }

    public function failed(?Throwable $e): void
    {
        Faults::keep(self::faultName($this->bakeId, $this->frame), $e instanceof Problem ? $e : new Problem(
            'internal',
            'How deep the pieces overlap could not be measured: something went wrong inside Yard Break.',
            '',
            'Try another frame, or bake again.',
        ));
    }

    /** @return array<string, mixed> */
    private static function measured(Bake $bake, int $frame, ShardStore $store): array
    {
        $shot = $bake->spec();
        $streams = $bake->files()->streams($frame - $bake->first);
        $pieces = $shards = $poses = $props = [];
        $of = [];
        foreach (Baker::pieces($shot, $store->ofBake($bake)) as $piece) {
            $kinds = $streams[$piece->prop] ?? [];
            $of[$piece->prop] ??= Pose::ofStream($kinds[StreamKind::Poses->value] ?? '', $kinds[StreamKind::Sizes->value] ?? '');
            $pose = $of[$piece->prop][$piece->number] ?? null;
            if ($pose === null || $pose->size <= 0.0 || ($kinds[StreamKind::Visibility->value] ?? "\1") === "\0") {
                continue;
            }
            $pieces[] = $piece;
            $shards[] = $piece->shard;
            $poses[] = $pose;
            $props[] = $piece->prop;
        }
        $found = Overlaps::of($shards, $poses, $props, $shot->ground, new BeatingProgress);
        $named = static fn (Piece $p): array => ['prop' => $shot->props[$p->prop]->id, 'number' => $p->number, 'name' => $p->shard->name];

        // A pair is told once.
        $told = $seen = [];
        foreach ($found as $f) {
            $pair = [min($f['piece'], $f['other'] ?? -1), max($f['piece'], $f['other'] ?? -1)];
            if ($f['depth'] <= 0.0 || count($told) >= self::TOLD || isset($seen["$pair[0] $pair[1]"])) {
                continue;
            }
            $seen["$pair[0] $pair[1]"] = true;
            $told[] = [
                ...$named($pieces[$f['piece']]),
                'size' => $poses[$f['piece']]->size * max(Aabb::around($shards[$f['piece']]->mesh)->size()->toArray()),
                'depth' => $f['depth'],
                'share' => $f['share'],
                'at' => $f['at'],
                'other' => $f['other'] === null ? null : $named($pieces[$f['other']]),
            ];
        }

        return ['frame' => $frame, 'pieces' => count($found), 'most' => Overlaps::percentile($found, 0.95), 'deepest' => $told];
    }
}
