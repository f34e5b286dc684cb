<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Errors\ValidationError;
use Opis\JsonSchema\Validator;
use YardBreak\Core\Cloth\Finish;
use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Dust\Dust;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\Scatter;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Pace;
use YardBreak\Core\Timing\PlaceTrack;
use YardBreak\Core\Timing\Rate;
use YardBreak\Core\Weight\WeightMap;

/** Reads shot documents: by their schema, then across their fields. */
final class ShotReader
{
    /** @throws Problem with the path of the first value that is wrong */
    public static function fromJson(string $json, MoverCatalogue $movers = new MoverCatalogue): ShotSpec
    {
        $data = json_decode($json, false, ShotSpec::DEEPEST);
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
    public static function ofKept(string $json): ShotSpec
    {
        $data = json_decode($json, false, ShotSpec::DEEPEST, JSON_THROW_ON_ERROR);

        return self::typed(json_decode(json_encode(Upgrade::of($data), JSON_THROW_ON_ERROR), true, ShotSpec::DEEPEST, JSON_THROW_ON_ERROR), new MoverCatalogue);
    }

    /** @throws Problem */
    public static function fromObject(\stdClass $data, MoverCatalogue $movers = new MoverCatalogue): ShotSpec
    {
        self::checkVersion($data->version ?? null);
        $data = Upgrade::of($data);
        $validator = new Validator;
        $result = $validator->validate($data, json_decode((string) file_get_contents(ShotSpec::schemaPath()), false, 64, JSON_THROW_ON_ERROR));
        $error = $result->error();
        if ($error !== null) {
            throw self::schemaProblem($error);
        }

        return self::typed(json_decode(json_encode($data, JSON_THROW_ON_ERROR), true, ShotSpec::DEEPEST, JSON_THROW_ON_ERROR), $movers);
    }

    private static function checkVersion(mixed $version): void
    {
        if (is_int($version) && $version > ShotSpec::VERSION) {
            throw new Problem(
                'document',
                'This shot was made by a newer version of Yard Break (document version '.$version.', this one reads up to '.ShotSpec::VERSION.').',
                'version',
                'Update Yard Break, then open it again.',
            );
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
            $message = 'There is no such setting: '.implode(
                ', ',
                array_map(static fn (mixed $n): string => mb_substr((string) $n, 0, 40), (array) ($args['properties'] ?? [])),
            ).'.';
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

    /**
     * @param  array<string, mixed>  $d  already of the schema's form
     * @param  Cues|null  $moments  where its cues stand, where more is known of that than it says itself
     *
     * @throws Problem where its fields do not fit each other
     */
    public static function typed(array $d, MoverCatalogue $movers, ?Cues $moments = null): ShotSpec
    {
        if ($d['frames']['last'] <= $d['frames']['first']) {
            throw Problem::inValue('frames.last', 'The last frame must come after the first.', 'Set a later last frame.');
        }
        if ($d['frames']['last'] - $d['frames']['first'] >= ShotSpec::MOST_FRAMES) {
            throw Problem::inValue('frames.last', 'A shot may be at most '.ShotSpec::MOST_FRAMES.' frames long.', 'Shorten the range.');
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
        References::throwIfGroundIsNoProp($d['world']['ground'], $d['props']);
        $d = self::withGroundNamed($d);
        $cues = self::cues(
            $d['cues'] ?? [],
            array_column($d['props'], 'id'),
            array_merge([], ...array_map(static fn (array $p): array => array_column($p['weights'] ?? [], 'id'), $d['props'])),
        );
        $moments ??= new Cues(array_column(array_map(static fn (Cue $c): array => [$c->id, $c->frame], $cues), 1, 0));
        [$maps, $paths] = self::maps($d['props'], $moments);
        Reading::check(Settings::world(), $d['world'], 'world');
        $pace = new Pace(Reading::number($d['world']['pace'] ?? 1.0, $moments, 'world.pace'), $d['frames']['first'], $d['frames']['last']);
        $link = new ShotLink($movers, ($d['world']['keysFollow'] ?? false) && ! $pace->isEven() ? $pace : null);
        $all = $names = $hidden = [];
        foreach ($d['props'] as $i => $p) {
            $path = 'props['.$i.']';
            if (isset($all[$p['id']])) {
                throw Problem::inValue($path.'.id', 'Two props have the same id.');
            }
            if (isset($names[mb_strtolower($p['name'])])) {
                throw Problem::inValue($path.'.name', 'Two props are called "'.$p['name'].'".', 'Give each prop a name of its own.');
            }
            $names[mb_strtolower($p['name'])] = true;
            $all[$p['id']] = self::propOf(
                $p,
                $path,
                $moments,
                $d['frames']['first'],
                self::tools($p, $d['props'], $moments, $d['frames']['first'], $rate, $link, [$p['id']], $maps),
                $link,
                self::steering($p, $d['props'], $moments, [$d['frames']['first'], $rate->toArray()], $maps),
            );
            if ($p['hidden'] ?? false) {
                $hidden[$p['id']] = true;
            }
        }
        (new References($d['props'], $all, $maps, $paths))->check();
        $graph = new CueGraph($cues, $all, $hidden, $maps);
        $graph->throwIfCircular();
        $props = array_values(array_diff_key($all, $hidden));
        $assets = array_replace([], ...array_map(static fn (PropSpec $p): array => $p->assets(), array_values($all)));
        foreach ($d['plate']['frames'] ?? [] as $one) {
            $assets += [$one['asset'] => sprintf('plate.%04d', $one['frame'])];
        }
        if (isset($d['plate'])) {
            Reading::check(Settings::plate(), $d['plate'], 'plate');
            Reading::number($d['plate']['opacity'] ?? 1.0, $moments, 'plate.opacity');
        }
        $world = $d['world'];
        $forces = self::forces($d['forces'] ?? [], $moments);
        References::throwIfForcesMissWhatTheyActOn($forces, $all, $maps);

        $link->shot = new ShotSpec(
            $d['name'], $d['frames']['first'], $d['frames']['last'], $rate,
            Reading::point($world['gravity'], $moments, 'world.gravity'),
            $ground,
            $world['ground']['kind'] === GroundCatalogue::PROP ? $world['ground']['prop'] ?? '' : '',
            Reading::number($world['friction'], $moments, 'world.friction'),
            Reading::number($world['bounce'], $moments, 'world.bounce'),
            $d['quality'] ?? 'normal', $cues, $moments, $props, $assets, isset($d['camera'])
                ? Camera::of($d['camera'], $moments, [$d['frames']['first'], $d['frames']['last']])
                : null, $forces, $pace, $d, $movers, $graph,
        );

        return $link->shot;
    }

    /**
     * @param  list<array<string, mixed>>  $given  already of the schema's form
     * @return list<Dust>
     *
     * @throws Problem
     */
    private static function dust(array $given, Cues $moments, string $path): array
    {
        $out = [];
        foreach ($given as $k => $d) {
            try {
                $out[] = Dust::of($d, $moments);
            } catch (Problem $e) {
                throw $e->at($path.'.dust['.$k.']');
            }
        }

        return $out;
    }

    /**
     * @param  list<array<string, mixed>>  $given
     * @return list<ForceSpec>
     */
    private static function forces(array $given, Cues $moments): array
    {
        $forces = $names = [];
        foreach ($given as $k => $f) {
            $path = 'forces['.$k.']';
            if (isset($forces[$f['id']])) {
                throw Problem::inValue($path.'.id', 'Two forces have the same id.');
            }
            if (isset($names[mb_strtolower($f['name'])])) {
                throw Problem::inValue($path.'.name', 'Two forces are called "'.$f['name'].'".', 'Give each force a name of its own.');
            }
            $names[mb_strtolower($f['name'])] = true;
            Reading::check(Settings::force(), $f, $path);
            try {
                $forces[$f['id']] = ForceSpec::of($f, $moments);
            } catch (Problem $e) {
                throw $e->at($path);
            }
        }

        return array_values($forces);
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
            foreach ([
                'release' => $prop['motion']['release'] ?? [],
                ...array_map(static fn (array $group): array => $group['release'], $prop['motion']['groups'] ?? []),
            ] as $at => $release) {
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
                    throw Problem::inValue(
                        $path.'.at.'.$side,
                        'The cue "'.$cue->name.'" waits for the touch of a prop that is not there.',
                        'Choose another prop, or remove the cue.',
                    );
                }
            }
            if ($cue->map !== '' && ! in_array($cue->map, $maps, true)) {
                throw Problem::inValue(
                    $path.'.at.map',
                    'The cue "'.$cue->name.'" waits for a weight map that is not there.',
                    'Choose another map, or remove the cue.',
                );
            }
            if ($cue->isTouch() && $cue->one === $cue->other) {
                throw Problem::inValue($path.'.at.other', 'The cue "'.$cue->name.'" waits for a prop to touch itself.', 'Choose two props.');
            }
            $cues[] = $cue;
        }

        return $cues;
    }

    /**
     * @param  array<string, mixed>  $p
     * @param  list<array<string, mixed>>  $all
     * @param  list<string>  $way  ids of the props that led here
     * @param  array<string, WeightMap>  $maps  by id
     * @return array<string, PropSpec> by id: the other props this one is cut with or made of, as far as they are there
     *
     * @throws Problem where a prop is strewn of itself, round about
     */
    private static function tools(array $p, array $all, Cues $moments, int $first, Rate $rate, ShotLink $link, array $way, array $maps): array
    {
        $wanted = array_map(
            static fn (array $step): string => (string) ($step['values']['tool'] ?? ''),
            [...array_filter([$p['break'] ?? null]), ...$p['rework'] ?? []],
        );
        $wanted = [...$wanted, ...$p['blend']['to'] ?? []];
        $parts = $p['source']['kind'] === 'scatter' ? [$p['source']['of'], $p['source']['over']] : [];
        $tools = [];
        foreach ($all as $i => $other) {
            if (! in_array($other['id'], [...$wanted, ...$parts], true)) {
                continue;
            }
            if (in_array($other['id'], $way, true)) {
                if (in_array($other['id'], $parts, true)) {
                    throw Problem::inValue(
                        'props['.array_search($p['id'], array_column($all, 'id'), true).'].source',
                        $p['name'].' is strewn of itself, or over itself.',
                        'Choose another prop.',
                    );
                }

                continue;
            }
            // What another prop is cut with changes nothing of what is copied of it.
            $its = in_array($other['id'], $parts, true) ? self::tools($other, $all, $moments, $first, $rate, $link, [...$way, $other['id']], $maps) : [];
            $tools[$other['id']] = self::propOf(
                $other,
                'props['.$i.']',
                $moments,
                $first,
                $its,
                $link,
                self::steering($other, $all, $moments, [$first, $rate->toArray()], $maps),
            );
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
     * @param  array<string, WeightMap>  $maps  by id
     * @return array<string, string>
     */
    private static function steering(array $p, array $all, Cues $moments, array $frames, array $maps): array
    {
        $out = [];
        $written = array_column(array_merge([], ...array_map(static fn (array $o): array => $o['weights'] ?? [], $all)), null, 'id');
        foreach ([$p['break'] ?? null, ...$p['rework'] ?? [], $p['source']] as $step) {
            foreach ($step['values'] ?? [] as $value) {
                if (! is_array($value) || ($value['source'] ?? '') !== 'map') {
                    continue;
                }
                $map = (string) ($value['values']['map'] ?? '');
                $used = array_intersect_key($maps, array_flip(Circle::from($map, static fn (string $id): array => ($maps[$id] ?? null)?->maps() ?? [])));
                $seen = array_merge([], ...array_values(array_map(static fn (WeightMap $m): array => [$m->prop, ...$m->props()], $used)));
                $looks = array_map(
                    static fn (array $o): array => [$o['place'], $o['source'], $o['prepare'] ?? [], $o['motion']['kind']],
                    array_values(array_filter($all, static fn (array $o): bool => in_array($o['id'], $seen, true))),
                );
                $ties = array_merge(
                    [],
                    ...array_values(array_map(static fn (WeightMap $m): array => $m->ties(), $used)),
                    ...array_map(static fn (array $look): array => self::tied($look), $looks),
                );
                // What a bake finds comes after the making.
                $cues = array_map(static fn (string $id): ?float => $moments->isLate($id) ? null : $moments->frame($id), array_values(array_unique($ties)));
                $out[$map.' '.($value['frame'] ?? '')] = hash(
                    'xxh128',
                    (string) json_encode([
                        array_map(static fn (WeightMap $m): array => [$m->prop, $written[$m->id]], array_values($used)),
                        $looks,
                        $cues,
                        $frames,
                    ]),
                );
            }
        }

        return $out;
    }

    /**
     * @param  array<mixed>  $part  of a document
     * @return list<string> ids of the cues that anything of it is tied to, however deep
     */
    private static function tied(array $part): array
    {
        $out = [];
        foreach ($part as $key => $value) {
            if ($key === 'cue' && is_string($value)) {
                $out[] = $value;
            } elseif (is_array($value)) {
                array_push($out, ...self::tied($value));
            }
        }

        return $out;
    }

    /**
     * @param  list<array<string, mixed>>  $props
     * @return array{array<string, WeightMap>, array<string, string>} the weight maps of all props, and where each stands, by id
     *
     * @throws Problem where two have one name
     */
    private static function maps(array $props, Cues $moments): array
    {
        $maps = $paths = $names = [];
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
                try {
                    $maps[$map['id']] = WeightMap::of($map, $prop['id'], $moments);
                } catch (Problem $e) {
                    throw $e->at($path);
                }
                $paths[$map['id']] = $path;
            }
        }

        return [$maps, $paths];
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
            Reading::number($stands['size'], $moments, $path.'.place.size'), ($stands['between'] ?? 'axes') === 'shortest', $link->pace,
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
            self::dust($p['dust'] ?? [], $moments, $path), Finish::of($p['finish'] ?? null), Blend::of($p['blend'] ?? null),
        );
    }
}
