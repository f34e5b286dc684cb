<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\SelfCrossing;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Shape\ShapeCatalogue;

/** A surface passes through itself where closed forms say that two bodies overlap, and nowhere else. */
final class SelfCrossingTest extends TestCase
{
    /** @return array<string, array{string, array<string, mixed>}> */
    public static function shapes(): array
    {
        return [
            'box' => ['box', ['segments' => 5]],
            'ball' => ['ball', ['detail' => 8]],
            'cylinder' => ['cylinder', []],
            'cone' => ['cone', []],
            'ring' => ['ring', []],
            'beam' => ['beam', []],
            'text' => ['text', []],
            'jar' => ['lathe', ['profile' => [[0, 0], [0.1, 0], [0.12, 0.2], [0.1, 0.2], [0.08, 0.02], [0, 0.02]]]],
        ];
    }

    /** @param  array<string, mixed>  $values */
    #[DataProvider('shapes')]
    public function test_a_sound_shape_does_not(string $shape, array $values): void
    {
        $mesh = ShapeCatalogue::mesh($shape, $values);
        self::assertNull(SelfCrossing::of($mesh));
        self::assertFalse(Fitness::of($mesh)->withCrossing($mesh)->passesThroughItself());
    }

    /** Two balls of radius 0.3 overlap as long as their middles are less than 0.6 apart; the place lies on both, within a face's sag. */
    public function test_two_balls_do_as_long_as_they_overlap(): void
    {
        $ball = ShapeCatalogue::mesh('ball', ['radius' => 0.3, 'detail' => 10]);
        $middle = Fitness::of($ball)->centroid;
        foreach ([[0.05, true], [0.2, true], [0.55, true], [0.61, false], [2.0, false]] as [$apart, $crosses]) {
            $way = (new Vec3(1.0, 0.31, -0.17))->unit()->times($apart);
            $two = self::both($ball, $ball->movedBy($way));
            $place = SelfCrossing::of($two);
            self::assertSame($crosses, $place !== null, "$apart apart");
            if ($place !== null) {
                self::assertEqualsWithDelta(0.3, $place->minus($middle)->length(), 0.01);
                self::assertEqualsWithDelta(0.3, $place->minus($middle->plus($way))->length(), 0.01);
            }
        }
    }

    /** One ring through the hole of another, and the same pulled until their tubes meet. */
    public function test_linked_rings_do_not_and_crossing_ones_do(): void
    {
        $ring = ShapeCatalogue::mesh('ring', ['radius' => 0.3, 'tube' => 0.05]);
        $middle = Fitness::of($ring)->centroid;
        // Stood upright, and moved half a ring's radius along: it goes through the hole.
        $turned = new Mesh(
            array_map(static fn (float $v): float => $v - $middle->x, $ring->x),
            array_map(static fn (float $v): float => $v - $middle->z, $ring->z),
            array_map(static fn (float $v): float => -($v - $middle->y), $ring->y),
            $ring->faces,
        );
        $own = $ring->movedBy($middle->times(-1.0));
        self::assertNull(SelfCrossing::of(self::both($own, $turned->movedBy(new Vec3(0.3, 0.0, 0.0)))));
        $crossing = self::both($own, $turned->movedBy(new Vec3(0.02, 0.0, 0.0)));
        self::assertNotNull(SelfCrossing::of($crossing));
        $fitness = Fitness::of($crossing)->withCrossing($crossing);
        self::assertTrue($fitness->passesThroughItself());
        self::assertContains('rebuild', array_column($fitness->faults(), 'repair'));
        self::assertTrue($fitness->toArray()['crosses']);
    }

    public function test_what_only_touches_does_not(): void
    {
        $box = ShapeCatalogue::mesh('box', ['width' => 1, 'height' => 1, 'depth' => 1, 'segments' => 3]);
        // Face to face, and edge to edge.
        self::assertNull(SelfCrossing::of(self::both($box, $box->movedBy(new Vec3(1.0, 0.0, 0.0)))));
        self::assertNull(SelfCrossing::of(self::both($box, $box->movedBy(new Vec3(1.0, 1.0, 0.0)))));
        self::assertNotNull(SelfCrossing::of(self::both($box, $box->movedBy(new Vec3(0.43, 0.27, 0.11)))));
        // A large face among many small ones is looked at too.
        $sheet = new Mesh([-50, 50, 0], [0.31, 0.32, 0.33], [-50, -50, 50], [0, 1, 2]);
        self::assertNotNull(SelfCrossing::of(self::both($box, $sheet)));
        self::assertNull(SelfCrossing::of(self::both($box, $sheet->movedBy(new Vec3(0.0, 3.0, 0.0)))));
    }

    private static function both(Mesh $a, Mesh $b): Mesh
    {
        $n = count($a->x);

        return new Mesh(
            [...$a->x, ...$b->x],
            [...$a->y, ...$b->y],
            [...$a->z, ...$b->z],
            [...$a->faces, ...array_map(static fn (int $v): int => $v + $n, $b->faces)],
        );
    }
}
