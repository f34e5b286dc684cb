<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

final class HalvingTest extends TestCase
{
    /** Reference: common practice, n rounds of halving give 2ⁿ pieces. */
    public function test_every_pass_doubles_the_pieces(): void
    {
        foreach ([1 => 2, 4 => 16, 6 => 64, 7 => 128] as $passes => $pieces) {
            self::assertCount($pieces, self::halved(Solids::shape('box'), ['passes' => $passes]));
        }
        self::assertCount(64, self::halved(Solids::shape('box'), ['passes' => 6, 'order' => 'largest']));
    }

    #[DataProvider('kinds')]
    public function test_halves_are_closed_and_keep_the_volume(array $values): void
    {
        foreach (Solids::closed() as $name => [$solid]) {
            foreach ([1, 2, 3] as $seed) {
                $shards = self::halved($solid, [...$values, 'passes' => 4, 'seed' => $seed]);
                $figures = BreakFigures::of($shards);
                self::assertGreaterThanOrEqual(16, $figures['pieces'], $name);
                self::assertSame($figures['pieces'], $figures['watertight'], $name);
                self::assertEqualsWithDelta(1.0, $figures['volume'] / MassProperties::of($solid)->volume, 1e-12, $name);
            }
        }
    }

    /** @return array<string, array{array<string, mixed>}> */
    public static function kinds(): array
    {
        return [
            'flat' => [[]],
            'bowed' => [['cut' => 'bowed']],
            'rough' => [['roughness' => 0.4]],
            'craggy, anyhow' => [['roughness' => 1.0, 'cut' => 'bowed', 'direction' => 'random']],
        ];
    }

    public function test_rough_walls_are_rough_and_flat_ones_are_flat(): void
    {
        self::assertLessThan(1e-9, self::spreadOfWallNormals(self::halved(Solids::shape('box'), ['passes' => 1])));
        self::assertGreaterThan(0.02, self::spreadOfWallNormals(self::halved(Solids::shape('box'), ['passes' => 1, 'roughness' => 0.5])));
    }

    public function test_an_axis_puts_the_cuts_square_to_it(): void
    {
        // Cut along x only, a box keeps its height and depth in every piece.
        foreach (self::halved(Solids::shape('box'), ['passes' => 3, 'direction' => 'x']) as $shard) {
            self::assertEqualsWithDelta(1.0, max($shard->mesh->y) - min($shard->mesh->y), 1e-9);
            self::assertEqualsWithDelta(1.0, max($shard->mesh->z) - min($shard->mesh->z), 1e-9);
        }
    }

    /**
     * @param  array<string, mixed>  $values
     * @return list<Shard>
     */
    private static function halved(Mesh $solid, array $values): array
    {
        return BreakCatalogue::make('halving', $values)->break(
            $solid->normals === null ? $solid->withNormals(FaceNormals::smooth($solid)) : $solid,
            new SilentProgress,
        );
    }

    /**
     * One minus how far the wall normals of the first piece agree.
     *
     * @param  list<Shard>  $shards
     */
    private static function spreadOfWallNormals(array $shards): float
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($shards[0]->mesh);
        $sum = [0.0, 0.0, 0.0];
        $area = 0.0;
        foreach ($shards[0]->mesh->sides ?? [] as $f => $inside) {
            if ($inside === 1) {
                $sum = [$sum[0] + $nx[$f], $sum[1] + $ny[$f], $sum[2] + $nz[$f]];
                $area += sqrt($nx[$f] ** 2 + $ny[$f] ** 2 + $nz[$f] ** 2);
            }
        }

        return 1.0 - sqrt($sum[0] ** 2 + $sum[1] ** 2 + $sum[2] ** 2) / $area;
    }
}
