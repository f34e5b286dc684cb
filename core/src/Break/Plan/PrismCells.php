<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Break\Cut\CellComplex;
use YardBreak\Core\Geometry\ConstrainedTriangulation;

/**
 * The triangles of a plan, pulled up into endless prisms along z and cut across at levels. Cells are numbered layer
 * by layer from below; lines are the plan's points pulled up, and its edges at each level.
 */
final class PrismCells implements CellComplex
{
    private readonly int $triangles;

    private readonly int $layers;

    /** @var list<int> */
    private array $start = [0];

    /** @var list<int> */
    private array $run = [];

    /** @var list<float> */
    private array $planes = [];

    /** @var list<int> number of the edge from each corner to the next */
    private array $edge = [];

    /** @var list<int> by edge: the slot of the triangle that has its lower point first */
    private array $slot = [];

    /** Walls get points on their upright sides no farther apart than this many times their width, or their triangles were splinters. */
    private const TALL = 6.0;

    /** Most parts of one upright line. */
    private const PARTS = 48;

    /**
     * @param  list<float>  $levels  rising
     * @param  (\Closure(float, float, float, float): array{float, float})|null  $bend  how far a point within the solid is moved along the plan, from
     *   where it is and the room it has
     */
    public function __construct(private readonly ConstrainedTriangulation $map, private readonly array $levels, private readonly ?\Closure $bend = null)
    {
        $this->triangles = $map->triangleCount();
        $this->layers = count($levels) + 1;
        $this->numberEdges();
        $this->placeWalls();
    }

    public function neighbours(): array
    {
        return [$this->start, $this->run];
    }

    public function planes(): array
    {
        return $this->planes;
    }

    public function owners(array $px, array $py, array $pz): array
    {
        $owner = [];
        foreach ($px as $i => $u) {
            $owner[] = $this->layerOf($pz[$i]) * $this->triangles + $this->map->holding($u, $py[$i]);
        }

        return $owner;
    }

    public function lineOf(int $cell, int $one, int $other): int
    {
        $t = $cell % $this->triangles;
        $layer = intdiv($cell, $this->triangles);
        $a = $one % $this->triangles;
        $b = $other % $this->triangles;
        if ($a !== $t && $b !== $t) {
            $k = $this->edgeTo($t, $a);
            $m = $this->edgeTo($t, $b);
            $corner = ($k + 1) % 3 === $m ? $m : $k;

            return $this->upright($this->map->corner[3 * $t + $corner], $layer);
        }
        if ($a === $t && $b === $t) {
            throw new \UnexpectedValueException('levels do not meet');
        }
        [$beside, $over] = $a === $t ? [$b, $one] : [$a, $other];

        return $this->level($this->edge[3 * $t + $this->edgeTo($t, $beside)], $over > $cell ? $layer : $layer - 1);
    }

    public function addInnerLines(array &$walls, array $crossings, array &$px, array &$py, array &$pz): void
    {
        $found = 0;
        $nodes = [];
        foreach ($this->fans() as $point => $slots) {
            $inside = false;
            for ($layer = 0; $layer < $this->layers; $layer++) {
                $met = self::sorted($crossings[$this->upright($point, $layer)] ?? [], $pz);
                $found += count($met);
                $stops = $inside ? [$nodes[$point][$layer - 1], ...$met] : $met;
                $inside = $inside !== (count($met) % 2 === 1);
                if ($inside) {
                    if ($layer === $this->layers - 1) {
                        throw new \UnexpectedValueException('inside without end');
                    }
                    $nodes[$point][$layer] = $stops[] = count($px);
                    $px[] = $this->map->u[$point];
                    $py[] = $this->map->v[$point];
                    $pz[] = $this->levels[$layer];
                }
                for ($s = 0; $s + 1 < count($stops); $s += 2) {
                    $chain = $this->divided($point, $slots, $stops[$s], $stops[$s + 1], $px, $py, $pz);
                    for ($k = 1; $k < count($chain); $k++) {
                        foreach ($slots as $slot) {
                            $this->addUpright($walls, $slot, $point, $layer, $chain[$k - 1], $chain[$k]);
                        }
                    }
                }
            }
        }
        foreach ($this->levels as $level => $_) {
            foreach ($this->slot as $edge => $slot) {
                $a = $this->map->corner[$slot];
                $b = $this->map->corner[self::next($slot)];
                $along = [];
                $du = $this->map->u[$b] - $this->map->u[$a];
                $dv = $this->map->v[$b] - $this->map->v[$a];
                foreach ($crossings[$this->level($edge, $level)] ?? [] as $p) {
                    $along[$p] = $du * $px[$p] + $dv * $py[$p];
                }
                asort($along);
                $stops = array_keys($along);
                $found += count($stops);
                if (isset($nodes[$a][$level])) {
                    array_unshift($stops, $nodes[$a][$level]);
                }
                if (isset($nodes[$b][$level])) {
                    $stops[] = $nodes[$b][$level];
                }
                if (count($stops) % 2 === 1) {
                    throw new \UnexpectedValueException('inside and outside disagree');
                }
                for ($s = 0; $s + 1 < count($stops); $s += 2) {
                    $this->addLevel($walls, $slot, $level, $stops[$s], $stops[$s + 1]);
                }
            }
        }
        $expected = 0;
        foreach ($crossings as $met) {
            $expected += count($met);
        }
        if ($found !== $expected) {
            throw new \UnexpectedValueException('a crossing lies on no line');
        }
    }

    private function numberEdges(): void
    {
        $map = $this->map;
        $this->edge = array_fill(0, 3 * $this->triangles, -1);
        for ($slot = 0; $slot < 3 * $this->triangles; $slot++) {
            $o = $map->across[$slot];
            $t = intdiv($slot, 3);
            if ($o < 0) {
                continue;
            }
            $m = 3 * $o + $this->edgeTo($o, $t);
            if ($this->edge[$m] >= 0) {
                $this->edge[$slot] = $this->edge[$m];

                continue;
            }
            $this->edge[$slot] = count($this->slot);
            $this->slot[] = $map->corner[$slot] < $map->corner[self::next($slot)] ? $slot : $m;
        }
    }

    private function placeWalls(): void
    {
        $map = $this->map;
        for ($layer = 0; $layer < $this->layers; $layer++) {
            for ($t = 0; $t < $this->triangles; $t++) {
                for ($slot = 3 * $t; $slot < 3 * $t + 3; $slot++) {
                    $o = $map->across[$slot];
                    if ($o < 0) {
                        continue;
                    }
                    // Worked out the same way from both sides, so that the two planes are each other's negative.
                    $own = $this->slot[$this->edge[$slot]];
                    $a = $map->corner[$own];
                    $b = $map->corner[self::next($own)];
                    $k = ($own === $slot ? 1.0 : -1.0) / hypot($map->u[$b] - $map->u[$a], $map->v[$b] - $map->v[$a]);
                    $x = $map->v[$a] - $map->v[$b];
                    $y = $map->u[$b] - $map->u[$a];
                    $this->run[] = $layer * $this->triangles + $o;
                    array_push($this->planes, $k * $x, $k * $y, 0.0, -$k * ($x * $map->u[$a] + $y * $map->v[$a]));
                }
                if ($layer > 0) {
                    $this->run[] = ($layer - 1) * $this->triangles + $t;
                    array_push($this->planes, 0.0, 0.0, 1.0, -$this->levels[$layer - 1]);
                }
                if ($layer < $this->layers - 1) {
                    $this->run[] = ($layer + 1) * $this->triangles + $t;
                    array_push($this->planes, 0.0, 0.0, -1.0, $this->levels[$layer]);
                }
                $this->start[] = count($this->run);
            }
        }
    }

    private function layerOf(float $height): int
    {
        $low = 0;
        $high = count($this->levels);
        while ($low < $high) {
            $mid = ($low + $high) >> 1;
            if ($this->levels[$mid] < $height) {
                $low = $mid + 1;
            } else {
                $high = $mid;
            }
        }

        return $low;
    }

    private function upright(int $point, int $layer): int
    {
        return $point * $this->layers + $layer;
    }

    private function level(int $edge, int $level): int
    {
        return count($this->map->u) * $this->layers + $edge * $this->layers + $level;
    }

    private function edgeTo(int $t, int $o): int
    {
        for ($k = 0; $k < 3; $k++) {
            if ($this->map->across[3 * $t + $k] === $o) {
                return $k;
            }
        }
        throw new \UnexpectedValueException('cells do not meet');
    }

    private static function next(int $slot): int
    {
        return $slot % 3 === 2 ? $slot - 2 : $slot + 1;
    }

    /** @return array<int, list<int>> by point the slots of the edges it is an end of, each edge once */
    private function fans(): array
    {
        $fans = [];
        foreach ($this->slot as $slot) {
            $fans[$this->map->corner[$slot]][] = $slot;
            $fans[$this->map->corner[self::next($slot)]][] = $slot;
        }

        return $fans;
    }

    /**
     * An upright line within the solid, with points put in where walls stand on it.
     *
     * @param  list<int>  $slots  edges of the plan at its foot
     * @param  list<float>  $px
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @return list<int> points from low to high
     */
    private function divided(int $point, array $slots, int $low, int $high, array &$px, array &$py, array &$pz): array
    {
        $u = $this->map->u[$point];
        $v = $this->map->v[$point];
        $width = INF;
        foreach ($slots as $slot) {
            if ($this->map->fixed[$slot]) {
                $a = $this->map->corner[$slot];
                $other = $a === $point ? $this->map->corner[self::next($slot)] : $a;
                $width = min($width, hypot($this->map->u[$other] - $u, $this->map->v[$other] - $v));
            }
        }
        $height = $pz[$high] - $pz[$low];
        $parts = $width < INF ? min(self::PARTS, (int) ceil($height / max(1e-9, self::TALL * $width))) : 1;
        $chain = [$low];
        for ($k = 1; $k < $parts; $k++) {
            $w = $pz[$low] + $height * $k / $parts;
            [$du, $dv] = $this->bend === null ? [0.0, 0.0] : ($this->bend)($u, $v, $w, $height * min($k, $parts - $k) / $parts);
            $chain[] = count($px);
            $px[] = $u + $du;
            $py[] = $v + $dv;
            $pz[] = $w;
        }
        $chain[] = $high;

        return $chain;
    }

    /**
     * @param  list<int>  $points
     * @param  list<float>  $by
     * @return list<int>
     */
    private static function sorted(array $points, array $by): array
    {
        if (count($points) > 1) {
            usort($points, static fn (int $a, int $b): int => $by[$a] <=> $by[$b]);
        }

        return $points;
    }

    /** @param  array<int, array<int, int>>  $walls */
    private function addUpright(array &$walls, int $slot, int $point, int $layer, int $low, int $high): void
    {
        $t = intdiv($slot, 3);
        $o = $this->map->across[$slot];
        // Seen from outside the lower cell, its own first point lies to the left, and the left side goes down.
        $own = $t < $o ? $slot : 3 * $o + $this->edgeTo($o, $t);
        $down = $this->map->corner[$own] === $point;
        $base = $layer * $this->triangles;
        self::add($walls, $this->pair($base + min($t, $o), $base + max($t, $o)), $down ? $high : $low, $down ? $low : $high);
    }

    /** @param  array<int, array<int, int>>  $walls  the part of an edge at a level, along its slot */
    private function addLevel(array &$walls, int $slot, int $level, int $from, int $to): void
    {
        $t = intdiv($slot, 3);
        $o = $this->map->across[$slot];
        $below = $level * $this->triangles;
        $above = $below + $this->triangles;
        // The foot of the wall above runs from left to right, the head of the wall below from right to left.
        [$left, $right] = $t < $o ? [$from, $to] : [$to, $from];
        self::add($walls, $this->pair($above + min($t, $o), $above + max($t, $o)), $left, $right);
        self::add($walls, $this->pair($below + min($t, $o), $below + max($t, $o)), $right, $left);
        self::add($walls, $this->pair($below + $t, $above + $t), $from, $to);
        self::add($walls, $this->pair($below + $o, $above + $o), $to, $from);
    }

    private function pair(int $one, int $other): int
    {
        return $one * $this->triangles * $this->layers + $other;
    }

    /** @param  array<int, array<int, int>>  $walls */
    private static function add(array &$walls, int $pair, int $from, int $to): void
    {
        if (isset($walls[$pair][$from])) {
            throw new \UnexpectedValueException('wall branches');
        }
        $walls[$pair][$from] = $to;
    }
}
