<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Timing\PlaceTrack;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Track3;

/** A prop as movers see it. */
final readonly class Member
{
    /**
     * @param  int  $number  its place among the props of the shot that are not hidden
     * @param  string  $path  where it stands in the document
     * @param  'fixed'|'keyed'|'free'|'drift'  $kind
     * @param  bool  $letsGo  whether its pieces are ever let go to physics
     * @param  bool  $whole  whether its pieces move as one until they are let go
     * @param  float  $density  kg/m³
     * @param  Track3  $velocity  m/s, what its pieces are pushed with as they are let go
     * @param  Track3  $spin  °/s
     */
    public function __construct(
        public int $number,
        public string $path,
        public string $name,
        public string $kind,
        public bool $letsGo,
        public bool $whole,
        public PlaceTrack $place,
        public float $density,
        public Track $friction,
        public Track $bounce,
        public Track3 $velocity,
        public Track3 $spin,
    ) {
    }

    public function isFree(): bool
    {
        return $this->kind === 'free';
    }
}
