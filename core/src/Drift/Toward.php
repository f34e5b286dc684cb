<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

use YardBreak\Core\Geometry\MeshKind;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Toward a point or a prop, or away from it. */
final readonly class Toward implements Move
{
    private function __construct(private string $prop, private Vec3 $point, private bool $share, private float $by)
    {
    }

    public static function label(): string
    {
        return 'Toward';
    }

    public static function meaning(): string
    {
        return 'To a point or prop, or away from it';
    }

    public static function options(): array
    {
        return [
            new Option('to', 'Prop', 'The prop it goes to, or from; none for a point.', MeshKind::class, ''),
            new Option('point', 'Point', 'In the prop’s own coordinates, where no prop is chosen.', PointInTime::class, [0.0, 0.0, 0.0], -10000, 10000, 'm'),
            new Option('counted', 'Counted', 'As a share of the way there, or in metres.', Choice::class, 'metres', choices: ['metres', 'share']),
            new Option('by', 'By', 'Below 0 away from it; a share of 1 is all the way.', NumberInTime::class, -1.0, -10000, 10000),
        ];
    }

    public static function of(array $values): self
    {
        return new self(is_string($values['to']) ? $values['to'] : '', Vec3::of($values['point']), $values['counted'] === 'share', $values['by']);
    }

    public function reads(): string
    {
        return $this->prop;
    }

    public function add(Pieces $pieces, array $amounts, ?array $there, Flight $to): void
    {
        [$tx, $ty, $tz] = $there ?? $this->point->toArray();
        foreach ($amounts as $i => $d) {
            $x = $tx - $pieces->x[$i];
            $y = $ty - $pieces->y[$i];
            $z = $tz - $pieces->z[$i];
            $far = sqrt($x * $x + $y * $y + $z * $z);
            $k = $this->share ? $d * $this->by : ($far > 0.0 ? $d * $this->by / $far : 0.0);
            $to->x[$i] += $k * $x;
            $to->y[$i] += $k * $y;
            $to->z[$i] += $k * $z;
        }
    }
}
