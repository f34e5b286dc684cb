<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Timing\PlaceTrack;
use YardBreak\Core\Timing\Track;

/** A prop as movers see it. */
final readonly class Member
{
    /**
     * @param  int  $number  its place among the props of the shot that are not hidden
     * @param  string  $id  of it in the document
     * @param  string  $path  where it stands in the document
     * @param  class-string<Leads>|null  $ledBy  what leads its pieces until they are let go; null where they follow their prop
     * @param  class-string<Mover>|null  $movedBy  what moves its pieces once they are let go; null where they never are
     * @param  Settings|null  $settings  for what moves them
     * @param  float  $density  kg/m³
     * @param  array<class-string<Mover>, list<object>>  $beside  what is set of it for movers beside the one that moves its pieces
     * @param  list<int>  $passes  numbers of props that it passes through
     */
    public function __construct(
        public int $number,
        public string $id,
        public string $path,
        public string $name,
        public ?string $ledBy,
        public ?string $movedBy,
        public ?Settings $settings,
        public PlaceTrack $place,
        public float $density,
        public Track $friction,
        public Track $bounce,
        public array $beside = [],
        public array $passes = [],
    ) {
    }

    /** Whether points of its surface move by themselves, so that it has no shape that others could meet. */
    public function waves(): bool
    {
        return $this->movedBy !== null && in_array(StreamKind::Points, $this->movedBy::streams(), true);
    }
}
