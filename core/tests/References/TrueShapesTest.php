<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Tests\Solids;

/** What is held collides as what it is: closed forms, and the plane as a reference for floors made of triangles. */
final class TrueShapesTest extends TestCase
{
    /** The tube's radius and the ring's leave a hole of 0.28 m. */
    private const RING = ['radius' => 0.4, 'tube' => 0.12, 'segments' => 192, 'rows' => 64];

    /** 2 mm clearance on either side. */
    public function test_a_ball_falls_through_a_ring_that_has_room_for_it(): void
    {
        $w = self::world();
        $this->hold($w, self::ring(), new Vec3(0, 2, 0));
        $ball = $this->ball($w, 0.278, new Vec3(0, 3, 0));
        $this->after($w, 1.0);
        self::assertLessThan(0.5, $w->py[$ball], 'it is through');
        self::assertLessThan(1e-4, hypot($w->px[$ball], $w->pz[$ball]), 'and not pushed aside');
    }

    /** A ball that touches a circle's tube all round lies √((b + r)² − R²) above its plane. */
    public function test_a_ball_too_large_for_a_ring_lies_on_it(): void
    {
        $w = self::world();
        $this->hold($w, self::ring(), new Vec3(0, 2, 0));
        $ball = $this->ball($w, 0.285, new Vec3(0, 2.3, 0));
        $this->after($w, 3.0);
        self::assertEqualsWithDelta(2.0 + sqrt(0.405 ** 2 - 0.4 ** 2), $w->py[$ball], 0.002);
        self::assertSame(World::RESTING, $w->state[$ball]);
    }

    /** At the bottom of a round bowl of radius 0.3 a marble of 0.02 lies 0.28 below the middle of the round. */
    public function test_a_marble_comes_to_rest_at_the_bottom_of_a_bowl(): void
    {
        $w = self::world();
        $this->hold($w, Solids::bowl(96), new Vec3(0, 0.5, 0));
        $w->groundFriction = 0.0;
        $marble = $this->ball($w, 0.02, new Vec3(0.1, 0.5 - sqrt(0.28 ** 2 - 0.1 ** 2) + 0.001, 0), 0.2);
        $this->after($w, 12.0);
        self::assertEqualsWithDelta(0.5 - 0.28, $w->py[$marble], 0.0005);
        self::assertLessThan(0.02, hypot($w->px[$marble], $w->pz[$marble]));
    }

    /** @return array<string, array{\Closure(): Mesh}> floors with their top at height 0 */
    public static function floors(): array
    {
        return [
            'a few triangles' => [static fn (): Mesh => self::floor(3, 0.0)],
            'many triangles' => [static fn (): Mesh => self::floor(40, 0.0)],
            'triangles of all shapes' => [static fn (): Mesh => self::floor(25, 0.45)],
            'long thin triangles' => [static fn (): Mesh => self::floor(60, 0.0, 1)],
            'a slab' => [static fn (): Mesh => ShapeCatalogue::mesh('box', ['width' => 12, 'height' => 1, 'depth' => 4, 'segments' => 12])->movedBy(new Vec3(0, -1, 0))],
        ];
    }

    /** The plane is the reference: a box slides over a flat floor of triangles as over it, whatever these are like. */
    #[DataProvider('floors')]
    public function test_a_box_slides_over_triangles_as_over_the_plane(\Closure $floor): void
    {
        foreach ([3.0, 6.0] as $speed) {
            $at = [];
            foreach ([true, false] as $plane) {
                $w = self::world();
                if (! $plane) {
                    $w->ground = null;
                    $this->hold($w, $floor(), Vec3::zero(), 0.5);
                }
                $box = $this->box($w, [0.3, 0.2, 0.25], new Vec3(-2.5, 0.1, 0.013), Quaternion::aboutAxis(new Vec3(0, 1, 0), 0.3), 0.5);
                $w->release($box, new Vec3($speed, 0, 0), Vec3::zero());
                $highest = -INF;
                for ($f = 0; $f < 36; $f++) {
                    $w->step(1 / 24, 2, 6);
                    $highest = max($highest, $w->py[$box]);
                }
                $at[] = $w->px[$box];
                self::assertLessThan(0.1001, $highest, 'nothing to trip over');
                self::assertGreaterThan(0.099, $w->py[$box]);
            }
            self::assertEqualsWithDelta($at[0], $at[1], 0.002, "as far at $speed m/s");
        }
    }

    /** Coulomb: down a slope of angle α a box gains g (sin α − μ cos α). */
    public function test_a_box_slides_down_a_slope_of_triangles_by_coulomb(): void
    {
        $w = self::world();
        $w->ground = null;
        $turn = Quaternion::aboutAxis(new Vec3(0, 0, 1), -M_PI / 6.0);
        $this->hold($w, self::floor(40, 0.3), Vec3::zero(), 0.2, $turn);
        $up = $turn->turn(new Vec3(0, 1, 0));
        $down = $turn->turn(new Vec3(1, 0, 0));
        $box = $this->box($w, [0.3, 0.2, 0.25], $down->times(-3.0)->plus($up->times(0.1)), $turn, 0.2);
        $start = new Vec3($w->px[$box], $w->py[$box], $w->pz[$box]);
        $this->after($w, 1.0);
        $far = (new Vec3($w->px[$box], $w->py[$box], $w->pz[$box]))->minus($start);
        $expected = 0.5 * 9.80665 * (sin(M_PI / 6.0) - 0.2 * cos(M_PI / 6.0));
        self::assertEqualsWithDelta(1.0, $far->dot($down) / $expected, 0.01);
        self::assertEqualsWithDelta(0.0, $far->dot($up), 1e-3);
    }

    public function test_a_stack_stands_on_triangles_as_on_the_plane(): void
    {
        $heights = [];
        foreach ([true, false] as $plane) {
            $w = self::world();
            if (! $plane) {
                $w->ground = null;
                $this->hold($w, self::floor(20, 0.4), Vec3::zero(), 0.5);
            }
            for ($k = 0; $k < 8; $k++) {
                $this->box($w, [0.2, 0.2, 0.2], new Vec3(0.03, 0.1 + 0.2 * $k, 0.02), Quaternion::identity(), 0.5);
            }
            $this->after($w, 2.0);
            $heights[] = array_slice($w->py, -8);
        }
        foreach ($heights[0] as $k => $h) {
            self::assertEqualsWithDelta($h, $heights[1][$k], 1e-4, "box $k");
            self::assertEqualsWithDelta(0.1 + 0.2 * $k, $h, 0.012);
        }
    }

    /** @return array<string, array{\Closure(): Mesh}> what stands across the way, its front towards −x or thin */
    public static function walls(): array
    {
        $upright = Quaternion::aboutAxis(new Vec3(0, 0, 1), M_PI / 2.0);

        return [
            'a sheet' => [static fn (): Mesh => self::turned(self::floor(8, 0.3), $upright)],
            'a sheet from behind' => [static fn (): Mesh => self::turned(self::floor(8, 0.3), Quaternion::aboutAxis(new Vec3(0, 0, 1), -M_PI / 2.0))],
            'a shell of 2 cm' => [static fn (): Mesh => ShapeCatalogue::mesh('box', ['width' => 0.02, 'height' => 4, 'depth' => 4, 'segments' => 6])->movedBy(new Vec3(0, -2, 0))],
        ];
    }

    /** Cubes of 6 cm at 30 m/s, turning. */
    #[DataProvider('walls')]
    public function test_what_is_thrown_at_something_thin_does_not_pass_it(\Closure $wall): void
    {
        $random = new SeededRandom(4);
        $behind = 0;
        for ($try = 0; $try < 60; $try++) {
            $w = self::world();
            $w->gravity = Vec3::zero();
            $w->ground = null;
            $this->hold($w, $wall(), Vec3::zero(), 0.3);
            $turn = Quaternion::aboutAxis(new Vec3($random->between(-1, 1), $random->between(-1, 1), $random->between(-1, 1)), $random->between(0, 6));
            $cube = $this->box($w, [0.06, 0.06, 0.06], new Vec3(-$random->between(0.5, 1.5), $random->between(-0.5, 0.5), $random->between(-0.5, 0.5)), $turn, 0.3);
            $w->release(
                $cube,
                new Vec3(30, $random->between(-4, 4), $random->between(-4, 4)),
                new Vec3($random->between(-20, 20), $random->between(-20, 20), $random->between(-20, 20)),
            );
            $this->after($w, 0.25);
            $behind += $w->px[$cube] > 0.0 ? 1 : 0;
        }
        self::assertSame(0, $behind, 'of 60 throws');
    }

    /** A rod of 2 cm thrown edge-on at a sheet, at 15 m/s. */
    public function test_a_rod_does_not_pass_a_sheet(): void
    {
        $random = new SeededRandom(6);
        $behind = 0;
        for ($try = 0; $try < 40; $try++) {
            $w = self::world();
            $w->gravity = Vec3::zero();
            $w->ground = null;
            $this->hold($w, self::turned(self::floor(8, 0.3), Quaternion::aboutAxis(new Vec3(0, 0, 1), M_PI / 2.0)), Vec3::zero(), 0.3);
            $turn = Quaternion::aboutAxis(new Vec3($random->between(-1, 1), $random->between(-1, 1), $random->between(-1, 1)), $random->between(0, 6));
            $rod = $this->box($w, [0.4, 0.02, 0.02], new Vec3(-1, $random->between(-0.5, 0.5), $random->between(-0.5, 0.5)), $turn, 0.3);
            $w->release($rod, new Vec3(15, 0, 0), new Vec3($random->between(-10, 10), $random->between(-10, 10), $random->between(-10, 10)));
            $this->after($w, 0.25);
            $behind += $w->px[$rod] > 0.0 ? 1 : 0;
        }
        self::assertSame(0, $behind, 'of 40 throws');
    }

    /** Two rings linked: the lower hangs in the upper, so that their tubes touch: its middle is two radii less two tubes below. */
    public function test_a_ring_hangs_in_another(): void
    {
        $w = self::world();
        $w->ground = null;
        $thin = ['radius' => 0.2, 'tube' => 0.03, 'segments' => 64, 'rows' => 16];
        $mesh = ShapeCatalogue::mesh('ring', $thin)->movedBy(new Vec3(0, -0.03, 0));
        $upright = Quaternion::aboutAxis(new Vec3(1, 0, 0), M_PI / 2.0);
        $across = Quaternion::aboutAxis(new Vec3(0, 0, 1), M_PI / 2.0);
        $this->hold($w, $mesh, new Vec3(0, 2, 0), 0.5, $upright);
        $solid = Solid::free([new Shard('ring', $mesh, MassProperties::of($mesh))])[0];
        $body = $w->addBody(World::STILL, new Vec3(0, 2.0 - 0.3, 0), $across, $solid->mass->volume * 1000.0, array_map(static fn (float $v): float => $v * 1000.0, $solid->mass->inertia));
        foreach ($solid->hulls as $hull) {
            $w->addCollider($body, $hull, Vec3::zero(), 0.5, 0.0, 1);
        }
        $w->measure($solid->hulls);
        $w->release($body, Vec3::zero(), Vec3::zero());
        $this->after($w, 4.0);
        // Hulls lie within two hundredths of the ring's size of its surface.
        self::assertEqualsWithDelta(2.0 - 2 * (0.2 - 0.03), $w->py[$body], 0.015);
    }

    /** Small things on a plate thinner than they are, hit from above by a heavy slab, are not pressed into it or through it. */
    public function test_what_is_crushed_on_a_thin_plate_stays_on_it(): void
    {
        foreach ([0.5, 1.0] as $mass) {
            $w = self::world();
            $plate = ShapeCatalogue::mesh('box', ['width' => 0.6, 'height' => 0.012, 'depth' => 0.6]);
            $this->hold($w, $plate, new Vec3(0, 0.5, 0));
            $none = Quaternion::identity();
            $slab = $this->box($w, [0.25, 0.05, 0.25], new Vec3(0, 1.0, 0), $none, 0.5, $mass);
            $cubes = array_map(
                fn (array $at): int => $this->box($w, [0.03, 0.03, 0.03], new Vec3($at[0], 0.528, $at[1]), $none, 0.5, 0.03),
                [[-0.08, -0.08], [0.08, -0.08], [-0.08, 0.08], [0.08, 0.08]],
            );
            foreach ($cubes as $cube) {
                $w->release($cube, Vec3::zero(), Vec3::zero());
            }
            $w->release($slab, new Vec3(0, -4, 0), Vec3::zero());
            $this->after($w, 2.5);
            foreach ($cubes as $k => $cube) {
                self::assertGreaterThan(0.512 + 0.013, $w->py[$cube], "cube $k under $mass kg");
            }
        }
    }

    /** A plate that is driven up, then along, takes with it what lies on it. */
    public function test_a_driven_sheet_carries_what_lies_on_it(): void
    {
        $w = self::world();
        $plate = $this->hold($w, self::floor(6, 0.2), new Vec3(0, 0.5, 0), 0.8);
        $box = $this->box($w, [0.2, 0.2, 0.2], new Vec3(0, 0.601, 0), Quaternion::identity(), 0.8);
        for ($f = 0; $f < 48; $f++) {
            // Up by half a metre in a second, then along as far, both gently.
            $at = static fn (float $t): Vec3 => new Vec3(0.25 - 0.25 * cos(M_PI * min(1.0, max(0.0, $t - 1.0))), 0.75 - 0.25 * cos(M_PI * min(1.0, $t)), 0);
            [$now, $next] = [$at($f / 24), $at(($f + 1) / 24)];
            $w->state[$plate] = World::KEYED;
            $w->place($plate, $now, Quaternion::identity());
            [$w->vx[$plate], $w->vy[$plate], $w->vz[$plate]] = $next->minus($now)->times(24.0)->toArray();
            $w->step(1 / 24, 2, 6);
        }
        self::assertEqualsWithDelta(1.1, $w->py[$box], 0.005);
        self::assertEqualsWithDelta(0.5, $w->px[$box], 0.02);
    }

    private static function world(): World
    {
        $w = new World;
        $w->groundBounce = 0.0;

        return $w;
    }

    private function after(World $w, float $seconds): void
    {
        for ($f = 0, $n = (int) round(24 * $seconds); $f < $n; $f++) {
            $w->step(1 / 24, 2, 6);
        }
    }

    private function hold(World $w, Mesh $mesh, Vec3 $at, float $friction = 0.5, ?Quaternion $turn = null): int
    {
        $body = $w->addBody(World::STILL, $at, $turn ?? Quaternion::identity(), 1.0, [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]);
        $w->addSurface($body, new ContactSurface($mesh), $friction, 0.0, 100 + $body);

        return $body;
    }

    private function ball(World $w, float $radius, Vec3 $at, float $friction = 0.5): int
    {
        $inertia = 0.4 * $radius * $radius;
        $body = $w->addBody(World::STILL, $at, Quaternion::identity(), 1.0, [$inertia, $inertia, $inertia, 0.0, 0.0, 0.0]);
        $w->addCollider($body, $hull = Hull::ball($radius), Vec3::zero(), $friction, 0.0, $body);
        $w->measure([$hull]);
        $w->release($body, Vec3::zero(), Vec3::zero());

        return $body;
    }

    /** @param  array{float, float, float}  $sides */
    private function box(World $w, array $sides, Vec3 $at, Quaternion $turn, float $friction, float $mass = 1.0): int
    {
        [$a, $b, $c] = $sides;
        $k = $mass / 12;
        $body = $w->addBody(World::STILL, $at, $turn, $mass, [$k * ($b * $b + $c * $c), $k * ($a * $a + $c * $c), $k * ($a * $a + $b * $b), 0.0, 0.0, 0.0]);
        $x = $y = $z = [];
        for ($k = 0; $k < 8; $k++) {
            $x[] = $k & 1 ? $a / 2 : -$a / 2;
            $y[] = $k & 2 ? $b / 2 : -$b / 2;
            $z[] = $k & 4 ? $c / 2 : -$c / 2;
        }
        $w->addCollider($body, $hull = Hull::around($x, $y, $z), Vec3::zero(), $friction, 0.0, $body);
        $w->measure([$hull]);
        $w->release($body, Vec3::zero(), Vec3::zero());

        return $body;
    }

    /** An open floor of 12 × 4 m at height 0, its points moved by a share of a cell. */
    private static function floor(int $cells, float $shaken, ?int $across = null): Mesh
    {
        $random = new SeededRandom(11);
        $across ??= max(2, intdiv($cells, 3));
        $x = $y = $z = $faces = [];
        for ($i = 0; $i <= $cells; $i++) {
            for ($j = 0; $j <= $across; $j++) {
                $inner = $i > 0 && $i < $cells && $j > 0 && $j < $across ? $shaken : 0.0;
                $x[] = 12.0 * ($i + $inner * $random->between(-1, 1)) / $cells - 6.0;
                $y[] = 0.0;
                $z[] = 4.0 * ($j + $inner * $random->between(-1, 1)) / $across - 2.0;
            }
        }
        for ($i = 0; $i < $cells; $i++) {
            for ($j = 0; $j < $across; $j++) {
                $a = $i * ($across + 1) + $j;
                array_push($faces, $a, $a + 1, $a + $across + 1, $a + 1, $a + $across + 2, $a + $across + 1);
            }
        }

        return new Mesh($x, $y, $z, $faces);
    }

    private static function turned(Mesh $mesh, Quaternion $turn): Mesh
    {
        $x = $y = $z = [];
        foreach ($mesh->x as $i => $v) {
            [$x[], $y[], $z[]] = $turn->turn(new Vec3($v, $mesh->y[$i], $mesh->z[$i]))->toArray();
        }

        return new Mesh($x, $y, $z, $mesh->faces);
    }

    /** Round the origin; shapes stand on the ground. */
    private static function ring(): Mesh
    {
        return ShapeCatalogue::mesh('ring', self::RING)->movedBy(new Vec3(0, -self::RING['tube'], 0));
    }
}
