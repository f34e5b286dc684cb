<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Geometry\FaceNeighbours;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\SamePlaces;
use YardBreak\Core\Geometry\SurfaceTree;

/** The true surface of a piece about its middle, asked for many points at once. */
final class Obstacle
{
    /** From so many faces on, a grid turns away what is far off. */
    private const GRID_FROM = 600;

    private ?SurfaceTree $tree = null;

    private ?Creases $creases = null;

    private SpaceGrid|false|null $grid = null;

    private ?bool $open = null;

    /** @var array{float, float, float, float, float, float} low and high corner of its box */
    public readonly array $box;

    public function __construct(private readonly Mesh $mesh)
    {
        $this->box = [min($mesh->x), min($mesh->y), min($mesh->z), max($mesh->x), max($mesh->y), max($mesh->z)];
    }

    /**
     * Distances of points in its own coordinates, below zero inside, or behind it where it is open, and which way the surface looks there.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  float  $within  metres; what is farther outside is not looked for
     * @return array{list<int>, list<float>, list<float>, list<float>, list<float>} numbers of the points that are within, their distances, and x, y and z
     *   of the normals
     */
    public function near(array $x, array $y, array $z, float $within): array
    {
        if ($this->grid === null) {
            $this->grid = $this->mesh->faceCount() < self::GRID_FROM ? false : SpaceGrid::of($this->mesh, $this->box);
        }
        // What is not surely outside may lie inside, deeper than the reach.
        [$outside, $unsure] = $this->grid === false ? self::inBox($x, $y, $z, $this->box, $within) : $this->grid->near($x, $y, $z, $within);
        if ($outside === [] && $unsure === []) {
            return [[], [], [], [], []];
        }
        $tree = $this->tree ??= new SurfaceTree($this->mesh);
        $ids = $distance = $nx = $ny = $nz = [];
        $inside = array_fill_keys($unsure, true);
        // Of few faces all may as well be looked at once as some of them twice.
        [$first, $farther] = $this->grid === false ? [INF, []] : [$within, [$this->grid->cell(), 4.0 * $this->grid->cell(), INF]];
        $ask = [...$outside, ...$unsure];
        for ($reach = $first; $ask !== []; $reach = max($reach, (float) array_shift($farther))) {
            $px = $py = $pz = [];
            foreach ($ask as $i) {
                $px[] = $x[$i];
                $py[] = $y[$i];
                $pz[] = $z[$i];
            }
            $found = $tree->nearest($px, $py, $pz, $reach);
            $signed = $tree->signed($px, $py, $pz, $found);
            $deeper = [];
            foreach ($found->face as $k => $face) {
                if ($face < 0) {
                    if (isset($inside[$ask[$k]]) && $farther !== []) {
                        $deeper[] = $ask[$k];
                    }

                    continue;
                }
                $d = $signed[$k];
                if ($d > $within || $d < -$within && $this->isOpen()) {
                    continue;
                }
                [$ux, $uy, $uz] = $this->normal($tree, $face, $found->s[$k], $found->t[$k], $px[$k], $py[$k], $pz[$k], $d);
                $ids[] = $ask[$k];
                $distance[] = $d;
                $nx[] = $ux;
                $ny[] = $uy;
                $nz[] = $uz;
            }
            $ask = $deeper;
        }

        return [$ids, $distance, $nx, $ny, $nz];
    }

    /** Whether it encloses nothing: it has a face to one side only of some edge. */
    public function isOpen(): bool
    {
        if ($this->open === null) {
            $same = SamePlaces::of($this->mesh);
            $this->open = in_array(-1, FaceNeighbours::beyond(array_map(static fn (int $p): int => $same[$p], $this->mesh->faces)), true);
        }

        return $this->open;
    }

    /** Its corners and convex edges. */
    public function creases(): Creases
    {
        return $this->creases ??= Creases::of($this->mesh);
    }

    /** @return array{float, float, float} */
    private function normal(SurfaceTree $tree, int $face, float $s, float $t, float $x, float $y, float $z, float $distance): array
    {
        [$a, $b, $c] = $tree->corners($face);
        $m = $this->mesh;
        $r = 1.0 - $s - $t;
        if (abs($distance) > 1e-9) {
            return [
                ($x - $r * $m->x[$a] - $s * $m->x[$b] - $t * $m->x[$c]) / $distance,
                ($y - $r * $m->y[$a] - $s * $m->y[$b] - $t * $m->y[$c]) / $distance,
                ($z - $r * $m->z[$a] - $s * $m->z[$b] - $t * $m->z[$c]) / $distance,
            ];
        }
        [$nx, $ny, $nz] = FaceNormals::ofFace($m->x, $m->y, $m->z, $a, $b, $c);
        $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);

        return $l > 0.0 ? [$nx / $l, $ny / $l, $nz / $l] : [0.0, 1.0, 0.0];
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  array{float, float, float, float, float, float}  $box
     * @return array{list<int>, list<int>} numbers of the points that are nearer to the box, and of those in it
     */
    private static function inBox(array $x, array $y, array $z, array $box, float $within): array
    {
        [$x0, $y0, $z0, $x1, $y1, $z1] = $box;
        $out = $in = [];
        foreach ($x as $i => $u) {
            if ($u >= $x0 - $within && $u <= $x1 + $within) {
                $v = $y[$i];
                $w = $z[$i];
                if ($v >= $y0 - $within && $v <= $y1 + $within && $w >= $z0 - $within && $w <= $z1 + $within) {
                    if ($u > $x0 && $u < $x1 && $v > $y0 && $v < $y1 && $w > $z0 && $w < $z1) {
                        $in[] = $i;
                    } else {
                        $out[] = $i;
                    }
                }
            }
        }

        return [$out, $in];
    }
}
