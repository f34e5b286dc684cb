<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Touch;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/** Which pieces are still held, and what lets them go when. */
final class Holds
{
    /** @var array<int, array<int, true>> pieces held, by number of a free prop */
    private array $held = [];

    /** @var array<int, list<string>> names of its pieces, by number of the prop */
    private readonly array $names;

    /**
     * @param  list<list<string>>  $names  of the pieces of each prop
     */
    public function __construct(ShotSpec $shot, array $names)
    {
        $this->names = $names;
        foreach ($shot->props as $k => $prop) {
            if ($prop->motion->isFree()) {
                $this->held[$k] = array_fill_keys(array_keys($names[$k]), true);
            }
        }
    }

    /**
     * What a frame lets go.
     *
     * @return array<int, list<int>> pieces by number of the prop
     */
    public function due(ShotSpec $shot, int $frame): array
    {
        $out = [];
        foreach ($this->held as $k => $held) {
            if ($held === []) {
                continue;
            }
            $motion = $shot->props[$k]->motion;
            $own = $motion->ownMoments();
            $all = $motion->release?->at($shot->moments);
            foreach ($held as $piece => $_) {
                $at = isset($own[$this->names[$k][$piece]]) ? $own[$this->names[$k][$piece]]->at($shot->moments) : $all;
                if ($at !== null && $frame >= $at) {
                    $out[$k][] = $piece;
                }
            }
        }

        return $out;
    }

    /**
     * What a touch lets go: all of the prop, or what is near.
     *
     * @param  callable(int): Vec3  $place  where a piece of it is now
     * @return list<int>
     */
    public function touched(PropSpec $prop, Touch $touch, callable $place): array
    {
        $held = $this->held[$touch->prop] ?? [];
        if ($held === [] || $prop->motion->release !== null || $touch->piece >= 0 && ! isset($held[$touch->piece])) {
            return [];
        }
        $own = $prop->motion->ownMoments();
        $names = $this->names[$touch->prop];
        if ($touch->piece >= 0 && isset($own[$names[$touch->piece]])) {
            return [];
        }
        $reach = $prop->motion->reach;

        return array_values(array_filter(array_keys($held), static fn (int $piece): bool => ! isset($own[$names[$piece]])
            && ($reach === null || $piece === $touch->piece || $place($piece)->minus($touch->at)->length() <= $reach)));
    }

    /** @param  list<int>  $pieces */
    public function letGo(int $prop, array $pieces): void
    {
        foreach ($pieces as $piece) {
            unset($this->held[$prop][$piece]);
        }
    }

    public function anyHeld(int $prop): bool
    {
        return ($this->held[$prop] ?? []) !== [];
    }

    /** @return int pieces of a prop that were let go */
    public function released(int $prop): int
    {
        return isset($this->held[$prop]) ? count($this->names[$prop]) - count($this->held[$prop]) : 0;
    }

    /** @return array<int, list<int>> pieces still held, by prop */
    public function state(): array
    {
        return array_map(array_keys(...), $this->held);
    }

    /** @param  array<int, list<int>>  $state */
    public function restore(array $state): void
    {
        foreach ($state as $prop => $pieces) {
            $this->held[$prop] = array_fill_keys($pieces, true);
        }
    }
}
