<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Values;
use YardBreak\Core\Weight\InTime\Step;

/** A named map of a prop: its sources one upon the other, and what becomes of them in time. */
final readonly class WeightMap
{
    /**
     * @param  string  $prop  id
     * @param  list<Layer>  $layers
     * @param  list<array{class-string<Step>, Values, string}>  $steps  what it is, its values, and its name
     */
    private function __construct(public string $id, public string $name, public string $prop, public array $layers, public array $steps)
    {
    }

    /**
     * @param  array<string, mixed>  $d  as in the document, already of the schema's form
     *
     * @throws Problem
     */
    public static function of(array $d, string $prop, Cues $cues): self
    {
        $layers = $steps = [];
        foreach ($d['sources'] as $k => $layer) {
            try {
                $layers[] = Layer::of($layer, $cues);
            } catch (Problem $e) {
                throw $e->at('sources['.$k.']');
            }
        }
        foreach ($d['inTime'] ?? [] as $k => $step) {
            $class = WeightCatalogue::STEPS[$step['step']]
                ?? throw Problem::inValue(
                    'inTime['.$k.'].step',
                    'A map cannot "'.mb_substr($step['step'], 0, 40).'" in time.',
                    'Choose one of: '.implode(', ', array_keys(WeightCatalogue::STEPS)).'.',
                );
            try {
                $steps[] = [$class, Values::of($class::options(), $step['values'] ?? [], $cues), $step['step']];
            } catch (Problem $e) {
                throw $e->at('inTime['.$k.'].values');
            }
        }

        return new self($d['id'], $d['name'], $prop, $layers, $steps);
    }

    /** Whether what it is at a frame depends on what was before. */
    public function remembers(): bool
    {
        return $this->steps !== [];
    }

    /** @return list<string> ids of the maps it takes over */
    public function maps(): array
    {
        return array_values(array_unique(array_merge([], ...array_map(static fn (Layer $l): array => $l->maps(), $this->layers))));
    }

    /** @return list<string> ids of the props it looks at */
    public function props(): array
    {
        return array_values(array_unique(array_merge([], ...array_map(static fn (Layer $l): array => $l->props(), $this->layers))));
    }

    /** @return list<string> ids of the props whose places change its weights; what it rides on is not looked at */
    public function looksAt(): array
    {
        return array_values(array_unique(array_merge([], ...array_map(static fn (Layer $l): array => $l->looksAt(), $this->layers))));
    }

    /** @return list<string> ids of the cues its values are tied to */
    public function ties(): array
    {
        return array_values(array_unique(array_merge(
            [],
            ...array_map(static fn (Layer $l): array => $l->ties(), $this->layers),
            ...array_map(static fn (array $step): array => $step[1]->ties(), $this->steps),
        )));
    }
}
