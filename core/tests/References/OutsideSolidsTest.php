<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Format\MeshWriter;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

/** The Manifold library refuses holes and flipped faces; it takes every shard of every pattern on meshes other people made. */
final class OutsideSolidsTest extends TestCase
{
    /** @var array<string, array<string, mixed>> */
    private const PATTERNS = [
        'cells' => ['count' => 12, 'ragged' => 0.4, 'relief' => 0.3],
        'halving' => ['passes' => 3, 'roughness' => 0.4],
        'strike' => ['rays' => 9, 'rings' => 3],
        'courses' => ['unit' => [0.3, 0.15, 0.25], 'joint' => 0.02],
        'tiles' => ['grid' => [3, 3, 2], 'jitter' => 0.6],
        'flakes' => ['faces' => 120, 'thickness' => 0.0005],
        'stencil' => [],
        'score' => ['lines' => [
            'unit' => 'box',
            'lines' => [['points' => [[-0.7, 0.02], [0.7, 0.05]], 'closed' => false], ['points' => [[0.03, -0.7], [0.01, 0.7]], 'closed' => false]],
        ]],
        'punch' => ['radius' => 0.12, 'bands' => 1],
    ];

    /** @return array<string, array{string}> */
    public static function meshes(): array
    {
        return array_combine(OutsideMeshes::CLOSED, array_map(static fn (string $name): array => [$name], OutsideMeshes::CLOSED));
    }

    #[DataProvider('meshes')]
    public function test_every_shard_is_a_solid_of_its_own(string $name): void
    {
        $mesh = OutsideMeshes::cgal($name);
        $size = Aabb::around($mesh)->size();
        $mesh = $mesh->scaledBy(1.0 / max($size->x, $size->y, $size->z));
        $mesh = $mesh->withNormals(FaceNormals::smooth($mesh));
        $folder = OutsideTools::folder();
        $volumes = [];
        // What is steered by a place: half of the surface flakes, and a ball about some point of it cuts.
        $middle = Aabb::around($mesh)->centre();
        $ball = Solids::shape('ball', ['radius' => 0.15]);
        $steered = [
            'flakes at a weight' => [
                'faces' => 120,
                'thickness' => 0.0005,
                'weight' => ['source' => 'front', 'values' => ['point' => $middle->toArray(), 'direction' => [1.0, 0.3, 0.1], 'none' => 0.1]],
            ],
            'punch by a prop' => [
                'cutter' => 'prop',
                'tool' => $ball->movedBy((new Vec3($mesh->x[0], $mesh->y[0], $mesh->z[0]))->minus(Aabb::around($ball)->centre())),
                'roughness' => 0.4,
            ],
        ];
        foreach (self::PATTERNS + $steered as $pattern => $values) {
            $sum = 0.0;
            foreach (BreakCatalogue::make(explode(' ', $pattern)[0], $values)->break($mesh, new SilentProgress) as $shard) {
                // Large enough for the library, which counts in float32.
                MeshWriter::write($shard->mesh->scaledBy(100.0), sprintf('%s/%05d.obj', $folder, count($volumes)), 'obj');
                $volumes[] = [$pattern.' '.$shard->name, 1e6 * $shard->mass->volume];
                $sum += $shard->mass->volume;
            }
            self::assertEqualsWithDelta(1.0, $sum / MassProperties::of($mesh)->volume, 1e-9, $pattern);
        }
        $got = OutsideTools::node('solid.mjs', $folder);
        exec('rm -rf '.escapeshellarg($folder));
        self::assertCount(count($volumes), $got);
        foreach ($got as $k => $row) {
            self::assertSame('ok', $row['status'], $volumes[$k][0]);
            // The library counts in float32 and flattens what is thinner than its tolerance.
            self::assertEqualsWithDelta($volumes[$k][1], $row['volume'], 1e-3 * $volumes[$k][1] + 1.0, $volumes[$k][0]);
        }
    }
}
