<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** A moment of a shot. */
final readonly class Moment
{
    /**
     * @param  float  $frame  real: a moment between two frames is one too
     * @param  float  $frameTime  seconds a frame lasts
     */
    public function __construct(public float $frame, public float $frameTime)
    {
    }

    public function plus(float $frames): self
    {
        return new self($this->frame + $frames, $this->frameTime);
    }

    /** Seconds until another moment. */
    public function secondsTo(self $later): float
    {
        return ($later->frame - $this->frame) * $this->frameTime;
    }
}
