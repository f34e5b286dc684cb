<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Cli\LocalAssets;
use YardBreak\Core\Bake\Bakeable;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/**
 * What a frame of cloth takes that hangs from an edge over a block, contact and self-contact on: seconds of the processor as it falls and once it is calm,
 * also in products of a matrix of that many points with a vector, and memory. The same with a map that holds it, growth and pressure at once; and of one
 * that has fallen in a heap.
 */
final class ClothBench implements Benchmark
{
    private const FRAMES = 24;

    /** Frames at the end that count as calm. */
    private const CALM = 6;

    /** Segments of a sheet, by case: how many points it has, about. */
    private const SEGMENTS = ['2500' => 49, '10000' => 99, '25000' => 157, '10000 grown, pressed' => 99, '10000 in a heap' => 99, '10000 flakes' => 0];

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            return [$this->measured((string) $settings['case'])];
        }

        return array_map(static fn (int|string $case): array => OwnProcess::row('cloth', (string) $case), array_keys(self::SEGMENTS));
    }

    /** @return array<string, int|float|string|bool> */
    private function measured(string $case): array
    {
        $segments = self::SEGMENTS[$case];
        $heap = str_ends_with($case, 'heap');
        $flakes = str_ends_with($case, 'flakes');
        $frames = $heap ? 2 * self::FRAMES : self::FRAMES;
        $values = $flakes ? ['fabric' => 'paper', 'cells' => 1] : ($heap ? ['fabric' => 'silk'] : ['fabric' => 'canvas', 'hold' => 'edge'] + (str_ends_with($case, 'pressed') ? ['growth' => 1.05, 'growthMap' => 'edge', 'pressure' => 2] : []));
        $prop = static fn (string $id, array $source, array $position, array $turn, array $with): array => $with + [
            'id' => $id, 'name' => ucfirst($id), 'source' => ['kind' => 'shape', ...$source], 'place' => ['position' => $position, 'turn' => $turn, 'size' => 1],
            'material' => ['name' => 'felt', 'colour' => '#5d7a6b', 'inner' => '#5d7a6b', 'density' => 600, 'friction' => 0.5, 'bounce' => 0.0], 'break' => null,
        ];
        $shot = ShotSpec::fromJson((string) json_encode([
            'version' => ShotSpec::VERSION, 'name' => 'Bench', 'frames' => ['first' => 0, 'last' => $frames, 'rate' => [24, 1]], 'quality' => 'normal',
            'world' => ['gravity' => [0, -9.80665, 0], 'ground' => ['kind' => 'flat'], 'friction' => 0.6, 'bounce' => 0.05],
            ...($flakes ? ['forces' => [['id' => 'wind', 'name' => 'Wind', 'kind' => 'wind', 'values' => ['speed' => 6]]]] : []),
            'props' => $flakes ? [
                $prop('shell', ['shape' => 'ball', 'values' => ['radius' => 0.8, 'detail' => 24]], [0, 3, 0], [0, 0, 0], [
                    'break' => ['pattern' => 'flakes', 'values' => ['by' => 'number', 'count' => 10000, 'thickness' => 0, 'keep' => 'flakes', 'ragged' => 0]],
                    'motion' => ['kind' => 'cloth', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => $values],
                ]),
            ] : [
                $prop('sheet', ['shape' => 'sheet', 'values' => ['width' => 1, 'height' => 1, 'thickness' => 0, 'segments' => $segments]], [0, $heap ? 0.02 : 1.2, 0], $heap ? [-6, 0, 3] : [-80, 0, 0], [
                    'weights' => [['id' => 'edge', 'name' => 'Edge', 'sources' => [['source' => 'front', 'values' => ['point' => [0, 0.999, 0], 'direction' => [0, -1, 0], 'full' => 0, 'none' => 0.001], 'on' => 'own', 'operation' => 'add', 'amount' => 1]]]],
                    'motion' => ['kind' => 'cloth', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => $values],
                ]),
                $prop('block', ['shape' => 'box', 'values' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]], [0, 0, 0.3], [0, 0, 0], ['motion' => ['kind' => 'fixed']]),
            ],
        ]));
        $assets = new LocalAssets(sys_get_temp_dir());
        $maker = new PropMaker($assets);
        $shards = [];
        foreach ($shot->props as $one) {
            $shards[$one->id] = $maker->shards($one, new SilentProgress);
        }
        $baker = Bakeable::of($shot, $shards, new MadeParts($maker, $assets, $shards))->baker();
        $baker->firstFrame();
        $seconds = [];
        for ($k = 0; $k < $frames; $k++) {
            $start = OwnProcess::spent();
            $baker->nextFrame();
            $seconds[] = OwnProcess::spent() - $start;
        }
        $calm = array_sum(array_slice($seconds, -self::CALM)) / self::CALM;
        // While all of them fly.
        $calm = $flakes ? array_sum(array_slice($seconds, 0, self::CALM)) / self::CALM : $calm;
        $product = self::product($flakes ? 200 : $segments + 1);

        return [
            'case' => $case, 'points' => $flakes ? 40000 : ($segments + 1) ** 2, 's_a_frame' => round(array_sum($seconds) / $frames, 3), 'calm' => round($calm, 3), 'worst' => round(max($seconds), 3),
            'products' => (int) round($calm / $product), 'mb' => (int) round(memory_get_peak_usage() / 1e6),
        ];
    }

    /** Seconds of a product of a matrix of 3 × 3 blocks with a vector, for so many points to the side that each pull on those beside them. */
    private static function product(int $side): float
    {
        $n = $side * $side;
        $from = $to = $blocks = [];
        for ($i = 0; $i < $n; $i++) {
            foreach ([$i % $side < $side - 1 ? 1 : 0, $i < $n - $side ? $side : 0, $i % $side < $side - 1 && $i < $n - $side ? $side + 1 : 0] as $step) {
                if ($step > 0) {
                    $from[] = $i;
                    $to[] = $i + $step;
                    array_push($blocks, 1.0, 0.1, 0.2, 1.0, 0.3, 1.0);
                }
            }
        }
        $x = $y = $z = array_fill(0, $n, 1.0);
        $rounds = max(1, intdiv(100_000, $n));
        $start = OwnProcess::spent();
        for ($r = 0; $r < $rounds; $r++) {
            $px = $py = $pz = array_fill(0, $n, 0.0);
            foreach ($from as $p => $i) {
                $j = $to[$p];
                $k = 6 * $p;
                [$xx, $xy, $zx, $yy, $yz, $zz] = [$blocks[$k], $blocks[$k + 1], $blocks[$k + 2], $blocks[$k + 3], $blocks[$k + 4], $blocks[$k + 5]];
                $px[$i] += $xx * $x[$j] + $xy * $y[$j] + $zx * $z[$j];
                $py[$i] += $xy * $x[$j] + $yy * $y[$j] + $yz * $z[$j];
                $pz[$i] += $zx * $x[$j] + $yz * $y[$j] + $zz * $z[$j];
                $px[$j] += $xx * $x[$i] + $xy * $y[$i] + $zx * $z[$i];
                $py[$j] += $xy * $x[$i] + $yy * $y[$i] + $yz * $z[$i];
                $pz[$j] += $zx * $x[$i] + $yz * $y[$i] + $zz * $z[$i];
            }
        }

        return (OwnProcess::spent() - $start) / $rounds;
    }
}
