<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

/** A closed part of a solid under the knife. */
final readonly class Piece
{
    /**
     * @param  list<int>  $faces  flat triples of points of the cutter
     * @param  list<int>  $origins  see Cut
     */
    public function __construct(public array $faces, public array $origins)
    {
    }
}
