<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;

/** One piece of a broken prop, in the prop's own coordinates. */
final readonly class Shard
{
    /** @param  string  $name stable for the same prop, pattern and seed */
    public function __construct(public string $name, public Mesh $mesh, public MassProperties $mass)
    {
    }
}
