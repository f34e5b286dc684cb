<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Points;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Bands across a direction, full and none by turns; or one band along a line that was drawn, pushed through along the direction. */
final readonly class Stripes implements Pointwise
{
    use ByPlace;

    /** @param  list<array{float, float, float}>  $line  corner points of a line; none for bands */
    private function __construct(
        private array $line,
        private Vec3 $along,
        private float $spacing,
        private float $share,
        private float $soft,
        private float $shift,
    ) {
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
            new Option('by', 'By', 'Bands again and again, or one along a line.', Choice::class, 'bands', choices: ['bands', 'line']),
            new Option('line', 'Line', 'Its corner points, in order.', Points::class, null, -10000, 10000, 'm', with: 'by=line'),
            new Option(
                'direction',
                'Direction',
                'The way from one band to the next; a line is pushed through this way.',
                PointInTime::class,
                [0.0, 1.0, 0.0],
                -1,
                1,
            ),
            new Option(
                'spacing',
                'Spacing',
                'From the middle of a band to that of the next; of a line, its width in full.',
                NumberInTime::class,
                0.2,
                0.0001,
                1000,
                'm',
            ),
            new Option('share', 'Share', 'How much of the spacing a band takes.', NumberInTime::class, 0.5, 0, 1),
            new Option('soft', 'Soft edge', 'From a hard edge (0) to a wave (1).', NumberInTime::class, 0.3, 0, 1),
            new Option('shift', 'Shift', 'Where the middle of a band lies.', NumberInTime::class, 0.0, -1000, 1000, 'm', with: 'by=bands'),
        ];
    }

    public static function of(array $values): self
    {
        $along = Vec3::of($values['direction']);
        if ($along->length() < 1e-6) {
            throw Problem::inValue('direction', 'The direction of the stripes has no length.', 'Give it a direction, such as 0,1,0.');
        }

        $line = $values['by'] === 'line' ? array_values($values['line'] ?? []) : [];
        if ($values['by'] === 'line' && count($line) < 2) {
            throw Problem::inValue('line', 'A line needs two points at least.', 'Add points to it, or take bands.');
        }

        return new self($line, $along->unit(), $values['spacing'], $values['share'], $values['soft'], $values['shift']);
    }

    public function at(float $x, float $y, float $z): float
    {
        if ($this->line !== []) {
            return $this->edged(0.5 * min(1.0, 2.0 * $this->fromLine(new Vec3($x, $y, $z)) / $this->spacing));
        }
        $d = ($x * $this->along->x + $y * $this->along->y + $z * $this->along->z - $this->shift) / $this->spacing;

        // Shares of the spacing: off the middle of the nearest band, and half of what lies between hard and soft.
        return $this->edged(abs($d - round($d)));
    }

    /** Metres from the line, seen along the direction. */
    private function fromLine(Vec3 $p): float
    {
        $least = INF;
        for ($k = 0; $k + 1 < count($this->line); $k++) {
            $a = $this->seen(Vec3::of($this->line[$k])->minus($p));
            $way = $this->seen(Vec3::of($this->line[$k + 1])->minus($p))->minus($a);
            $long = $way->dot($way);
            $share = $long > 0.0 ? max(0.0, min(1.0, -$a->dot($way) / $long)) : 0.0;
            $least = min($least, $a->plus($way->times($share))->length());
        }

        return $least;
    }

    private function seen(Vec3 $v): Vec3
    {
        return $v->minus($this->along->times($v->dot($this->along)));
    }

    /** @param  float  $off  from the middle of a band, as a share of the spacing */
    private function edged(float $off): float
    {
        $edge = 0.5 * $this->share;
        $half = $this->soft * min($edge, 0.5 - $edge);
        if ($half <= 0.0) {
            return $off <= $edge && $this->share > 0.0 ? 1.0 : 0.0;
        }
        $t = max(0.0, min(1.0, 0.5 * ($edge + $half - $off) / $half));

        return $t * $t * (3.0 - 2.0 * $t);
    }
}
