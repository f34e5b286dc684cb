<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Drift\Drift;
use YardBreak\Core\Drift\Pieces;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\SurfaceTree;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\KeptWeights;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Weight\Coverage;
use YardBreak\Core\Weight\InTime\Spread;

/** Weight maps over the frames, and drift. */
final class WeightsBench implements Benchmark
{
    /** A ball of so many divisions has about 50,000 points. */
    private const POINTS_50 = 71;

    private const POINTS_10 = 32;

    private const POINTS_20 = 45;

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            return [match ($settings['case']) {
                'all' => $this->proximity(1.0),
                'tenth' => $this->proximity(0.1),
                'deforming' => $this->deforming(),
                'library' => $this->library(),
                'spread' => $this->spread(),
                'coverage' => $this->coverage(),
                'drag' => $this->drag(),
                default => $this->drift(),
            }];
        }
        $rows = array_map(static fn (string $case): array => OwnProcess::row('weights', $case), ['library', 'all', 'tenth', 'deforming', 'spread', 'coverage', 'drag', 'drift']);
        foreach ([1, 2, 3] as $k) {
            $rows[$k]['times_library'] = round((float) $rows[$k]['s_a_frame'] / (float) $rows[0]['s_a_frame'], 2);
        }

        return $rows;
    }

    /** @return array<string, int|float|string|bool> a ring of 20,000 triangles passes a ball; so many of its points come within reach */
    private function proximity(float $share): array
    {
        $run = $this->run(self::POINTS_50, ['source' => 'proximity', 'values' => $share < 1.0 ? ['to' => 'ring', 'full' => 0.0, 'none' => 0.32] : ['to' => 'ring', 'full' => 0.0, 'none' => 100.0]]);
        $begun = hrtime(true);
        $first = $run->weightsAt('map', MapRun::SURFACE, 0);
        $start = (hrtime(true) - $begun) / 1e9;
        $times = $reached = [];
        for ($frame = 1; $frame <= 24; $frame++) {
            $begun = hrtime(true);
            $weights = $run->weightsAt('map', MapRun::SURFACE, $frame);
            $times[] = (hrtime(true) - $begun) / 1e9;
            $reached[] = count(array_filter($weights, static fn (float $w): bool => $w > 0.0)) / count($weights);
        }
        sort($times);

        return ['case' => $share < 1.0 ? 'proximity, a tenth within reach' : 'proximity, all within reach', 'points' => count($first), 's_a_frame' => round($times[intdiv(count($times), 2)], 4), 'slowest_s' => round((float) end($times), 4), 'first_s' => round($start, 3), 'within' => round(array_sum($reached) / count($reached), 3)];
    }

    /** @return array<string, int|float|string|bool> every frame the ring is another one */
    private function deforming(): array
    {
        $ball = self::ball(self::POINTS_50);
        $ring = self::ring();
        $tree = new SurfaceTree($ring);
        $times = [];
        for ($k = 0; $k < 8; $k++) {
            $y = array_map(static fn (float $x, float $v): float => $v + 0.05 * sin(5.0 * $x + $k), $ring->x, $ring->y);
            $begun = hrtime(true);
            $tree->moveTo($ring->x, $y, $ring->z);
            $tree->nearest($ball->x, $ball->y, $ball->z);
            $times[] = (hrtime(true) - $begun) / 1e9;
        }
        sort($times);

        return ['case' => 'proximity to a deforming prop, all within reach', 'points' => $ball->vertexCount(), 's_a_frame' => round($times[4], 4)];
    }

    /** @return array<string, int|float|string|bool> the same by a library, and how far both are apart */
    private function library(): array
    {
        $ball = self::ball(self::POINTS_50);
        $ring = self::ring();
        $move = [0.9, 0.2, 0.1];
        $theirs = OutsideLibrary::run('closest.mjs', ['mesh' => ['x' => $ring->x, 'y' => $ring->y, 'z' => $ring->z, 'faces' => $ring->faces], 'points' => ['x' => $ball->x, 'y' => $ball->y, 'z' => $ball->z], 'moves' => [[0, 0, 0], [0.3, 0, 0], $move]]);
        $here = $ball->movedBy((new Vec3(...$move))->times(-1.0));
        $own = (new SurfaceTree($ring))->nearest($here->x, $here->y, $here->z)->distance;
        $apart = max(array_map(static fn (float $a, float $b): float => abs($a - $b), $own, $theirs['distances']));

        return ['case' => 'a library (three-mesh-bvh), all within reach', 'points' => count($own), 's_a_frame' => round($theirs['seconds'], 4), 'build_s' => round($theirs['build'], 3), 'farthest_apart_m' => $apart];
    }

    /** @return array<string, int|float|string|bool> from one point over the whole ball within 120 frames */
    private function spread(): array
    {
        $run = $this->run(self::POINTS_50, ['source' => 'ball', 'values' => ['middle' => [0, 2, 0], 'full' => 0.02, 'none' => 0.05]]);
        $on = $run->pointsOf('ball', MapRun::SURFACE);
        $in = $run->weightsOfSources('map', MapRun::SURFACE, 0);
        $begun = hrtime(true);
        $spread = Spread::over($on);
        for ($frame = 0; $frame < 120; $frame++) {
            $weights = $spread->next($in, ['speed' => 0.7, 'level' => 0.5, 'soft' => 0.05, 'ragged' => 0.0, 'size' => 0.1, 'seed' => 1], $frame === 0 ? 0.0 : 1 / 24);
        }

        return ['case' => 'spread over the whole shot, 120 frames', 'points' => $on->count(), 's' => round((hrtime(true) - $begun) / 1e9, 3), 'full_at_end' => round(Coverage::of($weights)->full, 3)];
    }

    /** @return array<string, int|float|string|bool> */
    private function coverage(): array
    {
        $run = $this->run(self::POINTS_10, ['source' => 'proximity', 'values' => ['to' => 'ring', 'full' => 0.05, 'none' => 0.4]]);
        $run->pointsOf('ball', MapRun::SURFACE);
        $begun = hrtime(true);
        $keys = $run->keys('map', MapRun::SURFACE);
        $first = null;
        for ($frame = 0; $frame < 120; $frame++) {
            Coverage::of($run->weightsAt('map', MapRun::SURFACE, $frame));
            $first ??= (hrtime(true) - $begun) / 1e9;
        }

        return ['case' => 'coverage of 120 frames', 'points' => $run->pointsOf('ball', MapRun::SURFACE)->count(), 's' => round((hrtime(true) - $begun) / 1e9, 3), 'first_s' => round($first, 3), 'frames_that_differ' => count(array_unique($keys))];
    }

    /** @return array<string, int|float|string|bool> a distance changed by hand, what was measured being kept */
    private function drag(): array
    {
        $kept = new class implements KeptWeights
        {
            /** @var array<string, list<float>> */
            private array $all = [];

            public function recall(string $of): ?array
            {
                return $this->all[$of] ?? null;
            }

            public function keep(string $of, array $values): void
            {
                $this->all[$of] = $values;
            }
        };
        $stack = static fn (float $none): array => ['source' => 'proximity', 'values' => ['to' => 'ring', 'full' => 0.05, 'none' => $none]];
        $run = $this->run(self::POINTS_20, $stack(0.4), $kept);
        $count = count($run->weightsOfSources('map', MapRun::SURFACE, 30));
        $times = [];
        for ($k = 0; $k < 10; $k++) {
            $begun = hrtime(true);
            $run = $this->run(self::POINTS_20, $stack(0.4 + 0.01 * $k), $kept);
            $weights = $run->fromKept('map', MapRun::SURFACE, 30);
            $times[] = (hrtime(true) - $begun) / 1e6;
        }
        sort($times);

        return ['case' => 'a distance dragged', 'points' => $count, 'ms' => round($times[5], 1), 'from_kept' => $weights !== null];
    }

    /** @return array<string, int|float|string|bool> */
    private function drift(): array
    {
        $random = new SeededRandom(5);
        $some = static fn (): array => array_map(static fn (): float => $random->between(-1.0, 1.0), range(1, 10000));
        $pieces = new Pieces($some(), $some(), $some(), $some(), array_map(strval(...), range(1, 10000)));
        $drift = Drift::of(['map' => 'm', 'order' => 'random', 'stagger' => 1, 'moves' => [
            ['move' => 'offset', 'values' => ['by' => [0, 1, 0]]], ['move' => 'turn', 'values' => ['angle' => 90, 'tumble' => 60]], ['move' => 'path', 'values' => ['kind' => 'helix']], ['move' => 'size', 'values' => ['to' => 0]],
        ]], new Cues);
        $place = new Placement(new Vec3(1, 2, 3), Quaternion::aboutAxis(new Vec3(0, 1, 0), 0.4));
        $times = [];
        for ($frame = 0; $frame < 40; $frame++) {
            $weights = array_map(static fn (float $x): float => max(0.0, min(1.0, $frame / 40 + 0.3 * $x)), $pieces->x);
            $begun = hrtime(true);
            $poses = Drift::stood($pieces, $drift->at((float) $frame, $pieces, $weights, static fn (): array => [0.0, 0.0, 0.0]), $place)[0];
            $times[] = (hrtime(true) - $begun) / 1e6;
        }
        sort($times);

        return ['case' => 'drift by four moves, staggered', 'pieces' => 10000, 'numbers' => count($poses), 'ms_a_frame' => round($times[20], 1)];
    }

    /** @param  array<string, mixed>  $source */
    private function run(int $detail, array $source, ?KeptWeights $kept = null): MapRun
    {
        $material = ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.1];
        $prop = static fn (string $id, string $shape, array $values, array $position, string $kind): array => ['id' => $id, 'name' => $id, 'source' => ['kind' => 'shape', 'shape' => $shape, 'values' => $values], 'place' => ['position' => $position, 'turn' => [0, 0, 0], 'size' => 1], 'material' => $material, 'break' => null, 'motion' => ['kind' => $kind]];
        $shot = ShotSpec::fromJson((string) json_encode(['version' => ShotSpec::VERSION, 'name' => 'Bench', 'frames' => ['first' => 0, 'last' => 119, 'rate' => [24, 1]], 'world' => ['gravity' => [0, -9.8, 0], 'ground' => ['kind' => 'flat'], 'friction' => 0.5, 'bounce' => 0], 'props' => [
            ['weights' => [['id' => 'map', 'name' => 'Map', 'sources' => [$source]]]] + $prop('ball', 'ball', ['radius' => 1.0, 'detail' => $detail], [0, 0, 0], 'fixed'),
            $prop('ring', 'ring', self::RING, [['keys' => [['frame' => 0, 'value' => -1.6], ['frame' => 119, 'value' => 1.6]]], 0.4, 0.2], 'keyed'),
        ]]));
        $assets = new class implements AssetSource
        {
            public function path(string $asset): string
            {
                return '';
            }
        };

        return new MapRun($shot, new MadeParts(new PropMaker($assets), $assets), $kept);
    }

    /** 20,000 triangles. */
    private const RING = ['radius' => 0.5, 'tube' => 0.15, 'segments' => 200, 'rows' => 50];

    private static function ring(): Mesh
    {
        return ShapeCatalogue::mesh('ring', self::RING);
    }

    private static function ball(int $detail): Mesh
    {
        return ShapeCatalogue::mesh('ball', ['radius' => 1.0, 'detail' => $detail]);
    }
}
