<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

/** Breaks that a weight steers; expected numbers follow from the planes and balls the weights are made of. */
final class WeightedTest extends TestCase
{
    /** A front of weight ½ at y = 0.33 m of a box one metre high: its sides flake below it, and its bottom. */
    public function test_flakes_split_at_the_edge_of_a_weight_end_exactly_there(): void
    {
        $values = [
            'faces' => 3,
            'thickness' => 0.01,
            'weight' => ['source' => 'front', 'values' => ['point' => [0, 0.28, 0], 'none' => 0.1, 'falloff' => 'linear']],
        ];
        $shards = self::broken(Solids::shape('box', ['segments' => 10]), 'flakes', $values);
        $area = 0.0;
        foreach ($shards as $shard) {
            if ($shard->name !== 'core') {
                self::assertLessThan(0.33 + 1e-9, self::highest($shard->mesh, 0));
                $area += self::outerArea($shard->mesh);
            }
        }
        self::assertEqualsWithDelta(1.0 + 4 * 0.33, $area, 1e-9);
        self::assertSame('core', $shards[0]->name);
        self::assertEqualsWithDelta(1.0 + 4 * 0.67, self::outerArea($shards[0]->mesh), 1e-9, 'the rest of the outside stays on the core');
    }

    public function test_flakes_left_whole_at_the_edge_keep_the_faces_as_they_are(): void
    {
        $solid = Solids::shape('box', ['segments' => 10]);
        $values = ['faces' => 1, 'thickness' => 0.01, 'edge' => 'whole', 'weight' => ['source' => 'front', 'values' => ['point' => [0, 0.34, 0], 'none' => 0]]];
        $flakes = array_filter(self::broken($solid, 'flakes', $values), static fn (Shard $s): bool => $s->name !== 'core');
        // Two of three corners decide: of the row of faces between 0.3 and 0.4 the lower triangle of each square flakes.
        self::assertCount(200 + 4 * 10 * (2 * 3 + 1), $flakes);
    }

    /**
     * Of the seeds that crowd all lie where the weight is, of the others the share of the volume. A piece wholly on one
     * side has its seed there; those across may have it on either.
     */
    public function test_cells_crowd_where_the_weight_is_on_a_prop_that_stands_elsewhere_and_is_not_of_unit_size(): void
    {
        $weight = ['source' => 'ball', 'values' => ['middle' => [12.0, 5.4, -3.0], 'full' => 0.3, 'none' => 0.31]];
        $solid = Solids::shape('box', ['width' => 3, 'height' => 2, 'depth' => 1])->movedBy(new Vec3(11.0, 4.0, -3.0));
        $shards = self::broken($solid, 'cells', ['count' => 200, 'even' => 0, 'crowd' => 1.0, 'weight' => $weight]);
        // All seeds lie within the ball, so all but the pieces at its rim do.
        $inside = array_filter($shards, static fn (Shard $s): bool => $s->mass->centroid->minus(new Vec3(12.0, 5.4, -3.0))->length() < 0.31);
        self::assertGreaterThan(0.5 * count($shards), count($inside));
    }

    public function test_cells_crowd_where_the_weight_is(): void
    {
        $below = ['source' => 'front', 'values' => ['point' => [0, 0.5, 0], 'none' => 0]];
        foreach ([['none', null, 0.5], ['below', $below, 0.8 + 0.2 * 0.5], ['above', $below + ['invert' => true], 0.2 * 0.5]] as [$name, $weight, $share]) {
            $shards = self::broken(Solids::shape('box'), 'cells', ['count' => 1500, 'even' => 0, 'crowd' => 0.8, 'weight' => $weight]);
            $low = count(array_filter($shards, static fn (Shard $s): bool => max($s->mesh->y) < 0.5)) / 1500;
            $high = count(array_filter($shards, static fn (Shard $s): bool => min($s->mesh->y) > 0.5)) / 1500;
            // Four standard deviations of a share of 1500.
            $slack = 4 * sqrt($share * (1 - $share) / 1500);
            self::assertLessThan($share + $slack, $low, $name);
            self::assertLessThan(1 - $share + $slack, $high, $name);
            self::assertLessThan(0.25, 1 - $low - $high, 'few enough lie across for the bounds to tell');
        }
    }

    /**
     * @param  array<string, mixed>  $values
     * @return list<Shard>
     */
    private static function broken(Mesh $solid, string $pattern, array $values): array
    {
        return BreakCatalogue::make($pattern, $values)->break($solid, new SilentProgress);
    }

    private static function outerArea(Mesh $m): float
    {
        $sum = 0.0;
        for ($f = 0; $f < $m->faceCount(); $f++) {
            if (($m->sides[$f] ?? 0) === 0) {
                [$a, $b, $c] = [$m->faces[3 * $f], $m->faces[3 * $f + 1], $m->faces[3 * $f + 2]];
                $u = [$m->x[$b] - $m->x[$a], $m->y[$b] - $m->y[$a], $m->z[$b] - $m->z[$a]];
                $v = [$m->x[$c] - $m->x[$a], $m->y[$c] - $m->y[$a], $m->z[$c] - $m->z[$a]];
                $sum += 0.5 * sqrt(($u[1] * $v[2] - $u[2] * $v[1]) ** 2 + ($u[2] * $v[0] - $u[0] * $v[2]) ** 2 + ($u[0] * $v[1] - $u[1] * $v[0]) ** 2);
            }
        }

        return $sum;
    }

    /** The highest point of the faces of one kind. */
    private static function highest(Mesh $m, int $kind): float
    {
        $high = -INF;
        foreach ($m->faces as $c => $p) {
            if (($m->sides[intdiv($c, 3)] ?? 0) === $kind) {
                $high = max($high, $m->y[$p]);
            }
        }

        return $high;
    }
}
