<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Cli\LocalAssets;
use YardBreak\Core\Bake\Bakeable;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/** What a frame of dust takes, in wind and eddies over the ground: seconds of the processor, memory, and bytes a grain. */
final class DustBench implements Benchmark
{
    private const FRAMES = 24;

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            return [$this->measured((string) $settings['case'])];
        }

        return array_map(static fn (string $case): array => OwnProcess::row('dust', $case), ['100000', '500000', '100000-met', '10000-chips']);
    }

    /**
     * @param  string  $case  how many; whether they meet two props that move, or are chips
     * @return array<string, int|float|string|bool>
     */
    private function measured(string $case): array
    {
        [$grains, $what] = [(int) $case, (string) strstr($case, '-')];
        $values = ['map' => 'all', 'grains' => $grains, 'size' => 2, 'density' => 20, 'life' => 60, 'varies' => 0.3] + ($what === '-met' ? ['meets' => 'everything'] : []) + ($what === '-chips' ? ['shape' => 'cube'] : []);
        $moving = static fn (string $id, float $z): array => [
            'id' => $id, 'name' => ucfirst($id), 'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.4, 'detail' => 16]],
            'place' => ['position' => [['keys' => [['frame' => 0, 'value' => 1], ['frame' => self::FRAMES, 'value' => 2]]], 0.3, $z], 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.05], 'break' => null, 'motion' => ['kind' => 'keyed'],
        ];
        $shot = ShotSpec::fromJson((string) json_encode([
            'version' => ShotSpec::VERSION, 'name' => 'Bench', 'frames' => ['first' => 0, 'last' => self::FRAMES, 'rate' => [24, 1]], 'quality' => 'normal',
            'world' => ['gravity' => [0, -9.80665, 0], 'ground' => ['kind' => 'flat'], 'friction' => 0.6, 'bounce' => 0.05],
            'props' => [[
                'id' => 'head', 'name' => 'Head', 'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.3, 'detail' => 8]], 'place' => ['position' => [0, 0.5, 0], 'turn' => [0, 0, 0], 'size' => 1],
                'material' => ['name' => 'plaster', 'colour' => '#efe9db', 'inner' => '#f6f2e8', 'density' => 20, 'friction' => 0.6, 'bounce' => 0.05], 'break' => null, 'motion' => ['kind' => 'fixed'],
                'weights' => [['id' => 'all', 'name' => 'All', 'sources' => [['source' => 'front', 'values' => ['point' => [0, 0, 0], 'direction' => [1, 0, 0], 'full' => 100, 'none' => 200], 'operation' => 'add', 'amount' => 1]]]],
                'dust' => [['id' => 'fluff', 'name' => 'Fluff', 'from' => 'map', 'values' => $values]],
            ], ...($what === '-met' ? [$moving('near', 0.3), $moving('far', -0.5)] : [])],
            'forces' => [
                ['id' => 'wind', 'name' => 'Wind', 'kind' => 'wind', 'values' => ['speed' => 2, 'direction' => [1, 0, 0]]],
                ['id' => 'eddies', 'name' => 'Eddies', 'kind' => 'turbulence', 'values' => ['speed' => 1.5, 'size' => 0.8]],
            ],
        ]));
        $assets = new LocalAssets(sys_get_temp_dir());
        $maker = new PropMaker($assets);
        $shards = [];
        foreach ($shot->props as $prop) {
            $shards[$prop->id] = $maker->shards($prop, new SilentProgress);
        }
        $baker = Bakeable::of($shot, $shards, new MadeParts($maker, $assets, $shards))->baker();
        $frame = $baker->firstFrame();
        $start = OwnProcess::spent();
        for ($k = 0; $k < self::FRAMES; $k++) {
            $frame = $baker->nextFrame();
        }
        $seconds = OwnProcess::spent() - $start;

        return [
            'case' => $case, 'grains' => $frame->figures['grains'], 's_a_frame' => round($seconds / self::FRAMES, 4), 'bytes_a_grain' => round(strlen($frame->stream(0, $what === '-chips' ? StreamKind::Chips : StreamKind::Grains)) / max(1, $frame->figures['grains']), 3),
            'mb' => (int) round(memory_get_peak_usage() / 1e6),
        ];
    }
}
