<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\TouchingEdges;
use YardBreak\Core\Problem;

/**
 * All repairs in the order that makes each of use to the next: points are joined before doubles can be told, windings
 * agree before holes are filled, and what was filled is turned like the rest.
 */
final class Mend
{
    /** Points nearer to an edge than so many of the mesh's size lie on it. */
    private const ON_EDGE = 1e-6;

    /** @var list<string> */
    private array $done = [];

    private Fitness $fitness;

    private function __construct(private Mesh $mesh)
    {
        $this->fitness = Fitness::of($mesh);
    }

    /** @return array{Mesh, list<string>} the mended mesh, and what was done to it, in words; nothing where it was fit */
    public static function of(Mesh $mesh): array
    {
        $mend = new self($mesh);
        if (! $mend->fitness->canBreak()) {
            $mend->mend();
        }

        return [$mend->mesh, $mend->done];
    }

    private function mend(): void
    {
        $was = $this->fitness;
        if ($was->boundaryEdges > 0) {
            $this->take(
                Repair::weld($this->mesh),
                static fn (Fitness $a, Fitness $b): string => self::count($a->vertices - $b->vertices, 'point was', 'points were')
                    .' joined with others in the same place',
            );
        }
        if ($this->fitness->zeroAreaFaces > 0) {
            $this->take(Repair::dropDegenerates($this->mesh), self::withoutArea(...));
        }
        if ($this->fitness->doubledFaces > 0) {
            $this->take(
                $this->withoutDoubles(),
                static fn (Fitness $a, Fitness $b): string => self::count($a->faces - $b->faces, 'doubled face', 'doubled faces').' went',
            );
        }
        if ($this->fitness->boundaryEdges > 0) {
            $this->take(
                self::withPointsOnEdges($this->mesh),
                static fn (Fitness $a, Fitness $b): string => self::count($b->faces - $a->faces, 'edge was', 'edges were').' split at points that lay on them',
            );
        }
        $this->orient();
        if ($this->fitness->nonmanifoldEdges > 0) {
            try {
                $this->take(
                    TouchingEdges::parted($this->mesh),
                    static fn (Fitness $a, Fitness $b): string => self::count($a->nonmanifoldEdges - $b->nonmanifoldEdges, 'edge', 'edges')
                        .' with more than two faces parted',
                );
            } catch (\UnexpectedValueException) {
                // Which faces belong together cannot be told here; a rebuilt skin can.
            }
        }
        if ($this->fitness->boundaryEdges > 0) {
            try {
                $this->take(
                    Repair::fill($this->mesh),
                    static fn (Fitness $a, Fitness $b): string => sprintf(
                        'holes with %s round them were filled',
                        self::count($a->boundaryEdges - $b->boundaryEdges, 'edge', 'edges'),
                    ),
                );
                $this->orient();
            } catch (Problem) {
                // What is left is said by the fitness of the result.
            }
        }
        if ($this->fitness->zeroAreaFaces > 0) {
            // Holes drawn along one line fill with faces of no area; where they can go without harm, they do.
            $thin = Repair::keepOneOfDoubles(Repair::dropDegenerates($this->mesh));
            if (Fitness::of($thin)->canBreak()) {
                $this->take($thin, self::withoutArea(...));
            }
        }
    }

    private static function withoutArea(Fitness $before, Fitness $after): string
    {
        return self::count($before->faces - $after->faces, 'face', 'faces').' without area went';
    }

    private function orient(): void
    {
        if (! $this->fitness->oriented || $this->fitness->insideOut) {
            $before = $this->mesh->faces;
            $this->take(Repair::orient($this->mesh), function () use ($before): string {
                $turned = 0;
                for ($i = 0, $n = count($before); $i < $n; $i += 3) {
                    $turned += $before[$i + 1] === $this->mesh->faces[$i + 1] ? 0 : 1;
                }

                return self::count($turned, 'face was', 'faces were').' turned to look outwards';
            });
        }
    }

    /** @param  \Closure(Fitness, Fitness): string  $words  from the fitness before and after */
    private function take(Mesh $next, \Closure $words): void
    {
        if ($next->faces === $this->mesh->faces && count($next->x) === count($this->mesh->x) || $next->faces === []) {
            return;
        }
        $before = $this->fitness;
        $this->mesh = $next;
        $this->fitness = Fitness::of($next);
        $this->done[] = ucfirst($words($before, $this->fitness)).'.';
    }

    /** Of doubled faces one stays, or, where a face and its reverse are a flap on a closed skin, none. */
    private function withoutDoubles(): Mesh
    {
        $none = Repair::dropDoubles($this->mesh);
        $one = Repair::keepOneOfDoubles($this->mesh);

        return $none->faces !== [] && self::badEdges($none) < self::badEdges($one) ? $none : $one;
    }

    private static function badEdges(Mesh $mesh): int
    {
        $fitness = Fitness::of($mesh);

        return $fitness->boundaryEdges + $fitness->nonmanifoldEdges;
    }

    /** Open edges divided at open points that lie on them, so that both sides can be joined. */
    private static function withPointsOnEdges(Mesh $mesh): Mesh
    {
        $uses = [];
        $faces = $mesh->faces;
        $n = count($faces);
        for ($i = 0; $i < $n; $i++) {
            $p = $faces[$i];
            $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $uses[$p < $q ? $p << 31 | $q : $q << 31 | $p][] = $i;
        }
        $open = [];
        foreach ($uses as $edge => $corners) {
            if (count($corners) === 1) {
                $open[$edge >> 31] = $open[$edge & 0x7FFFFFFF] = true;
            }
        }
        $points = array_keys($open);
        usort($points, static fn (int $a, int $b): int => $mesh->x[$a] <=> $mesh->x[$b]);
        $xs = array_map(static fn (int $p): float => $mesh->x[$p], $points);
        $near = self::ON_EDGE * max(max($mesh->x) - min($mesh->x), max($mesh->y) - min($mesh->y), max($mesh->z) - min($mesh->z));
        $on = [];
        foreach ($uses as $edge => $corners) {
            if (count($corners) !== 1) {
                continue;
            }
            $i = $corners[0];
            $p = $faces[$i];
            $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $cuts = self::along($mesh, $p, $q, $points, $xs, $near);
            if ($cuts !== []) {
                $on[$i] = $cuts;
            }
        }
        if ($on === []) {
            return $mesh;
        }
        $out = [];
        for ($f = 0; $f < $n; $f += 3) {
            $ring = [];
            for ($i = $f; $i < $f + 3; $i++) {
                array_push($ring, $faces[$i], ...$on[$i] ?? []);
            }
            if (count($ring) === 3) {
                array_push($out, ...$ring);

                continue;
            }
            self::fan($mesh, $ring, $out);
        }

        return new Mesh($mesh->x, $mesh->y, $mesh->z, $out);
    }

    /**
     * @param  list<int>  $points  by rising x
     * @param  list<float>  $xs
     * @return list<int> those strictly between two points, on the way from one to the other
     */
    private static function along(Mesh $m, int $p, int $q, array $points, array $xs, float $near): array
    {
        $low = min($m->x[$p], $m->x[$q]) - $near;
        $high = max($m->x[$p], $m->x[$q]) + $near;
        $from = 0;
        $to = count($xs);
        while ($from < $to) {
            $mid = ($from + $to) >> 1;
            $xs[$mid] < $low ? $from = $mid + 1 : $to = $mid;
        }
        $ex = $m->x[$q] - $m->x[$p];
        $ey = $m->y[$q] - $m->y[$p];
        $ez = $m->z[$q] - $m->z[$p];
        $ee = $ex * $ex + $ey * $ey + $ez * $ez;
        $found = [];
        for ($k = $from, $n = count($xs); $k < $n && $xs[$k] <= $high; $k++) {
            $v = $points[$k];
            if ($v === $p || $v === $q || $ee <= 0.0) {
                continue;
            }
            $dx = $m->x[$v] - $m->x[$p];
            $dy = $m->y[$v] - $m->y[$p];
            $dz = $m->z[$v] - $m->z[$p];
            $t = ($dx * $ex + $dy * $ey + $dz * $ez) / $ee;
            if ($t <= 0.0 || $t >= 1.0 || ($dx - $t * $ex) ** 2 + ($dy - $t * $ey) ** 2 + ($dz - $t * $ez) ** 2 > $near * $near) {
                continue;
            }
            $found[$v] = $t;
        }
        asort($found);

        return array_keys($found);
    }

    /**
     * A triangle with points on its sides, parted into triangles by cutting the corner with the most room each time.
     *
     * @param  list<int>  $ring
     * @param  list<int>  $out
     */
    private static function fan(Mesh $m, array $ring, array &$out): void
    {
        while (count($ring) > 3) {
            $best = -1.0;
            $at = 0;
            $n = count($ring);
            for ($k = 0; $k < $n; $k++) {
                $a = $ring[($k + $n - 1) % $n];
                $b = $ring[$k];
                $c = $ring[($k + 1) % $n];
                $ux = $m->x[$b] - $m->x[$a];
                $uy = $m->y[$b] - $m->y[$a];
                $uz = $m->z[$b] - $m->z[$a];
                $vx = $m->x[$c] - $m->x[$b];
                $vy = $m->y[$c] - $m->y[$b];
                $vz = $m->z[$c] - $m->z[$b];
                $area = ($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2;
                $long = max($ux * $ux + $uy * $uy + $uz * $uz, $vx * $vx + $vy * $vy + $vz * $vz, 1e-300);
                if ($area / $long ** 2 > $best) {
                    $best = $area / $long ** 2;
                    $at = $k;
                }
            }
            array_push($out, $ring[($at + $n - 1) % $n], $ring[$at], $ring[($at + 1) % $n]);
            array_splice($ring, $at, 1);
        }
        array_push($out, ...$ring);
    }

    private static function count(int $n, string $one, string $many): string
    {
        return number_format($n).' '.($n === 1 ? $one : $many);
    }
}
