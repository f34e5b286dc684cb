<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\MeshKind;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Kind;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Values;

/** One source of a map: its values, where it stands, and how it changes what is there already. */
final readonly class Layer
{
    /** What a source stands in: the world, or its own prop; else the id of another it rides on. */
    public const WORLD = 'world';

    public const OWN = 'own';

    /** Values that only make a weight of what was measured. */
    private const PROFILE = ['full' => 0, 'none' => 0, 'falloff' => 0, 'curve' => 0];

    private function __construct(
        public string $source,
        public Values $values,
        public bool $invert,
        public string $operation,
        public Track $amount,
        public string $on,
        public ?self $within,
    ) {
    }

    /**
     * @param  array<string, mixed>  $d  as in the document, already of the schema's form
     *
     * @throws Problem
     */
    public static function of(array $d, Cues $cues): self
    {
        $class = WeightCatalogue::SOURCES[$d['source']]
            ?? throw Problem::inValue(
                'source',
                'There is no source of weights called "'.mb_substr($d['source'], 0, 40).'".',
                'Choose one of: '.implode(', ', array_keys(WeightCatalogue::SOURCES)).'.',
            );
        try {
            $values = Values::of($class::options(), $d['values'] ?? [], $cues);
        } catch (Problem $e) {
            throw $e->at('values');
        }
        try {
            $amount = Track::of($d['amount'] ?? 1.0, $cues);
        } catch (Problem $e) {
            throw $e->at('amount');
        }
        try {
            $within = isset($d['within']) ? self::of($d['within'], $cues) : null;
        } catch (Problem $e) {
            throw $e->at('within');
        }

        return new self($d['source'], $values, $d['invert'] ?? false, $d['operation'] ?? 'add', $amount, $d['on'] ?? self::OWN, $within);
    }

    /**
     * The source as it is at a frame.
     *
     * @throws Problem where its values do not fit each other
     */
    public function at(float $frame): Source
    {
        try {
            return WeightCatalogue::SOURCES[$this->source]::of($this->values->at($frame));
        } catch (Problem $e) {
            throw $e->at('values');
        }
    }

    /** @return list<string> ids of the props it looks at or rides on, its limit's too */
    public function props(): array
    {
        $rides = in_array($this->on, [self::WORLD, self::OWN], true) ? [] : [$this->on];

        return [...$this->named(MeshKind::class), ...$rides, ...$this->within?->props() ?? []];
    }

    /** @return list<string> ids of the props it looks at, its limit's too */
    public function looksAt(): array
    {
        return [...$this->named(MeshKind::class), ...$this->within?->looksAt() ?? []];
    }

    /** @return list<string> ids of the maps it takes over */
    public function maps(): array
    {
        return [...$this->named(MapKind::class), ...$this->within?->maps() ?? []];
    }

    /** @return list<string> ids of the cues its values are tied to */
    public function ties(): array
    {
        return [...$this->values->ties(), ...$this->amount->ties(), ...$this->within?->ties() ?? []];
    }

    /**
     * What its own values name of a kind.
     *
     * @param  class-string<Kind>  $kind
     * @return list<string>
     */
    private function named(string $kind): array
    {
        $out = [];
        $still = $this->values->still();
        foreach (WeightCatalogue::SOURCES[$this->source]::options() as $option) {
            if ($option->kind === $kind && is_string($still[$option->name] ?? null) && $still[$option->name] !== '') {
                $out[] = $still[$option->name];
            }
        }

        return $out;
    }

    /**
     * What it changes the weights to.
     *
     * @param  list<float>  $weights  what the layers before it made
     * @param  array<string, Memory>  $memories  its own, and its limit's, by name
     * @return list<float>
     *
     * @throws Problem
     */
    public function over(array $weights, Points $on, Scene $scene, array &$memories, string $name): array
    {
        $own = $this->alone($on, $scene, $memories[$name] ??= new Memory);
        try {
            $limit = $this->within?->alone($on, $scene, $memories[$name.' within'] ??= new Memory);
        } catch (Problem $e) {
            throw $e->at('within');
        }

        return $this->changed($weights, $own, $limit, $scene->frame());
    }

    /**
     * The same from what is kept of its source and of its limit.
     *
     * @param  list<float>|null  $weights  null where it is the first layer
     * @param  string  $points  key of the points
     * @return list<float>|null null where something is not kept
     */
    public function overKept(?array $weights, string $prop, string $points, Scene $scene): ?array
    {
        $own = $this->aloneKept($prop, $points, $scene);
        $limit = $own === null ? null : $this->within?->aloneKept($prop, $points, $scene);
        if ($own === null || $this->within !== null && $limit === null) {
            return null;
        }

        return $this->changed($weights ?? array_fill(0, count($own), 0.0), $own, $limit, $scene->frame());
    }

    /**
     * The source by itself, inverted where it is to be.
     *
     * @return list<float>
     *
     * @throws Problem
     */
    public function alone(Points $on, Scene $scene, Memory $memory): array
    {
        $source = $this->at($scene->frame());
        $stands = $this->stands($on->prop, $source, $scene);
        $measured = $source instanceof Measured;
        $of = $on->key.' '.self::hash($this->raw($on->prop, $source, $stands, $scene));
        $limit = $measured ? $scene->limit($source->reach()->farthest()) : 0.0;
        if (
            $source->drifts()
            || $of !== $memory->of
            || $measured
            && ($memory->limit < $limit || $source->reach()->nearest() < $memory->nearest || $source->reach()->farthest() > $memory->farthest)
        ) {
            $there = $stands === null || $source->inWorld() ? $on : $on->placed($stands);
            $memory->values = $measured ? $source->distances($there, $scene, $memory, $limit) : $source->over($there, $scene, $memory);
            $memory->of = $of;
            $memory->limit = max($memory->limit, $limit);
            if ($measured) {
                [$memory->nearest, $memory->farthest] = $limit < INF ? [$source->reach()->nearest(), $source->reach()->farthest()] : [-INF, INF];
            }
            if (is_nan(array_sum($memory->values))) {
                throw Problem::inValue(
                    'values',
                    'The weights of this source come out as no number.',
                    'Look at its values: one of them is far too large, or 0 where it must not be.',
                );
            }
            $scene->keep($of, $memory->values);
        }

        return $this->shaped($source, $memory->values);
    }

    /** What the weights of this layer depend on at a moment, as a hash; not its points, nor the maps it takes over. */
    public function key(string $prop, Scene $scene): string
    {
        $source = $this->at($scene->frame());

        return self::hash([
            $this->raw($prop, $source, $this->stands($prop, $source, $scene), $scene),
            $this->values->at($scene->frame()),
            $this->invert,
            $this->operation,
            $this->amount->at($scene->frame()),
            $this->within?->key($prop, $scene),
        ]);
    }

    /** @return list<float>|null */
    private function aloneKept(string $prop, string $points, Scene $scene): ?array
    {
        $source = $this->at($scene->frame());
        $kept = $source->drifts() ? null : $scene->kept($points.' '.self::hash($this->raw($prop, $source, $this->stands($prop, $source, $scene), $scene)));

        return $kept === null ? null : $this->shaped($source, $kept);
    }

    /**
     * @param  list<float>  $raw  distances of a source that measures, else weights
     * @return list<float>
     */
    private function shaped(Source $source, array $raw): array
    {
        $out = $source instanceof Measured ? $source->reach()->over($raw) : $raw;

        return $this->invert ? array_map(static fn (float $w): float => 1.0 - $w, $out) : $out;
    }

    /**
     * @param  list<float>  $weights
     * @param  list<float>  $own
     * @param  list<float>|null  $limit
     * @return list<float>
     */
    private function changed(array $weights, array $own, ?array $limit, float $frame): array
    {
        $amount = $this->amount->at($frame);
        $operation = $this->operation;
        foreach ($weights as $i => $w) {
            $s = $own[$i];
            $r = match ($operation) {
                'add' => $w + $s,
                'subtract' => $w - $s,
                'multiply' => $w * $s,
                'larger' => $w > $s ? $w : $s,
                'smaller' => $w < $s ? $w : $s,
                default => $s,
            };
            $r = $w + ($limit === null ? $amount : $amount * $limit[$i]) * ($r - $w);
            $weights[$i] = $r > 0.0 ? ($r < 1.0 ? $r : 1.0) : 0.0;
        }

        return $weights;
    }

    /** Where points are, as the source sees them; null where that is as their own prop does. */
    private function stands(string $prop, Source $source, Scene $scene): ?Placement
    {
        if ($source->inWorld()) {
            return $scene->place($prop);
        }
        if ($this->on === self::OWN || $this->on === $prop) {
            return null;
        }
        $own = $scene->place($prop);

        return $this->on === self::WORLD ? $own : $scene->place($this->on)->inverse()->after($own);
    }

    /**
     * What the source by itself depends on besides its points, a profile left out: of what it measures only how that stands to it.
     *
     * @return list<mixed>
     */
    private function raw(string $prop, Source $source, ?Placement $stands, Scene $scene): array
    {
        $values = $this->values->at($scene->frame());
        $map = $this->named(MapKind::class)[0] ?? '';
        $of = $map === '' ? $prop : $scene->propOf($map);
        // Of another prop's map the place that is nearest is taken.
        $reads = [...$source->reads(), ...$of === $prop ? [] : [$of]];

        return [
            $this->source, $source instanceof Measured ? array_diff_key($values, self::PROFILE) : $values,
            $reads === [] && $map === '' ? $stands : null,
            array_map(static fn (string $id): array => [$scene->shape($id), $scene->place($id)->inverse()->after($stands ?? Placement::identity())], $reads),
            $source->drifts() ? $scene->seconds() : null,
        ];
    }

    /** @param  list<mixed>  $what */
    private static function hash(array $what): string
    {
        return hash('xxh128', serialize($what));
    }
}
