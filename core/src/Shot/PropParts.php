<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Problem;
use YardBreak\Core\Weight\Picture;

/** Where what maps are made of comes from. */
interface PropParts extends KeptWeights
{
    /** @throws Problem */
    public function mesh(PropSpec $prop): Mesh;

    /**
     * @return list<Shard>
     *
     * @throws Problem
     */
    public function pieces(PropSpec $prop): array;

    /**
     * What its pieces share where they lie face to face.
     *
     * @return list<Joint>
     *
     * @throws Problem
     */
    public function joints(PropSpec $prop): array;

    /**
     * The faces of a group, or a material, of the file a prop was read from, where they lie in the prop.
     *
     * @throws Problem where there is none of that name
     */
    public function named(PropSpec $prop, NamedFaces $by, string $name): Mesh;

    /** @throws Problem where it cannot be read */
    public function picture(string $asset): Picture;

    /**
     * Told again and again by what takes long.
     *
     * @throws Problem where nobody wants it any more
     */
    public function goOn(): void;
}
