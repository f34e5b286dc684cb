<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * The nearest place of a surface to any number of points, exactly: a tree of flat round boxes, each lying along the faces it
 * holds, so that what lies beside a point's foot is passed over without a look at its faces. The nearest point of a face
 * is Ericson's (2005, "Real-time collision detection", 5.1.5); inside and outside are told by the mean normal there
 * (Bærentzen & Aanæs 2005, "Signed distance computation using the angle weighted pseudonormal").
 */
final class SurfaceTree
{
    private const LEAF = 2;

    /** Points of a group, about, and the fewest for which it pays. */
    private const TOGETHER = 64;

    private const ALONE = 4;

    /** What is found for a group are parts of the surface about so wide, in its own radii. */
    private const HEAD = 1.5;

    /** @var list<int> face numbers, those of a node together */
    private array $order = [];

    /** @var list<float> by node: middle, normal, half its thickness, radius */
    private array $boxes = [];

    /** @var list<int> by node: where its faces begin in the order if it has no children, else −1 */
    private array $from = [];

    /** @var list<int> by node: where its faces end in the order */
    private array $to = [];

    /** @var list<int> by node: the one after all below it */
    private array $skip = [];

    /** @var list<float> by face, in that order: its first corner, both sides from there, and their products */
    private array $triangles = [];

    /** @var array{list<float>, list<float>, list<float>}|null */
    private ?array $faceNormals = null;

    /** @var array{list<float>, list<float>, list<float>}|null */
    private ?array $pointNormals = null;

    /** @var list<int>|null */
    private ?array $beyond = null;

    /** @var list<float> */
    private array $x;

    /** @var list<float> */
    private array $y;

    /** @var list<float> */
    private array $z;

    /** @var list<int> */
    private readonly array $faces;

    public function __construct(Mesh $mesh)
    {
        $this->faces = $mesh->faces;
        $this->x = $mesh->x;
        $this->y = $mesh->y;
        $this->z = $mesh->z;
        $n = $mesh->faceCount();
        if ($n === 0) {
            return;
        }
        $along = [[], [], []];
        foreach ([$mesh->x, $mesh->y, $mesh->z] as $axis => $v) {
            for ($i = 0; $i < 3 * $n; $i += 3) {
                $along[$axis][] = $v[$mesh->faces[$i]] + $v[$mesh->faces[$i + 1]] + $v[$mesh->faces[$i + 2]];
            }
        }
        $this->split(range(0, $n - 1), $along);
        $this->measure();
    }

    /**
     * The same faces with their points elsewhere.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    public function moveTo(array $x, array $y, array $z): void
    {
        $this->x = $x;
        $this->y = $y;
        $this->z = $z;
        $this->faceNormals = $this->pointNormals = null;
        $this->measure();
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  float  $reach  what lies farther off is not looked for
     */
    public function nearest(array $x, array $y, array $z, float $reach = INF): NearestPlaces
    {
        if ($this->order === [] || $x === []) {
            return new NearestPlaces(array_fill(0, count($x), INF), array_fill(0, count($x), -1), array_fill(0, count($x), 0.0), array_fill(0, count($x), 0.0));
        }

        return new NearestPlaces(...self::search(
            $x, $y, $z, $reach, self::groups($x, $y, $z), $this->order, $this->boxes, $this->from, $this->to, $this->skip, $this->triangles,
        ));
    }

    /**
     * The same distances, below zero inside the surface.
     *
     * @param  list<float>  $x  the points asked about
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<float>
     */
    public function signed(array $x, array $y, array $z, NearestPlaces $found): array
    {
        $this->beyond ??= FaceNeighbours::beyond($this->faces);
        [$fx, $fy, $fz] = $this->faceNormals ??= FaceNormals::unit(...FaceNormals::perFace($this->mesh()));
        [$vx, $vy, $vz] = $this->pointNormals ??= FaceNormals::atPoints($this->mesh());
        $out = $found->distance;
        foreach ($found->face as $i => $f) {
            if ($f < 0) {
                continue;
            }
            $s = $found->s[$i];
            $t = $found->t[$i];
            $k = 3 * $f;
            $a = $this->faces[$k];
            $b = $this->faces[$k + 1];
            $c = $this->faces[$k + 2];
            $nx = $fx[$f];
            $ny = $fy[$f];
            $nz = $fz[$f];
            $corner = $s <= 0.0 && $t <= 0.0 ? $a : ($s >= 1.0 ? $b : ($t >= 1.0 ? $c : -1));
            if ($corner >= 0) {
                $nx = $vx[$corner];
                $ny = $vy[$corner];
                $nz = $vz[$corner];
            } else {
                $other = $t <= 0.0 ? $this->beyond[$k] : ($s <= 0.0 ? $this->beyond[$k + 2] : ($s + $t >= 1.0 ? $this->beyond[$k + 1] : -1));
                if ($other >= 0) {
                    $nx += $fx[$other];
                    $ny += $fy[$other];
                    $nz += $fz[$other];
                }
            }
            $r = 1.0 - $s - $t;
            $dx = $x[$i] - $r * $this->x[$a] - $s * $this->x[$b] - $t * $this->x[$c];
            $dy = $y[$i] - $r * $this->y[$a] - $s * $this->y[$b] - $t * $this->y[$c];
            $dz = $z[$i] - $r * $this->z[$a] - $s * $this->z[$b] - $t * $this->z[$c];
            if ($dx * $nx + $dy * $ny + $dz * $nz < 0.0) {
                $out[$i] = -$out[$i];
            }
        }

        return $out;
    }

    /** @return array{Vec3, float} a ball round all of it: its middle and its radius */
    public function ball(): array
    {
        return $this->boxes === []
            ? [Vec3::zero(), 0.0]
            : [new Vec3($this->boxes[0], $this->boxes[1], $this->boxes[2]), hypot($this->boxes[6], $this->boxes[7])];
    }

    /** @return array{int, int, int} the points of a face */
    public function corners(int $face): array
    {
        return [$this->faces[3 * $face], $this->faces[3 * $face + 1], $this->faces[3 * $face + 2]];
    }

    private function mesh(): Mesh
    {
        return new Mesh($this->x, $this->y, $this->z, $this->faces);
    }

    /**
     * @param  non-empty-list<int>  $list  faces of the node
     * @param  array{list<float>, list<float>, list<float>}  $along  of each face, along each axis
     */
    private function split(array $list, array $along): void
    {
        $at = count($this->from);
        $start = count($this->order);
        $this->from[] = -1;
        $this->to[] = $start + count($list);
        $this->skip[] = 0;
        if (count($list) <= self::LEAF) {
            $this->from[$at] = $start;
            foreach ($list as $f) {
                $this->order[] = $f;
            }
            $this->skip[$at] = $at + 1;

            return;
        }
        $best = [];
        $widest = -1.0;
        for ($axis = 0; $axis < 3; $axis++) {
            $keys = [];
            foreach ($list as $f) {
                $keys[$f] = $along[$axis][$f];
            }
            $wide = max($keys) - min($keys);
            if ($wide > $widest) {
                $widest = $wide;
                $best = $keys;
            }
        }
        asort($best);
        $sorted = array_keys($best);
        $half = count($sorted) >> 1;
        $this->split(array_slice($sorted, 0, $half), $along);
        $this->split(array_slice($sorted, $half), $along);
        $this->skip[$at] = count($this->from);
    }

    private function measure(): void
    {
        $this->triangles = self::triangles($this->x, $this->y, $this->z, $this->faces, $this->order);
        $this->boxes = self::boxes($this->triangles, $this->from, $this->to, $this->skip);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces
     * @param  list<int>  $order
     * @return list<float>
     */
    private static function triangles(array $x, array $y, array $z, array $faces, array $order): array
    {
        $out = [];
        for ($k = 0, $n = count($order); $k < $n; $k++) {
            $i = 3 * $order[$k];
            $p = $faces[$i];
            $q = $faces[$i + 1];
            $r = $faces[$i + 2];
            $out[] = $ax = $x[$p];
            $out[] = $ay = $y[$p];
            $out[] = $az = $z[$p];
            $out[] = $ux = $x[$q] - $ax;
            $out[] = $uy = $y[$q] - $ay;
            $out[] = $uz = $z[$q] - $az;
            $out[] = $vx = $x[$r] - $ax;
            $out[] = $vy = $y[$r] - $ay;
            $out[] = $vz = $z[$r] - $az;
            $out[] = $ux * $ux + $uy * $uy + $uz * $uz;
            $out[] = $ux * $vx + $uy * $vy + $uz * $vz;
            $out[] = $vx * $vx + $vy * $vy + $vz * $vz;
        }

        return $out;
    }

    /**
     * @param  list<float>  $t
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @param  list<int>  $skip
     * @return list<float>
     */
    private static function boxes(array $t, array $from, array $to, array $skip): array
    {
        $out = [];
        // Where the faces of a node begin: those of its first leaf.
        $begin = $from;
        for ($k = count($from) - 2; $k >= 0; $k--) {
            if ($begin[$k] < 0) {
                $begin[$k] = $begin[$k + 1];
            }
        }
        for ($k = 0, $n = count($from); $k < $n; $k++) {
            $i0 = 12 * $begin[$k];
            $i1 = 12 * $to[$k];
            $nx = $ny = $nz = $mx = $my = $mz = 0.0;
            for ($i = $i0; $i < $i1; $i += 12) {
                $ux = $t[$i + 3];
                $uy = $t[$i + 4];
                $uz = $t[$i + 5];
                $vx = $t[$i + 6];
                $vy = $t[$i + 7];
                $vz = $t[$i + 8];
                $nx += $uy * $vz - $uz * $vy;
                $ny += $uz * $vx - $ux * $vz;
                $nz += $ux * $vy - $uy * $vx;
                $mx += $t[$i] + ($ux + $vx) / 3.0;
                $my += $t[$i + 1] + ($uy + $vy) / 3.0;
                $mz += $t[$i + 2] + ($uz + $vz) / 3.0;
            }
            $count = ($i1 - $i0) / 12;
            $mx /= $count;
            $my /= $count;
            $mz /= $count;
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($l > 0.0) {
                $nx /= $l;
                $ny /= $l;
                $nz /= $l;
            } else {
                $ny = 1.0;
            }
            $low = INF;
            $high = -INF;
            $wide = 0.0;
            for ($i = $i0; $i < $i1; $i += 12) {
                $ax = $t[$i] - $mx;
                $ay = $t[$i + 1] - $my;
                $az = $t[$i + 2] - $mz;
                $h = $ax * $nx + $ay * $ny + $az * $nz;
                $w = $ax * $ax + $ay * $ay + $az * $az - $h * $h;
                $low = $h < $low ? $h : $low;
                $high = $h > $high ? $h : $high;
                $wide = $w > $wide ? $w : $wide;
                $bx = $ax + $t[$i + 3];
                $by = $ay + $t[$i + 4];
                $bz = $az + $t[$i + 5];
                $h = $bx * $nx + $by * $ny + $bz * $nz;
                $w = $bx * $bx + $by * $by + $bz * $bz - $h * $h;
                $low = $h < $low ? $h : $low;
                $high = $h > $high ? $h : $high;
                $wide = $w > $wide ? $w : $wide;
                $bx = $ax + $t[$i + 6];
                $by = $ay + $t[$i + 7];
                $bz = $az + $t[$i + 8];
                $h = $bx * $nx + $by * $ny + $bz * $nz;
                $w = $bx * $bx + $by * $by + $bz * $bz - $h * $h;
                $low = $h < $low ? $h : $low;
                $high = $h > $high ? $h : $high;
                $wide = $w > $wide ? $w : $wide;
            }
            $h = 0.5 * ($low + $high);
            $out[] = $mx + $h * $nx;
            $out[] = $my + $h * $ny;
            $out[] = $mz + $h * $nz;
            $out[] = $nx;
            $out[] = $ny;
            $out[] = $nz;
            // A trifle more than they need, so that rounding hides nothing.
            $r = sqrt($wide);
            $out[] = 0.5 * ($high - $low) + 1e-12 * ($r + $high - $low);
            $out[] = $r * (1.0 + 1e-9);
        }

        return $out;
    }

    /**
     * Points are taken in groups that lie together. What can be nearest to any of a group is found once, from its middle,
     * and gone through nearest first. A loop as hot as this one stands alone, on local arrays.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  float  $reach  metres
     * @param  list<list<int>>  $groups  of points
     * @param  list<int>  $order
     * @param  list<float>  $boxes
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @param  list<int>  $skip
     * @param  list<float>  $tri
     * @return array{list<float>, list<int>, list<float>, list<float>}
     */
    private static function search(
        array $x, array $y, array $z, float $reach, array $groups, array $order, array $boxes, array $from, array $to, array $skip, array $tri,
    ): array {
        $n = count($x);
        $distance = array_fill(0, $n, INF);
        $face = array_fill(0, $n, -1);
        $outS = $outT = array_fill(0, $n, 0.0);
        $limit = $reach * $reach;
        $last = 0;
        for ($g = 0, $all = count($groups); $g < $all; $g++) {
            $ids = $groups[$g];
            $count = count($ids);
            $cx = $cy = $cz = 0.0;
            for ($j = 0; $j < $count; $j++) {
                $i = $ids[$j];
                $cx += $x[$i];
                $cy += $y[$i];
                $cz += $z[$i];
            }
            $cx /= $count;
            $cy /= $count;
            $cz /= $count;
            $wide = 0.0;
            for ($j = 0; $j < $count; $j++) {
                $i = $ids[$j];
                $d = ($x[$i] - $cx) * ($x[$i] - $cx) + ($y[$i] - $cy) * ($y[$i] - $cy) + ($z[$i] - $cz) * ($z[$i] - $cz);
                if ($d > $wide) {
                    $wide = $d;
                }
            }
            $wide = sqrt($wide);
            $heads = [0];
            $bounds = [0.0];
            // First the middle of the group, against all there is.
            for ($j = -1; $j < $count; $j++) {
                if ($j < 0) {
                    $i = -1;
                    $px = $cx;
                    $py = $cy;
                    $pz = $cz;
                    $off = 0.0;
                    $best = ($reach + $wide) * ($reach + $wide);
                } else {
                    $i = $ids[$j];
                    $px = $x[$i];
                    $py = $y[$i];
                    $pz = $z[$i];
                    $off = sqrt(($px - $cx) * ($px - $cx) + ($py - $cy) * ($py - $cy) + ($pz - $cz) * ($pz - $cz)) * 1.000000001;
                    $best = $limit;
                }
                $found = -1;
                $bs = $bt = 0.0;
                $k = $last;
                $end = $k + 1;
                $head = 0;
                $node = $heads === [] ? 0 : $heads[0] - 1;
                $over = $heads === [] ? 0 : $skip[$heads[0]];
                for (; ;) {
                    for (; $k < $end; $k++) {
                        $c = 12 * $k;
                        $wx = $px - $tri[$c];
                        $wy = $py - $tri[$c + 1];
                        $wz = $pz - $tri[$c + 2];
                        $ux = $tri[$c + 3];
                        $uy = $tri[$c + 4];
                        $uz = $tri[$c + 5];
                        $vx = $tri[$c + 6];
                        $vy = $tri[$c + 7];
                        $vz = $tri[$c + 8];
                        $uu = $tri[$c + 9];
                        $uv = $tri[$c + 10];
                        $vv = $tri[$c + 11];
                        $d1 = $ux * $wx + $uy * $wy + $uz * $wz;
                        $d2 = $vx * $wx + $vy * $wy + $vz * $wz;
                        $det = $uu * $vv - $uv * $uv;
                        $s = $vv * $d1 - $uv * $d2;
                        $t = $uu * $d2 - $uv * $d1;
                        if ($det > 0.0 && $s >= 0.0 && $t >= 0.0 && $s + $t <= $det) {
                            $s /= $det;
                            $t /= $det;
                        } else {
                            // Nearest on each of the three sides.
                            $s = $d1 <= 0.0 ? 0.0 : ($d1 >= $uu ? 1.0 : $d1 / $uu);
                            $t = 0.0;
                            $e = $s * ($s * $uu - 2.0 * $d1);
                            $other = $d2 <= 0.0 ? 0.0 : ($d2 >= $vv ? 1.0 : $d2 / $vv);
                            $o = $other * ($other * $vv - 2.0 * $d2);
                            if ($o < $e) {
                                $e = $o;
                                $s = 0.0;
                                $t = $other;
                            }
                            $third = $uu - 2.0 * $uv + $vv;
                            $other = $uu - $uv - $d1 + $d2;
                            $other = $other <= 0.0 ? 0.0 : ($other >= $third ? 1.0 : $other / $third);
                            $o = (1.0 - $other) * ((1.0 - $other) * $uu - 2.0 * $d1) + $other * ($other * $vv - 2.0 * $d2) + 2.0 * $other * (1.0 - $other) * $uv;
                            if ($o < $e) {
                                $s = 1.0 - $other;
                                $t = $other;
                            }
                        }
                        $wx -= $s * $ux + $t * $vx;
                        $wy -= $s * $uy + $t * $vy;
                        $wz -= $s * $uz + $t * $vz;
                        $e = $wx * $wx + $wy * $wy + $wz * $wz;
                        if ($e < $best) {
                            $best = $e;
                            $found = $k;
                            $bs = $s;
                            $bt = $t;
                        }
                    }
                    // On to the next leaf that may hold something nearer.
                    for ($node++; ;) {
                        if ($node >= $over) {
                            $head++;
                            if (! isset($heads[$head]) || $bounds[$head] > $off && ($bounds[$head] - $off) * ($bounds[$head] - $off) >= $best) {
                                break 2;
                            }
                            $node = $heads[$head];
                            $over = $skip[$node];
                        }
                        $c = 8 * $node;
                        $wx = $px - $boxes[$c];
                        $wy = $py - $boxes[$c + 1];
                        $wz = $pz - $boxes[$c + 2];
                        $d = $wx * $boxes[$c + 3] + $wy * $boxes[$c + 4] + $wz * $boxes[$c + 5];
                        $l = $wx * $wx + $wy * $wy + $wz * $wz - $d * $d;
                        $d = ($d < 0.0 ? -$d : $d) - $boxes[$c + 6];
                        $rest = $d > 0.0 ? $best - $d * $d : $best;
                        if ($rest <= 0.0) {
                            $node = $skip[$node];

                            continue;
                        }
                        $r = $boxes[$c + 7];
                        $l -= $r * $r + $rest;
                        if ($l > 0.0 && $l * $l > 4.0 * $r * $r * $rest) {
                            $node = $skip[$node];

                            continue;
                        }
                        $k = $from[$node];
                        if ($k >= 0) {
                            break;
                        }
                        $node++;
                    }
                    $end = $to[$node];
                }
                if ($j >= 0) {
                    if ($found >= 0) {
                        $last = $found;
                        $distance[$i] = sqrt($best);
                        $face[$i] = $order[$found];
                        $outS[$i] = $bs;
                        $outT[$i] = $bt;
                    }

                    continue;
                }
                if ($found < 0) {
                    // All of the group lie out of reach.
                    break;
                }
                $last = $found;
                if ($count < self::ALONE) {
                    continue;
                }
                // What can be nearest to a point of the group lies no farther from its middle than this.
                $far = sqrt($best) + 2.0 * $wide;
                $far = ($far < $reach + $wide ? $far : $reach + $wide) * 1.000000001;
                $near = [];
                for ($node = 0, $nodes = count($from); $node < $nodes;) {
                    $c = 8 * $node;
                    $wx = $px - $boxes[$c];
                    $wy = $py - $boxes[$c + 1];
                    $wz = $pz - $boxes[$c + 2];
                    $d = $wx * $boxes[$c + 3] + $wy * $boxes[$c + 4] + $wz * $boxes[$c + 5];
                    $l = $wx * $wx + $wy * $wy + $wz * $wz - $d * $d;
                    $d = ($d < 0.0 ? -$d : $d) - $boxes[$c + 6];
                    $d = $d > 0.0 ? $d : 0.0;
                    $r = $boxes[$c + 7];
                    $l = $l > $r * $r ? sqrt($l) - $r : 0.0;
                    $l = sqrt($d * $d + $l * $l);
                    if ($l > $far) {
                        $node = $skip[$node];
                    } elseif ($r <= self::HEAD * $wide || $from[$node] >= 0) {
                        $near[$node] = $l;
                        $node = $skip[$node];
                    } else {
                        $node++;
                    }
                }
                asort($near);
                $heads = array_keys($near);
                $bounds = array_values($near);
            }
        }

        return [$distance, $face, $outS, $outT];
    }

    /**
     * Points that lie together, some dozens each.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<list<int>>
     */
    private static function groups(array $x, array $y, array $z): array
    {
        $n = count($x);
        if ($n === 0) {
            return [];
        }
        $lx = min($x);
        $ly = min($y);
        $lz = min($z);
        $k = sqrt($n / self::TOGETHER) / (1.8 * max(max($x) - $lx, max($y) - $ly, max($z) - $lz, 1e-12));
        $cells = [];
        for ($i = 0; $i < $n; $i++) {
            $cells[Cell::of(($x[$i] - $lx) * $k, ($y[$i] - $ly) * $k, ($z[$i] - $lz) * $k)][] = $i;
        }

        return array_values($cells);
    }
}
