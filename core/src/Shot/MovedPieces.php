<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Geometry\Placement;

/** Where physics has moved the pieces of props, for maps that look at them. */
interface MovedPieces
{
    /**
     * @param  int  $prop  its number among those that are not hidden
     * @return list<Placement>|null by piece, from the prop's own coordinates to the scene; null where that is not known
     */
    public function places(int $prop, int $frame): ?array;

    /** The same only where all of them are. */
    public function key(int $frame): string;
}
