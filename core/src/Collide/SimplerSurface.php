<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\SurfaceTree;
use YardBreak\Core\Geometry\UsedPoints;
use YardBreak\Core\Progress;
use YardBreak\Core\SilentProgress;

/**
 * A surface with fewer faces, off the true one by no more than is allowed: points of a cell become one of them, cells being as
 * large as the surface in them is flat (vertex clustering, Rossignac & Borrel 1993, in an octree). What comes out is measured
 * against what went in, both ways, at points and middles of faces; cells round what is too far off are halved, until nothing is.
 */
final class SimplerSurface
{
    /** Halvings of the longest side, at most. */
    private const DEEPEST = 20;

    /** Share of the allowed deviation that a cell's points may lie off their mean plane to begin with. */
    private const FLAT = 0.5;

    /** Cosine of the angle between normals of a cell and their mean from which it counts as flat. */
    private const ALIKE = 0.7;

    private const ROUNDS = 24;

    /** @var list<float> */
    private array $nx;

    /** @var list<float> */
    private array $ny;

    /** @var list<float> */
    private array $nz;

    /** @var list<int> how often the longest side is halved for the cell of each point */
    private array $level;

    private readonly float $side;

    private function __construct(private readonly Mesh $mesh, private readonly float $deviation)
    {
        [$this->nx, $this->ny, $this->nz] = FaceNormals::atPoints($mesh);
        $this->side = max(max($mesh->x) - min($mesh->x), max($mesh->y) - min($mesh->y), max($mesh->z) - min($mesh->z), 1e-12) * (1.0 + 1e-9);
        $this->level = array_fill(0, count($mesh->x), 0);
        $this->divide(array_keys($mesh->x), 0);
    }

    /** @param  float  $deviation  metres; none leaves it as it is */
    public static function of(Mesh $mesh, float $deviation, Progress $progress = new SilentProgress): Mesh
    {
        if ($deviation <= 0.0) {
            return $mesh;
        }
        [$x, $y, $z, $faces] = ContactSurface::welded($mesh);
        $welded = self::used($faces, $x, $y, $z);

        return $welded->isEmpty() ? $mesh : (new self($welded, $deviation))->found($progress);
    }

    /**
     * @param  list<int>  $faces
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    private static function used(array $faces, array $x, array $y, array $z): Mesh
    {
        [$faces, $x, $y, $z] = UsedPoints::of($faces, $x, $y, $z);

        return new Mesh($x, $y, $z, $faces);
    }

    private function found(Progress $progress): Mesh
    {
        $true = new SurfaceTree($this->mesh);
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $progress->report(1.0 - 0.8 ** $round);
            [$simple, $stands] = $this->drawn();
            $used = self::used($simple->faces, $simple->x, $simple->y, $simple->z);
            $far = $simple->isEmpty() ? array_keys($this->level) : $this->farOff($simple, new SurfaceTree($used), $stands, $true);
            if ($far === []) {
                return $used;
            }
            foreach ($far as $point) {
                $this->level[$point]++;
            }
        }

        return $this->mesh;
    }

    /** @param  list<int>  $points */
    private function divide(array $points, int $level): void
    {
        if (count($points) < 2 || $level === self::DEEPEST || $this->isFlat($points)) {
            foreach ($points as $p) {
                $this->level[$p] = $level;
            }

            return;
        }
        $parts = [];
        foreach ($points as $p) {
            $parts[$this->cell($p, $level + 1)][] = $p;
        }
        foreach ($parts as $part) {
            $this->divide($part, $level + 1);
        }
    }

    /** @param  list<int>  $points */
    private function isFlat(array $points): bool
    {
        $m = $this->mesh;
        $x = $y = $z = $u = $v = $w = 0.0;
        foreach ($points as $p) {
            $x += $m->x[$p];
            $y += $m->y[$p];
            $z += $m->z[$p];
            $u += $this->nx[$p];
            $v += $this->ny[$p];
            $w += $this->nz[$p];
        }
        $length = sqrt($u * $u + $v * $v + $w * $w);
        if ($length < 1e-9) {
            return false;
        }
        [$u, $v, $w] = [$u / $length, $v / $length, $w / $length];
        $mean = ($u * $x + $v * $y + $w * $z) / count($points);
        foreach ($points as $p) {
            if (
                abs($u * $m->x[$p] + $v * $m->y[$p] + $w * $m->z[$p] - $mean) > self::FLAT * $this->deviation
                || $u * $this->nx[$p] + $v * $this->ny[$p] + $w * $this->nz[$p] < self::ALIKE
            ) {
                return false;
            }
        }

        return true;
    }

    /** The cell a point is in once the longest side is halved so often; both sides of a thin wall are told apart. */
    private function cell(int $p, int $level): string
    {
        $m = $this->mesh;
        $k = 2.0 ** $level / $this->side;
        [$u, $v, $w] = [abs($this->nx[$p]), abs($this->ny[$p]), abs($this->nz[$p])];
        $looks = match (true) {
            $u >= $v && $u >= $w => $this->nx[$p] < 0.0 ? 0 : 1,
            $v >= $w => $this->ny[$p] < 0.0 ? 2 : 3,
            default => $this->nz[$p] < 0.0 ? 4 : 5,
        };

        return pack('V4C', (int) floor(($m->x[$p] - $this->mesh->x[0]) * $k), (int) floor(($m->y[$p] - $this->mesh->y[0]) * $k), (int) floor(($m->z[$p] - $this->mesh->z[0]) * $k), $level, $looks);
    }

    /**
     * The surface as the cells now have it.
     *
     * @return array{Mesh, list<int>} it, over the same points, and by point the one that stands for its cell
     */
    private function drawn(): array
    {
        $m = $this->mesh;
        $cells = [];
        foreach ($this->level as $p => $level) {
            $cells[$level > self::DEEPEST ? $p : $this->cell($p, $level)][] = $p;
        }
        $stands = array_fill(0, count($this->level), 0);
        foreach ($cells as $points) {
            $n = count($points);
            $x = $y = $z = 0.0;
            foreach ($points as $p) {
                $x += $m->x[$p] / $n;
                $y += $m->y[$p] / $n;
                $z += $m->z[$p] / $n;
            }
            $nearest = INF;
            $for = $points[0];
            foreach ($points as $p) {
                $d = ($m->x[$p] - $x) ** 2 + ($m->y[$p] - $y) ** 2 + ($m->z[$p] - $z) ** 2;
                if ($d < $nearest) {
                    [$nearest, $for] = [$d, $p];
                }
            }
            foreach ($points as $p) {
                $stands[$p] = $for;
            }
        }
        $faces = $known = [];
        for ($i = 0, $n = count($m->faces); $i < $n; $i += 3) {
            $a = $stands[$m->faces[$i]];
            $b = $stands[$m->faces[$i + 1]];
            $c = $stands[$m->faces[$i + 2]];
            if ($a === $b || $b === $c || $c === $a) {
                continue;
            }
            $least = min($a, $b, $c);
            $key = $least === $a ? "$a $b $c" : ($least === $b ? "$b $c $a" : "$c $a $b");
            if (! isset($known[$key])) {
                $known[$key] = true;
                array_push($faces, $a, $b, $c);
            }
        }

        return [new Mesh($m->x, $m->y, $m->z, $faces), $stands];
    }

    /**
     * @param  Mesh  $simple  over the points of the true surface
     * @param  SurfaceTree  $tree  of it
     * @param  list<int>  $stands  by point: the one that stands for its cell
     * @return list<int> the points of cells that make the surface lie too far off
     */
    private function farOff(Mesh $simple, SurfaceTree $tree, array $stands, SurfaceTree $true): array
    {
        $m = $this->mesh;
        $far = [];
        // What is left of the true surface.
        [$x, $y, $z] = self::middles($m);
        $found = $tree->nearest([...$m->x, ...$x], [...$m->y, ...$y], [...$m->z, ...$z], $this->deviation);
        foreach ($found->distance as $k => $distance) {
            if ($distance >= $this->deviation) {
                $f = 3 * ($k - count($m->x));
                foreach ($f < 0 ? [$k] : [$m->faces[$f], $m->faces[$f + 1], $m->faces[$f + 2]] as $p) {
                    $far[$stands[$p]] = true;
                }
            }
        }
        // What it was not.
        [$x, $y, $z] = self::middles($simple);
        foreach ($true->nearest($x, $y, $z, $this->deviation)->distance as $f => $distance) {
            if ($distance >= $this->deviation) {
                foreach ([0, 1, 2] as $k) {
                    $far[$simple->faces[3 * $f + $k]] = true;
                }
            }
        }

        return array_keys(array_filter($stands, static fn (int $p): bool => isset($far[$p])));
    }

    /** @return array{list<float>, list<float>, list<float>} of the faces */
    private static function middles(Mesh $mesh): array
    {
        $x = $y = $z = [];
        foreach (array_chunk($mesh->faces, 3) as [$a, $b, $c]) {
            $x[] = ($mesh->x[$a] + $mesh->x[$b] + $mesh->x[$c]) / 3.0;
            $y[] = ($mesh->y[$a] + $mesh->y[$b] + $mesh->y[$c]) / 3.0;
            $z[] = ($mesh->z[$a] + $mesh->z[$b] + $mesh->z[$c]) / 3.0;
        }

        return [$x, $y, $z];
    }
}
