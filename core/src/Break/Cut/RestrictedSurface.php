<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

/**
 * The surface of a closed mesh cut along a complex of convex cells: faces wholly in one cell go there as they are, cut
 * faces are followed from cell to cell.
 *
 * A point is identified by what makes it — a vertex, an edge and a wall, or a face and a line of the complex — so
 * neighbours share points by number, and no gap can open between them.
 */
final class RestrictedSurface
{
    /** @var list<float> points, those of the mesh first */
    public array $px;

    /** @var list<float> */
    public array $py;

    /** @var list<float> */
    public array $pz;

    /** @var list<list<int>> flat triples of points, a list a cell */
    public array $faces;

    /** @var list<list<int>> the face of the mesh each of those is part of */
    public array $origins;

    /** @var array<int, array<int, int>> pair of cells → directed segments of their common wall */
    public array $walls;

    /** @var array<int, list<int>> line of the complex → points where it passes the surface */
    public array $crossings;

    /**
     * @param  list<float>  $px  mesh vertices, within the unit box about the origin
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<int>  $faces  closed, consistently oriented
     *
     * @throws \UnexpectedValueException where a near-degenerate position was met: jitter the complex and try again
     */
    public function __construct(array $px, array $py, array $pz, array $faces, CellComplex $complex)
    {
        $owner = $complex->owners($px, $py, $pz);
        $planes = $complex->planes();
        [$start, $run] = $complex->neighbours();
        $vertices = count($px);
        $cells = count($start) - 1;
        $cellFaces = $cellOrigins = array_fill(0, $cells, []);
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
        $this->faces = $cellFaces;
        $this->origins = $cellOrigins;
        $this->walls = $walls;
        $this->crossings = $crossings;
    }
}
