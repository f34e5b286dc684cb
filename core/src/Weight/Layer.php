<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Values;

/** One source of a map: its values, where it stands, and how it changes what is there already. */
final readonly class Layer
{
    public const OPERATIONS = ['add', 'subtract', 'multiply', 'larger', 'smaller', 'replace'];

    /** What a source stands in: the world, or its own prop; else the id of another it rides on. */
    public const WORLD = 'world';

    public const OWN = 'own';

    /** Values that only make a weight of what was measured. */
    private const PROFILE = ['full' => 0, 'none' => 0, 'falloff' => 0, 'curve' => 0];

    private function __construct(public string $source, public Values $values, public bool $invert, public string $operation, public Track $amount, public string $on, public ?self $within)
    {
    }

    /**
     * @param  array<string, mixed>  $d  as in the document, already of the schema's form
     *
     * @throws Problem
     */
    public static function of(array $d, Cues $cues): self
    {
        $class = WeightCatalogue::SOURCES[$d['source']] ?? throw Problem::inValue('source', 'There is no source of weights called "'.mb_substr($d['source'], 0, 40).'".', 'Choose one of: '.implode(', ', array_keys(WeightCatalogue::SOURCES)).'.');
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
        $still = $this->values->still();
        $out = array_values(array_filter([$still['to'] ?? '', in_array($this->on, [self::WORLD, self::OWN], true) ? '' : $this->on], static fn (mixed $id): bool => is_string($id) && $id !== ''));

        return [...$out, ...$this->within?->props() ?? []];
    }

    /** @return list<string> ids of the maps it takes over */
    public function maps(): array
    {
        $map = $this->source === 'map' ? $this->values->still()['map'] ?? '' : '';

        return [...($map === '' ? [] : [$map]), ...$this->within?->maps() ?? []];
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
        $amount = $this->amount->at($scene->frame());
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

    /**
     * The source by itself, inverted where it is to be.
     *
     * @return list<float>
     *
     * @throws Problem
     */
    public function alone(Points $on, Scene $scene, Memory $memory): array
    {
        $values = $this->values->at($scene->frame());
        $source = $this->at($scene->frame());
        $stands = $this->stands($on, $source, $scene);
        $measured = $source instanceof Measured;
        $of = self::signature($measured ? array_diff_key($values, self::PROFILE) : $values, $stands, $source, $scene, $on);
        $limit = $measured ? $scene->limit($source->reach()->farthest()) : 0.0;
        if ($of === '' || $of !== $memory->of || $measured && $memory->limit < $limit) {
            $there = $stands === null ? $on : $on->placed($stands);
            $memory->values = $measured ? $source->distances($there, $scene, $memory, $limit) : $source->over($there, $scene, $memory);
            $memory->of = $of;
            $memory->limit = max($memory->limit, $limit);
            if (is_nan(array_sum($memory->values))) {
                throw Problem::inValue('values', 'The weights of this source come out as no number.', 'Look at its values: one of them is far too large, or 0 where it must not be.');
            }
        }
        $out = $measured ? $source->reach()->over($memory->values) : $memory->values;

        return $this->invert ? array_map(static fn (float $w): float => 1.0 - $w, $out) : $out;
    }

    /** Where points are, as the source sees them; null where that is as their own prop does. */
    private function stands(Points $on, Source $source, Scene $scene): ?Placement
    {
        if ($source->inWorld()) {
            return $scene->place($on->prop);
        }
        if ($this->on === self::OWN || $this->on === $on->prop) {
            return null;
        }
        $own = $scene->place($on->prop);

        return $this->on === self::WORLD ? $own : $scene->place($this->on)->inverse()->after($own);
    }

    /**
     * What its values depend on, or nothing where they are others at every moment.
     *
     * @param  array<string, mixed>  $values
     */
    private static function signature(array $values, ?Placement $stands, Source $source, Scene $scene, Points $on): string
    {
        if ($source->drifts()) {
            return '';
        }
        $read = array_map(static fn (string $id): array => array_map(static fn (Body $b): Placement => $b->place->inverse()->after($stands ?? Placement::identity()), $scene->bodies($id, 'origin')), $source->reads());

        return $on->key.' '.hash('xxh128', serialize([$values, $source->reads() === [] ? $stands : null, $read]));
    }
}
