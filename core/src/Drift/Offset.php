<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** A way off, alike for all pieces but for a random part. */
final readonly class Offset implements Move
{
    private function __construct(private Vec3 $by, private float $random, private float $strewn, private int $seed)
    {
    }

    public static function label(): string
    {
        return 'Offset';
    }

    public static function meaning(): string
    {
        return 'A way off';
    }

    public static function options(): array
    {
        return [
            new Option('by', 'By', 'How far, in the prop’s own coordinates.', PointInTime::class, [0.0, 1.0, 0.0], -10000, 10000, 'm', share: 0.0),
            new Option('random', 'Random share', 'How much less far some pieces go.', NumberInTime::class, 0.3, 0, 1),
            new Option('strewn', 'Strewn', 'How far off that, any way.', NumberInTime::class, 0.0, 0, 10000, 'm'),
            new Option('seed', 'Seed', 'Another number strews them otherwise.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        return new self(Vec3::of($values['by']), $values['random'], $values['strewn'], $values['seed']);
    }

    public function reads(): string
    {
        return '';
    }

    public function add(Pieces $pieces, array $amounts, ?array $there, Flight $to): void
    {
        [$bx, $by, $bz] = $this->by->toArray();
        $less = 0.5 * $this->random;
        $strewn = $this->strewn;
        $chance = $pieces->chance($this->seed, 4);
        [$x, $y, $z] = [$to->x, $to->y, $to->z];
        $to->x = $to->y = $to->z = [];
        foreach ($amounts as $i => $d) {
            $k = 4 * $i;
            $share = $d * (1.0 - $less * (1.0 - $chance[$k]));
            $far = $d * $strewn;
            $x[$i] += $share * $bx + $far * $chance[$k + 1];
            $y[$i] += $share * $by + $far * $chance[$k + 2];
            $z[$i] += $share * $bz + $far * $chance[$k + 3];
        }
        [$to->x, $to->y, $to->z] = [$x, $y, $z];
    }
}
