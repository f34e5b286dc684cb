<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Collide;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Tests\Solids;

final class ContactSurfaceTest extends TestCase
{
    public function test_what_is_kept_of_a_surface_is_all_of_it(): void
    {
        foreach ([Solids::vase(), new Mesh([0.0, 1.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0, 1, 2]), new Mesh([], [], [], [])] as $mesh) {
            $surface = new ContactSurface($mesh);
            self::assertEquals($surface, unserialize(serialize($surface)));
        }
    }
}
