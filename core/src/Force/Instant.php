<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Timing\Pace;

/** When forces are looked at, and for how long what they do then holds. */
final readonly class Instant
{
    /**
     * @param  float  $frame  half way through
     * @param  int  $first  the first frame of the shot
     * @param  float  $frameTime  seconds a frame lasts
     * @param  float  $span  seconds; none where it is only looked
     * @param  Pace|null  $pace  as time passes for what forces act on; null where as on the clock
     * @param  Obstacles|null  $obstacles  the surfaces of the scene then; null where they are not known
     * @param  string  $of  id of the prop whose pieces are asked for; empty for none
     */
    public function __construct(public float $frame, public int $first, public float $frameTime, public float $span = 0.0, private ?Pace $pace = null, public ?Obstacles $obstacles = null, public string $of = '')
    {
    }

    /** Seconds that pass from one frame to another. */
    private function passed(float $from, float $to): float
    {
        return ($this->pace === null || $this->pace->isEven() || ! is_finite($from) ? $to - $from : $this->pace->scene($to) - $this->pace->scene($from)) * $this->frameTime;
    }

    /** Since the first frame. */
    public function seconds(): float
    {
        return $this->passed($this->first, $this->frame);
    }

    /** Whether so many seconds after a frame fall within the span. */
    public function takesIn(float $frame, float $seconds): bool
    {
        $from = $this->passed($frame, $this->frame) - 0.5 * $this->span;

        return $seconds >= $from && $seconds < $from + $this->span;
    }
}
