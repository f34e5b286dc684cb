<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Draws towards a point or a line, or drives away from it, whatever the weight. */
final readonly class Pull implements Force
{
    private const POWERS = ['even' => 0, '1/r' => 1, '1/r²' => 2];

    private function __construct(private bool $line, private Vec3 $at, private Vec3 $along, private float $strength, private int $power, private float $core, private float $reach)
    {
    }

    public static function label(): string
    {
        return 'Pull';
    }

    public static function meaning(): string
    {
        return 'Draws to a point or a line, or drives away from it';
    }

    public static function options(): array
    {
        return [
            new Option('to', 'To', 'A point, or a line through it.', Choice::class, 'point', choices: ['point', 'line']),
            new Option('at', 'At', 'The point.', PointInTime::class, [0.0, 0.5, 0.0], -100000.0, 100000.0, 'm'),
            new Option('along', 'Along', 'Which way the line goes; how long this is does not matter.', PointInTime::class, [0.0, 1.0, 0.0], -1000.0, 1000.0, with: 'to=line'),
            new Option('strength', 'Strength', 'At 1 m; below 0 it drives away. Gravity is 9.8.', NumberInTime::class, 20.0, -100000.0, 100000.0, 'm/s²'),
            new Option('law', 'Less with distance', 'As strong everywhere, or weaker the farther away.', Choice::class, '1/r', choices: array_keys(self::POWERS)),
            new Option('core', 'Core', 'Nearer than this it dies away, so that nothing is flung.', NumberInTime::class, 0.1, 0.001, 10000.0, 'm'),
            Reach::option(),
        ];
    }

    public static function of(array $values): self
    {
        $along = Vec3::of($values['along']);

        return new self(
            $values['to'] === 'line', Vec3::of($values['at']), $along->times(1.0 / max(1e-12, $along->length())), $values['strength'], self::POWERS[$values['law']],
            $values['core'], $values['reach'],
        );
    }

    public function on(Field $field, Instant $at, float|array $amount): void
    {
        foreach ($field->x as $i => $x) {
            $off = new Vec3($this->at->x - $x, $this->at->y - $field->y[$i], $this->at->z - $field->z[$i]);
            if ($this->line) {
                $off = $off->minus($this->along->times($off->dot($this->along)));
            }
            $r = $off->length();
            // In full from the core on, evenly less within it.
            $share = Reach::share($r, $this->reach) * (is_array($amount) ? $amount[$i] : $amount) * min(1.0, $r / $this->core);
            $a = $off->times($this->strength * $share / max(1e-9, $r) / max($r, $this->core) ** $this->power);
            $field->ax[$i] += $a->x;
            $field->ay[$i] += $a->y;
            $field->az[$i] += $a->z;
        }
    }
}
