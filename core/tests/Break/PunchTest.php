<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\JoinedShards;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Break\ShardFile;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

final class PunchTest extends TestCase
{
    public function test_bands_follow_each_other_outwards_round_the_hole(): void
    {
        $pieces = self::punched(
            Solids::shape('sheet', ['width' => 2.0, 'height' => 2.0]),
            ['radius' => 0.2, 'roughness' => 0.5, 'bands' => 3, 'band_width' => 0.08],
        );
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
                if (($plug->mesh->sides[intdiv($c, 3)] ?? 0) === 1) {
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

    /** Closed forms: what a box, a ball and a cylinder share with a box one metre across. */
    public function test_another_prop_takes_out_what_they_share(): void
    {
        $box = Solids::shape('box');
        $cases = [
            'box across a corner' => [Solids::shape('box', ['width' => 0.4, 'height' => 0.4, 'depth' => 0.4]), [0.31, 0.77, 0.02], 0.39 * 0.23 * 0.4, 1e-3],
            'box within' => [Solids::shape('box', ['width' => 0.4, 'height' => 0.4, 'depth' => 0.4]), [0.0, 0.3, 0.0], 0.4 ** 3, 1e-3],
            // Round ones are cut by flats that touch them, 0.04 m apart.
            'cylinder from above' => [Solids::shape('cylinder', ['radius' => 0.15, 'height' => 2.0]), [0.0, 0.3, 0.0], M_PI * 0.15 ** 2 * 0.7, 0.01],
            'half a ball' => [Solids::shape('ball', ['radius' => 0.25, 'detail' => 16]), [0.5, 0.25, 0.0], 2 / 3 * M_PI * 0.25 ** 3, 0.015],
        ];
        foreach ($cases as $name => [$tool, $place, $volume, $within]) {
            foreach ([[0.0, 1.0], [0.6, 4.0]] as [$roughness, $looser]) {
                $shards = BreakCatalogue::make(
                    'punch',
                    ['cutter' => 'prop', 'tool' => $tool->movedBy(Vec3::of($place)), 'roughness' => $roughness],
                )->break($box, new SilentProgress);
                $plug = array_sum(array_map(static fn (Shard $s): float => str_starts_with($s->name, 'shard-0001') ? $s->mass->volume : 0.0, $shards));
                self::assertEqualsWithDelta(1.0, $plug / $volume, $within * $looser + 0.02 * $roughness, $name.', roughness '.$roughness);
                self::assertEqualsWithDelta(1.0, array_sum(array_map(static fn (Shard $s): float => $s->mass->volume, $shards)), 1e-9);
            }
        }
    }

    public function test_a_prop_that_misses_or_swallows_is_refused(): void
    {
        foreach ([['misses', 0.2, [3.0, 0.0, 0.0]], ['swallows', 5.0, [0.0, -2.0, 0.0]]] as [$words, $size, $place]) {
            $tool = Solids::shape('box', ['width' => $size, 'height' => $size, 'depth' => $size])->movedBy(Vec3::of($place));
            try {
                BreakCatalogue::make('punch', ['cutter' => 'prop', 'tool' => $tool])->break(Solids::shape('box'), new SilentProgress);
                self::fail('it was punched');
            } catch (Problem $e) {
                self::assertStringContainsString($words, $e->getMessage());
                self::assertSame('tool', $e->path);
            }
        }
    }

    public function test_a_marked_rim_stays_on_as_surfaces_of_its_own_with_a_weight_that_falls_outwards(): void
    {
        $sheet = Solids::shape('sheet', ['width' => 2.0, 'height' => 2.0, 'thickness' => 0.02]);
        $values = ['radius' => 0.2, 'roughness' => 0.4, 'bands' => 3, 'band_width' => 0.06, 'rim' => 'marked'];
        $pieces = self::punched($sheet, $values);
        self::assertSame(['shard-0001', 'shard-0002'], array_keys($pieces));
        self::assertNull($pieces['shard-0001']->mesh->rim);
        $rest = $pieces['shard-0002']->mesh;
        // As pieces the same bands have the same area on both sides.
        $broken = self::punched($sheet, ['rim' => 'pieces'] + $values);
        $farthest = [];
        foreach ([3 => 0, 4 => 1, 5 => 2] as $piece => $band) {
            $own = self::area($broken['shard-000'.$piece]->mesh, Mesh::OUTER);
            self::assertEqualsWithDelta(1.0, self::area($rest, Mesh::RIM + $band) / $own, 1e-6);
        }
        foreach ($rest->faces as $c => $p) {
            $side = $rest->sides[intdiv($c, 3)];
            $weight = $rest->rim[$c] ?? -1.0;
            // Band k of three runs from a weight of 1 − k/3 down to 1 − (k + 1)/3; beyond them it is none.
            [$low, $high] = match ($side) {
                Mesh::OUTER => [0.0, 0.0],
                Mesh::INNER => [1.0, 1.0],
                default => [1.0 - ($side - Mesh::RIM + 1) / 3, 1.0 - ($side - Mesh::RIM) / 3],
            };
            if ($side !== Mesh::INNER || abs(abs($rest->z[$p]) - 0.01) < 1e-9) {
                self::assertGreaterThan($low - 1e-3, $weight);
                self::assertLessThan($high + 1e-3, $weight);
            }
            $farthest[$side] = max($farthest[$side] ?? 0.0, hypot($rest->x[$p], $rest->y[$p] - 1.0));
        }
        self::assertGreaterThan($farthest[Mesh::RIM], $farthest[Mesh::RIM + 1]);
        self::assertGreaterThan($farthest[Mesh::RIM + 1], $farthest[Mesh::RIM + 2]);
    }

    public function test_a_hole_that_is_not_through_marks_only_the_side_it_comes_from(): void
    {
        $rest = self::punched(
            Solids::shape('sheet', ['thickness' => 0.1]),
            ['radius' => 0.1, 'depth' => 0.03, 'bands' => 1, 'rim' => 'marked'],
        )['shard-0002']->mesh;
        foreach ($rest->faces as $c => $p) {
            if ($rest->sides[intdiv($c, 3)] === Mesh::RIM) {
                self::assertEqualsWithDelta(0.05, $rest->z[$p], 1e-9);
            }
            if ($rest->z[$p] < 0.0) {
                self::assertSame(0.0, $rest->rim[$c] ?? -1.0);
            }
        }
        self::assertContains(Mesh::RIM, $rest->sides ?? []);
    }

    public function test_a_marked_piece_keeps_its_rim_when_it_is_broken_again_and_joined(): void
    {
        $rest = self::punched(
            Solids::shape('sheet', ['width' => 2.0, 'height' => 2.0, 'thickness' => 0.02]),
            ['radius' => 0.2, 'bands' => 2, 'rim' => 'marked'],
        )['shard-0002'];
        $area = self::area($rest->mesh, Mesh::RIM + 1);
        foreach (['cells' => ['count' => 12], 'halving' => ['passes' => 2], 'flakes' => ['faces' => 40]] as $pattern => $values) {
            $pieces = ShardFile::decode(ShardFile::encode(BreakCatalogue::make($pattern, $values)->break($rest->mesh, new SilentProgress)));
            self::assertEqualsWithDelta(
                $area,
                array_sum(array_map(static fn (Shard $s): float => self::area($s->mesh, Mesh::RIM + 1), $pieces)),
                1e-6,
                $pattern,
            );
            self::assertEqualsWithDelta(1.0, max(array_map(static fn (Shard $s): float => max($s->mesh->rim ?? [0.0]), $pieces)), 1e-6, $pattern);
        }
        $joined = JoinedShards::of($pieces);
        self::assertEqualsWithDelta($area, self::area($joined->mesh, Mesh::RIM + 1), 1e-6);
    }

    private static function area(Mesh $m, int $side): float
    {
        $sum = 0.0;
        [$nx, $ny, $nz] = FaceNormals::perFace($m);
        foreach ($m->sides ?? [] as $f => $s) {
            $sum += $s === $side ? 0.5 * sqrt($nx[$f] ** 2 + $ny[$f] ** 2 + $nz[$f] ** 2) : 0.0;
        }

        return $sum;
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
