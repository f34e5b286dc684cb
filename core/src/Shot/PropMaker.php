<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Break\InnerShading;
use YardBreak\Core\Break\Parts;
use YardBreak\Core\Break\Plan\Basis;
use YardBreak\Core\Break\Ringed;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\FrontProjection;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Prepare\Rebuild;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\Shape\Mend;
use YardBreak\Core\Shape\Scatter;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Weight\OnSurface;

/** From a prop's source to its prepared mesh and its pieces, in the prop's own coordinates at its true size. */
final class PropMaker
{
    private const METRES = ['m' => 1.0, 'cm' => 0.01, 'mm' => 0.001, 'km' => 1000.0, 'in' => 0.0254, 'ft' => 0.3048];

    public function __construct(private readonly AssetSource $assets, private readonly ?PreparedMeshes $kept = null)
    {
    }

    /**
     * What the repairs among a prop's steps, and rebuilds, did, in words.
     *
     * @return list<string>
     *
     * @throws Problem
     */
    public function mended(PropSpec $prop): array
    {
        $said = [];
        foreach ($prop->prepare as $i => $step) {
            if ($step['step'] === 'repair') {
                $done = Mend::of(PrepareCatalogue::apply($this->source($prop), array_slice($prop->prepare, 0, $i)))[1];
                array_push($said, ...$done === [] ? ['There was nothing to repair.'] : $done);
            } elseif ($step['step'] === 'rebuild') {
                $said[] = sprintf(
                    'A new closed skin was built, %d cells along its longest side.',
                    Option::resolve(Rebuild::options(), $step['values'] ?? [])['detail'],
                );
            }
        }

        return $said;
    }

    /** @throws Problem */
    public function mesh(PropSpec $prop): Mesh
    {
        $make = fn (): Mesh => $this->prepared($prop);

        return $this->kept === null ? $make() : $this->kept->mesh($prop->meshKey(), $make);
    }

    /**
     * What there is to know about its mesh.
     *
     * @param  Mesh|null  $mesh  itself, where it is at hand
     *
     * @throws Problem
     */
    public function fitness(PropSpec $prop, ?Mesh $mesh = null): Fitness
    {
        $find = function () use ($prop, $mesh): Fitness {
            $mesh ??= $this->mesh($prop);

            return Fitness::of($mesh)->withCrossing($mesh);
        };

        return $this->kept === null ? $find() : $this->kept->fitness($prop->meshKey(), $find);
    }

    private function prepared(PropSpec $prop): Mesh
    {
        $source = $prop->source;
        $mesh = PrepareCatalogue::apply($source['kind'] === 'scatter' ? Mesh::merged(...$this->copies($prop)) : $this->source($prop), $prop->prepare);
        if ($prop->place->fullSize() !== 1.0) {
            $mesh = $mesh->scaledBy($prop->place->fullSize());
        }

        $mesh = FaceNormals::shaded($mesh, deg2rad((float) ($source['crease'] ?? rad2deg(FaceNormals::CREASE))));

        if ($mesh->uvs !== null || ($prop->material->outer->picture === null && $prop->material->inner->picture === null)) {
            return $mesh;
        }

        // A picture on the inside alone needs places too, for the walls to get theirs; the outside then shows none.
        return $mesh->withUvs($prop->material->outer->picture === null ? array_fill(
            0,
            6 * $mesh->faceCount(),
            FrontProjection::NONE,
        ) : FrontProjection::of($mesh));
    }

    /**
     * The prop as it was made or brought in, in metres.
     *
     * @throws Problem
     */
    private function source(PropSpec $prop): Mesh
    {
        $source = $prop->source;
        if ($source['kind'] === 'shape') {
            return ShapeCatalogue::mesh($source['shape'], $source['values']);
        }
        $file = MeshReader::read($this->assets->path($source['asset']), $source['file']);

        if ($source['kept'] ?? false) {
            return $file->sided();
        }

        return self::inMetres(($source['group'] ?? null) === null ? $file->mesh : $file->named(NamedFaces::Group, $source['group']), $source);
    }

    /**
     * The faces of a group, or a material, of the file a prop was read from, where they lie in the prop and as large.
     *
     * @throws Problem where the prop is of no file, or its file has none of that name
     */
    public function named(PropSpec $prop, NamedFaces $by, string $name): Mesh
    {
        if ($prop->source['kind'] !== 'mesh') {
            throw Problem::inValue($by->value.'s', $prop->name.' was not read from a file, so it has no '.$by->value.'s.', 'Pick faces or parts instead.');
        }
        $mesh = self::inMetres(MeshReader::read($this->assets->path($prop->source['asset']), $prop->source['file'])->named($by, $name), $prop->source);

        return $prop->place->fullSize() === 1.0 ? $mesh : $mesh->scaledBy($prop->place->fullSize());
    }

    /** @param  array<string, mixed>  $source */
    private static function inMetres(Mesh $mesh, array $source): Mesh
    {
        $k = self::METRES[$source['unit']];
        if ($k !== 1.0) {
            $mesh = $mesh->scaledBy($k);
        }

        return $source['up'] === 'z' ? self::zUpToYUp($mesh) : $mesh;
    }

    /**
     * Copies of one prop strewn over another, each by itself, as large as that prop is made.
     *
     * @return list<Mesh>
     *
     * @throws Problem
     */
    private function copies(PropSpec $prop): array
    {
        $what = [];
        foreach (['of' => 'copied', 'over' => 'strewn over'] as $name => $word) {
            $other = $prop->tools[$prop->source[$name]]
                ?? throw Problem::inValue('source.'.$name, 'The prop that is '.$word.' is no longer there.', 'Choose another prop.');
            $what[] = [$other, $this->mesh($other)];
        }
        [[, $one], [$ground, $over]] = $what;
        $scatter = Scatter::of($this->withMaps($prop, $prop->source['values']));
        $stands = $prop->placeOf($ground, $prop->start());

        return array_map(static fn (Placement $p): Mesh => $one->placed($stands->after($p)), $scatter->places($over));
    }

    /** @return list<Shard> a piece a copy */
    private function strewn(PropSpec $prop, Mesh $mesh): array
    {
        if ($prop->prepare !== []) {
            return (new Parts)->break($mesh, new SilentProgress);
        }
        $out = [];
        $from = 0;
        foreach ($this->copies($prop) as $k => $copy) {
            $piece = $mesh->only(range($from, $from + $copy->faceCount() - 1));
            $from += $copy->faceCount();
            $out[] = new Shard(sprintf('copy-%04d', $k + 1), $piece, MassProperties::of($piece));
        }

        return $out;
    }

    /**
     * @param  array<string, mixed>  $values  of a pattern, or of what is strewn
     * @return array<string, mixed> with what maps give that weights among them go by
     *
     * @throws Problem
     */
    private function withMaps(PropSpec $prop, array $values): array
    {
        foreach ($values as $name => $value) {
            if (is_array($value) && ($value['source'] ?? '') === 'map') {
                try {
                    $run = new MapRun(
                        $prop->link->shot ?? throw new Problem('internal', 'A prop has lost its shot.', '', 'Report this; it is a fault of Yard Break.'),
                        new UnbrokenParts($this, $this->assets),
                    );
                    $map = $value['values']['map'];
                    $mesh = $run->pointsOf($run->map($map)->prop, MapRun::SURFACE)->mesh ?? Mesh::merged();
                    $values[$name] = ['over' => new OnSurface(
                        $mesh,
                        $run->weightsAt($map, MapRun::SURFACE, (int) ($value['frame'] ?? $run->shot->first)),
                    )] + $value;
                } catch (Problem $e) {
                    throw Problem::inValue(
                        ($prop->source['kind'] === 'scatter' && $prop->break === null ? 'source.values.' : 'break.values.').$name,
                        $e->getMessage(),
                        $e->remedy,
                    );
                }
            }
        }

        return $values;
    }

    /** The unbroken prop as its only piece. */
    public static function asOne(Mesh $mesh): Shard
    {
        return new Shard('whole', $mesh, MassProperties::of($mesh));
    }

    /**
     * The prop's pieces: its shards where it breaks, itself as one piece where not.
     *
     * @return list<Shard>
     *
     * @throws Problem naming the fault where the mesh is no solid
     */
    public function shards(PropSpec $prop, Progress $progress): array
    {
        $mesh = $this->mesh($prop);
        if ($prop->break === null) {
            return $prop->source['kind'] === 'scatter' ? $this->strewn($prop, $mesh) : [self::asOne($mesh)];
        }
        $fitness = $this->fitness($prop, $mesh);
        if (BreakCatalogue::needsSolid($prop->break) || ! $fitness->canPart()) {
            self::requireSolid($fitness, $prop->name);
        }

        $shards = BreakCatalogue::make(
            $prop->break['pattern'],
            $this->withMaps($prop, $this->withTool($prop, $prop->break['values'])),
        )->break($mesh, $progress);
        // Lines are drawn on the plan of the whole prop, whichever way a single piece is thinnest.
        $axis = Basis::thinnest(Aabb::around($mesh)->size())->toArray();
        $rework = array_map(
            fn (array $step): array => ['values' => $this->withMaps(
                $prop,
                $this->withTool($prop, ($step['pattern'] === 'score' && ! isset($step['values']['axis']) ? ['axis' => $axis] : []) + $step['values']),
            )] + $step,
            $prop->rework,
        );
        $shards = Rework::apply($shards, $rework, $progress);
        if ($prop->innerSmooth <= 0.0) {
            return $shards;
        }

        return array_map(static fn (Shard $s): Shard => new Shard($s->name, InnerShading::smoothed($s->mesh, $prop->innerSmooth), $s->mass), $shards);
    }

    /**
     * The rings the pieces lie in, for patterns that have some.
     *
     * @param  list<Shard>  $shards
     * @return array{axis: Vec3, rings: list<int>}|null
     */
    public function rings(PropSpec $prop, array $shards): ?array
    {
        if ($prop->break === null || $prop->rework !== []) {
            return null;
        }
        $pattern = BreakCatalogue::make($prop->break['pattern'], $prop->break['values']);

        return $pattern instanceof Ringed ? $pattern->rings($this->mesh($prop), $shards) : null;
    }

    /**
     * @param  array<string, mixed>  $values  of a pattern
     * @return array<string, mixed> with the prop it cuts with as a mesh in the coordinates of the prop that is cut
     *
     * @throws Problem where that is no solid
     */
    private function withTool(PropSpec $prop, array $values): array
    {
        $tool = $prop->tools[$values['tool'] ?? ''] ?? null;
        if ($tool === null || ($values['cutter'] ?? '') !== 'prop') {
            return $values;
        }
        $mesh = $this->mesh($tool);
        try {
            self::requireSolid($this->fitness($tool, $mesh), $tool->name);
        } catch (Problem $e) {
            throw Problem::inValue('break.values.tool', $tool->name.' cannot cut: it is no closed solid.', $e->remedy);
        }

        return ['tool' => $mesh->placed($prop->placeOf($tool, (float) ($values['frame'] ?? 0)))] + $values;
    }

    /** @throws Problem */
    public static function requireSolid(Fitness $fitness, string $name): void
    {
        if ($fitness->canBreak()) {
            return;
        }
        $fault = $fitness->faults()[0] ?? ['fault' => 'The mesh encloses no volume.', 'repair' => null, 'place' => null];
        throw Problem::inMesh(
            $name.' cannot be broken. '.$fault['fault'],
            $fault['repair'] === null ? 'Mend the mesh where it was made.' : 'On the Props stage, use the repair "'.$fault['repair'].'".',
            $fault['place'],
        );
    }

    private static function zUpToYUp(Mesh $m): Mesh
    {
        $z = array_map(static fn (float $v): float => -$v, $m->y);
        $normals = $m->normals;
        if ($normals !== null) {
            for ($i = 0, $n = count($normals); $i < $n; $i += 3) {
                [$normals[$i + 1], $normals[$i + 2]] = [$normals[$i + 2], -$normals[$i + 1]];
            }
        }

        return new Mesh($m->x, $m->z, $z, $m->faces, $normals, $m->sides, $m->uvs, $m->rim);
    }
}
