<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Geometry\FaceNeighbours;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;

/**
 * The true surface of what is held or driven, as a collision shape: its faces in a tree of boxes, its edges and points with what
 * contacts need to know of them. Points at one place are one point; faces without area are left out. A sheet may be open: then
 * its faces are wound alike, and which side counts is up to who asks.
 */
final class ContactSurface
{
    /** Faces in a leaf of the tree. */
    private const LEAF = 4;

    /** Sine of the bend below which an edge counts as flat. */
    private const FLAT = 0.01;

    /** Share of edges that may lie open before a surface counts as a sheet. */
    private const OPEN = 0.02;

    /** @var list<float> points */
    public readonly array $x;

    /** @var list<float> */
    public readonly array $y;

    /** @var list<float> */
    public readonly array $z;

    /** @var list<int> points of each face, flat triples */
    public readonly array $faces;

    /** @var list<float> unit normals of the faces, flat triples */
    public readonly array $normals;

    /** @var list<float> height of each face's plane along its normal */
    public readonly array $levels;

    /** @var list<int> by corner: the face beyond the edge from it to the next, −1 where there is none */
    public readonly array $beyond;

    /** @var list<int> by corner: 1 where the edge from it stands out, −1 where it is a groove, 0 where it is flat, 2 where the sheet ends */
    public readonly array $bends;

    /** @var list<float> mean normals of the points, flat triples */
    public readonly array $pointNormals;

    /** @var list<int> where each point's list of neighbours starts, one entry more than points */
    public readonly array $nextTo;

    /** @var list<int> */
    public readonly array $neighbour;

    /** Whether it encloses a volume, so that it has one side only. */
    public readonly bool $closed;

    /** @var array{float, float, float, float, float, float} x low, x high, y low, y high, z low, z high */
    public readonly array $box;

    /** Metres, the longest side of that. */
    public readonly float $size;

    /** @var list<int> face numbers, those of a node together */
    public readonly array $order;

    /** @var list<float> by node: its box, as `box` */
    public readonly array $boxes;

    /** @var list<int> by node: where its faces begin in the order, −1 where it has children */
    public readonly array $from;

    /** @var list<int> by node: where they end */
    public readonly array $to;

    /** @var list<int> by node: the one after all below it */
    public readonly array $skip;

    /** @param  Mesh  $mesh  in the axes of its body, from its middle */
    public function __construct(Mesh $mesh)
    {
        [$this->x, $this->y, $this->z, $faces] = self::welded($mesh);
        $beyond = FaceNeighbours::beyond($faces);
        $this->closed = count(array_keys($beyond, -1, true)) <= self::OPEN * count($beyond);
        if (! $this->closed) {
            $faces = self::woundAlike($faces);
            $beyond = FaceNeighbours::beyond($faces);
        }
        $this->faces = $faces;
        $this->beyond = $beyond;
        $clean = new Mesh($this->x, $this->y, $this->z, $faces);
        [$nx, $ny, $nz] = FaceNormals::unit(...FaceNormals::perFace($clean));
        $normals = $levels = [];
        foreach ($nx as $f => $n) {
            $p = $faces[3 * $f];
            array_push($normals, $n, $ny[$f], $nz[$f]);
            $levels[] = $n * $this->x[$p] + $ny[$f] * $this->y[$p] + $nz[$f] * $this->z[$p];
        }
        $this->normals = $normals;
        $this->levels = $levels;
        $this->bends = $this->bends();
        $flat = [];
        [$vx, $vy, $vz] = FaceNormals::atPoints($clean);
        foreach ($vx as $p => $v) {
            array_push($flat, $v, $vy[$p], $vz[$p]);
        }
        $this->pointNormals = $flat;
        [$this->nextTo, $this->neighbour] = $this->around();
        $this->box = $this->x === [] ? [0.0, 0.0, 0.0, 0.0, 0.0, 0.0] : [min($this->x), max($this->x), min($this->y), max($this->y), min($this->z), max($this->z)];
        $this->size = max($this->box[1] - $this->box[0], $this->box[3] - $this->box[2], $this->box[5] - $this->box[4]);
        [$this->order, $this->boxes, $this->from, $this->to, $this->skip] = $this->tree();
    }

    /** @return array<string, mixed> all of it, lists packed: to find it again takes far longer than to read it */
    public function __serialize(): array
    {
        $out = [];
        foreach (get_object_vars($this) as $name => $value) {
            $whole = is_array($value) && is_int($value[0] ?? null);
            $out[$name] = is_array($value) ? ($whole ? 'l' : 'e').pack(($whole ? 'l' : 'e').'*', ...$value) : $value;
        }

        return $out;
    }

    /** @param  array<string, mixed>  $data */
    public function __unserialize(array $data): void
    {
        foreach ($data as $name => $value) {
            $this->$name = is_string($value) ? array_values(unpack($value[0].'*', $value, 1) ?: []) : $value;
        }
    }

    /**
     * The faces whose boxes a box meets.
     *
     * @return list<int>
     */
    public function meeting(float $x0, float $x1, float $y0, float $y1, float $z0, float $z1): array
    {
        $boxes = $this->boxes;
        $from = $this->from;
        $skip = $this->skip;
        $order = $this->order;
        $out = [];
        for ($node = 0, $n = count($from); $node < $n;) {
            $k = 6 * $node;
            if (
                $boxes[$k] > $x1
                || $boxes[$k + 1] < $x0
                || $boxes[$k + 2] > $y1
                || $boxes[$k + 3] < $y0
                || $boxes[$k + 4] > $z1
                || $boxes[$k + 5] < $z0
            ) {
                $node = $skip[$node];

                continue;
            }
            if ($from[$node] >= 0) {
                for ($k = $from[$node], $end = $this->to[$node]; $k < $end; $k++) {
                    $out[] = $order[$k];
                }
            }
            $node++;
        }

        return $out;
    }

    /** @return array{float, float, float} the place of a face nearest to a point */
    public function nearestOn(int $face, float $x, float $y, float $z): array
    {
        [$a, $b, $c] = [$this->faces[3 * $face], $this->faces[3 * $face + 1], $this->faces[3 * $face + 2]];

        return self::nearestOf(
            [$this->x[$a], $this->y[$a], $this->z[$a]], [$this->x[$b], $this->y[$b], $this->z[$b]], [$this->x[$c], $this->y[$c], $this->z[$c]],
            $x, $y, $z,
        );
    }

    /**
     * The place of a triangle nearest to a point (Ericson 2005, "Real-time collision detection", 5.1.5).
     *
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @param  array{float, float, float}  $c
     * @return array{float, float, float}
     */
    public static function nearestOf(array $a, array $b, array $c, float $x, float $y, float $z): array
    {
        [$ux, $uy, $uz] = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
        [$vx, $vy, $vz] = [$c[0] - $a[0], $c[1] - $a[1], $c[2] - $a[2]];
        [$wx, $wy, $wz] = [$x - $a[0], $y - $a[1], $z - $a[2]];
        $uu = $ux * $ux + $uy * $uy + $uz * $uz;
        $uv = $ux * $vx + $uy * $vy + $uz * $vz;
        $vv = $vx * $vx + $vy * $vy + $vz * $vz;
        $d1 = $ux * $wx + $uy * $wy + $uz * $wz;
        $d2 = $vx * $wx + $vy * $wy + $vz * $wz;
        $det = $uu * $vv - $uv * $uv;
        $p = $vv * $d1 - $uv * $d2;
        $q = $uu * $d2 - $uv * $d1;
        if ($det > 0.0 && $p >= 0.0 && $q >= 0.0 && $p + $q <= $det) {
            $p /= $det;
            $q /= $det;
        } else {
            // Nearest on each of the three sides.
            $p = $uu > 0.0 ? min(1.0, max(0.0, $d1 / $uu)) : 0.0;
            $q = 0.0;
            $least = $p * ($p * $uu - 2.0 * $d1);
            $t = $vv > 0.0 ? min(1.0, max(0.0, $d2 / $vv)) : 0.0;
            if ($t * ($t * $vv - 2.0 * $d2) < $least) {
                $least = $t * ($t * $vv - 2.0 * $d2);
                $p = 0.0;
                $q = $t;
            }
            $third = $uu - 2.0 * $uv + $vv;
            $t = $third > 0.0 ? min(1.0, max(0.0, ($uu - $uv - $d1 + $d2) / $third)) : 0.0;
            $r = 1.0 - $t;
            if ($r * ($r * $uu - 2.0 * $d1) + $t * ($t * $vv - 2.0 * $d2) + 2.0 * $t * $r * $uv < $least) {
                $p = $r;
                $q = $t;
            }
        }

        return [$a[0] + $p * $ux + $q * $vx, $a[1] + $p * $uy + $q * $vy, $a[2] + $p * $uz + $q * $vz];
    }

    /** @return array{list<float>, list<float>, list<float>, list<int>} points, those at one place being one, and faces that have an area */
    public static function welded(Mesh $mesh): array
    {
        $x = $y = $z = $number = $at = [];
        foreach ($mesh->x as $i => $v) {
            // A zero has two signs.
            $key = pack('d3', $v + 0.0, $mesh->y[$i] + 0.0, $mesh->z[$i] + 0.0);
            if (! isset($at[$key])) {
                $at[$key] = count($x);
                $x[] = $v;
                $y[] = $mesh->y[$i];
                $z[] = $mesh->z[$i];
            }
            $number[] = $at[$key];
        }
        $faces = [];
        for ($k = 0, $n = count($mesh->faces); $k < $n; $k += 3) {
            $a = $number[$mesh->faces[$k]];
            $b = $number[$mesh->faces[$k + 1]];
            $c = $number[$mesh->faces[$k + 2]];
            if ($a === $b || $b === $c || $c === $a) {
                continue;
            }
            [$nx, $ny, $nz] = FaceNormals::ofFace($x, $y, $z, $a, $b, $c);
            if ($nx * $nx + $ny * $ny + $nz * $nz > 1e-40) {
                array_push($faces, $a, $b, $c);
            }
        }

        return [$x, $y, $z, $faces];
    }

    /**
     * The faces of each part of a sheet, wound as the first of it is.
     *
     * @param  list<int>  $faces
     * @return list<int>
     */
    private static function woundAlike(array $faces): array
    {
        $sides = [];
        for ($k = 0, $n = count($faces); $k < $n; $k++) {
            $p = $faces[$k];
            $q = $faces[$k % 3 === 2 ? $k - 2 : $k + 1];
            $sides[min($p, $q) << 31 | max($p, $q)][] = [intdiv($k, 3), $p < $q];
        }
        $next = [];
        foreach ($sides as $pair) {
            if (count($pair) === 2) {
                [[$f, $forth], [$g, $back]] = $pair;
                $next[$f][] = [$g, $forth === $back];
                $next[$g][] = [$f, $forth === $back];
            }
        }
        $turned = [];
        for ($start = 0, $count = intdiv($n, 3); $start < $count; $start++) {
            if (isset($turned[$start])) {
                continue;
            }
            $turned[$start] = false;
            for ($list = [$start], $i = 0; $i < count($list); $i++) {
                $f = $list[$i];
                foreach ($next[$f] ?? [] as [$g, $disagrees]) {
                    if (! isset($turned[$g])) {
                        $turned[$g] = $turned[$f] !== $disagrees;
                        $list[] = $g;
                    }
                }
            }
        }
        foreach ($turned as $f => $is) {
            if ($is) {
                [$faces[3 * $f + 1], $faces[3 * $f + 2]] = [$faces[3 * $f + 2], $faces[3 * $f + 1]];
            }
        }

        return array_values($faces);
    }

    /** @return list<int> */
    private function bends(): array
    {
        $out = [];
        foreach ($this->beyond as $k => $g) {
            if ($g < 0) {
                // A solid that is not quite whole has no rims.
                $out[] = $this->closed ? 0 : 2;

                continue;
            }
            $f = 3 * intdiv($k, 3);
            $p = $this->faces[$k];
            $q = $this->faces[$k % 3 === 2 ? $k - 2 : $k + 1];
            [$ax, $ay, $az] = [$this->normals[$f], $this->normals[$f + 1], $this->normals[$f + 2]];
            [$bx, $by, $bz] = [$this->normals[3 * $g], $this->normals[3 * $g + 1], $this->normals[3 * $g + 2]];
            [$ux, $uy, $uz] = [$this->x[$q] - $this->x[$p], $this->y[$q] - $this->y[$p], $this->z[$q] - $this->z[$p]];
            $sine = (($ay * $bz - $az * $by) * $ux + ($az * $bx - $ax * $bz) * $uy + ($ax * $by - $ay * $bx) * $uz) / sqrt($ux * $ux + $uy * $uy + $uz * $uz);
            $folded = $ax * $bx + $ay * $by + $az * $bz < 0.0;
            $out[] = $sine > self::FLAT || $folded && $sine >= 0.0 ? 1 : ($sine < -self::FLAT || $folded ? -1 : 0);
        }

        return $out;
    }

    /** @return array{list<int>, list<int>} */
    private function around(): array
    {
        $at = array_fill(0, count($this->x), []);
        foreach ($this->faces as $k => $p) {
            $q = $this->faces[$k % 3 === 2 ? $k - 2 : $k + 1];
            $at[$p][$q] = $at[$q][$p] = true;
        }
        $start = [0];
        $out = [];
        foreach ($at as $near) {
            foreach ($near as $q => $_) {
                $out[] = $q;
            }
            $start[] = count($out);
        }

        return [$start, $out];
    }

    /** @return array{list<int>, list<float>, list<int>, list<int>, list<int>} */
    private function tree(): array
    {
        $n = count($this->levels);
        if ($n === 0) {
            return [[], [], [], [], []];
        }
        $along = [[], [], []];
        foreach ([$this->x, $this->y, $this->z] as $axis => $v) {
            for ($k = 0; $k < 3 * $n; $k += 3) {
                $along[$axis][] = $v[$this->faces[$k]] + $v[$this->faces[$k + 1]] + $v[$this->faces[$k + 2]];
            }
        }
        $order = $boxes = $from = $to = [];
        // Nodes in the order of a walk: a node, all below its first half, all below its second.
        $stack = [range(0, $n - 1)];
        while ($stack !== []) {
            /** @var non-empty-list<int> $list */
            $list = array_pop($stack);
            $start = count($order);
            array_push($boxes, ...$this->boxOf($list));
            $to[] = count($list);
            if (count($list) <= self::LEAF) {
                $from[] = $start;
                array_push($order, ...$list);

                continue;
            }
            $from[] = -1;
            $sorted = self::along($list, $along);
            $half = count($sorted) >> 1;
            $stack[] = array_slice($sorted, $half);
            $stack[] = array_slice($sorted, 0, $half);
        }
        $skip = array_fill(0, count($from), 0);
        // A node's two halves follow it; so what comes after it is known from the last backwards.
        for ($k = count($from) - 1; $k >= 0; $k--) {
            $skip[$k] = $from[$k] >= 0 ? $k + 1 : $skip[$skip[$k + 1]];
            $to[$k] += max(0, $from[$k]);
        }

        return [$order, $boxes, $from, $to, $skip];
    }

    /**
     * @param  non-empty-list<int>  $list  faces
     * @return list<float> as `box`
     */
    private function boxOf(array $list): array
    {
        $out = [];
        foreach ([$this->x, $this->y, $this->z] as $v) {
            $low = INF;
            $high = -INF;
            foreach ($list as $f) {
                for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                    $value = $v[$this->faces[$k]];
                    $low = $value < $low ? $value : $low;
                    $high = $value > $high ? $value : $high;
                }
            }
            $out[] = $low;
            $out[] = $high;
        }

        return $out;
    }

    /**
     * Faces in order along the axis they spread most on.
     *
     * @param  non-empty-list<int>  $list
     * @param  array{list<float>, list<float>, list<float>}  $along  of each face, along each axis
     * @return list<int>
     */
    private static function along(array $list, array $along): array
    {
        $best = [];
        $widest = -1.0;
        foreach ($along as $values) {
            $keys = [];
            foreach ($list as $f) {
                $keys[$f] = $values[$f];
            }
            $wide = max($keys) - min($keys);
            if ($wide > $widest) {
                $widest = $wide;
                $best = $keys;
            }
        }
        asort($best);

        return array_keys($best);
    }
}
