<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Break\Cut\Cut;
use YardBreak\Core\Geometry\Delaunay;
use YardBreak\Core\Geometry\PlanarTriangulation;

/**
 * Cuts a closed mesh into the Voronoi cells of a set of seeds.
 *
 * Clipping the mesh by every plane of every cell would cost cells × faces. Instead the diagram is restricted
 * to the solid (Yan, Wang, Lévy & Liu 2013, "Efficient computation of clipped Voronoi diagram for mesh
 * generation"): faces wholly in one cell go there as they are, cut faces are followed from cell to cell, and
 * each inner wall between two cells is triangulated once and used from both sides.
 *
 * A point is identified by what makes it — a vertex, an edge and two seeds, a face and three seeds, or four
 * seeds — so neighbours share points by number, and no gap can open between them.
 */
final class RestrictedVoronoi
{
    /** @var list<float> */
    private array $px;

    /** @var list<float> */
    private array $py;

    /** @var list<float> */
    private array $pz;

    /** @var list<list<int>> flat triples of points, a list a seed */
    private array $cellFaces = [];

    /** @var list<list<int>> what each face is part of, see Cut */
    private array $cellOrigins = [];

    /** @var list<array{float, float, float}> */
    private array $wallNormals = [];

    /** @var list<array{int, int}> the two cells of each wall */
    private array $wallCells = [];

    private Delaunay $delaunay;

    /** @var list<int> */
    private array $run;

    /** @var list<int> */
    private array $start;

    /** @var array<int, array<int, int>> pair of seeds → directed segments of their common wall */
    private array $walls = [];

    /** @var array<int, list<int>> triple of seeds → points where their common line passes the surface */
    private array $crossings = [];

    /**
     * @param  list<float>  $x  mesh vertices, within the unit box about the origin
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces  closed, consistently oriented
     * @param  list<float>  $sx  seeds
     * @param  list<float>  $sy
     * @param  list<float>  $sz
     *
     * @throws \UnexpectedValueException where a near-degenerate position was met: jitter the seeds and try again
     */
    public function __construct(array $x, array $y, array $z, private readonly array $faces, private readonly array $sx, private readonly array $sy, private readonly array $sz)
    {
        $this->px = $x;
        $this->py = $y;
        $this->pz = $z;
        $this->delaunay = new Delaunay($sx, $sy, $sz);
        [$this->start, $this->run] = $this->delaunay->neighbours();
        $count = count($sx);
        $this->cellFaces = array_fill(0, $count, []);
        $this->cellOrigins = array_fill(0, $count, []);
        $this->cutSurface($this->bisectors());
        $this->addInnerLines();
        $this->closeWalls();
    }

    /** @param  list<int>|null  $groups  by cell; cells of one group become one, without the walls between them */
    public function cut(?array $groups = null): Cut
    {
        if ($groups === null) {
            return new Cut($this->px, $this->py, $this->pz, $this->cellFaces, $this->cellOrigins, $this->wallNormals);
        }
        $faces = $origins = [];
        foreach ($this->cellFaces as $cell => $list) {
            $group = $groups[$cell];
            $faces[$group] ??= [];
            $origins[$group] ??= [];
            foreach ($this->cellOrigins[$cell] as $f => $origin) {
                if ($origin < 0) {
                    [$i, $j] = $this->wallCells[~$origin >> 1];
                    if ($groups[$i] === $groups[$j]) {
                        continue;
                    }
                }
                $faces[$group][] = $list[3 * $f];
                $faces[$group][] = $list[3 * $f + 1];
                $faces[$group][] = $list[3 * $f + 2];
                $origins[$group][] = $origin;
            }
        }
        ksort($faces);
        ksort($origins);

        return new Cut($this->px, $this->py, $this->pz, array_values($faces), array_values($origins), $this->wallNormals);
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

    /**
     * The seed that owns each mesh vertex, by a descent over the Delaunay graph.
     *
     * @param  list<float>  $planes
     * @return list<int>
     */
    private function owners(array $planes): array
    {
        $px = $this->px;
        $py = $this->py;
        $pz = $this->pz;
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

    /** @param  list<float>  $planes */
    private function cutSurface(array $planes): void
    {
        $owner = $this->owners($planes);
        $faces = $this->faces;
        $start = $this->start;
        $run = $this->run;
        $px = $this->px;
        $py = $this->py;
        $pz = $this->pz;
        $cellFaces = $this->cellFaces;
        $cellOrigins = $this->cellOrigins;
        $this->px = $this->py = $this->pz = $this->cellFaces = $this->cellOrigins = [];
        $vertices = count($px);
        $seeds = count($start) - 1;
        $walls = [];
        $crossings = [];
        $onEdge = [];
        $side = [];
        for ($f = 0, $faceCount = intdiv(count($faces), 3); $f < $faceCount; $f++) {
            $v0 = $faces[3 * $f];
            $v1 = $faces[3 * $f + 1];
            $v2 = $faces[3 * $f + 2];
            $o0 = $owner[$v0];
            $o1 = $owner[$v1];
            $o2 = $owner[$v2];
            if ($o0 === $o1 && $o1 === $o2) {
                $cellFaces[$o0][] = $v0;
                $cellFaces[$o0][] = $v1;
                $cellFaces[$o0][] = $v2;
                $cellOrigins[$o0][] = $f;

                continue;
            }
            $inFace = [];
            $queue = [$o0];
            $seen = [$o0 => true];
            for ($h = 0; $h < count($queue); $h++) {
                $i = $queue[$h];
                // Clip the face to the cell; each polygon edge remembers the face edge (−1…−3) or seed it lies on.
                $qx = [$px[$v0], $px[$v1], $px[$v2]];
                $qy = [$py[$v0], $py[$v1], $py[$v2]];
                $qz = [$pz[$v0], $pz[$v1], $pz[$v2]];
                $on = [-1, -2, -3];
                $n = 3;
                for ($k = $start[$i], $end = $start[$i + 1]; $k < $end; $k++) {
                    $a = $planes[4 * $k];
                    $b = $planes[4 * $k + 1];
                    $c = $planes[4 * $k + 2];
                    $d = $planes[4 * $k + 3];
                    $out = 0;
                    for ($j = 0; $j < $n; $j++) {
                        $s = $a * $qx[$j] + $b * $qy[$j] + $c * $qz[$j] + $d;
                        $side[$j] = $s;
                        if ($s < 0.0) {
                            $out++;
                        }
                    }
                    if ($out === 0) {
                        continue;
                    }
                    if ($out === $n) {
                        $n = 0;
                        break;
                    }
                    $m = $run[$k];
                    $rx = $ry = $rz = $ron = [];
                    for ($j = 0; $j < $n; $j++) {
                        $l = $j + 1 === $n ? 0 : $j + 1;
                        $s = $side[$j];
                        $t = $side[$l];
                        if ($s >= 0.0) {
                            $rx[] = $qx[$j];
                            $ry[] = $qy[$j];
                            $rz[] = $qz[$j];
                            $ron[] = $on[$j];
                        }
                        if (($s >= 0.0) !== ($t >= 0.0)) {
                            $w = $s / ($s - $t);
                            $rx[] = $qx[$j] + $w * ($qx[$l] - $qx[$j]);
                            $ry[] = $qy[$j] + $w * ($qy[$l] - $qy[$j]);
                            $rz[] = $qz[$j] + $w * ($qz[$l] - $qz[$j]);
                            $ron[] = $s >= 0.0 ? $m : $on[$j];
                        }
                    }
                    $qx = $rx;
                    $qy = $ry;
                    $qz = $rz;
                    $on = $ron;
                    $n = count($qx);
                    if ($n > 64) {
                        throw new \UnexpectedValueException('runaway clip');
                    }
                }
                if ($n < 3) {
                    if ($n > 0 || $i === $o0) {
                        throw new \UnexpectedValueException('lost polygon');
                    }

                    continue;
                }
                $id = [];
                for ($j = 0; $j < $n; $j++) {
                    $l0 = $on[$j === 0 ? $n - 1 : $j - 1];
                    $l1 = $on[$j];
                    if ($l0 < 0 && $l1 < 0) {
                        $id[] = $l1 === -1 ? $v0 : ($l1 === -2 ? $v1 : $v2);

                        continue;
                    }
                    if ($l0 < 0 || $l1 < 0) {
                        $e = $l0 < 0 ? $l0 : $l1;
                        $m = $l0 < 0 ? $l1 : $l0;
                        $p = $e === -1 ? $v0 : ($e === -2 ? $v1 : $v2);
                        $q = $e === -1 ? $v1 : ($e === -2 ? $v2 : $v0);
                        $edge = $p < $q ? $p * $vertices + $q : $q * $vertices + $p;
                        $pair = $i < $m ? $i * $seeds + $m : $m * $seeds + $i;
                        if (! isset($onEdge[$pair][$edge])) {
                            $onEdge[$pair][$edge] = count($px);
                            $px[] = $qx[$j];
                            $py[] = $qy[$j];
                            $pz[] = $qz[$j];
                        }
                        $id[] = $onEdge[$pair][$edge];

                        continue;
                    }
                    // Three seeds in rising order name the line.
                    $p = $i;
                    $q = $l0;
                    $r = $l1;
                    if ($p > $q) {
                        [$p, $q] = [$q, $p];
                    }
                    if ($q > $r) {
                        [$q, $r] = [$r, $q];
                    }
                    if ($p > $q) {
                        [$p, $q] = [$q, $p];
                    }
                    $line = ($p * $seeds + $q) * $seeds + $r;
                    if (! isset($inFace[$line])) {
                        $inFace[$line] = count($px);
                        $crossings[$line][] = count($px);
                        $px[] = $qx[$j];
                        $py[] = $qy[$j];
                        $pz[] = $qz[$j];
                    }
                    $id[] = $inFace[$line];
                }
                for ($j = 2; $j < $n; $j++) {
                    $cellFaces[$i][] = $id[0];
                    $cellFaces[$i][] = $id[$j - 1];
                    $cellFaces[$i][] = $id[$j];
                    $cellOrigins[$i][] = $f;
                }
                for ($j = 0; $j < $n; $j++) {
                    $m = $on[$j];
                    if ($m >= 0) {
                        if ($i < $m) {
                            $b = $id[$j + 1 === $n ? 0 : $j + 1];
                            if (isset($walls[$i * $seeds + $m][$b])) {
                                throw new \UnexpectedValueException('wall branches');
                            }
                            $walls[$i * $seeds + $m][$b] = $id[$j];
                        }
                        if (! isset($seen[$m])) {
                            $seen[$m] = true;
                            $queue[] = $m;
                        }
                    }
                }
            }
        }
        $this->px = $px;
        $this->py = $py;
        $this->pz = $pz;
        $this->cellFaces = $cellFaces;
        $this->cellOrigins = $cellOrigins;
        $this->walls = $walls;
        $this->crossings = $crossings;
    }

    /**
     * Adds to the walls the parts of Voronoi edges that run inside the solid. Which they are follows from the
     * surface crossings alone: the ghosts' side is outside, and each crossing changes sides.
     */
    private function addInnerLines(): void
    {
        $d = $this->delaunay;
        $corner = $d->corner;
        $across = $d->across;
        $radius2 = $d->radius2;
        $real = $d->count;
        $crossings = $this->crossings;
        $sx = $this->sx;
        $sy = $this->sy;
        $sz = $this->sz;
        $px = $this->px;
        $py = $this->py;
        $pz = $this->pz;
        $this->px = $this->py = $this->pz = [];
        $walls = $this->walls;
        $this->walls = [];
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
        $this->px = $px;
        $this->py = $py;
        $this->pz = $pz;
        $this->walls = $walls;
        $this->crossings = [];
    }

    /** Chains each wall's segments into loops, triangulates it, and gives it to both cells. */
    private function closeWalls(): void
    {
        $seeds = count($this->sx);
        $px = $this->px;
        $py = $this->py;
        $pz = $this->pz;
        $cellFaces = $this->cellFaces;
        $cellOrigins = $this->cellOrigins;
        $this->cellFaces = $this->cellOrigins = [];
        foreach ($this->walls as $pair => $next) {
            $i = intdiv($pair, $seeds);
            $j = $pair % $seeds;
            $nx = $this->sx[$j] - $this->sx[$i];
            $ny = $this->sy[$j] - $this->sy[$i];
            $nz = $this->sz[$j] - $this->sz[$i];
            // Two axes in the plane, the pair and the normal right-handed.
            if (abs($nx) <= abs($ny) && abs($nx) <= abs($nz)) {
                $ax = 0.0;
                $ay = $nz;
                $az = -$ny;
            } elseif (abs($ny) <= abs($nz)) {
                $ax = -$nz;
                $ay = 0.0;
                $az = $nx;
            } else {
                $ax = $ny;
                $ay = -$nx;
                $az = 0.0;
            }
            $l = 1.0 / sqrt($ax * $ax + $ay * $ay + $az * $az);
            $ax *= $l;
            $ay *= $l;
            $az *= $l;
            $l = 1.0 / sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $bx = ($ny * $az - $nz * $ay) * $l;
            $by = ($nz * $ax - $nx * $az) * $l;
            $bz = ($nx * $ay - $ny * $ax) * $l;
            $u = $v = $loops = [];
            while ($next !== []) {
                $first = array_key_first($next);
                $loop = [];
                $at = $first;
                do {
                    if (! isset($next[$at])) {
                        throw new \UnexpectedValueException('wall does not close');
                    }
                    $loop[] = $at;
                    $u[$at] = $ax * $px[$at] + $ay * $py[$at] + $az * $pz[$at];
                    $v[$at] = $bx * $px[$at] + $by * $py[$at] + $bz * $pz[$at];
                    $to = $next[$at];
                    unset($next[$at]);
                    $at = $to;
                } while ($at !== $first);
                if (count($loop) < 3) {
                    throw new \UnexpectedValueException('wall of two points');
                }
                $loops[] = $loop;
            }
            $tri = PlanarTriangulation::of($loops, $u, $v);
            $wall = count($this->wallNormals);
            $this->wallNormals[] = [$nx * $l, $ny * $l, $nz * $l];
            $this->wallCells[] = [$i, $j];
            for ($k = 0, $n = count($tri); $k < $n; $k += 3) {
                $cellFaces[$i][] = $tri[$k];
                $cellFaces[$i][] = $tri[$k + 1];
                $cellFaces[$i][] = $tri[$k + 2];
                $cellOrigins[$i][] = -1 - 2 * $wall;
                $cellFaces[$j][] = $tri[$k];
                $cellFaces[$j][] = $tri[$k + 2];
                $cellFaces[$j][] = $tri[$k + 1];
                $cellOrigins[$j][] = -2 - 2 * $wall;
            }
        }
        $this->walls = [];
        $this->cellFaces = $cellFaces;
        $this->cellOrigins = $cellOrigins;
    }
}
