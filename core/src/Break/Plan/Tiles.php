<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Sizes;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;

/** Equal parts in rows and columns, and layers where wanted, straight or a little crooked. */
final class Tiles implements Pattern
{
    /** Share of a tile that its corners are shifted by at most, so that tiles stay convex. */
    private const MOST_SHIFT = 0.24;

    /** @param  array{int, int, int}  $grid  along x, y and z */
    private function __construct(private readonly array $grid, private readonly float $jitter, private readonly int $seed)
    {
    }

    public static function label(): string
    {
        return 'Tiles';
    }

    public static function meaning(): string
    {
        return 'Rows and columns of equal parts';
    }

    public static function options(): array
    {
        return [
            new Option('grid', 'Tiles', 'How many along x, y and z.', Sizes::class, [4.0, 4.0, 1.0], 1, 1000),
            new Option('jitter', 'Unevenness', 'From straight tiles (0) to crooked ones (1).', Number::class, 0.0, 0, 1),
            new Option('seed', 'Seed', 'Another number gives another break of the same kind.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        $grid = [];
        foreach ($values['grid'] as $n) {
            if ($n !== floor($n)) {
                throw Problem::inValue('grid', 'The numbers of tiles must be whole.', 'Enter whole numbers.');
            }
            $grid[] = (int) $n;
        }
        [$a, $b, $c] = $grid;
        if ($a * $b * $c > Cells::MOST) {
            throw Problem::outOfRange('grid', 'The number of tiles', $a * $b * $c, 'at most '.Cells::MOST);
        }

        return new self([$a, $b, $c], $values['jitter'], $values['seed']);
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        $frame = new UnitFrame($solid);
        // Layers lie along the way with the fewest of them; the other two ways make the plan.
        [$nx, $ny, $nz] = $this->grid;
        $axis = $nz <= min($nx, $ny) ? new Vec3(0, 0, 1) : ($ny <= $nx ? new Vec3(0, 1, 0) : new Vec3(1, 0, 0));
        $basis = Basis::along($axis);
        [$columns, $rows, $layers] = array_map(static fn (float $n): int => (int) round(abs($n)), $basis->of(new Vec3($nx, $ny, $nz)));
        [$halfU, $halfV, $halfW] = array_map(abs(...), $basis->of($frame->half));
        $levels = [];
        for ($k = 1; $k < $layers; $k++) {
            $levels[] = -$halfW + 2.0 * $halfW * $k / $layers;
        }

        return PlanCut::shards($frame, $basis, function (float $jitter) use ($columns, $rows, $halfU, $halfV, $levels): Plan {
            $random = new SeededRandom($this->seed);
            $drawing = new Drawing($random, $jitter);
            $points = [];
            for ($j = 0; $j <= $rows; $j++) {
                for ($i = 0; $i <= $columns; $i++) {
                    // The outermost lines stand clear of the solid.
                    $u = $i === 0
                        ? -1.1 * $halfU - 0.01
                        : ($i === $columns ? 1.1 * $halfU + 0.01 : -$halfU + 2.0 * $halfU * ($i + $this->shift($random)) / $columns);
                    $v = $j === 0 ? -1.1 * $halfV - 0.01 : ($j === $rows ? 1.1 * $halfV + 0.01 : -$halfV + 2.0 * $halfV * ($j + $this->shift($random)) / $rows);
                    $points[$j][$i] = $drawing->point($u, $v);
                }
            }
            for ($j = 0; $j <= $rows; $j++) {
                for ($i = 0; $i <= $columns; $i++) {
                    $drawing->between($points[$j][$i], $points[$j][$i + 1] ?? null);
                    $drawing->between($points[$j][$i], $points[$j + 1][$i] ?? null);
                }
            }

            return new Plan($drawing->map, array_map(static fn (float $level): float => $level + $jitter * $random->between(-1.0, 1.0), $levels));
        }, $progress);
    }

    private function shift(SeededRandom $random): float
    {
        return self::MOST_SHIFT * $this->jitter * $random->between(-1.0, 1.0);
    }
}
