<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Problem;

/** How many frames go to a second: a fraction, kept exactly. */
final readonly class Rate
{
    /** Rates in common use, frames and seconds. */
    public const COMMON = [[24000, 1001], [24, 1], [25, 1], [30000, 1001], [30, 1], [48, 1], [50, 1], [60000, 1001], [60, 1]];

    public const LEAST = 1.0;

    public const MOST = 240.0;

    private function __construct(public int $frames, public int $seconds)
    {
    }

    /**
     * @param  mixed  $value  frames and seconds, as [24000, 1001]
     *
     * @throws Problem where it is no fraction between the least and the most
     */
    public static function of(mixed $value): self
    {
        if (
            ! is_array($value)
            || count($value) !== 2
            || ! is_int($value[0] ?? null)
            || ! is_int($value[1] ?? null)
            || $value[0] < 1
            || $value[1] < 1
            || $value[0] > 1_000_000
            || $value[1] > 1_000_000
        ) {
            throw Problem::inValue('', 'A frame rate is a fraction of two whole numbers above 0, as 24000 frames in 1001 seconds.', 'Give frames and seconds.');
        }
        $fps = $value[0] / $value[1];
        if ($fps < self::LEAST || $fps > self::MOST) {
            throw Problem::inValue('', 'A frame rate is between 1 and 240 frames a second.', 'Choose one of the common ones.');
        }
        [$a, $b] = $value;
        while ($b !== 0) {
            [$a, $b] = [$b, $a % $b];
        }

        return new self(intdiv($value[0], $a), intdiv($value[1], $a));
    }

    /** The fraction meant by a decimal number: 23.976 is 24000/1001. */
    public static function near(float $fps): self
    {
        foreach (self::COMMON as $rate) {
            if (abs($rate[0] / $rate[1] - $fps) < 0.002) {
                return self::of($rate);
            }
        }

        return self::of([(int) round($fps * 1000.0), 1000]);
    }

    public function perSecond(): float
    {
        return $this->frames / $this->seconds;
    }

    /** Frames a clock counts in a second. */
    public function nominal(): int
    {
        return (int) round($this->perSecond());
    }

    /** Whether timecode leaves out numbers to keep up with the clock: 29.97 and 59.94, not 23.976 (SMPTE ST 12-1). */
    public function drops(): bool
    {
        return $this->seconds === 1001 && $this->nominal() % 30 === 0;
    }

    /** Seconds from the start of time at frame 0. */
    public function secondsAt(float $frame): float
    {
        return $frame * $this->seconds / $this->frames;
    }

    public function frameAt(float $seconds): float
    {
        return $seconds * $this->frames / $this->seconds;
    }

    /** @return array{int, int} */
    public function toArray(): array
    {
        return [$this->frames, $this->seconds];
    }
}
