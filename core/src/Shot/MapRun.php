<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\FaceNeighbours;
use YardBreak\Core\Geometry\FineMesh;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Geometry\NearestPlaces;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\SurfaceTree;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Weight\Body;
use YardBreak\Core\Weight\Carried;
use YardBreak\Core\Weight\InTime\Step;
use YardBreak\Core\Weight\Memory;
use YardBreak\Core\Weight\Picture;
use YardBreak\Core\Weight\Points;
use YardBreak\Core\Weight\WeightMap;

/**
 * The maps of a shot, frame by frame. Any frame can be asked for; what depends on the frames before is worked out from the
 * last one asked for, or from the first.
 */
final class MapRun
{
    /** Raised when the same map would give other weights. */
    private const VERSION = 3;

    public const SURFACE = 'points';

    public const PIECES = 'pieces';

    /** All points of the pieces as they are drawn where their surface goes by maps. */
    public const SKIN = 'skin';

    /** @var array<string, Points> by prop and kind */
    private array $points = [];

    /** @var array<string, Body> by prop and what is measured to */
    private array $bodies = [];

    /** @var array<string, array<string, Memory>> by map and points */
    private array $memories = [];

    /** @var array<string, list<Step>> by map and points */
    private array $steps = [];

    /** @var array<string, array{int, list<float>}> by map and points: the frame asked for last, and its weights */
    private array $last = [];

    /** @var array<string, array{int, list<float>}> the same, before that one; of what remembers, always of the frame before */
    private array $before = [];

    /** @var array<string, list<array<string, list<float>|list<int>>>> by map and points: what each step knew at that frame before */
    private array $knew = [];

    /** @var array<string, Picture> by asset */
    private array $pictures = [];

    /** @var array<string, NearestPlaces> by prop and fineness: where the points of its pieces lie on the mesh its maps are asked on */
    private array $skins = [];

    /** @var array<string, list<string>> by map and kind: what each frame depends on */
    private array $keys = [];

    /**
     * @param  ShotSpec  $shot  as it is known so far
     * @param  MovedPieces|null  $moved  where physics has moved the pieces of free props, where that is known
     */
    public function __construct(
        public ShotSpec $shot,
        public readonly PropParts $parts,
        public readonly ?KeptWeights $kept = null,
        private readonly ?MovedPieces $moved = null,
    ) {
    }

    /**
     * Takes over the shot as it is from now on.
     *
     * @param  int  $frame  the first at which it may be otherwise
     */
    public function follow(ShotSpec $shot, int $frame): void
    {
        $this->shot = $shot;
        $this->keys = [];
        foreach ($this->last as $key => [$at, $_]) {
            if ($at < $frame) {
                continue;
            }
            $back = isset($this->before[$key]) && $this->before[$key][0] < $frame ? $this->before[$key] : null;
            if ($back === null) {
                unset($this->last[$key], $this->steps[$key]);
            } else {
                $this->last[$key] = $back;
                foreach ($this->knew[$key] ?? [] as $k => $state) {
                    $this->steps[$key][$k]->restore($state);
                }
            }
            unset($this->before[$key], $this->knew[$key]);
        }
    }

    /** What the shape of a prop depends on, and where its pieces have gone; nothing that is the same twice where they move. */
    public function shapeOf(string $prop, int $frame): string
    {
        $spec = $this->prop($prop);

        return $spec->shardKey().match (true) {
            $this->moved !== null && $spec->motion->letsGo() => ' at '.$this->moved->key($frame),
            $spec->motion->drift !== null => ' drifts '.(new DriftRun($this))->key($prop, $frame),
            default => '',
        };
    }

    /**
     * What of a prop stands where.
     *
     * @return list<Body>
     */
    public function bodiesOf(string $prop, string $what, int $frame): array
    {
        $places = $what === 'origin' ? null : $this->parted($prop, $frame);
        if ($places === null) {
            return [$this->body($prop, $what, $frame)];
        }
        $out = [];
        foreach ($this->parts->pieces($this->prop($prop)) as $piece => $shard) {
            $body = $this->bodies[$prop.' '.$what.' '.$piece] ??= $what === 'pieces'
                ? new Body(self::cloud([$shard->centre()->x], [$shard->centre()->y], [$shard->centre()->z]), Placement::identity(), false)
                : new Body(
                    $what === 'points' ? self::cloud($shard->mesh->x, $shard->mesh->y, $shard->mesh->z) : new SurfaceTree($shard->mesh),
                    Placement::identity(),
                    $what === 'surface',
                );
            $out[] = new Body($body->tree, $places[$piece], $body->closed);
        }

        return $out;
    }

    /**
     * @return list<Placement>|null where its pieces have gone by physics or by their drift, from its own coordinates to the scene; null where they stand as
     * their prop does
     */
    private function parted(string $prop, int $frame): ?array
    {
        $motion = $this->prop($prop)->motion;
        $moved = $motion->letsGo() ? $this->moved?->places($this->numberOf($prop), $frame) : null;

        return $moved ?? ($motion->drift === null || $motion->drift->byFace ? null : (new DriftRun($this))->places($prop, $frame));
    }

    private function numberOf(string $prop): int
    {
        return (int) $this->shot->indexOf($prop);
    }

    /**
     * What the weights of a map depend on, frame by frame: where two are the same, so are the weights.
     *
     * @param  'points'|'pieces'|'skin'  $kind
     * @return list<string> 32 hexadecimal digits for each frame from the first to the last
     *
     * @throws Problem
     */
    public function keys(string $map, string $kind): array
    {
        if (isset($this->keys[$map.' '.$kind])) {
            return $this->keys[$map.' '.$kind];
        }
        $spec = $this->map($map);
        if ($kind === self::SKIN) {
            $pieces = $this->prop($spec->prop)->shardKey();

            return $this->keys[$map.' '.$kind] = array_map(
                static fn (string $key): string => hash('xxh128', self::SKIN.' '.$pieces.' '.$key),
                $this->keys($map, self::SURFACE),
            );
        }
        $nested = array_map(fn (string $id): array => $this->keys($id, $this->kindFor($id, $spec, $kind)), $spec->maps());
        $out = [];
        $chain = '';
        for ($frame = $this->shot->first; $frame <= $this->shot->last; $frame++) {
            $out[] = $chain = $this->key($spec, $kind, $frame, array_column($nested, $frame - $this->shot->first), $chain);
        }

        return $this->keys[$map.' '.$kind] = $out;
    }

    /**
     * The same at one frame, also before the first.
     *
     * @param  'points'|'pieces'  $kind
     *
     * @throws Problem
     */
    public function keyAt(string $map, string $kind, int $frame): string
    {
        return $frame < $this->shot->first ? $this->keyBefore($map, $kind) : $this->keys($map, $kind)[min($frame, $this->shot->last) - $this->shot->first];
    }

    /**
     * What its weights depend on at the frame before the first.
     *
     * @param  'points'|'pieces'  $kind
     *
     * @throws Problem
     */
    public function keyBefore(string $map, string $kind): string
    {
        $spec = $this->map($map);

        // What remembers is before the shot as it is at its first frame.
        return $spec->remembers()
            ? $this->keys($map, $kind)[0]
            : $this->key(
                $spec,
                $kind,
                $this->shot->first - 1,
                array_map(fn (string $id): string => $this->keyBefore($id, $this->kindFor($id, $spec, $kind)), $spec->maps()),
                '',
            );
    }

    /**
     * @param  'points'|'pieces'  $kind
     * @return 'points'|'pieces' what a map that another one takes over is asked for
     */
    private function kindFor(string $map, WeightMap $by, string $kind): string
    {
        return $this->map($map)->prop === $by->prop ? $kind : self::SURFACE;
    }

    /**
     * @param  list<string>  $nested  keys of the maps it takes over
     * @param  string  $before  its own, of the frame before
     *
     * @throws Problem
     */
    private function key(WeightMap $spec, string $kind, int $frame, array $nested, string $before): string
    {
        $scene = new MapScene($this, $frame);
        $at = [self::VERSION, $kind, $this->prop($spec->prop)->shardKey()];
        foreach ($spec->layers as $k => $layer) {
            try {
                $at[] = $layer->key($spec->prop, $scene);
            } catch (Problem $e) {
                throw $this->placed($e, $spec, $k);
            }
        }
        foreach ($spec->steps as [, $values, $name]) {
            $at[] = [$name, $values->at($frame), $this->shot->frameTime(), $before];
        }

        return hash('xxh128', serialize([...$at, ...$nested]));
    }

    /**
     * The weights of a map at a frame from what is kept of its sources, before anything becomes of them in time.
     *
     * @param  'points'|'pieces'  $kind
     * @return list<float>|null null where something is not kept
     *
     * @throws Problem
     */
    public function fromKept(string $map, string $kind, int $frame): ?array
    {
        $spec = $this->map($map);
        $prop = $this->prop($spec->prop);
        $scene = new MapScene($this, $frame);
        $weights = null;
        foreach ($spec->layers as $k => $layer) {
            try {
                $weights = $layer->overKept($weights, $prop->id, $kind === self::PIECES ? $prop->shardKey() : $prop->meshKey(), $scene);
            } catch (Problem $e) {
                throw $this->placed($e, $spec, $k);
            }
            if ($weights === null) {
                return null;
            }
        }

        return $weights;
    }

    /**
     * The weights of a map at a frame before anything becomes of them in time.
     *
     * @param  'points'|'pieces'  $kind
     * @return list<float>
     *
     * @throws Problem
     */
    public function weightsOfSources(string $map, string $kind, int $frame): array
    {
        $spec = $this->map($map);
        $on = $this->pointsOf($spec->prop, $kind);

        return $this->layersOn($spec, $on, $frame, $map.' '.$on->key);
    }

    /**
     * The weights of a map at a frame.
     *
     * @param  'points'|'pieces'  $kind
     * @return list<float> one a point of the prop's mesh, or a piece
     *
     * @throws Problem
     */
    public function weightsAt(string $map, string $kind, int $frame): array
    {
        $spec = $this->map($map);

        return $this->weightsOn($spec, $this->pointsOf($spec->prop, $kind), $frame);
    }

    /**
     * The weights of a map at a frame on all points of the pieces of its prop, one piece after the other: what lies within
     * takes what is at the nearest place of the surface.
     *
     * @param  bool  $fine  of the pieces in smaller faces
     * @return list<float>
     *
     * @throws Problem
     */
    public function onSkin(string $map, int $frame, bool $fine = true): array
    {
        return $this->carried($map, $this->weightsAt($map, self::SURFACE, $frame), $frame, $fine);
    }

    /**
     * Weights of the points of a prop's mesh as its pieces have them.
     *
     * @param  list<float>  $weights
     * @return list<float> as `onSkin`
     *
     * @throws Problem
     */
    public function carried(string $map, array $weights, int $frame, bool $fine = true): array
    {
        $prop = $this->map($map)->prop;
        $body = $this->body($prop, 'points of a map', $frame);
        $places = $this->skins[$prop.($fine ? ' fine' : '')] ??= $this->skinPlaces($prop, $body, $fine);

        return Carried::at($weights, $places, $body);
    }

    private function skinPlaces(string $prop, Body $body, bool $fine): NearestPlaces
    {
        $x = $y = $z = [];
        foreach ($this->shards($prop, $fine) as $shard) {
            array_push($x, ...$shard->mesh->x);
            array_push($y, ...$shard->mesh->y);
            array_push($z, ...$shard->mesh->z);
        }

        return $body->tree->nearest($x, $y, $z);
    }

    /**
     * @param  bool  $fine  in smaller faces
     * @return list<Shard> pieces of a prop
     *
     * @throws Problem
     */
    public function shards(string $prop, bool $fine = false): array
    {
        $shards = $this->parts->pieces($this->prop($prop));

        return $fine ? Skin::fine($this->prop($prop), $shards) : $shards;
    }

    /**
     * Between two frames: weights go evenly from one to the other.
     *
     * @param  'points'|'pieces'  $kind
     * @return list<float>
     *
     * @throws Problem
     */
    public function weightsBetween(string $map, string $kind, float $frame): array
    {
        $before = (int) floor($frame);
        $weights = $this->weightsAt($map, $kind, $before);
        $share = $frame - $before;
        if ($share > 0.0) {
            $after = $this->weightsAt($map, $kind, $before + 1);
            foreach ($weights as $i => $w) {
                $weights[$i] = $w + $share * ($after[$i] - $w);
            }
        }

        return $weights;
    }

    /**
     * One source of a map by itself.
     *
     * @return list<float>
     *
     * @throws Problem
     */
    public function layerAt(string $map, int $layer, string $kind, int $frame): array
    {
        $spec = $this->map($map);
        $one = $spec->layers[$layer] ?? throw Problem::inValue('sources['.$layer.']', 'There is no such source.');
        $on = $this->pointsOf($spec->prop, $kind);
        try {
            return $one->alone($on, new MapScene($this, $frame), $this->memories[$map.' '.$on->key]['layer '.$layer] ??= new Memory);
        } catch (Problem $e) {
            throw $this->placed($e, $spec, $layer);
        }
    }

    /** Whether what a map is at a frame depends on what was before, by itself or by a map it takes over. */
    public function remembers(string $map): bool
    {
        $spec = $this->map($map);

        return $spec->remembers() || array_filter($spec->maps(), $this->remembers(...)) !== [];
    }

    /** @return list<float> */
    public function weightsOn(WeightMap $map, Points $on, int $frame): array
    {
        $key = $map->id.' '.($on->arePieces() ? self::PIECES : self::SURFACE).' '.$on->prop;
        [$at, $weights] = $this->last[$key] ?? [null, []];
        if ($at === $frame) {
            return $weights;
        }
        // What moves between two frames asks for both of them by turns.
        if (($this->before[$key][0] ?? null) === $frame) {
            return $this->before[$key][1];
        }
        if (! $map->remembers()) {
            $weights = $this->layersOn($map, $on, $frame, $key);
            if ($at !== null) {
                $this->before[$key] = [$at, $this->last[$key][1]];
            }
            $this->last[$key] = [$frame, $weights];

            return $weights;
        }
        if ($at === null || $at > $frame) {
            $this->steps[$key] = array_map(static fn (array $step): Step => $step[0]::over($on), $map->steps);
            $at = $this->shot->first - 1;
            unset($this->before[$key], $this->knew[$key], $this->last[$key]);
            // Before the shot it is as at its first frame.
            $frame = max($frame, $this->shot->first);
        }
        for ($f = $at + 1; $f <= $frame; $f++) {
            if (isset($this->last[$key])) {
                $this->before[$key] = $this->last[$key];
                $this->knew[$key] = array_map(static fn (Step $s): array => $s->state(), $this->steps[$key]);
            }
            $weights = $this->layersOn($map, $on, $f, $key);
            foreach ($map->steps as $k => [, $values]) {
                $weights = $this->steps[$key][$k]->next($weights, $values->at($f), $f === $this->shot->first ? 0.0 : $this->shot->frameTime());
            }
            $this->last[$key] = [$f, $weights];
        }

        return $weights;
    }

    /** @throws Problem */
    public function map(string $id): WeightMap
    {
        return $this->shot->map($id) ?? throw Problem::inValue('weights', 'The weight map this refers to is not there any more.', 'Choose another map.');
    }

    /**
     * @param  string  $kind  `points` or `pieces`
     *
     * @throws Problem
     */
    public function pointsOf(string $prop, string $kind): Points
    {
        return $this->points[$prop.' '.$kind] ??= $kind === self::PIECES ? $this->pieces($this->prop($prop)) : $this->surface($this->prop($prop));
    }

    public function place(string $prop, int $frame): Placement
    {
        return $this->prop($prop)->place->at($frame);
    }

    /** What can be measured to, in the prop's own coordinates. */
    public function body(string $prop, string $what, int $frame): Body
    {
        $body = $this->bodies[$prop.' '.$what] ??= $this->made($this->prop($prop), $what);

        return new Body($body->tree, $this->place($prop, $frame), $body->closed);
    }

    public function named(string $prop, NamedFaces $by, string $name): Body
    {
        return $this->bodies[$prop.' '.$by->value.' '.$name] ??= new Body(
            new SurfaceTree($this->parts->named($this->prop($prop), $by, $name)),
            Placement::identity(),
            false,
        );
    }

    /** Metres from one corner to the other of the box round a prop. */
    public function extent(string $prop): float
    {
        $on = $this->pointsOf($prop, self::SURFACE);

        return $on->mesh === null ? 0.0 : Aabb::around($on->mesh)->diagonal();
    }

    public function picture(string $asset): Picture
    {
        return $this->pictures[$asset] ??= $this->parts->picture($asset);
    }

    /**
     * How much of its prop has reached half of a map at a frame, as a share of the points of its mesh.
     *
     * @throws Problem
     */
    public function shareAt(string $map, int $frame): float
    {
        $weights = $this->weightsAt($map, self::SURFACE, $frame);

        return $weights === [] ? 0.0 : count(array_filter($weights, static fn (float $w): bool => $w >= 0.5)) / count($weights);
    }

    /**
     * The first frame at which so much of it has.
     *
     * @throws Problem
     */
    public function reaching(string $map, float $share): ?int
    {
        for ($frame = $this->shot->first; $frame <= $this->shot->last; $frame++) {
            if ($this->shareAt($map, $frame) >= $share - 1e-9) {
                return $frame;
            }
        }

        return null;
    }

    /**
     * What cannot be worked out again: weights of the last two frames of what remembers, or goes by what physics moves, and
     * what each step knows.
     *
     * @return array<string, array{list<array{int, list<float>}>, list<array<string, list<float>|list<int>>>}> by map and points
     */
    public function state(): array
    {
        $out = [];
        foreach ($this->last as $key => $last) {
            if (isset($this->steps[$key]) || $this->shot->goesByPhysics(explode(' ', $key)[0])) {
                $out[$key] = [
                    [...isset($this->before[$key]) ? [$this->before[$key]] : [], $last],
                    array_map(static fn (Step $s): array => $s->state(), $this->steps[$key] ?? []),
                ];
            }
        }

        return $out;
    }

    /** @param  array<string, array{list<array{int, list<float>}>, list<array<string, list<float>|list<int>>>}>  $state */
    public function restore(array $state): void
    {
        foreach ($state as $key => [$weights, $steps]) {
            [$map, $kind, $prop] = explode(' ', $key);
            $this->last[$key] = array_pop($weights);
            if ($weights !== []) {
                $this->before[$key] = $weights[0];
            }
            foreach ($steps as $k => $kept) {
                $step = $this->map($map)->steps[$k][0]::over($this->pointsOf($prop, $kind));
                $step->restore($kept);
                $this->steps[$key][$k] = $step;
            }
        }
    }

    /** @return list<float> */
    private function layersOn(WeightMap $map, Points $on, int $frame, string $key): array
    {
        $weights = array_fill(0, $on->count(), 0.0);
        $scene = new MapScene($this, $frame);
        $this->memories[$key] ??= [];
        foreach ($map->layers as $k => $layer) {
            try {
                $weights = $layer->over($weights, $on, $scene, $this->memories[$key], 'layer '.$k);
            } catch (Problem $e) {
                throw $this->placed($e, $map, $k);
            }
        }

        return $weights;
    }

    private function placed(Problem $e, WeightMap $map, int $layer): Problem
    {
        return str_starts_with($e->path, 'props[') ? $e : $e->at($this->shot->pathOfMap($map->id).'.sources['.$layer.']');
    }

    /** @throws Problem */
    public function prop(string $id): PropSpec
    {
        return $this->shot->prop($id)
            ?? throw Problem::inValue('', 'The prop this is measured to is not there, or is hidden.', 'Choose another prop, or show it again.');
    }

    private function surface(PropSpec $prop): Points
    {
        $mesh = FineMesh::of($this->parts->mesh($prop));

        return Points::ofMesh(
            $prop->meshKey(),
            $prop->id,
            $mesh,
            fn (): array => $this->pointsOf($prop->id, self::PIECES)->names(),
            fn (): array => $this->pieceOf($prop, $mesh),
        );
    }

    private function pieces(PropSpec $prop): Points
    {
        $shards = $this->parts->pieces($prop);
        $centres = array_map(static fn (Shard $s): Vec3 => $s->centre(), $shards);

        return Points::ofPieces(
            $prop->shardKey(), $prop->id, array_map(static fn (Shard $s): string => $s->name, $shards),
            [
                array_map(static fn (Vec3 $c): float => $c->x, $centres),
                array_map(static fn (Vec3 $c): float => $c->y, $centres),
                array_map(static fn (Vec3 $c): float => $c->z, $centres),
            ],
            array_map(static fn (Shard $s): float => $s->mass->volume, $shards),
            fn (): array => Joint::ways($this->parts->joints($prop)),
        );
    }

    /** @return list<int> by point of the mesh: the piece that has it; that of the nearest middle where none does */
    private function pieceOf(PropSpec $prop, Mesh $mesh): array
    {
        if ($prop->break === null) {
            return array_fill(0, $mesh->vertexCount(), 0);
        }
        $shards = $this->parts->pieces($prop);
        $at = [];
        foreach ($shards as $piece => $shard) {
            foreach ($shard->mesh->x as $i => $x) {
                $at[pack('e3', $x, $shard->mesh->y[$i], $shard->mesh->z[$i])] ??= $piece;
            }
        }
        $out = [];
        $missing = [];
        foreach ($mesh->x as $i => $x) {
            $out[$i] = $at[pack('e3', $x, $mesh->y[$i], $mesh->z[$i])] ?? -1;
            if ($out[$i] < 0) {
                $missing[] = $i;
            }
        }
        if ($missing !== []) {
            $pieces = $this->pointsOf($prop->id, self::PIECES);
            $near = self::cloud($pieces->x, $pieces->y, $pieces->z)->nearest(...array_map(
                static fn (array $axis): array => array_map(static fn (int $i): float => $axis[$i], $missing),
                [$mesh->x, $mesh->y, $mesh->z],
            ));
            foreach ($missing as $k => $i) {
                $out[$i] = $near->face[$k];
            }
        }

        return $out;
    }

    private function made(PropSpec $prop, string $what): Body
    {
        if ($what === 'surface' || $what === 'points of a map') {
            $mesh = $what === 'surface' ? $this->parts->mesh($prop) : $this->pointsOf($prop->id, self::SURFACE)->mesh ?? new Mesh([], [], [], []);

            return new Body(new SurfaceTree($mesh), Placement::identity(), ! in_array(-1, FaceNeighbours::beyond($mesh->faces), true));
        }
        if ($what === 'origin') {
            return new Body(self::cloud([0.0], [0.0], [0.0]), Placement::identity(), false);
        }
        $points = $what === 'pieces' ? $this->pointsOf($prop->id, self::PIECES) : $this->parts->mesh($prop);

        return new Body(self::cloud($points->x, $points->y, $points->z), Placement::identity(), false);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return SurfaceTree whose faces are these points
     */
    private static function cloud(array $x, array $y, array $z): SurfaceTree
    {
        $faces = [];
        foreach ($x as $i => $_) {
            array_push($faces, $i, $i, $i);
        }

        return new SurfaceTree(new Mesh($x, $y, $z, $faces));
    }
}
