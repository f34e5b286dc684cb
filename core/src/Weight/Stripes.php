<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Bands across a direction, full and none by turns. */
final readonly class Stripes implements Pointwise
{
    use Still;

    private function __construct(private Vec3 $along, private float $spacing, private float $share, private float $soft, private float $shift)
    {
    }

    public static function label(): string
    {
        return 'Stripes';
    }

    public static function meaning(): string
    {
        return 'Bands, full and none by turns';
    }

    public static function options(): array
    {
        return [
            new Option('direction', 'Across', 'The way from one band to the next.', PointInTime::class, [0.0, 1.0, 0.0], -1, 1),
            new Option('spacing', 'Spacing', 'From the middle of a band to that of the next.', NumberInTime::class, 0.2, 0.0001, 1000, 'm'),
            new Option('share', 'Share', 'How much of the spacing a band takes.', NumberInTime::class, 0.5, 0, 1),
            new Option('soft', 'Soft edge', 'From a hard edge (0) to a wave (1).', NumberInTime::class, 0.3, 0, 1),
            new Option('shift', 'Shift', 'Where the middle of a band lies.', NumberInTime::class, 0.0, -1000, 1000, 'm'),
        ];
    }

    public static function of(array $values): self
    {
        $along = Vec3::of($values['direction']);
        if ($along->length() < 1e-6) {
            throw Problem::inValue('direction', 'The direction of the stripes has no length.', 'Give it a direction, such as 0,1,0.');
        }

        return new self($along->unit(), $values['spacing'], $values['share'], $values['soft'], $values['shift']);
    }

    public function at(float $x, float $y, float $z): float
    {
        $d = ($x * $this->along->x + $y * $this->along->y + $z * $this->along->z - $this->shift) / $this->spacing;
        // Shares of the spacing: off the middle of the nearest band, and half of what lies between hard and soft.
        $off = abs($d - round($d));
        $edge = 0.5 * $this->share;
        $half = $this->soft * min($edge, 0.5 - $edge);
        if ($half <= 0.0) {
            return $off <= $edge && $this->share > 0.0 ? 1.0 : 0.0;
        }
        $t = max(0.0, min(1.0, 0.5 * ($edge + $half - $off) / $half));

        return $t * $t * (3.0 - 2.0 * $t);
    }
}
