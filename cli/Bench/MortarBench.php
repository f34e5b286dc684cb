<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Cli\LocalAssets;
use YardBreak\Core\Bake\Bakeable;
use YardBreak\Core\Rigid\Mortar\Mortars;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/** What mortar costs: a wall of 1,000 bricks hit once beside the same wall loose, and the same wall standing. */
final class MortarBench implements Benchmark
{
    private const FRAMES = 48;

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            return [$this->measured($settings['case'])];
        }

        return array_map(static fn (string $case): array => OwnProcess::row('mortar', $case), ['cement mortar', 'lime mortar', 'standing']);
    }

    /** @return array<string, int|float|string|bool> */
    private function measured(string $case): array
    {
        $stands = $case === 'standing';
        [$seconds, $pieces, $cracks] = self::seconds($stands ? 'lime mortar' : $case, ! $stands);
        $row = ['case' => $case, 'pieces' => $pieces, 'bonds_broken' => $cracks, 's_a_frame' => round($seconds / self::FRAMES, 4)];

        return $stands ? $row : $row + ['ratio_to_loose' => round($seconds / self::seconds(Mortars::NONE, true)[0], 2)];
    }

    /** @return array{float, int, int} seconds of computing, pieces, and bonds that broke */
    private static function seconds(string $mortar, bool $hit): array
    {
        $stone = static fn (int $density): array => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => $density, 'friction' => 0.6, 'bounce' => 0.05];
        $prop = static fn (string $id, string $shape, array $values, array $at, int $density, ?array $break, array $motion): array => [
            'id' => $id, 'name' => ucfirst($id), 'source' => ['kind' => 'shape', 'shape' => $shape, 'values' => $values], 'place' => ['position' => $at, 'turn' => [0, 0, 0], 'size' => 1],
            'material' => $stone($density), 'break' => $break, 'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => $motion],
        ];
        $props = [$prop('wall', 'box', ['width' => 4.5, 'height' => 3.75, 'depth' => 0.1025, 'segments' => 1], [0, 0, 0], 1900, ['pattern' => 'courses', 'values' => ['filling' => 'gap']], ['mortar' => $mortar])];
        if ($hit) {
            $props[] = $prop('stone', 'ball', ['radius' => 0.12, 'detail' => 4], [0.1, 0.75, -0.4], 2600, null, ['velocity' => [0, 0, 12]]);
        }
        $shot = ShotSpec::fromJson((string) json_encode([
            'version' => ShotSpec::VERSION, 'name' => 'Bench', 'frames' => ['first' => 0, 'last' => self::FRAMES, 'rate' => [24, 1]], 'quality' => 'normal',
            'world' => ['gravity' => [0, -9.80665, 0], 'ground' => ['kind' => 'flat'], 'friction' => 0.6, 'bounce' => 0.05], 'props' => $props,
        ]));
        $assets = new LocalAssets(sys_get_temp_dir());
        $maker = new PropMaker($assets);
        $shards = [];
        foreach ($shot->props as $own) {
            $shards[$own->id] = $maker->shards($own, new SilentProgress);
        }
        $baker = Bakeable::of($shot, $shards, new MadeParts($maker, $assets, $shards))->baker();
        $start = OwnProcess::spent();
        $frame = $baker->firstFrame();
        $cracks = 0;
        for ($k = 0; $k < self::FRAMES; $k++) {
            $frame = $baker->nextFrame();
            $cracks += count($frame->figures['cracks']['wall'] ?? []);
        }

        return [OwnProcess::spent() - $start, count($shards['wall']), $cracks];
    }
}
