<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use App\Storage\FrameStore;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Timing\Track;

/** Values over frames, what of a bake is still true, and taking it up again. */
final class TimeBench implements Benchmark
{
    private const EASES = ['linear', 'smooth', 'overshoot', 'bounce', 'long-tail', [0.2, 0.1, 0.4, 1.2]];

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            return [match ($settings['case']) {
                'tracks' => $this->tracks(),
                'history' => $this->history(),
                default => $this->resumed((int) $settings['case']),
            }];
        }

        return array_map(static fn (string $case): array => OwnProcess::row('time', $case), ['tracks', 'history', ...explode(',', $settings['counts'] ?? '200,1000,2000')]);
    }

    /** @return array<string, int|float|string|bool> */
    private function tracks(): array
    {
        $tracks = [];
        for ($k = 0; $k < 1000; $k++) {
            $tracks[] = Track::of(['keys' => array_map(static fn (int $i): array => ['frame' => 9 * $i + $k % 9, 'value' => $i * $k % 7, 'ease' => self::EASES[($i + $k) % 6]], range(0, 11)), 'after' => 'swing']);
        }
        $run = static function () use ($tracks): float {
            $start = hrtime(true);
            $sum = 0.0;
            for ($frame = 0; $frame < 120; $frame++) {
                foreach ($tracks as $track) {
                    $sum += $track->at((float) $frame);
                }
            }

            return (hrtime(true) - $start) / 1e6 / 120;
        };
        $run();

        return ['case' => '1,000 tracks', 'ms_a_frame' => round(min($run(), $run(), $run()), 3)];
    }

    /** @return array<string, int|float|string|bool> */
    private function history(): array
    {
        $shot = static function (int $late): ShotSpec {
            $material = ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.1];
            $keys = static fn (int $n): array => ['keys' => array_map(static fn (int $k): array => ['frame' => 12 * $k, 'value' => ($k * $n) % 5 + ($k > 30 ? $late : 0), 'ease' => self::EASES[$k % 6]], range(0, 39))];
            $props = [];
            for ($p = 0; $p < 5; $p++) {
                $props[] = ['id' => 'p'.$p, 'name' => 'Prop '.$p, 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => new \stdClass], 'place' => ['position' => [$keys(1 + $p), $keys(2), $keys(3)], 'turn' => [0, $keys(4), $keys(5)], 'size' => 1], 'material' => $material, 'break' => null, 'motion' => ['kind' => 'keyed']];
            }

            return ShotSpec::fromJson((string) json_encode(['version' => ShotSpec::VERSION, 'name' => 'Bench', 'frames' => ['first' => 0, 'last' => 499, 'rate' => [24, 1]], 'world' => ['gravity' => [0, -9.8, 0], 'ground' => ['kind' => 'flat'], 'friction' => 0.5, 'bounce' => 0], 'props' => $props]));
        };
        [$one, $other] = [$shot(0), $shot(1)];
        $best = INF;
        $same = 0;
        for ($run = 0; $run < 5; $run++) {
            $start = hrtime(true);
            [$a, $b] = [History::of($one)->chain(), History::of($other)->chain()];
            for ($same = 0; $a[$same] === $b[$same];) {
                $same++;
            }
            History::of($one)->partsFrom(History::of($other));
            $best = min($best, (hrtime(true) - $start) / 1e6);
        }

        return ['case' => '500 frames, 1,000 keys: what is still true', 'ms' => round($best, 2), 'frames_kept' => $same];
    }

    /** @return array<string, int|float|string|bool> a block of so many pieces, dropped; its largest state, and the end reached from there */
    private function resumed(int $count): array
    {
        $mesh = ShapeCatalogue::mesh('box', []);
        $solids = ['block' => Solid::free((new Cells($count, 7))->break($mesh->withNormals(FaceNormals::flat($mesh)), new SilentProgress))];
        $shot = ShotSpec::fromJson((string) json_encode(['version' => ShotSpec::VERSION, 'name' => 'Bench', 'frames' => ['first' => 0, 'last' => 40, 'rate' => [24, 1]], 'quality' => 'normal',
            'world' => ['gravity' => [0, -9.80665, 0], 'ground' => ['kind' => 'flat'], 'friction' => 0.5, 'bounce' => 0.1],
            'props' => [['id' => 'block', 'name' => 'Block', 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => new \stdClass], 'place' => ['position' => [0, 0.6, 0], 'turn' => [0, 0, 0], 'size' => 1],
                'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2000, 'friction' => 0.5, 'bounce' => 0.1], 'break' => ['pattern' => 'cells', 'values' => ['count' => $count]], 'motion' => ['kind' => 'free']]]]));
        $kept = serialize($solids['block']);
        $folder = sys_get_temp_dir().'/yard-bench-'.bin2hex(random_bytes(4));
        $store = new FrameStore($folder, 0);
        $baker = new Baker($shot, $solids);
        $writing = $packing = $all = 0.0;
        $state = '';
        $at = 0;
        $store->put([$baker->firstFrame()]);
        while ($baker->frameNumber() < 40) {
            $start = hrtime(true);
            $frame = $baker->nextFrame();
            $before = hrtime(true);
            $store->put([$frame]);
            $done = hrtime(true);
            $now = $baker->pack();
            $writing += ($done - $before) / 1e9;
            $all += ($done - $start) / 1e9;
            if (strlen($now) > strlen($state)) {
                [$state, $at, $packing] = [$now, $baker->frameNumber(), (hrtime(true) - $done) / 1e9];
            }
        }
        $begun = hrtime(true);
        $again = new Baker($shot, ['block' => unserialize($kept)]);
        $again->unpack($state);
        $taking = (hrtime(true) - $begun) / 1e9;
        while ($again->frameNumber() < 40) {
            $again->nextFrame();
        }
        $same = $baker->pack() === $again->pack();
        exec('rm -rf '.escapeshellarg($folder));

        return [
            'case' => $count.' pieces', 'mean_frame_s' => round($all / 40, 4), 'largest_at' => $at, 'state_mb' => round(strlen($state) / 1e6, 3), 'state_mb_a_1000' => round(strlen($state) / 1e3 / $count, 3), 'pack_s' => round($packing, 4),
            'take_up_s' => round($taking, 3), 'writing_share' => round($writing / $all, 4), 'same_end' => $same,
        ];
    }
}
