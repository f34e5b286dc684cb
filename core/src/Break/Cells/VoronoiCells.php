<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Break\Cut\CellComplex;
use YardBreak\Core\Geometry\Delaunay;

/** The Voronoi cells of seeds, known by their Delaunay graph: lines are triples of seeds, nodes are quadruples. */
final class VoronoiCells implements CellComplex
{
    private readonly Delaunay $delaunay;

    private readonly int $count;

    /** @var list<int> */
    private array $run;

    /** @var list<int> */
    private array $start;

    /** @var list<float> */
    private array $planes;

    /**
     * @param  list<float>  $sx  seeds
     * @param  list<float>  $sy
     * @param  list<float>  $sz
     *
     * @throws \UnexpectedValueException where seeds stand too regularly: jitter them and try again
     */
    public function __construct(private readonly array $sx, private readonly array $sy, private readonly array $sz)
    {
        $this->delaunay = new Delaunay($sx, $sy, $sz);
        [$this->start, $this->run] = $this->delaunay->neighbours();
        $this->count = count($sx);
        $this->planes = $this->bisectors();
    }

    public function neighbours(): array
    {
        return [$this->start, $this->run];
    }

    public function planes(): array
    {
        return $this->planes;
    }

    public function lineOf(int $cell, int $one, int $other): int
    {
        // Three seeds in rising order name the line.
        if ($cell > $one) {
            [$cell, $one] = [$one, $cell];
        }
        if ($one > $other) {
            [$one, $other] = [$other, $one];
        }
        if ($cell > $one) {
            [$cell, $one] = [$one, $cell];
        }

        return ($cell * $this->count + $one) * $this->count + $other;
    }

    /**
     * The plane between a seed and each neighbour, as four numbers; positive on the seed's side.
     *
     * @return list<float>
     */
    private function bisectors(): array
    {
        $planes = [];
        $sx = $this->sx;
        $sy = $this->sy;
        $sz = $this->sz;
        $start = $this->start;
        $run = $this->run;
        for ($i = 0, $n = count($sx); $i < $n; $i++) {
            $ii = $sx[$i] * $sx[$i] + $sy[$i] * $sy[$i] + $sz[$i] * $sz[$i];
            for ($k = $start[$i], $end = $start[$i + 1]; $k < $end; $k++) {
                $m = $run[$k];
                $planes[] = 2.0 * ($sx[$i] - $sx[$m]);
                $planes[] = 2.0 * ($sy[$i] - $sy[$m]);
                $planes[] = 2.0 * ($sz[$i] - $sz[$m]);
                $planes[] = $sx[$m] * $sx[$m] + $sy[$m] * $sy[$m] + $sz[$m] * $sz[$m] - $ii;
            }
        }

        return $planes;
    }

    /** By a descent over the Delaunay graph. */
    public function owners(array $px, array $py, array $pz): array
    {
        $planes = $this->planes;
        $start = $this->start;
        $run = $this->run;
        $owner = [];
        $at = 0;
        for ($v = 0, $n = count($px); $v < $n; $v++) {
            $x = $px[$v];
            $y = $py[$v];
            $z = $pz[$v];
            do {
                $best = 0.0;
                $to = -1;
                for ($k = $start[$at], $end = $start[$at + 1]; $k < $end; $k++) {
                    $s = $planes[4 * $k] * $x + $planes[4 * $k + 1] * $y + $planes[4 * $k + 2] * $z + $planes[4 * $k + 3];
                    if ($s < $best) {
                        $best = $s;
                        $to = $run[$k];
                    }
                }
                if ($to >= 0) {
                    $at = $to;
                }
            } while ($to >= 0);
            $owner[] = $at;
        }

        return $owner;
    }

    /**
     * Adds to the walls the parts of Voronoi edges that run inside the solid. Which they are follows from the
     * surface crossings alone: the ghosts' side is outside, and each crossing changes sides.
     */
    public function addInnerLines(array &$walls, array $crossings, array &$px, array &$py, array &$pz): void
    {
        $d = $this->delaunay;
        $corner = $d->corner;
        $across = $d->across;
        $radius2 = $d->radius2;
        $real = $d->count;
        $sx = $d->x;
        $sy = $d->y;
        $sz = $d->z;
        $inside = array_fill(0, count($radius2), -1);
        $queue = [];
        foreach ($radius2 as $t => $r) {
            if ($r >= 0.0 && max($corner[4 * $t], $corner[4 * $t + 1], $corner[4 * $t + 2], $corner[4 * $t + 3]) >= $real) {
                $inside[$t] = 0;
                $queue[] = $t;
            }
        }
        $point = [];
        $done = [];
        $found = 0;
        for ($h = 0; $h < count($queue); $h++) {
            $t = $queue[$h];
            for ($k = 0; $k < 4; $k++) {
                $o = $across[4 * $t + $k];
                if ($o < 0) {
                    continue;
                }
                $b = 4 * $t;
                $p = $corner[$b + ($k === 0 ? 1 : 0)];
                $q = $corner[$b + ($k < 2 ? 2 : 1)];
                $r = $corner[$b + ($k < 3 ? 3 : 2)];
                if ($p > $q) {
                    [$p, $q] = [$q, $p];
                }
                if ($q > $r) {
                    [$q, $r] = [$r, $q];
                }
                if ($p > $q) {
                    [$p, $q] = [$q, $p];
                }
                if ($r >= $real) {
                    continue;
                }
                $line = ($p * $real + $q) * $real + $r;
                $met = $crossings[$line] ?? [];
                $n = count($met);
                $state = $inside[$t] ^ ($n & 1);
                if ($inside[$o] === -1) {
                    $inside[$o] = $state;
                    $queue[] = $o;
                } elseif ($inside[$o] !== $state) {
                    throw new \UnexpectedValueException('inside and outside disagree');
                }
                if (isset($done[$line])) {
                    continue;
                }
                $done[$line] = true;
                if ($n === 0 && $state === 0) {
                    continue;
                }
                $found += $n;
                // Direction of the line: the normal of the triangle of seeds, pointing away from this tetrahedron.
                $ux = $sx[$q] - $sx[$p];
                $uy = $sy[$q] - $sy[$p];
                $uz = $sz[$q] - $sz[$p];
                $wx = $sx[$r] - $sx[$p];
                $wy = $sy[$r] - $sy[$p];
                $wz = $sz[$r] - $sz[$p];
                $nx = $uy * $wz - $uz * $wy;
                $ny = $uz * $wx - $ux * $wz;
                $nz = $ux * $wy - $uy * $wx;
                $apex = $corner[$b + $k];
                $forward = ($d->x[$apex] - $sx[$p]) * $nx + ($d->y[$apex] - $sy[$p]) * $ny + ($d->z[$apex] - $sz[$p]) * $nz < 0.0;
                if ($n > 1) {
                    $along = [];
                    foreach ($met as $id) {
                        $s = $px[$id] * $nx + $py[$id] * $ny + $pz[$id] * $nz;
                        $along[$id] = $forward ? $s : -$s;
                    }
                    asort($along);
                    $met = array_keys($along);
                }
                $stops = [];
                foreach ([0, 1] as $end) {
                    $v = $end === 0 ? $t : $o;
                    if ($end === 1) {
                        foreach ($met as $id) {
                            $stops[] = $id;
                        }
                    }
                    if (($end === 0 ? $inside[$t] : $state) === 1) {
                        if (! isset($point[$v])) {
                            $point[$v] = count($px);
                            $px[] = $d->centreX[$v];
                            $py[] = $d->centreY[$v];
                            $pz[] = $d->centreZ[$v];
                        }
                        $stops[] = $point[$v];
                    }
                }
                for ($s = 0, $m = count($stops); $s + 1 < $m; $s += 2) {
                    $a = $forward ? $stops[$s] : $stops[$s + 1];
                    $c = $forward ? $stops[$s + 1] : $stops[$s];
                    if (isset($walls[$p * $real + $q][$a]) || isset($walls[$q * $real + $r][$a]) || isset($walls[$p * $real + $r][$c])) {
                        throw new \UnexpectedValueException('wall branches');
                    }
                    $walls[$p * $real + $q][$a] = $c;
                    $walls[$q * $real + $r][$a] = $c;
                    $walls[$p * $real + $r][$c] = $a;
                }
            }
        }
        $expected = 0;
        foreach ($crossings as $met) {
            $expected += count($met);
        }
        if ($found !== $expected) {
            throw new \UnexpectedValueException('a crossing lies on no Voronoi edge');
        }
    }
}
