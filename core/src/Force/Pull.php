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

    private function __construct(private string $to, private Vec3 $at, private Vec3 $along, private float $strength, private int $power, private float $core, private float $reach)
    {
    }

    public static function label(): string
    {
        return 'Pull';
    }

    public static function meaning(): string
    {
        return 'Draws to a point, to a line or one way, or drives away';
    }

    public static function options(): array
    {
        return [
            new Option('to', 'To', 'A point, a line through it, or one way everywhere, as gravity does.', Choice::class, 'point', choices: ['point', 'line', 'way']),
            new Option('at', 'At', 'The point.', PointInTime::class, [0.0, 0.5, 0.0], -100000.0, 100000.0, 'm', with: 'to=point|to=line|reach>0'),
            new Option('along', 'Along', 'Which way it pulls, or the line goes; how long this is does not matter.', PointInTime::class, [0.0, 1.0, 0.0], -1000.0, 1000.0, with: 'to=line|to=way'),
            new Option('strength', 'Strength', 'At 1 m; below 0 it drives away. Gravity is 9.8.', NumberInTime::class, 20.0, -100000.0, 100000.0, 'm/s²'),
            new Option('law', 'Less with distance', 'As strong everywhere, or weaker the farther away.', Choice::class, '1/r', choices: array_keys(self::POWERS), with: 'to=point|to=line'),
            new Option('core', 'Core', 'Nearer than this it dies away, so that nothing is flung.', NumberInTime::class, 0.1, 0.001, 10000.0, 'm', with: 'to=point|to=line'),
            Reach::option(),
        ];
    }

    public static function of(array $values): self
    {
        $along = Vec3::of($values['along']);

        return new self(
            $values['to'], Vec3::of($values['at']), $along->times(1.0 / max(1e-12, $along->length())), $values['strength'], self::POWERS[$values['law']],
            $values['core'], $values['reach'],
        );
    }

    public function on(Effect $effect, Instant $at, array $amounts): void
    {
        foreach ($effect->x as $i => $x) {
            $off = new Vec3($this->at->x - $x, $this->at->y - $effect->y[$i], $this->at->z - $effect->z[$i]);
            if ($this->to === 'line') {
                $off = $off->minus($this->along->times($off->dot($this->along)));
            }
            $r = $off->length();
            $strength = $this->strength * Reach::share($r, $this->reach) * $amounts[$i];
            // In full from the core on, evenly less within it.
            $a = $this->to === 'way' ? $this->along->times($strength) : $off->times($strength * min(1.0, $r / $this->core) / max(1e-9, $r) / max($r, $this->core) ** $this->power);
            $effect->ax[$i] += $a->x;
            $effect->ay[$i] += $a->y;
            $effect->az[$i] += $a->z;
        }
    }
}
