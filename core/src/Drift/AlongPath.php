<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Points;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Along a line that was drawn, or a helix; every piece its own beside it. */
final readonly class AlongPath implements Move
{
    /**
     * @param  list<array{float, float, float}>  $points
     * @param  list<float>  $at  way from the first point to each
     */
    private function __construct(
        private array $points,
        private array $at,
        private ?Vec3 $axis,
        private float $length,
        private float $radius,
        private float $turns,
        private float $spread,
        private int $seed,
    ) {
    }

    public static function label(): string
    {
        return 'Along a path';
    }

    public static function meaning(): string
    {
        return 'A drawn line or a helix';
    }

    public static function options(): array
    {
        return [
            new Option('kind', 'Kind', 'A line through points, or a helix.', Choice::class, 'helix', choices: ['line', 'helix']),
            new Option(
                'points',
                'Points',
                'From where the piece is to where it goes; only their distances from the first count.',
                Points::class,
                null,
                -10000,
                10000,
                'm',
                with: 'kind=line',
            ),
            new Option('axis', 'Axis', 'The way the helix climbs.', PointInTime::class, [0.0, 1.0, 0.0], -1, 1, with: 'kind=helix'),
            new Option('length', 'Climbs', 'How far along its axis.', NumberInTime::class, 1.0, -10000, 10000, 'm', with: 'kind=helix'),
            new Option('radius', 'Radius', 'It widens to this.', NumberInTime::class, 0.4, 0, 10000, 'm', with: 'kind=helix'),
            new Option('turns', 'Turns', 'How often it goes round.', NumberInTime::class, 1.5, -1000, 1000, with: 'kind=helix'),
            new Option('spread', 'Spread', 'How far pieces go off the path at its end.', NumberInTime::class, 0.1, 0, 10000, 'm'),
            new Option('seed', 'Seed', 'Another number spreads them otherwise.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        if ($values['kind'] === 'helix') {
            $axis = Vec3::of($values['axis']);
            if ($axis->length() < 1e-6) {
                throw Problem::inValue('axis', 'The axis of the helix has no length.', 'Give it a direction, such as 0,1,0.');
            }

            return new self([], [], $axis->unit(), $values['length'], $values['radius'], $values['turns'], $values['spread'], $values['seed']);
        }
        $points = array_values($values['points'] ?? []);
        if (count($points) < 2) {
            throw Problem::inValue(
                'points',
                'A path of '.(count($points) === 1 ? 'one point' : 'no points').' leads nowhere.',
                'Draw at least two points, or take the helix.',
            );
        }
        $at = [0.0];
        foreach (array_slice($points, 1) as $k => $p) {
            $at[] = $at[$k] + Vec3::of($p)->minus(Vec3::of($points[$k]))->length();
        }
        if (end($at) <= 0.0) {
            throw Problem::inValue('points', 'All points of the path are the same.', 'Draw them apart.');
        }

        return new self($points, $at, null, 0.0, 0.0, 0.0, $values['spread'], $values['seed']);
    }

    public function reads(): string
    {
        return '';
    }

    public function add(Pieces $pieces, array $amounts, ?array $there, Flight $to): void
    {
        $chance = $pieces->chance($this->seed, 3);
        foreach ($amounts as $i => $d) {
            [$x, $y, $z] = $this->axis === null ? $this->onLine($d) : $this->onHelix($d, $this->axis);
            $far = $d * $this->spread;
            $to->x[$i] += $x + $far * $chance[3 * $i];
            $to->y[$i] += $y + $far * $chance[3 * $i + 1];
            $to->z[$i] += $z + $far * $chance[3 * $i + 2];
        }
    }

    /** @return array{float, float, float} from its first point; beyond its ends it goes straight on */
    private function onLine(float $d): array
    {
        $way = $d * $this->at[count($this->at) - 1];
        $k = 0;
        while ($k + 2 < count($this->at) && $this->at[$k + 1] < $way) {
            $k++;
        }
        $long = $this->at[$k + 1] - $this->at[$k];
        $share = $long > 0.0 ? ($way - $this->at[$k]) / $long : 0.0;
        $out = [];
        foreach ([0, 1, 2] as $axis) {
            $out[] = $this->points[$k][$axis] + $share * ($this->points[$k + 1][$axis] - $this->points[$k][$axis]) - $this->points[0][$axis];
        }

        return [$out[0], $out[1], $out[2]];
    }

    /** @return array{float, float, float} it begins on its axis, and widens evenly */
    private function onHelix(float $d, Vec3 $axis): array
    {
        $side = (abs($axis->y) > 0.9 ? new Vec3(1, 0, 0) : new Vec3(0, 1, 0))->cross($axis)->unit();
        $other = $axis->cross($side);
        $angle = 2.0 * M_PI * $this->turns * $d;
        $r = $this->radius * $d;
        $p = $axis->times($this->length * $d)->plus($side->times($r * cos($angle)))->plus($other->times($r * sin($angle)));

        return [$p->x, $p->y, $p->z];
    }
}
