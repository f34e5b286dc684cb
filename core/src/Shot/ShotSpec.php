<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Errors\ValidationError;
use Opis\JsonSchema\Validator;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Timing\PoseTrack;

/** A shot document, checked against its schema and across its fields. */
final readonly class ShotSpec
{
    public const VERSION = 2;

    /** Raised when the same document would give other shards, or another bake. */
    public const BREAK_VERSION = 7;

    public const BAKE_VERSION = 6;

    public const MOST_FRAMES = 5000;

    /** How deep a document may be nested. */
    public const DEEPEST = 64;

    /** Contact searches a frame, and sub-steps after each. */
    private const QUALITY = ['fast' => [1, 8], 'normal' => [2, 6], 'final' => [3, 4]];

    /**
     * @param  list<PropSpec>  $props  those that are not hidden
     * @param  array<string, string>  $assets  name by asset: the files all props need, hidden ones too
     */
    private function __construct(
        public string $name,
        public int $first,
        public int $last,
        public float $rate,
        public Vec3 $gravity,
        public bool $ground,
        public float $groundFriction,
        public float $groundBounce,
        public string $quality,
        public array $props,
        public array $assets,
    ) {
    }

    public static function schemaPath(): string
    {
        return dirname(__DIR__, 2).'/resources/shot.schema.json';
    }

    /** @throws Problem with the path of the first value that is wrong */
    public static function fromJson(string $json): self
    {
        $data = json_decode($json, false, self::DEEPEST);
        if (! $data instanceof \stdClass) {
            throw new Problem('document', 'This is no shot document: it is not readable JSON.', '', 'Export the shot again.');
        }

        return self::fromObject($data);
    }

    /**
     * A document that was found good when it was kept.
     *
     * @throws Problem
     */
    public static function ofKept(string $json): self
    {
        $data = json_decode($json, false, self::DEEPEST, JSON_THROW_ON_ERROR);

        return self::typed(json_decode(json_encode(Upgrade::of($data), JSON_THROW_ON_ERROR), true, self::DEEPEST, JSON_THROW_ON_ERROR));
    }

    /** @throws Problem */
    public static function fromObject(\stdClass $data): self
    {
        self::checkVersion($data->version ?? null);
        $data = Upgrade::of($data);
        $validator = new Validator;
        $result = $validator->validate($data, json_decode((string) file_get_contents(self::schemaPath()), false, 64, JSON_THROW_ON_ERROR));
        $error = $result->error();
        if ($error !== null) {
            throw self::schemaProblem($error);
        }

        return self::typed(json_decode(json_encode($data, JSON_THROW_ON_ERROR), true, self::DEEPEST, JSON_THROW_ON_ERROR));
    }

    /** @return array{int, int} contact searches a frame, sub-steps a search */
    public function steps(): array
    {
        return self::QUALITY[$this->quality];
    }

    /**
     * What the bake depends on, part by part, so that a difference can be named.
     *
     * @return array<string, string> hash by part: `frames`, `world`, `quality`, `order`, and for each prop `shape:id`, `place:id`, `material:id`, `motion:id`
     */
    public function bakeParts(): array
    {
        $parts = [
            'frames' => [$this->first, $this->last, $this->rate],
            'world' => [$this->gravity->toArray(), $this->ground, $this->groundFriction, $this->groundBounce],
            'quality' => [$this->quality, self::BAKE_VERSION],
            // Records of pieces follow each other as the props do.
            'order' => array_column($this->props, 'id'),
        ];
        foreach ($this->props as $p) {
            $parts['shape:'.$p->id] = [$p->shardKey()];
            $parts['place:'.$p->id] = [$p->place->position->toArray(), $p->place->turn->toArray()];
            $parts['material:'.$p->id] = [$p->density, $p->friction, $p->bounce];
            $parts['motion:'.$p->id] = [$p->motion, $p->held, $p->releaseOn, $p->releaseFrame, $p->reach, $p->velocity->toArray(), $p->spin->toArray(), serialize($p->keys), $p->groups];
        }

        return array_map(static fn (array $v): string => substr(hash('sha256', serialize($v)), 0, 16), $parts);
    }

    /**
     * A part of what a bake depends on, in words.
     *
     * @param  array<string, string>  $names  of props by id
     */
    public static function partInWords(string $part, array $names): string
    {
        [$kind, $prop] = explode(':', $part, 2) + [1 => ''];
        $words = ['frames' => 'frame range or rate', 'shape' => 'shape or break', 'order' => 'number or order of props'][$kind] ?? $kind;

        return $prop === '' ? $words : $words.' of '.($names[$prop] ?? 'a prop that is gone');
    }

    public function fingerprint(): string
    {
        return hash('sha256', json_encode($this->bakeParts(), JSON_THROW_ON_ERROR));
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
            $error = $error->subErrors()[0];
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

    /** @param  array<string, mixed>  $d already of the schema's form */
    private static function typed(array $d): self
    {
        if ($d['frames']['last'] <= $d['frames']['first']) {
            throw Problem::inValue('frames.last', 'The last frame must come after the first.', 'Set a later last frame.');
        }
        if ($d['frames']['last'] - $d['frames']['first'] >= self::MOST_FRAMES) {
            throw Problem::inValue('frames.last', 'A shot may be at most '.self::MOST_FRAMES.' frames long.', 'Shorten the range.');
        }
        $props = $ids = $names = $assets = [];
        foreach ($d['props'] as $i => $p) {
            $path = 'props['.$i.']';
            if (isset($ids[$p['id']])) {
                throw Problem::inValue($path.'.id', 'Two props have the same id.');
            }
            if (isset($names[mb_strtolower($p['name'])])) {
                throw Problem::inValue($path.'.name', 'Two props are called "'.$p['name'].'".', 'Give each prop a name of its own.');
            }
            $ids[$p['id']] = $names[mb_strtolower($p['name'])] = true;
            $prop = self::prop($p, $path, self::tools($p, $d['props']));
            $assets += $prop->assets();
            if (! ($p['hidden'] ?? false)) {
                $props[] = $prop;
            }
        }

        return new self(
            $d['name'], $d['frames']['first'], $d['frames']['last'], (float) $d['frames']['rate'],
            Vec3::of($d['world']['gravity']), $d['world']['ground']['on'], (float) $d['world']['ground']['friction'], (float) $d['world']['ground']['bounce'],
            $d['quality'] ?? 'normal', $props, $assets,
        );
    }

    /**
     * @param  array<string, mixed>  $p
     * @param  list<array<string, mixed>>  $all
     * @return array<string, PropSpec> by id: the other props this one is cut with, as far as they are there
     */
    private static function tools(array $p, array $all): array
    {
        $tools = [];
        foreach ([$p['break'] ?? null, ...$p['rework'] ?? []] as $step) {
            foreach ($all as $i => $other) {
                if ($other['id'] === ($step['values']['tool'] ?? null) && $other['id'] !== $p['id']) {
                    $tools[$other['id']] = self::prop($other, 'props['.$i.']', []);
                }
            }
        }

        return $tools;
    }

    /**
     * @param  array<string, mixed>  $p
     * @param  array<string, PropSpec>  $tools
     */
    private static function prop(array $p, string $path, array $tools): PropSpec
    {
        $motion = $p['motion'];
        $keys = [];
        foreach ($motion['keys'] ?? [] as $k => $key) {
            if ($k > 0 && $key['frame'] <= $motion['keys'][$k - 1]['frame']) {
                throw Problem::inValue($path.'.motion.keys['.$k.'].frame', 'Keys must follow each other in time.', 'Give every key a later frame than the one before.');
            }
            $keys[] = ['frame' => (float) $key['frame'], 'position' => Vec3::of($key['position']), 'turn' => PropSpec::turnOf($key['turn'])];
        }
        if ($motion['kind'] === 'keyed' && $keys === []) {
            throw Problem::inValue($path.'.motion.keys', 'A keyed prop needs at least one key.', 'Put the playhead on a frame and set a key.');
        }
        if (($motion['groups'] ?? []) !== [] && ($motion['held'] ?? 'still') === 'whole') {
            throw Problem::inValue($path.'.motion.groups', 'Pieces that move as one until they are let go cannot be let go in groups.', 'Hold them still, or remove the groups.');
        }
        $release = $motion['release'] ?? ['on' => 'frame', 'frame' => 0];
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
        try {
            PrepareCatalogue::check($p['prepare'] ?? []);
            Rework::check($p['rework'] ?? []);
        } catch (Problem $e) {
            throw $e->at($path);
        }

        return new PropSpec(
            $p['id'], $p['name'], $p['source'], $p['prepare'] ?? [],
            new Placement(Vec3::of($p['place']['position']), PropSpec::turnOf($p['place']['turn']), (float) $p['place']['size']),
            new Surface($p['material']['colour'], isset($p['material']['roughness']) ? (float) $p['material']['roughness'] : null, $p['material']['picture']['asset'] ?? null),
            new Surface($p['material']['inner'], isset($p['material']['innerRoughness']) ? (float) $p['material']['innerRoughness'] : null, $p['material']['innerPicture']['asset'] ?? null, (float) ($p['material']['innerPicture']['metres'] ?? 1.0)), (float) $p['material']['density'], (float) $p['material']['friction'], (float) $p['material']['bounce'],
            $break, $p['rework'] ?? [], deg2rad((float) ($p['innerSmooth'] ?? 0.0)),
            $motion['kind'], new PoseTrack($motion['kind'] === 'fixed' ? [] : $keys), $motion['held'] ?? 'still',
            $release['on'], $release['frame'] ?? 0, isset($release['reach']) ? (float) $release['reach'] : null,
            Vec3::of($motion['velocity'] ?? [0, 0, 0]), Vec3::of($motion['spin'] ?? [0, 0, 0])->times(M_PI / 180.0), $motion['groups'] ?? [], $tools,
        );
    }
}
