<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cells\VoronoiCells;
use YardBreak\Core\Break\Cut\Cut;
use YardBreak\Core\Break\Cut\RestrictedCells;
use YardBreak\Core\Geometry\Delaunay;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shape\ShapeCatalogue;

final class VoronoiCellsTest extends TestCase
{
    /** SciPy `spatial.Voronoi` and `ConvexHull` (Qhull; Barber et al. 1996): interior cells have the same volume. */
    public function test_cell_volumes_are_those_of_scipy(): void
    {
        [$x, $y, $z] = self::seeds(300, 5);
        $cut = self::cutBox($x, $y, $z);
        $volumes = self::volumes($cut);
        $want = OutsideTools::python(<<<'PY'
            import json, sys, numpy as np
            from scipy.spatial import Voronoi, ConvexHull
            p = np.array(json.load(sys.stdin)); v = Voronoi(p); out = {}
            for i, r in enumerate(v.point_region):
                region = v.regions[r]
                if -1 in region or not region: continue
                q = v.vertices[region]
                if np.abs(q).max() < 0.5: out[i] = ConvexHull(q).volume
            print(json.dumps(out))
            PY, array_map(null, $x, $y, $z));
        self::assertGreaterThan(60, count($want), 'enough cells lie clear of the box');
        foreach ($want as $i => $volume) {
            self::assertEqualsWithDelta(1.0, $volumes[$i] / $volume, 1e-9);
        }
    }

    /**
     * Poisson–Voronoi cells (Meijering 1953; Gilbert 1962): 48π²/35 + 2 ≈ 15.535 faces in the mean, and a
     * variance of the normalised volume of about 0.179.
     */
    public function test_cells_of_random_seeds_have_the_known_statistics(): void
    {
        $faces = $sizes = [];
        foreach ([1, 2, 3] as $seed) {
            [$x, $y, $z] = self::seeds(1500, $seed);
            $cut = self::cutBox($x, $y, $z);
            [$start, $run] = (new Delaunay($x, $y, $z))->neighbours();
            foreach (self::volumes($cut) as $i => $v) {
                if (max(abs($x[$i]), abs($y[$i]), abs($z[$i])) < 0.3) {
                    $faces[] = $start[$i + 1] - $start[$i];
                    $sizes[] = $v;
                }
            }
            self::assertNotEmpty($run);
        }
        $n = count($faces);
        self::assertGreaterThan(800, $n);
        // Standard deviation of the number of faces is about 3.3, so the mean's error is 3.3/√n; three of them.
        self::assertEqualsWithDelta(48 * M_PI ** 2 / 35 + 2, array_sum($faces) / $n, 3 * 3.34 / sqrt($n));
        $mean = array_sum($sizes) / $n;
        $variance = array_sum(array_map(static fn (float $v): float => ($v / $mean - 1) ** 2, $sizes)) / ($n - 1);
        self::assertEqualsWithDelta(0.179, $variance, 0.03);
    }

    /** @return array{list<float>, list<float>, list<float>} */
    private static function seeds(int $n, int $seed): array
    {
        $random = new SeededRandom($seed);
        $x = $y = $z = [];
        for ($i = 0; $i < $n; $i++) {
            $x[] = $random->between(-0.5, 0.5);
            $y[] = $random->between(-0.5, 0.5);
            $z[] = $random->between(-0.5, 0.5);
        }

        return [$x, $y, $z];
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    private static function cutBox(array $x, array $y, array $z): Cut
    {
        $box = ShapeCatalogue::mesh('box', [])->movedBy(new \YardBreak\Core\Geometry\Vec3(0, -0.5, 0));

        return (new RestrictedCells($box->x, $box->y, $box->z, $box->faces, new VoronoiCells($x, $y, $z)))->cut();
    }

    /** @return list<float> */
    private static function volumes(Cut $cut): array
    {
        return array_map(static fn (array $faces): float => MassProperties::ofFaces($cut->px, $cut->py, $cut->pz, $faces)->volume, $cut->faces);
    }
}
