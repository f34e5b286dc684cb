<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** The shot a prop is part of, for what one prop takes from others. */
final class ShotLink
{
    public ?ShotSpec $shot = null;

    public function __construct(public readonly MoverCatalogue $movers = new MoverCatalogue)
    {
    }
}
