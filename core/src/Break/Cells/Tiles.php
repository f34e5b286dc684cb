<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;

/** Rows, columns and layers: the cells of seeds on a grid, which are boxes until the seeds are shaken. */
final class Tiles implements Pattern
{
    /** @param  array{int, int, int}  $grid  tiles along x, y and z */
    private function __construct(private readonly array $grid, private readonly float $jitter, private readonly int $seed)
    {
    }

    public static function options(): array
    {
        return [
            new Option('grid', 'Tiles', 'How many along x, y and z.', 'point', [4.0, 4.0, 1.0], 1, 1000),
            new Option('jitter', 'Unevenness', 'From straight tiles (0) to crooked ones (1).', 'number', 0.0, 0, 1),
            new Option('seed', 'Seed', 'Another number gives another break of the same kind.', 'whole', 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        $grid = [];
        foreach ($values['grid'] as $n) {
            if ($n < 1 || $n !== floor($n)) {
                throw Problem::inValue('grid', 'The numbers of tiles must be whole and at least 1.');
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
        $random = new SeededRandom($this->seed);
        $half = $frame->half->toArray();
        $step = array_map(static fn (float $h, int $n): float => 2.0 * $h / $n, $half, $this->grid);
        $seeds = [];
        for ($k = 0; $k < $this->grid[2]; $k++) {
            for ($j = 0; $j < $this->grid[1]; $j++) {
                for ($i = 0; $i < $this->grid[0]; $i++) {
                    $p = [];
                    foreach ([$i, $j, $k] as $axis => $at) {
                        $p[] = -$half[$axis] + ($at + 0.5 + 0.5 * $this->jitter * $random->between(-1.0, 1.0)) * $step[$axis];
                    }
                    $seeds[] = $p;
                }
            }
        }

        return Diagram::shards($frame, $seeds, $random, $progress);
    }
}
