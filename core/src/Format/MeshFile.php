<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Problem;

/** What a mesh file held. */
final readonly class MeshFile
{
    /**
     * @param  array{group?: list<array{string, int, int}>, material?: list<array{string, int, int}>}  $spans  of faces: name, first corner, corner after
     *   the last; a name may have several
     * @param  list<float>|null  $colour  linear red, green and blue, 0…1
     */
    public function __construct(public Mesh $mesh, private array $spans = [], public ?array $colour = null)
    {
    }

    /** @return list<string> as they come in the file */
    public function names(NamedFaces $by): array
    {
        return array_values(array_unique(array_column($this->spans[$by->value] ?? [], 0)));
    }

    /**
     * The faces of one name, with the points they use.
     *
     * @throws Problem where there are none
     */
    public function named(NamedFaces $by, string $name): Mesh
    {
        $m = $this->mesh;
        $x = $y = $z = $faces = $normals = $uvs = $new = [];
        foreach ($this->spans[$by->value] ?? [] as [$of, $from, $to]) {
            if ($of !== $name) {
                continue;
            }
            for ($k = $from; $k < $to; $k++) {
                $v = $m->faces[$k];
                if (! isset($new[$v])) {
                    $new[$v] = count($x);
                    $x[] = $m->x[$v];
                    $y[] = $m->y[$v];
                    $z[] = $m->z[$v];
                }
                $faces[] = $new[$v];
                if ($m->normals !== null) {
                    array_push($normals, $m->normals[3 * $k], $m->normals[3 * $k + 1], $m->normals[3 * $k + 2]);
                }
                if ($m->uvs !== null) {
                    array_push($uvs, $m->uvs[2 * $k], $m->uvs[2 * $k + 1]);
                }
            }
        }
        if ($faces === []) {
            $names = $this->names($by);

            throw Problem::inFile(
                'The file has no '.$by->value.' "'.$name.'".',
                $names === [] ? 'Use all of it.' : 'Choose one of: '.implode(', ', array_slice($names, 0, 12)).'.',
            );
        }

        return new Mesh($x, $y, $z, $faces, $m->normals === null ? null : $normals, null, $m->uvs === null ? null : $uvs);
    }

    /** Its mesh with the sides that names of its groups tell, as they are written with a prop. */
    public function sided(): Mesh
    {
        $sides = array_fill(0, $this->mesh->faceCount(), Mesh::OUTER);
        foreach ($this->spans[NamedFaces::Group->value] ?? [] as [$name, $from, $to]) {
            $side = match (true) {
                str_ends_with($name, ' inner') => Mesh::INNER,
                preg_match('/ rim-(\d+)$/', $name, $found) === 1 => Mesh::RIM + (int) $found[1] - 1,
                default => Mesh::OUTER,
            };
            for ($f = intdiv($from, 3); $f < intdiv($to, 3); $f++) {
                $sides[$f] = $side;
            }
        }

        return new Mesh($this->mesh->x, $this->mesh->y, $this->mesh->z, $this->mesh->faces, $this->mesh->normals, $sides, $this->mesh->uvs);
    }

    /** The colour as the web writes it (sRGB, IEC 61966-2-1), or null. */
    public function webColour(): ?string
    {
        if ($this->colour === null) {
            return null;
        }
        $hex = '#';
        foreach ($this->colour as $v) {
            $v = max(0.0, min(1.0, $v));
            $hex .= sprintf('%02x', (int) round(255.0 * ($v <= 0.0031308 ? 12.92 * $v : 1.055 * $v ** (1 / 2.4) - 0.055)));
        }

        return $hex;
    }
}
