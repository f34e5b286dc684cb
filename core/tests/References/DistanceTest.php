<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\SurfaceTree;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Tests\Weight\Maps;

/** Distances that weights are made of, against what others measure. */
final class DistanceTest extends TestCase
{
    /** SciPy `spatial.cKDTree` (Maneewongvatana & Mount 1999): proximity to the points of a prop, at a frame, is the distance to the nearest of them. */
    public function test_proximity_to_points_is_that_of_scipy(): void
    {
        $run = Maps::run([[
            'source' => 'proximity',
            'values' => ['to' => 'ball', 'measured' => 'points', 'full' => 0.0, 'none' => 2.0, 'falloff' => 'linear'],
        ]]);
        $on = $run->pointsOf('block', 'points');
        $ball = Maps::maker()->mesh($run->prop('ball'));
        foreach ([3, 20, 31] as $frame) {
            $place = $run->place('ball', $frame);
            $there = $ball->placed($place);
            $want = OutsideTools::python(<<<'PY'
                import json, sys
                from scipy.spatial import cKDTree
                d = json.load(sys.stdin)
                print(json.dumps(list(cKDTree(d['there']).query(d['here'])[0])))
                PY, ['there' => array_map(null, $there->x, $there->y, $there->z), 'here' => array_map(null, $on->x, $on->y, $on->z)]);
            self::assertCount($on->count(), $want);
            foreach ($run->weightsAt('reach', 'points', $frame) as $i => $w) {
                self::assertEqualsWithDelta(max(0.0, 1.0 - $want[$i] / 2.0), $w, 1e-12);
            }
        }
    }

    /** npm `three-mesh-bvh`: the distance to the nearest place of a surface that has moved. */
    public function test_distances_to_a_surface_are_those_of_a_library(): void
    {
        $ring = ShapeCatalogue::mesh('ring', ['radius' => 0.5, 'tube' => 0.15, 'segments' => 60, 'rows' => 20]);
        $ball = ShapeCatalogue::mesh('ball', ['radius' => 1.0, 'detail' => 12]);
        $move = [0.7, 0.2, -0.1];
        $file = OutsideTools::folder().'/in.json';
        file_put_contents(
            $file,
            json_encode([
                'mesh' => ['x' => $ring->x, 'y' => $ring->y, 'z' => $ring->z, 'faces' => $ring->faces],
                'points' => ['x' => $ball->x, 'y' => $ball->y, 'z' => $ball->z],
                'moves' => [$move],
            ]),
        );
        $want = OutsideTools::node('closest.mjs', $file)['distances'];
        $off = static fn (array $c, float $by): array => array_map(static fn (float $v): float => $v - $by, $c);
        foreach ((new SurfaceTree($ring))->nearest($off($ball->x, $move[0]), $off($ball->y, $move[1]), $off($ball->z, $move[2]))->distance as $i => $d) {
            self::assertEqualsWithDelta($want[$i], $d, 1e-12);
        }
    }
}
