<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

final class PunchTest extends TestCase
{
    public function test_bands_follow_each_other_outwards_round_the_hole(): void
    {
        $pieces = self::punched(Solids::shape('sheet', ['width' => 2.0, 'height' => 2.0]), ['radius' => 0.2, 'roughness' => 0.5, 'bands' => 3, 'band_width' => 0.08]);
        self::assertSame(['shard-0001', 'shard-0002', 'shard-0003', 'shard-0004', 'shard-0005'], array_keys($pieces));
        $reach = static fn (Shard $s): float => max(array_map(static fn (float $x, float $y): float => hypot($x, $y - 1.0), $s->mesh->x, $s->mesh->y));
        $plug = $reach($pieces['shard-0001']);
        self::assertLessThan(0.45, $plug);
        foreach (['shard-0003', 'shard-0004', 'shard-0005'] as $band) {
            self::assertGreaterThan($plug, $reach($pieces[$band]));
            $plug = $reach($pieces[$band]);
        }
    }

    public function test_spalled_bands_are_as_deep_as_wanted_and_the_plug_goes_through(): void
    {
        $pieces = self::punched(Solids::shape('sheet', ['thickness' => 0.1]), ['radius' => 0.1, 'bands' => 1, 'band_depth' => 0.03]);
        $deep = static fn (Shard $s): float => max($s->mesh->z) - min($s->mesh->z);
        self::assertEqualsWithDelta(0.1, $deep($pieces['shard-0001']), 1e-6);
        self::assertEqualsWithDelta(0.03, $deep($pieces['shard-0003']), 1e-6);
        // It comes from the front unless told otherwise.
        self::assertEqualsWithDelta(0.05, max($pieces['shard-0003']->mesh->z), 1e-6);
        $behind = self::punched(Solids::shape('sheet', ['thickness' => 0.1]), ['radius' => 0.1, 'bands' => 1, 'band_depth' => 0.03, 'axis' => [0, 0, 1]]);
        self::assertEqualsWithDelta(-0.05, min($behind['shard-0003']->mesh->z), 1e-6);
    }

    public function test_depth_counts_from_where_the_punch_meets_the_surface(): void
    {
        // On a ball the pole lies 0.3 above the middle, elsewhere less.
        $ball = Solids::shape('ball', ['radius' => 0.3, 'detail' => 20]);
        $top = self::punched($ball, ['radius' => 0.05, 'roughness' => 0, 'depth' => 0.1, 'axis' => [0, -1, 0], 'point' => [0.0, 0.3, 0.0]])['shard-0001'];
        self::assertEqualsWithDelta(0.6 - 0.1, min($top->mesh->y), 2e-3);
        $side = self::punched($ball, ['radius' => 0.05, 'roughness' => 0, 'depth' => 0.1, 'axis' => [0, -1, 0], 'point' => [0.18, 0.3, 0.0]])['shard-0001'];
        self::assertEqualsWithDelta(0.3 + 0.24 - 0.1, min($side->mesh->y), 2e-3);
    }

    public function test_the_wall_is_torn_along_its_depth_and_the_torn_sides_fit(): void
    {
        $box = Solids::shape('box');
        $radii = static function (Shard $plug): array {
            $inner = [];
            foreach ($plug->mesh->faces as $c => $p) {
                if (($plug->mesh->interior[intdiv($c, 3)] ?? 0) === 1) {
                    $inner[$p] = hypot($plug->mesh->x[$p], $plug->mesh->y[$p] - 0.5);
                }
            }

            return [min($inner), max($inner)];
        };
        [$least, $most] = $radii(self::punched($box, ['radius' => 0.2, 'roughness' => 0])['shard-0001']);
        self::assertEqualsWithDelta($least, $most, 1e-6);
        $pieces = self::punched($box, ['radius' => 0.2, 'roughness' => 0.6]);
        [$least, $most] = $radii($pieces['shard-0001']);
        self::assertGreaterThan(0.05, $most - $least);
        self::assertEqualsWithDelta(1.0, $pieces['shard-0001']->mass->volume + $pieces['shard-0002']->mass->volume, 1e-9);
    }

    public function test_a_drawn_punch_has_the_form_it_was_drawn_with(): void
    {
        $square = ['lines' => [['points' => [[-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]], 'closed' => true]]];
        $plug = self::punched(Solids::shape('box'), ['cutter' => 'outline', 'outline' => $square, 'radius' => 0.2, 'roughness' => 0])['shard-0001'];
        // The plan is shifted by 1e-8 at random, times its length of 1.6.
        self::assertEqualsWithDelta(0.4 * 0.4, $plug->mass->volume, 2e-8);
    }

    public function test_a_ball_takes_out_about_its_volume_wherever_it_lies(): void
    {
        $inside = self::punched(Solids::shape('box'), ['cutter' => 'ball', 'radius' => 0.2, 'roughness' => 0, 'point' => [0.05, 0.5, 0.02]])['shard-0001'];
        // A body of 500 flat faces that touch the ball holds a little more than it.
        self::assertEqualsWithDelta(1.0, $inside->mass->volume / (4 / 3 * M_PI * 0.2 ** 3), 0.03);
        $half = self::punched(Solids::shape('box'), ['cutter' => 'ball', 'radius' => 0.2, 'roughness' => 0, 'point' => [0.0, 1.0, 0.0]])['shard-0001'];
        self::assertEqualsWithDelta(0.5, $half->mass->volume / (4 / 3 * M_PI * 0.2 ** 3), 0.03);
    }

    /**
     * @param  array<string, mixed>  $values
     * @return array<string, Shard>
     */
    private static function punched(Mesh $solid, array $values): array
    {
        $shards = BreakCatalogue::make('punch', $values)->break($solid, new SilentProgress);

        return array_combine(array_map(static fn (Shard $s): string => $s->name, $shards), $shards);
    }
}
