<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\BodySurfaces;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shape\ShapeCatalogue;

final class BodySurfacesTest extends TestCase
{
    /** Against the distance to a box in its own coordinates; corners are rounded by at most the hull's margin. */
    public function test_the_nearest_surface_is_that_of_the_mesh_wherever_it_stands(): void
    {
        $mesh = ShapeCatalogue::mesh('box', ['width' => 1.0, 'height' => 0.6, 'depth' => 0.4])->movedBy(new Vec3(0, -0.3, 0));
        $hull = Hull::around($mesh->x, $mesh->y, $mesh->z);
        $world = new World;
        $at = new Vec3(2, 1, -1);
        $turn = Quaternion::aboutAxis(new Vec3(1, 2, 3), 0.8);
        $world->addCollider($world->addBody(World::STILL, $at, $turn, 1.0, [1.0, 1.0, 1.0, 0.0, 0.0, 0.0], 4), $hull, Vec3::zero(), 0.5, 0.0, 4);
        $surfaces = new BodySurfaces($world);
        $random = new SeededRandom(4);
        for ($k = 0; $k < 200; $k++) {
            $own = new Vec3($random->between(-1.2, 1.2), $random->between(-1.0, 1.0), $random->between(-1.0, 1.0));
            $inside = abs($own->x) < 0.5 && abs($own->y) < 0.3 && abs($own->z) < 0.2;
            $found = $surfaces->nearest($turn->turn($own)->plus($at), 9.0);
            $distance = $inside
                ? -min(0.5 - abs($own->x), 0.3 - abs($own->y), 0.2 - abs($own->z))
                : (new Vec3(max(0.0, abs($own->x) - 0.5), max(0.0, abs($own->y) - 0.3), max(0.0, abs($own->z) - 0.2)))->length();
            self::assertNotNull($found);
            self::assertEqualsWithDelta($distance, $found->distance, $hull->margin, "point $k");
            self::assertSame(4, $found->prop);
            self::assertEqualsWithDelta(1.0, $found->normal->length(), 1e-9);
        }
        self::assertNull($surfaces->nearest(new Vec3(9, 9, 9), 1.0), 'farther than asked for');
    }

    public function test_its_velocity_is_that_of_the_place(): void
    {
        $world = new World;
        $body = $world->addBody(World::KEYED, Vec3::zero(), Quaternion::identity(), 1.0, [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]);
        $world->addCollider($body, Hull::ball(0.5), Vec3::zero(), 0.5, 0.0, 0);
        $world->vx[$body] = 1.0;
        $world->wz[$body] = 2.0;
        $world->growth[$body] = [0.4, 0.0, 0.0, 0.0];
        $found = (new BodySurfaces($world))->nearest(new Vec3(0, 2, 0), 5.0);
        self::assertNotNull($found);
        self::assertEqualsWithDelta([0.0, 0.5, 0.0], $found->at->toArray(), 1e-9);
        // Sliding 1 m/s, turning 2 rad/s at 0.5 m, growing by 0.4 a second at 0.5 m.
        self::assertEqualsWithDelta([1.0 - 1.0, 0.2, 0.0], $found->velocity->toArray(), 1e-9);
    }
}
