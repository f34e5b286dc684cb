<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;

/**
 * Every pattern at the size that was promised, and remeshing. Where pieces are about convex, a general-purpose boolean
 * library cuts the same mesh with the hulls of the same pieces beside it.
 */
final class PatternBench implements Benchmark
{
    /** @var array<string, array{string, array<string, mixed>, array<string, mixed>, bool}> shape, its values, pattern values, whether the library is asked */
    private const CASES = [
        'halving-7' => ['ring', ['segments' => 200, 'rows' => 50], ['passes' => 7, 'roughness' => 0.3], true],
        'halving-10' => ['ring', ['segments' => 200, 'rows' => 50], ['passes' => 10, 'roughness' => 0.3], true],
        'punch' => ['ring', ['segments' => 200, 'rows' => 50], ['point' => [0.4, 0.1, 0.0], 'axis' => [0.0, -1.0, 0.0], 'radius' => 0.06, 'bands' => 2], false],
        'strike' => ['ring', ['segments' => 200, 'rows' => 50], ['rays' => 24, 'rings' => 8, 'point' => [0.4, 0.1, 0.0]], true],
        'courses' => ['sheet', ['width' => 5.6, 'height' => 3.0, 'thickness' => 0.1025], ['joint' => 0, 'unit' => [0.225, 0.075, 0.1125]], true],
        'tiles' => ['ring', ['segments' => 200, 'rows' => 50], ['grid' => [10, 3, 10], 'jitter' => 0.5], true],
        'stencil' => ['ring', ['segments' => 200, 'rows' => 50], ['columns' => 5, 'rows' => 5, 'scale' => 0.2, 'axis' => [0.0, 1.0, 0.0]], false],
        'flakes-cells' => ['ring', ['segments' => 250, 'rows' => 100], ['by' => 'number', 'count' => 10000, 'ragged' => 0], false],
        'flakes' => ['ring', ['segments' => 250, 'rows' => 100], ['faces' => 1], false],
    ];

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            return [$settings['case'] === 'remesh' ? $this->remeshed() : $this->broken($settings['case'])];
        }

        return array_map(static fn (string $case): array => OwnProcess::row('patterns', $case), [...array_keys(self::CASES), 'remesh']);
    }

    /** @return array<string, int|float|string|bool> */
    private function broken(string $case): array
    {
        [$shape, $values, $pattern, $asked] = self::CASES[$case];
        $mesh = ShapeCatalogue::mesh($shape, $values);
        $mesh = FaceNormals::shaded($mesh);
        $how = BreakCatalogue::make(explode('-', $case)[0], $pattern);
        $seconds = INF;
        $shards = [];
        // The cores are shared: the least of some runs is what the machine can do.
        for ($run = 0; $run < 3 && ($run === 0 || $seconds < 3.0); $run++) {
            $shards = [];
            $start = hrtime(true);
            $shards = $how->break($mesh, new SilentProgress);
            $seconds = min($seconds, (hrtime(true) - $start) / 1e9);
        }
        $peak = memory_get_peak_usage() / 1e6;
        $figures = BreakFigures::of($shards);
        $row = [
            'case' => $case, 'faces' => $mesh->faceCount(), 'shards' => $figures['pieces'], 'seconds' => round($seconds, 3), 'peak_mb' => round($peak, 1),
            'watertight' => $figures['watertight'], 'volume_error' => abs($figures['volume'] / MassProperties::of($mesh)->volume - 1), 'slivers_percent' => round(100 * self::slivers($shards), 1),
        ];

        return $asked ? $row + ['ratio' => round($seconds / self::reference($mesh, $shards), 3)] : $row;
    }

    /** @return array<string, int|float|string|bool> */
    private function remeshed(): array
    {
        $mesh = ShapeCatalogue::mesh('ring', ['segments' => 200, 'rows' => 50]);
        $seconds = INF;
        for ($run = 0; $run < 2; $run++) {
            $start = hrtime(true);
            $out = PrepareCatalogue::apply($mesh, [['step' => 'remesh', 'values' => ['faces' => 50000]]]);
            $seconds = min($seconds, (hrtime(true) - $start) / 1e9);
        }
        [$nx, $ny, $nz] = FaceNormals::perFace($mesh);
        $area = 0.0;
        foreach ($nx as $f => $v) {
            $area += 0.5 * sqrt($v * $v + $ny[$f] ** 2 + $nz[$f] ** 2);
        }
        $edge = sqrt($area / (0.25 * sqrt(3.0) * 50000));
        $within = 0;
        foreach ($out->faces as $i => $p) {
            $q = $out->faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $l = sqrt(($out->x[$p] - $out->x[$q]) ** 2 + ($out->y[$p] - $out->y[$q]) ** 2 + ($out->z[$p] - $out->z[$q]) ** 2);
            $within += abs($l / $edge - 1) <= 0.2 ? 1 : 0;
        }

        return [
            'case' => 'remesh', 'faces' => $out->faceCount(), 'seconds' => round($seconds, 3), 'peak_mb' => round(memory_get_peak_usage() / 1e6, 1),
            'within_20_percent' => round(100 * $within / count($out->faces), 1), 'volume_change_percent' => round(100 * abs(MassProperties::of($out)->volume / MassProperties::of($mesh)->volume - 1), 3),
        ];
    }

    /**
     * Share of the inner triangles whose height is under 2 % of their longest edge.
     *
     * @param  list<Shard>  $shards
     */
    private static function slivers(array $shards): float
    {
        $thin = $all = 0;
        foreach ($shards as $s) {
            $m = $s->mesh;
            foreach ($m->sides ?? [] as $f => $inside) {
                if ($inside === 0) {
                    continue;
                }
                $all++;
                [$a, $b, $c] = [$m->faces[3 * $f], $m->faces[3 * $f + 1], $m->faces[3 * $f + 2]];
                $l = 0.0;
                foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                    $l = max($l, ($m->x[$p] - $m->x[$q]) ** 2 + ($m->y[$p] - $m->y[$q]) ** 2 + ($m->z[$p] - $m->z[$q]) ** 2);
                }
                $u = [$m->x[$b] - $m->x[$a], $m->y[$b] - $m->y[$a], $m->z[$b] - $m->z[$a]];
                $v = [$m->x[$c] - $m->x[$a], $m->y[$c] - $m->y[$a], $m->z[$c] - $m->z[$a]];
                $twice = sqrt(($u[1] * $v[2] - $u[2] * $v[1]) ** 2 + ($u[2] * $v[0] - $u[0] * $v[2]) ** 2 + ($u[0] * $v[1] - $u[1] * $v[0]) ** 2);
                $thin += $twice < 0.02 * $l ? 1 : 0;
            }
        }

        return $all > 0 ? $thin / $all : 0.0;
    }

    /** @param  list<Shard>  $shards */
    private static function reference(Mesh $mesh, array $shards): float
    {
        $cells = array_map(static fn (Shard $s): array => array_map(null, $s->mesh->x, $s->mesh->y, $s->mesh->z), $shards);
        $out = OutsideLibrary::run('cut.mjs', ['points' => array_merge(...array_map(null, $mesh->x, $mesh->y, $mesh->z)), 'faces' => $mesh->faces, 'cells' => $cells]);

        return (float) $out['seconds'];
    }
}
