<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Flung outward from a point in an arc, tipping over backwards, as rows and columns are when a ring passes through them. */
final readonly class GridBurst implements Move
{
    private function __construct(
        private Vec3 $from,
        private Vec3 $up,
        private float $out,
        private float $lift,
        private float $tip,
        private float $random,
        private int $seed,
    ) {
    }

    public static function label(): string
    {
        return 'Grid burst';
    }

    public static function meaning(): string
    {
        return 'Flung outward in an arc';
    }

    public static function options(): array
    {
        return [
            new Option(
                'from',
                'From',
                'The point they are flung from, in the prop’s own coordinates.',
                PointInTime::class,
                [0.0, 0.0, 0.0],
                -10000,
                10000,
                'm',
            ),
            new Option('up', 'Up', 'The way the arc rises: off the sheet.', PointInTime::class, [0.0, 0.0, 1.0], -1, 1),
            new Option('out', 'Outward', 'How far.', NumberInTime::class, 0.8, -10000, 10000, 'm'),
            new Option('lift', 'Lift', 'How high the arc rises half way.', NumberInTime::class, 0.5, -10000, 10000, 'm'),
            new Option('tip', 'Tip over', 'How far they turn on the way.', NumberInTime::class, 360.0, -100000, 100000, '°'),
            new Option('random', 'Random share', 'How much less far some go.', NumberInTime::class, 0.4, 0, 1),
            new Option('seed', 'Seed', 'Another number flings others less far.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        return new self(
            Vec3::of($values['from']),
            Vec3::of($values['up'])->length() > 1e-6 ? Vec3::of($values['up'])->unit() : new Vec3(0, 1, 0),
            $values['out'],
            $values['lift'],
            $values['tip'],
            $values['random'],
            $values['seed'],
        );
    }

    public function reads(): string
    {
        return '';
    }

    public function add(Pieces $pieces, array $amounts, ?array $there, Flight $to): void
    {
        $chance = $pieces->chance($this->seed);
        $less = 0.5 * $this->random;
        [$fx, $fy, $fz] = $this->from->toArray();
        [$ux, $uy, $uz] = $this->up->toArray();
        $tip = $this->tip * M_PI / 180.0;
        foreach ($amounts as $i => $d) {
            $x = $pieces->x[$i] - $fx;
            $y = $pieces->y[$i] - $fy;
            $z = $pieces->z[$i] - $fz;
            $high = $x * $ux + $y * $uy + $z * $uz;
            $x -= $high * $ux;
            $y -= $high * $uy;
            $z -= $high * $uz;
            $far = sqrt($x * $x + $y * $y + $z * $z);
            $share = 1.0 - $less * (1.0 - $chance[$i]);
            $rise = $share * $this->lift * 4.0 * $d * (1.0 - $d);
            $k = $far > 0.0 ? $share * $this->out * $d / $far : 0.0;
            $to->x[$i] += $k * $x + $rise * $ux;
            $to->y[$i] += $k * $y + $rise * $uy;
            $to->z[$i] += $k * $z + $rise * $uz;
            if ($far > 0.0) {
                // About the axis across its way and the arc.
                $t = $share * $tip * $d / $far;
                $to->rx[$i] += $t * ($uy * $z - $uz * $y);
                $to->ry[$i] += $t * ($uz * $x - $ux * $z);
                $to->rz[$i] += $t * ($ux * $y - $uy * $x);
            }
        }
    }
}
