<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

use YardBreak\Core\Geometry\PlanarTriangulation;

/**
 * Cuts a closed mesh into the cells of a complex of convex cells.
 *
 * Clipping the mesh by every plane of every cell would cost cells × faces. Instead the complex is restricted
 * to the solid (Yan, Wang, Lévy & Liu 2013, "Efficient computation of clipped Voronoi diagram for mesh
 * generation"): faces wholly in one cell go there as they are, cut faces are followed from cell to cell, and
 * each inner wall between two cells is triangulated once and used from both sides.
 *
 * A point is identified by what makes it — a vertex, an edge and a wall, a face and a line of the complex, or a
 * node of the complex — so neighbours share points by number, and no gap can open between them.
 */
final class RestrictedCells
{
    /** Walls with more points round them get some within, so far apart: as shares of their extent, and of that by the number of points. */
    private const FEW = 16;

    private const COARSEST = 0.1;

    private const STEPS = 6.0;

    /** @var list<float> */
    private array $px;

    /** @var list<float> */
    private array $py;

    /** @var list<float> */
    private array $pz;

    /** @var list<list<int>> flat triples of points, a list a cell */
    private array $cellFaces = [];

    /** @var list<list<int>> what each face is part of, see Cut */
    private array $cellOrigins = [];

    /** @var list<array{float, float, float}> */
    private array $wallNormals = [];

    /** @var list<int> */
    private array $run;

    /** @var list<int> */
    private array $start;

    /** @var array<int, array<int, int>> pair of cells → directed segments of their common wall */
    private array $walls = [];

    /** @var array<int, list<int>> line of the complex → points where it passes the surface */
    private array $crossings = [];

    /** @var list<int> the piece each cell belongs to, −1 for none */
    private array $groups;

    /**
     * @param  list<float>  $x  mesh vertices, within the unit box about the origin
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces  closed, consistently oriented
     * @param  list<int>|(\Closure(list<array{int, int}>): list<int>)|null  $groups  by cell; cells of one group become one piece, those of −1 are left out; may depend on which cells meet within the solid
     * @param  Relief|null  $relief  what the walls between pieces are given
     *
     * @throws \UnexpectedValueException where a near-degenerate position was met: jitter the complex and try again
     */
    public function __construct(array $x, array $y, array $z, private readonly array $faces, private readonly CellComplex $complex, array|\Closure|null $groups = null, private readonly ?Relief $relief = null)
    {
        $this->px = $x;
        $this->py = $y;
        $this->pz = $z;
        [$this->start, $this->run] = $complex->neighbours();
        $count = count($this->start) - 1;
        $this->cellFaces = $this->cellOrigins = array_fill(0, $count, []);
        $planes = $complex->planes();
        $this->cutSurface($planes);
        $complex->addInnerLines($this->walls, $this->crossings, $this->px, $this->py, $this->pz);
        $this->crossings = [];
        $this->groups = $groups instanceof \Closure
            ? $groups(array_map(static fn (int $pair): array => [intdiv($pair, $count), $pair % $count], array_keys($this->walls)))
            : $groups ?? range(0, $count - 1);
        $this->closeWalls($planes);
    }

    /** @param  list<int>|null  $sides  by cell: the side its part of the surface is on, 0 for that it had */
    public function cut(?array $sides = null): Cut
    {
        $faces = $origins = $on = array_fill(0, max(0, ...$this->groups) + 1, []);
        foreach ($this->groups as $cell => $group) {
            if ($group >= 0 && $this->cellFaces[$cell] !== []) {
                // Appended in place: merging would copy a large group for each of its cells.
                array_push($faces[$group], ...$this->cellFaces[$cell]);
                array_push($origins[$group], ...$this->cellOrigins[$cell]);
                if ($sides !== null) {
                    array_push($on[$group], ...array_fill(0, count($this->cellOrigins[$cell]), $sides[$cell]));
                }
            }
        }

        return new Cut($this->px, $this->py, $this->pz, $faces, $origins, $this->wallNormals, $sides === null ? null : $on);
    }

    /** @param  list<float>  $planes */
    private function cutSurface(array $planes): void
    {
        $owner = $this->complex->owners($this->px, $this->py, $this->pz);
        $complex = $this->complex;
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
        $cells = count($start) - 1;
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
                // Clip the face to the cell; each polygon edge remembers the face edge (−1…−3) or neighbour it lies on.
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
                        $pair = $i < $m ? $i * $cells + $m : $m * $cells + $i;
                        if (! isset($onEdge[$pair][$edge])) {
                            $onEdge[$pair][$edge] = count($px);
                            $px[] = $qx[$j];
                            $py[] = $qy[$j];
                            $pz[] = $qz[$j];
                        }
                        $id[] = $onEdge[$pair][$edge];

                        continue;
                    }
                    $line = $complex->lineOf($i, $l0, $l1);
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
                            if (isset($walls[$i * $cells + $m][$b])) {
                                throw new \UnexpectedValueException('wall branches');
                            }
                            $walls[$i * $cells + $m][$b] = $id[$j];
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
     * Chains each wall's segments into loops, triangulates it, and gives it to both cells.
     *
     * @param  list<float>  $planes
     */
    private function closeWalls(array $planes): void
    {
        $cells = count($this->start) - 1;
        $px = $this->px;
        $py = $this->py;
        $pz = $this->pz;
        $this->px = $this->py = $this->pz = [];
        $groups = $this->groups;
        $cellFaces = $this->cellFaces;
        $cellOrigins = $this->cellOrigins;
        $this->cellFaces = $this->cellOrigins = [];
        foreach ($this->walls as $pair => $next) {
            $i = intdiv($pair, $cells);
            $j = $pair % $cells;
            if ($groups[$i] === $groups[$j]) {
                continue;
            }
            for ($k = $this->start[$i]; $this->run[$k] !== $j; $k++) {
            }
            $nx = -$planes[4 * $k];
            $ny = -$planes[4 * $k + 1];
            $nz = -$planes[4 * $k + 2];
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
            $loops = Rim::loops($next);
            $u = $v = [];
            foreach ($loops as $loop) {
                foreach ($loop as $at) {
                    $u[$at] = $ax * $px[$at] + $ay * $py[$at] + $az * $pz[$at];
                    $v[$at] = $bx * $px[$at] + $by * $py[$at] + $bz * $pz[$at];
                }
            }
            $tri = PlanarTriangulation::of($loops, $u, $v);
            $wall = count($this->wallNormals);
            if ($this->relief === null) {
                $this->wallNormals[] = [$nx * $l, $ny * $l, $nz * $l];
                $points = count($u);
                if ($points > self::FEW) {
                    $extent = max(max($u) - min($u), max($v) - min($v));
                    $tri = Relief::filled($tri, $u, $v, [$ax, $ay, $az], [$bx, $by, $bz], [$nx * $l, $ny * $l, $nz * $l], $px, $py, $pz, max(self::COARSEST * $extent, self::STEPS * $extent / $points));
                }
            } else {
                $this->wallNormals[] = [0.0, 0.0, 0.0];
                $tri = $this->relief->over($tri, $u, $v, [$ax, $ay, $az], [$bx, $by, $bz], [$nx * $l, $ny * $l, $nz * $l], $px, $py, $pz);
            }
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
        $this->px = $px;
        $this->py = $py;
        $this->pz = $pz;
        $this->cellFaces = $cellFaces;
        $this->cellOrigins = $cellOrigins;
    }
}
