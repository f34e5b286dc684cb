<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

/** A moment: a frame, or some frames from a named cue. */
final readonly class When
{
    private function __construct(private float $frame, public ?string $cue)
    {
    }

    public static function frame(float $frame): self
    {
        return new self($frame, null);
    }

    public static function cue(string $id, float $offset): self
    {
        return new self($offset, $id);
    }

    /** @return float|null the frame, as far as it is known */
    public function at(Cues $cues): ?float
    {
        if ($this->cue === null) {
            return $this->frame;
        }
        $anchor = $cues->frame($this->cue);

        return $anchor === null ? null : $anchor + $this->frame;
    }
}
