<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Collide\Colliders;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\SurfaceTree;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\SilentProgress;

/**
 * 100,000 points asked what is near: of 1,000 pieces strewn over the ground, and of a prop of 50,000 faces, most of them out of
 * reach; beside one tree over all of these surfaces that is asked by the same points.
 */
final class ColliderBench implements Benchmark
{
    private const POINTS = 100_000;

    private const RUNS = 7;

    /** Metres. */
    private const REACH = 0.005;

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            return [$this->measured($settings['case'])];
        }

        return array_map(static fn (string $case): array => OwnProcess::row('colliders', $case), ['pieces', 'prop']);
    }

    /** @return array<string, int|float|string|bool> */
    private function measured(string $case): array
    {
        $random = new SeededRandom(3);
        [$colliders, $all] = $case === 'pieces' ? self::pieces($random) : self::prop();
        $x = $y = $z = [];
        while (count($x) < self::POINTS) {
            $p = new Vec3($random->between(-3, 3), $random->between(0, 6), $random->between(-3, 3));
            // What falls on a prop is over it or sinks in a little; it is not strewn through its inside.
            if ($case === 'pieces' || $p->minus(new Vec3(0, 2, 0))->length() > 0.97) {
                [$x[], $y[], $z[]] = $p->toArray();
            }
        }
        $tree = new SurfaceTree($all);
        $least = $theirs = INF;
        $reached = 0;
        for ($run = 0; $run < self::RUNS; $run++) {
            $start = hrtime(true);
            $found = $colliders->nearest($x, $y, $z, self::REACH);
            $least = min($least, (hrtime(true) - $start) / 1e6);
            $reached = count(array_filter($found->distance, is_finite(...)));
            $start = hrtime(true);
            $tree->nearest($x, $y, $z, self::REACH);
            $theirs = min($theirs, (hrtime(true) - $start) / 1e6);
        }

        return ['case' => $case, 'points' => self::POINTS, 'faces' => $all->faceCount(), 'within_reach' => $reached, 'ms' => round($least, 1), 'one_tree_ms' => round($theirs, 1), 'ratio' => round($least / $theirs, 2)];
    }

    /** @return array{Colliders, Mesh} */
    private static function pieces(SeededRandom $random): array
    {
        $shards = (new Cells(1000, 3))->break(FaceNormals::shaded(ShapeCatalogue::mesh('box', ['width' => 2.0, 'height' => 1.0, 'depth' => 1.0])), new SilentProgress);
        $colliders = new Colliders(null);
        $poses = $meshes = [];
        foreach ($shards as $k => $s) {
            $own = $s->mesh->movedBy($s->centre()->times(-1.0));
            $colliders->add(0, $k, $own);
            $poses[] = [new Vec3($random->between(-3, 3), $random->between(0, 0.4), $random->between(-3, 3)), Quaternion::aboutAxis(new Vec3($random->between(-1, 1), 1, 0), $random->between(0, 6)), 1.0];
            $meshes[] = $own->placed(new \YardBreak\Core\Geometry\Placement($poses[$k][0], $poses[$k][1]));
        }
        $colliders->moveTo($poses, array_fill(0, count($poses), [Vec3::zero(), Vec3::zero(), 0.0]), []);

        return [$colliders, Mesh::merged(...$meshes)];
    }

    /** @return array{Colliders, Mesh} */
    private static function prop(): array
    {
        $ball = ShapeCatalogue::mesh('ball', ['radius' => 1.0, 'detail' => 50]);
        $colliders = new Colliders(null);
        $colliders->add(0, 0, $ball);
        $at = new Vec3(0, 1, 0);
        $colliders->moveTo([[$at, Quaternion::identity(), 1.0]], [[Vec3::zero(), Vec3::zero(), 0.0]], []);

        return [$colliders, $ball->movedBy($at)];
    }
}
