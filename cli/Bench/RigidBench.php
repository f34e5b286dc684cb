<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\SilentProgress;

/**
 * A cube of N cells dropped one metre on the ground, 96 frames at 24 a second, beside a general-purpose
 * physics library on the same hulls with the same step counts. Overlap is measured by that library on the
 * true hulls, for both results.
 */
final class RigidBench implements Benchmark
{
    private const FRAMES = 96;

    private const DENSITY = 2000.0;

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            return [$this->measured((int) $settings['case'])];
        }
        $rows = [];
        foreach (explode(',', $settings['counts'] ?? '200,500,1000,2000') as $count) {
            $rows[] = OwnProcess::row('rigid', $count, OwnProcess::LONG);
        }

        return $rows;
    }

    /** @return array<string, int|float|string|bool> */
    private function measured(int $count): array
    {
        // The cores are shared: the least of some runs in turn, for both, is what the machine can do.
        $runs = max(1, min(3, intdiv(2000, $count)));
        $total = $theirs = INF;
        $worst = $peak = 0.0;
        for ($run = 1; ; $run++) {
            [$world, $scene] = self::scene($count);
            [$seconds, $slowest, $mb] = $this->dropped($world);
            if ($seconds < $total) {
                [$total, $worst, $peak] = [$seconds, $slowest, $mb];
            }
            for ($f = 0; $f < 24; $f++) {
                $world->step(1 / 24, 2, 6);
            }
            $scene['ours'] = [];
            foreach ($world->state as $b => $_) {
                $scene['ours'][] = [$world->px[$b], $world->py[$b], $world->pz[$b], $world->qx[$b], $world->qy[$b], $world->qz[$b], $world->qw[$b]];
            }
            $reference = $this->reference($scene);
            $theirs = min($theirs, $reference['seconds']);
            if ($run === $runs) {
                break;
            }
        }
        $resting = count(array_filter($world->state, static fn (int $s): bool => $s === World::RESTING));
        $speeds = array_map(static fn (int $b): float => sqrt($world->vx[$b] ** 2 + $world->vy[$b] ** 2 + $world->vz[$b] ** 2), array_keys($world->state));
        sort($speeds);

        return [
            'pieces' => $count, 'mean_s' => round($total / self::FRAMES, 4), 'worst_s' => round($worst, 3), 'peak_mb' => round($peak, 1),
            'reference_mean_s' => round($theirs / self::FRAMES, 4), 'ratio' => round($total / $theirs, 2),
            'overlap_95' => round($reference['ours']['p95'] / $world->pieceSize, 4), 'overlap_worst' => round($reference['ours']['worst'] / $world->pieceSize, 4),
            'reference_overlap_95' => round($reference['theirs']['p95'] / $world->pieceSize, 4), 'reference_overlap_worst' => round($reference['theirs']['worst'] / $world->pieceSize, 4),
            'at_rest_after_5_s' => round($resting / $count, 3), 'speed_99' => round($speeds[(int) (0.99 * ($count - 1))], 5),
        ];
    }

    /** @return array{float, float, float} seconds in all, of the slowest frame, and megabytes at the peak */
    private function dropped(World $world): array
    {
        $before = memory_get_usage();
        memory_reset_peak_usage();
        $worst = $total = 0.0;
        for ($f = 0; $f < self::FRAMES; $f++) {
            $start = hrtime(true);
            $world->step(1 / 24, 2, 6);
            $seconds = (hrtime(true) - $start) / 1e9;
            $total += $seconds;
            $worst = max($worst, $seconds);
        }

        return [$total, $worst, (memory_get_peak_usage() - $before) / 1e6];
    }

    /** @return array{World, array<string, mixed>} */
    public static function scene(int $count): array
    {
        $mesh = ShapeCatalogue::mesh('box', []);
        $shards = (new Cells($count, 7))->break($mesh->withNormals(FaceNormals::flat($mesh)), new SilentProgress);
        $world = new World;
        $world->groundBounce = 0.1;
        $hulls = $poses = $masses = [];
        $size = 0.0;
        foreach ($shards as $s) {
            $c = $s->mass->centroid;
            $m = $s->mesh->movedBy($c->times(-1.0));
            $hull = Hull::around($m->x, $m->y, $m->z);
            $at = $c->plus(new Vec3(0, 1, 0));
            $body = $world->addBody(World::STILL, $at, Quaternion::identity(), $s->mass->volume * self::DENSITY, array_map(static fn (float $v): float => $v * self::DENSITY, $s->mass->inertia));
            $world->addCollider($body, $hull, Vec3::zero(), 0.5, 0.1, 1);
            $world->release($body, Vec3::zero(), Vec3::zero());
            $size += $hull->size;
            $flat = [];
            foreach ($hull->x as $i => $x) {
                array_push($flat, $x, $hull->y[$i], $hull->z[$i]);
            }
            $hulls[] = $flat;
            $poses[] = $at->toArray();
            $masses[] = $s->mass->volume * self::DENSITY;
        }
        $world->pieceSize = $size / count($shards);
        $world->forgiveOverlaps();

        return [$world, ['hulls' => $hulls, 'poses' => $poses, 'density' => self::DENSITY, 'frames' => self::FRAMES, 'searches' => 2, 'steps' => 6, 'friction' => 0.5, 'bounce' => 0.1]];
    }

    /**
     * @param  array<string, mixed>  $scene
     * @return array{seconds: float, ours: array{p95: float, worst: float}, theirs: array{p95: float, worst: float}}
     */
    private function reference(array $scene): array
    {
        /** @var array{seconds: float, ours: array{p95: float, worst: float}, theirs: array{p95: float, worst: float}} $out */
        $out = OutsideLibrary::run('drop.mjs', $scene);

        return $out;
    }
}
