<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Entry;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Problem;

/** One thing done to a prop's mesh before it is broken or moved. */
interface Step extends Entry
{
    /**
     * @param  array<string, mixed>  $values  by option name, already checked
     * @return Mesh with normals only where they still hold
     *
     * @throws Problem where it cannot be done
     */
    public static function apply(Mesh $mesh, array $values): Mesh;
}
