<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Born;

use YardBreak\Core\Dust\Birthplace;
use YardBreak\Core\Dust\Source;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Direction;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Point;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;

/** Grains pour from a place of the prop, so many a second. */
final readonly class FromPoint implements Source
{
    /**
     * @param  list<float>  $at
     * @param  list<float>|null  $to  the other end of the line they come from
     * @param  list<float>|null  $towards
     */
    private function __construct(private array $at, private ?array $to, private ?array $towards, private float $across, private float $rate)
    {
    }

    public static function label(): string
    {
        return 'From a place';
    }

    public static function meaning(): string
    {
        return 'So many a second, from a point or a line of it';
    }

    public static function options(): array
    {
        return [
            new Option('at', 'At', 'In the prop’s own coordinates.', Point::class, [0.0, 0.0, 0.0], -100000, 100000, 'm'),
            new Option('to', 'Along a line', 'To here; from one point without.', Point::class, null, -100000, 100000, 'm'),
            new Option('towards', 'Towards', 'Upwards without one.', Direction::class, null, -1, 1),
            new Option('across', 'Across', 'Of the ball they come from.', Number::class, 0.05, 0.0, 1000.0, 'm'),
            new Option('rate', 'Grains', 'A second.', NumberInTime::class, 2000.0, 0.0, 1e7, '1/s'),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['at'], $values['to'], $values['towards'], $values['across'], $values['rate']);
    }

    public function hearsHits(): bool
    {
        return false;
    }

    public function countsCuts(): bool
    {
        return false;
    }

    public function bear(Birthplace $at): void
    {
        $out = $this->towards === null ? new Vec3(0.0, 1.0, 0.0) : Vec3::of(array_map(floatval(...), $this->towards))->unit();
        for ($n = $at->whole($this->rate * $at->seconds); $n > 0; $n--) {
            // Evenly within a ball: drawn in its cube until one lies inside.
            do {
                $off = new Vec3($at->between(-1.0, 1.0), $at->between(-1.0, 1.0), $at->between(-1.0, 1.0));
            } while ($off->length() > 1.0);
            $from = Vec3::of(array_map(floatval(...), $this->at));
            $along = $this->to === null ? $from : $from->plus(Vec3::of(array_map(floatval(...), $this->to))->minus($from)->times($at->between(0.0, 1.0)));
            $at->add(0, $along->plus($off->times(0.5 * $this->across)), $out);
        }
    }
}
