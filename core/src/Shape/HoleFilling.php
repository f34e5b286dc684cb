<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\PlanarTriangulation;
use YardBreak\Core\Geometry\Vec3;

/**
 * Closes the holes of a mesh. Flat holes are triangulated in their plane, curved ones with the least area between
 * their own points (Barequet & Sharir 1995, "Filling gaps in the boundary of a polyhedron"); where either would
 * need an edge the surface already has, a point is put in the middle and joined to all.
 */
final class HoleFilling
{
    private const FLAT = 1e-3;

    /** Points of a hole up to which the least area is sought; the time grows with their cube. */
    private const MOST_FOR_AREA = 160;

    /** @var list<float> */
    private array $x;

    /** @var list<float> */
    private array $y;

    /** @var list<float> */
    private array $z;

    /** @var list<int> */
    private array $faces;

    /** @var array<int, true> directed edges */
    private array $edges = [];

    private function __construct(Mesh $mesh)
    {
        $this->x = $mesh->x;
        $this->y = $mesh->y;
        $this->z = $mesh->z;
        $this->faces = $mesh->faces;
        for ($i = 0, $n = count($this->faces); $i < $n; $i++) {
            $this->edges[self::edge($this->faces[$i], $this->faces[$i % 3 === 2 ? $i - 2 : $i + 1])] = true;
        }
    }

    public static function of(Mesh $mesh): Mesh
    {
        $self = new self($mesh);
        foreach ($self->loops() as $loop) {
            foreach ($self->triangles($loop) as [$a, $b, $c]) {
                array_push($self->faces, $a, $b, $c);
                $self->edges[self::edge($a, $b)] = $self->edges[self::edge($b, $c)] = $self->edges[self::edge($c, $a)] = true;
            }
        }

        return new Mesh($self->x, $self->y, $self->z, $self->faces);
    }

    private static function edge(int $a, int $b): int
    {
        return $a << 31 | $b;
    }

    /**
     * The rims of the holes, each passing a point at most once.
     *
     * @return list<non-empty-list<int>>
     */
    private function loops(): array
    {
        $next = [];
        foreach ($this->edges as $key => $_) {
            $p = $key >> 31;
            $q = $key & 0x7FFFFFFF;
            if (! isset($this->edges[self::edge($q, $p)])) {
                $next[$q][] = $p;
            }
        }
        $loops = [];
        while ($next !== []) {
            $way = $at = [];
            $v = array_key_first($next);
            for (; ;) {
                if (isset($at[$v])) {
                    // Back at a point of the way: what lies between is a rim of its own.
                    $loop = array_splice($way, $at[$v]);
                    foreach ($loop as $p) {
                        unset($at[$p]);
                    }
                    if (count($loop) >= 3) {
                        $loops[] = $loop;
                    }
                }
                if (! isset($next[$v])) {
                    break;
                }
                $at[$v] = count($way);
                $way[] = $v;
                $to = array_pop($next[$v]);
                if ($next[$v] === []) {
                    unset($next[$v]);
                }
                $v = $to;
            }
        }

        return $loops;
    }

    /**
     * @param  non-empty-list<int>  $loop
     * @return list<array{int, int, int}>
     */
    private function triangles(array $loop): array
    {
        if (count($loop) > 3) {
            [$u, $v, $astray] = $this->flattened($loop);
            $flat = $astray < self::FLAT ? array_chunk(PlanarTriangulation::of([$loop], $u, $v), 3) : [];
            if ($flat !== [] && $this->isNew($flat, $loop)) {
                /** @var list<array{int, int, int}> $flat */
                return $flat;
            }
            $tight = count($loop) <= self::MOST_FOR_AREA ? $this->leastArea($loop) : null;

            return $tight ?? $this->fan($loop);
        }

        return [[$loop[0], $loop[1], $loop[2]]];
    }

    /**
     * Whether the triangles need no edge within the hole that the surface has already.
     *
     * @param  list<list<int>>  $triangles
     * @param  list<int>  $loop
     */
    private function isNew(array $triangles, array $loop): bool
    {
        $rim = [];
        foreach ($loop as $k => $p) {
            $rim[self::edge($p, $loop[($k + 1) % count($loop)])] = true;
        }
        foreach ($triangles as [$a, $b, $c]) {
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                if (! isset($rim[self::edge($p, $q)]) && (isset($this->edges[self::edge($p, $q)]) || isset($this->edges[self::edge($q, $p)]))) {
                    return false;
                }
            }
        }

        return true;
    }

    /**
     * @param  list<int>  $loop
     * @return list<array{int, int, int}>|null null where every way needs an edge there is already
     */
    private function leastArea(array $loop): ?array
    {
        $n = count($loop);
        $area = array_fill(0, $n, array_fill(0, $n, 0.0));
        $middle = array_fill(0, $n, array_fill(0, $n, -1));
        for ($span = 2; $span < $n; $span++) {
            for ($i = 0; $i + $span < $n; $i++) {
                $k = $i + $span;
                $p = $loop[$i];
                $r = $loop[$k];
                $best = INF;
                if ($span === $n - 1 || ! isset($this->edges[self::edge($p, $r)]) && ! isset($this->edges[self::edge($r, $p)])) {
                    for ($j = $i + 1; $j < $k; $j++) {
                        $sum = $area[$i][$j] + $area[$j][$k];
                        if ($sum < $best) {
                            $sum += $this->area($p, $loop[$j], $r);
                            if ($sum < $best) {
                                $best = $sum;
                                $middle[$i][$k] = $j;
                            }
                        }
                    }
                }
                $area[$i][$k] = $best;
            }
        }
        if ($area[0][$n - 1] === INF) {
            return null;
        }
        $out = [];
        $open = [[0, $n - 1]];
        while ($open !== []) {
            [$i, $k] = array_pop($open);
            if ($k - $i < 2) {
                continue;
            }
            $j = $middle[$i][$k];
            $out[] = [$loop[$i], $loop[$j], $loop[$k]];
            $open[] = [$i, $j];
            $open[] = [$j, $k];
        }

        return $out;
    }

    private function area(int $a, int $b, int $c): float
    {
        $ux = $this->x[$b] - $this->x[$a];
        $uy = $this->y[$b] - $this->y[$a];
        $uz = $this->z[$b] - $this->z[$a];
        $vx = $this->x[$c] - $this->x[$a];
        $vy = $this->y[$c] - $this->y[$a];
        $vz = $this->z[$c] - $this->z[$a];
        $nx = $uy * $vz - $uz * $vy;
        $ny = $uz * $vx - $ux * $vz;
        $nz = $ux * $vy - $uy * $vx;

        return 0.5 * sqrt($nx * $nx + $ny * $ny + $nz * $nz);
    }

    /**
     * @param  non-empty-list<int>  $loop
     * @return list<array{int, int, int}>
     */
    private function fan(array $loop): array
    {
        $n = count($loop);
        $middle = count($this->x);
        $this->x[] = array_sum(array_map(fn (int $p): float => $this->x[$p], $loop)) / $n;
        $this->y[] = array_sum(array_map(fn (int $p): float => $this->y[$p], $loop)) / $n;
        $this->z[] = array_sum(array_map(fn (int $p): float => $this->z[$p], $loop)) / $n;
        $out = [];
        foreach ($loop as $k => $p) {
            $out[] = [$p, $loop[($k + 1) % $n], $middle];
        }

        return $out;
    }

    /**
     * The loop seen along its own mean normal, and how far it strays from its plane as a share of its extent.
     *
     * @param  non-empty-list<int>  $loop
     * @return array{array<int, float>, array<int, float>, float}
     */
    private function flattened(array $loop): array
    {
        $nx = $ny = $nz = 0.0;
        $p = $loop[count($loop) - 1];
        foreach ($loop as $q) {
            $nx += ($this->y[$p] - $this->y[$q]) * ($this->z[$p] + $this->z[$q]);
            $ny += ($this->z[$p] - $this->z[$q]) * ($this->x[$p] + $this->x[$q]);
            $nz += ($this->x[$p] - $this->x[$q]) * ($this->y[$p] + $this->y[$q]);
            $p = $q;
        }
        $n = (new Vec3($nx, $ny, $nz))->unit();
        $a = abs($n->x) < 0.6 ? new Vec3(1, 0, 0) : new Vec3(0, 1, 0);
        $a = $a->minus($n->times($a->dot($n)))->unit();
        $b = $n->cross($a);
        $u = $v = $w = [];
        foreach ($loop as $i) {
            $u[$i] = $a->x * $this->x[$i] + $a->y * $this->y[$i] + $a->z * $this->z[$i];
            $w[] = $n->x * $this->x[$i] + $n->y * $this->y[$i] + $n->z * $this->z[$i];
            $v[$i] = $b->x * $this->x[$i] + $b->y * $this->y[$i] + $b->z * $this->z[$i];
        }

        $extent = max(max($u) - min($u), max($v) - min($v), 1e-30);

        return [$u, $v, (max($w) - min($w)) / $extent];
    }
}
