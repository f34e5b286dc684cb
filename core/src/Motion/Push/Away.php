<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Push;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Away from a point, less the farther off. */
final readonly class Away implements Push
{
    private function __construct(private bool $touch, private Vec3 $point, private float $speed, private float $reach)
    {
    }

    public static function label(): string
    {
        return 'Away';
    }

    public static function meaning(): string
    {
        return 'From a point, or from the touch';
    }

    public static function options(): array
    {
        return [
            new Option('from', 'From', 'A point of the prop, or where it was touched.', Choice::class, 'touch', choices: ['touch', 'point']),
            new Option(
                'point',
                'Point',
                'In the prop’s own coordinates; also where nothing touched it.',
                PointInTime::class,
                [0.0, 0.0, 0.0],
                -1000,
                1000,
                'm',
            ),
            new Option('speed', 'Speed', 'What a piece gets close by; below 0 it is drawn in.', NumberInTime::class, 2.0, -1000, 1000, 'm/s'),
            new Option('reach', 'None beyond', 'It falls off evenly to nothing here; 0 for the same everywhere.', NumberInTime::class, 0.0, 0, 1000, 'm'),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['from'] === 'touch', Vec3::of($values['point']), $values['speed'], $values['reach']);
    }

    public function on(Leaving $piece): Sent
    {
        $from = $this->touch && $piece->struck !== null ? $piece->struck : $piece->place->point($this->point);
        $way = $piece->middle->minus($from);
        $far = $way->length();
        $share = $this->reach > 0.0 ? max(0.0, 1.0 - $far / $this->reach) : 1.0;

        return new Sent($far > 0.0 ? $way->times($share * $this->speed / $far) : Vec3::zero(), Vec3::zero());
    }
}
