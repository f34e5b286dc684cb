<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\SilentProgress;

/**
 * Pieces dropped on the ground, 96 frames at 24 a second, beside a general-purpose physics library on the same hulls
 * with the same step counts: a cube of N cells from one metre, and a thin-walled jar of N that breaks as it lands.
 * Overlap is measured by that library on the true hulls, for both results.
 */
final class RigidBench implements Benchmark
{
    private const FRAMES = 96;

    private const DENSITY = 2000.0;

    /** Metres. */
    private const FALL = 0.4;

    /** Outside and inside of a jar, radius and height. */
    public const JAR = [
        [0, 0], [0.085, 0], [0.112, 0.008], [0.14, 0.04], [0.178, 0.115], [0.19, 0.195], [0.176, 0.275], [0.138, 0.345], [0.105, 0.385],
        [0.1, 0.42], [0.122, 0.445], [0.12, 0.461], [0.1, 0.456], [0.084, 0.425], [0.087, 0.383], [0.121, 0.335], [0.159, 0.268],
        [0.172, 0.195], [0.16, 0.122], [0.12, 0.05], [0.09, 0.026], [0, 0.02],
    ];

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            [$what, $count] = explode(' ', $settings['case']);

            return [$this->measured($what, (int) $count)];
        }
        $rows = [];
        foreach (explode(',', $settings['cases'] ?? 'cube 200,cube 500,cube 1000,cube 2000,block 5000,thin 300,thin 1000,thin 5000') as $case) {
            $rows[] = OwnProcess::row('rigid', $case);
        }

        return $rows;
    }

    /** @return array<string, int|float|string|bool> */
    private function measured(string $what, int $count): array
    {
        // The cores are shared: the least of some runs in turn, for both, is what the machine can do.
        $runs = max(1, min(3, intdiv(2000, $count)));
        $total = $theirs = INF;
        $worst = $peak = 0.0;
        $rests = null;
        for ($run = 1; ; $run++) {
            [$world, $scene] = self::scene($count, $what);
            [$seconds, $slowest, $mb, $settled] = $this->dropped($world);
            if ($seconds < $total) {
                [$total, $worst, $peak, $rests] = [$seconds, $slowest, $mb, $settled];
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
            'what' => $what, 'pieces' => count($world->state), 'mean_s' => round($total / self::FRAMES, 4), 'worst_s' => round($worst, 3), 'peak_mb' => round($peak, 1),
            'reference_mean_s' => round($theirs / self::FRAMES, 4), 'ratio' => round($total / $theirs, 2),
            'overlap_95' => round($reference['ours']['p95'] / $world->pieceSize, 4), 'overlap_worst' => round($reference['ours']['worst'] / $world->pieceSize, 4),
            'reference_overlap_95' => round($reference['theirs']['p95'] / $world->pieceSize, 4), 'reference_overlap_worst' => round($reference['theirs']['worst'] / $world->pieceSize, 4),
            'at_rest_after_5_s' => round($resting / $count, 3), 'rests_from_frame' => $rests ?? 'never', 'reference_rests_from_frame' => $reference['settled'] ?? 'never', 'speed_99' => round($speeds[(int) (0.99 * ($count - 1))], 5),
        ];
    }

    /** @return array{float, float, float, int|null} seconds in all, of the slowest frame, megabytes at the peak, and the frame from which all but one in a hundred rest */
    private function dropped(World $world): array
    {
        $before = memory_get_usage();
        memory_reset_peak_usage();
        $worst = $total = 0.0;
        $settled = null;
        for ($f = 0; $f < self::FRAMES; $f++) {
            $start = hrtime(true);
            $world->step(1 / 24, 2, 6);
            $seconds = (hrtime(true) - $start) / 1e9;
            $total += $seconds;
            $worst = max($worst, $seconds);
            $moving = count(array_filter($world->state, static fn (int $s): bool => $s === World::MOVING));
            $settled = $moving <= 0.01 * count($world->state) ? ($settled ?? $f + 1) : null;
        }

        return [$total, $worst, (memory_get_peak_usage() - $before) / 1e6, $settled];
    }

    /**
     * @param  string  $what  cube or block, of cells that are one hull each, or thin, a jar whose shards are several
     * @return array{World, array<string, mixed>}
     */
    public static function scene(int $count, string $what = 'cube'): array
    {
        $thin = $what === 'thin';
        $mesh = $thin ? ShapeCatalogue::mesh('lathe', ['profile' => self::JAR, 'segments' => 96, 'rounding' => 2]) : ShapeCatalogue::mesh('box', []);
        $shards = (new Cells($count, 7))->break($mesh->withNormals(FaceNormals::flat($mesh)), new SilentProgress);
        $world = new World;
        $world->groundBounce = 0.1;
        $all = $hulls = $poses = [];
        // The jar breaks as it lands, after a fall of so much.
        $speed = $thin ? sqrt(2.0 * 9.80665 * self::FALL) : 0.0;
        $turn = $thin ? Quaternion::aboutAxis(new Vec3(0.4, 0, 0.9166), 0.3) : Quaternion::identity();
        $lift = $thin ? 0.001 - min(array_map(static fn (Shard $s): float => self::lowest($s, $turn), $shards)) : 1.0;
        foreach (Solid::free($shards, $thin ? Solid::PARTS : Solid::HULL) as $solid) {
            $at = $turn->turn($solid->centre)->plus(new Vec3(0, $lift, 0));
            $body = $world->addBody(World::STILL, $at, $turn, $solid->mass->volume * self::DENSITY, array_map(static fn (float $v): float => $v * self::DENSITY, $solid->mass->inertia));
            $parts = [];
            foreach ($solid->hulls as $hull) {
                $world->addCollider($body, $hull, Vec3::zero(), 0.5, 0.1, 1);
                $all[] = $hull;
                $flat = [];
                foreach ($hull->x as $i => $x) {
                    array_push($flat, $x, $hull->y[$i], $hull->z[$i]);
                }
                $parts[] = $flat;
            }
            $world->release($body, new Vec3(0, -$speed, 0), Vec3::zero());
            $hulls[] = $parts;
            $poses[] = [...$at->toArray(), $turn->x, $turn->y, $turn->z, $turn->w];
        }
        $world->measure($all);
        $world->forgiveOverlaps();

        return [$world, ['hulls' => $hulls, 'poses' => $poses, 'speed' => $speed, 'density' => self::DENSITY, 'frames' => self::FRAMES, 'searches' => 2, 'steps' => 6, 'friction' => 0.5, 'bounce' => 0.1]];
    }

    public static function lowest(Shard $shard, Quaternion $turn): float
    {
        $lowest = INF;
        foreach ($shard->mesh->x as $i => $x) {
            $lowest = min($lowest, $turn->turn(new Vec3($x, $shard->mesh->y[$i], $shard->mesh->z[$i]))->y);
        }

        return $lowest;
    }

    /**
     * @param  array<string, mixed>  $scene
     * @return array{seconds: float, settled: int|null, ours: array{p95: float, worst: float}, theirs: array{p95: float, worst: float}}
     */
    private function reference(array $scene): array
    {
        /** @var array{seconds: float, settled: int|null, ours: array{p95: float, worst: float}, theirs: array{p95: float, worst: float}} $out */
        $out = OutsideLibrary::run('drop.mjs', $scene);

        return $out;
    }
}
