<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\Sail;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Solids;

/** What air does to a body of known form; figures by form. */
final class SailTest extends TestCase
{
    public function test_a_box_shows_its_faces_and_a_quarter_of_its_surface_on_average(): void
    {
        $sail = self::box(0.2, 0.3, 0.5);
        self::assertEqualsWithDelta(0.15, $sail->area(new Vec3(3, 0, 0)), 1e-12);
        self::assertEqualsWithDelta(0.1, $sail->area(new Vec3(0, -1, 0)), 1e-12);
        self::assertEqualsWithDelta((0.15 * 3 + 0.06 * 4) / 5, $sail->area(new Vec3(3, 0, 4)), 1e-12);
        self::assertEqualsWithDelta((0.15 + 0.1 + 0.06) / 2, $sail->meanArea(), 1e-12);
        $ball = Sail::of([[Hull::ball(0.4), Vec3::zero()]]);
        self::assertEqualsWithDelta([0.16 * M_PI, 0.16 * M_PI], [$ball->area(new Vec3(0, 1, 1)), $ball->meanArea()], 1e-12);
    }

    /** ½ρC·A|u|u face on, and four times that of what is twice as large. */
    public function test_what_is_pressed_face_on_gets_half_rho_c_a_u_squared(): void
    {
        foreach ([1.0, 2.0] as $size) {
            [$x, $y, $z, $mx, $my, $mz, $more] = self::box(0.2, 0.3, 0.5)->pressed(-7.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.6, $size);
            self::assertEqualsWithDelta([-0.6 * 0.15 * 49.0 * $size ** 2, 0.0, 0.0], [$x, $y, $z], 1e-9);
            self::assertEqualsWithDelta([0.0, 0.0, 0.0], [$mx, $my, $mz], 1e-9);
            self::assertEqualsWithDelta(2.0 * 0.6 * 0.15 * 7.0 * $size ** 2, $more, 1e-9);
        }
        [, $y] = Sail::of([[Hull::ball(0.4), Vec3::zero()]])->pressed(0.0, 3.0, 0.0, 9.0, 9.0, 9.0, 0.6, 0.5);
        self::assertEqualsWithDelta(0.6 * 0.04 * M_PI * 9.0, $y, 1e-9);
    }

    /** A plate at 45° is pushed along by its area across the wind, and aside by C·A·sin·|u|²·cos of it: lift and drag are alike there. */
    public function test_a_plate_askew_is_pushed_aside(): void
    {
        $u = 5.0 / sqrt(2.0);
        [$x, $y, $z] = self::box(1.0, 1e-6, 1.0)->pressed($u, -$u, 0.0, 0.0, 0.0, 0.0, 1.0, 1.0);
        $drag = 25.0 / sqrt(2.0);
        // Along the wind that much; across it, against the face, sin·cos of the push of the whole face.
        $along = ($x - $y) / sqrt(2.0);
        $aside = (-$x - $y) / sqrt(2.0);
        self::assertEqualsWithDelta($drag, $along, 1e-4);
        self::assertEqualsWithDelta(12.5, $aside, 1e-4);
        self::assertEqualsWithDelta(0.0, $z, 1e-4);
    }

    public function test_what_spins_in_still_air_is_slowed_about_the_same_axis_and_pushed_nowhere(): void
    {
        $sail = self::box(0.3, 0.02, 0.2);
        foreach ([[4.0, 0.0, 0.0], [0.0, 4.0, 0.0], [0.0, 0.0, 4.0], [0.0, 0.0, -4.0]] as $axis => $spin) {
            [$x, $y, $z, $mx, $my, $mz] = $sail->pressed(0.0, 0.0, 0.0, $spin[0], $spin[1], $spin[2], 1.0, 1.0);
            self::assertEqualsWithDelta([0.0, 0.0, 0.0], [$x, $y, $z], 1e-12);
            $moment = [$mx, $my, $mz];
            $about = min(2, $axis);
            self::assertLessThanOrEqual(0.0, $moment[$about] * $spin[$about]);
            unset($moment[$about]);
            self::assertEqualsWithDelta([0.0, 0.0], array_values($moment), 1e-12);
        }
        // A plate that turns slowly about an edge-wise axis in a wind across it: the side that comes against it is pressed by ½ρC·2u·ωx more,
        // so the moment is −½ρC·2uω·∫x² over the side that looks against it.
        $plate = self::box(0.3, 1e-5, 0.2);
        [, , , , , $mz] = $plate->pressed(0.0, -3.0, 0.0, 0.0, 0.0, 1e-3, 0.6, 1.0);
        $form = 0.6 * 2.0 * 3.0 * 1e-3 * 0.2 * 0.3 ** 3 / 12.0;
        self::assertEqualsWithDelta(-$form, $mz, 1e-3 * $form);
        [, , , $mx] = $plate->pressed(0.0, -3.0, 0.0, 1e-3, 0.0, 0.0, 0.6, 1.0);
        $form = 0.6 * 2.0 * 3.0 * 1e-3 * 0.3 * 0.2 ** 3 / 12.0;
        self::assertEqualsWithDelta(-$form, $mx, 1e-3 * $form);
        // Twice as large it is sixteen times as hard to turn.
        [, , , $twice] = $plate->pressed(0.0, -3.0, 0.0, 1e-3, 0.0, 0.0, 0.6, 2.0);
        self::assertEqualsWithDelta(16.0 * $mx, $twice, 2e-3 * abs($twice));
    }

    public function test_parts_together_are_one_hull_wherever_they_lie(): void
    {
        $half = Hull::around(...Solids::corners(0.1, 0.3, 0.5));
        $both = Sail::of([[$half, new Vec3(-0.05, 0, 0)], [$half, new Vec3(0.05, 0, 0)]]);
        $one = self::box(0.2, 0.3, 0.5);
        foreach ([[1, 0, 0], [0, 1, 0], [0, 0, 1], [1, 2, 3]] as $way) {
            self::assertEqualsWithDelta($one->area(Vec3::of($way)), $both->area(Vec3::of($way)), 1e-9);
        }
        // One that lies off its centre is turned by the wind.
        [, , , , , $mz] = Sail::of([[$half, new Vec3(0.4, 0, 0)]])->pressed(0.0, 2.0, 0.0, 0.0, 0.0, 0.0, 1.0, 1.0);
        self::assertEqualsWithDelta(0.4 * 0.05 * 4.0, $mz, 1e-9);
    }

    /** A lopsided hull turned, with wind and spin turned alike, is pushed alike, turned. */
    public function test_what_is_turned_with_its_wind_is_pressed_alike(): void
    {
        $random = new SeededRandom(8);
        $points = array_map(static fn (): Vec3 => new Vec3($random->between(-0.2, 0.3), $random->between(-0.1, 0.2), $random->between(-0.3, 0.2)), range(1, 14));
        [$wind, $spin] = [new Vec3(3.0, -1.0, 2.0), new Vec3(4.0, 7.0, -5.0)];
        $pressed = static function (Quaternion $turn) use ($points, $wind, $spin): array {
            $at = array_map($turn->turn(...), $points);
            $sail = Sail::of([[Hull::around(array_column($at, 'x'), array_column($at, 'y'), array_column($at, 'z')), Vec3::zero()]]);
            [$u, $s] = [$turn->turn($wind), $turn->turn($spin)];
            [$x, $y, $z, $mx, $my, $mz, $more, $turning] = $sail->pressed($u->x, $u->y, $u->z, $s->x, $s->y, $s->z, 0.6, 1.3);

            return [new Vec3($x, $y, $z), new Vec3($mx, $my, $mz), $more, $turning];
        };
        [$force, $moment, $more, $turning] = $pressed(Quaternion::identity());
        self::assertGreaterThan(0.0, min(abs($moment->x), abs($moment->y), abs($moment->z)));
        foreach ([[1, 2, 3], [-2, 0.3, 1], [0.1, -1, -0.4]] as $k => $axis) {
            $turn = Quaternion::aboutAxis(Vec3::of(array_map(floatval(...), $axis)), 0.9 + $k);
            [$f, $m, $a, $b] = $pressed($turn);
            self::assertEqualsWithDelta([...$turn->turn($force)->toArray(), ...$turn->turn($moment)->toArray(), $more, $turning], [...$f->toArray(), ...$m->toArray(), $a, $b], 1e-9);
        }
    }

    private static function box(float $a, float $b, float $c): Sail
    {
        return Sail::of([[Hull::around(...Solids::corners($a, $b, $c)), Vec3::zero()]]);
    }
}
