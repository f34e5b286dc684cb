<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Drift\DriftCatalogue;
use YardBreak\Core\Dust\DustCatalogue;
use YardBreak\Core\Force\ForceCatalogue;
use YardBreak\Core\Motion\Push\PushCatalogue;
use YardBreak\Core\Option;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Weight\WeightCatalogue;

/** A value of a shot that is of use as the rest is: a number, a choice, or the pattern something breaks by. */
final readonly class ShotValue
{
    public const NUMBER = 'number';

    public const WHOLE = 'whole';

    public const CHOICE = 'choice';

    public const PATTERN = 'pattern';

    private const AXES = ['x', 'y', 'z'];

    /**
     * @param  string  $path  JSON Pointer of it in the document
     * @param  string  $kind  one of the constants
     * @param  string  $of  name of the prop or force it is of; empty for the world
     * @param  string  $part  what of that it belongs to
     * @param  string  $unit  that it is written in
     * @param  float  $times  that what is written is taken, to be what stands in the document
     * @param  array<string, string>  $choices  what they are called, by what stands in the document
     * @param  int|float|string|array<string, mixed>|null  $now  as it stands in the document; keyed, with its keys
     * @param  string|null  $place  where it is whatever stands before it in a list, what has an id being named by that; null where a list has none
     */
    private function __construct(
        public string $path,
        public string $kind,
        public string $of,
        public string $part,
        public string $label,
        public string $unit,
        public float $times,
        public float $least,
        public float $most,
        public array $choices,
        public int|float|string|array|null $now,
        public bool $keyable,
        public ?string $place = null,
    ) {
    }

    /**
     * Everything of a shot but what is of no use as the rest is.
     *
     * @param  array<string, mixed>  $document  a valid one
     * @param  bool  $hidden  also of props that are not there now
     * @return list<self>
     */
    public static function all(array $document, bool $hidden = false): array
    {
        $out = self::these('/world', '', 'world', Settings::world(), $document['world']);
        foreach ($document['forces'] ?? [] as $k => $force) {
            $out = [...$out, ...self::these("/forces/$k", $force['name'], 'force', Settings::force(), $force), ...self::entry("/forces/$k", $force['name'], 'force', ForceCatalogue::FORCES[$force['kind']] ?? null, $force)];
        }
        foreach ($document['props'] as $k => $prop) {
            if ($hidden || ($prop['hidden'] ?? false) !== true) {
                $out = [...$out, ...self::ofProp("/props/$k", $prop)];
            }
        }

        return array_map(static fn (self $value): self => new self(...[...get_object_vars($value), 'place' => self::place($document, $value->path)]), $out);
    }

    public function isKeyed(): bool
    {
        return is_array($this->now);
    }

    /** Whether one can be what the other is, keys and all. */
    public function isLike(self $other): bool
    {
        return $this->kind === $other->kind && $this->unit === $other->unit && $this->keyable === $other->keyable && in_array($this->kind, [self::NUMBER, self::WHOLE], true);
    }

    /**
     * @param  mixed  $value  what it becomes, as it stands in a document
     * @param  array<string, mixed>  $document  that it is of
     * @return list<array{op: 'add'|'replace', path: string, value: mixed}> the JSON Patch that makes it so
     */
    public function set(mixed $value, array $document): array
    {
        $parent = dirname($this->path);
        $within = self::at($document, $parent);
        $out = basename($parent) === 'values' && $within === null ? [['op' => 'add', 'path' => $parent, 'value' => (object) []]] : [];

        // A member is set; of a list it takes the place of the one there.
        return [...$out, ['op' => is_array($within) && $within !== [] && array_is_list($within) ? 'replace' : 'add', 'path' => $this->path, 'value' => $value]];
    }

    /** @param  array<string, mixed>  $document */
    private static function at(array $document, string $path): mixed
    {
        return array_reduce(array_slice(explode('/', $path), 1), static fn (mixed $at, string $name): mixed => is_array($at) ? $at[$name] ?? null : null, $document);
    }

    /** @param  array<string, mixed>  $document */
    private static function place(array $document, string $path): ?string
    {
        $names = array_slice(explode('/', $path), 1);
        $node = $document;
        foreach ($names as $k => $name) {
            if (is_array($node) && array_is_list($node) && is_array($node[$name] ?? null) && ! isset($node[$name]['keys'])) {
                $names[$k] = $node[$name]['id'] ?? null;
                if ($names[$k] === null) {
                    return null;
                }
            }
            $node = is_array($node) ? $node[$name] ?? null : null;
        }

        return implode('/', $names);
    }

    /**
     * @param  array<string, mixed>  $prop
     * @return list<self>
     */
    private static function ofProp(string $at, array $prop): array
    {
        $name = $prop['name'];
        $motion = $prop['motion'];
        $out = [];
        if (($prop['break'] ?? null) !== null) {
            $pattern = $prop['break']['pattern'];
            $patterns = array_map(static fn (string $class): string => $class::label(), BreakCatalogue::PATTERNS);
            $out[] = new self("$at/break", self::PATTERN, $name, 'break', 'Pattern', '', 1.0, 0.0, 0.0, $patterns, $pattern, false);
            $out = [...$out, ...self::entry("$at/break", $name, 'break', BreakCatalogue::PATTERNS[$pattern] ?? null, $prop['break'])];
        }
        foreach ($prop['rework'] ?? [] as $k => $step) {
            $out = [...$out, ...self::entry("$at/rework/$k", $name, 'break, step '.($k + 2), BreakCatalogue::PATTERNS[$step['pattern']] ?? null, $step)];
        }
        $out = [...$out, ...self::entry("$at/motion", $name, 'motion', (new MoverCatalogue)->movers[$motion['kind']] ?? null, $motion)];
        foreach ($motion['pushes'] ?? [] as $k => $push) {
            $out = [...$out, ...self::entry("$at/motion/pushes/$k", $name, 'push', PushCatalogue::PUSHES[$push['push']] ?? null, $push)];
        }
        foreach ($motion['drift']['moves'] ?? [] as $k => $move) {
            $out = [...$out, ...self::entry("$at/motion/drift/moves/$k", $name, 'drift', DriftCatalogue::MOVES[$move['move']] ?? null, $move)];
        }
        foreach ($prop['weights'] ?? [] as $m => $map) {
            foreach ($map['sources'] as $k => $source) {
                $out = [...$out, ...self::entry("$at/weights/$m/sources/$k", $name, 'map '.$map['name'], WeightCatalogue::SOURCES[$source['source']] ?? null, $source)];
            }
            foreach ($map['inTime'] ?? [] as $k => $step) {
                $out = [...$out, ...self::entry("$at/weights/$m/inTime/$k", $name, 'map '.$map['name'], WeightCatalogue::STEPS[$step['step']] ?? null, $step)];
            }
        }
        foreach ($prop['dust'] ?? [] as $k => $dust) {
            $source = DustCatalogue::SOURCES[$dust['source']] ?? null;
            $out = [...$out, ...self::these("$at/dust/$k/values", $name, 'dust '.($dust['name'] ?? ''), $source === null ? [] : DustCatalogue::options($source), $dust['values'] ?? [])];
        }
        if (($prop['source']['kind'] ?? '') === 'shape') {
            $shape = ShapeCatalogue::SHAPES[$prop['source']['shape']] ?? null;
            $out = [...$out, ...self::these("$at/source/values", $name, 'shape', $shape === null ? [] : $shape::options(), $prop['source']['values'] ?? [])];
        }

        return [...$out, ...self::these("$at/place", $name, 'place', Settings::place(), $prop['place']), ...self::these("$at/material", $name, 'material', Settings::material(), $prop['material'])];
    }

    /**
     * @param  class-string|null  $class  that has `options`
     * @param  array<string, mixed>  $entry  with its `values`
     * @return list<self>
     */
    private static function entry(string $at, string $of, string $part, ?string $class, array $entry): array
    {
        return $class === null ? [] : self::these("$at/values", $of, $part, $class::options(), $entry['values'] ?? []);
    }

    /**
     * @param  list<Option>  $options
     * @param  array<string, mixed>  $values
     * @return list<self>
     */
    private static function these(string $at, string $of, string $part, array $options, array $values): array
    {
        $out = [];
        foreach ($options as $o) {
            $now = $values[$o->name] ?? $o->default;
            $kind = $o->kind::name();
            if (! $o->applies($options, $values)) {
                continue;
            }
            [$unit, $times] = $o->isShare() ? ['%', 0.01] : [$o->unit, 1.0];
            if (in_array($kind, ['number', 'whole'], true) && (! is_array($now) || isset($now['keys']))) {
                $out[] = new self("$at/$o->name", $kind === 'whole' ? self::WHOLE : self::NUMBER, $of, $part, $o->label, $unit, $times, $o->least, $o->most, [], is_string($now) ? null : $now, $o->isKeyable());
            } elseif ($kind === 'choice' && is_string($now)) {
                $out[] = new self("$at/$o->name", self::CHOICE, $of, $part, $o->label, '', 1.0, 0.0, 0.0, array_combine($o->choices, array_map(self::words(...), $o->choices)), $now, $o->isKeyable());
            } elseif (in_array($kind, ['point', 'sizes'], true) && is_array($now) && isset($values[$o->name])) {
                foreach (self::AXES as $axis => $called) {
                    if (($now[$axis] ?? null) !== null) {
                        $out[] = new self("$at/$o->name/$axis", self::NUMBER, $of, $part, $o->label.' '.$called, $unit, $times, $o->least, $o->most, [], $now[$axis], $o->isKeyable());
                    }
                }
            }
        }

        return $out;
    }

    private static function words(string $choice): string
    {
        return ucfirst(str_replace('-', ' ', $choice));
    }

    /** @return array<string, mixed> all of it, keys left out */
    public function toArray(): array
    {
        return ['now' => $this->isKeyed() ? null : $this->now, 'keyed' => $this->isKeyed()] + get_object_vars($this);
    }
}
