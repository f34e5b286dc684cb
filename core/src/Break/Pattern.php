<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Entry;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;

/** A way to take a solid apart. */
interface Pattern extends Entry
{
    /**
     * @param  array<string, mixed>  $values  by option name, checked against the options
     *
     * @throws Problem where values do not fit each other
     */
    public static function of(array $values): self;

    /**
     * @param  Mesh  $solid  closed, consistently oriented, normals present
     * @return list<Shard> closed pieces that fill the solid without gap or overlap
     *
     * @throws Problem where the solid cannot be broken
     */
    public function break(Mesh $solid, Progress $progress): array;
}
