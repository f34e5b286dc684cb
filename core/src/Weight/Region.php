<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\LooseParts;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** What was picked: points, faces, pieces, or whole parts of the prop that hang together. */
final readonly class Region implements Source
{
    use Still;

    /** What is no farther from a group, as a share of the size of the prop, is of it: a prop may have been remeshed since. */
    private const ON = 1e-3;

    /**
     * @param  list<int>  $points
     * @param  list<int>  $faces
     * @param  list<string>  $pieces
     * @param  list<int>  $parts
     * @param  list<string>  $groups
     * @param  list<string>  $materials
     */
    private function __construct(
        private array $points,
        private array $faces,
        private array $pieces,
        private array $parts,
        private array $groups,
        private array $materials,
    ) {
    }

    public static function label(): string
    {
        return 'Region';
    }

    public static function meaning(): string
    {
        return 'What was picked';
    }

    public static function options(): array
    {
        return [
            new Option('points', 'Points', 'Numbers of points of the mesh.', NumbersKind::class, [], 0, 10_000_000),
            new Option('faces', 'Faces', 'Numbers of faces of the mesh.', NumbersKind::class, [], 0, 10_000_000),
            new Option('pieces', 'Pieces', 'Pieces of its break, by name.', NamesKind::class, []),
            new Option('groups', 'Groups', 'Groups of the file it was read from.', NamesKind::class, []),
            new Option('materials', 'Materials', 'Materials of the file it was read from.', NamesKind::class, []),
            new Option('parts', 'Parts', 'Parts of the mesh that hang together, from 0 on.', NumbersKind::class, [], 0, 1_000_000),
        ];
    }

    public static function of(array $values): self
    {
        if (array_filter($values, static fn (array $picked): bool => $picked !== []) === []) {
            throw Problem::inValue(
                'points',
                'Nothing is picked for this region, so it weighs nothing.',
                'Pick faces in the picture, or take pieces, parts, groups or materials.',
            );
        }

        return new self($values['points'], $values['faces'], $values['pieces'], $values['parts'], $values['groups'], $values['materials']);
    }

    public function over(Points $on, Scene $scene, Memory $memory): array
    {
        $mesh = $on->arePieces() ? $scene->points($on->prop) : $on;
        $chosen = array_fill(0, $mesh->count(), 0.0);
        foreach ($this->points as $p) {
            if (isset($chosen[$p])) {
                $chosen[$p] = 1.0;
            }
        }
        $corners = $mesh->mesh === null ? [] : $mesh->mesh->faces;
        $faces = $this->faces;
        if ($this->parts !== []) {
            $parts = LooseParts::of($corners);
            foreach ($this->parts as $part) {
                array_push($faces, ...$parts[$part] ?? []);
            }
        }
        foreach ($faces as $f) {
            if (isset($corners[3 * $f])) {
                $chosen[$corners[3 * $f]] = $chosen[$corners[3 * $f + 1]] = $chosen[$corners[3 * $f + 2]] = 1.0;
            }
        }
        foreach ([[NamedFaces::Group, $this->groups], [NamedFaces::Material, $this->materials]] as [$by, $names]) {
            foreach ($names as $name) {
                foreach ($scene->named($on->prop, $by, $name)->tree->nearest($mesh->x, $mesh->y, $mesh->z)->distance as $p => $d) {
                    if ($d <= self::ON * $scene->extent($on->prop)) {
                        $chosen[$p] = 1.0;
                    }
                }
            }
        }
        $picked = array_fill_keys($this->pieces, true);
        if (! $on->arePieces()) {
            $names = $picked === [] ? [] : $on->names();
            foreach ($picked === [] ? [] : $on->pieceOf() as $p => $piece) {
                if (isset($picked[$names[$piece] ?? ''])) {
                    $chosen[$p] = 1.0;
                }
            }

            return $chosen;
        }
        $out = $this->points === [] && $faces === [] && $this->groups === [] && $this->materials === []
            ? array_fill(0, $on->count(), 0.0)
            : Carried::over($chosen, $on, $scene->surface($on->prop));
        foreach ($on->names() as $i => $name) {
            if (isset($picked[$name])) {
                $out[$i] = 1.0;
            }
        }

        return $out;
    }
}
