<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;

/**
 * Places of a surface at which is looked how deep it lies inside a hull, and its faces as far as they matter for that: points
 * nearer to each other than a share of the depth are one.
 *
 * A place is a little inside its face, so that a cut along the edge of faces leaves it on the side of its own. Where faces are cut,
 * there are more of them.
 */
final class SurfacePlaces
{
    /** Points at most; where there are more, they are taken together over larger lengths. */
    private const MOST = 100;

    /** Share of the depth allowed within which points are one. */
    private const TOGETHER = 0.25;

    /** Cosine from which faces at a point look the same way. */
    private const ALIKE = 0.9;

    /** Share of the way from a corner to the middle of its face. */
    private const INSIDE = 0.01;

    /** Share of the depth allowed below which it need not be known more closely. */
    private const SLIGHT = 0.2;

    /** Share of the size below which a length is nothing. */
    public const NOTHING = 1e-9;

    /** Share of the size that places beside a cut are away from it. */
    private const BESIDE = 1e-4;

    /** Share of the size from which a face is looked at between its corners. */
    private const LONG = 0.12;

    /** Places along a long side at most. */
    private const ALONG = 6;

    /** The nine pairs of opposite directions of a cube's faces and edges, and the four of its corners: unit vectors. */
    private const DIRECTIONS = [
        [1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [M_SQRT1_2, M_SQRT1_2, 0.0], [M_SQRT1_2, -M_SQRT1_2, 0.0], [M_SQRT1_2, 0.0, M_SQRT1_2],
        [M_SQRT1_2, 0.0, -M_SQRT1_2], [0.0, M_SQRT1_2, M_SQRT1_2], [0.0, M_SQRT1_2, -M_SQRT1_2], [self::THIRD, self::THIRD, self::THIRD],
        [self::THIRD, self::THIRD, -self::THIRD], [self::THIRD, -self::THIRD, self::THIRD], [-self::THIRD, self::THIRD, self::THIRD],
    ];

    private const THIRD = 0.57735026918962576;

    /** Of those directions, three at a time at right angles. */
    private const FRAMES = [[0, 1, 2], [3, 4, 2], [5, 6, 1], [7, 8, 0]];

    /** Cosine from which a place looks at a side. */
    private const LEAST = 0.05;

    /** Cosine from which a direction counts as that of a cut. */
    private const AS_CUT = 0.8;

    /** @var list<list<float>> corners of each face, one after the other */
    public readonly array $faces;

    /** @var list<float> */
    public array $x = [];

    /** @var list<float> */
    public array $y = [];

    /** @var list<float> */
    public array $z = [];

    /** @var list<float> what of its face each is nearest to: a corner, where it is one */
    public array $cornerX = [];

    /** @var list<float> */
    public array $cornerY = [];

    /** @var list<float> */
    public array $cornerZ = [];

    /** @var list<float> unit normals */
    public array $nx = [];

    /** @var list<float> */
    public array $ny = [];

    /** @var list<float> */
    public array $nz = [];

    /** @var list<float> square metres that each stands for */
    private array $area = [];

    /** @var list<list<float>> by direction: how far each lies along it */
    private array $along = [];

    /** @var list<list<float>> by direction: the cosine with which each looks that way */
    private array $looks = [];

    public function __construct(Mesh $mesh, private readonly float $size, private readonly float $within)
    {
        [$px, $py, $pz, $corners] = $this->together($mesh);
        $faces = $at = [];
        for ($f = 0, $n = count($corners); $f < $n; $f += 3) {
            [$a, $b, $c] = [$corners[$f], $corners[$f + 1], $corners[$f + 2]];
            [$ux, $uy, $uz] = FaceNormals::ofFace($px, $py, $pz, $a, $b, $c);
            $twice = sqrt($ux * $ux + $uy * $uy + $uz * $uz);
            if ($twice < 1e-10 * $size * $size) {
                continue;
            }
            $normal = [$ux / $twice, $uy / $twice, $uz / $twice];
            $face = [$px[$a], $py[$a], $pz[$a], $px[$b], $py[$b], $pz[$b], $px[$c], $py[$c], $pz[$c]];
            $faces[] = $face;
            $places = self::placesOn($face, $size);
            $area = 0.5 * $twice / count($places);
            foreach ($places as $k => $place) {
                if ($k > 2) {
                    $this->add($place, $place, $normal, $area);

                    continue;
                }
                $p = $corners[$f + $k];
                $s = $this->alike($at[$p] ?? [], $normal);
                if ($s === null) {
                    $at[$p][] = $this->add($place, [$face[3 * $k], $face[3 * $k + 1], $face[3 * $k + 2]], $normal, $area);
                } else {
                    $this->area[$s] += $area;
                }
            }
        }
        $this->faces = $faces;
    }

    /**
     * Faces about a point that look alike have one place there.
     *
     * @param  list<int>  $places
     * @param  array{float, float, float}  $normal
     */
    private function alike(array $places, array $normal): ?int
    {
        foreach ($places as $s) {
            if ($this->nx[$s] * $normal[0] + $this->ny[$s] * $normal[1] + $this->nz[$s] * $normal[2] > self::ALIKE) {
                return $s;
            }
        }

        return null;
    }

    /**
     * @param  array{float, float, float}  $at
     * @param  array{float, float, float}  $corner  that it is nearest to
     * @param  array{float, float, float}  $normal
     * @return int its number
     */
    private function add(array $at, array $corner, array $normal, float $area): int
    {
        [$this->x[], $this->y[], $this->z[]] = $at;
        [$this->cornerX[], $this->cornerY[], $this->cornerZ[]] = $corner;
        [$this->nx[], $this->ny[], $this->nz[]] = $normal;
        $this->area[] = $area;

        return count($this->area) - 1;
    }

    /** Sees all places from the directions: only what is cut is looked at so. */
    private function project(): void
    {
        for ($s = count($this->along[0] ?? []), $n = count($this->x); $s < $n; $s++) {
            foreach (self::DIRECTIONS as $d => [$a, $b, $c]) {
                $this->along[$d][] = $a * $this->x[$s] + $b * $this->y[$s] + $c * $this->z[$s];
                $this->looks[$d][] = $a * $this->nx[$s] + $b * $this->ny[$s] + $c * $this->nz[$s];
            }
        }
    }

    /**
     * Places on either side of a cut across long faces: what is left of these on one side may have had none there.
     *
     * @param  list<list<float>>  $faces
     * @param  array{float, float, float, float}  $plane
     * @return list<int>
     */
    public function alongCut(array $faces, array $plane): array
    {
        [$nx, $ny, $nz, $level] = $plane;
        $nothing = self::NOTHING * $this->size;
        $out = [];
        foreach ($faces as $loop) {
            $n = count($loop);
            $ends = [];
            $high = -INF;
            $low = INF;
            [$px, $py, $pz] = [$loop[$n - 3], $loop[$n - 2], $loop[$n - 1]];
            $before = $nx * $px + $ny * $py + $nz * $pz - $level;
            for ($k = 0; $k < $n; $k += 3) {
                [$x, $y, $z] = [$loop[$k], $loop[$k + 1], $loop[$k + 2]];
                $h = $nx * $x + $ny * $y + $nz * $z - $level;
                if ($h * $before < 0.0) {
                    $s = $before / ($before - $h);
                    $ends[] = [$px + $s * ($x - $px), $py + $s * ($y - $py), $pz + $s * ($z - $pz)];
                } elseif (abs($h) <= $nothing) {
                    $ends[] = [$x, $y, $z];
                }
                $high = $h > $high ? $h : $high;
                $low = $h < $low ? $h : $low;
                [$px, $py, $pz, $before] = [$x, $y, $z, $h];
            }
            if (count($ends) === 2 && $high > $nothing && $low < -$nothing && $high - $low > 0.5 * self::LONG * $this->size) {
                array_push($out, ...$this->alongLine($ends[0], $ends[1], self::normal($loop), [$nx, $ny, $nz]));
            }
        }

        return $out;
    }

    /**
     * @param  array{float, float, float}  $from
     * @param  array{float, float, float}  $to
     * @param  array{float, float, float}  $normal  of the face
     * @param  array{float, float, float}  $cut  normal
     * @return list<int>
     */
    private function alongLine(array $from, array $to, array $normal, array $cut): array
    {
        $dot = $normal[0] * $cut[0] + $normal[1] * $cut[1] + $normal[2] * $cut[2];
        $across = [$cut[0] - $dot * $normal[0], $cut[1] - $dot * $normal[1], $cut[2] - $dot * $normal[2]];
        $length = sqrt(($to[0] - $from[0]) ** 2 + ($to[1] - $from[1]) ** 2 + ($to[2] - $from[2]) ** 2);
        $n = max(1, min(self::ALONG, (int) ceil($length / (self::LONG * $this->size))));
        $out = [];
        for ($k = 0; $k <= $n; $k++) {
            $s = self::INSIDE + (1.0 - 2.0 * self::INSIDE) * $k / $n;
            $on = [$from[0] + $s * ($to[0] - $from[0]), $from[1] + $s * ($to[1] - $from[1]), $from[2] + $s * ($to[2] - $from[2])];
            foreach ([-self::BESIDE * $this->size, self::BESIDE * $this->size] as $aside) {
                $out[] = $this->add([$on[0] + $aside * $across[0], $on[1] + $aside * $across[1], $on[2] + $aside * $across[2]], $on, $normal, 0.0);
            }
        }

        return $out;
    }

    /**
     * @param  list<float>  $loop
     * @return array{float, float, float} unit normal of a face of any number of corners, by Newell
     */
    public static function normal(array $loop): array
    {
        $x = $y = $z = 0.0;
        $n = count($loop);
        for ($k = 0, $j = $n - 3; $k < $n; $j = $k, $k += 3) {
            $x += ($loop[$j + 1] - $loop[$k + 1]) * ($loop[$j + 2] + $loop[$k + 2]);
            $y += ($loop[$j + 2] - $loop[$k + 2]) * ($loop[$j] + $loop[$k]);
            $z += ($loop[$j] - $loop[$k]) * ($loop[$j + 1] + $loop[$k + 1]);
        }
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return $length > 0.0 ? [$x / $length, $y / $length, $z / $length] : [0.0, 0.0, 0.0];
    }

    /**
     * The places on either side of a plane; of those in it, those that look its way bound what lies behind it.
     *
     * @param  list<int>  $places
     * @param  array{float, float, float, float}  $plane
     * @return array{list<int>, list<int>} behind it and before it
     */
    public function parted(array $places, array $plane): array
    {
        [$nx, $ny, $nz, $level] = $plane;
        [$x, $y, $z] = [$this->x, $this->y, $this->z];
        [$ux, $uy, $uz] = [$this->nx, $this->ny, $this->nz];
        $nothing = self::NOTHING * $this->size;
        $back = $front = [];
        foreach ($places as $s) {
            $h = $nx * $x[$s] + $ny * $y[$s] + $nz * $z[$s] - $level;
            if ($h < -$nothing || $h <= $nothing && $nx * $ux[$s] + $ny * $uy[$s] + $nz * $uz[$s] > 0.0) {
                $back[] = $s;
            } else {
                $front[] = $s;
            }
        }

        return [$back, $front];
    }

    /**
     * Roughly, from the directions of a cube alone: how large some places are together, and how much lies too deep among them, as
     * seen straight ahead. What a face lies beside is left out, or a slab cut into two thinner ones would seem a gain.
     *
     * @param  list<int>  $places
     * @param  list<array{float, float, float, float}>  $cuts
     * @param  float  $atCut  cosine from which a side that is a cut counts
     * @return array{float, float} cubic metres
     */
    public function glance(array $places, array $cuts, float $atCut): array
    {
        $this->project();
        $wide = [];
        $ahead = array_fill_keys($places, INF);
        foreach (self::DIRECTIONS as $d => [$a, $b, $c]) {
            $along = $this->along[$d];
            $looks = $this->looks[$d];
            $low = INF;
            $high = -INF;
            foreach ($places as $s) {
                $v = $along[$s];
                $low = $v < $low ? $v : $low;
                $high = $v > $high ? $v : $high;
            }
            $wide[] = $high - $low;
            $up = $down = self::LEAST;
            foreach ($cuts as [$nx, $ny, $nz]) {
                $cosine = $a * $nx + $b * $ny + $c * $nz;
                $up = $cosine > self::AS_CUT ? $atCut : $up;
                $down = $cosine < -self::AS_CUT ? $atCut : $down;
            }
            foreach ($places as $s) {
                $look = $looks[$s];
                if ($look > $up) {
                    if ($high - $along[$s] < $ahead[$s] * $look) {
                        $ahead[$s] = ($high - $along[$s]) / $look;
                    }
                } elseif (-$look > $down && $low - $along[$s] > $ahead[$s] * $look) {
                    $ahead[$s] = ($low - $along[$s]) / $look;
                }
            }
        }
        $bulk = 0.0;
        foreach ($ahead as $s => $far) {
            if ($far > $this->within && $far < INF) {
                $bulk += $far * $this->area[$s];
            }
        }
        $volume = INF;
        foreach (self::FRAMES as [$i, $j, $k]) {
            $volume = min($volume, $wide[$i] * $wide[$j] * $wide[$k]);
        }

        return [$volume, $bulk];
    }

    /**
     * @param  list<int>  $places
     * @param  list<float>  $planes  of a hull: normal, level and the cosine from which it counts, five numbers each
     * @param  bool  $all  whether what lies before places that lie deep enough aside of it counts as well: a slab across a hole is no gain
     * @return array{float, list<int>, int, float} metres that the deepest place lies inside, those that lie too deep, the one farthest
     *   from the outside, and cubic metres before all of these
     */
    public function depth(array $places, array $planes, bool $all): array
    {
        [$px, $py, $pz, $nx, $ny, $nz] = [$this->x, $this->y, $this->z, $this->nx, $this->ny, $this->nz];
        $n = count($planes);
        $within = $this->within;
        $floor = self::SLIGHT * $within;
        $deepest = $farthest = $bulk = 0.0;
        $deep = [];
        $at = $places[0] ?? 0;
        foreach ($places as $s) {
            [$x, $y, $z, $ux, $uy, $uz] = [$px[$s], $py[$s], $pz[$s], $nx[$s], $ny[$s], $nz[$s]];
            $depth = $far = INF;
            for ($k = 0; $k < $n; $k += 5) {
                $ax = $planes[$k];
                $ay = $planes[$k + 1];
                $az = $planes[$k + 2];
                $look = $ax * $ux + $ay * $uy + $az * $uz;
                if ($look <= $planes[$k + 4]) {
                    continue;
                }
                $d = $planes[$k + 3] - $ax * $x - $ay * $y - $az * $z;
                if ($d < $depth) {
                    if ($d <= $floor) {
                        continue 2;
                    }
                    $depth = $d;
                }
                if ($look > self::LEAST && $d < $far * $look) {
                    $far = $d / $look;
                }
            }
            if ($depth === INF) {
                continue;
            }
            if ($depth > $deepest) {
                $deepest = $depth;
                if (! $all) {
                    $floor = min($within, max($floor, $depth));
                }
            }
            if ($far > $within && $far < INF) {
                $bulk += $far * $this->area[$s];
            }
            if ($depth > $within) {
                $deep[] = $s;
                if ($far > $farthest) {
                    $farthest = $far;
                    $at = $s;
                }
            }
        }

        return [$deepest, $deep, $at, $bulk];
    }

    /** Square metres of the distance of two. */
    public function between(int $one, int $other): float
    {
        [$x, $y, $z] = [$this->x, $this->y, $this->z];

        return ($x[$one] - $x[$other]) ** 2 + ($y[$one] - $y[$other]) ** 2 + ($z[$one] - $z[$other]) ** 2;
    }

    /**
     * The place that is nearest to the middle of all.
     *
     * @param  list<int>  $places
     */
    public function amidst(array $places): int
    {
        [$x, $y, $z] = [$this->x, $this->y, $this->z];
        $mx = $my = $mz = 0.0;
        foreach ($places as $s) {
            $mx += $x[$s];
            $my += $y[$s];
            $mz += $z[$s];
        }
        $n = max(1, count($places));
        $best = INF;
        $out = $places[0] ?? 0;
        foreach ($places as $s) {
            $d = ($x[$s] - $mx / $n) ** 2 + ($y[$s] - $my / $n) ** 2 + ($z[$s] - $mz / $n) ** 2;
            if ($d < $best) {
                $best = $d;
                $out = $s;
            }
        }

        return $out;
    }

    /**
     * @param  list<int>  $all
     * @return list<int> so many at most, spread among them
     */
    public static function some(array $all, int $most): array
    {
        $n = count($all);
        if ($n <= $most) {
            return $all;
        }
        $out = [];
        for ($k = 0; $k < $most; $k++) {
            $out[] = $all[intdiv($k * $n, $most)];
        }

        return $out;
    }

    /**
     * Places of a face: its corners first, and between them where it is long.
     *
     * @param  list<float>  $t
     * @return list<array{float, float, float}>
     */
    private static function placesOn(array $t, float $size): array
    {
        $long = 0.0;
        for ($k = 0; $k < 9; $k += 3) {
            $m = ($k + 3) % 9;
            $long = max($long, abs($t[$k] - $t[$m]), abs($t[$k + 1] - $t[$m + 1]), abs($t[$k + 2] - $t[$m + 2]));
        }
        $n = max(1, min(self::ALONG, (int) ceil($long / (self::LONG * $size))));
        $corners = $between = [];
        for ($i = 0; $i <= $n; $i++) {
            for ($k = 0; $k <= $n - $i; $k++) {
                $u = self::INSIDE + (1.0 - 3.0 * self::INSIDE) * $i / $n;
                $v = self::INSIDE + (1.0 - 3.0 * self::INSIDE) * $k / $n;
                $w = 1.0 - $u - $v;
                $place = [$w * $t[0] + $u * $t[3] + $v * $t[6], $w * $t[1] + $u * $t[4] + $v * $t[7], $w * $t[2] + $u * $t[5] + $v * $t[8]];
                if ($i === $n) {
                    $corners[1] = $place;
                } elseif ($k === $n) {
                    $corners[2] = $place;
                } elseif ($i + $k === 0) {
                    $corners[0] = $place;
                } else {
                    $between[] = $place;
                }
            }
        }
        ksort($corners);

        return [...$corners, ...$between];
    }

    /** @return array{list<float>, list<float>, list<float>, list<int>} points and the faces that are left */
    private function together(Mesh $mesh): array
    {
        for ($cell = self::TOGETHER * $this->within; ; $cell *= 1.5) {
            $x = $y = $z = $number = $at = [];
            foreach ($mesh->x as $i => $v) {
                $key = ((int) floor($v / $cell) + 0x80000) << 40 | ((int) floor($mesh->y[$i] / $cell) + 0x80000) << 20 | (int) floor($mesh->z[$i] / $cell) + 0x80000;
                if (! isset($at[$key])) {
                    $at[$key] = count($x);
                    $x[] = $v;
                    $y[] = $mesh->y[$i];
                    $z[] = $mesh->z[$i];
                }
                $number[] = $at[$key];
            }
            if (count($x) <= self::MOST || $cell > 0.6 * $this->within) {
                break;
            }
        }
        $faces = [];
        for ($k = 0, $n = count($mesh->faces); $k < $n; $k += 3) {
            [$a, $b, $c] = [$number[$mesh->faces[$k]], $number[$mesh->faces[$k + 1]], $number[$mesh->faces[$k + 2]]];
            if ($a !== $b && $b !== $c && $c !== $a) {
                array_push($faces, $a, $b, $c);
            }
        }

        return [$x, $y, $z, $faces];
    }
}
