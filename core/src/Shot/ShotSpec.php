<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Force\Effect;
use YardBreak\Core\Force\Instant;
use YardBreak\Core\Force\Obstacles;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Pace;
use YardBreak\Core\Timing\Rate;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Track3;
use YardBreak\Core\Weight\WeightMap;

/** A shot document, checked against its schema and across its fields. */
final readonly class ShotSpec
{
    public const VERSION = 6;

    /** Raised when the same document would give other shards, or another bake. */
    public const BREAK_VERSION = 7;

    public const BAKE_VERSION = 16;

    public const MOST_FRAMES = 5000;

    /** How deep a document may be nested. */
    public const DEEPEST = 64;

    /** Contact searches a frame, and sub-steps after each. */
    private const QUALITY = ['fast' => [1, 8], 'normal' => [2, 6], 'final' => [3, 4]];

    /**
     * @param  Track3  $gravity  m/s²
     * @param  Ground|null  $ground  null where there is none, or a prop is it
     * @param  string  $groundProp  the id of the prop that is the ground; empty where none is
     * @param  list<Cue>  $cues
     * @param  Cues  $moments  where they stand, as far as that is known
     * @param  list<PropSpec>  $props  those that are not hidden
     * @param  array<string, string>  $assets  name by asset: the files all props need, hidden ones too
     * @param  list<ForceSpec>  $forces
     * @param  Pace  $pace  how fast time passes for what moves by itself
     * @param  array<string, mixed>  $document  what it was read from
     * @param  CueGraph  $graph  what its cues hang on
     */
    public function __construct(
        public string $name,
        public int $first,
        public int $last,
        public Rate $rate,
        public Track3 $gravity,
        public ?Ground $ground,
        public string $groundProp,
        public Track $groundFriction,
        public Track $groundBounce,
        public string $quality,
        public array $cues,
        public Cues $moments,
        public array $props,
        public array $assets,
        public ?Camera $camera,
        public array $forces,
        public Pace $pace,
        private array $document,
        private MoverCatalogue $movers,
        private CueGraph $graph,
    ) {
    }

    /**
     * The same shot with its cues where they are known to be.
     *
     * @throws Problem where what is tied to them does not fit there
     */
    public function with(Cues $moments): self
    {
        return ShotReader::typed($this->document, $this->movers, $moments);
    }

    /**
     * What of the document is tied to a cue.
     *
     * @return list<array{string, float}> its path, and frames from the cue
     */
    public function tiedTo(string $cue): array
    {
        $out = [];
        $walk = static function (array $node, string $path) use (&$walk, &$out, $cue): void {
            if (($node['cue'] ?? null) === $cue) {
                $out[] = [$path, (float) ($node['offset'] ?? 0)];
            }
            foreach ($node as $name => $part) {
                if (is_array($part)) {
                    $walk($part, is_int($name) ? $path.'['.$name.']' : ($path === '' ? $name : $path.'.'.$name));
                }
            }
        };
        $walk(array_diff_key($this->document, ['cues' => 0]), '');

        return $out;
    }

    /** The place of a prop in the document, hidden ones counted. */
    public function numberOf(string $id): int
    {
        return (int) array_search($id, array_column($this->document['props'], 'id'), true);
    }

    public function idAt(int $number): string
    {
        return $this->document['props'][$number]['id'] ?? '';
    }

    /**
     * All values that have keys, wherever they stand.
     *
     * @return list<array{string, string, list<array<string, mixed>>}> path, name in words, and the keys as they are written
     */
    public function valuesInTime(): array
    {
        $out = [];
        $find = static function (array $node, string $path, string $name) use (&$find, &$out): void {
            if (is_array($node['keys'] ?? null)) {
                $out[] = [$path, $name, $node['keys']];

                return;
            }
            foreach ($node as $key => $part) {
                if (is_array($part)) {
                    // What has a name is called by it.
                    $find(
                        $part,
                        $path.(is_int($key) ? '['.$key.']' : '.'.$key),
                        is_string($part['name'] ?? null) ? $name.($name === '' ? '' : ' ').$part['name'].':' : trim($name.' '.(is_int($key) ? ['x', 'y', 'z'][$key] ?? '' : ($key === 'values' ? '' : $key))),
                    );
                }
            }
        };
        foreach (array_filter(array_diff_key($this->document, ['cues' => 0, 'notes' => 0]), is_array(...)) as $part => $values) {
            $find($values, $part, $part === 'props' ? '' : ucfirst($part).':');
        }

        return $out;
    }

    /** @return list<array{string, string}> path and name of props that are fixed although their place has keys */
    public function fixedWithKeys(): array
    {
        $out = [];
        foreach ($this->document['props'] as $k => $prop) {
            $keyed = array_filter([...$prop['place']['position'], ...$prop['place']['turn'], $prop['place']['size']], is_array(...));
            if ($prop['motion']['kind'] === 'fixed' && $keyed !== []) {
                $out[] = ['props['.$k.'].motion.kind', $prop['name']];
            }
        }

        return $out;
    }

    public function acts(Acts $acts): void
    {
        $acts->of('', '')->always('first', $this->first, 'first frame');
        $acts->always('rate', $this->rate->toArray(), 'frame rate');
        $acts->always('quality', [$this->quality, self::BAKE_VERSION]);
        $acts->always('ground', $this->groundKey());
        $acts->always('order', array_column($this->props, 'id'), 'number or order of props');
        $this->gravity->acts($acts, 'gravity');
        $this->pace->acts($acts);
        $acts->always('keys follow the pace', $this->keysFollow());
        $acts->values('ground friction', $this->groundFriction);
        $acts->values('ground bounce', $this->groundBounce);
        foreach ($this->cues as $cue) {
            $cue->acts($acts, $cue->isFound() && $this->moments->frame($cue->id) === null && $this->isForeseen($cue) && $this->tiedTo($cue->id) !== []);
        }
        foreach ($this->props as $prop) {
            $prop->acts($acts, $this->moments);
        }
        foreach ($this->forces as $force) {
            $force->acts($acts);
        }
    }

    /** @return list<class-string<Mover>> the movers there are, in the order they move */
    public function movers(): array
    {
        $dusty = array_filter($this->props, static fn (PropSpec $p): bool => $p->dust !== []) !== [];

        return $this->movers->inOrder($dusty);
    }

    /** Whether keyed props follow the pace; else they keep to their frames. */
    public function keysFollow(): bool
    {
        return (bool) ($this->document['world']['keysFollow'] ?? false);
    }

    /** Seconds a frame lasts. */
    public function frameTime(): float
    {
        return $this->rate->seconds / $this->rate->frames;
    }

    /** The number of a prop among those that are not hidden. */
    public function indexOf(string $id): ?int
    {
        foreach ($this->props as $k => $prop) {
            if ($prop->id === $id) {
                return $k;
            }
        }

        return null;
    }

    public function prop(string $id): ?PropSpec
    {
        foreach ($this->props as $prop) {
            if ($prop->id === $id) {
                return $prop;
            }
        }

        return null;
    }

    /** A weight map of any prop, by its id. */
    public function map(string $id): ?WeightMap
    {
        foreach ($this->props as $prop) {
            foreach ($prop->weights as $map) {
                if ($map->id === $id) {
                    return $map;
                }
            }
        }

        return null;
    }

    /** @return array<int, ForceSpec> those that act on a prop */
    public function forcesOn(PropSpec $prop): array
    {
        return array_filter($this->forces, static fn (ForceSpec $f): bool => $f->actsOn($prop->id));
    }

    /**
     * What forces do at a moment to some pieces of a prop, and how the air goes there.
     *
     * @param  list<int>  $pieces
     * @param  list<float>  $x  metres, where each of them is
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  float  $span  seconds for which it holds, about that moment; none where it is only looked
     * @param  \Closure(string): list<float>  $weights  of the pieces of a map's prop, at that moment
     * @param  Obstacles|null  $obstacles  surfaces that forces look at; null where they are not known
     */
    public function effect(PropSpec $prop, array $pieces, array $x, array $y, array $z, float $frame, float $span, \Closure $weights, ?Obstacles $obstacles = null): Effect
    {
        $effect = new Effect($x, $y, $z);
        foreach ($this->forcesOn($prop) as $force) {
            $shares = null;
            if ($force->map !== '' && $this->map($force->map)?->prop === $prop->id) {
                $all = $weights($force->map);
                $shares = array_map(static fn (int $piece): float => $all[$piece], $pieces);
            }
            $force->on($effect, $this->instant($frame, $span, $obstacles, $prop->id), $shares);
        }

        return $effect;
    }

    /** @param  float  $span  seconds about a frame */
    public function instant(float $frame, float $span = 0.0, ?Obstacles $obstacles = null, string $of = ''): Instant
    {
        return new Instant($frame, $this->first, $this->frameTime(), $span, $this->pace, $obstacles, $of);
    }

    /** Where a weight map stands in the document. */
    public function pathOfMap(string $id): string
    {
        foreach ($this->document['props'] as $i => $prop) {
            foreach ($prop['weights'] ?? [] as $k => $map) {
                if ($map['id'] === $id) {
                    return 'props['.$i.'].weights['.$k.']';
                }
            }
        }

        return '';
    }

    public static function schemaPath(): string
    {
        return dirname(__DIR__, 2).'/resources/shot.schema.json';
    }

    /** @throws Problem with the path of the first value that is wrong */
    public static function fromJson(string $json, MoverCatalogue $movers = new MoverCatalogue): self
    {
        return ShotReader::fromJson($json, $movers);
    }

    /** @throws Problem */
    public static function fromObject(\stdClass $data, MoverCatalogue $movers = new MoverCatalogue): self
    {
        return ShotReader::fromObject($data, $movers);
    }

    /**
     * A document that was found good when it was kept.
     *
     * @throws Problem
     */
    public static function ofKept(string $json): self
    {
        return ShotReader::ofKept($json);
    }

    /**
     * The props that are not hidden, of a document that was found good when it was kept: read off it, where nothing else is asked.
     *
     * @return array<string, bool> whether each gives off dust or chips, by id
     */
    public static function propsIn(string $json): array
    {
        $out = [];
        foreach (json_decode($json, true, self::DEEPEST, JSON_THROW_ON_ERROR)['props'] as $prop) {
            if (($prop['hidden'] ?? false) !== true) {
                $out[$prop['id']] = ($prop['dust'] ?? []) !== [];
            }
        }

        return $out;
    }

    /** Whether physics ever moves pieces of a prop. */
    public function isMovedByPhysics(string $prop): bool
    {
        return $this->graph->isMovedByPhysics($prop);
    }

    /** Whether a map looks at what physics moves, itself or by those it takes over. */
    public function goesByPhysics(string $map): bool
    {
        return $this->graph->goesByPhysics($map);
    }

    /** Whether keys alone decide when a cue comes that is found. */
    public function isForeseen(Cue $cue): bool
    {
        return $this->graph->isForeseen($cue);
    }

    /** @return list<Cue> those that are foreseen, each after those it hangs on */
    public function foreseenInOrder(): array
    {
        return $this->graph->foreseenInOrder();
    }

    /** @return array{int, int} contact searches a frame, sub-steps a search */
    public function steps(): array
    {
        return self::QUALITY[$this->quality];
    }

    /** @return array<string, mixed> what the ground is, as it is written */
    public function groundKey(): array
    {
        return $this->document['world']['ground'];
    }

    /** Whether there is anything that counts as the ground. */
    public function hasGround(): bool
    {
        return $this->ground !== null || $this->groundProp !== '';
    }
}
