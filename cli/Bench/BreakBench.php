<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\SilentProgress;

/**
 * Cells of a 20,000-triangle ring and of a plain box, each case in a process of its own so that its peak memory
 * counts; beside it a general-purpose boolean library cuts the same mesh with as many convex shapes.
 */
final class BreakBench implements Benchmark
{
    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            [$shape, $count] = explode(':', $settings['case']);

            return [$this->measured($shape, (int) $count)];
        }
        $rows = [];
        foreach (['ring:100', 'ring:1000', 'box:1000', 'ring:5000'] as $case) {
            $rows[] = OwnProcess::row('break', $case);
        }

        return $rows;
    }

    /** @return array<string, int|float|string|bool> */
    private function measured(string $shape, int $count): array
    {
        $mesh = ShapeCatalogue::mesh($shape, $shape === 'ring' ? ['segments' => 200, 'rows' => 50] : []);
        $mesh = FaceNormals::shaded($mesh);
        // The cores are shared: the least of some runs is what the machine can do.
        $seconds = INF;
        for ($run = 0; $run < ($count > 1000 ? 1 : 3); $run++) {
            $shards = [];
            $start = hrtime(true);
            $shards = (new Cells($count, 7, 0.2))->break($mesh, new SilentProgress);
            $seconds = min($seconds, (hrtime(true) - $start) / 1e9);
        }
        $peak = memory_get_peak_usage() / 1e6;
        $figures = BreakFigures::of($shards);

        return [
            'mesh' => $shape, 'faces' => $mesh->faceCount(), 'cells' => $count, 'shards' => $figures['pieces'],
            'seconds' => round($seconds, 3), 'ratio' => round($seconds / $this->reference($mesh, $shards), 3), 'peak_mb' => round($peak, 1), 'watertight' => $figures['watertight'],
            'volume_error' => abs($figures['volume'] / MassProperties::of($mesh)->volume - 1),
        ];
    }

    /** @param  list<Shard>  $shards */
    private function reference(Mesh $mesh, array $shards): float
    {
        $cells = array_map(static fn (Shard $s): array => array_map(null, $s->mesh->x, $s->mesh->y, $s->mesh->z), $shards);
        $out = OutsideLibrary::run('cut.mjs', ['points' => array_merge(...array_map(null, $mesh->x, $mesh->y, $mesh->z)), 'faces' => $mesh->faces, 'cells' => $cells]);

        return (float) $out['seconds'];
    }
}
