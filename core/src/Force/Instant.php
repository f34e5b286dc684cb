<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

/** When forces are looked at, and for how long what they do then holds. */
final readonly class Instant
{
    /**
     * @param  float  $frame  half way through
     * @param  int  $first  the first frame of the shot
     * @param  float  $frameTime  seconds a frame lasts
     * @param  float  $span  seconds; none where it is only looked
     */
    public function __construct(public float $frame, public int $first, public float $frameTime, public float $span = 0.0)
    {
    }

    /** Since the first frame. */
    public function seconds(): float
    {
        return ($this->frame - $this->first) * $this->frameTime;
    }

    /** Whether so many seconds after a frame fall within the span. */
    public function takesIn(float $frame, float $seconds): bool
    {
        $from = ($this->frame - $frame) * $this->frameTime - 0.5 * $this->span;

        return $seconds >= $from && $seconds < $from + $this->span;
    }
}
