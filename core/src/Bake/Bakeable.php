<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\Shot\Cue;
use YardBreak\Core\Shot\PropParts;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/** A shot with all its bake needs: it can be begun, or taken up from a packed state, as often as wanted. */
final readonly class Bakeable
{
    /**
     * @param  ShotSpec  $shot  with those of its cues found that keys alone decide
     * @param  array<string, list<Solid>>  $solids  by prop id
     */
    private function __construct(public ShotSpec $shot, private array $solids, private ?PropParts $parts)
    {
    }

    /**
     * @param  array<string, list<Shard>>  $shards  by prop id
     *
     * @throws Problem
     */
    public static function of(ShotSpec $shot, array $shards, ?PropParts $parts = null): self
    {
        $solids = [];
        foreach ($shot->props as $prop) {
            $solids[$prop->id] = self::solids($prop, $shards[$prop->id] ?? [], new SilentProgress);
        }

        return new self(
            Foresight::of(
                $shot,
                static fn (ShotSpec $now, Cue $cue): ?float => Foresight::frame($now, $cue, static fn (PropSpec $p): array => $solids[$p->id], $parts),
            ),
            $solids,
            $parts,
        );
    }

    /**
     * The pieces of a prop as a bake takes them.
     *
     * @param  list<Shard>  $shards
     * @return list<Solid>
     */
    public static function solids(PropSpec $prop, array $shards, Progress $progress): array
    {
        return $prop->motion->letsGo() ? Solid::free($shards, $prop->motion->settings?->shape() ?? Solid::PARTS, $progress, $prop->motion->settings?->ball() ?? 0.0) : Solid::held($shards, $prop->motion->simplify, $progress);
    }

    /**
     * @param  string|null  $state  to go on from; null for the start
     * @param  (\Closure(): float)|null  $clock  seconds, where it is to be told what they were spent on
     *
     * @throws Problem where the state is not one this version knows
     */
    public function baker(?string $state = null, ?\Closure $clock = null): Baker
    {
        $baker = new Baker($this->shot, $this->solids, parts: $this->parts, clock: $clock);
        if ($state !== null) {
            $baker->unpack($state);
        }

        return $baker;
    }

    /**
     * All frames, computed in slices as by workers that hand over to each other: after each the state is packed, and
     * another baker takes it up. The frames are the same however long a slice is.
     *
     * @param  (\Closure(Baker): bool)|null  $ends  whether a slice ends after the frame computed last; null for one that is as long as the shot
     * @return \Generator<int, Frame, mixed, Baker> returning the baker that made the last
     *
     * @throws Problem
     */
    public function frames(?\Closure $ends = null): \Generator
    {
        $baker = $this->baker();
        yield $baker->firstFrame();
        while ($baker->frameNumber() < $this->shot->last) {
            if ($ends !== null && $ends($baker)) {
                $baker = $this->baker($baker->pack());
            }
            yield $baker->nextFrame();
        }

        return $baker;
    }
}
