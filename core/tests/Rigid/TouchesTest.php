<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\FlatGround;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\BodyTouch;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Tests\Solids;

/** What a touch tells: where, when, how fast, and what impulse ends the approach (collision of two bodies, any textbook of mechanics). */
final class TouchesTest extends TestCase
{
    public function test_two_that_meet_head_on_exchange_by_their_reduced_mass_when_they_get_there(): void
    {
        $w = self::space();
        // 8 kg and 1 kg, sides 0.2 and 0.1, gap 0.02, approach 5 m/s.
        $one = Solids::addBox($w, [0.2, 0.2, 0.2], Vec3::zero(), velocity: new Vec3(2, 0, 0));
        Solids::addBox($w, [0.1, 0.1, 0.1], new Vec3(0.17, 0, 0), velocity: new Vec3(-3, 0, 0));
        $touch = self::touch($w, $one);
        self::assertEqualsWithDelta(5.0, $touch->speed, 1e-9);
        self::assertEqualsWithDelta(5.0 / (1.0 / 8.0 + 1.0 / 1.0), $touch->impulse, 1e-6);
        self::assertEqualsWithDelta(0.02 / 5.0, $touch->in, 2e-4);
    }

    public function test_one_that_is_driven_gives_nothing(): void
    {
        $w = self::space();
        $one = Solids::addBox($w, [0.2, 0.2, 0.2], Vec3::zero(), velocity: new Vec3(2, 0, 0));
        $wall = Solids::addBox($w, [0.1, 0.1, 0.1], new Vec3(0.16, 0, 0), World::KEYED);
        $w->vx[$wall] = -1.0;
        self::assertEqualsWithDelta(8.0 * 3.0, self::touch($w, $one)->impulse, 0.1);
    }

    public function test_what_is_hit_beside_its_middle_gives_way_by_turning(): void
    {
        $w = self::space();
        $w->ground = new FlatGround;
        // A rod of 1 × 0.05 × 0.05 m, a little aslant, comes down on its end: 1 / (1/m + r²/I), r ≈ 0.5, I ≈ m/12.
        $rod = Solids::addBox($w, [1.0, 0.05, 0.05], new Vec3(0, 0.1, 0), velocity: new Vec3(0, -4, 0), turn: Quaternion::aboutAxis(new Vec3(0, 0, 1), 0.1));
        $m = 1000.0 * 0.05 * 0.05;
        $r = 0.5 * cos(0.1) - 0.025 * sin(0.1);
        self::assertEqualsWithDelta(4.0 / (1.0 / $m + $r * $r / ($m / 12.0 * (1.0 + 0.0025))), self::touch($w, $rod)->impulse, 0.01);
    }

    /** v = ω × r, whichever way the rod lies and swings. */
    public function test_what_turns_comes_as_fast_as_the_place_that_touches(): void
    {
        $axes = [new Vec3(1, 0, 0), new Vec3(0, 1, 0), new Vec3(0, 0, 1)];
        $middle = new Vec3(0.3, -0.7, 0.2);
        foreach ($axes as $i => $along) {
            foreach ($axes as $j => $towards) {
                foreach ($i === $j ? [] : [1.0, -1.0] as $end) {
                    $w = self::space();
                    $side = static fn (int $k): float => $k === $i ? 1.0 : 0.05;
                    $rod = Solids::addBox($w, [$side(0), $side(1), $side(2)], $middle, spin: $along->cross($towards)->times(4.0 * $end));
                    Solids::addBox($w, [0.1, 0.1, 0.1], $middle->plus($along->times(0.45 * $end))->plus($towards->times(0.08)), World::KEYED);
                    $touch = self::touch($w, $rod);
                    $off = $end * $touch->at->minus($middle)->dot($along);
                    self::assertGreaterThan(0.39, $off, "$i $j");
                    self::assertEqualsWithDelta(4.0 * $off, $touch->speed, 1e-9, "$i $j");
                }
            }
        }
    }

    public function test_what_rests_wakes_and_moves_by_a_push_as_a_free_body_does(): void
    {
        $w = self::space();
        $w->ground = new FlatGround;
        $w->gravity = new Vec3(0, -9.81, 0);
        $box = Solids::addBox($w, [0.2, 0.2, 0.2], new Vec3(0, 0.1, 0));
        for ($k = 0; $k < 36; $k++) {
            $w->step(1 / 24, 2, 6);
        }
        self::assertSame(World::RESTING, $w->state[$box]);
        // 4 N·s up at the middle of a side 0.1 m off: v = J/m, w = r × J / I.
        $w->push($box, new Vec3($w->px[$box] + 0.1, $w->py[$box], $w->pz[$box]), new Vec3(0, 4, 0));
        self::assertSame(World::MOVING, $w->state[$box]);
        self::assertEqualsWithDelta(4.0 / 8.0, $w->vy[$box], 1e-9);
        self::assertEqualsWithDelta(0.1 * 4.0 / (8.0 / 12.0 * 0.08), $w->wz[$box], 1e-9);
    }

    private static function space(): World
    {
        $w = new World;
        $w->ground = null;
        $w->gravity = Vec3::zero();
        $w->pieceSize = 0.1;

        return $w;
    }

    private static function touch(World $w, int $waiting): BodyTouch
    {
        $w->waiting[$waiting] = true;
        $w->findContacts(1 / 48);
        self::assertCount(1, $w->touches());

        return $w->touches()[0];
    }
}
