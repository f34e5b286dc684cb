<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Joint;
use YardBreak\Core\Break\Neighbours;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

/** Who lies beside whom, counted and measured where it can be told by hand. */
final class NeighboursTest extends TestCase
{
    /** 4 × 3 × 1 tiles: 3·3 pairs side by side and 4·2 one above the other, each sharing what its cut is wide and high. */
    public function test_tiles_share_their_cuts(): void
    {
        $shards = self::broken(Solids::shape('box', ['width' => 2, 'height' => 1.5, 'depth' => 0.4]), 'tiles', ['grid' => [4, 3, 1]]);
        $found = Neighbours::of($shards);
        self::assertCount(3 * 3 + 4 * 2, $found);
        foreach ($found as $joint) {
            [$a, $b, $area, $at] = [$joint->one, $joint->other, $joint->area, $joint->middle];
            $way = $shards[$b]->centre()->minus($shards[$a]->centre());
            self::assertEqualsWithDelta(0.5, $way->length(), 1e-6, 'tiles are half a metre apart');
            self::assertEqualsWithDelta(0.5 * 0.4, $area, 1e-6);
            self::assertEqualsWithDelta(0.0, $at->minus($shards[$a]->centre()->plus($way->times(0.5)))->length(), 1e-6);
        }
        foreach (Joint::ways($found) as [, , $length]) {
            self::assertEqualsWithDelta(0.5, $length, 1e-6);
        }
    }

    /** Of a rectangle of width b and height h the second moments about its middle are b³h/12 and bh³/12 (common practice). */
    public function test_what_is_shared_is_a_section_with_its_second_moments(): void
    {
        foreach (['tiles' => ['grid' => [2, 1, 1]], 'courses' => ['unit' => [0.5, 0.3, 0.2], 'bond' => 'stack', 'filling' => 'gap', 'joint' => 0.01]] as $pattern => $values) {
            $size = $pattern === 'tiles' ? ['width' => 1.0, 'height' => 0.3, 'depth' => 0.2] : ['width' => 1.01, 'height' => 0.3, 'depth' => 0.2];
            $shards = self::broken(Solids::shape('box', $size), $pattern, $values);
            $joint = Neighbours::of($shards)[0];
            $near = $pattern === 'tiles' ? 1e-6 : 0.05;
            self::assertEqualsWithDelta(1.0, $joint->normal->dot($shards[$joint->other]->centre()->minus($shards[$joint->one]->centre())->unit()), 1e-6, $pattern);
            foreach ([0.0, 0.3 ** 3 * 0.2 / 12, 0.3 * 0.2 ** 3 / 12, 0.0, 0.0, 0.0] as $k => $moment) {
                self::assertEqualsWithDelta($moment, $joint->spread[$k], $near * 0.3 ** 3 * 0.2 / 12, $pattern.' '.$k);
            }
        }
    }

    /** What two cells share is counted once from each: the areas of all pairs are half the inner area. */
    public function test_cells_share_all_of_their_inner_faces(): void
    {
        $shards = self::broken(Solids::shape('ball', ['detail' => 8]), 'cells', ['count' => 40]);
        $inner = 0.0;
        foreach ($shards as $shard) {
            foreach (\YardBreak\Core\Geometry\FaceNormals::areas($shard->mesh) as $f => $area) {
                $inner += $shard->mesh->sides[$f] === Mesh::INNER ? $area : 0.0;
            }
        }
        self::assertEqualsWithDelta(0.5 * $inner, array_sum(array_column(Neighbours::of($shards), 'area')), 1e-9 * $inner);
    }

    /** Bricks in half bond with joints: inside the wall each lies against six others (common practice), and none hangs on what is a brick away. */
    public function test_bricks_are_joined_across_their_joints(): void
    {
        $shards = self::broken(Solids::shape('box', ['width' => 1.125, 'height' => 0.75, 'depth' => 0.1025]), 'courses', ['filling' => 'gap']);
        $count = array_fill(0, count($shards), 0);
        foreach (Neighbours::of($shards) as $joint) {
            [$a, $b] = [$joint->one, $joint->other];
            $count[$a]++;
            $count[$b]++;
            self::assertLessThan(0.24, $shards[$a]->centre()->minus($shards[$b]->centre())->length());
        }
        $inside = array_filter(
            array_keys($shards),
            static fn (int $k): bool => abs($shards[$k]->centre()->x) < 0.3 && $shards[$k]->centre()->y > 0.15 && $shards[$k]->centre()->y < 0.6,
        );
        self::assertGreaterThan(8, count($inside));
        foreach ($inside as $k) {
            self::assertSame(6, $count[$k], $shards[$k]->name);
        }
    }

    /** One tile broken again: its new pieces still lie against the tiles beside it. */
    public function test_what_was_cut_again_keeps_its_neighbours(): void
    {
        $tiles = self::broken(Solids::shape('box', ['width' => 1.2, 'height' => 0.4, 'depth' => 0.4]), 'tiles', ['grid' => [3, 1, 1]]);
        usort($tiles, static fn (Shard $a, Shard $b): int => $a->centre()->x <=> $b->centre()->x);
        $middle = self::broken($tiles[1]->mesh, 'cells', ['count' => 12]);
        $all = [$tiles[0], $tiles[2], ...array_map(static fn (Shard $s): Shard => new Shard('again '.$s->name, $s->mesh, $s->mass), $middle)];
        $touching = [0 => 0.0, 1 => 0.0];
        foreach (Neighbours::of($all) as $joint) {
            if ($joint->one <= 1) {
                self::assertGreaterThan(1, $joint->other, 'the outer tiles do not meet');
                $touching[$joint->one] += $joint->area;
            }
        }
        self::assertEqualsWithDelta([0.16, 0.16], array_values($touching), 0.02);
    }

    /**
     * @param  array<string, mixed>  $values
     * @return list<Shard>
     */
    private static function broken(Mesh $mesh, string $pattern, array $values): array
    {
        return BreakCatalogue::make($pattern, $values)->break($mesh, new SilentProgress);
    }
}
