<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Break\FirstLook;
use YardBreak\Core\Break\Plan\Basis;
use YardBreak\Core\Cloth\Finish;
use YardBreak\Core\Dust\Dust;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\PlaceTrack;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Weight\Weight;
use YardBreak\Core\Weight\WeightMap;

/** One prop of a shot, checked. */
final readonly class PropSpec
{
    /**
     * @param  array<string, mixed>  $source  as in the document
     * @param  list<array{step: string, values: array<string, mixed>}>  $prepare
     * @param  Track  $seen  from ½ on it is shown
     * @param  array{pattern: string, values: array<string, mixed>, plate?: array{asset: string, file: string, opacity: float}|null}|null  $break
     * @param  list<array{pattern: string, values: array<string, mixed>, pieces: list<string>|null}>  $rework
     * @param  float  $innerSmooth  radians; inner faces that meet at less are shaded as one surface
     * @param  list<WeightMap>  $weights
     * @param  array<string, self>  $tools  by id: the other props this one is cut with, or is made of
     * @param  ShotLink  $link  to the shot it is part of
     * @param  list<Dust>  $dust  what it gives off
     * @param  Finish  $finish  what becomes of its surface after the bake, where its points move by themselves
     * @param  Blend|null  $blend  what it goes over into by a map, point by point
     * @param  array<string, string>  $steering  what each map depends on that its making goes by, by id and frame
     */
    public function __construct(
        public string $id,
        public string $name,
        public array $source,
        public array $prepare,
        public PlaceTrack $place,
        public Track $seen,
        public Material $material,
        public ?array $break,
        public array $rework,
        public float $innerSmooth,
        public Motion $motion,
        public array $weights = [],
        public array $tools = [],
        public ?Appears $appears = null,
        public ?Relief $relief = null,
        public ShotLink $link = new ShotLink,
        public array $steering = [],
        public array $dust = [],
        public Finish $finish = new Finish,
        public ?Blend $blend = null,
    ) {
    }

    /** @param  Cues  $cues  where they stand, as far as that is known */
    public function acts(Acts $acts, Cues $cues): void
    {
        $acts->of($this->id, $this->name)->always('shape or break', $this->shardKey());
        $this->place->acts($acts);
        $acts->values('visibility', $this->seen);
        $this->material->acts($acts);
        $this->motion->acts($acts, $cues);
        foreach ($this->dust as $dust) {
            $dust->acts($acts);
        }
        if ($this->blend !== null && $this->motion->waves()) {
            // What moves by points is drawn to where its prop is.
            $acts->always('blend', $this->blend->key());
            $acts->map($this->blend->map, false);
            foreach (array_intersect_key($this->tools, array_flip($this->blend->to)) as $other) {
                $acts->of($other->id, $other->name)->always('mesh', $other->meshKey());
                $other->place->acts($acts);
            }
            $acts->of($this->id, $this->name);
        }
    }

    /** Whether its surface is drawn by where its points are, finished as is said, and not piece by piece as made. */
    public function isFinished(): bool
    {
        return $this->motion->waves() || $this->blend !== null || $this->finish->changes();
    }

    /**
     * The directions of the plans that lines are drawn on, where the break or a step after it has one.
     *
     * @param  callable(self): Mesh  $mesh
     * @return array{break: array{u: list<float>, v: list<float>, w: list<float>}|null, rework: list<array{u: list<float>, v: list<float>, w: list<float>}|null>}
     */
    public function plans(callable $mesh): array
    {
        $thinnest = null;
        $plan = function (?array $step) use ($mesh, &$thinnest): ?array {
            if (($step['pattern'] ?? '') !== 'score') {
                return null;
            }
            $axis = Vec3::orNull($step['values']['axis'] ?? null) ?? $thinnest ??= Basis::thinnest(Aabb::around($mesh($this))->size());
            $basis = Basis::along($axis);

            return ['u' => $basis->u->toArray(), 'v' => $basis->v->toArray(), 'w' => $basis->w->toArray()];
        };

        return ['break' => $plan($this->break), 'rework' => array_map($plan, $this->rework)];
    }

    /** @return array<string, string> ids of the maps it goes by, by where in it they are named; those its making goes by too */
    public function mapsNamed(): array
    {
        $out = [
            'appears.map' => $this->appears->map ?? '',
            'relief.map' => $this->relief->map ?? '',
            'material.second.map' => $this->material->second->map ?? '',
            'blend.map' => $this->blend->map ?? '',
        ];
        foreach ($this->motion->mapsNamed() as $path => $map) {
            $out['motion.'.$path] = $map;
        }
        foreach ($this->dust as $k => $dust) {
            $out['dust['.$k.'].values.map'] = $dust->map();
        }
        foreach ([...($this->break === null ? [] : ['break' => $this->break]), ...$this->rework] as $step => $one) {
            foreach ($one['values'] as $name => $value) {
                if (is_array($value) && ($value['source'] ?? '') === 'map') {
                    $out[(is_int($step) ? 'rework['.$step.']' : $step).'.values.'.$name.'.values.map'] = (string) ($value['values']['map'] ?? '');
                }
            }
        }

        return array_filter($out, static fn (string $map): bool => $map !== '');
    }

    /** @return list<string> ids of the maps that say how its pieces go, and what it gives off */
    public function maps(): array
    {
        $dust = array_filter(array_map(static fn (Dust $d): string => $d->map(), $this->dust), static fn (string $map): bool => $map !== '');

        return array_values(array_unique([...$this->motion->maps(), ...$dust]));
    }

    /** @return array<string, string> name by asset: the files this prop needs */
    public function assets(): array
    {
        $files = $this->source['kind'] === 'mesh' ? [$this->source['asset'] => $this->source['file']] : [];
        foreach ([$this->material->outer->picture, $this->material->inner->picture, $this->break['plate']['asset'] ?? null] as $picture) {
            $files += $picture === null ? [] : [$picture => 'picture'];
        }

        return $files;
    }

    /**
     * Where another prop stands at a frame as this one sees it.
     *
     * @return Placement of true size
     */
    public function placeOf(self $other, float $frame): Placement
    {
        $own = $this->place->at($frame);
        $its = $other->place->at($frame);
        $back = $own->turn->inverse();

        return new Placement($back->turn($its->position->minus($own->position)), $back->after($its->turn));
    }

    /** @return list<mixed> what the props this one is cut with are, and how they stand to it */
    private function toolKey(): array
    {
        $key = [$this->steering];
        foreach ([...($this->break === null ? [] : [$this->break]), ...$this->rework] as $step) {
            $tool = $this->tools[$step['values']['tool'] ?? ''] ?? null;
            if ($tool !== null) {
                $place = $this->placeOf($tool, (float) ($step['values']['frame'] ?? 0));
                $key[] = [
                    self::sorted($tool->source),
                    self::sorted($tool->prepare),
                    $tool->place->fullSize(),
                    $place->position->toArray(),
                    $place->turn->toArray(),
                ];
            }
        }

        return $key === [[]] ? [] : $key;
    }

    /** @return list<mixed> what is strewn over what, and how both stand to this prop */
    private function strewnKey(): array
    {
        if ($this->source['kind'] !== 'scatter') {
            return [];
        }
        $key = [$this->steering];
        foreach (['of', 'over'] as $what) {
            $other = $this->tools[$this->source[$what]] ?? null;
            $place = $other === null || $what === 'of' ? null : $this->placeOf($other, $this->start());
            $key[] = $other === null ? null : [$other->meshKey(), $place?->position->toArray(), $place?->turn->toArray()];
        }

        return $key;
    }

    /** The frame at which props stand to each other as this one is made. */
    public function start(): float
    {
        return (float) ($this->link->shot->first ?? 0);
    }

    /** The weight its break is steered by. */
    public function weight(): ?Weight
    {
        $value = $this->break['values']['weight'] ?? null;

        // What a map gives is shown on the Weights stage.
        return is_array($value) && ($value['source'] ?? '') !== 'map' ? Weight::of($value) : null;
    }

    /** The same prop with what takes long made light or left out; null where nothing of it takes long. */
    public function firstLook(): ?self
    {
        $pattern = BreakCatalogue::PATTERNS[$this->break['pattern'] ?? ''] ?? null;
        $values = $pattern !== null && is_subclass_of($pattern, FirstLook::class) ? $pattern::firstLook($this->break['values'] ?? []) : null;
        $prepare = array_values(array_filter($this->prepare, static fn (array $step): bool => ! in_array($step['step'], PrepareCatalogue::SLOW, true)));
        if ($values === null && $prepare === $this->prepare && $this->rework === []) {
            return null;
        }

        return new self(...[
            'prepare' => $prepare,
            'break' => $values === null ? $this->break : ['values' => $values] + (array) $this->break,
            'rework' => [],
        ] + get_object_vars($this));
    }

    /** What the prepared mesh depends on, and nothing else. */
    public function meshKey(): string
    {
        return hash(
            'sha256',
            json_encode(
                [
                    ShotSpec::BREAK_VERSION,
                    self::sorted($this->source),
                    self::sorted($this->prepare),
                    $this->place->fullSize(),
                    $this->material->outer->picture !== null,
                    $this->material->inner->picture !== null,
                    ...$this->strewnKey(),
                ],
                JSON_THROW_ON_ERROR,
            ),
        );
    }

    /** What the shards depend on, and nothing else. */
    public function shardKey(): string
    {
        return hash(
            'sha256',
            json_encode(
                [
                    $this->meshKey(),
                    $this->break === null ? null : self::sorted([$this->break['pattern'], $this->break['values'], $this->rework, $this->innerSmooth]),
                    $this->toolKey(),
                ],
                JSON_THROW_ON_ERROR,
            ),
        );
    }

    /**
     * The same settings in another order are the same settings.
     *
     * @param  array<mixed>  $values
     * @return array<mixed>
     */
    private static function sorted(array $values): array
    {
        ksort($values);

        return array_map(static fn (mixed $v): mixed => is_array($v) ? self::sorted($v) : (is_int($v) ? (float) $v : $v), $values);
    }
}
