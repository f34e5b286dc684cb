<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\SilentProgress;

/** Thin and bowed pieces come to rest, and nothing gives them energy but gravity. */
final class RubbleTest extends TestCase
{
    /** Outside and inside of a vase with a wall of 8 mm. */
    private const VASE = [
        [0, 0], [0.07, 0], [0.11, 0.05], [0.13, 0.13], [0.12, 0.22], [0.08, 0.3], [0.07, 0.35], [0.09, 0.4],
        [0.082, 0.4], [0.062, 0.352], [0.072, 0.298], [0.112, 0.218], [0.122, 0.13], [0.103, 0.055], [0.065, 0.008], [0, 0.008],
    ];

    private const DENSITY = 1900.0;

    private const GRAVITY = 9.80665;

    /** A bowed shard lies on its belly or on its rim; either way it comes to rest. */
    public function test_every_single_shard_dropped_comes_to_rest(): void
    {
        $w = self::world();
        $solids = [];
        foreach (Solid::free(array_slice(self::shards(60, 1), 0, 50)) as $k => $solid) {
            $solids[] = $solid;
            $lowest = min(array_map(static fn ($h): float => min($h->y), $solid->hulls));
            self::add($w, $solid, new Vec3($k % 10 * 0.4, 0.005 - $lowest, intdiv($k, 10) * 0.4), Quaternion::identity(), 100 + $k);
        }
        self::measure($w, $solids);
        for ($f = 0; $f < 96; $f++) {
            $w->step(1 / 24, 2, 6);
        }
        self::assertSame([], array_keys(array_filter($w->state, static fn (int $s): bool => $s !== World::RESTING)), 'still moving after 4 s');
    }

    /** @return array<string, array{int}> */
    public static function seeds(): array
    {
        return ['one seed' => [2], 'another' => [5]];
    }

    #[DataProvider('seeds')]
    public function test_a_vase_that_falls_to_pieces_lies_still(int $seed): void
    {
        $w = self::world();
        $shards = self::shards(110, $seed);
        $turn = Quaternion::aboutAxis(new Vec3(0.4, 0, 0.9166), 0.3);
        $lowest = INF;
        foreach ($shards as $s) {
            foreach ($s->mesh->x as $i => $x) {
                $lowest = min($lowest, $turn->turn(new Vec3($x, $s->mesh->y[$i], $s->mesh->z[$i]))->y);
            }
        }
        $solids = Solid::free($shards);
        foreach ($solids as $solid) {
            // As it is after a fall of 0.4 m.
            self::add($w, $solid, $turn->turn($solid->centre)->plus(new Vec3(0, 0.001 - $lowest, 0)), $turn, 1, -sqrt(2 * self::GRAVITY * 0.4));
        }
        self::measure($w, $solids);
        $w->forgiveOverlaps();
        $energy = static fn (): float => $w->energy() + self::GRAVITY * array_sum(array_map(static fn (float $m, float $y): float => $m * $y, $w->mass, $w->py));
        $first = $last = $energy();
        $gained = 0.0;
        for ($f = 0; $f < 72; $f++) {
            $w->step(1 / 24, 2, 6);
            $gained += max(0.0, $energy() - $last);
            $last = $energy();
        }
        $moving = array_filter($w->state, static fn (int $s): bool => $s !== World::RESTING);
        self::assertLessThanOrEqual(0.01 * count($shards), count($moving), 'at rest 3 s after the hit');
        self::assertLessThan(0.01 * $first, $gained, 'J that came from nothing');
        foreach (array_keys($moving) as $b) {
            self::assertLessThan(0.05, sqrt($w->vx[$b] ** 2 + $w->vy[$b] ** 2 + $w->vz[$b] ** 2));
        }
    }

    /** @return list<Shard> */
    private static function shards(int $count, int $seed): array
    {
        $mesh = ShapeCatalogue::mesh('lathe', ['profile' => self::VASE, 'segments' => 40, 'rounding' => 1]);

        return (new Cells($count, $seed))->break($mesh->withNormals(FaceNormals::flat($mesh)), new SilentProgress);
    }

    private static function world(): World
    {
        $w = new World;
        $w->groundBounce = 0.05;
        $w->groundFriction = 0.7;

        return $w;
    }

    private static function add(World $w, Solid $solid, Vec3 $at, Quaternion $turn, int $group, float $speed = 0.0): void
    {
        $body = $w->addBody(
            World::STILL,
            $at,
            $turn,
            $solid->mass->volume * self::DENSITY,
            array_map(static fn (float $v): float => $v * self::DENSITY, $solid->mass->inertia),
        );
        foreach ($solid->hulls as $hull) {
            $w->addCollider($body, $hull, Vec3::zero(), 0.6, 0.1, $group);
        }
        $w->release($body, new Vec3(0, $speed, 0), Vec3::zero());
    }

    /** @param  list<Solid>  $solids */
    private static function measure(World $w, array $solids): void
    {
        $w->measure(array_merge(...array_map(static fn (Solid $s): array => $s->hulls, $solids)));
    }
}
