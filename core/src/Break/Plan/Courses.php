<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Direction;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Sizes;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;

/** Masonry: courses of bricks or blocks, with mortar between, open joints, or none. */
final class Courses implements Pattern
{
    private const SHIFTS = ['running' => 2, 'third' => 3, 'stack' => 1];

    /** Joints this near a side of the solid, as a share of its size, would cut off nothing but dust. */
    private const AT_SIDE = 1e-6;

    /**
     * @param  array{float, float, float}  $unit  metres along the wall, up, and through it
     * @param  'running'|'third'|'stack'  $bond
     * @param  'mortar'|'gap'  $filling
     */
    private function __construct(
        private readonly array $unit,
        private readonly float $joint,
        private readonly string $bond,
        private readonly string $filling,
        private readonly ?Vec3 $axis,
        private readonly float $turn,
        private readonly int $seed,
    ) {
    }

    public static function label(): string
    {
        return 'Courses';
    }

    public static function meaning(): string
    {
        return 'Bricks or blocks in bond, with their mortar';
    }

    public static function options(): array
    {
        return [
            new Option(
                'unit',
                'Unit',
                'Length, height and depth of a brick; the UK standard brick without a change.',
                Sizes::class,
                [0.215, 0.065, 0.1025],
                0.0001,
                1000,
                'm',
                bulk: 0.2,
            ),
            new Option('joint', 'Joint', 'Width of the mortar.', Number::class, 0.01, 0, 100, 'm', bulk: 0.2 * 0.01 / 0.215),
            new Option('filling', 'Joints', 'Pieces of mortar, or left open.', Choice::class, 'mortar', choices: ['mortar', 'gap']),
            new Option(
                'bond',
                'Bond',
                'How courses lie over each other: by half, by a third, or in stacks.',
                Choice::class,
                'running',
                choices: ['running', 'third', 'stack'],
            ),
            new Option('axis', 'Through', 'Direction through the wall; its thinnest without one.', Direction::class, null, -1, 1),
            new Option('turn', 'Turn', 'Slope of the courses.', Number::class, 0.0, -180, 180, '°'),
            new Option('seed', 'Seed', 'Only the finest rounding differs.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        return new self(
            $values['unit'],
            $values['joint'],
            $values['bond'],
            $values['filling'],
            Vec3::orNull($values['axis']),
            deg2rad($values['turn']),
            $values['seed'],
        );
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        $frame = new UnitFrame($solid);
        $basis = Basis::along($this->axis ?? Basis::thinnest($frame->half), $this->turn);
        $unit = $frame->unit;
        [$u, $v, $w] = $basis->turned($unit->x, $unit->y, $unit->z);
        $low = [min($u), min($v), min($w)];
        $high = [max($u), max($v), max($w)];
        $pitch = array_map(fn (float $size): float => ($size + $this->joint) / $frame->scale, $this->unit);
        $size = array_map(static fn (float $size): float => $size / $frame->scale, $this->unit);
        $count = 1.0;
        foreach ($pitch as $axis => $step) {
            $count *= ceil(($high[$axis] - $low[$axis]) / $step - 1e-9);
        }
        // Each brick brings about as much mortar again, in twice the pieces.
        $most = $this->joint > 0.0 && $this->filling === 'mortar' ? intdiv(Cells::MOST, 2) : Cells::MOST;
        if ($count > $most) {
            throw Problem::outOfRange('unit', 'The number of bricks', (int) $count, 'at most '.$most.'; make the unit larger');
        }

        return PlanCut::shards($frame, $basis, fn (float $jitter): Plan => $this->plan($low, $high, $size, $pitch, $jitter), $progress);
    }

    /**
     * @param  list<float>  $low
     * @param  list<float>  $high
     * @param  list<float>  $size
     * @param  list<float>  $pitch
     */
    private function plan(array $low, array $high, array $size, array $pitch, float $jitter): Plan
    {
        $random = new SeededRandom($this->seed);
        $drawing = new Drawing($random, $jitter);
        $beds = self::lines($low[1], $high[1], $size[1], $pitch[1], 0.0);
        $left = $low[0] - 0.1 * $pitch[0];
        $right = $high[0] + 0.1 * $pitch[0];
        $bottom = $low[1] - 0.1 * $pitch[1];
        $top = $high[1] + 0.1 * $pitch[1];
        $lines = $ends = [];
        foreach ([$bottom, ...$beds, $top] as $k => $bed) {
            $ends[] = $lines[] = [$drawing->point($left, $bed), $drawing->point($right, $bed)];
            if ($k > 0) {
                $lines[] = [$ends[$k - 1][0], $ends[$k][0]];
                $lines[] = [$ends[$k - 1][1], $ends[$k][1]];
            }
        }
        foreach ([$bottom, ...$beds] as $row => $from) {
            $to = $beds[$row] ?? $top;
            $middle = 0.5 * ($from + $to) - $low[1];
            $course = (int) floor($middle / $pitch[1]);
            // Through the bed only the starts of bricks go on, so that every brick has its own piece of it.
            $inBed = $middle - $course * $pitch[1] > $size[1] && $this->joint > 0.0;
            foreach (self::lines($low[0], $high[0], $inBed ? $pitch[0] : $size[0], $pitch[0], $this->shift($course, $pitch[0])) as $head) {
                $lines[] = [$drawing->point($head, $from), $drawing->point($head, $to)];
            }
        }
        foreach ($lines as [$a, $b]) {
            $drawing->between($a, $b);
        }
        $levels = array_map(
            static fn (float $level): float => $level + $jitter * $random->between(-1.0, 1.0),
            self::lines($low[2], $high[2], $size[2], $pitch[2], 0.0),
        );

        return new Plan($drawing->map, $levels, $this->groups($drawing, $levels, $low, $high, $size, $pitch));
    }

    private function shift(int $course, float $pitch): float
    {
        $of = self::SHIFTS[$this->bond];

        return ($course % $of) * $pitch / $of;
    }

    /** @return list<float> where bricks end and, with a joint, where the next begin, clear of the solid's sides */
    private static function lines(float $low, float $high, float $size, float $pitch, float $shift): array
    {
        $lines = [];
        for ($at = $low - $shift; $at < $high; $at += $pitch) {
            foreach ($pitch - $size > self::AT_SIDE ? [$at + $size, $at + $pitch] : [$at + $pitch] as $line) {
                if ($line > $low + self::AT_SIDE && $line < $high - self::AT_SIDE) {
                    $lines[] = $line;
                }
            }
        }

        return $lines;
    }

    /**
     * @param  list<float>  $levels
     * @param  list<float>  $low
     * @param  list<float>  $high
     * @param  list<float>  $size
     * @param  list<float>  $pitch
     * @return list<int>
     */
    private function groups(Drawing $drawing, array $levels, array $low, array $high, array $size, array $pitch): array
    {
        $map = $drawing->map;
        $groups = $number = [];
        $count = $map->triangleCount();
        for ($layer = 0; $layer <= count($levels); $layer++) {
            $depth = 0.5 * (($levels[$layer - 1] ?? $low[2]) + ($levels[$layer] ?? $high[2])) - $low[2];
            $row = (int) floor($depth / $pitch[2]);
            $inDepth = $depth - $row * $pitch[2] < $size[2];
            for ($t = 0; $t < $count; $t++) {
                $u = ($map->u[$map->corner[3 * $t]] + $map->u[$map->corner[3 * $t + 1]] + $map->u[$map->corner[3 * $t + 2]]) / 3.0;
                $v = ($map->v[$map->corner[3 * $t]] + $map->v[$map->corner[3 * $t + 1]] + $map->v[$map->corner[3 * $t + 2]]) / 3.0;
                $v = min(max($v, $low[1]), $high[1]) - $low[1];
                $course = (int) floor($v / $pitch[1] + 1e-9);
                $u = min(max($u, $low[0]), $high[0]) - $low[0] + $this->shift($course, $pitch[0]);
                $brick = (int) floor($u / $pitch[0] + 1e-9);
                $isBrick = $inDepth && $v - $course * $pitch[1] < $size[1] && $u - $brick * $pitch[0] < $size[0];
                if (! $isBrick && $this->filling === 'gap') {
                    $groups[] = -1;

                    continue;
                }
                $key = ((($row * 100000) + $course) * 100000 + $brick) * 2 + ($isBrick ? 0 : 1);
                $groups[] = $number[$key] ??= count($number);
            }
        }

        return $groups;
    }
}
