<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break\Plan;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cut\RestrictedCells;
use YardBreak\Core\Break\Plan\Basis;
use YardBreak\Core\Break\Plan\Plan;
use YardBreak\Core\Break\Plan\PrismCells;
use YardBreak\Core\Geometry\ConstrainedTriangulation;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Solids;

final class PrismCellsTest extends TestCase
{
    public function test_walls_are_seen_the_same_from_both_sides(): void
    {
        $cells = new PrismCells(self::map(), [-0.2, 0.3]);
        [$start, $run] = $cells->neighbours();
        $planes = $cells->planes();
        $seen = [];
        for ($i = 0; $i + 1 < count($start); $i++) {
            for ($k = $start[$i]; $k < $start[$i + 1]; $k++) {
                $seen[$i][$run[$k]] = array_slice($planes, 4 * $k, 4);
            }
        }
        foreach ($seen as $i => $neighbours) {
            foreach ($neighbours as $j => $plane) {
                self::assertSame(array_map(static fn (float $v): float => 0.0 - $v, $plane), array_map(static fn (float $v): float => $v + 0.0, $seen[$j][$i]));
            }
        }
    }

    public function test_every_point_lies_on_its_owners_side_of_all_its_walls(): void
    {
        $cells = new PrismCells(self::map(), [-0.2, 0.3]);
        [$start] = $cells->neighbours();
        $planes = $cells->planes();
        $random = new SeededRandom(8);
        $x = $y = $z = [];
        for ($i = 0; $i < 300; $i++) {
            $x[] = $random->between(-0.9, 0.9);
            $y[] = $random->between(-0.9, 0.9);
            $z[] = $random->between(-0.9, 0.9);
        }
        foreach ($cells->owners($x, $y, $z) as $i => $owner) {
            for ($k = $start[$owner]; $k < $start[$owner + 1]; $k++) {
                self::assertGreaterThanOrEqual(
                    -1e-12,
                    $planes[4 * $k] * $x[$i] + $planes[4 * $k + 1] * $y[$i] + $planes[4 * $k + 2] * $z[$i] + $planes[4 * $k + 3],
                );
            }
        }
    }

    public function test_a_line_has_the_same_number_from_all_cells_round_it(): void
    {
        $map = self::map();
        $cells = new PrismCells($map, [0.1]);
        $triangles = $map->triangleCount();
        // An edge at a level has four cells round it: two triangles, below and above.
        foreach ($map->across as $slot => $o) {
            if ($o < 0) {
                continue;
            }
            $t = intdiv($slot, 3);
            $numbers = [
                $cells->lineOf($t, $o, $triangles + $t), $cells->lineOf($t, $triangles + $t, $o),
                $cells->lineOf($o, $t, $triangles + $o),
                $cells->lineOf($triangles + $t, $triangles + $o, $t),
                $cells->lineOf($triangles + $o, $triangles + $t, $o),
            ];
            self::assertCount(1, array_unique($numbers));
        }
    }

    /** A box of side 1 cut by a plan and levels: every cell's volume is its triangle's area within the box times its height. */
    public function test_cells_of_a_box_have_the_volume_of_their_prisms(): void
    {
        $box = Solids::shape('box')->movedBy(new Vec3(0.0, -0.5, 0.0));
        $map = self::map();
        $levels = [-0.2, 0.3];
        $cut = (new RestrictedCells($box->x, $box->y, $box->z, $box->faces, new PrismCells($map, $levels)))->cut();
        $count = $map->triangleCount();
        $total = 0.0;
        foreach ($cut->faces as $cell => $faces) {
            $volume = MassProperties::ofFaces($cut->px, $cut->py, $cut->pz, $faces)->volume;
            $total += $volume;
            $height = [0.3, 0.5, 0.2][intdiv($cell, $count)];
            $same = MassProperties::ofFaces($cut->px, $cut->py, $cut->pz, $cut->faces[$cell % $count])->volume;
            self::assertEqualsWithDelta($same / 0.3 * $height, $volume, 1e-12);
        }
        self::assertEqualsWithDelta(1.0, $total, 1e-12);
    }

    public function test_regions_follow_from_what_hangs_together_within_the_solid(): void
    {
        // A line across the box, open at both ends outside of it: round its ends the plan hangs together, the solid does not.
        $map = new ConstrainedTriangulation(-2.013, -2.037, 2.023, 2.071);
        $map->segment($map->point(-0.7, 0.011), $map->point(0.7, 0.023));
        $plan = new Plan($map);
        $box = Solids::shape('box')->movedBy(new Vec3(0.0, -0.5, 0.0));
        $cut = (new RestrictedCells($box->x, $box->y, $box->z, $box->faces, new PrismCells($map, []), $plan->groups(...)))->cut();
        self::assertCount(2, array_filter($cut->faces));
        self::assertSame(1, max($map->regions()) + 1, 'though the plan is one region');
    }

    public function test_a_basis_is_right_handed_keeps_up_upright_and_turns_back(): void
    {
        foreach ([new Vec3(0, 0, 1), new Vec3(1, 0, 0), new Vec3(0, -1, 0), new Vec3(0.3, 0.2, -0.9)] as $axis) {
            $basis = Basis::along($axis, 0.4);
            self::assertEqualsWithDelta($basis->w->toArray(), $basis->u->cross($basis->v)->toArray(), 1e-12);
            $p = new Vec3(0.3, -0.7, 0.2);
            self::assertEqualsWithDelta($p->toArray(), $basis->inverse()->of(new Vec3(...$basis->of($p))), 1e-12);
        }
        self::assertGreaterThan(0.99, Basis::along(new Vec3(0, 0, 1))->v->y);
        self::assertGreaterThan(0.99, Basis::along(new Vec3(1, 0, 0))->v->y);
        self::assertEquals(new Vec3(0, 0, 1), Basis::thinnest(new Vec3(0.5, 0.4, 0.01)));
    }

    private static function map(): ConstrainedTriangulation
    {
        $map = new ConstrainedTriangulation(-2.013, -2.037, 2.023, 2.071);
        $random = new SeededRandom(5);
        for ($i = 0; $i < 25; $i++) {
            $map->point($random->between(-0.8, 0.8), $random->between(-0.8, 0.8));
        }

        return $map;
    }
}
