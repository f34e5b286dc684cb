<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Format\FileOutput;
use YardBreak\Core\Format\GlbPiece;
use YardBreak\Core\Format\GlbSurface;
use YardBreak\Core\Format\GlbWriter;
use YardBreak\Core\Format\MeshWriter;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Shot\Surface;

/** Writes a bake in open formats. Pieces keep their names from bake to bake. */
final class HandOff
{
    /** glb: one animated file; obj: one file a frame; stl, ply: the shards as they stand before release. */
    public const FORMATS = ['glb', 'obj', 'stl', 'ply'];

    /** @param  list<Piece>  $pieces */
    public function __construct(private readonly ShotSpec $shot, private readonly array $pieces, private readonly AssetSource $assets)
    {
    }

    /**
     * @param  list<string>  $frames  records as in Frame, from the shot's first frame on
     * @return list<string> paths of the files written
     *
     * @throws Problem where the disk does not take them
     */
    public function write(string $format, string $folder, array $frames): array
    {
        return match ($format) {
            'glb' => $this->glb($folder, $frames),
            'obj' => $this->objSequence($folder, $frames),
            'stl', 'ply' => $this->shards($folder, $format, $frames[0]),
            default => throw Problem::inValue('format', 'A bake cannot be written as "'.$format.'".', 'Choose one of: '.implode(', ', self::FORMATS).'.'),
        };
    }

    /**
     * @param  list<string>  $frames
     * @return list<string>
     */
    private function glb(string $folder, array $frames): array
    {
        $props = [];
        foreach ($this->shot->props as $p) {
            $props[$p->id] = $p;
        }
        $pieces = [];
        foreach ($this->pieces as $i => $piece) {
            $prop = $props[$piece->prop];
            $r = self::record($frames[0], $i);
            $pieces[] = new GlbPiece($piece->name, $this->centred($piece), $this->surface($prop->outer, 0.75), $this->surface($prop->inner, 0.95), [$r[0], $r[1], $r[2]], [$r[4], $r[5], $r[6], $r[7]]);
        }
        $times = [];
        foreach ($frames as $k => $_) {
            $times[] = $k / $this->shot->rate;
        }
        $path = $folder.'/'.self::fileName($this->shot->name).'.glb';
        (new GlbWriter($pieces))->write($path, ['times' => $times, 'frames' => $frames]);

        return [$path];
    }

    /**
     * @param  list<string>  $frames
     * @return list<string>
     */
    private function objSequence(string $folder, array $frames): array
    {
        $paths = [];
        foreach ($frames as $k => $frame) {
            $path = sprintf('%s/%s.%04d.obj', $folder, self::fileName($this->shot->name), $this->shot->first + $k);
            $out = new FileOutput($path);
            $out->put('# Yard Break, metres, frame '.($this->shot->first + $k)."\n");
            $base = 0;
            foreach ($this->pieces as $i => $piece) {
                $mesh = $this->placed($piece, $frame, $i);
                MeshWriter::objPart($mesh, $out, str_replace(' ', '_', $piece->name), $base);
                $base += $mesh->vertexCount();
            }
            $out->close();
            $paths[] = $path;
        }

        return $paths;
    }

    /** @return list<string> */
    private function shards(string $folder, string $format, string $frame): array
    {
        $paths = [];
        foreach ($this->pieces as $i => $piece) {
            $path = $folder.'/'.self::fileName($piece->name).'.'.$format;
            MeshWriter::write($this->placed($piece, $frame, $i), $path, $format, $piece->name);
            $paths[] = $path;
        }

        return $paths;
    }

    private function centred(Piece $piece): Mesh
    {
        return $piece->shard->mesh->movedBy($piece->shard->centre()->times(-1.0));
    }

    private function placed(Piece $piece, string $frame, int $i): Mesh
    {
        $r = self::record($frame, $i);

        return $this->centred($piece)->placed(new Placement(new Vec3($r[0], $r[1], $r[2]), (new Quaternion($r[4], $r[5], $r[6], $r[7]))->unit()));
    }

    /** @return list<float> */
    private static function record(string $frame, int $i): array
    {
        return array_values(unpack('g8', $frame, $i * Frame::STRIDE) ?: throw Problem::onDisk('A baked frame is too short.', 'Bake again.'));
    }

    private function surface(Surface $s, float $roughness): GlbSurface
    {
        return new GlbSurface(self::linear($s->colour), $s->roughness ?? $roughness, $s->picture === null ? null : $this->assets->path($s->picture), $s->metres);
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

    /** Letters, digits and hyphens only. */
    public static function fileName(string $name): string
    {
        $plain = (string) preg_replace('/[^a-z0-9]+/', '-', strtolower((string) iconv('UTF-8', 'ASCII//TRANSLIT//IGNORE', $name)));

        return trim($plain, '-') ?: 'shot';
    }
}
