<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Problem;

/** Gathers the streams of one frame. */
final class FrameWriter
{
    /** @var array<int, array<int, string>> bytes by prop and kind */
    private array $streams = [];

    /** @param  float  $back  seconds by which it lies before the moment that was reached */
    public function __construct(public readonly int $frame, public readonly float $back = 0.0)
    {
    }

    /** @throws Problem where it is no whole number of items, or is there already */
    public function put(int $prop, StreamKind $kind, string $bytes): void
    {
        if (isset($this->streams[$prop][$kind->value]) || strlen($bytes) < $kind->lead() || (strlen($bytes) - $kind->lead()) % $kind->stride() !== 0) {
            throw new Problem('stream', 'A stream of '.$kind->name.' was written wrongly.', '', 'Report this; it is a fault of Yard Break.');
        }
        $this->streams[$prop][$kind->value] = $bytes;
    }

    /** @return array<int, array<int, string>> bytes by prop and kind, in rising order */
    public function streams(): array
    {
        ksort($this->streams);
        foreach ($this->streams as &$kinds) {
            ksort($kinds);
        }

        return $this->streams;
    }
}
