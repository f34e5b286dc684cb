<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Break\Cut\Cut;
use YardBreak\Core\Break\Cut\RestrictedSurface;
use YardBreak\Core\Break\Cut\ShardMesher;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Geometry\FaceNeighbours;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\SurfaceSampler;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Weight\Weight;

/**
 * A surface parted into the Voronoi cells of seeds strewn over it, cut exactly through its faces: the restricted
 * diagram of the surface (Yan, Lévy, Liu, Sun & Wang 2009, "Isotropic remeshing with fast and exact computation of
 * restricted Voronoi diagram").
 */
final class SurfaceCells
{
    private const TRIES = 7;

    /** Rounds in which seeds move to the middle of their cells, at most. */
    private const RELAXATIONS = 3;

    /** Random points of the surface a seed, by which the middle of its cell is known. */
    private const SAMPLES = 12;

    /** Trials to place a seed where others are to crowd. */
    private const PATIENCE = 24;

    /** Grains a patch with torn edges is put together from, and of all, at most. */
    private const GRAINS = 9;

    private const MOST_GRAINS = 24000;

    /** Seeds stand off the surface by so many of the distances between them: on a ball or a flat side all bisectors would meet in one point. */
    private const OFF = 0.12;

    /** Parts of a cell smaller than so many mean cells go to the neighbour they share most border with. */
    private const SCRAP = 0.05;

    /**
     * @param  float  $even  0 random … 1 evenly spread
     * @param  float  $ragged  0 straight edges … 1 torn ones
     * @param  float|null  $tear  about how long the teeth of torn edges are, in metres; null for a third of a patch
     * @param  list<Vec3>  $points  seeds crowd round
     * @param  float  $crowd  share of the seeds that crowd
     * @param  float  $reach  metres
     * @param  Weight|null  $dense  seeds crowd where it is high
     */
    public function __construct(
        private readonly int $count,
        private readonly float $even,
        private readonly float $ragged,
        private readonly ?float $tear,
        private readonly array $points,
        private readonly float $crowd,
        private readonly float $reach,
        private readonly ?Weight $dense,
        private readonly int $seed,
    ) {
    }

    /**
     * @return array{Mesh, list<list<int>>, list<int>, list<int>} the solid with its faces cut along the cells; the faces of each part, every part hanging
     *   together; for each face that of the given solid it is part of; and the face beyond each edge
     *
     * @throws Problem where the surface cannot be cut
     */
    public function of(Mesh $solid): array
    {
        $frame = new UnitFrame($solid);
        $random = new SeededRandom($this->seed);
        $sampler = new SurfaceSampler($frame->unit, $random);
        $spacing = sqrt($sampler->area() / $this->count);
        $seeds = $this->seeds($frame, $sampler, $spacing, $random);
        $groups = null;
        if ($this->ragged > 0.0) {
            [$seeds, $groups] = $this->grains($frame, $seeds, $sampler, $spacing, $random);
        }
        $unit = $frame->unit;
        $closed = ! in_array(-1, FaceNeighbours::beyond($solid->faces), true);
        for ($try = 0; $try < self::TRIES; $try++) {
            [$sx, $sy, $sz] = Diagram::jittered($seeds, $random, Diagram::JITTER * 10 ** $try);
            try {
                $surface = new RestrictedSurface($unit->x, $unit->y, $unit->z, $unit->faces, new VoronoiCells($sx, $sy, $sz));
                $faces = $origins = $cells = [];
                foreach ($surface->faces as $cell => $list) {
                    foreach ($list as $p) {
                        $faces[] = $p;
                    }
                    $group = $groups[$cell] ?? $cell;
                    foreach ($surface->origins[$cell] as $f) {
                        $origins[] = $f;
                        $cells[] = $group;
                    }
                }
                $mesh = (new ShardMesher(new Cut($surface->px, $surface->py, $surface->pz, [$faces], [$origins], []), $frame))->mesh(0, array_keys($origins), $closed);

                $beyond = FaceNeighbours::beyond($mesh->faces);

                return [$mesh, self::parts($mesh, $cells, $beyond), $origins, $beyond];
            } catch (\UnexpectedValueException) {
                continue;
            }
        }

        throw Problem::inMesh(
            'This surface could not be cut into flakes: it crosses or overlaps itself.',
            'Rebuild it on the Props stage, or take flakes of whole faces.',
        );
    }

    /** @return list<array{float, float, float}> in the unit frame */
    private function seeds(UnitFrame $frame, SurfaceSampler $sampler, float $spacing, SeededRandom $random): array
    {
        $centres = array_map($frame->inUnits(...), $this->points);
        $reach = max(1e-9, $this->reach / $frame->scale);
        $seeds = $normals = [];
        for ($i = 0; $i < $this->count; $i++) {
            [$p, $n] = $sampler->point();
            if (($centres !== [] || $this->dense !== null) && $random->share() < $this->crowd) {
                $k = (int) ($random->share() * max(1, count($centres)));
                for ($try = 0; $try < self::PATIENCE; $try++) {
                    $d = $centres === [] ? 0.0 : (new Vec3(...$p))->minus($centres[$k])->length();
                    if ($random->share() < exp(-0.5 * ($d / $reach) ** 2) * $this->denseAt($frame, $p)) {
                        break;
                    }
                    [$p, $n] = $sampler->point();
                }
            }
            $seeds[] = $p;
            $normals[] = $n;
        }
        $rounds = (int) round(self::RELAXATIONS * $this->even);
        for ($round = 0; $round < $rounds && $this->count > 1; $round++) {
            [$seeds, $normals] = $this->relaxed($seeds, $normals, $sampler, $spacing, $random);
        }

        return self::off($seeds, $normals, $spacing, $random);
    }

    /** @param  array{float, float, float}  $p  in the unit frame */
    private function denseAt(UnitFrame $frame, array $p): float
    {
        if ($this->dense === null) {
            return 1.0;
        }
        $at = $frame->inMetres($p);

        return $this->dense->at($at->x, $at->y, $at->z);
    }

    /**
     * @param  list<array{float, float, float}>  $seeds
     * @param  list<array{float, float, float}>  $normals
     * @return list<array{float, float, float}> each a chance bit off the surface
     */
    private static function off(array $seeds, array $normals, float $spacing, SeededRandom $random): array
    {
        foreach ($seeds as $i => [$x, $y, $z]) {
            $by = self::OFF * $spacing * $random->between(-1.0, 1.0);
            $seeds[$i] = [$x + $by * $normals[$i][0], $y + $by * $normals[$i][1], $z + $by * $normals[$i][2]];
        }

        return $seeds;
    }

    /**
     * Moves every seed to the sample of the surface nearest to the middle of its cell's samples (Lloyd 1982).
     *
     * @param  list<array{float, float, float}>  $seeds
     * @param  list<array{float, float, float}>  $normals
     * @return array{list<array{float, float, float}>, list<array{float, float, float}>}
     */
    private function relaxed(array $seeds, array $normals, SurfaceSampler $sampler, float $spacing, SeededRandom $random): array
    {
        $x = $y = $z = $n = [];
        for ($k = self::SAMPLES * $this->count; $k > 0; $k--) {
            [$p, $n[]] = $sampler->point();
            [$x[], $y[], $z[]] = $p;
        }
        try {
            $owner = (new NearestSeed(self::off($seeds, $normals, $spacing, $random), $random))->to($x, $y, $z);
        } catch (\UnexpectedValueException) {
            return [$seeds, $normals];
        }
        $count = $sx = $sy = $sz = array_fill(0, $this->count, 0.0);
        foreach ($owner as $i => $k) {
            $count[$k]++;
            $sx[$k] += $x[$i];
            $sy[$k] += $y[$i];
            $sz[$k] += $z[$i];
        }
        $best = array_fill(0, $this->count, INF);
        foreach ($owner as $i => $k) {
            $d = ($x[$i] - $sx[$k] / $count[$k]) ** 2 + ($y[$i] - $sy[$k] / $count[$k]) ** 2 + ($z[$i] - $sz[$k] / $count[$k]) ** 2;
            if ($d < $best[$k]) {
                $best[$k] = $d;
                $seeds[$k] = [$x[$i], $y[$i], $z[$i]];
                $normals[$k] = $n[$i];
            }
        }

        return [$seeds, $normals];
    }

    /**
     * Many small cells, each with the seed that is nearest but for some chance, so that edges are torn.
     *
     * @param  list<array{float, float, float}>  $seeds
     * @return array{list<array{float, float, float}>, list<int>} grains, and the seed each goes with
     */
    private function grains(UnitFrame $frame, array $seeds, SurfaceSampler $sampler, float $spacing, SeededRandom $random): array
    {
        $tear = $this->tear === null ? 0.34 * $spacing : max(1e-6, $this->tear / $frame->scale);
        $fine = (int) min(self::MOST_GRAINS, self::GRAINS * $this->count, max(2 * $this->count, $sampler->area() / $tear ** 2));
        $step = $this->ragged * sqrt($sampler->area() / $fine);
        $points = $normals = $x = $y = $z = [];
        for ($k = 0; $k < $fine; $k++) {
            [$points[], $normals[]] = [$p, $n] = $sampler->point();
            $x[] = $p[0] + $step * $random->between(-1.0, 1.0);
            $y[] = $p[1] + $step * $random->between(-1.0, 1.0);
            $z[] = $p[2] + $step * $random->between(-1.0, 1.0);
        }

        return [self::off($points, $normals, sqrt($sampler->area() / $fine), $random), (new NearestSeed($seeds, $random))->to($x, $y, $z)];
    }

    /**
     * @param  list<int>  $cells  of each face
     * @param  list<int>  $beyond  the face beyond each edge
     * @return list<list<int>> faces that have one cell and hang together by their edges; scraps with a neighbour
     */
    private static function parts(Mesh $mesh, array $cells, array $beyond): array
    {
        $n = count($cells);
        $part = array_fill(0, $n, -1);
        $parts = [];
        for ($first = 0; $first < $n; $first++) {
            if ($part[$first] >= 0) {
                continue;
            }
            $k = count($parts);
            $cell = $cells[$first];
            $part[$first] = $k;
            $list = [$first];
            for ($h = 0; $h < count($list); $h++) {
                $f = $list[$h];
                for ($i = 3 * $f, $end = $i + 3; $i < $end; $i++) {
                    $g = $beyond[$i];
                    if ($g >= 0 && $part[$g] < 0 && $cells[$g] === $cell) {
                        $part[$g] = $k;
                        $list[] = $g;
                    }
                }
            }
            $parts[] = $list;
        }

        return self::withoutScraps($mesh, $parts, $part, $beyond, count(array_flip($cells)));
    }

    /**
     * @param  list<list<int>>  $parts
     * @param  list<int>  $part  of each face
     * @param  list<int>  $beyond  the face beyond each edge
     * @return list<list<int>>
     */
    private static function withoutScraps(Mesh $mesh, array $parts, array $part, array $beyond, int $cells): array
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($mesh);
        $area = array_fill(0, count($parts), 0.0);
        $all = 0.0;
        foreach ($part as $f => $k) {
            $s = sqrt($nx[$f] * $nx[$f] + $ny[$f] * $ny[$f] + $nz[$f] * $nz[$f]);
            $area[$k] += $s;
            $all += $s;
        }
        $least = self::SCRAP * $all / max(1, $cells);
        $order = array_keys(array_filter($area, static fn (float $a): bool => $a < $least));
        // The smallest first: a scrap may grow by others before its own turn.
        usort($order, static fn (int $a, int $b): int => $area[$a] <=> $area[$b]);
        foreach ($order as $k) {
            if ($area[$k] >= $least) {
                continue;
            }
            $shared = [];
            foreach ($parts[$k] as $f) {
                for ($i = 3 * $f; $i < 3 * $f + 3; $i++) {
                    $to = $part[$beyond[$i] < 0 ? $f : $beyond[$i]];
                    if ($to !== $k) {
                        $p = $mesh->faces[$i];
                        $q = $mesh->faces[$i % 3 === 2 ? $i - 2 : $i + 1];
                        $shared[$to] = ($shared[$to] ?? 0.0) + sqrt(($mesh->x[$p] - $mesh->x[$q]) ** 2 + ($mesh->y[$p] - $mesh->y[$q]) ** 2 + ($mesh->z[$p] - $mesh->z[$q]) ** 2);
                    }
                }
            }
            if ($shared === []) {
                continue;
            }
            $to = (int) array_search(max($shared), $shared, true);
            foreach ($parts[$k] as $f) {
                $part[$f] = $to;
                $parts[$to][] = $f;
            }
            $area[$to] += $area[$k];
            $parts[$k] = [];
        }

        return array_values(array_filter($parts));
    }
}
