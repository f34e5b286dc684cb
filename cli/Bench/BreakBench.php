<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\SilentProgress;

/** Cells of a 20,000-triangle ring and of a plain box, each case in a process of its own so that its peak memory counts. */
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
            $rows[] = OwnProcess::row('break', $case, '1235');
        }

        return $rows;
    }

    /** @return array<string, int|float|string|bool> */
    private function measured(string $shape, int $count): array
    {
        $mesh = ShapeCatalogue::mesh($shape, $shape === 'ring' ? ['segments' => 200, 'rows' => 50] : []);
        $mesh = $mesh->withNormals(FaceNormals::smooth($mesh));
        $start = hrtime(true);
        $shards = (new Cells($count, 7))->break($mesh, new SilentProgress);
        $seconds = (hrtime(true) - $start) / 1e9;
        $peak = memory_get_peak_usage() / 1e6;
        $figures = BreakFigures::of($shards);

        return [
            'mesh' => $shape, 'faces' => $mesh->faceCount(), 'cells' => $count, 'shards' => $figures['pieces'],
            'seconds' => round($seconds, 3), 'peak_mb' => round($peak, 1), 'watertight' => $figures['watertight'],
            'volume_error' => abs($figures['volume'] / MassProperties::of($mesh)->volume - 1),
        ];
    }
}
