<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Check\Overlaps;
use YardBreak\Core\Collide\FlatGround;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\SilentProgress;

/**
 * Rubble comes to rest: heaps of thin, curved and long pieces over seeds that break and lay them otherwise, beside a
 * general-purpose physics library on the same parts. Frames at 24 a second, lengths as shares of how thick the pieces are.
 */
final class RubbleBench implements Benchmark
{
    private const FRAMES = 168;

    private const DENSITY = 2000.0;

    /** Metres that a vessel has fallen when it breaks. */
    private const FALL = 0.4;

    private const CASES = 'vase 300,jar 300,jar 1000,slates 60,rods 200,letters 48';

    /** Outside and inside of a vase with a wall of 8 mm, radius and height. */
    private const VASE = [[0, 0], [0.07, 0], [0.1, 0.06], [0.12, 0.15], [0.1, 0.24], [0.07, 0.3], [0.09, 0.35], [0.082, 0.35], [0.062, 0.3], [0.092, 0.24], [0.112, 0.15], [0.092, 0.063], [0.065, 0.008], [0, 0.008]];

    public function rows(array $settings): array
    {
        $seeds = (int) ($settings['seeds'] ?? 10);
        if (isset($settings['case'])) {
            [$what, $count, $seeds] = explode(' ', $settings['case']);

            return [$this->measured($what, (int) $count, (int) $seeds)];
        }

        return array_map(static fn (string $case): array => OwnProcess::row('rubble', "$case $seeds"), explode(',', $settings['cases'] ?? self::CASES));
    }

    /** @return array<string, int|float|string|bool> */
    private function measured(string $what, int $count, int $seeds): array
    {
        $found = [];
        for ($seed = 1; $seed <= $seeds; $seed++) {
            foreach ($this->fallen($what, $count, $seed) as $name => $value) {
                $found[$name][] = $value;
            }
        }
        $row = ['what' => $what, 'pieces' => $count, 'seeds' => $seeds];
        foreach ($found as $name => $values) {
            $numbers = array_filter($values, is_numeric(...));
            sort($numbers);
            $never = count($values) - count($numbers);
            $row[$name] = ($numbers === [] ? '' : sprintf('%.3g–%.3g', $numbers[0], end($numbers))).($never > 0 ? " ($never never)" : '');
        }

        return $row;
    }

    /** @return array<string, int|float|string> */
    private function fallen(string $what, int $count, int $seed): array
    {
        [$shards, $poses, $speed] = self::heap($what, $count, $seed);
        $before = memory_get_usage();
        memory_reset_peak_usage();
        $world = new World;
        $world->groundBounce = 0.1;
        $solids = Solid::free($shards);
        $apart = in_array($what, ['slates', 'rods', 'letters'], true);
        $hulls = [];
        foreach ($solids as $k => $solid) {
            [$by, $turn] = $poses[$k];
            $group = $apart ? $k + 1 : 1;
            $body = $world->addBody(World::STILL, $turn->turn($solid->centre)->plus($by), $turn, $solid->mass->volume * self::DENSITY, array_map(static fn (float $v): float => $v * self::DENSITY, $solid->mass->inertia), $group);
            foreach ($solid->hulls as $hull) {
                $world->addCollider($body, $hull, Vec3::zero(), 0.5, 0.1, $group);
                $hulls[] = $hull;
            }
            $world->release($body, new Vec3(0.0, -$speed, 0.0), Vec3::zero());
        }
        $world->measure($hulls);
        $world->forgiveOverlaps();
        $start = self::places($world);
        $most = $least = self::energy($world);
        $rise = 0.0;
        $last = 0;
        $settled = null;
        $woken = 0;
        $states = $world->state;
        $at = [];
        for ($f = 1; $f <= self::FRAMES; $f++) {
            $world->step(1 / 24, 2, 6);
            $energy = self::energy($world);
            $rise = max($rise, $energy - $least);
            $least = min($least, $energy);
            $moving = count(array_keys($world->state, World::MOVING, true));
            foreach ($world->vx as $b => $vx) {
                if ($world->state[$b] === World::MOVING && $vx ** 2 + $world->vy[$b] ** 2 + $world->vz[$b] ** 2 > 1.0) {
                    $last = $f;
                    break;
                }
            }
            if ($settled !== null) {
                $woken = max($woken, count(array_filter(array_keys($states), static fn (int $b): bool => $states[$b] === World::RESTING && $world->state[$b] === World::MOVING)));
            }
            $settled = $moving <= 0.01 * $count ? ($settled ?? $f) : null;
            $states = $world->state;
            if ($f === self::FRAMES - 24) {
                $at = self::places($world);
            }
        }
        $after = self::places($world);
        $creep = array_map(static fn (array $a, array $b): float => 1000.0 * sqrt(($a[0] - $b[0]) ** 2 + ($a[1] - $b[1]) ** 2 + ($a[2] - $b[2]) ** 2), $at, $after);
        sort($creep);
        $memory = (memory_get_peak_usage() - $before) / 1024 / $count;
        $overlaps = Overlaps::of($shards, array_map(static fn (array $p): Pose => new Pose(new Vec3($p[0], $p[1], $p[2]), new Quaternion($p[3], $p[4], $p[5], $p[6]), 1.0, Pose::MOVING), $after), $apart ? range(0, $count - 1) : array_fill(0, $count, 0), FlatGround::of([]));
        $reference = OutsideLibrary::run('drop.mjs', [
            'hulls' => array_map(static fn (Solid $s): array => array_map(static fn ($h): array => array_merge(...array_map(static fn (float $x, float $y, float $z): array => [$x, $y, $z], $h->x, $h->y, $h->z)), $s->hulls), $solids),
            'poses' => $start, 'ours' => $after, 'speed' => $speed, 'density' => self::DENSITY, 'frames' => self::FRAMES, 'searches' => 2, 'steps' => 6, 'friction' => 0.5, 'bounce' => 0.1,
        ]);

        return [
            'rests_frames_after_the_last_fell' => $settled === null ? 'never' : max(0, $settled - $last), 'woken_after' => $woken,
            'overlap_95' => Overlaps::percentile($overlaps, 0.95), 'overlap_worst' => Overlaps::percentile($overlaps, 1.0),
            'creep_99_mm_s' => $creep[(int) (0.99 * ($count - 1))], 'energy_rise' => $rise / max(1e-12, $most), 'kb_a_piece' => $memory,
            'reference_rests_from_frame' => $reference['settled'] ?? 'never', 'rests_from_frame' => $settled ?? 'never',
            'overlap_95_on_parts' => $reference['ours']['p95'] / $world->pieceThickness, 'reference_overlap_95_on_parts' => $reference['theirs']['p95'] / $world->pieceThickness,
        ];
    }

    /** @return list<array{float, float, float, float, float, float, float}> */
    private static function places(World $world): array
    {
        return array_map(static fn (int $b): array => [$world->px[$b], $world->py[$b], $world->pz[$b], $world->qx[$b], $world->qy[$b], $world->qz[$b], $world->qw[$b]], array_keys($world->state));
    }

    /** Joules, of motion along and of height; turning is left out, which only makes what rises look larger. */
    private static function energy(World $world): float
    {
        $sum = 0.0;
        foreach ($world->mass as $b => $mass) {
            $sum += $mass * (0.5 * ($world->vx[$b] ** 2 + $world->vy[$b] ** 2 + $world->vz[$b] ** 2) + 9.80665 * $world->py[$b]);
        }

        return $sum;
    }

    /** @return array{list<Shard>, list<array{Vec3, Quaternion}>, float} what falls, where each is laid and how it is turned, and how fast all come down */
    private static function heap(string $what, int $count, int $seed): array
    {
        if ($what === 'vase' || $what === 'jar') {
            $mesh = ShapeCatalogue::mesh('lathe', ['profile' => $what === 'vase' ? self::VASE : RigidBench::JAR, 'segments' => 96, 'rounding' => 2]);
            $turn = Quaternion::aboutAxis(new Vec3(0.4, 0.0, 0.9166), 0.3);
            $shards = (new Cells($count, $seed))->break($mesh->withNormals(FaceNormals::flat($mesh)), new SilentProgress);
            $lift = new Vec3(0.0, 0.001 - min(array_map(static fn (Shard $s): float => RigidBench::lowest($s, $turn), $shards)), 0.0);

            return [$shards, array_fill(0, count($shards), [$lift, $turn]), sqrt(2.0 * 9.80665 * self::FALL)];
        }
        $random = new SeededRandom($seed);
        $kinds = match ($what) {
            'slates' => [self::whole('box', ['width' => 0.3, 'height' => 0.006, 'depth' => 0.2])],
            'rods' => [self::whole('box', ['width' => 0.3, 'height' => 0.02, 'depth' => 0.02])],
            default => array_map(static fn (string $letter): Shard => self::whole('text', ['text' => $letter, 'height' => 0.3]), mb_str_split('YARDBRELOSNH')),
        };
        $shards = $poses = [];
        for ($k = 0; $k < $count; $k++) {
            $shards[] = $shard = $kinds[$k % count($kinds)];
            $centre = $shard->centre();
            [$at, $turn] = match ($what) {
                'slates' => [new Vec3($random->between(-0.01, 0.01), 0.006 * ($k + 0.5), $random->between(-0.01, 0.01)), Quaternion::identity()],
                'rods' => [new Vec3($random->between(-0.2, 0.2), 0.3 + 0.05 * intdiv($k, 4) + 0.01 * ($k % 4), $random->between(-0.2, 0.2)), Quaternion::aboutAxis(new Vec3(0.0, 1.0, 0.0), $random->between(0.0, M_PI))],
                default => [new Vec3(0.35 * ($k % 4) + $random->between(-0.02, 0.02), 0.3 + 0.4 * intdiv($k, 8), 0.3 * (intdiv($k, 4) % 2)), Quaternion::aboutAxis(new Vec3(0.0, 1.0, 0.0), $random->between(-0.2, 0.2))],
            };
            $poses[] = [$at->minus($turn->turn($centre)), $turn];
        }

        return [$shards, $poses, 0.0];
    }

    /** @param  array<string, mixed>  $values */
    private static function whole(string $shape, array $values): Shard
    {
        $mesh = ShapeCatalogue::mesh($shape, $values);

        return PropMaker::asOne($mesh->withNormals(FaceNormals::flat($mesh)));
    }
}
