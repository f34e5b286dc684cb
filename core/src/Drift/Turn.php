<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** A turn of each piece about its own middle. */
final readonly class Turn implements Move
{
    private function __construct(private Vec3 $axis, private float $angle, private float $random, private float $tumble, private int $seed)
    {
    }

    public static function label(): string
    {
        return 'Turn';
    }

    public static function meaning(): string
    {
        return 'About its own middle';
    }

    public static function options(): array
    {
        return [
            new Option('axis', 'About', 'The axis they turn about.', PointInTime::class, [0.0, 1.0, 0.0], -1, 1),
            new Option('angle', 'Angle', '360 is one full turn.', NumberInTime::class, 90.0, -100000, 100000, '°'),
            new Option('random', 'Random share', 'How much less some pieces turn.', NumberInTime::class, 0.3, 0, 1),
            new Option('tumble', 'Tumble', 'How far they turn besides, each about an axis of its own.', NumberInTime::class, 0.0, 0, 100000, '°'),
            new Option('seed', 'Seed', 'Another number turns them otherwise.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        return new self(Vec3::of($values['axis']), $values['angle'], $values['random'], $values['tumble'], $values['seed']);
    }

    public function reads(): string
    {
        return '';
    }

    public function add(Pieces $pieces, array $amounts, ?array $there, Flight $to): void
    {
        $length = $this->axis->length();
        [$ax, $ay, $az] = $length > 1e-9 ? $this->axis->times($this->angle * M_PI / 180.0 / $length)->toArray() : [0.0, 0.0, 0.0];
        $less = 0.5 * $this->random;
        $tumble = $this->tumble * M_PI / 180.0;
        $chance = $pieces->chance($this->seed, 4);
        [$x, $y, $z] = [$to->rx, $to->ry, $to->rz];
        $to->rx = $to->ry = $to->rz = [];
        foreach ($amounts as $i => $d) {
            $k = 4 * $i;
            $share = $d * (1.0 - $less * (1.0 - $chance[$k]));
            $far = $d * $tumble;
            $x[$i] += $share * $ax + $far * $chance[$k + 1];
            $y[$i] += $share * $ay + $far * $chance[$k + 2];
            $z[$i] += $share * $az + $far * $chance[$k + 3];
        }
        [$to->rx, $to->ry, $to->rz] = [$x, $y, $z];
    }
}
