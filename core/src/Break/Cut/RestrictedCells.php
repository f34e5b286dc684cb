<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

use YardBreak\Core\Geometry\PlanarTriangulation;

/**
 * Cuts a closed mesh into the cells of a complex of convex cells.
 *
 * Clipping the mesh by every plane of every cell would cost cells × faces. Instead the complex is restricted
 * to the solid (Yan, Wang, Lévy & Liu 2013, "Efficient computation of clipped Voronoi diagram for mesh
 * generation"): its surface is cut first, and each inner wall between two cells is triangulated once and used from
 * both sides. Points within are named by the nodes of the complex, as those of the surface are by what makes them.
 */
final class RestrictedCells
{
    /** Walls with more points round them get some within, so far apart: as shares of their extent, and of that by the number of points. */
    private const FEW = 16;

    private const COARSEST = 0.1;

    private const STEPS = 6.0;

    /** @var list<float> */
    private array $px;

    /** @var list<float> */
    private array $py;

    /** @var list<float> */
    private array $pz;

    /** @var list<list<int>> flat triples of points, a list a cell */
    private array $cellFaces = [];

    /** @var list<list<int>> what each face is part of, see Cut */
    private array $cellOrigins = [];

    /** @var list<array{float, float, float}> */
    private array $wallNormals = [];

    /** @var list<int> */
    private array $run;

    /** @var list<int> */
    private array $start;

    /** @var array<int, array<int, int>> pair of cells → directed segments of their common wall */
    private array $walls = [];

    /** @var array<int, list<int>> line of the complex → points where it passes the surface */
    private array $crossings = [];

    /** @var list<int> the piece each cell belongs to, −1 for none */
    private array $groups;

    /**
     * @param  list<float>  $x  mesh vertices, within the unit box about the origin
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces  closed, consistently oriented
     * @param  list<int>|(\Closure(list<array{int, int}>): list<int>)|null  $groups  by cell; cells of one group become one piece, those of −1 are left
     *   out; may depend on which cells meet within the solid
     * @param  Relief|null  $relief  what the walls between pieces are given
     *
     * @throws \UnexpectedValueException where a near-degenerate position was met: jitter the complex and try again
     */
    public function __construct(
        array $x,
        array $y,
        array $z,
        array $faces,
        CellComplex $complex,
        array|\Closure|null $groups = null,
        private readonly ?Relief $relief = null,
    ) {
        [$this->start, $this->run] = $complex->neighbours();
        $count = count($this->start) - 1;
        $planes = $complex->planes();
        $surface = new RestrictedSurface($x, $y, $z, $faces, $complex);
        [$this->px, $this->py, $this->pz] = [$surface->px, $surface->py, $surface->pz];
        [$this->cellFaces, $this->cellOrigins, $this->walls, $this->crossings] = [$surface->faces, $surface->origins, $surface->walls, $surface->crossings];
        // Let go of, so that what follows is written in place.
        unset($surface);
        $complex->addInnerLines($this->walls, $this->crossings, $this->px, $this->py, $this->pz);
        $this->crossings = [];
        $this->groups = $groups instanceof \Closure
            ? $groups(array_map(static fn (int $pair): array => [intdiv($pair, $count), $pair % $count], array_keys($this->walls)))
            : $groups ?? range(0, $count - 1);
        $this->closeWalls($planes);
    }

    /** @param  list<int>|null  $sides  by cell: the side its part of the surface is on, 0 for that it had */
    public function cut(?array $sides = null): Cut
    {
        $faces = $origins = $on = array_fill(0, max(0, ...$this->groups) + 1, []);
        foreach ($this->groups as $cell => $group) {
            if ($group >= 0 && $this->cellFaces[$cell] !== []) {
                // Appended in place: merging would copy a large group for each of its cells.
                array_push($faces[$group], ...$this->cellFaces[$cell]);
                array_push($origins[$group], ...$this->cellOrigins[$cell]);
                if ($sides !== null) {
                    array_push($on[$group], ...array_fill(0, count($this->cellOrigins[$cell]), $sides[$cell]));
                }
            }
        }

        return new Cut($this->px, $this->py, $this->pz, $faces, $origins, $this->wallNormals, $sides === null ? null : $on);
    }

    /**
     * Chains each wall's segments into loops, triangulates it, and gives it to both cells.
     *
     * @param  list<float>  $planes
     */
    private function closeWalls(array $planes): void
    {
        $cells = count($this->start) - 1;
        $px = $this->px;
        $py = $this->py;
        $pz = $this->pz;
        $this->px = $this->py = $this->pz = [];
        $groups = $this->groups;
        $cellFaces = $this->cellFaces;
        $cellOrigins = $this->cellOrigins;
        $this->cellFaces = $this->cellOrigins = [];
        foreach ($this->walls as $pair => $next) {
            $i = intdiv($pair, $cells);
            $j = $pair % $cells;
            if ($groups[$i] === $groups[$j]) {
                continue;
            }
            for ($k = $this->start[$i]; $this->run[$k] !== $j; $k++) {
            }
            $nx = -$planes[4 * $k];
            $ny = -$planes[4 * $k + 1];
            $nz = -$planes[4 * $k + 2];
            // Two axes in the plane, the pair and the normal right-handed.
            if (abs($nx) <= abs($ny) && abs($nx) <= abs($nz)) {
                $ax = 0.0;
                $ay = $nz;
                $az = -$ny;
            } elseif (abs($ny) <= abs($nz)) {
                $ax = -$nz;
                $ay = 0.0;
                $az = $nx;
            } else {
                $ax = $ny;
                $ay = -$nx;
                $az = 0.0;
            }
            $l = 1.0 / sqrt($ax * $ax + $ay * $ay + $az * $az);
            $ax *= $l;
            $ay *= $l;
            $az *= $l;
            $l = 1.0 / sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $bx = ($ny * $az - $nz * $ay) * $l;
            $by = ($nz * $ax - $nx * $az) * $l;
            $bz = ($nx * $ay - $ny * $ax) * $l;
            $loops = Rim::loops($next);
            $u = $v = [];
            foreach ($loops as $loop) {
                foreach ($loop as $at) {
                    $u[$at] = $ax * $px[$at] + $ay * $py[$at] + $az * $pz[$at];
                    $v[$at] = $bx * $px[$at] + $by * $py[$at] + $bz * $pz[$at];
                }
            }
            $tri = PlanarTriangulation::of($loops, $u, $v);
            $wall = count($this->wallNormals);
            if ($this->relief === null) {
                $this->wallNormals[] = [$nx * $l, $ny * $l, $nz * $l];
                $points = count($u);
                if ($points > self::FEW) {
                    $extent = max(max($u) - min($u), max($v) - min($v));
                    $tri = Relief::filled(
                        $tri,
                        $u,
                        $v,
                        [$ax, $ay, $az],
                        [$bx, $by, $bz],
                        [$nx * $l, $ny * $l, $nz * $l],
                        $px,
                        $py,
                        $pz,
                        max(self::COARSEST * $extent, self::STEPS * $extent / $points),
                    );
                }
            } else {
                $this->wallNormals[] = [0.0, 0.0, 0.0];
                $tri = $this->relief->over($tri, $u, $v, [$ax, $ay, $az], [$bx, $by, $bz], [$nx * $l, $ny * $l, $nz * $l], $px, $py, $pz);
            }
            for ($k = 0, $n = count($tri); $k < $n; $k += 3) {
                $cellFaces[$i][] = $tri[$k];
                $cellFaces[$i][] = $tri[$k + 1];
                $cellFaces[$i][] = $tri[$k + 2];
                $cellOrigins[$i][] = -1 - 2 * $wall;
                $cellFaces[$j][] = $tri[$k];
                $cellFaces[$j][] = $tri[$k + 2];
                $cellFaces[$j][] = $tri[$k + 1];
                $cellOrigins[$j][] = -2 - 2 * $wall;
            }
        }
        $this->walls = [];
        $this->px = $px;
        $this->py = $py;
        $this->pz = $pz;
        $this->cellFaces = $cellFaces;
        $this->cellOrigins = $cellOrigins;
    }
}
