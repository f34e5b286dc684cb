<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Tests\Solids;

final class ColliderSetTest extends TestCase
{
    /** Of a body that stands still the copies in the world are kept from search to search, but not past a change of its size. */
    public function test_what_is_resized_is_seen_at_its_new_size_though_it_has_not_moved(): void
    {
        $w = new World;
        $body = $w->addBody(World::STILL, new Vec3(1, 2, 3), Quaternion::identity(), 1.0, [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]);
        $hull = Hull::around(...Solids::corners(1.0, 0.6, 0.4));
        $collider = $w->addCollider($body, $hull, Vec3::zero(), 0.5, 0.0, 0);
        $w->colliders->follow($w);
        $wide = $w->colliders->box[1] - $w->colliders->box[0];
        $w->colliders->resize($collider, $hull, 0.5);
        $w->colliders->follow($w);
        self::assertEqualsWithDelta(0.5 * $wide, $w->colliders->box[1] - $w->colliders->box[0], 1e-9);
        self::assertEqualsWithDelta(1.0, 0.5 * ($w->colliders->box[0] + $w->colliders->box[1]), 1e-9);
    }
}
