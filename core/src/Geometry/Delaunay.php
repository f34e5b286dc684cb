<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * Delaunay tetrahedra of a point set by incremental insertion (Bowyer 1981, Watson 1981), inside four far
 * ghost points, so that every Voronoi cell of a given point is bounded.
 *
 * Points must lie in the ball of radius 2 about the origin and be in general position; a jitter of 1e-8
 * makes any set so. What cannot be decided in double precision is refused, never guessed.
 */
final class Delaunay
{
    private const GHOST_DISTANCE = 40.0;

    /** @var list<float> */
    public array $x;

    /** @var list<float> */
    public array $y;

    /** @var list<float> */
    public array $z;

    /** @var list<int> four points a tetrahedron, positively oriented; -1 where the slot is unused */
    public array $corner = [];

    /** @var list<int> four neighbours a tetrahedron, each across from the corner of the same number; -1 outside */
    public array $across = [];

    /** @var list<float> */
    public array $centreX = [];

    /** @var list<float> */
    public array $centreY = [];

    /** @var list<float> */
    public array $centreZ = [];

    /** @var list<float> squared circumradius; -1 where the slot is unused */
    public array $radius2 = [];

    /** @var int points from this number on are ghosts */
    public readonly int $count;

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     *
     * @throws \UnexpectedValueException where the points are too close to degenerate
     */
    public function __construct(array $x, array $y, array $z)
    {
        $this->count = count($x);
        $d = self::GHOST_DISTANCE;
        foreach ([[1, 1, 1], [1, -1, -1], [-1, 1, -1], [-1, -1, 1]] as [$gx, $gy, $gz]) {
            $x[] = $gx * $d;
            $y[] = $gy * $d * 1.013;
            $z[] = $gz * $d * 0.991;
        }
        $this->x = $x;
        $this->y = $y;
        $this->z = $z;
        $n = $this->count;
        $first = self::orientation($x, $y, $z, $n, $n + 1, $n + 2, $n + 3) > 0
            ? [$n, $n + 1, $n + 2, $n + 3]
            : [$n + 1, $n, $n + 2, $n + 3];
        $this->corner = $first;
        $this->across = [-1, -1, -1, -1];
        [$this->centreX[], $this->centreY[], $this->centreZ[], $this->radius2[]] = self::sphere($x, $y, $z, ...$first);
        $this->insertAll(self::spatialOrder($x, $y, $z, $n));
    }

    /**
     * Neighbours of every point in the Delaunay graph, ghosts left out.
     *
     * @return array{list<int>, list<int>} start of each point's run (one entry more than points), and the runs
     */
    public function neighbours(): array
    {
        $n = $this->count;
        $sets = array_fill(0, $n, []);
        $corner = $this->corner;
        $radius2 = $this->radius2;
        for ($t = 0, $m = count($radius2); $t < $m; $t++) {
            if ($radius2[$t] < 0.0) {
                continue;
            }
            $b = 4 * $t;
            for ($i = 0; $i < 3; $i++) {
                $p = $corner[$b + $i];
                if ($p >= $n) {
                    continue;
                }
                for ($j = $i + 1; $j < 4; $j++) {
                    $q = $corner[$b + $j];
                    if ($q < $n) {
                        $sets[$p][$q] = true;
                        $sets[$q][$p] = true;
                    }
                }
            }
        }
        $start = [0];
        $run = [];
        $x = $this->x;
        $y = $this->y;
        $z = $this->z;
        foreach ($sets as $p => $set) {
            $by = [];
            foreach ($set as $q => $_) {
                $by[$q] = ($x[$p] - $x[$q]) ** 2 + ($y[$p] - $y[$q]) ** 2 + ($z[$p] - $z[$q]) ** 2;
            }
            asort($by);
            foreach ($by as $q => $_) {
                $run[] = $q;
            }
            $start[] = count($run);
        }

        return [$start, $run];
    }

    /** @param  list<int>  $order */
    private function insertAll(array $order): void
    {
        $x = $this->x;
        $y = $this->y;
        $z = $this->z;
        $corner = $this->corner;
        $across = $this->across;
        $cx = $this->centreX;
        $cy = $this->centreY;
        $cz = $this->centreZ;
        $r2 = $this->radius2;
        $this->corner = $this->across = $this->centreX = $this->centreY = $this->centreZ = $this->radius2 = [];
        $free = [];
        $mark = [0];
        $at = 0;
        $width = $this->count + 4;
        foreach ($order as $round => $p) {
            $qx = $x[$p];
            $qy = $y[$p];
            $qz = $z[$p];
            // Walk towards the point through the faces it lies behind.
            $from = -1;
            for ($steps = 0; ; $steps++) {
                if ($steps > 100000) {
                    throw new \UnexpectedValueException('walk does not end');
                }
                $b = 4 * $at;
                $next = -1;
                for ($k = 0; $k < 4; $k++) {
                    $o = $across[$b + $k];
                    if ($o === -1 || $o === $from) {
                        continue;
                    }
                    // Faces opposite corner k, listed so that the inside is on the positive side.
                    if ($k === 0) {
                        $i = $corner[$b + 1];
                        $j = $corner[$b + 3];
                        $l = $corner[$b + 2];
                    } elseif ($k === 1) {
                        $i = $corner[$b];
                        $j = $corner[$b + 2];
                        $l = $corner[$b + 3];
                    } elseif ($k === 2) {
                        $i = $corner[$b];
                        $j = $corner[$b + 3];
                        $l = $corner[$b + 1];
                    } else {
                        $i = $corner[$b];
                        $j = $corner[$b + 1];
                        $l = $corner[$b + 2];
                    }
                    $ax = $x[$i] - $qx;
                    $ay = $y[$i] - $qy;
                    $az = $z[$i] - $qz;
                    $bx = $x[$j] - $qx;
                    $by = $y[$j] - $qy;
                    $bz = $z[$j] - $qz;
                    $ex = $x[$l] - $qx;
                    $ey = $y[$l] - $qy;
                    $ez = $z[$l] - $qz;
                    if ($ax * ($by * $ez - $bz * $ey) + $ay * ($bz * $ex - $bx * $ez) + $az * ($bx * $ey - $by * $ex) > 0.0) {
                        $next = $o;
                        break;
                    }
                }
                if ($next === -1) {
                    break;
                }
                $from = $at;
                $at = $next;
            }
            // All tetrahedra whose circumsphere holds the point form the cavity.
            $stamp = $round + 1;
            $cavity = [$at];
            $mark[$at] = $stamp;
            $ring = [];
            for ($h = 0; $h < count($cavity); $h++) {
                $t = $cavity[$h];
                $b = 4 * $t;
                for ($k = 0; $k < 4; $k++) {
                    $o = $across[$b + $k];
                    if ($o !== -1) {
                        if ($mark[$o] === $stamp) {
                            continue;
                        }
                        $dx = $qx - $cx[$o];
                        $dy = $qy - $cy[$o];
                        $dz = $qz - $cz[$o];
                        if ($dx * $dx + $dy * $dy + $dz * $dz < $r2[$o]) {
                            $mark[$o] = $stamp;
                            $cavity[] = $o;

                            continue;
                        }
                    }
                    if ($k === 0) {
                        $i = $corner[$b + 1];
                        $j = $corner[$b + 3];
                        $l = $corner[$b + 2];
                    } elseif ($k === 1) {
                        $i = $corner[$b];
                        $j = $corner[$b + 2];
                        $l = $corner[$b + 3];
                    } elseif ($k === 2) {
                        $i = $corner[$b];
                        $j = $corner[$b + 3];
                        $l = $corner[$b + 1];
                    } else {
                        $i = $corner[$b];
                        $j = $corner[$b + 1];
                        $l = $corner[$b + 2];
                    }
                    $ring[] = $i;
                    $ring[] = $j;
                    $ring[] = $l;
                    $ring[] = $o;
                    $ring[] = $t;
                }
            }
            foreach ($cavity as $t) {
                $r2[$t] = -1.0;
                $free[] = $t;
            }
            // Join every face of the cavity's hull to the point.
            $open = [];
            for ($h = 0, $m = count($ring); $h < $m; $h += 5) {
                $i = $ring[$h];
                $j = $ring[$h + 1];
                $l = $ring[$h + 2];
                $o = $ring[$h + 3];
                $ax = $x[$i] - $qx;
                $ay = $y[$i] - $qy;
                $az = $z[$i] - $qz;
                $bx = $x[$j] - $qx;
                $by = $y[$j] - $qy;
                $bz = $z[$j] - $qz;
                $ex = $x[$l] - $qx;
                $ey = $y[$l] - $qy;
                $ez = $z[$l] - $qz;
                $ux = $by * $ez - $bz * $ey;
                $uy = $bz * $ex - $bx * $ez;
                $uz = $bx * $ey - $by * $ex;
                $det = $ax * $ux + $ay * $uy + $az * $uz;
                if ($det >= -1e-30) {
                    throw new \UnexpectedValueException('flat tetrahedron');
                }
                $a2 = $ax * $ax + $ay * $ay + $az * $az;
                $b2 = $bx * $bx + $by * $by + $bz * $bz;
                $e2 = $ex * $ex + $ey * $ey + $ez * $ez;
                $k = 0.5 / $det;
                $ox = $k * ($a2 * $ux + $b2 * ($ey * $az - $ez * $ay) + $e2 * ($ay * $bz - $az * $by));
                $oy = $k * ($a2 * $uy + $b2 * ($ez * $ax - $ex * $az) + $e2 * ($az * $bx - $ax * $bz));
                $oz = $k * ($a2 * $uz + $b2 * ($ex * $ay - $ey * $ax) + $e2 * ($ax * $by - $ay * $bx));
                $t = array_pop($free);
                if ($t === null) {
                    $t = count($r2);
                    $mark[] = 0;
                    $r2[] = 0.0;
                    $cx[] = $cy[] = $cz[] = 0.0;
                    $corner[] = $corner[] = $corner[] = $corner[] = -1;
                    $across[] = $across[] = $across[] = $across[] = -1;
                }
                $mark[$t] = 0;
                $cx[$t] = $qx + $ox;
                $cy[$t] = $qy + $oy;
                $cz[$t] = $qz + $oz;
                $r2[$t] = $ox * $ox + $oy * $oy + $oz * $oz;
                $b = 4 * $t;
                $corner[$b] = $i;
                $corner[$b + 1] = $j;
                $corner[$b + 2] = $l;
                $corner[$b + 3] = $p;
                $across[$b + 3] = $o;
                if ($o !== -1) {
                    $c = 4 * $o;
                    $old = $ring[$h + 4];
                    for ($k = 0; $k < 4; $k++) {
                        $v = $corner[$c + $k];
                        if ($across[$c + $k] === $old && $v !== $i && $v !== $j && $v !== $l) {
                            $across[$c + $k] = $t;
                            break;
                        }
                    }
                }
                // The faces holding the point meet along the hull's edges: opposite i lies edge (j, l), and so on.
                for ($k = 0; $k < 3; $k++) {
                    $u = $k === 0 ? $j : $i;
                    $v = $k === 2 ? $j : $l;
                    $key = $u < $v ? $u * $width + $v : $v * $width + $u;
                    if (isset($open[$key])) {
                        $face = $open[$key];
                        $across[$b + $k] = $face >> 2;
                        $across[$face] = $t;
                    } else {
                        $open[$key] = $b + $k;
                    }
                }
                $at = $t;
            }
        }
        $this->corner = $corner;
        $this->across = $across;
        $this->centreX = $cx;
        $this->centreY = $cy;
        $this->centreZ = $cz;
        $this->radius2 = $r2;
    }

    /**
     * Along a Z-order curve, so that each walk is short.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<int>
     */
    private static function spatialOrder(array $x, array $y, array $z, int $n): array
    {
        $code = [];
        for ($i = 0; $i < $n; $i++) {
            $a = (int) (($x[$i] + 2.0) * 255.0);
            $b = (int) (($y[$i] + 2.0) * 255.0);
            $c = (int) (($z[$i] + 2.0) * 255.0);
            $key = 0;
            for ($bit = 9; $bit >= 0; $bit--) {
                $key = ($key << 3) | ((($a >> $bit) & 1) << 2) | ((($b >> $bit) & 1) << 1) | (($c >> $bit) & 1);
            }
            $code[$i] = $key;
        }
        asort($code);

        return array_keys($code);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    private static function orientation(array $x, array $y, array $z, int $a, int $b, int $c, int $d): float
    {
        $u = new Vec3($x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]);
        $v = new Vec3($x[$c] - $x[$a], $y[$c] - $y[$a], $z[$c] - $z[$a]);
        $w = new Vec3($x[$d] - $x[$a], $y[$d] - $y[$a], $z[$d] - $z[$a]);

        return $u->cross($v)->dot($w);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{float, float, float, float} circumcentre and squared radius
     */
    private static function sphere(array $x, array $y, array $z, int $a, int $b, int $c, int $d): array
    {
        $o = new Vec3($x[$d], $y[$d], $z[$d]);
        $u = (new Vec3($x[$a], $y[$a], $z[$a]))->minus($o);
        $v = (new Vec3($x[$b], $y[$b], $z[$b]))->minus($o);
        $w = (new Vec3($x[$c], $y[$c], $z[$c]))->minus($o);
        $k = 0.5 / $u->dot($v->cross($w));
        $centre = $v->cross($w)->times($u->dot($u) * $k)
            ->plus($w->cross($u)->times($v->dot($v) * $k))
            ->plus($u->cross($v)->times($w->dot($w) * $k));

        return [$o->x + $centre->x, $o->y + $centre->y, $o->z + $centre->z, $centre->dot($centre)];
    }
}
