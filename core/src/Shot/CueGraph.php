<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Problem;
use YardBreak\Core\Weight\WeightMap;

/** What cues hang on: the props they look at, the maps they wait for, and the cues those are tied to. */
final readonly class CueGraph
{
    /**
     * @param  list<Cue>  $cues
     * @param  array<string, PropSpec>  $props  by id, hidden ones too
     * @param  array<string, true>  $hidden  ids
     * @param  array<string, WeightMap>  $maps  by id
     */
    public function __construct(private array $cues, private array $props, private array $hidden, private array $maps)
    {
    }

    /** Whether physics ever moves pieces of a prop. */
    public function isMovedByPhysics(string $prop): bool
    {
        $motion = $this->shown($prop)?->motion;

        return $motion !== null && ($motion->letsGo() || $motion->drift !== null && $this->goesByPhysics($motion->drift->map));
    }

    /** Whether a map looks at what physics moves, itself or by those it takes over. */
    public function goesByPhysics(string $map): bool
    {
        $drifts = function (string $id): array {
            $spec = $this->shownMap($id);

            return $spec === null
                ? []
                : [
                    ...$spec->maps(),
                    ...array_filter(
                        array_map(fn (string $prop): string => $this->shown($prop)?->motion->drift->map ?? '', $spec->props()),
                        static fn (string $m): bool => $m !== '',
                    ),
                ];
        };
        foreach (Circle::from($map, $drifts) as $id) {
            foreach ($this->shownMap($id)?->props() ?? [] as $prop) {
                if ($this->shown($prop)?->motion->letsGo() === true) {
                    return true;
                }
            }
        }

        return false;
    }

    /**
     * Whether keys alone decide when a cue comes that is found: physics moves no prop it looks at, none that is to touch drifts, and it hangs on nothing
     * that is not foreseen.
     */
    public function isForeseen(Cue $cue): bool
    {
        foreach ($this->propsOf($cue) as $id) {
            $motion = $this->shown($id)?->motion;
            // What a map is of stands until it is let go; only what the map looks at may be moved by physics.
            $owner = $cue->map !== '' && $this->shownMap($cue->map)?->prop === $id;
            if (! $owner && ($motion === null ? $id !== 'ground' : ($cue->isTouch() ? ! $motion->goesByKeys() : $this->isMovedByPhysics($id)))) {
                return false;
            }
        }
        foreach ($this->hangsOn($cue) as $other) {
            if (! $this->isForeseen($other)) {
                return false;
            }
        }

        return $cue->isFound();
    }

    /** @return list<Cue> those that are foreseen, each after those it hangs on */
    public function foreseenInOrder(): array
    {
        $out = [];
        $add = function (Cue $cue) use (&$add, &$out): void {
            if (! in_array($cue, $out, true)) {
                array_map($add, $this->hangsOn($cue));
                $out[] = $cue;
            }
        };
        array_map($add, array_filter($this->cues, $this->isForeseen(...)));

        return $out;
    }

    /** @throws Problem where cues that only keys decide hang on each other in a circle */
    public function throwIfCircular(): void
    {
        $by = [];
        foreach ($this->cues as $cue) {
            $by[$cue->id] = $cue;
        }
        $next = function (string $id) use ($by): array {
            $cue = $by[$id];
            // What physics decides can change nothing before it, so nothing can lead back.
            $decided = $cue->map === ''
                && array_filter([$cue->one, $cue->other], fn (string $prop): bool => ($this->props[$prop] ?? null)?->motion->goesByKeys() === false) !== [];

            return $decided ? [] : array_values(array_filter($this->neededBy($cue), static fn (string $other): bool => isset($by[$other])));
        };
        foreach ($this->cues as $k => $cue) {
            $way = Circle::through($cue->id, $next);
            if ($way !== null) {
                $names = array_map(static fn (string $id): string => '"'.$by[$id]->name.'"', $way);
                throw Problem::inValue('cues['.$k.'].at', count($names) === 1
                    ? 'The cue '.$names[0].' hangs on itself: keys that lead to it are tied to it.'
                    : 'The cues '.implode(', ', $names).' hang on each other in a circle.', 'Tie some of those keys to frames.');
            }
        }
    }

    /** @return list<Cue> those it needs that must be found themselves */
    private function hangsOn(Cue $cue): array
    {
        $needed = $this->neededBy($cue);

        return array_values(array_filter($this->cues, static fn (Cue $other): bool => $other->isFound() && in_array($other->id, $needed, true)));
    }

    /** @return list<string> ids of the cues that the places of its props hang on, and its map */
    private function neededBy(Cue $cue): array
    {
        $out = [];
        foreach ($this->mapsOf($cue->map) as $map) {
            array_push($out, ...$map->ties());
        }
        foreach ($this->propsOf($cue) as $id) {
            array_push($out, ...($this->props[$id] ?? null)?->place->ties() ?? []);
        }

        return array_values(array_unique($out));
    }

    /** @return list<string> ids of the props a cue that is found looks at */
    private function propsOf(Cue $cue): array
    {
        if (! $cue->isFound()) {
            return [];
        }
        if ($cue->isTouch()) {
            return [$cue->one, $cue->other];
        }
        $out = [];
        foreach ($this->mapsOf($cue->map) as $map) {
            array_push($out, $map->prop, ...$map->props());
        }

        return array_values(array_unique($out));
    }

    /** @return list<WeightMap> a map, and those it takes over */
    private function mapsOf(string $id): array
    {
        $all = Circle::from($id, fn (string $map): array => ($this->maps[$map] ?? null)?->maps() ?? []);

        return array_values(array_filter(array_map(fn (string $map): ?WeightMap => $this->maps[$map] ?? null, $all)));
    }

    private function shown(string $prop): ?PropSpec
    {
        return isset($this->hidden[$prop]) ? null : $this->props[$prop] ?? null;
    }

    private function shownMap(string $map): ?WeightMap
    {
        $spec = $this->maps[$map] ?? null;

        return $spec === null || isset($this->hidden[$spec->prop]) ? null : $spec;
    }
}
