<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\MovedPieces;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/** Where a bake has moved the pieces of props. */
final class BakedPlaces implements MovedPieces
{
    /** @var array<int, list<Vec3>> by number of the prop: middles of its pieces */
    private array $middles = [];

    /** @var array{int, array<int, array<int, string>>}|null the frame read last, and its streams */
    private ?array $read = null;

    /**
     * @param  \Closure(PropSpec): list<Shard>  $pieces
     * @param  \Closure(int): array<int, array<int, string>>  $streams  of a frame counted from the first, by prop and kind
     * @param  int  $count  frames that are true
     * @param  list<string>  $keys  what each of them depends on
     */
    public function __construct(
        private readonly ShotSpec $shot,
        private readonly \Closure $pieces,
        private readonly \Closure $streams,
        private readonly int $count,
        private readonly array $keys,
    ) {
    }

    public function places(int $prop, int $frame): ?array
    {
        $k = $frame - $this->shot->first;
        if ($k < 0 || $k >= $this->count) {
            return null;
        }
        if (($this->read[0] ?? null) !== $k) {
            $this->read = [$k, ($this->streams)($k)];
        }
        $this->middles[$prop] ??= array_map(static fn (Shard $s): Vec3 => $s->centre(), ($this->pieces)($this->shot->props[$prop]));
        $poses = Pose::ofStream($this->read[1][$prop][StreamKind::Poses->value] ?? '', $this->read[1][$prop][StreamKind::Sizes->value] ?? '');

        return count($poses) !== count($this->middles[$prop])
            ? null
            : array_map(static fn (Pose $pose, Vec3 $middle): Placement => $pose->placement($middle), $poses, $this->middles[$prop]);
    }

    public function key(int $frame): string
    {
        return $this->keys[$frame - $this->shot->first] ?? '';
    }
}
