<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Collide;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\SimplerSurface;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\SurfaceTree;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shape\ShapeCatalogue;

/** A surface in fewer faces lies within what is allowed of the true one, both ways: measured here at random places of both. */
final class SimplerSurfaceTest extends TestCase
{
    /** @return array<string, array{Mesh, float, float}> mesh, metres allowed, and the share of its faces that may be left */
    public static function surfaces(): array
    {
        return [
            'hills' => [self::hills(60), 0.02, 0.4],
            'ball' => [ShapeCatalogue::mesh('ball', ['radius' => 0.3, 'detail' => 20]), 0.004, 0.25],
            'ring' => [ShapeCatalogue::mesh('ring', []), 0.01, 0.3],
            'sheet thinner than what is allowed' => [ShapeCatalogue::mesh('sheet', ['width' => 0.9, 'height' => 0.9, 'thickness' => 0.008, 'segments' => 20]), 0.01, 0.2],
            'corners' => [ShapeCatalogue::mesh('box', []), 1e-6, 1.0],
        ];
    }

    #[DataProvider('surfaces')]
    public function test_it_lies_within_what_is_allowed_both_ways(Mesh $mesh, float $allowed, float $share): void
    {
        $simple = SimplerSurface::of($mesh, $allowed);
        self::assertLessThanOrEqual($share * $mesh->faceCount(), $simple->faceCount());
        // It is measured at points and middles of faces; between them a fifth more is granted.
        self::assertLessThan(1.2 * $allowed, self::farthest($mesh, $simple));
        self::assertLessThan(1.2 * $allowed, self::farthest($simple, $mesh));
    }

    public function test_a_plain_in_many_faces_keeps_its_rim_and_little_else(): void
    {
        $plain = self::hills(40, 0.0);
        $simple = SimplerSurface::of($plain, 0.05);
        self::assertLessThan(0.25 * $plain->faceCount(), $simple->faceCount());
        self::assertEqualsWithDelta(0.0, max(array_map(abs(...), $simple->y)), 1e-12);
        self::assertLessThan(0.05, min($simple->x));
        self::assertGreaterThan(9.95, max($simple->x));
    }

    public function test_nothing_allowed_leaves_it_as_it_is(): void
    {
        $box = ShapeCatalogue::mesh('box', []);
        self::assertSame($box, SimplerSurface::of($box, 0.0));
    }

    private static function hills(int $n, float $height = 0.3): Mesh
    {
        $x = $y = $z = $faces = [];
        for ($i = 0; $i <= $n; $i++) {
            for ($k = 0; $k <= $n; $k++) {
                $x[] = $u = 10.0 * $i / $n;
                $z[] = $v = 10.0 * $k / $n;
                // Flat beyond the middle.
                $y[] = $u > 5.0 ? 0.0 : $height * sin(M_PI * $u / 5.0) * cos(0.7 * $v);
            }
        }
        for ($i = 0; $i < $n; $i++) {
            for ($k = 0; $k < $n; $k++) {
                $a = $i * ($n + 1) + $k;
                array_push($faces, $a, $a + 1, $a + $n + 1, $a + 1, $a + $n + 2, $a + $n + 1);
            }
        }

        return new Mesh($x, $y, $z, $faces);
    }

    /** Metres, how far random places of one lie from the other at most. */
    private static function farthest(Mesh $one, Mesh $other): float
    {
        $random = new SeededRandom(3);
        $x = $y = $z = [];
        foreach (array_chunk($one->faces, 3) as [$a, $b, $c]) {
            $u = $random->share();
            $v = $random->share() * (1.0 - $u);
            $at = static fn (int $p): Vec3 => new Vec3($one->x[$p], $one->y[$p], $one->z[$p]);
            [$x[], $y[], $z[]] = $at($a)->times($u)->plus($at($b)->times($v))->plus($at($c)->times(1.0 - $u - $v))->toArray();
        }

        return max((new SurfaceTree($other))->nearest($x, $y, $z)->distance);
    }
}
