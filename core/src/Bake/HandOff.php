<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Cloth\Finish;
use YardBreak\Core\Cloth\Finished;
use YardBreak\Core\Dust\Dust;
use YardBreak\Core\Format\FileOutput;
use YardBreak\Core\Format\GlbPiece;
use YardBreak\Core\Format\GlbSurface;
use YardBreak\Core\Format\GlbWriter;
use YardBreak\Core\Format\MeshWriter;
use YardBreak\Core\Format\UniqueNames;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Shot\Skin;
use YardBreak\Core\Shot\Surface;

/** Writes a bake in open formats, file by file. Pieces keep their names from bake to bake. */
final class HandOff
{
    /** glb: one animated file; obj: one file a frame; stl, ply: the shards as they stand before release; grains: dust and chips, a PLY file of points a frame; instances, nodes: the same, a GLB file a frame. */
    public const FORMATS = ['glb', 'obj', 'stl', 'ply', 'grains', 'instances', 'nodes'];

    /** Those that hold dust and chips, and nothing else. */
    private const LOOSE = ['grains', 'instances', 'nodes'];

    private ?LooseParts $loose = null;

    /** @var list<Piece> as they are written */
    private readonly array $pieces;

    /** @var array<int, Finished> by number of the prop, of those whose points move by themselves */
    private array $finished = [];

    /** @var array<int, array{string, list<Mesh>}> likewise: the points of the last frame that was asked for, and the pieces by them */
    private array $moved = [];

    /** @var array<int, list<Shard>> by number of the prop: its pieces in small faces */
    private array $fine = [];

    /** @var array<string, list<array{string, string}>> name and faces of each piece as an OBJ has them, by which of them are seen */
    private array $unmoved = [];

    /**
     * @param  list<Piece>  $pieces
     * @param  int  $frames  how many there are
     * @param  \Closure(int): array<int, array<int, string>>  $frame  the streams of a frame by prop and kind, counted from the shot's first
     * @param  bool  $finished  whether surfaces are as they are finished after the bake, or in the points that were baked
     */
    public function __construct(
        public readonly ShotSpec $shot,
        array $pieces,
        private readonly AssetSource $assets,
        private readonly int $frames,
        private readonly \Closure $frame,
        bool $finished = true,
    ) {
        $own = [];
        foreach ($pieces as $piece) {
            $own[$piece->prop][] = $piece->shard->mesh;
        }
        foreach ($own as $prop => $meshes) {
            if ($this->shot->props[$prop]->isFinished()) {
                $this->finished[$prop] = Finished::of($meshes, $finished ? $this->shot->props[$prop]->finish : new Finish);
            }
        }
        $this->pieces = array_map(fn (Piece $p): Piece => isset($this->finished[$p->prop])
            ? new Piece($p->name, $p->prop, $p->number, new Shard($p->shard->name, $this->finished[$p->prop]->pieces[$p->number], $p->shard->mass))
            : $p, $pieces);
    }

    /**
     * @return list<string> names of the files that make up the hand-off, in order
     *
     * @throws Problem where there is no such format
     */
    public function files(string $format): array
    {
        $names = new UniqueNames;
        $shot = UniqueNames::plain($this->shot->name);

        return match ($format) {
            'glb' => [$shot.'.glb'],
            'obj' => array_map(fn (int $k): string => sprintf('%s.%04d.obj', $shot, $this->shot->first + $k), range(0, $this->frames - 1)),
            'grains', 'instances', 'nodes' => array_map(fn (int $k): string => sprintf('%s.dust.%04d.%s', $shot, $this->shot->first + $k, $format === 'grains' ? 'ply' : 'glb'), range(0, $this->frames - 1)),
            'stl', 'ply' => array_map(static fn (Piece $p): string => $names->file($p->name).'.'.$format, $this->pieces),
            default => throw Problem::inValue(
                'format',
                'A bake cannot be written as "'.mb_substr($format, 0, 20).'".',
                'Choose one of: '.implode(', ', self::FORMATS).'.',
            ),
        };
    }

    /**
     * Writes one of the files.
     *
     * @param  int  $number  its place in `files()`
     *
     * @throws Problem where the disk does not take it
     */
    public function write(string $format, int $number, string $path): void
    {
        match ($format) {
            'glb' => $this->glb($path),
            'obj' => $this->obj($number, $path),
            'grains' => $this->loose()->ply(($this->frame)($number), $path),
            'instances', 'nodes' => $this->loose()->glb(($this->frame)($number), $path, $format === 'instances'),
            default => MeshWriter::write($this->asMade($this->pieces[$number], ($this->frame)(0)), $path, $format, $this->pieces[$number]->name),
        };
    }

    /**
     * Writes one prop as it is at a frame as an OBJ, about the place it is at then; names of groups say which piece, and what a break laid open.
     *
     * @return int how many pieces it has
     *
     * @throws Problem where nothing of it is seen then, or the disk does not take it
     */
    public function kept(int $prop, int $number, string $path): int
    {
        $streams = ($this->frame)($number);
        $away = $this->shot->props[$prop]->place->at((float) ($this->shot->first + $number))->position->times(-1.0);
        $out = new FileOutput($path);
        $out->put("# Yard Break, metres\n");
        $base = $count = 0;
        foreach ($this->pieces as $piece) {
            if ($piece->prop === $prop && self::isSeen($streams, $piece)) {
                $mesh = $this->changed($piece, $streams)->movedBy($away);
                $out->put(MeshWriter::objPoints($mesh).MeshWriter::objFaces($mesh, UniqueNames::plain($piece->shard->name), $base));
                $base += $mesh->vertexCount();
                $count++;
            }
        }
        $out->close();

        return $count > 0 ? $count : throw Problem::inValue('frame', 'Nothing of '.$this->shot->props[$prop]->name.' is to be seen at that frame.', 'Go to a frame where it is.');
    }

    private function loose(): LooseParts
    {
        return $this->loose ??= new LooseParts($this->shot, $this->pieces);
    }

    private function glb(string $path): void
    {
        $frames = $sizes = [];
        $shapes = $shaped = array_fill(0, count($this->pieces), []);
        $steps = false;
        for ($k = 0; $k < $this->frames; $k++) {
            $streams = ($this->frame)($k);
            $frame = $size = '';
            foreach ($this->pieces as $i => $piece) {
                $frame .= self::record($streams, $piece);
                $shape = $this->shape($piece, $streams);
                if ($shape !== null || $shapes[$i] !== []) {
                    $shaped[$i] += array_fill(0, $k, -1);
                    $shapes[$i] += $shape === null ? [] : [$shape => count($shapes[$i])];
                    $shaped[$i][$k] = $shape === null ? -1 : $shapes[$i][$shape];
                }
                $size .= pack('g', self::isSeen($streams, $piece) ? self::size($streams, $piece) : 0.0);
                $steps = $steps || isset($streams[$piece->prop][StreamKind::Visibility->value]);
            }
            $frames[] = $frame;
            $sizes[] = $size;
        }
        $names = new UniqueNames;
        $pieces = [];
        foreach ($this->pieces as $i => $piece) {
            $material = $this->shot->props[$piece->prop]->material;
            $r = self::numbers(substr($frames[0], Pose::BYTES * $i, Pose::BYTES));
            $pieces[] = new GlbPiece(
                $names->text($piece->name),
                $this->centred($piece),
                $this->surface($material->outer, 0.75),
                $this->surface($material->inner, 0.95),
                [$r[0], $r[1], $r[2]],
                [$r[4], $r[5], $r[6], $r[7]],
                array_map(strval(...), array_keys($shapes[$i])),
                array_values($shaped[$i]),
            );
        }
        $times = array_map(fn (int $k): float => $this->shot->rate->secondsAt($k), array_keys($frames));
        (new GlbWriter($pieces))->write(
            $path,
            ['times' => $times, 'frames' => $frames, 'sizes' => $sizes, 'steps' => $steps, 'camera' => $this->camera(count($frames))],
        );
    }

    /**
     * @return array{name: string, height: float, aspect: float, places: list<string>, turns: list<string>}|null the shot's camera over the frames; its field
     * of view is that of the first, for a GLB holds but one
     */
    private function camera(int $frames): ?array
    {
        $camera = $this->shot->camera;
        if ($camera === null) {
            return null;
        }
        $places = $turns = [];
        for ($frame = $this->shot->first; $frame < $this->shot->first + $frames; $frame++) {
            $places[] = pack('g3', ...$camera->position->at($frame)->toArray());
            $turns[] = pack('g4', ...$camera->turn($frame)->toArray());
        }

        return [
            'name' => 'Camera',
            'height' => $camera->fieldOfView($this->shot->first),
            'aspect' => $camera->aspect(),
            'places' => $places,
            'turns' => $turns,
        ];
    }

    /**
     * Where the points of a piece's surface are as it sees them itself, where they move by themselves.
     *
     * @param  array<int, array<int, string>>  $streams
     * @return string|null packed float32, three a point
     */
    private function shape(Piece $piece, array $streams): ?string
    {
        $mesh = $this->waved($piece, $streams);
        if ($mesh === null) {
            return null;
        }
        $r = self::numbers(self::record($streams, $piece));
        $back = (new Placement(new Vec3($r[0], $r[1], $r[2]), (new Quaternion($r[4], $r[5], $r[6], $r[7]))->unit(), self::size($streams, $piece)))->inverse();
        $out = '';
        foreach ($mesh->x as $v => $x) {
            $out .= pack('g3', ...$back->point(new Vec3($x, $mesh->y[$v], $mesh->z[$v]))->toArray());
        }

        return $out;
    }

    /**
     * A piece the points of whose surface move by themselves, as the scene has it; null where they do not.
     *
     * @param  array<int, array<int, string>>  $streams
     */
    private function waved(Piece $piece, array $streams): ?Mesh
    {
        $points = $streams[$piece->prop][StreamKind::Points->value] ?? null;
        $finished = $this->finished[$piece->prop] ?? null;
        if ($points === null || $finished === null) {
            return null;
        }
        if (($this->moved[$piece->prop][0] ?? null) !== $points) {
            if (strlen($points) !== StreamKind::Points->stride() * $finished->moving()) {
                throw Problem::damaged('A baked frame is too short.');
            }
            $this->moved[$piece->prop] = [$points, $finished->at(...self::columns($points))];
        }

        return $this->moved[$piece->prop][1][$piece->number];
    }

    /** @return array{list<float>, list<float>, list<float>} x, y and z of packed points */
    private static function columns(string $packed): array
    {
        $x = $y = $z = [];
        $at = array_values(unpack('g*', $packed) ?: []);
        for ($k = 0, $n = count($at); $k < $n; $k += 3) {
            $x[] = $at[$k];
            $y[] = $at[$k + 1];
            $z[] = $at[$k + 2];
        }

        return [$x, $y, $z];
    }

    private function obj(int $number, string $path): void
    {
        $streams = ($this->frame)($number);
        $seen = array_map(static fn (Piece $p): bool => self::isSeen($streams, $p), $this->pieces);
        $out = new FileOutput($path);
        $out->put('# Yard Break, metres, frame '.($this->shot->first + $number)."\n");
        // Where surfaces change from frame to frame, nothing of a file is like the one before.
        $change = array_filter(
            $streams,
            static fn (array $own): bool => array_intersect_key(
                $own,
                [StreamKind::Points->value => 0, StreamKind::Corners->value => 0, StreamKind::Skin->value => 0],
            ) !== [],
        ) !== [];
        $unmoved = $change ? [] : $this->unmoved[implode('', array_map(intval(...), $seen))] ??= $this->faces($seen);
        $names = new UniqueNames;
        $base = 0;
        foreach ($this->pieces as $i => $piece) {
            if (! $change && $seen[$i]) {
                [$name, $faces] = $unmoved[$i];
                $out->put("o $name\n".MeshWriter::objPoints($this->placed($piece, $streams)).$faces);
            } elseif ($change) {
                $name = $names->word($piece->name);
                $mesh = $this->changed($piece, $streams);
                if ($seen[$i] && ! $mesh->isEmpty()) {
                    $out->put("o $name\n".MeshWriter::objPoints($mesh).MeshWriter::objFaces($mesh, $name, $base));
                    $base += $mesh->vertexCount();
                }
            }
        }
        $out->close();
    }

    /**
     * A piece whose surface may be another one at every frame: its faces fly one by one, stand out, or are not all seen.
     *
     * @param  array<int, array<int, string>>  $streams
     */
    private function changed(Piece $piece, array $streams): Mesh
    {
        $waved = $this->waved($piece, $streams);
        if ($waved !== null) {
            return $waved;
        }
        $corners = $streams[$piece->prop][StreamKind::Corners->value] ?? null;
        if ($corners !== null) {
            $mesh = $piece->shard->mesh;
            [$x, $y, $z] = self::columns(substr($corners, 36 * $this->before($piece, static fn (Mesh $m): int => $m->faceCount()), 36 * $mesh->faceCount()));

            return new Mesh($x, $y, $z, array_keys($x), null, $mesh->sides, $mesh->uvs);
        }
        $skin = $streams[$piece->prop][StreamKind::Skin->value] ?? null;
        if ($skin === null) {
            return $this->placed($piece, $streams);
        }
        $depth = (unpack('g', $skin) ?: [1 => 0.0])[1];
        $fine = $this->fine($piece);
        $from = $this->before($piece, static fn (Mesh $m): int => $m->vertexCount(), true);
        $bytes = array_values(unpack('C*', substr($skin, 4 + 3 * $from, 3 * $fine->vertexCount())) ?: []);
        $normals = FaceNormals::atPoints($fine);
        [$x, $y, $z] = [$fine->x, $fine->y, $fine->z];
        foreach ($x as $i => $_) {
            $out = $depth * $bytes[3 * $i + 2] / 255.0;
            $x[$i] += $out * $normals[0][$i];
            $y[$i] += $out * $normals[1][$i];
            $z[$i] += $out * $normals[2][$i];
        }
        $stood = new Mesh($x, $y, $z, $fine->faces, null, $fine->sides, $fine->uvs);
        $seen = array_values(array_filter(
            range(0, $fine->faceCount() - 1),
            static fn (int $f): bool => 3 * 128 <= $bytes[3 * $fine->faces[3 * $f] + 1] + $bytes[3 * $fine->faces[3 * $f + 1] + 1] + $bytes[3 * $fine->faces[3 * $f + 2] + 1],
        ));

        return $seen === []
            ? Mesh::merged()
            : $this->placed(
                new Piece(
                    $piece->name,
                    $piece->prop,
                    $piece->number,
                    new Shard($piece->shard->name, count($seen) === $fine->faceCount() ? $stood : $stood->only($seen), $piece->shard->mass),
                ),
                $streams,
            );
    }

    /** A piece in faces as small as its skin is asked for on. */
    private function fine(Piece $piece): Mesh
    {
        $this->fine[$piece->prop] ??= Skin::fine($this->shot->props[$piece->prop], array_values(array_map(
            static fn (Piece $p): Shard => $p->shard,
            array_filter($this->pieces, static fn (Piece $p): bool => $p->prop === $piece->prop),
        )));

        return $this->fine[$piece->prop][$piece->number]->mesh;
    }

    /** @param  \Closure(Mesh): int  $count  what is counted of the pieces of the same prop that come before */
    private function before(Piece $piece, \Closure $count, bool $fine = false): int
    {
        $sum = 0;
        foreach ($this->pieces as $other) {
            if ($other->prop === $piece->prop && $other->number < $piece->number) {
                $sum += $count($fine ? $this->fine($other) : $other->shard->mesh);
            }
        }

        return $sum;
    }

    /**
     * What of a shot a format does not hold.
     *
     * @return list<string> sentences
     */
    public static function leftOut(ShotSpec $shot, string $format): array
    {
        if (in_array($format, self::LOOSE, true)) {
            $chips = array_filter($shot->props, static fn (PropSpec $p): bool => array_filter($p->dust, static fn (Dust $d): bool => $d->grain(0.0)->isChip()) !== []) !== [];
            if ($format === 'grains' && $chips) {
                return ['Props are left out: write them in another format.', 'Chips are points, without their shape: write them as GLB.'];
            }

            return array_filter($shot->props, static fn (PropSpec $p): bool => $p->dust !== []) === [] ? ['Nothing in this shot gives off dust: its files are empty.'] : ['Props are left out: write them in another format.'];
        }
        $out = [];
        foreach ($shot->props as $prop) {
            $said = array_filter([
                in_array($format, ['stl', 'ply'], true) && ($prop->motion->waves() || $prop->blend !== null) ? 'its surface is as it was made' : '',
                $format !== 'obj' && $prop->motion->drift?->byFace === true ? 'its faces do not fly one by one' : '',
                $format !== 'obj' && $prop->relief !== null ? 'it has no relief' : '',
                $format !== 'obj' && $prop->appears !== null && ! $prop->appears->byPiece() ? 'its surface is whole all the time' : '',
                $prop->dust !== [] ? 'its dust and chips are left out; write them as Dust' : '',
                $prop->material->second !== null ? 'it does not turn into another surface' : '',
                $prop->material->roughness?->isConstant() === false
                    ? ($format === 'glb' ? 'its roughness stays as at the first key' : 'it has no roughness')
                    : '',
                $prop->material->tint->isConstant() && $prop->material->tint->values[0] <= 0.0 ? '' : 'it is not tinted',
            ], static fn (string $s): bool => $s !== '');
            if ($said !== []) {
                $out[] = $prop->name.': '.implode(', ', $said).'.';
            }
        }
        if ($shot->ground?->isFlat() === false) {
            $out[] = 'Ground: it is left out, though it is not flat.';
        }
        $camera = $shot->camera;
        if ($camera !== null && ($format !== 'glb' || ! $camera->focal->isConstant() || ! $camera->film->isConstant())) {
            $out[] = $format === 'glb' ? 'Camera: it sees as wide all the time as at the first frame.' : 'Camera: it is left out.';
        }

        return $out;
    }

    /**
     * @param  list<bool>  $seen
     * @return list<array{string, string}> name and faces of each piece
     */
    private function faces(array $seen): array
    {
        $names = new UniqueNames;
        $base = 0;
        $out = [];
        foreach ($this->pieces as $i => $piece) {
            $name = $names->word($piece->name);
            $out[] = [$name, $seen[$i] ? MeshWriter::objFaces($piece->shard->mesh, $name, $base) : ''];
            $base += $seen[$i] ? $piece->shard->mesh->vertexCount() : 0;
        }

        return $out;
    }

    private function centred(Piece $piece): Mesh
    {
        return $piece->shard->mesh->movedBy($piece->shard->centre()->times(-1.0));
    }

    /**
     * Where it stands, in full: a shard that has not come yet is one too.
     *
     * @param  array<int, array<int, string>>  $streams
     */
    private function asMade(Piece $piece, array $streams): Mesh
    {
        return $this->placed($piece, $streams, self::size($streams, $piece) > 0.0 ? null : 1.0);
    }

    /**
     * @param  array<int, array<int, string>>  $streams
     * @param  float|null  $size  instead of the one it has
     */
    private function placed(Piece $piece, array $streams, ?float $size = null): Mesh
    {
        $r = self::numbers(self::record($streams, $piece));
        $mesh = $this->centred($piece);
        $size ??= self::size($streams, $piece);

        return ($size === 1.0 ? $mesh : $mesh->scaledBy($size))->placed(new Placement(
            new Vec3($r[0], $r[1], $r[2]),
            (new Quaternion($r[4], $r[5], $r[6], $r[7]))->unit(),
        ));
    }

    /** @param  array<int, array<int, string>>  $streams */
    private static function isSeen(array $streams, Piece $piece): bool
    {
        return ($streams[$piece->prop][StreamKind::Visibility->value] ?? "\1") !== "\0" && self::size($streams, $piece) > 0.0;
    }

    /** @param  array<int, array<int, string>>  $streams */
    private static function size(array $streams, Piece $piece): float
    {
        $sizes = $streams[$piece->prop][StreamKind::Sizes->value] ?? null;

        return $sizes === null ? 1.0 : (unpack('g', $sizes, 4 * $piece->number) ?: [1 => 1.0])[1];
    }

    /** @param  array<int, array<int, string>>  $streams */
    private static function record(array $streams, Piece $piece): string
    {
        $record = substr($streams[$piece->prop][StreamKind::Poses->value] ?? '', Pose::BYTES * $piece->number, Pose::BYTES);

        return strlen($record) === Pose::BYTES ? $record : throw Problem::damaged('A baked frame is too short.');
    }

    /** @return list<float> */
    private static function numbers(string $record): array
    {
        return array_values(unpack('g8', $record) ?: []);
    }

    private function surface(Surface $s, float $roughness): GlbSurface
    {
        return new GlbSurface(
            self::linear($s->colour),
            $s->roughness ?? $roughness,
            $s->picture === null ? null : $this->assets->path($s->picture),
            $s->metres,
        );
    }

    /** @return array{float, float, float} sRGB to linear (IEC 61966-2-1) */
    private static function linear(string $hex): array
    {
        $out = [];
        foreach ([1, 3, 5] as $at) {
            $c = hexdec(substr($hex, $at, 2)) / 255;
            $out[] = round($c <= 0.04045 ? $c / 12.92 : (($c + 0.055) / 1.055) ** 2.4, 5);
        }

        return [$out[0], $out[1], $out[2]];
    }
}
