<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;

/**
 * Cracks that run out from where something hit, crossed by rings: window glass, ceramic tile, ice. Rays and rings
 * are the cells of seeds on circles; what lies beyond the broken part stays together.
 */
final class Strike implements Pattern
{
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

    public static function options(): array
    {
        return [
            new Option('point', 'Hit point', 'Where it was hit; the middle of the prop without one.', 'point', null, -1000, 1000, 'm'),
            new Option('axis', 'Direction of the hit', 'Cracks run square to it; through the thinnest way without one.', 'point', null, -1, 1),
            new Option('rays', 'Rays', 'Cracks that run outwards.', 'whole', 16, 3, 200),
            new Option('rings', 'Rings', 'Circles of cracks round the hit.', 'whole', 6, 1, 100),
            new Option('growth', 'Ring growth', 'How many times wider each ring is than the one within.', 'number', 1.4, 1, 4),
            new Option('radius', 'Radius', 'What lies farther away stays whole.', 'number', 0.4, 0.001, 100, 'm'),
            new Option('jitter', 'Unevenness', 'From drawn with compasses (0) to wild (1).', 'number', 0.35, 0, 1),
            new Option('seed', 'Seed', 'Another number gives another break of the same kind.', 'whole', 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        $axis = $values['axis'] === null ? null : Vec3::of($values['axis']);
        if ($axis !== null && $axis->length() < 1e-6) {
            throw Problem::inValue('axis', 'The direction of the hit has no length.', 'Give it a direction, such as 0,0,1.');
        }
        if ($values['rays'] * $values['rings'] > Cells::MOST) {
            throw Problem::outOfRange('rays', 'Rays times rings', $values['rays'] * $values['rings'], 'at most '.Cells::MOST);
        }

        return new self($values['point'] === null ? null : Vec3::of($values['point']), $axis?->unit(), $values['rays'], $values['rings'], $values['growth'], $values['radius'], $values['jitter'], $values['seed']);
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        $frame = new UnitFrame($solid);
        $random = new SeededRandom($this->seed);
        $radius = $this->radius / $frame->scale;
        $at = $this->point === null ? Vec3::zero() : $frame->inUnits($this->point);
        foreach (['x', 'y', 'z'] as $side) {
            if (abs($at->{$side}) > $frame->half->{$side} + $radius) {
                throw Problem::inValue('point', 'The hit point lies off the prop, farther than its radius.', 'Move it onto the prop, or make the radius larger.');
            }
        }
        $axis = $this->axis ?? self::thinnest($frame->half);
        $u = (abs($axis->x) < 0.6 ? new Vec3(1, 0, 0) : new Vec3(0, 1, 0));
        $u = $u->minus($axis->times($u->dot($axis)))->unit();
        $v = $axis->cross($u);
        $bearings = [];
        for ($i = 0; $i < $this->rays; $i++) {
            $bearings[] = 2.0 * M_PI * ($i + 0.4 * $this->jitter * $random->between(-1.0, 1.0)) / $this->rays;
        }
        $seeds = $groups = [];
        foreach ($this->distances($radius) as $ring => [$distance, $width]) {
            foreach ($bearings as $i => $bearing) {
                $whole = $ring >= $this->rings;
                $angle = $bearing + 2.0 * M_PI / $this->rays * 0.3 * $this->jitter * $random->between(-1.0, 1.0);
                $r = $distance + 0.3 * $width * $this->jitter * $random->between(-1.0, 1.0);
                // Seeds in one plane would make flat simplices; so little a slant of the cracks is not seen.
                $off = 1e-3 * $width * $random->between(-1.0, 1.0);
                $seeds[] = $at->plus($u->times($r * cos($angle)))->plus($v->times($r * sin($angle)))->plus($axis->times($off))->toArray();
                $groups[] = $whole ? $this->rays * $this->rings : $ring * $this->rays + $i;
            }
        }

        return Diagram::shards($frame, $seeds, $random, $progress, 0.0, $groups);
    }

    /**
     * Distances of the seeds of each ring, such that half way between two lies the border of the rings; the last
     * stands for all that is beyond.
     *
     * @return list<array{float, float}> distance and width
     */
    private function distances(float $radius): array
    {
        $sum = 0.0;
        for ($k = 0; $k < $this->rings; $k++) {
            $sum += $this->growth ** $k;
        }
        $width = $radius / $sum;
        $out = [];
        $border = 0.0;
        for ($k = 0; $k <= $this->rings; $k++) {
            $out[] = [$border + 0.5 * $width, $width];
            $border += $width;
            $width *= $k + 1 < $this->rings ? $this->growth : 1.0;
        }

        return $out;
    }

    private static function thinnest(Vec3 $half): Vec3
    {
        $least = min($half->x, $half->y, $half->z);

        return match (true) {
            $half->z === $least => new Vec3(0, 0, 1),
            $half->x === $least => new Vec3(1, 0, 0),
            default => new Vec3(0, 1, 0),
        };
    }
}
