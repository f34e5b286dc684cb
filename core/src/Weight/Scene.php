<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Problem;

/** What sources may know of the shot at a moment. */
interface Scene
{
    public function frame(): float;

    /** How far a distance is to be known of which only what is nearer counts. */
    public function limit(float $farthest): float;

    /** Seconds since the first frame. */
    public function seconds(): float;

    /**
     * Where a prop stands.
     *
     * @throws Problem where there is no such prop
     */
    public function place(string $prop): Placement;

    /** What the shape of a prop and its pieces depends on. */
    public function shape(string $prop): string;

    /**
     * What was kept of a source by itself.
     *
     * @param  string  $of  what it depends on
     * @return list<float>|null
     */
    public function kept(string $of): ?array;

    /** @param  list<float>  $values */
    public function keep(string $of, array $values): void;

    /**
     * What took long and was kept whoever asked for it.
     *
     * @param  string  $of  what it depends on
     * @return list<float>|null
     */
    public function recall(string $of): ?array;

    /** @param  list<float>  $values */
    public function remember(string $of, array $values): void;

    /**
     * Told again and again by what takes long.
     *
     * @throws Problem where nobody wants it any more
     */
    public function goOn(): void;

    /**
     * What of a prop stands where: all of it at once, or each piece by itself where they have parted.
     *
     * @param  'surface'|'points'|'pieces'|'origin'  $what
     * @return list<Body>
     *
     * @throws Problem
     */
    public function bodies(string $prop, string $what): array;

    /**
     * The points of a prop's mesh.
     *
     * @throws Problem
     */
    public function points(string $prop): Points;

    /**
     * The pieces of a prop.
     *
     * @throws Problem
     */
    public function pieces(string $prop): Points;

    /** The surface that those points span, in the prop's own coordinates. */
    public function surface(string $prop): Body;

    /**
     * What another map gives at this moment.
     *
     * @return array{string, list<float>} the prop it is of, and its values: over the given points where they are of that prop, else over the points of its mesh
     *
     * @throws Problem where there is no such map
     */
    public function map(string $map, Points $on): array;

    /**
     * The prop a map is of.
     *
     * @throws Problem where there is no such map
     */
    public function propOf(string $map): string;

    /**
     * A picture, as numbers.
     *
     * @throws Problem where it cannot be read
     */
    public function picture(string $asset): Picture;

    /**
     * The faces of a group, or a material, of the file a prop was read from, in the prop's own coordinates.
     *
     * @throws Problem where there is none of that name
     */
    public function named(string $prop, NamedFaces $by, string $name): Body;

    /** Metres from one corner to the other of the box round a prop. */
    public function extent(string $prop): float;
}
