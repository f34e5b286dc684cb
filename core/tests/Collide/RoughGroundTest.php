<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Collide;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\GroundPlace;
use YardBreak\Core\Collide\RoughGround;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Solids;

/** Ground by chance: what it says of itself against differences of heights, and what lies on it against samples of both surfaces. */
final class RoughGroundTest extends TestCase
{
    private const HEIGHT = 0.12;

    private const WIDTH = 0.4;

    public function test_it_lies_between_0_and_its_height_and_slopes_as_its_heights_say(): void
    {
        $ground = self::ground();
        $random = new SeededRandom(2);
        $low = INF;
        $high = -INF;
        for ($k = 0; $k < 3000; $k++) {
            [$x, $z] = [$random->between(-40, 40), $random->between(-40, 40)];
            $h = $ground->height($x, $z);
            $low = min($low, $h);
            $high = max($high, $h);
            $d = 1e-6;
            [$sx, $sz] = $ground->slope($x, $z);
            self::assertEqualsWithDelta(($ground->height($x + $d, $z) - $ground->height($x - $d, $z)) / (2 * $d), $sx, 1e-6);
            self::assertEqualsWithDelta(($ground->height($x, $z + $d) - $ground->height($x, $z - $d)) / (2 * $d), $sz, 1e-6);
            self::assertLessThanOrEqual($ground->steepest(), hypot($sx, $sz));
        }
        self::assertGreaterThanOrEqual(-self::HEIGHT, $low);
        self::assertLessThan(-0.9 * self::HEIGHT, $low);
        self::assertLessThanOrEqual(0.0, $high);
        self::assertGreaterThan(-0.1 * self::HEIGHT, $high);
        self::assertNotSame($ground->height(0.1, 0.2), RoughGround::of(['height' => self::HEIGHT, 'width' => self::WIDTH, 'seed' => 2])->height(0.1, 0.2));
    }

    public function test_nothing_is_higher_than_the_crests_it_tells(): void
    {
        $ground = self::ground();
        $crests = $ground->crests(-2, -2, 2, 2);
        self::assertGreaterThan(8, count($crests));
        for ($x = -1.9; $x < 1.9; $x += 0.05) {
            for ($z = -1.9; $z < 1.9; $z += 0.05) {
                $near = array_filter($crests, static fn (array $c): bool => hypot($c[0] - $x, $c[1] - $z) < 1.5 * self::WIDTH);
                $here = $ground->height($x, $z);
                $top = true;
                foreach ([[0.02, 0], [-0.02, 0], [0, 0.02], [0, -0.02]] as [$u, $v]) {
                    $top = $top && $ground->height($x + $u, $z + $v) <= $here;
                }
                // Higher than all round it only where a crest is told.
                self::assertTrue(! $top || array_filter($near, static fn (array $c): bool => hypot($c[0] - $x, $c[1] - $z) < 0.05) !== []);
            }
        }
    }

    public function test_the_nearest_place_is_the_nearest_of_all(): void
    {
        $ground = self::ground();
        $random = new SeededRandom(5);
        for ($k = 0; $k < 60; $k++) {
            [$x, $z] = [$random->between(-3, 3), $random->between(-3, 3)];
            $y = $ground->height($x, $z) + $random->between(-0.02, 0.06);
            $place = GroundPlace::nearest($ground, $x, $y, $z);
            $least = INF;
            for ($u = -0.1; $u <= 0.1; $u += 0.0025) {
                for ($v = -0.1; $v <= 0.1; $v += 0.0025) {
                    $least = min($least, sqrt($u * $u + $v * $v + ($ground->height($x + $u, $z + $v) - $y) ** 2));
                }
            }
            self::assertLessThanOrEqual($least + 1e-9, abs($place->distance), "point $k");
            self::assertGreaterThan($least - 0.002, abs($place->distance), "point $k");
            self::assertSame($y < $ground->height($x, $z), $place->distance < 0.0);
        }
    }

    /** A ball rolls over it without losing touch or sinking in, and never gets higher than it came from (energy). */
    public function test_a_ball_rolls_on_it_and_gains_nothing(): void
    {
        foreach ([0.05, 0.2] as $k => $radius) {
            $w = self::world();
            $ball = self::ball($w, $radius, new Vec3(0.13 + $k, 0.5, 0.21));
            for ($frame = 0; $frame < 120; $frame++) {
                self::play($w, 1);
                $nearest = INF;
                for ($u = -$radius; $u <= $radius; $u += $radius / 20) {
                    for ($v = -$radius; $v <= $radius; $v += $radius / 20) {
                        $nearest = min(
                            $nearest,
                            sqrt($u * $u + $v * $v + ($w->py[$ball] - self::ground()->height($w->px[$ball] + $u, $w->pz[$ball] + $v)) ** 2),
                        );
                    }
                }
                self::assertGreaterThan(0.94 * $radius, $nearest, "frame $frame");
                // A solid ball that rolls has 7/10 m v².
                self::assertLessThan(9.80665 * 0.5 * 1.02, 9.80665 * $w->py[$ball] + 0.7 * ($w->vx[$ball] ** 2 + $w->vz[$ball] ** 2), "frame $frame");
            }
        }
    }

    /** Boxes small and large beside its bumps: neither do corners sink in, nor do crests stand through faces or edges. */
    public function test_boxes_lie_on_corners_edges_and_crests(): void
    {
        foreach ([[0.15, 0.1, 0.15], [1.6, 0.1, 1.6], [2.4, 0.08, 0.08], [0.5, 0.5, 0.5]] as $n => $size) {
            $w = self::world();
            $box = Solids::addBox($w, $size, new Vec3(0.3 * $n, 0.4, 0.1), friction: 0.9, turn: Quaternion::aboutAxis(new Vec3(0.1, 1, 0.2), 0.6 * $n));
            self::play($w, 144);
            self::assertLessThan(0.02, sqrt($w->vx[$box] ** 2 + $w->vy[$box] ** 2 + $w->vz[$box] ** 2), "box $n is still");
            $turn = new Quaternion($w->qx[$box], $w->qy[$box], $w->qz[$box], $w->qw[$box]);
            $at = new Vec3($w->px[$box], $w->py[$box], $w->pz[$box]);
            $deepest = $nearest = INF;
            // Both ways: places of the ground within the box, and how near it comes at all.
            $reach = 0.6 * hypot($size[0], $size[2]);
            for ($u = -$reach; $u <= $reach; $u += $reach / 90) {
                for ($v = -$reach; $v <= $reach; $v += $reach / 90) {
                    $p = $turn->inverse()->turn((new Vec3($at->x + $u, self::ground()->height($at->x + $u, $at->z + $v), $at->z + $v))->minus($at));
                    $off = max(abs($p->x) - 0.5 * $size[0], abs($p->y) - 0.5 * $size[1], abs($p->z) - 0.5 * $size[2]);
                    $deepest = min($deepest, $off);
                    $nearest = min($nearest, abs($off));
                }
            }
            self::assertGreaterThan(-0.003, $deepest, "the ground stands into box $n");
            self::assertLessThan(0.02, $nearest, "box $n lies on it");
        }
    }

    public function test_ground_as_steep_as_a_wall_is_refused(): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('steep');
        RoughGround::of(['height' => 1.0, 'width' => 0.5]);
    }

    private static function ground(): RoughGround
    {
        return RoughGround::of(['height' => self::HEIGHT, 'width' => self::WIDTH, 'seed' => 1]);
    }

    private static function world(): World
    {
        $w = new World;
        $w->ground = self::ground();
        $w->groundFriction = 0.9;
        $w->pieceSize = 0.2;

        return $w;
    }

    private static function ball(World $w, float $radius, Vec3 $at): int
    {
        $m = 1000.0 * 4.0 / 3.0 * M_PI * $radius ** 3;
        $i = 0.4 * $m * $radius ** 2;
        $body = $w->addBody(World::MOVING, $at, Quaternion::identity(), $m, [$i, $i, $i, 0.0, 0.0, 0.0]);
        $w->addCollider($body, \YardBreak\Core\Collide\Hull::ball($radius), Vec3::zero(), 0.9, 0.0, 0);
        $w->release($body, Vec3::zero(), Vec3::zero());

        return $body;
    }

    private static function play(World $w, int $frames): void
    {
        for ($k = 0; $k < $frames; $k++) {
            $w->step(1 / 24, 2, 6);
        }
    }
}
