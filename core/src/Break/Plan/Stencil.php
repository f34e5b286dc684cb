<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Outline;
use YardBreak\Core\Geometry\OutlineKind;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Direction;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;

/** Outlines of a drawing, or the shapes in a picture, pushed through the prop. */
final class Stencil implements Pattern
{
    private function __construct(
        private readonly Outline $outline,
        private readonly ?Vec3 $axis,
        private readonly float $scale,
        private readonly float $across,
        private readonly float $up,
        private readonly float $turn,
        private readonly int $columns,
        private readonly int $rows,
        private readonly string $keep,
        private readonly int $seed,
    ) {
    }

    public static function label(): string
    {
        return 'Stencil';
    }

    public static function meaning(): string
    {
        return 'Outlines of a drawing or picture, pushed through';
    }

    public static function options(): array
    {
        return [
            new Option('outline', 'Outline', 'An SVG drawing, or a PNG picture whose shapes are traced.', OutlineKind::class, self::leaf(), 0, 1),
            new Option('scale', 'Size', 'Of the drawing against the prop.', Number::class, 0.8, 0.01, 20, '×'),
            new Option('across', 'Shift across', 'How far the drawing lies from the middle.', Number::class, 0.0, -1000, 1000, 'm'),
            new Option('up', 'Shift up', 'How far the drawing lies from the middle.', Number::class, 0.0, -1000, 1000, 'm'),
            new Option('turn', 'Turn', 'Of the drawing.', Number::class, 0.0, -180, 180, '°'),
            new Option('columns', 'Columns', 'The drawing beside itself.', Whole::class, 1, 1, 100),
            new Option('rows', 'Rows', 'The drawing above itself.', Whole::class, 1, 1, 100),
            new Option(
                'keep',
                'Keep',
                'What is within the outlines, what is round them, or both.',
                Choice::class,
                'both',
                choices: ['both', 'inside', 'outside'],
            ),
            new Option('axis', 'Through', 'Direction it is pushed; through the thinnest way without one.', Direction::class, null, -1, 1),
            new Option('seed', 'Seed', 'Only the finest rounding differs.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        $outline = Outline::of($values['outline'])->closed();
        if ($outline->lines === []) {
            throw Problem::inValue('outline', 'The drawing has no closed line, so nothing can be cut out.', 'Close its paths, or use Score for open lines.');
        }
        if (count($outline->lines) * $values['columns'] * $values['rows'] > Cells::MOST) {
            throw Problem::outOfRange(
                'columns',
                'The number of outlines',
                count($outline->lines) * $values['columns'] * $values['rows'],
                'at most '.Cells::MOST,
            );
        }

        return new self(
            $outline,
            Vec3::orNull($values['axis']),
            $values['scale'],
            $values['across'],
            $values['up'],
            deg2rad($values['turn']),
            $values['columns'],
            $values['rows'],
            $values['keep'],
            $values['seed'],
        );
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        $frame = new UnitFrame($solid);
        $basis = Basis::along($this->axis ?? Basis::thinnest($frame->half));
        [$halfU, $halfV] = $basis->halves($frame->half);
        [$lowU, $lowV, $highU, $highV] = $this->outline->box();
        $size = $this->scale * ($this->outline->inMetres ? 1.0 / $frame->scale : 2.0 * max($halfU, $halfV));
        $wide = $size * max(1e-9, $highU - $lowU) * 1.02;
        $high = $size * max(1e-9, $highV - $lowV) * 1.02;
        $copies = [];
        for ($j = 0; $j < $this->rows; $j++) {
            for ($i = 0; $i < $this->columns; $i++) {
                $u = ($i - 0.5 * ($this->columns - 1)) * $wide;
                $v = ($j - 0.5 * ($this->rows - 1)) * $high;
                $copies[] = $this->outline->placed($size, $this->turn, $u + $this->across / $frame->scale, $v + $this->up / $frame->scale);
            }
        }
        $shards = PlanCut::shards($frame, $basis, function (float $jitter) use ($copies): Plan {
            $drawing = new Drawing(new SeededRandom($this->seed), $jitter);
            foreach ($copies as $copy) {
                foreach ($copy->lines as $line) {
                    $drawing->line($line->points, true);
                }
            }
            if ($this->keep === 'both') {
                return new Plan($drawing->map);
            }
            $groups = array_map(
                fn (int $region, bool $in): int => $in === ($this->keep === 'inside') ? $region : -1,
                $drawing->map->regions(),
                $drawing->map->within(),
            );

            return new Plan($drawing->map, [], $groups);
        }, $progress);
        if ($shards === [] || ($this->keep === 'both' && count($shards) < 2)) {
            throw Problem::offTheProp(
                'outline',
                'The drawing does not meet the prop.',
                'Move it onto the prop, or make it larger.',
                $frame->centre->plus($basis->u->times($this->across))->plus($basis->v->times($this->up))->toArray(),
            );
        }

        return $shards;
    }

    /** @return array{unit: string, lines: list<array{points: list<array{float, float}>, closed: bool}>} a leaf with its midrib */
    private static function leaf(): array
    {
        $left = $right = [];
        for ($k = 0; $k <= 16; $k++) {
            $t = $k / 16;
            $w = 0.02 + 0.3 * sin(M_PI * $t ** 0.8) * (1.0 - 0.25 * $t);
            $v = $t - 0.5;
            $right[] = [round(0.012 + ($k % 2 === 0 ? 0.82 : 1.0) * $w, 6), round($v, 6)];
            $left[] = [round(-0.012 - ($k % 2 === 0 ? 0.82 : 1.0) * $w, 6), round($v, 6)];
        }

        return ['unit' => 'box', 'lines' => [
            ['points' => [[0.012, -0.5], ...$right, [0.012, 0.5]], 'closed' => true],
            ['points' => [[-0.012, 0.5], ...array_reverse($left), [-0.012, -0.5]], 'closed' => true],
        ]];
    }
}
