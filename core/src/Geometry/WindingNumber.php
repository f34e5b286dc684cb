<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * How often a surface goes round a point: one inside a closed solid, none outside, and between where the surface is open
 * (Jacobson, Kavan & Sorkine-Hornung 2013, "Robust inside-outside segmentation using generalized winding numbers").
 * Faces far off count together as one dipole (Barill et al. 2018, "Fast winding numbers for soups and clouds"), those near
 * each by its solid angle (Van Oosterom & Strackee 1983).
 */
final class WindingNumber
{
    private const LEAF = 6;

    /** Faces count together from so many of their radii. */
    private const FAR = 2.2;

    /** @var list<int> first corners of faces, those of a node together */
    private array $order = [];

    /** @var list<float> middle of each node weighed by area */
    private array $mx = [];

    /** @var list<float> */
    private array $my = [];

    /** @var list<float> */
    private array $mz = [];

    /** @var list<float> sum of area normals over 4π */
    private array $nx = [];

    /** @var list<float> */
    private array $ny = [];

    /** @var list<float> */
    private array $nz = [];

    /** @var list<float> squared distance from which a node counts as one */
    private array $far = [];

    /** @var list<int> second child, or −1 for a leaf; the first child follows its node */
    private array $other = [];

    /** @var list<int> faces of each node, as a range of the order */
    private array $from = [];

    /** @var list<int> */
    private array $to = [];

    public function __construct(private readonly Mesh $mesh)
    {
        $faces = $mesh->faces;
        $centres = [[], [], []];
        foreach ([$mesh->x, $mesh->y, $mesh->z] as $axis => $v) {
            for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
                $centres[$axis][$i] = $v[$faces[$i]] + $v[$faces[$i + 1]] + $v[$faces[$i + 2]];
            }
        }
        if ($faces !== []) {
            $this->node(range(0, count($faces) - 3, 3), $centres, FaceNormals::perFace($mesh));
        }
    }

    /**
     * @param  list<int>  $list  first corners of the node's faces
     * @param  array{array<int, float>, array<int, float>, array<int, float>}  $centres  by first corner
     * @param  array{list<float>, list<float>, list<float>}  $normals  twice the area normal of each face
     */
    private function node(array $list, array $centres, array $normals): void
    {
        $at = count($this->from);
        $this->from[] = count($this->order);
        $this->to[] = count($this->order) + count($list);
        $this->other[] = -1;
        $this->measure($list, $normals);
        if (count($list) <= self::LEAF) {
            foreach ($list as $i) {
                $this->order[] = $i;
            }

            return;
        }
        $keys = [];
        $best = -1.0;
        for ($axis = 0; $axis < 3; $axis++) {
            $along = [];
            foreach ($list as $i) {
                $along[] = $centres[$axis][$i];
            }
            $span = max($along) - min($along);
            if ($span > $best) {
                $best = $span;
                $keys = $along;
            }
        }
        array_multisort($keys, $list);
        $half = count($list) >> 1;
        $this->node(array_slice($list, 0, $half), $centres, $normals);
        $this->other[$at] = count($this->from);
        $this->node(array_slice($list, $half), $centres, $normals);
    }

    /**
     * @param  list<int>  $list  first corners of the node's faces
     * @param  array{list<float>, list<float>, list<float>}  $normals  twice the area normal of each face
     */
    private function measure(array $list, array $normals): void
    {
        [$fx, $fy, $fz] = $normals;
        $x = $this->mesh->x;
        $y = $this->mesh->y;
        $z = $this->mesh->z;
        $faces = $this->mesh->faces;
        $sx = $sy = $sz = $nx = $ny = $nz = $area = 0.0;
        foreach ($list as $i) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $px = $fx[intdiv($i, 3)];
            $py = $fy[intdiv($i, 3)];
            $pz = $fz[intdiv($i, 3)];
            $s = sqrt($px * $px + $py * $py + $pz * $pz) + 1e-300;
            $nx += $px;
            $ny += $py;
            $nz += $pz;
            $area += $s;
            $s /= 3.0;
            $sx += $s * ($x[$a] + $x[$b] + $x[$c]);
            $sy += $s * ($y[$a] + $y[$b] + $y[$c]);
            $sz += $s * ($z[$a] + $z[$b] + $z[$c]);
        }
        $mx = $sx / $area;
        $my = $sy / $area;
        $mz = $sz / $area;
        $radius = 0.0;
        foreach ($list as $i) {
            for ($k = $i; $k < $i + 3; $k++) {
                $p = $faces[$k];
                $d = ($x[$p] - $mx) * ($x[$p] - $mx) + ($y[$p] - $my) * ($y[$p] - $my) + ($z[$p] - $mz) * ($z[$p] - $mz);
                if ($d > $radius) {
                    $radius = $d;
                }
            }
        }
        $this->mx[] = $mx;
        $this->my[] = $my;
        $this->mz[] = $mz;
        $this->nx[] = $nx / (8.0 * M_PI);
        $this->ny[] = $ny / (8.0 * M_PI);
        $this->nz[] = $nz / (8.0 * M_PI);
        $this->far[] = self::FAR * self::FAR * $radius;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<float> the number at each of the points; on the surface, the mean of both sides
     */
    public function at(array $x, array $y, array $z): array
    {
        $out = [];
        foreach ($x as $i => $v) {
            $out[] = self::one(
                $v, $y[$i], $z[$i], $this->mesh->x, $this->mesh->y, $this->mesh->z, $this->mesh->faces, $this->order, $this->mx, $this->my, $this->mz,
                $this->nx, $this->ny, $this->nz, $this->far, $this->other, $this->from, $this->to,
            );
        }

        return $out;
    }

    /**
     * On local arrays alone: a loop as hot as this one must be compiled as one.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces
     * @param  list<int>  $order
     * @param  list<float>  $mx
     * @param  list<float>  $my
     * @param  list<float>  $mz
     * @param  list<float>  $nx
     * @param  list<float>  $ny
     * @param  list<float>  $nz
     * @param  list<float>  $far
     * @param  list<int>  $other
     * @param  list<int>  $from
     * @param  list<int>  $to
     */
    private static function one(
        float $px, float $py, float $pz, array $x, array $y, array $z, array $faces, array $order, array $mx, array $my, array $mz, array $nx,
        array $ny, array $nz, array $far, array $other, array $from, array $to,
    ): float {
        $sum = $angles = 0.0;
        $stack = [];
        $top = 0;
        $node = $far === [] ? -1 : 0;
        while ($node >= 0) {
            $dx = $mx[$node] - $px;
            $dy = $my[$node] - $py;
            $dz = $mz[$node] - $pz;
            $d = $dx * $dx + $dy * $dy + $dz * $dz;
            if ($d > $far[$node]) {
                $sum += ($dx * $nx[$node] + $dy * $ny[$node] + $dz * $nz[$node]) / ($d * sqrt($d));
            } elseif ($other[$node] >= 0) {
                $stack[$top++] = $other[$node];
                $node++;

                continue;
            } else {
                for ($k = $from[$node], $end = $to[$node]; $k < $end; $k++) {
                    $i = $order[$k];
                    $p = $faces[$i];
                    $ax = $x[$p] - $px;
                    $ay = $y[$p] - $py;
                    $az = $z[$p] - $pz;
                    $p = $faces[$i + 1];
                    $bx = $x[$p] - $px;
                    $by = $y[$p] - $py;
                    $bz = $z[$p] - $pz;
                    $p = $faces[$i + 2];
                    $cx = $x[$p] - $px;
                    $cy = $y[$p] - $py;
                    $cz = $z[$p] - $pz;
                    $la = sqrt($ax * $ax + $ay * $ay + $az * $az);
                    $lb = sqrt($bx * $bx + $by * $by + $bz * $bz);
                    $lc = sqrt($cx * $cx + $cy * $cy + $cz * $cz);
                    $det = $ax * ($by * $cz - $bz * $cy) + $ay * ($bz * $cx - $bx * $cz) + $az * ($bx * $cy - $by * $cx);
                    // A point in a face's own plane sees nothing of it, and, on it, as much from either side.
                    if ($det > 1e-9 * $la * $lb * $lc || $det < -1e-9 * $la * $lb * $lc) {
                        $angles += atan2(
                            $det,
                            $la * $lb * $lc + ($ax * $bx + $ay * $by + $az * $bz) * $lc + ($bx * $cx + $by * $cy + $bz * $cz) * $la + ($cx * $ax + $cy * $ay + $cz * $az) * $lb,
                        );
                    }
                }
            }
            $node = $top > 0 ? $stack[--$top] : -1;
        }

        return $sum + $angles / (2.0 * M_PI);
    }
}
