<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Errors\ValidationError;
use Opis\JsonSchema\Validator;
use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\Scatter;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\PlaceTrack;
use YardBreak\Core\Timing\Rate;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Track3;
use YardBreak\Core\Weight\WeightMap;

/** A shot document, checked against its schema and across its fields. */
final readonly class ShotSpec
{
    public const VERSION = 5;

    /** Raised when the same document would give other shards, or another bake. */
    public const BREAK_VERSION = 7;

    public const BAKE_VERSION = 11;

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
     * @param  array<string, mixed>  $document  what it was read from
     */
    private function __construct(
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
        private array $document,
        private MoverCatalogue $movers,
    ) {
    }

    /**
     * The same shot with its cues where they are known to be.
     *
     * @throws Problem where what is tied to them does not fit there
     */
    public function with(Cues $moments): self
    {
        return self::typed($this->document, $this->movers, $moments);
    }

    /** Whether physics ever moves pieces of a prop. */
    public function isMovedByPhysics(string $prop): bool
    {
        $spec = $this->prop($prop);

        return $spec !== null && ($spec->motion->letsGo() || $spec->motion->drift !== null && $this->goesByPhysics($spec->motion->drift->map));
    }

    /** Whether a map looks at what physics moves, itself or by those it takes over. */
    public function goesByPhysics(string $map): bool
    {
        $seen = [];
        $ask = [$map];
        while (($id = array_pop($ask)) !== null) {
            $spec = $this->map($id);
            if ($spec === null || isset($seen[$id])) {
                continue;
            }
            $seen[$id] = true;
            foreach ($spec->props() as $prop) {
                $motion = $this->prop($prop)?->motion;
                if ($motion?->letsGo() === true) {
                    return true;
                }
                if ($motion?->drift !== null) {
                    $ask[] = $motion->drift->map;
                }
            }
            array_push($ask, ...$spec->maps());
        }

        return false;
    }

    /** Whether keys alone decide when a cue comes that is found: physics moves no prop it looks at, none that is to touch drifts, and it hangs on nothing that is not foreseen. */
    public function isForeseen(Cue $cue): bool
    {
        foreach (self::propsOf($cue, $this->document['props']) as $id) {
            $motion = $this->prop($id)?->motion;
            // What a map is of stands until it is let go; only what the map looks at may be moved by physics.
            $owner = $cue->map !== '' && $this->map($cue->map)?->prop === $id;
            if (! $owner && ($motion === null ? $id !== 'ground' : ($cue->isTouch() ? ! $motion->goesByKeys() : $this->isMovedByPhysics($id)))) {
                return false;
            }
        }
        foreach ($this->cues as $other) {
            if (in_array($other->id, self::neededBy($cue, $this->document['props']), true) && $other->isFound() && ! $this->isForeseen($other)) {
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
            if (in_array($cue, $out, true)) {
                return;
            }
            foreach ($this->cues as $other) {
                if ($other->isFound() && in_array($other->id, self::neededBy($cue, $this->document['props']), true)) {
                    $add($other);
                }
            }
            $out[] = $cue;
        };
        foreach ($this->cues as $cue) {
            if ($this->isForeseen($cue)) {
                $add($cue);
            }
        }

        return $out;
    }

    /**
     * The cues that the places of its props hang on, and its map.
     *
     * @param  list<array<string, mixed>>  $props
     * @return list<string>
     */
    private static function neededBy(Cue $cue, array $props): array
    {
        $out = self::named(self::mapsOf($cue->map, $props), 'cue');
        $seen = self::propsOf($cue, $props);
        foreach ($props as $prop) {
            if (in_array($prop['id'], $seen, true)) {
                array_push($out, ...self::named($prop['place'], 'cue'));
            }
        }

        return array_values(array_unique($out));
    }

    /**
     * The props a cue that is found looks at.
     *
     * @param  list<array<string, mixed>>  $props
     * @return list<string>
     */
    private static function propsOf(Cue $cue, array $props): array
    {
        if (! $cue->isFound()) {
            return [];
        }
        if ($cue->isTouch()) {
            return [$cue->one, $cue->other];
        }
        $out = [];
        $ids = array_fill_keys(array_column($props, 'id'), true);
        foreach (self::mapsOf($cue->map, $props) as $owner => $map) {
            $out[explode(' ', $owner)[0]] = true;
            $out += array_intersect_key($ids, array_fill_keys([...self::named($map, 'to'), ...self::named($map, 'on')], true));
        }

        return array_map(strval(...), array_keys($out));
    }

    /**
     * A map, and those it takes over, as they are written.
     *
     * @param  list<array<string, mixed>>  $props
     * @return array<string, array<string, mixed>> by its prop and its id
     */
    private static function mapsOf(string $id, array $props): array
    {
        $all = [];
        foreach ($props as $prop) {
            foreach ($prop['weights'] ?? [] as $map) {
                $all[$map['id']] = [$prop['id'].' '.$map['id'], $map];
            }
        }
        $out = [];
        $ask = [$id];
        for ($k = 0; $k < count($ask); $k++) {
            [$key, $map] = $all[$ask[$k]] ?? ['', []];
            if ($key !== '' && ! array_key_exists($key, $out)) {
                $out[$key] = $map;
                array_push($ask, ...self::named($map, 'map'));
            }
        }

        return $out;
    }

    /**
     * @param  array<mixed>  $node
     * @return list<string> every text of that name, however deep
     */
    private static function named(array $node, string $name): array
    {
        $out = [];
        foreach ($node as $key => $value) {
            if ($key === $name && is_string($value)) {
                $out[] = $value;
            } elseif (is_array($value)) {
                array_push($out, ...self::named($value, $name));
            }
        }

        return $out;
    }

    /**
     * @param  list<Cue>  $cues
     * @param  list<array<string, mixed>>  $props
     *
     * @throws Problem where touches that only keys decide hang on each other in a circle
     */
    private static function throwIfCircular(array $cues, array $props): void
    {
        $free = array_column(array_filter($props, static fn (array $p): bool => ! in_array($p['motion']['kind'], MoverCatalogue::BY_KEYS, true)), 'id');
        $by = [];
        foreach ($cues as $cue) {
            $by[$cue->id] = $cue;
        }
        foreach ($cues as $k => $cue) {
            $seen = [];
            $ask = [$cue];
            while (($one = array_pop($ask)) !== null) {
                // What physics decides can change nothing before it, so nothing can lead back.
                foreach ($one->map !== '' || array_intersect([$one->one, $one->other], $free) === [] ? self::neededBy($one, $props) : [] as $id) {
                    if ($id === $cue->id) {
                        $names = array_map(static fn (string $i): string => '"'.$by[$i]->name.'"', [$cue->id, ...array_keys($seen)]);
                        throw Problem::inValue('cues['.$k.'].at', count($names) === 1
                            ? 'The cue '.$names[0].' hangs on itself: keys that lead to it are tied to it.'
                            : 'The cues '.implode(', ', $names).' hang on each other in a circle.', 'Tie some of those keys to frames.');
                    }
                    if (! isset($seen[$id]) && isset($by[$id])) {
                        $seen[$id] = true;
                        $ask[] = $by[$id];
                    }
                }
            }
        }
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
        $walk(['world' => $this->document['world'], 'camera' => $this->document['camera'] ?? [], 'plate' => $this->document['plate'] ?? [], 'props' => $this->document['props']], '');

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
     * All values that have keys.
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
                    $find($part, $path.(is_int($key) ? '['.$key.']' : '.'.$key), $name.' '.(is_int($key) ? ['x', 'y', 'z'][$key] ?? '' : $key));
                }
            }
        };
        $find($this->document['world'], 'world', 'World:');
        $find($this->document['camera'] ?? [], 'camera', 'Camera:');
        $find($this->document['plate'] ?? [], 'plate', 'Plate:');
        foreach ($this->document['props'] as $k => $prop) {
            foreach (['place', 'material', 'motion', 'relief'] as $group) {
                $find($prop[$group] ?? [], 'props['.$k.'].'.$group, $prop['name'].':');
            }
            foreach ($prop['weights'] ?? [] as $w => $map) {
                foreach ([...array_column($map['sources'], null), ...$map['inTime'] ?? []] as $n => $part) {
                    $inTime = $n - count($map['sources']);
                    $find(array_diff_key($part, ['within' => 0]), 'props['.$k.'].weights['.$w.'].'.($inTime < 0 ? 'sources['.$n.']' : 'inTime['.$inTime.']'), $prop['name'].': '.$map['name']);
                }
            }
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
        $acts->values('ground friction', $this->groundFriction);
        $acts->values('ground bounce', $this->groundBounce);
        foreach ($this->cues as $cue) {
            $cue->acts($acts, $cue->isFound() && $this->moments->frame($cue->id) === null && $this->isForeseen($cue) && $this->tiedTo($cue->id) !== []);
        }
        foreach ($this->props as $prop) {
            $prop->acts($acts, $this->moments);
        }
    }

    /** @return list<class-string<Mover>> the movers there are, in the order they move */
    public function movers(): array
    {
        return $this->movers->inOrder();
    }

    /** Seconds a frame lasts. */
    public function frameTime(): float
    {
        return $this->rate->seconds / $this->rate->frames;
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
        $data = json_decode($json, false, self::DEEPEST);
        if (! $data instanceof \stdClass) {
            throw new Problem('document', 'This is no shot document: it is not readable JSON.', '', 'Export the shot again.');
        }

        return self::fromObject($data, $movers);
    }

    /**
     * A document that was found good when it was kept.
     *
     * @throws Problem
     */
    public static function ofKept(string $json): self
    {
        $data = json_decode($json, false, self::DEEPEST, JSON_THROW_ON_ERROR);

        return self::typed(json_decode(json_encode(Upgrade::of($data), JSON_THROW_ON_ERROR), true, self::DEEPEST, JSON_THROW_ON_ERROR), new MoverCatalogue);
    }

    /** @throws Problem */
    public static function fromObject(\stdClass $data, MoverCatalogue $movers = new MoverCatalogue): self
    {
        self::checkVersion($data->version ?? null);
        $data = Upgrade::of($data);
        $validator = new Validator;
        $result = $validator->validate($data, json_decode((string) file_get_contents(self::schemaPath()), false, 64, JSON_THROW_ON_ERROR));
        $error = $result->error();
        if ($error !== null) {
            throw self::schemaProblem($error);
        }

        return self::typed(json_decode(json_encode($data, JSON_THROW_ON_ERROR), true, self::DEEPEST, JSON_THROW_ON_ERROR), $movers);
    }

    /** @return array{int, int} contact searches a frame, sub-steps a search */
    public function steps(): array
    {
        return self::QUALITY[$this->quality];
    }

    private static function checkVersion(mixed $version): void
    {
        if (is_int($version) && $version > self::VERSION) {
            throw new Problem('document', 'This shot was made by a newer version of Yard Break (document version '.$version.', this one reads up to '.self::VERSION.').', 'version', 'Update Yard Break, then open it again.');
        }
    }

    private static function schemaProblem(ValidationError $error): Problem
    {
        while ($error->subErrors() !== []) {
            $error = self::meant($error);
        }
        $path = '';
        foreach ($error->data()->fullPath() as $part) {
            $path .= is_int($part) ? '['.$part.']' : ($path === '' ? '' : '.').$part;
        }
        $args = $error->args();
        $message = (new ErrorFormatter)->formatErrorMessage($error);
        if ($error->keyword() === 'required') {
            $missing = is_array($args['missing'] ?? null) ? implode(', ', $args['missing']) : '';
            $message = 'Something is missing: '.$missing.'.';
        } elseif ($error->keyword() === 'additionalProperties') {
            $message = 'There is no such setting: '.implode(', ', array_map(static fn (mixed $n): string => mb_substr((string) $n, 0, 40), (array) ($args['properties'] ?? []))).'.';
        } elseif ($error->keyword() === 'type') {
            $expected = $args['expected'] ?? '';
            $message = 'This must be of the kind: '.(is_array($expected) ? implode(' or ', $expected) : $expected).'.';
        }

        return Problem::inValue($path, $message, 'Correct the value'.($path === '' ? '' : ' at '.$path).'.');
    }

    /** What is wrong by that one of several forms which the document names (as a release `on` touch), or by the first. */
    private static function meant(ValidationError $error): ValidationError
    {
        $value = $error->data()->value();
        foreach ($error->subErrors() as $form) {
            $inner = $form;
            while ($inner->keyword() === '$ref' && $inner->subErrors() !== []) {
                $inner = $inner->subErrors()[0];
            }
            $schema = $inner->schema()->info()->data();
            foreach (is_object($schema) && $value instanceof \stdClass ? (array) ($schema->properties ?? []) : [] as $name => $property) {
                if (isset($property->const, $value->$name) && $property->const === $value->$name) {
                    return $inner;
                }
            }
        }

        return $error->subErrors()[0];
    }

    /** @param  array<string, mixed>  $d already of the schema's form */
    private static function typed(array $d, MoverCatalogue $movers, ?Cues $moments = null): self
    {
        if ($d['frames']['last'] <= $d['frames']['first']) {
            throw Problem::inValue('frames.last', 'The last frame must come after the first.', 'Set a later last frame.');
        }
        if ($d['frames']['last'] - $d['frames']['first'] >= self::MOST_FRAMES) {
            throw Problem::inValue('frames.last', 'A shot may be at most '.self::MOST_FRAMES.' frames long.', 'Shorten the range.');
        }
        try {
            $rate = Rate::of($d['frames']['rate']);
        } catch (Problem $e) {
            throw $e->at('frames.rate');
        }
        try {
            $ground = GroundCatalogue::of($d['world']['ground']);
        } catch (Problem $e) {
            throw $e->at('world.ground');
        }
        self::throwIfGroundIsNoProp($d['world']['ground'], $d['props']);
        $d = self::withGroundNamed($d);
        $cues = self::cues($d['cues'] ?? [], array_column($d['props'], 'id'), array_merge([], ...array_map(static fn (array $p): array => array_column($p['weights'] ?? [], 'id'), $d['props'])));
        self::throwIfCircular($cues, $d['props']);
        $moments ??= new Cues(array_column(array_map(static fn (Cue $c): array => [$c->id, $c->frame], $cues), 1, 0));
        $props = $ids = $names = $assets = [];
        $link = new ShotLink($movers);
        foreach ($d['props'] as $i => $p) {
            $path = 'props['.$i.']';
            if (isset($ids[$p['id']])) {
                throw Problem::inValue($path.'.id', 'Two props have the same id.');
            }
            if (isset($names[mb_strtolower($p['name'])])) {
                throw Problem::inValue($path.'.name', 'Two props are called "'.$p['name'].'".', 'Give each prop a name of its own.');
            }
            $ids[$p['id']] = $names[mb_strtolower($p['name'])] = true;
            $prop = self::propOf($p, $path, $moments, $d['frames']['first'], self::tools($p, $d['props'], $moments, $d['frames']['first'], $rate, $link, [$p['id']]), $link, self::steering($p, $d['props'], $moments, [$d['frames']['first'], $rate->toArray()]));
            $assets += $prop->assets();
            if (! ($p['hidden'] ?? false)) {
                $props[] = $prop;
            }
        }
        self::throwIfMapsAreWrong($d['props'], $moments);
        self::throwIfDriftsHangOnEachOther($d['props']);
        foreach ($d['plate']['frames'] ?? [] as $one) {
            $assets += [$one['asset'] => sprintf('plate.%04d', $one['frame'])];
        }
        if (isset($d['plate'])) {
            Reading::check(Settings::plate(), $d['plate'], 'plate');
            Reading::number($d['plate']['opacity'] ?? 1.0, $moments, 'plate.opacity');
        }
        $world = $d['world'];
        Reading::check(Settings::world(), $world, 'world');

        $link->shot = new self(
            $d['name'], $d['frames']['first'], $d['frames']['last'], $rate,
            Reading::point($world['gravity'], $moments, 'world.gravity'), $ground, $world['ground']['kind'] === GroundCatalogue::PROP ? $world['ground']['prop'] ?? '' : '', Reading::number($world['friction'], $moments, 'world.friction'), Reading::number($world['bounce'], $moments, 'world.bounce'),
            $d['quality'] ?? 'normal', $cues, $moments, $props, $assets, isset($d['camera']) ? Camera::of($d['camera'], $moments, [$d['frames']['first'], $d['frames']['last']]) : null, $d, $movers,
        );

        return $link->shot;
    }

    /**
     * @param  array<string, mixed>  $ground
     * @param  list<array<string, mixed>>  $props
     *
     * @throws Problem where a prop is to be the ground that is not there, or that physics moves
     */
    private static function throwIfGroundIsNoProp(array $ground, array $props): void
    {
        if ($ground['kind'] !== GroundCatalogue::PROP) {
            return;
        }
        foreach ($props as $prop) {
            if ($prop['id'] === ($ground['prop'] ?? '')) {
                if (! in_array($prop['motion']['kind'], MoverCatalogue::BY_KEYS, true)) {
                    throw Problem::inValue('world.ground.prop', $prop['name'].' cannot be the ground, for it does not stand or follow its keys.', 'Make it fixed or keyed, or choose another prop.');
                }

                return;
            }
        }
        throw Problem::inValue('world.ground.prop', 'The prop that is to be the ground is not there.', 'Choose another prop, or another ground.');
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

    /**
     * What waits for the ground waits for the prop that is the ground.
     *
     * @param  array<string, mixed>  $d
     * @return array<string, mixed>
     */
    private static function withGroundNamed(array $d): array
    {
        $ground = $d['world']['ground'];
        if ($ground['kind'] !== GroundCatalogue::PROP) {
            return $d;
        }
        $name = static fn (string $id): string => $id === 'ground' ? $ground['prop'] : $id;
        foreach ($d['cues'] ?? [] as $k => $cue) {
            if (isset($cue['at']['other'])) {
                $d['cues'][$k]['at']['other'] = $name($cue['at']['other']);
            }
        }
        foreach ($d['props'] as $i => $prop) {
            foreach (['release' => $prop['motion']['release'] ?? [], ...array_map(static fn (array $group): array => $group['release'], $prop['motion']['groups'] ?? [])] as $at => $release) {
                if (isset($release['by'])) {
                    $by = array_values(array_unique(array_map($name, $release['by'])));
                    if ($at === 'release') {
                        $d['props'][$i]['motion']['release']['by'] = $by;
                    } else {
                        $d['props'][$i]['motion']['groups'][$at]['release']['by'] = $by;
                    }
                }
            }
        }

        return $d;
    }

    /**
     * @param  list<array<string, mixed>>  $given
     * @param  list<string>  $props  their ids
     * @param  list<string>  $maps  ids
     * @return list<Cue>
     */
    private static function cues(array $given, array $props, array $maps): array
    {
        $cues = $ids = $names = [];
        foreach ($given as $k => $c) {
            $path = 'cues['.$k.']';
            if (isset($ids[$c['id']])) {
                throw Problem::inValue($path.'.id', 'Two cues have the same id.');
            }
            if (isset($names[mb_strtolower($c['name'])])) {
                throw Problem::inValue($path.'.name', 'Two cues are called "'.$c['name'].'".', 'Give each cue a name of its own.');
            }
            $ids[$c['id']] = $names[mb_strtolower($c['name'])] = true;
            $cue = Cue::of($c);
            foreach ($cue->isTouch() ? ['one' => $cue->one, 'other' => $cue->other] : [] as $side => $id) {
                if (! in_array($id, $props, true) && ($side === 'one' || $id !== 'ground')) {
                    throw Problem::inValue($path.'.at.'.$side, 'The cue "'.$cue->name.'" waits for the touch of a prop that is not there.', 'Choose another prop, or remove the cue.');
                }
            }
            if ($cue->map !== '' && ! in_array($cue->map, $maps, true)) {
                throw Problem::inValue($path.'.at.map', 'The cue "'.$cue->name.'" waits for a weight map that is not there.', 'Choose another map, or remove the cue.');
            }
            if ($cue->isTouch() && $cue->one === $cue->other) {
                throw Problem::inValue($path.'.at.other', 'The cue "'.$cue->name.'" waits for a prop to touch itself.', 'Choose two props.');
            }
            $cues[] = $cue;
        }

        return $cues;
    }

    /**
     * @param  list<array<string, mixed>>  $props
     *
     * @throws Problem where two maps have one name, one refers to what is not there, or some read each other in a circle
     */
    private static function throwIfMapsAreWrong(array $props, Cues $moments): void
    {
        $maps = $paths = $names = [];
        $ids = array_fill_keys(array_column($props, 'id'), true);
        foreach ($props as $i => $prop) {
            foreach ($prop['weights'] ?? [] as $k => $map) {
                $path = 'props['.$i.'].weights['.$k.']';
                if (isset($maps[$map['id']])) {
                    throw Problem::inValue($path.'.id', 'Two weight maps have the same id.');
                }
                if (isset($names[mb_strtolower($map['name'])])) {
                    throw Problem::inValue($path.'.name', 'Two weight maps are called "'.$map['name'].'".', 'Give each map a name of its own.');
                }
                $names[mb_strtolower($map['name'])] = true;
                $maps[$map['id']] = WeightMap::of($map, $prop['id'], $moments);
                $paths[$map['id']] = $path;
            }
        }
        self::throwIfPropNamesNoMap($props, $maps);
        foreach ($maps as $id => $map) {
            foreach ($map->layers as $n => $layer) {
                foreach ($layer->maps() as $read) {
                    if (! isset($maps[$read])) {
                        throw Problem::inValue($paths[$id].'.sources['.$n.']', 'The map "'.$map->name.'" takes over a map that is not there.', 'Choose another map, or remove this source.');
                    }
                }
                foreach ($layer->props() as $prop) {
                    if (! isset($ids[$prop])) {
                        throw Problem::inValue($paths[$id].'.sources['.$n.']', 'The map "'.$map->name.'" looks at a prop that is not there.', 'Choose another prop, or remove this source.');
                    }
                }
            }
            self::throwIfReadsItself((string) $id, $maps, $paths);
        }
    }

    /**
     * @param  list<array<string, mixed>>  $props
     * @param  array<array-key, WeightMap>  $maps
     *
     * @throws Problem where something of a prop goes by a map that is not one of that prop
     */
    private static function throwIfPropNamesNoMap(array $props, array $maps): void
    {
        foreach ($props as $i => $prop) {
            $motion = $prop['motion'];
            $named = [
                'motion.release' => $motion['release'] ?? [], 'motion.drift' => $motion['kind'] === 'drift' ? $motion['drift'] ?? [] : [],
                'appears' => $prop['appears'] ?? [], 'relief' => $prop['relief'] ?? [], 'material.second' => $prop['material']['second'] ?? [],
            ];
            foreach (['groups', 'pushes'] as $list) {
                foreach ($motion[$list] ?? [] as $k => $one) {
                    $named['motion.'.$list.'['.$k.']'.($list === 'groups' ? '.release' : '')] = $list === 'groups' ? $one['release'] : $one;
                }
            }
            foreach ([...array_filter(['break' => $prop['break'] ?? null]), ...$prop['rework'] ?? []] as $step => $one) {
                foreach ($one['values'] as $name => $value) {
                    $named[is_int($step) ? 'rework['.$step.'].values.'.$name.'.values' : 'break.values.'.$name.'.values'] = is_array($value) && ($value['source'] ?? '') === 'map' ? $value['values'] : [];
                }
            }
            if ($prop['source']['kind'] === 'scatter') {
                self::throwIfStrewnByAnother($prop, $i, $props, $maps);
            }
            foreach ($named as $path => $one) {
                $map = $one['map'] ?? '';
                if ($map !== '' && ($maps[$map] ?? null)?->prop !== $prop['id']) {
                    throw Problem::inValue('props['.$i.'].'.$path.'.map', $prop['name'].' goes by a weight map that is none of its own, or is not there.', 'Choose a map of '.$prop['name'].', or make one on the Weights stage.');
                }
            }
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
                throw Problem::inValue('props['.$number.'].source.'.$what, 'The prop that is '.$word.' is no longer there.', 'Choose another prop, or remove '.$prop['name'].'.');
            }
        }
        foreach ($prop['source']['values'] as $name => $value) {
            if (is_array($value) && ($value['source'] ?? '') === 'map' && ($maps[$value['values']['map'] ?? ''] ?? null)?->prop !== $prop['source']['over']) {
                throw Problem::inValue('props['.$number.'].source.values.'.$name, $prop['name'].' is strewn by a weight map that is none of '.$names[$prop['source']['over']].', or is not there.', 'Choose a map of '.$names[$prop['source']['over']].', or make one on the Weights stage.');
            }
        }
    }

    /**
     * @param  array<array-key, WeightMap>  $maps
     * @param  array<array-key, string>  $paths
     *
     * @throws Problem
     */
    private static function throwIfReadsItself(string $id, array $maps, array $paths): void
    {
        $trail = [[$id]];
        $seen = [];
        while (($way = array_pop($trail)) !== null) {
            foreach ($maps[end($way)]->maps() as $next) {
                if ($next === $id) {
                    $names = array_map(static fn (string $i): string => '"'.$maps[$i]->name.'"', $way);
                    throw Problem::inValue($paths[$id].'.sources', count($names) === 1 ? 'The map '.$names[0].' takes over itself.' : 'The maps '.implode(', ', $names).' take over each other in a circle.', 'Let one of them do without the next.');
                }
                if (! isset($seen[$next])) {
                    $seen[$next] = true;
                    $trail[] = [...$way, $next];
                }
            }
        }
    }

    /**
     * @param  list<array<string, mixed>>  $props
     *
     * @throws Problem where what drifts does so by a map that looks, by others or itself, at where it drifts
     */
    private static function throwIfDriftsHangOnEachOther(array $props): void
    {
        $names = array_column($props, 'name', 'id');
        $looks = [];
        foreach ($props as $prop) {
            if ($prop['motion']['kind'] === 'drift') {
                $maps = self::mapsOf((string) ($prop['motion']['drift']['map'] ?? ''), $props);
                $looks[$prop['id']] = array_merge(...array_values(array_map(static fn (array $map): array => self::named($map, 'to'), $maps)), ...[[]]);
            }
        }
        foreach ($props as $i => $prop) {
            $trail = isset($looks[$prop['id']]) ? [[$prop['id']]] : [];
            $seen = [];
            while (($way = array_pop($trail)) !== null) {
                foreach ($looks[end($way)] as $next) {
                    if ($next === $prop['id']) {
                        throw Problem::inValue('props['.$i.'].motion.drift.map', count($way) === 1 ? $prop['name'].' drifts by how near it is to itself.' : 'These drift by how near they are to each other, in a circle: '.implode(', ', array_map(static fn (string $id): string => $names[$id] ?? $id, $way)).'.', 'Let one of them drift by another map.');
                    }
                    if (isset($looks[$next]) && ! isset($seen[$next])) {
                        $seen[$next] = true;
                        $trail[] = [...$way, $next];
                    }
                }
            }
        }
    }

    /**
     * @param  array<string, mixed>  $p
     * @param  list<array<string, mixed>>  $all
     * @param  list<string>  $way  ids of the props that led here
     * @return array<string, PropSpec> by id: the other props this one is cut with or made of, as far as they are there
     *
     * @throws Problem where a prop is strewn of itself, round about
     */
    private static function tools(array $p, array $all, Cues $moments, int $first, Rate $rate, ShotLink $link, array $way): array
    {
        $wanted = array_map(static fn (array $step): string => (string) ($step['values']['tool'] ?? ''), [...array_filter([$p['break'] ?? null]), ...$p['rework'] ?? []]);
        $parts = $p['source']['kind'] === 'scatter' ? [$p['source']['of'], $p['source']['over']] : [];
        $tools = [];
        foreach ($all as $i => $other) {
            if (! in_array($other['id'], [...$wanted, ...$parts], true)) {
                continue;
            }
            if (in_array($other['id'], $way, true)) {
                if (in_array($other['id'], $parts, true)) {
                    throw Problem::inValue('props['.array_search($p['id'], array_column($all, 'id'), true).'].source', $p['name'].' is strewn of itself, or over itself.', 'Choose another prop.');
                }

                continue;
            }
            // What another prop is cut with changes nothing of what is copied of it.
            $its = in_array($other['id'], $parts, true) ? self::tools($other, $all, $moments, $first, $rate, $link, [...$way, $other['id']]) : [];
            $tools[$other['id']] = self::propOf($other, 'props['.$i.']', $moments, $first, $its, $link, self::steering($other, $all, $moments, [$first, $rate->toArray()]));
        }

        return $tools;
    }

    /**
     * What maps depend on that the making of a prop goes by: themselves, those they take over, how the props they look at are
     * made and stand, where the cues are that any of it is tied to, and what their seconds and their frames before go by.
     *
     * @param  array<string, mixed>  $p
     * @param  list<array<string, mixed>>  $all
     * @param  array{int, array{int, int}}  $frames  the first, and the rate
     * @return array<string, string>
     */
    private static function steering(array $p, array $all, Cues $moments, array $frames): array
    {
        $out = [];
        foreach ([$p['break'] ?? null, ...$p['rework'] ?? [], $p['source']] as $step) {
            foreach ($step['values'] ?? [] as $value) {
                if (is_array($value) && ($value['source'] ?? '') === 'map') {
                    $maps = self::mapsOf((string) ($value['values']['map'] ?? ''), $all);
                    $named = [...self::named($maps, 'to'), ...self::named($maps, 'on')];
                    $seen = array_filter($all, static fn (array $o): bool => in_array($o['id'], $named, true) || array_filter(array_keys($maps), static fn (string $key): bool => str_starts_with($key, $o['id'].' ')) !== []);
                    $looks = array_map(static fn (array $o): array => [$o['place'], $o['source'], $o['prepare'] ?? [], $o['motion']['kind']], $seen);
                    // What a bake finds comes after the making.
                    $cues = array_map(static fn (string $id): ?float => $moments->isLate($id) ? null : $moments->frame($id), array_unique([...self::named($maps, 'cue'), ...self::named($looks, 'cue')]));
                    $out[($value['values']['map'] ?? '').' '.($value['frame'] ?? '')] = hash('xxh128', (string) json_encode([$maps, array_values($looks), $cues, $frames]));
                }
            }
        }

        return $out;
    }

    /**
     * @param  array<string, mixed>  $p
     * @param  array<string, PropSpec>  $tools
     * @param  array<string, string>  $steering
     */
    private static function propOf(array $p, string $path, Cues $moments, int $first, array $tools, ShotLink $link, array $steering): PropSpec
    {
        Reading::check(Settings::place(), $p['place'], $path.'.place');
        Reading::check(Settings::material(), $p['material'], $path.'.material');
        Reading::check(Settings::relief(), $p['relief'] ?? [], $path.'.relief');
        $break = $p['break'] ?? null;
        if ($break !== null) {
            try {
                BreakCatalogue::make($break['pattern'], $break['values']);
            } catch (Problem $e) {
                throw $e->at($path.($e->path === 'pattern' ? '.break' : '.break.values'));
            }
        }
        if ($p['source']['kind'] === 'shape') {
            try {
                ShapeCatalogue::check($p['source']['shape'], $p['source']['values']);
            } catch (Problem $e) {
                throw $e->at($path.($e->path === 'shape' ? '.source' : '.source.values'));
            }
        }
        if ($p['source']['kind'] === 'scatter') {
            try {
                Scatter::of($p['source']['values']);
            } catch (Problem $e) {
                throw $e->at($path.'.source.values');
            }
        }
        try {
            PrepareCatalogue::check($p['prepare'] ?? []);
            Rework::check($p['rework'] ?? []);
        } catch (Problem $e) {
            throw $e->at($path);
        }
        $stands = $p['place'];
        $place = new PlaceTrack(
            Reading::point($stands['position'], $moments, $path.'.place.position'), Reading::point($stands['turn'], $moments, $path.'.place.turn'),
            Reading::number($stands['size'], $moments, $path.'.place.size'), ($stands['between'] ?? 'axes') === 'shortest',
        );
        if ($place->fullSize() <= 0.0) {
            throw Problem::inValue($path.'.place.size', 'The size is never above 0, so there is nothing of it.', 'Give it a size above 0 at one key at least.');
        }
        $motion = Motion::of($p['motion'], $moments, $path.'.motion', $link->movers);
        $weights = [];
        foreach ($p['weights'] ?? [] as $k => $map) {
            try {
                $weights[] = WeightMap::of($map, $p['id'], $moments);
            } catch (Problem $e) {
                throw $e->at($path.'.weights['.$k.']');
            }
        }

        return new PropSpec(
            $p['id'], $p['name'], $p['source'], $p['prepare'] ?? [],
            // What is fixed stands as it would at the start, keys or not.
            $motion->kind === 'fixed' ? $place->stoppedAt($first) : $place,
            Reading::number($stands['seen'] ?? 1.0, $moments, $path.'.place.seen'), Material::of($p['material'], $moments, $path.'.material'),
            $break, $p['rework'] ?? [], deg2rad((float) ($p['innerSmooth'] ?? 0.0)), $motion, $weights, $tools,
            Appears::of($p['appears'] ?? null), Relief::of($p['relief'] ?? null, $moments, $path.'.relief'), $link, $steering,
        );
    }
}
