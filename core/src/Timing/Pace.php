<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

/**
 * How fast time passes for all that moves by itself: frames that are shown, and moments of the scene, both counted in frames from the
 * first. Within a frame time passes evenly, as much of it as the rate has there on the mean (midpoint rule).
 */
final readonly class Pace
{
    /** Places of a frame at which its rate is looked at. */
    private const SAMPLES = 16;

    /** @var list<float> moment of the scene at each frame from the first to the last; none where time passes as it does on the clock */
    private array $scene;

    public function __construct(private Track $rate, public int $first, int $last)
    {
        $scene = [];
        if (! $rate->isConstant() || $rate->at(0.0) !== 1.0) {
            $at = 0.0;
            for ($frame = $first; $frame < $last; $frame++) {
                $scene[] = $at;
                $sum = 0.0;
                for ($k = 0; $k < self::SAMPLES; $k++) {
                    $sum += max(0.0, $rate->at($frame + ($k + 0.5) / self::SAMPLES));
                }
                // So that whole moments are met where they are meant.
                $at = round($at + $sum / self::SAMPLES, 9);
            }
            $scene[] = $at;
        }
        $this->scene = $scene;
    }

    public static function even(): self
    {
        return new self(Track::constant(1.0), 0, 1);
    }

    /** Whether time passes as it does on the clock. */
    public function isEven(): bool
    {
        return $this->scene === [];
    }

    /** The moment of the scene that a frame shows; before the first and after the last it passes as on the clock. */
    public function scene(float $frame): float
    {
        $at = $frame - $this->first;
        if ($this->scene === [] || $at <= 0.0) {
            return $at;
        }
        $end = count($this->scene) - 1;
        if ($at >= $end) {
            return $this->scene[$end] + $at - $end;
        }
        $k = (int) $at;

        return round($this->scene[$k] + ($at - $k) * ($this->scene[$k + 1] - $this->scene[$k]), 9);
    }

    /**
     * The frame that shows a moment of the scene.
     *
     * @param  bool  $still  where time stands then, the last of the frames that show it; else the first
     */
    public function frame(float $scene, bool $still = true): float
    {
        if ($this->scene === [] || $scene < 0.0) {
            return $this->first + $scene;
        }
        $end = count($this->scene) - 1;
        if ($scene >= $this->scene[$end]) {
            return $this->first + $end + $scene - $this->scene[$end];
        }
        $low = 0;
        for ($high = $end; $high - $low > 1;) {
            $middle = intdiv($low + $high, 2);
            if ($still ? $this->scene[$middle] <= $scene : $this->scene[$middle] < $scene) {
                $low = $middle;
            } else {
                $high = $middle;
            }
        }

        return $this->first + $low + ($scene - $this->scene[$low]) / ($this->scene[$low + 1] - $this->scene[$low]);
    }

    /** The frame so long after another, in frames as they pass on the clock. */
    public function later(float $frame, float $frames): float
    {
        return $this->scene === [] ? $frame + $frames : $this->frame($this->scene($frame) + $frames);
    }

    /** Frames of the clock that a frame lasts about here, never none. */
    public function rateAt(float $frame): float
    {
        return $this->scene === [] ? 1.0 : max(0.01, $this->scene($frame + 0.5) - $this->scene($frame - 0.5));
    }

    /** @return list<float> the moment of the scene at each frame from the first to the last; none where time passes as on the clock */
    public function table(): array
    {
        return $this->scene;
    }

    public function acts(Acts $acts): void
    {
        $acts->values('pace', $this->rate);
    }

    /** The frame at which all is known that a frame hangs on: physics goes by whole frames of the clock. */
    public function knownBy(int $frame): int
    {
        return $this->scene === [] ? $frame : max($frame, (int) ceil($this->frame(ceil($this->scene((float) $frame) - 1e-9), false) - 1e-9));
    }
}
