<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Problem;

/** Writes one mesh as STL, PLY or OBJ. */
final class MeshWriter
{
    public const KINDS = ['stl', 'ply', 'obj', 'glb'];

    /** @throws Problem where the disk does not take it */
    public static function write(Mesh $mesh, string $path, string $kind, string $name = 'mesh'): void
    {
        if ($kind === 'glb') {
            (new GlbWriter([new GlbPiece($name, $mesh)]))->write($path);

            return;
        }
        $out = new FileOutput($path);
        match ($kind) {
            'stl' => self::stl($mesh, $out),
            'ply' => self::ply($mesh, $out),
            'obj' => self::obj($mesh, $out, $name),
            default => throw Problem::inValue('format', 'There is no format "'.$kind.'".', 'Choose one of: '.implode(', ', self::KINDS).'.'),
        };
        $out->close();
    }

    private static function stl(Mesh $m, FileOutput $out): void
    {
        $out->put(str_pad('Yard Break shard', 80).pack('V', $m->faceCount()));
        $text = '';
        for ($f = 0, $n = count($m->faces); $f < $n; $f += 3) {
            [$a, $b, $c] = [$m->faces[$f], $m->faces[$f + 1], $m->faces[$f + 2]];
            $ux = $m->x[$b] - $m->x[$a];
            $uy = $m->y[$b] - $m->y[$a];
            $uz = $m->z[$b] - $m->z[$a];
            $vx = $m->x[$c] - $m->x[$a];
            $vy = $m->y[$c] - $m->y[$a];
            $vz = $m->z[$c] - $m->z[$a];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $k = $l > 0 ? 1 / $l : 0.0;
            $text .= pack(
                'g12v', $nx * $k, $ny * $k, $nz * $k, $m->x[$a], $m->y[$a], $m->z[$a], $m->x[$b], $m->y[$b], $m->z[$b], $m->x[$c], $m->y[$c],
                $m->z[$c], 0,
            );
            if (strlen($text) > 1 << 16) {
                $out->put($text);
                $text = '';
            }
        }
        $out->put($text);
    }

    private static function ply(Mesh $m, FileOutput $out): void
    {
        $rim = $m->rim === null ? null : self::rimByPoint($m);
        $out->put("ply\nformat binary_little_endian 1.0\ncomment Yard Break\nelement vertex {$m->vertexCount()}\nproperty double x\nproperty double y\nproperty double z\n"
            .($rim === null ? '' : "property float rim\n")
            ."element face {$m->faceCount()}\nproperty list uchar int vertex_indices\n"
            .($m->uvs === null ? '' : "property list uchar float texcoord\n")
            ."end_header\n");
        foreach ($m->x as $i => $x) {
            $out->put(pack('e3', $x, $m->y[$i], $m->z[$i]).($rim === null ? '' : pack('g', $rim[$i])));
        }
        for ($f = 0, $n = $m->faceCount(); $f < $n; $f++) {
            $out->put(pack('CV3', 3, $m->faces[3 * $f], $m->faces[3 * $f + 1], $m->faces[3 * $f + 2])
                .($m->uvs === null ? '' : pack('Cg6', 6, ...array_slice($m->uvs, 6 * $f, 6))));
        }
    }

    /** @return list<float> one number a point: the highest of its corners' */
    private static function rimByPoint(Mesh $m): array
    {
        $out = array_fill(0, $m->vertexCount(), 0.0);
        foreach ($m->faces as $c => $p) {
            $out[$p] = max($out[$p], $m->rim[$c] ?? 0.0);
        }

        return $out;
    }

    private static function obj(Mesh $m, FileOutput $out, string $name): void
    {
        $name = (new UniqueNames)->word($name);
        $out->put("# Yard Break, metres\no $name\n".self::objPoints($m).self::objFaces($m, $name, 0));
    }

    /** The points of a mesh as lines of an OBJ. */
    public static function objPoints(Mesh $m): string
    {
        $flat = [];
        foreach ($m->x as $i => $x) {
            $flat[] = $x;
            $flat[] = $m->y[$i];
            $flat[] = $m->z[$i];
        }

        return vsprintf(str_repeat("v %.9g %.9g %.9g\n", $m->vertexCount()), $flat);
    }

    /**
     * The faces of a mesh as lines of an OBJ, with the places of their corners in a picture.
     *
     * @param  int  $base  points already written to the file
     */
    public static function objFaces(Mesh $m, string $name, int $base): string
    {
        $mapped = $m->uvs !== null;
        $text = '';
        // Places in a picture are counted on over the whole file, as points are; every face has three of its own.
        for ($c = 0, $n = count($m->uvs ?? []); $c < $n; $c += 2) {
            $text .= sprintf("vt %.7g %.7g\n", $m->uvs[$c], $m->uvs[$c + 1]);
        }
        $base++;
        foreach (array_unique($m->sides ?? [Mesh::OUTER]) as $side) {
            $group = match ($side) {
                Mesh::OUTER => 'outer',
                Mesh::INNER => 'inner',
                default => 'rim-'.($side - Mesh::RIM + 1),
            };
            $any = false;
            for ($f = 0, $n = $m->faceCount(); $f < $n; $f++) {
                if (($m->sides[$f] ?? 0) === $side) {
                    $corners = '';
                    for ($c = 3 * $f; $c < 3 * $f + 3; $c++) {
                        // Counted back from the last, so that no number of places has to be kept.
                        $corners .= ' '.($m->faces[$c] + $base).($mapped ? '/-'.(3 * $m->faceCount() - $c) : '');
                    }
                    $text .= ($any ? '' : "g $name $group\n").'f'.$corners."\n";
                    $any = true;
                }
            }
        }

        return $text;
    }
}
