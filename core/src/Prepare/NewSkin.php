<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\BoxProjection;
use YardBreak\Core\Geometry\Cell;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NearestOnSurface;

/**
 * A closed skin round what a grid holds inside: a point in every cell the skin passes, put where the planes of the old
 * faces meet that cross the cell's edges, so that creases and corners stay sharp (Ju, Losasso, Schaefer & Warren 2002,
 * "Dual contouring of Hermite data"), then drawn onto the old surface, within its cell.
 */
final class NewSkin
{
    /** Share of a cell a point keeps from the cell's sides, lest faces cross. */
    private const KEEP_OFF = 0.02;

    /** Weight of the mean against the planes, a crossing: keeps flat and slightly bent places calm. */
    private const CALM = 0.005;

    /** Cells round an edge along each axis, counter-clockwise seen from its high end, in the two axes after it. */
    private const ROUND = [[-1, -1], [0, -1], [0, 0], [-1, 0]];

    /** @var array<int, int> crossing by edge: its low corner times three, and its axis */
    private array $crossing = [];

    /** @var list<list<float>> where the skin crosses each edge, one list an axis, in grid places */
    private array $at = [[], [], []];

    /** @var list<int> first corner of the face crossed, or −1 */
    private array $face = [];

    /** @var array<int, array<int, int>> point by cell and patch */
    private array $point = [];

    /** @var list<list<float>> in grid places, one list an axis */
    private array $p = [[], [], []];

    /** @var list<bool> whether old faces cross all edges a point stands for */
    private array $bound = [];

    /** @var list<int> the cell of each point */
    private array $home = [];

    /** @var list<float> unit normals of old faces, by first corner */
    private array $normal;

    private function __construct(private readonly Mesh $mesh, private readonly InsideGrid $grid)
    {
        $this->normal = [];
        foreach ($mesh->faces as $c => $_) {
            if ($c % 3 === 0) {
                array_push($this->normal, ...self::unit($mesh, $c));
            }
        }
    }

    public static function round(Mesh $mesh, InsideGrid $grid): Mesh
    {
        $skin = new self($mesh, $grid);
        foreach ($grid->skin as $cell => $mask) {
            $skin->place($cell, $mask);
        }
        $skin->draw();

        return $skin->faces();
    }

    /** @return array{float, float, float} */
    private static function unit(Mesh $mesh, int $c): array
    {
        [$a, $b, $d] = [$mesh->faces[$c], $mesh->faces[$c + 1], $mesh->faces[$c + 2]];
        $u = [$mesh->x[$b] - $mesh->x[$a], $mesh->y[$b] - $mesh->y[$a], $mesh->z[$b] - $mesh->z[$a]];
        $v = [$mesh->x[$d] - $mesh->x[$a], $mesh->y[$d] - $mesh->y[$a], $mesh->z[$d] - $mesh->z[$a]];
        $n = [$u[1] * $v[2] - $u[2] * $v[1], $u[2] * $v[0] - $u[0] * $v[2], $u[0] * $v[1] - $u[1] * $v[0]];
        $l = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);

        return $l > 0.0 ? [$n[0] / $l, $n[1] / $l, $n[2] / $l] : [0.0, 0.0, 0.0];
    }

    /** A point for each patch of the skin in a cell. */
    private function place(int $cell, int $mask): void
    {
        $groups = [];
        foreach (InsideGrid::patches($mask) as $e => $patch) {
            if ($patch >= 0) {
                [$low] = InsideGrid::EDGES[$e];
                $groups[$patch][] = $this->crossed(InsideGrid::corner($cell, $low), $e >> 2);
            }
        }
        $places = InsideGrid::places($cell);
        foreach ($groups as $patch => $crossings) {
            $this->point[$cell][$patch] = count($this->home);
            $this->home[] = $cell;
            // Two strips of the skin in one cell keep clear of each other in its middle.
            [$x, $bound] = $this->meeting($crossings, count($groups) > 1);
            $this->bound[] = $bound;
            foreach ($x as $axis => $v) {
                $this->p[$axis][] = self::held($v, $places[$axis]);
            }
        }
    }

    private static function held(float $v, int $place): float
    {
        return max($place + self::KEEP_OFF, min($place + 1 - self::KEEP_OFF, $v));
    }

    /**
     * Where the planes of crossed faces meet, near their mean (least squares), and whether old faces are crossed throughout.
     *
     * @param  list<int>  $crossings
     * @param  bool  $plain  the mean alone
     * @return array{array{float, float, float}, bool}
     */
    private function meeting(array $crossings, bool $plain): array
    {
        $n = count($crossings);
        $m = [0.0, 0.0, 0.0];
        foreach ($crossings as $k) {
            for ($axis = 0; $axis < 3; $axis++) {
                $m[$axis] += $this->at[$axis][$k] / $n;
            }
        }
        if ($plain) {
            return [$m, false];
        }
        $calm = self::CALM * $n;
        $xx = $yy = $zz = $calm;
        $xy = $yz = $zx = $bx = $by = $bz = 0.0;
        $bound = true;
        foreach ($crossings as $k) {
            $f = $this->face[$k];
            if ($f < 0) {
                $bound = false;

                continue;
            }
            [$a, $b, $c] = [$this->normal[$f], $this->normal[$f + 1], $this->normal[$f + 2]];
            $d = $a * ($this->at[0][$k] - $m[0]) + $b * ($this->at[1][$k] - $m[1]) + $c * ($this->at[2][$k] - $m[2]);
            $xx += $a * $a;
            $yy += $b * $b;
            $zz += $c * $c;
            $xy += $a * $b;
            $yz += $b * $c;
            $zx += $c * $a;
            $bx += $a * $d;
            $by += $b * $d;
            $bz += $c * $d;
        }
        $i = $yy * $zz - $yz * $yz;
        $j = $yz * $zx - $xy * $zz;
        $k = $xy * $yz - $yy * $zx;
        $det = $xx * $i + $xy * $j + $zx * $k;

        return [[
            $m[0] + ($bx * $i + $by * $j + $bz * $k) / $det,
            $m[1] + ($bx * $j + $by * ($xx * $zz - $zx * $zx) + $bz * ($zx * $xy - $xx * $yz)) / $det,
            $m[2] + ($bx * $k + $by * ($zx * $xy - $xx * $yz) + $bz * ($xx * $yy - $xy * $xy)) / $det,
        ], $bound];
    }

    /** Where the skin crosses an edge of the grid: at the old face there that looks from inside to outside, or else between the values of its ends. */
    private function crossed(int $corner, int $axis): int
    {
        $key = 3 * $corner + $axis;
        if (isset($this->crossing[$key])) {
            return $this->crossing[$key];
        }
        $from = $this->grid->value[$corner];
        $to = $this->grid->value[$corner + Cell::AXES[$axis]];
        $places = InsideGrid::places($corner);
        $rises = $from > 0.0 ? 1.0 : -1.0;
        $best = -1.0;
        $face = -1;
        $tried = [];
        foreach (self::ROUND as [$du, $dv]) {
            foreach ($this->grid->faces[self::beside($corner, $axis, $du, $dv)] ?? [] as $f) {
                if (isset($tried[$f])) {
                    continue;
                }
                $tried[$f] = true;
                if ($this->normal[$f + $axis] * $rises <= 0.0) {
                    continue;
                }
                $t = $this->struck($f, $places, $axis);
                // The last before the outside.
                if ($t !== null && ($rises > 0.0 ? $t : 1.0 - $t) > $best) {
                    $best = $rises > 0.0 ? $t : 1.0 - $t;
                    $face = $f;
                }
            }
        }
        $t = $face >= 0 ? ($rises > 0.0 ? $best : 1.0 - $best) : ($from !== $to ? max(0.05, min(0.95, $from / ($from - $to))) : 0.5);
        foreach ($places as $k => $v) {
            $this->at[$k][] = $k === $axis ? $v + $t : (float) $v;
        }
        $this->face[] = $face;

        return $this->crossing[$key] = count($this->face) - 1;
    }

    /**
     * @param  array{int, int, int}  $places
     * @return float|null share of the edge at which a face crosses it
     */
    private function struck(int $f, array $places, int $axis): ?float
    {
        $mesh = $this->mesh;
        $of = [$mesh->x, $mesh->y, $mesh->z];
        $u = ($axis + 1) % 3;
        $v = ($axis + 2) % 3;
        $low = $this->grid->low;
        $h = $this->grid->cell;
        $pu = $low[$u] + $places[$u] * $h;
        $pv = $low[$v] + $places[$v] * $h;
        $side = [];
        $total = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $a = $mesh->faces[$f + ($k + 1) % 3];
            $b = $mesh->faces[$f + ($k + 2) % 3];
            $s = ($of[$u][$a] - $pu) * ($of[$v][$b] - $pv) - ($of[$v][$a] - $pv) * ($of[$u][$b] - $pu);
            $side[] = $s;
            $total += $s;
        }
        if ($total === 0.0) {
            return null;
        }
        $w = 0.0;
        foreach ($side as $k => $s) {
            if ($s / $total < -1e-9) {
                return null;
            }
            $w += $s / $total * $of[$axis][$mesh->faces[$f + $k]];
        }
        $t = ($w - $low[$axis]) / $h - $places[$axis];

        return $t >= 0.0 && $t <= 1.0 ? $t : null;
    }

    private static function beside(int $corner, int $axis, int $du, int $dv): int
    {
        return $corner + $du * Cell::AXES[($axis + 1) % 3] + $dv * Cell::AXES[($axis + 2) % 3];
    }

    /** Draws points onto the old surface where it is the skin, each within its cell. */
    private function draw(): void
    {
        $h = $this->grid->cell;
        $low = $this->grid->low;
        $places = [];
        foreach ($this->p as $axis => $list) {
            $places[] = array_map(static fn (float $v): float => $low[$axis] + $v * $h, $list);
        }
        $drawn = (new NearestOnSurface($this->mesh, $h))->drawn($places[0], $places[1], $places[2], $this->bound);
        foreach ($this->home as $k => $cell) {
            if ($this->bound[$k]) {
                foreach (InsideGrid::places($cell) as $axis => $place) {
                    $this->p[$axis][$k] = self::held(($drawn[$axis][$k] - $low[$axis]) / $h, $place);
                }
            }
        }
    }

    /** Four points round every edge the skin crosses make two faces. */
    private function faces(): Mesh
    {
        $faces = $uvs = [];
        foreach ($this->crossing as $key => $k) {
            $axis = $key % 3;
            $corner = intdiv($key, 3);
            $quad = [];
            foreach (self::ROUND as [$du, $dv]) {
                $cell = self::beside($corner, $axis, $du, $dv);
                // The number the edge has in that cell.
                $e = 4 * $axis + ($axis === 1 ? -2 * $du - $dv : -$du - 2 * $dv);
                $quad[] = $this->point[$cell][InsideGrid::patches($this->grid->skin[$cell])[$e]];
            }
            if ($this->grid->value[$corner] <= 0.0) {
                $quad = array_reverse($quad);
            }
            [$a, $b, $c, $d] = $quad;
            $new = $this->off($k, $a, $b, $c, $d) <= $this->off($k, $b, $c, $d, $a) ? [$a, $b, $c, $a, $c, $d] : [$b, $c, $d, $b, $d, $a];
            foreach ($new as $p) {
                $faces[] = $p;
                if ($this->mesh->uvs !== null) {
                    array_push($uvs, ...$this->uv($k, $p));
                }
            }
        }
        $h = $this->grid->cell;
        $out = [];
        foreach ($this->p as $axis => $list) {
            $from = $this->grid->low[$axis];
            $out[] = array_map(static fn (float $v): float => $from + $v * $h, $list);
        }
        $mesh = new Mesh($out[0], $out[1], $out[2], $faces);
        if ($this->mesh->uvs === null) {
            return $mesh;
        }
        foreach (array_keys($uvs, null, true) as $c) {
            $f = intdiv($c, 6);
            $uvs[$c] = BoxProjection::face($mesh->x, $mesh->y, $mesh->z, $faces[3 * $f], $faces[3 * $f + 1], $faces[3 * $f + 2])[$c % 6];
        }

        return $mesh->withUvs($uvs);
    }

    /** How far, in cells, the crossing lies from the nearer of the two faces a quad makes when halved from its first point to its third. */
    private function off(int $k, int $a, int $b, int $c, int $d): float
    {
        $least = INF;
        foreach ([[$a, $b, $c], [$a, $c, $d]] as [$p, $q, $r]) {
            $u = $v = $w = [];
            foreach ($this->p as $axis => $list) {
                $u[] = $list[$q] - $list[$p];
                $v[] = $list[$r] - $list[$p];
                $w[] = $this->at[$axis][$k] - $list[$p];
            }
            $n = [$u[1] * $v[2] - $u[2] * $v[1], $u[2] * $v[0] - $u[0] * $v[2], $u[0] * $v[1] - $u[1] * $v[0]];
            $l = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);
            $least = min($least, $l > 0.0 ? abs($n[0] * $w[0] + $n[1] * $w[1] + $n[2] * $w[2]) / $l : 1.0);
        }

        return $least;
    }

    /** @return array{float|null, float|null} where a point lies in the picture, by the old face its edge crosses */
    private function uv(int $k, int $p): array
    {
        $f = $this->face[$k];
        if ($f < 0) {
            return [null, null];
        }
        $mesh = $this->mesh;
        $h = $this->grid->cell;
        [$a, $b, $c] = [$mesh->faces[$f], $mesh->faces[$f + 1], $mesh->faces[$f + 2]];
        $u = $v = $w = [];
        foreach ([$mesh->x, $mesh->y, $mesh->z] as $axis => $of) {
            $u[] = $of[$b] - $of[$a];
            $v[] = $of[$c] - $of[$a];
            $w[] = $this->grid->low[$axis] + $h * $this->p[$axis][$p] - $of[$a];
        }
        $dot = static fn (array $s, array $t): float => $s[0] * $t[0] + $s[1] * $t[1] + $s[2] * $t[2];
        [$uu, $uv, $vv, $wu, $wv] = [$dot($u, $u), $dot($u, $v), $dot($v, $v), $dot($w, $u), $dot($w, $v)];
        $det = $uu * $vv - $uv * $uv;
        if ($det <= 0.0) {
            return [null, null];
        }
        $s = ($vv * $wu - $uv * $wv) / $det;
        $t = ($uu * $wv - $uv * $wu) / $det;
        $at = static fn (int $i): float => (1.0 - $s - $t) * ($mesh->uvs[2 * $f + $i] ?? 0.0) + $s * ($mesh->uvs[2 * $f + 2 + $i] ?? 0.0) + $t * ($mesh->uvs[2 * $f + 4 + $i] ?? 0.0);

        return [$at(0), $at(1)];
    }
}
