<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Timing\Pace;

/** The shot a prop is part of, for what one prop takes from others. */
final class ShotLink
{
    public ?ShotSpec $shot = null;

    /** @param  Pace|null  $pace  that keys of props follow; null where they keep to their frames */
    public function __construct(public readonly MoverCatalogue $movers = new MoverCatalogue, public readonly ?Pace $pace = null)
    {
    }
}
