<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\SurfaceTree;

/** Something that can be measured to, and where it stands. */
final readonly class Body
{
    /** @param  bool  $closed  whether there is an inside */
    public function __construct(public SurfaceTree $tree, public Placement $place, public bool $closed)
    {
    }
}
