<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Geometry\Mesh;

/** How far the cells of a box are from a surface, in cells, and which lie inside it: what is far off is turned away by one look. */
final class SpaceGrid
{
    /** Cells along the longest side. */
    private const ALONG = 44;

    /** What lies inside, whatever its distance. */
    private const INSIDE = -1;

    private const UNKNOWN = 1 << 20;

    /**
     * @param  list<int>  $rings  by cell: cells to the nearest one with surface in it; INSIDE within
     * @param  array{int, int, int}  $count  cells along each axis
     * @param  array{float, float, float}  $low
     */
    private function __construct(private readonly array $rings, private readonly array $count, private readonly array $low, private readonly float $cell)
    {
    }

    /** @param  array{float, float, float, float, float, float}  $box  that of the mesh */
    public static function of(Mesh $mesh, array $box): self
    {
        $cell = max($box[3] - $box[0], $box[4] - $box[1], $box[5] - $box[2], 1e-9) / self::ALONG;
        // A ring of free cells all round, from which the outside is found.
        $low = [$box[0] - 1.5 * $cell, $box[1] - 1.5 * $cell, $box[2] - 1.5 * $cell];
        $count = [];
        foreach ([0, 1, 2] as $axis) {
            $count[] = (int) ceil(($box[3 + $axis] - $low[$axis]) / $cell) + 2;
        }
        [$nx, $ny, $nz] = $count;
        $rings = array_fill(0, $nx * $ny * $nz, self::UNKNOWN);
        $front = self::crossed($mesh, $rings, $ny, $nz, $low, $cell);
        $inside = self::enclosed($rings, $nx, $ny, $nz);
        self::spread($rings, $front, $ny, $nz);
        foreach ($inside as $k) {
            $rings[$k] = self::INSIDE;
        }

        return new self($rings, [$nx, $ny, $nz], $low, $cell);
    }

    /** Metres. */
    public function cell(): float
    {
        return $this->cell;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<int>, list<int>} numbers of the points outside that may be within reach, and of those in cells that lie inside or that the
     *   surface passes
     */
    public function near(array $x, array $y, array $z, float $within): array
    {
        return self::look($x, $y, $z, $this->rings, ...[...$this->count, ...$this->low, 1.0 / $this->cell, (int) ceil($within / $this->cell) + 1, $within]);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $rings
     * @param  int  $far  rings from which on nothing is within reach
     * @return array{list<int>, list<int>}
     */
    private static function look(
        array $x, array $y, array $z, array $rings, int $nx, int $ny, int $nz, float $lx, float $ly, float $lz, float $k, int $far, float $within,
    ): array {
        $out = $unsure = [];
        $mx = $nx / $k + $within;
        $my = $ny / $k + $within;
        $mz = $nz / $k + $within;
        for ($i = 0, $n = count($x); $i < $n; $i++) {
            $u = $x[$i] - $lx;
            if ($u < -$within || $u > $mx) {
                continue;
            }
            $v = $y[$i] - $ly;
            if ($v < -$within || $v > $my) {
                continue;
            }
            $w = $z[$i] - $lz;
            if ($w < -$within || $w > $mz) {
                continue;
            }
            $a = (int) ($u * $k);
            $b = (int) ($v * $k);
            $c = (int) ($w * $k);
            // Beside the grid it is outside, and the tree tells how far.
            $ring = $u < 0.0 || $v < 0.0 || $w < 0.0 || $a >= $nx || $b >= $ny || $c >= $nz ? 1 : $rings[($a * $ny + $b) * $nz + $c];
            if ($ring <= 0) {
                $unsure[] = $i;
            } elseif ($ring < $far) {
                $out[] = $i;
            }
        }

        return [$out, $unsure];
    }

    /**
     * Marks the cells that faces pass, each by its box and the distance of its plane.
     *
     * @param  list<int>  $rings
     * @param  array{float, float, float}  $low
     * @return list<int> the cells
     */
    private static function crossed(Mesh $mesh, array &$rings, int $ny, int $nz, array $low, float $cell): array
    {
        [$lx, $ly, $lz] = $low;
        $k = 1.0 / $cell;
        $front = [];
        $x = $mesh->x;
        $y = $mesh->y;
        $z = $mesh->z;
        $faces = $mesh->faces;
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $ax = ($x[$a] - $lx) * $k;
            $ay = ($y[$a] - $ly) * $k;
            $az = ($z[$a] - $lz) * $k;
            $bx = ($x[$b] - $lx) * $k;
            $by = ($y[$b] - $ly) * $k;
            $bz = ($z[$b] - $lz) * $k;
            $cx = ($x[$c] - $lx) * $k;
            $cy = ($y[$c] - $ly) * $k;
            $cz = ($z[$c] - $lz) * $k;
            $px = ($by - $ay) * ($cz - $az) - ($bz - $az) * ($cy - $ay);
            $py = ($bz - $az) * ($cx - $ax) - ($bx - $ax) * ($cz - $az);
            $pz = ($bx - $ax) * ($cy - $ay) - ($by - $ay) * ($cx - $ax);
            $slack = 0.5 * (abs($px) + abs($py) + abs($pz)) + 1e-9;
            $d = $px * ($ax - 0.5) + $py * ($ay - 0.5) + $pz * ($az - 0.5);
            $u1 = (int) max($ax, $bx, $cx);
            $v0 = (int) min($ay, $by, $cy);
            $v1 = (int) max($ay, $by, $cy);
            $w0 = (int) min($az, $bz, $cz);
            $w1 = (int) max($az, $bz, $cz);
            for ($u = (int) min($ax, $bx, $cx); $u <= $u1; $u++) {
                for ($v = $v0; $v <= $v1; $v++) {
                    for ($w = $w0; $w <= $w1; $w++) {
                        $off = $px * $u + $py * $v + $pz * $w - $d;
                        $at = ($u * $ny + $v) * $nz + $w;
                        if ($off <= $slack && $off >= -$slack && $rings[$at] !== 0) {
                            $rings[$at] = 0;
                            $front[] = $at;
                        }
                    }
                }
            }
        }

        return $front;
    }

    /**
     * Cells the outside does not reach from the corner of the grid, from face to face of cells.
     *
     * @param  list<int>  $rings
     * @return list<int>
     */
    private static function enclosed(array $rings, int $nx, int $ny, int $nz): array
    {
        $seen = array_fill(0, count($rings), false);
        $seen[0] = true;
        $ask = [0];
        while ($ask !== []) {
            $at = array_pop($ask);
            $w = $at % $nz;
            $v = intdiv($at, $nz) % $ny;
            $u = intdiv($at, $nz * $ny);
            foreach ([
                $u > 0 ? $at - $ny * $nz : -1,
                $u < $nx - 1 ? $at + $ny * $nz : -1,
                $v > 0 ? $at - $nz : -1,
                $v < $ny - 1 ? $at + $nz : -1,
                $w > 0 ? $at - 1 : -1,
                $w < $nz - 1 ? $at + 1 : -1,
            ] as $next) {
                if ($next >= 0 && ! $seen[$next] && $rings[$next] !== 0) {
                    $seen[$next] = true;
                    $ask[] = $next;
                }
            }
        }
        $out = [];
        foreach ($rings as $k => $ring) {
            if (! $seen[$k] && $ring !== 0) {
                $out[] = $k;
            }
        }

        return $out;
    }

    /**
     * Counts rings of cells from the surface outwards, over corners of cells too.
     *
     * @param  list<int>  $rings
     * @param  list<int>  $front
     */
    private static function spread(array &$rings, array $front, int $ny, int $nz): void
    {
        $total = count($rings);
        $steps = [];
        foreach ([-1, 0, 1] as $a) {
            foreach ([-1, 0, 1] as $b) {
                foreach ([-1, 0, 1] as $c) {
                    $steps[] = ($a * $ny + $b) * $nz + $c;
                }
            }
        }
        for ($ring = 1; $front !== []; $ring++) {
            $next = [];
            foreach ($front as $at) {
                // Steps over the edge of the grid come out at its other side, and so count too little, never too much.
                foreach ($steps as $step) {
                    $to = $at + $step;
                    if ($to >= 0 && $to < $total && $rings[$to] > $ring) {
                        $rings[$to] = $ring;
                        $next[] = $to;
                    }
                }
            }
            $front = $next;
        }
    }
}
