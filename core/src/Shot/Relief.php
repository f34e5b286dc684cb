<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Track;

/** How far the surface of a prop stands out along its normal: a depth, as much of it as a weight map gives. */
final readonly class Relief
{
    /**
     * @param  string  $map  id
     * @param  Track  $depth  metres; below 0 it is sunk
     */
    private function __construct(public string $map, public Track $depth)
    {
    }

    /**
     * @param  array<string, mixed>|null  $d  already of the schema's form
     *
     * @throws Problem
     */
    public static function of(?array $d, Cues $cues, string $path): ?self
    {
        return $d === null ? null : new self($d['map'], Reading::number($d['depth'], $cues, $path.'.depth'));
    }
}
