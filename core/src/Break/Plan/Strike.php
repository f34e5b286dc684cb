<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\Ringed;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Direction;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Point;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;

/**
 * Cracks that run out from where something hit, crossed by rings: window glass, ceramic tile, ice. What lies beyond
 * the broken part stays together.
 */
final class Strike implements Pattern, Ringed
{
    /** Share of ring pieces between two rays that are missing at full unevenness, so that splinters of varied length stand. */
    private const MISSING = 0.35;

    private function __construct(
        private readonly ?Vec3 $point,
        private readonly ?Vec3 $axis,
        private readonly int $rays,
        private readonly int $rings,
        private readonly float $growth,
        private readonly float $radius,
        private readonly float $jitter,
        private readonly int $seed,
    ) {
    }

    public static function label(): string
    {
        return 'Strike';
    }

    public static function meaning(): string
    {
        return 'Rays and rings round where something hit';
    }

    public static function options(): array
    {
        return [
            new Option('point', 'Hit point', 'Where it was hit; the middle of the prop without one.', Point::class, null, -1000, 1000, 'm'),
            new Option('axis', 'Direction of the hit', 'Cracks run square to it; through the thinnest way without one.', Direction::class, null, -1, 1),
            new Option('rays', 'Rays', 'Cracks that run outwards.', Whole::class, 16, 3, 200),
            new Option('rings', 'Rings', 'Circles of cracks round the hit.', Whole::class, 6, 1, 100),
            new Option('growth', 'Ring growth', 'How many times wider each ring is than the one within.', Number::class, 1.4, 1, 4),
            new Option('radius', 'Radius', 'What lies farther away stays whole.', Number::class, 0.4, 0.0001, 1000, 'm', share: 0.4),
            new Option('jitter', 'Unevenness', 'From drawn with compasses (0) to wild (1).', Number::class, 0.35, 0, 1),
            new Option('seed', 'Seed', 'Another number gives another break of the same kind.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        $axis = Vec3::orNull($values['axis']);
        if ($axis !== null && $axis->length() < 1e-6) {
            throw Problem::inValue('axis', 'The direction of the hit has no length.', 'Give it a direction, such as 0,0,1.');
        }
        if ($values['rays'] * $values['rings'] > Cells::MOST) {
            throw Problem::outOfRange('rays', 'Rays times rings', $values['rays'] * $values['rings'], 'at most '.Cells::MOST);
        }

        return new self(
            Vec3::orNull($values['point']),
            $axis,
            $values['rays'],
            $values['rings'],
            $values['growth'],
            $values['radius'],
            $values['jitter'],
            $values['seed'],
        );
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        $frame = new UnitFrame($solid);
        $radius = $this->radius / $frame->scale;
        $at = $this->point === null ? Vec3::zero() : $frame->inUnits($this->point);
        foreach (['x', 'y', 'z'] as $side) {
            if (abs($at->{$side}) > $frame->half->{$side} + $radius) {
                throw Problem::offTheProp(
                    'point',
                    'The hit point lies off the prop, farther than its radius.',
                    'Move it onto the prop, or make the radius larger.',
                    $this->point?->toArray(),
                );
            }
        }
        $basis = Basis::along($this->axis ?? Basis::thinnest($frame->half));

        return PlanCut::shards($frame, $basis, fn (float $jitter): Plan => $this->plan($basis->of($at), min($radius, PlanCut::EXTENT), $jitter), $progress);
    }

    public function rings(Mesh $solid, array $shards): array
    {
        $frame = new UnitFrame($solid);
        $basis = Basis::along($this->axis ?? Basis::thinnest($frame->half));
        [$u, $v] = $basis->of($this->point === null ? Vec3::zero() : $frame->inUnits($this->point));
        $edges = array_column($this->edges(min($this->radius / $frame->scale, PlanCut::EXTENT)), 0);
        $rings = [];
        foreach ($shards as $shard) {
            [$pu, $pv] = $basis->of($frame->inUnits($shard->mass->centroid));
            $rings[] = count(array_filter($edges, static fn (float $r): bool => $r < hypot($pu - $u, $pv - $v)));
        }

        return ['axis' => $basis->w, 'rings' => $rings];
    }

    /** @param  array{float, float, float}  $at */
    private function plan(array $at, float $radius, float $jitter): Plan
    {
        $random = new SeededRandom($this->seed);
        $drawing = new Drawing($random, $jitter);
        $points = [];
        $edges = $this->edges($radius);
        foreach ($edges as $ring => [$distance, $width]) {
            for ($ray = 0; $ray < $this->rays; $ray++) {
                $angle = 2.0 * M_PI / $this->rays * ($ray + self::wobble($ray, $this->seed) * 0.8 * $this->jitter + 0.3 * $this->jitter * $random->between(-0.5, 0.5));
                $r = $distance + 0.6 * $width * $this->jitter * $random->between(-0.5, 0.5);
                $points[$ring][$ray] = $drawing->point($at[0] + $r * cos($angle), $at[1] + $r * sin($angle));
            }
        }
        $middle = $drawing->point($at[0], $at[1]);
        $last = count($edges) - 1;
        foreach ($points as $ring => $round) {
            foreach ($round as $ray => $p) {
                $drawing->between($ring === 0 ? $middle : $points[$ring - 1][$ray], $p);
                if ($ring === $last || $random->share() >= self::MISSING * $this->jitter) {
                    $drawing->between($p, $round[($ray + 1) % $this->rays]);
                }
            }
        }

        return new Plan($drawing->map);
    }

    /** The same bend of a ray in all its rings, −½…½. */
    private static function wobble(int $ray, int $seed): float
    {
        return (new SeededRandom($seed * 1009 + $ray))->between(-0.5, 0.5);
    }

    /** @return list<array{float, float}> radius and width of each ring */
    private function edges(float $radius): array
    {
        $sum = 0.0;
        for ($k = 0; $k < $this->rings; $k++) {
            $sum += $this->growth ** $k;
        }
        $edges = [];
        $r = 0.0;
        for ($k = 0; $k < $this->rings; $k++) {
            $width = $radius * $this->growth ** $k / $sum;
            $r += $width;
            $edges[] = [$r, $width];
        }

        return $edges;
    }
}
