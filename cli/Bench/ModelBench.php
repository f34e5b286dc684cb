<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\Mend;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\References\OutsideMeshes;

/**
 * Every mesh of Debian's `libcgal-demo`, made fit by one step where it is not, broken by every pattern that needs no drawing,
 * each with the values it comes with for the mesh's size.
 */
final class ModelBench implements Benchmark
{
    private const PATTERNS = ['cells', 'halving', 'strike', 'courses', 'tiles', 'flakes', 'stencil', 'punch'];

    private const LEAST_FACES = 12;

    private const MOST_FACES = 60000;

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            return [$this->broken($settings['case'])];
        }
        $rows = [];
        foreach (isset($settings['models']) ? explode(',', $settings['models']) : OutsideMeshes::names() as $name) {
            try {
                $faces = OutsideMeshes::cgal($name)->faceCount();
            } catch (\Throwable) {
                continue;
            }
            if ($faces >= self::LEAST_FACES && $faces <= self::MOST_FACES) {
                try {
                    $rows[] = OwnProcess::row('models', $name);
                } catch (Problem $e) {
                    $rows[] = ['model' => $name, 'made_fit' => 'nothing', 'why' => $e->getMessage()];
                }
            }
        }

        return [...$rows, $this->summary($rows)];
    }

    /** @return array<string, int|float|string|bool> */
    private function broken(string $name): array
    {
        $mesh = OutsideMeshes::cgal($name);
        $start = hrtime(true);
        [$fit, $how] = self::fit($mesh);
        $row = ['model' => $name, 'faces' => $mesh->faceCount(), 'made_fit' => $how, 'fit_s' => round((hrtime(true) - $start) / 1e9, 2)];
        if ($fit === null) {
            return $row;
        }
        $mesh = FaceNormals::shaded($fit);
        $fitness = Fitness::of($mesh);
        $lengths = BreakCatalogue::lengths($fitness->bounds->size());
        foreach (self::PATTERNS as $pattern) {
            $row[$pattern] = self::result($mesh, $pattern, $lengths[$pattern] ?? [], $fitness->volume);
        }

        return $row;
    }

    /** @return array{Mesh|null, string} what can be broken, and what made it so */
    private static function fit(Mesh $mesh): array
    {
        foreach (['none' => static fn (): Mesh => $mesh, 'repair' => static fn (): Mesh => Mend::of($mesh)[0], 'rebuild' => static fn (): Mesh => PrepareCatalogue::apply($mesh, [['step' => 'rebuild']])] as $how => $make) {
            try {
                $made = $make();
                if (Fitness::of($made)->canBreak()) {
                    BreakCatalogue::make('cells', ['count' => 12])->break(FaceNormals::shaded($made), new SilentProgress);

                    return [$made, $how];
                }
            } catch (Problem) {
                continue;
            }
        }

        return [null, 'nothing'];
    }

    /** @param  array<string, mixed>  $values */
    private static function result(Mesh $mesh, string $pattern, array $values, float $volume): string
    {
        $start = hrtime(true);
        try {
            $shards = BreakCatalogue::make($pattern, $values)->break($mesh, new SilentProgress);
        } catch (Problem $e) {
            return sprintf('refused in %.1f s: %s', (hrtime(true) - $start) / 1e9, $e->getMessage());
        }
        $seconds = (hrtime(true) - $start) / 1e9;
        $sum = 0.0;
        foreach ($shards as $shard) {
            $sum += $shard->mass->volume;
            if (! Fitness::of($shard->mesh)->canBreak()) {
                return sprintf('%s is not closed', $shard->name);
            }
        }

        return abs($sum / $volume - 1.0) > 1e-9 ? sprintf('volume off by %.1e', abs($sum / $volume - 1.0)) : sprintf('%d in %.2f s', count($shards), $seconds);
    }

    /**
     * @param  list<array<string, int|float|string|bool>>  $rows
     * @return array<string, int|float|string|bool>
     */
    private function summary(array $rows): array
    {
        $out = ['model' => 'all '.count($rows)];
        foreach (['none', 'repair', 'rebuild', 'nothing'] as $how) {
            $out['fit by '.$how] = count(array_filter($rows, static fn (array $r): bool => $r['made_fit'] === $how));
        }
        foreach (self::PATTERNS as $pattern) {
            $out[$pattern] = count(array_filter($rows, static fn (array $r): bool => preg_match('/^\d+ in /', (string) ($r[$pattern] ?? '')) === 1)).' broken';
        }

        return $out;
    }
}
