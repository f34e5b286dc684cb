<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** How bright a picture is, place by place. */
final readonly class Picture
{
    /** @param  string  $bytes  a byte a pixel, 255 for white, row by row from the top */
    public function __construct(public int $width, public int $height, private string $bytes)
    {
    }

    /**
     * Between the middles of pixels it goes evenly from one to the next.
     *
     * @param  float  $u  0 at the left edge, 1 at the right
     * @param  float  $v  0 at the lower edge, 1 at the upper
     * @return float 0 (black) … 1 (white)
     */
    public function at(float $u, float $v): float
    {
        $x = max(0.0, min($this->width - 1.0, $u * $this->width - 0.5));
        $y = max(0.0, min($this->height - 1.0, (1.0 - $v) * $this->height - 0.5));
        $i = min((int) $x, max(0, $this->width - 2));
        $j = min((int) $y, max(0, $this->height - 2));
        $x -= $i;
        $y -= $j;
        $right = min($i + 1, $this->width - 1);
        $below = min($j + 1, $this->height - 1);
        $upper = ord($this->bytes[$j * $this->width + $i]) * (1.0 - $x) + ord($this->bytes[$j * $this->width + $right]) * $x;
        $lower = ord($this->bytes[$below * $this->width + $i]) * (1.0 - $x) + ord($this->bytes[$below * $this->width + $right]) * $x;

        return ($upper * (1.0 - $y) + $lower * $y) / 255.0;
    }
}
