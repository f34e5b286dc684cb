<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Collide;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\References\OutsideTools;
use YardBreak\Core\Tests\Solids;

final class HullTest extends TestCase
{
    public function test_a_box_has_six_faces_and_its_core_lies_the_margin_within(): void
    {
        [$x, $y, $z] = Solids::corners(0.4, 0.6, 1.0);
        $h = Hull::around($x, $y, $z);
        self::assertCount(6, $h->faces);
        self::assertCount(8, $h->x);
        self::assertEqualsWithDelta(0.24, $h->volume(), 1e-12);
        self::assertGreaterThan(0.0, $h->margin);
        self::assertLessThan(0.02, $h->margin);
        foreach ($h->x as $i => $v) {
            self::assertEqualsWithDelta(abs($v) - $h->margin, abs($h->coreX[$i]), 1e-4);
            self::assertEqualsWithDelta(abs($h->z[$i]) - $h->margin, abs($h->coreZ[$i]), 1e-4);
        }
    }

    /** What is flat or in a line has no hull; the box round it stands in, so that nothing falls for ever. */
    public function test_flat_and_straight_clouds_get_the_box_round_them(): void
    {
        foreach ([
            'flat' => [[0.0, 1.0, 1.0, 0.0], [0.0, 0.0, 1.0, 1.0], [0.2, 0.2, 0.2, 0.2]],
            'straight' => [[0.0, 0.5, 1.0], [0.1, 0.1, 0.1], [0.2, 0.2, 0.2]],
        ] as [$x, $y, $z]) {
            $hull = Hull::near($x, $y, $z);
            self::assertCount(8, $hull->x);
            self::assertEqualsWithDelta([min($x), max($x), 0.195, 0.205], [min($hull->x), max($hull->x), min($hull->z), max($hull->z)], 1e-9);
        }
        [$x, $y, $z] = Solids::corners(0.4, 0.6, 1.0);
        self::assertEquals(Hull::around($x, $y, $z), Hull::near($x, $y, $z));
    }

    public function test_a_hull_is_read_back_as_it_was_written(): void
    {
        $random = new SeededRandom(3);
        $cloud = static fn (): array => array_map(static fn (): float => $random->between(-1.0, 1.0), range(1, 40));
        foreach ([Hull::around($cloud(), $cloud(), $cloud()), Hull::ball(0.3)] as $hull) {
            $read = unserialize(serialize($hull));
            self::assertInstanceOf(Hull::class, $read);
            self::assertSame(get_object_vars($hull), get_object_vars($read));
        }
    }

    /** SciPy `ConvexHull` (Qhull); ours leaves out points within 0.4 % of the size, so it is a little smaller. */
    public function test_volumes_are_those_of_scipy_within_the_tolerance(): void
    {
        $random = new SeededRandom(6);
        for ($i = 0; $i < 12; $i++) {
            $x = $y = $z = [];
            for ($k = 0; $k < 30; $k++) {
                $x[] = $random->between(-0.5, 0.5);
                $y[] = $random->between(-0.2, 0.2);
                $z[] = $random->between(-0.4, 0.4);
            }
            $want = OutsideTools::python(<<<'PY'
                import json, sys
                from scipy.spatial import ConvexHull
                print(json.dumps([ConvexHull(json.load(sys.stdin)).volume]))
                PY, array_map(null, $x, $y, $z))[0];
            $got = Hull::around($x, $y, $z)->volume();
            self::assertLessThanOrEqual($want * (1 + 1e-9), $got);
            self::assertGreaterThan(0.97 * $want, $got);
        }
    }

    public function test_all_points_lie_within_the_tolerance_of_every_face(): void
    {
        $random = new SeededRandom(8);
        $x = $y = $z = [];
        for ($k = 0; $k < 80; $k++) {
            $x[] = $random->between(-0.5, 0.5);
            $y[] = $random->between(-0.5, 0.5);
            $z[] = $random->between(-0.5, 0.5);
        }
        $h = Hull::around($x, $y, $z);
        foreach ($h->faces as $f => $loop) {
            [$nx, $ny, $nz] = $h->normals[$f];
            $level = $nx * $h->x[$loop[0]] + $ny * $h->y[$loop[0]] + $nz * $h->z[$loop[0]];
            foreach ($x as $k => $v) {
                self::assertLessThan($level + 0.02, $nx * $v + $ny * $y[$k] + $nz * $z[$k]);
            }
        }
    }

    public function test_climbing_along_edges_finds_the_farthest_corner_of_hull_and_core(): void
    {
        $random = new SeededRandom(9);
        for ($i = 0; $i < 30; $i++) {
            $x = $y = $z = [];
            for ($k = 0; $k < 24; $k++) {
                $x[] = $random->between(-0.5, 0.5);
                $y[] = $random->between(-0.05, 0.05);
                $z[] = $random->between(-0.3, 0.3);
            }
            $h = Hull::around($x, $y, $z);
            for ($k = 0; $k < 20; $k++) {
                $d = [$random->between(-1, 1), $random->between(-1, 1), $random->between(-1, 1)];
                $far = static fn (int $v): float => $h->coreX[$v] * $d[0] + $h->coreY[$v] * $d[1] + $h->coreZ[$v] * $d[2];
                $at = 0;
                do {
                    $from = $at;
                    foreach ($h->neighbours[$from] as $v) {
                        $at = $far($v) > $far($at) ? $v : $at;
                    }
                } while ($at !== $from);
                self::assertEqualsWithDelta(max(array_map($far, array_keys($h->x))), $far($at), 1e-4);
            }
        }
    }

    public function test_a_cloud_of_equal_radius_is_a_ball_and_a_box_is_none(): void
    {
        $x = $y = $z = [];
        $random = new SeededRandom(1);
        for ($k = 0; $k < 60; $k++) {
            $a = $random->between(0, 2 * M_PI);
            $h = $random->between(-1, 1);
            $x[] = 0.3 * sqrt(1 - $h * $h) * cos($a);
            $y[] = 0.3 * $h;
            $z[] = 0.3 * sqrt(1 - $h * $h) * sin($a);
        }
        self::assertEqualsWithDelta(0.3, Hull::ballRadius($x, $y, $z), 1e-12);
        self::assertNull(Hull::ballRadius(...Solids::corners(1, 1, 1)));
    }

    public function test_points_in_a_plane_have_no_hull(): void
    {
        $this->expectException(\UnexpectedValueException::class);
        Hull::around([0.0, 1.0, 0.0, 1.0], [0.0, 0.0, 0.0, 0.0], [0.0, 0.0, 1.0, 1.0]);
    }
}
