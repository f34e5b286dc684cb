<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Problem;
use YardBreak\Core\Weight\WeightMap;

/** Whether what parts of a shot refer to is there, and none of it refers to itself. */
final readonly class References
{
    /**
     * @param  list<array<string, mixed>>  $documents  of all props, hidden ones too
     * @param  array<string, PropSpec>  $props  the same, by id, in that order
     * @param  array<string, WeightMap>  $maps  by id
     * @param  array<string, string>  $paths  where each stands
     */
    public function __construct(private array $documents, private array $props, private array $maps, private array $paths)
    {
    }

    /** @throws Problem saying where something is referred to that is not there, or round in a circle */
    public function check(): void
    {
        foreach (array_values($this->props) as $i => $prop) {
            if ($prop->source['kind'] === 'scatter') {
                self::throwIfStrewnByAnother($this->documents[$i], $i, $this->documents, $this->maps);
            }
            if (array_diff($prop->motion->passes, array_keys($this->props)) !== []) {
                throw Problem::inValue('props['.$i.'].motion.passes', $prop->name.' passes through a prop that is not there.', 'Choose again what it passes through.');
            }
            foreach ($prop->mapsNamed() as $path => $map) {
                if (($this->maps[$map] ?? null)?->prop !== $prop->id) {
                    throw Problem::inValue(
                        'props['.$i.'].'.$path,
                        $prop->name.' goes by a weight map that is none of its own, or is not there.',
                        'Choose a map of '.$prop->name.', or make one on the Weights stage.',
                    );
                }
            }
        }
        foreach ($this->maps as $id => $map) {
            $this->checkMap((string) $id, $map);
        }
        $this->throwIfDriftsHangOnEachOther();
    }

    /** @throws Problem */
    private function checkMap(string $id, WeightMap $map): void
    {
        foreach ($map->layers as $n => $layer) {
            foreach ($layer->maps() as $read) {
                if (! isset($this->maps[$read])) {
                    throw Problem::inValue(
                        $this->paths[$id].'.sources['.$n.']',
                        'The map "'.$map->name.'" takes over a map that is not there.',
                        'Choose another map, or remove this source.',
                    );
                }
            }
            foreach ($layer->props() as $prop) {
                if (! isset($this->props[$prop])) {
                    throw Problem::inValue(
                        $this->paths[$id].'.sources['.$n.']',
                        'The map "'.$map->name.'" looks at a prop that is not there.',
                        'Choose another prop, or remove this source.',
                    );
                }
            }
        }
        $way = Circle::through($id, fn (string $one): array => ($this->maps[$one] ?? null)?->maps() ?? []);
        if ($way !== null) {
            $names = array_map(fn (string $i): string => '"'.$this->maps[$i]->name.'"', $way);
            throw Problem::inValue(
                $this->paths[$id].'.sources',
                count($names) === 1 ? 'The map '.$names[0].' takes over itself.' : 'The maps '.implode(', ', $names).' take over each other in a circle.',
                'Let one of them do without the next.',
            );
        }
    }

    /** @throws Problem where what drifts does so by a map that looks, by others or itself, at where it drifts */
    private function throwIfDriftsHangOnEachOther(): void
    {
        $looks = [];
        foreach ($this->props as $id => $prop) {
            if ($prop->motion->drift !== null) {
                $maps = Circle::from($prop->motion->drift->map, fn (string $map): array => ($this->maps[$map] ?? null)?->maps() ?? []);
                $looks[$id] = array_merge([], ...array_map(fn (string $map): array => ($this->maps[$map] ?? null)?->looksAt() ?? [], $maps));
            }
        }
        $i = 0;
        foreach ($this->props as $id => $prop) {
            $way = isset($looks[$id]) ? Circle::through((string) $id, static fn (string $one): array => $looks[$one] ?? []) : null;
            if ($way !== null) {
                throw Problem::inValue(
                    'props['.$i.'].motion.drift.map',
                    count($way) === 1 ? $prop->name.' drifts by how near it is to itself.' : 'These drift by how near they are to each other, in a circle: '.implode(
                        ', ',
                        array_map(fn (string $one): string => ($this->props[$one] ?? null)->name ?? $one, $way),
                    ).'.',
                    'Let one of them drift by another map.',
                );
            }
            $i++;
        }
    }

    /**
     * @param  array<string, mixed>  $prop
     * @param  list<array<string, mixed>>  $props
     * @param  array<array-key, WeightMap>  $maps
     *
     * @throws Problem where what is strewn, or what it is strewn over, is not there, or the map it goes by is of another prop
     */
    private static function throwIfStrewnByAnother(array $prop, int $number, array $props, array $maps): void
    {
        $names = array_column($props, 'name', 'id');
        foreach (['of' => 'copied', 'over' => 'strewn over'] as $what => $word) {
            if (! isset($names[$prop['source'][$what]])) {
                throw Problem::inValue(
                    'props['.$number.'].source.'.$what,
                    'The prop that is '.$word.' is no longer there.',
                    'Choose another prop, or remove '.$prop['name'].'.',
                );
            }
        }
        foreach ($prop['source']['values'] as $name => $value) {
            if (is_array($value) && ($value['source'] ?? '') === 'map' && ($maps[$value['values']['map'] ?? ''] ?? null)?->prop !== $prop['source']['over']) {
                throw Problem::inValue(
                    'props['.$number.'].source.values.'.$name,
                    $prop['name'].' is strewn by a weight map that is none of '.$names[$prop['source']['over']].', or is not there.',
                    'Choose a map of '.$names[$prop['source']['over']].', or make one on the Weights stage.',
                );
            }
        }
    }

    /**
     * @param  list<ForceSpec>  $forces
     * @param  array<string, PropSpec>  $props  by id
     * @param  array<string, WeightMap>  $maps  by id
     *
     * @throws Problem where a force acts on a prop, or by a weight map, that is not there
     */
    public static function throwIfForcesMissWhatTheyActOn(array $forces, array $props, array $maps): void
    {
        foreach ($forces as $k => $force) {
            if (array_diff($force->named(), array_keys($props)) !== []) {
                throw Problem::inValue('forces['.$k.'].on', $force->name.' acts on a prop that is not there.', 'Choose the props it acts on again.');
            }
            if (array_diff($force->looksAt(), array_keys($props)) !== []) {
                throw Problem::inValue('forces['.$k.'].values.prop', $force->name.' looks at a prop that is not there.', 'Choose another prop.');
            }
            if ($force->map !== '' && ! isset($maps[$force->map])) {
                throw Problem::inValue('forces['.$k.'].map', $force->name.' goes by a weight map that is not there.', 'Choose another map, or none.');
            }
        }
    }

    /**
     * @param  array<string, mixed>  $ground
     * @param  list<array<string, mixed>>  $props
     *
     * @throws Problem where a prop is to be the ground that is not there, or that physics moves
     */
    public static function throwIfGroundIsNoProp(array $ground, array $props): void
    {
        if ($ground['kind'] !== GroundCatalogue::PROP) {
            return;
        }
        foreach ($props as $prop) {
            if ($prop['id'] === ($ground['prop'] ?? '')) {
                if (! in_array($prop['motion']['kind'], MoverCatalogue::BY_KEYS, true)) {
                    throw Problem::inValue(
                        'world.ground.prop',
                        $prop['name'].' cannot be the ground, for it does not stand or follow its keys.',
                        'Make it fixed or keyed, or choose another prop.',
                    );
                }

                return;
            }
        }
        throw Problem::inValue('world.ground.prop', 'The prop that is to be the ground is not there.', 'Choose another prop, or another ground.');
    }
}
