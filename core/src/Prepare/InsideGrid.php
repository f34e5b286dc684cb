<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Cell;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\WindingNumber;

/**
 * What is inside a surface, known at the corners of those cells of a grid only that the skin of the inside passes: the
 * cells the surface itself passes, and from there on wherever inside and outside meet.
 *
 * Corners and cells are numbered by their three places, none below 0, as `Cell` does; a cell by its low corner.
 */
final class InsideGrid
{
    private const MARGIN = 2;

    private const MEND_ROUNDS = 24;

    /**
     * Corners of a cell are numbered by bits: 1 up the first axis, 2 the second, 4 the third. Low and high corner of its edges, those along an axis together.
     */
    public const EDGES = [[0, 1], [2, 3], [4, 5], [6, 7], [0, 2], [1, 3], [4, 6], [5, 7], [0, 4], [1, 5], [2, 6], [3, 7]];

    /** Corners round each side of a cell, low and high along each axis by turns. */
    private const SIDES = [[0, 2, 6, 4], [1, 3, 7, 5], [0, 1, 5, 4], [2, 3, 7, 6], [0, 1, 3, 2], [4, 5, 7, 6]];

    /** @var array{float, float, float} */
    public readonly array $low;

    /** @var array<int, list<int>> first corners of faces by the cells they pass */
    public readonly array $faces;

    /** @var array<int, float> by corner, above none inside */
    public array $value = [];

    /** @var array<int, int> by cell the skin passes: which of its corners are inside, a bit each */
    public array $skin = [];

    /** Places along each axis; beyond the last all is outside. */
    private readonly int $most;

    /** @var array<int, true> */
    private array $seen = [];

    /**
     * @param  float  $cell  metres a cell
     */
    public function __construct(Mesh $mesh, private readonly WindingNumber $winding, public readonly float $cell)
    {
        $box = Aabb::around($mesh);
        $size = $box->size();
        // Not by whole cells from the box: flat sides would lie in the grid's own planes.
        $off = (self::MARGIN + 0.37) * $cell;
        $this->low = [$box->low->x - $off, $box->low->y - $off, $box->low->z - $off];
        $this->most = (int) ceil(max($size->x, $size->y, $size->z) / $cell) + 2 * self::MARGIN + 1;
        $this->faces = $this->passed($mesh);
        $queue = array_keys($this->faces);
        $this->fill($queue);
        $this->follow($queue);
        $this->part();
    }

    /** @return array{int, int, int} */
    public static function places(int $key): array
    {
        $rest = $key % Cell::X;

        return [intdiv($key, Cell::X), intdiv($rest, Cell::Y), $rest % Cell::Y];
    }

    /** @return array<int, list<int>> */
    private function passed(Mesh $mesh): array
    {
        [$lx, $ly, $lz] = $this->low;
        $k = 1.0 / $this->cell;
        $cells = [];
        $faces = $mesh->faces;
        for ($f = 0, $n = count($faces); $f < $n; $f += 3) {
            $p = [];
            for ($c = $f; $c < $f + 3; $c++) {
                $v = $faces[$c];
                $p[] = [($mesh->x[$v] - $lx) * $k, ($mesh->y[$v] - $ly) * $k, ($mesh->z[$v] - $lz) * $k];
            }
            [$a, $b, $c] = $p;
            $normal = [
                ($b[1] - $a[1]) * ($c[2] - $a[2]) - ($b[2] - $a[2]) * ($c[1] - $a[1]),
                ($b[2] - $a[2]) * ($c[0] - $a[0]) - ($b[0] - $a[0]) * ($c[2] - $a[2]),
                ($b[0] - $a[0]) * ($c[1] - $a[1]) - ($b[1] - $a[1]) * ($c[0] - $a[0]),
            ];
            $w = abs($normal[0]) > abs($normal[1]) ? (abs($normal[0]) > abs($normal[2]) ? 0 : 2) : (abs($normal[1]) > abs($normal[2]) ? 1 : 2);
            if ($normal[$w] === 0.0) {
                continue;
            }
            $u = ($w + 1) % 3;
            $v = ($w + 2) % 3;
            $turn = $normal[$w] > 0.0 ? 1.0 : -1.0;
            // Sides of the face seen along its steepest axis: a·u + b·v + d is not below none within.
            $sides = [];
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$s, $t]) {
                $m = -$turn * ($t[$v] - $s[$v]);
                $o = $turn * ($t[$u] - $s[$u]);
                $sides[] = [$m, $o, -$m * $s[$u] - $o * $s[$v] + 0.5 * (abs($m) + abs($o)) + 1e-9];
            }
            $slopeU = -$normal[$u] / $normal[$w];
            $slopeV = -$normal[$v] / $normal[$w];
            $half = 0.5 * (abs($slopeU) + abs($slopeV)) + 1e-9;
            $w0 = (int) floor(min($a[$w], $b[$w], $c[$w]) - 1e-9);
            $w1 = (int) floor(max($a[$w], $b[$w], $c[$w]) + 1e-9);
            $v0 = (int) floor(min($a[$v], $b[$v], $c[$v]) - 1e-9);
            $v1 = (int) floor(max($a[$v], $b[$v], $c[$v]) + 1e-9);
            $at = [0, 0, 0];
            for ($i = (int) floor(min($a[$u], $b[$u], $c[$u]) - 1e-9), $i1 = (int) floor(max($a[$u], $b[$u], $c[$u]) + 1e-9); $i <= $i1; $i++) {
                for ($j = $v0; $j <= $v1; $j++) {
                    foreach ($sides as [$m, $o, $d]) {
                        if ($m * ($i + 0.5) + $o * ($j + 0.5) + $d < 0.0) {
                            continue 2;
                        }
                    }
                    $level = $a[$w] + $slopeU * ($i + 0.5 - $a[$u]) + $slopeV * ($j + 0.5 - $a[$v]);
                    $from = (int) floor($level - $half);
                    $to = (int) floor($level + $half);
                    $at[$u] = $i;
                    $at[$v] = $j;
                    for ($l = $from < $w0 ? $w0 : $from, $to = $to > $w1 ? $w1 : $to; $l <= $to; $l++) {
                        $at[$w] = $l;
                        $cells[$at[0] * Cell::X + $at[1] * Cell::Y + $at[2]][] = $f;
                    }
                }
            }
        }

        return $cells;
    }

    /** @param  list<int>  $cells */
    private function fill(array $cells): void
    {
        $corners = [];
        foreach ($cells as $cell) {
            for ($c = 0; $c < 8; $c++) {
                $corners[self::corner($cell, $c)] = true;
            }
        }
        $this->evaluate(array_keys($corners));
    }

    public static function corner(int $cell, int $c): int
    {
        return $cell + ($c & 1) * Cell::X + ($c >> 1 & 1) * Cell::Y + ($c >> 2);
    }

    /** @param  list<int>  $corners */
    private function evaluate(array $corners): void
    {
        [$lx, $ly, $lz] = $this->low;
        $x = $y = $z = [];
        foreach ($corners as $corner) {
            [$i, $j, $k] = self::places($corner);
            $x[] = $lx + $i * $this->cell;
            $y[] = $ly + $j * $this->cell;
            $z[] = $lz + $k * $this->cell;
        }
        $values = $this->winding->at($x, $y, $z);
        foreach ($corners as $n => $corner) {
            [$i, $j, $k] = self::places($corner);
            $border = $i <= 0 || $j <= 0 || $k <= 0 || $i >= $this->most || $j >= $this->most || $k >= $this->most;
            $this->value[$corner] = $border ? -0.5 : $values[$n] - 0.5;
        }
    }

    /**
     * From cells to those beside them where inside and outside meet on the side between.
     *
     * @param  list<int>  $queue
     */
    private function follow(array $queue): void
    {
        for ($h = 0; $h < count($queue); $h++) {
            $cell = $queue[$h];
            if (isset($this->seen[$cell])) {
                continue;
            }
            $this->seen[$cell] = true;
            $missing = [];
            for ($c = 0; $c < 8; $c++) {
                $corner = self::corner($cell, $c);
                if (! isset($this->value[$corner])) {
                    $missing[] = $corner;
                }
            }
            if ($missing !== []) {
                $this->evaluate($missing);
            }
            $mask = 0;
            for ($c = 0; $c < 8; $c++) {
                if ($this->value[self::corner($cell, $c)] > 0.0) {
                    $mask |= 1 << $c;
                }
            }
            unset($this->skin[$cell]);
            if ($mask === 0 || $mask === 255) {
                continue;
            }
            $this->skin[$cell] = $mask;
            foreach (self::SIDES as $side => [$a, $b, $c, $d]) {
                $inside = ($mask >> $a & 1) + ($mask >> $b & 1) + ($mask >> $c & 1) + ($mask >> $d & 1);
                if ($inside > 0 && $inside < 4) {
                    $step = Cell::AXES[$side >> 1];
                    $queue[] = $cell + ($side & 1 ? $step : -$step);
                }
            }
        }
    }

    /**
     * Where four strips of the skin would meet in one edge, a corner more is taken inside.
     */
    private function part(): void
    {
        for ($round = 0; $round < self::MEND_ROUNDS; $round++) {
            $again = [];
            foreach ($this->skin as $cell => $mask) {
                $own = self::patches($mask);
                foreach (Cell::AXES as $axis => $step) {
                    $side = 2 * $axis + 1;
                    [$a, $b, $c, $d] = self::SIDES[$side];
                    $in = [$mask >> $a & 1, $mask >> $b & 1, $mask >> $c & 1, $mask >> $d & 1];
                    if ($in[0] !== $in[2] || $in[1] !== $in[3] || $in[0] === $in[1]) {
                        continue;
                    }
                    // Two inside corners across: the skin passes this side twice.
                    [$one, $other] = $in[0] ? [[$a, $b], [$c, $d]] : [[$b, $c], [$d, $a]];
                    $next = $cell + $step;
                    $bit = 1 << $axis;
                    $theirs = self::patches($this->skin[$next] ?? 0);
                    if ($own[self::edge(...$one)] === $own[self::edge(...$other)]
                        && $theirs[self::edge($one[0] ^ $bit, $one[1] ^ $bit)] === $theirs[self::edge($other[0] ^ $bit, $other[1] ^ $bit)]) {
                        $corner = self::corner($cell, $in[0] ? $b : $a);
                        if ($this->value[$corner] <= 0.0) {
                            $this->value[$corner] = 1e-6;
                            for ($c8 = 0; $c8 < 8; $c8++) {
                                $again[] = $corner - self::corner(0, $c8);
                            }
                        }
                    }
                }
            }
            if ($again === []) {
                return;
            }
            foreach ($again as $cell) {
                unset($this->seen[$cell]);
            }
            $this->follow($again);
        }
    }

    /** The number of the edge between two corners of a cell. */
    private static function edge(int $a, int $b): int
    {
        static $numbers = null;
        if ($numbers === null) {
            foreach (self::EDGES as $e => [$p, $q]) {
                $numbers[$p << 3 | $q] = $numbers[$q << 3 | $p] = $e;
            }
        }

        return $numbers[$a << 3 | $b];
    }

    /**
     * How the skin passes a cell: edges it crosses belong to one patch where a strip of it links them on a side; on a side
     * with two inside corners across, each of them has a strip of its own (Nielson 2004, "Dual marching cubes").
     *
     * @return list<int> the patch of each edge, −1 where the skin does not cross it
     */
    public static function patches(int $mask): array
    {
        static $known = [];
        if (isset($known[$mask])) {
            return $known[$mask];
        }
        $of = [];
        foreach (self::EDGES as $e => [$a, $b]) {
            $of[] = ($mask >> $a & 1) !== ($mask >> $b & 1) ? $e : -1;
        }
        $join = static function (int $d, int $e) use (&$of): void {
            [$d, $e] = [$of[$d], $of[$e]];
            foreach ($of as $k => $v) {
                $of[$k] = $v === max($d, $e) ? min($d, $e) : $v;
            }
        };
        foreach (self::SIDES as $corners) {
            $edges = [];
            foreach ($corners as $k => $c) {
                $edges[] = self::edge($c, $corners[($k + 1) % 4]);
            }
            $crossed = array_values(array_filter($edges, static fn (int $e): bool => $of[$e] >= 0));
            if (count($crossed) === 2) {
                $join($crossed[0], $crossed[1]);
            } elseif (count($crossed) === 4) {
                foreach ($corners as $k => $c) {
                    if ($mask >> $c & 1) {
                        $join($edges[($k + 3) % 4], $edges[$k]);
                    }
                }
            }
        }

        return $known[$mask] = $of;
    }
}
