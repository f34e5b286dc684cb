<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Check\Overlaps;
use YardBreak\Core\Collide\FlatGround;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\SilentProgress;

final class OverlapsTest extends TestCase
{
    /** Two slabs of 20 mm, one 3 mm deep in the other: by form 3 mm, and 3/20 of the slab, which twice volume over area says a little less of. */
    public function test_two_slabs_that_lie_in_each_other_say_how_deep_and_where(): void
    {
        $slab = self::shard('slab', self::box(0.4, 0.02, 0.3));
        $found = Overlaps::of(
            [$slab, $slab],
            [self::at(0.0, 0.5, 0.0, Pose::RESTING), self::at(0.05, 0.517, 0.02, Pose::RESTING)],
            [0, 1],
            FlatGround::of([]),
        );
        self::assertCount(2, $found);
        self::assertEqualsWithDelta(0.003, $found[0]['depth'], 1e-6);
        self::assertEqualsWithDelta(0.003 / $slab->thickness(), $found[0]['share'], 1e-4);
        self::assertSame([0, 1], self::sorted([$found[0]['piece'], $found[0]['other']]));
        self::assertEqualsWithDelta(0.5085, $found[0]['at'][1], 0.0016);
    }

    public function test_a_slab_in_the_ground_lies_in_it_by_its_lowest_corner(): void
    {
        $slab = self::shard('slab', self::box(0.4, 0.02, 0.3));
        $tilt = Quaternion::aboutAxis(new Vec3(0.0, 0.0, 1.0), 0.1);
        // By form: half the length and half the thickness, seen from the side.
        $low = 0.2 * sin(0.1) + 0.01 * cos(0.1);
        $found = Overlaps::of([$slab], [new Pose(new Vec3(0.0, $low - 0.004, 0.0), $tilt, 1.0, Pose::RESTING)], [0], FlatGround::of([]));
        self::assertEqualsWithDelta(0.004, $found[0]['depth'], 1e-9);
        self::assertNull($found[0]['other']);
        self::assertEqualsWithDelta(-0.004, $found[0]['at'][1], 1e-9);
    }

    /** A pin through the hole of a ring lies in its hull, but not in the ring. */
    public function test_what_stands_in_a_hole_lies_in_nothing(): void
    {
        $ring = self::shard('ring', ShapeCatalogue::mesh('ring', ['segments' => 48, 'rows' => 16]));
        $pin = self::shard('pin', self::box(0.02, 0.3, 0.02));
        foreach ([[Pose::RESTING, Pose::RESTING], [Pose::HELD, Pose::RESTING]] as [$one, $other]) {
            $found = Overlaps::of([$ring, $pin], [self::at(0.0, 1.0, 0.0, $one), self::at(0.0, 1.0, 0.0, $other)], [0, 1], null);
            self::assertSame(0.0, $found[0]['depth']);
        }
    }

    public function test_pieces_that_lie_as_they_broke_do_not_overlap_and_pushed_together_they_do(): void
    {
        $mesh = self::box(0.2, 0.2, 0.2);
        $shards = (new Cells(12, 3))->break(FaceNormals::shaded($mesh), new SilentProgress);
        $turn = Quaternion::aboutAxis(new Vec3(0.3, 1.0, -0.2), 0.7);
        $still = static fn (Shard $s, float $squeezed): Pose => new Pose($turn->turn($s->centre()->times($squeezed))->plus(new Vec3(0.0, 2.0, 0.0)), $turn, 1.0, Pose::MOVING);
        $props = array_fill(0, count($shards), 0);
        $found = Overlaps::of($shards, array_map(static fn (Shard $s): Pose => $still($s, 1.0), $shards), $props, FlatGround::of([]));
        self::assertLessThan(1e-6, $found[0]['depth']);
        $found = Overlaps::of($shards, array_map(static fn (Shard $s): Pose => $still($s, 0.97), $shards), $props, FlatGround::of([]));
        // Middles some 8 cm apart come together by 3 %.
        self::assertGreaterThan(0.0005, $found[0]['depth']);
        self::assertLessThan(0.006, $found[0]['depth']);
        self::assertGreaterThan(0.0, Overlaps::percentile($found, 0.5));
        self::assertGreaterThanOrEqual(Overlaps::percentile($found, 0.5), Overlaps::percentile($found, 0.95));
        self::assertGreaterThanOrEqual(Overlaps::percentile($found, 0.95), $found[0]['share']);
    }

    public function test_what_is_held_is_not_told_of_alone(): void
    {
        $slab = self::shard('slab', self::box(0.4, 0.02, 0.3));
        self::assertSame([], Overlaps::of([$slab, $slab], [self::at(0.0, 0.0, 0.0, Pose::HELD), self::at(0.0, 0.005, 0.0, Pose::HELD)], [0, 1], FlatGround::of([])));
        self::assertSame(0.0, Overlaps::percentile([], 0.95));
    }

    private static function box(float $x, float $y, float $z): Mesh
    {
        $mesh = ShapeCatalogue::mesh('box', ['width' => $x, 'height' => $y, 'depth' => $z]);

        return $mesh->movedBy(MassProperties::of($mesh)->centroid->times(-1.0));
    }

    private static function shard(string $name, Mesh $mesh): Shard
    {
        return new Shard($name, $mesh->movedBy(MassProperties::of($mesh)->centroid->times(-1.0)), MassProperties::of($mesh->movedBy(MassProperties::of($mesh)->centroid->times(-1.0))));
    }

    /** @param  Pose::HELD|Pose::MOVING|Pose::RESTING  $state */
    private static function at(float $x, float $y, float $z, int $state): Pose
    {
        return new Pose(new Vec3($x, $y, $z), Quaternion::identity(), 1.0, $state);
    }

    /**
     * @param  list<int|null>  $numbers
     * @return list<int|null>
     */
    private static function sorted(array $numbers): array
    {
        sort($numbers);

        return $numbers;
    }
}
