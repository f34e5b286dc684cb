<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\JoinedShards;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Break\ShardFile;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

/** What holds for every pattern. */
final class PatternsTest extends TestCase
{
    private const CROSS = ['unit' => 'box', 'lines' => [
        ['points' => [[-0.7, 0.02], [0.7, 0.05]], 'closed' => false],
        ['points' => [[0.03, -0.7], [0.01, 0.7]], 'closed' => false],
    ]];

    private const FRONT = ['source' => 'front', 'values' => ['point' => [0.013, 0.1, 0.0], 'direction' => [1.0, 0.3, 0.1], 'none' => 0.1]];

    /** @return array<string, array{string, array<string, mixed>}> */
    public static function patterns(): array
    {
        return [
            'cells, ragged' => ['cells', ['count' => 25, 'ragged' => 0.6, 'relief' => 0.5]],
            'cells in a crust' => ['cells', ['count' => 30, 'shell' => 0.01]],
            'cells with grain and clumps' => ['cells', ['count' => 30, 'grain' => [4.0, 0.5, 0.0], 'gather' => 0.4]],
            'cells along a line' => ['cells', ['count' => 30, 'cluster' => [[-0.1, 0.1, 0.0], [0.1, 0.3, 0.0]], 'crowding' => 'line', 'crowd' => 0.8]],
            'cells by weight' => ['cells', ['count' => 40, 'weight' => self::FRONT, 'crowd' => 0.9]],
            'halving, rough' => ['halving', ['passes' => 3, 'roughness' => 0.5]],
            'strike' => ['strike', ['rays' => 9, 'rings' => 4]],
            'courses' => ['courses', ['unit' => [0.11, 0.06, 0.07], 'joint' => 0.008]],
            'courses in thirds, aslant' => ['courses', ['unit' => [0.2, 0.1, 0.15], 'bond' => 'third', 'turn' => 17]],
            'courses without joints' => ['courses', ['joint' => 0, 'bond' => 'stack']],
            'tiles, crooked' => ['tiles', ['grid' => [3, 4, 2], 'jitter' => 1]],
            'flakes of one face' => ['flakes', ['faces' => 1, 'thickness' => 0.0008]],
            'flakes, ragged' => ['flakes', ['faces' => 20, 'thickness' => 0.0008, 'ragged' => 1]],
            'flakes of one face, split at a weight' => ['flakes', ['faces' => 1, 'thickness' => 0.0008, 'weight' => self::FRONT]],
            'flakes, split at a weight' => [
                'flakes',
                ['faces' => 20, 'thickness' => 0.0008, 'weight' => ['source' => 'stripes', 'values' => ['direction' => [1, 0.2, 0.1], 'spacing' => 0.07]]],
            ],
            'flakes, whole at a weight' => ['flakes', ['faces' => 5, 'thickness' => 0.0008, 'weight' => self::FRONT, 'edge' => 'whole']],
            'stencil' => ['stencil', ['columns' => 2, 'rows' => 2, 'scale' => 0.3, 'turn' => 30]],
            'score' => ['score', ['lines' => self::CROSS, 'roughness' => 0.5]],
            'punch with bands' => ['punch', ['radius' => 0.06, 'bands' => 2, 'band_depth' => 0.004, 'point' => [0.09, 0.12, 0.09]]],
            'punch by a ball' => ['punch', ['cutter' => 'ball', 'radius' => 0.05, 'point' => [0.1, 0.12, 0.09]]],
        ];
    }

    /** @param  array<string, mixed>  $values */
    #[DataProvider('patterns')]
    public function test_pieces_are_closed_and_fill_the_solid(string $pattern, array $values): void
    {
        foreach (Solids::closed() as $name => [$solid]) {
            $here = $values;
            if ($pattern === 'punch' && $name !== 'thin vase') {
                // The others have nothing where this one is punched, or are swallowed.
                $here['point'] = null;
                if ($name === 'ring' || ($name === 'ball in a ball' && isset($here['cutter']))) {
                    continue;
                }
            }
            $shards = self::broken($solid, $pattern, $here);
            $figures = BreakFigures::of($shards);
            self::assertGreaterThan(1, $figures['pieces'], $name);
            self::assertSame($figures['pieces'], $figures['watertight'], $name);
            self::assertEqualsWithDelta(1.0, $figures['volume'] / MassProperties::of($solid)->volume, 1e-9, $name);
        }
    }

    /** @param  array<string, mixed>  $values */
    #[DataProvider('patterns')]
    public function test_the_same_values_give_the_same_bytes(string $pattern, array $values): void
    {
        $solid = Solids::vase(24);
        self::assertSame(ShardFile::encode(self::broken($solid, $pattern, $values)), ShardFile::encode(self::broken($solid, $pattern, $values)));
    }

    /** @param  array<string, mixed>  $values */
    #[DataProvider('patterns')]
    public function test_the_outside_keeps_its_area_and_all_pieces_joined_are_the_solid_again(string $pattern, array $values): void
    {
        $solid = Solids::shape('ball', ['detail' => 8]);
        if ($pattern === 'punch') {
            $values['point'] = null;
        }
        $shards = self::broken($solid, $pattern, $values);
        $area = self::outerArea($solid);
        self::assertEqualsWithDelta($area, array_sum(array_map(static fn (Shard $s): float => self::outerArea($s->mesh), $shards)), 1e-9);
        $whole = JoinedShards::of($shards);
        self::assertEqualsWithDelta(1.0, $whole->mass->volume / MassProperties::of($solid)->volume, 1e-9);
        self::assertSame(1, BreakFigures::of([$whole])['watertight']);
        if ($pattern === 'halving') {
            // Later cuts divide the walls of earlier ones on one side only, so these stay within.
            return;
        }
        self::assertEqualsWithDelta($area, self::outerArea($whole->mesh), 1e-9);
        // Every inner wall met its reverse and went; a flake's core is all inner.
        self::assertSame(0, array_sum($whole->mesh->sides ?? []));
    }

    /** @return array<string, array{string, array<string, mixed>, string, string}> pattern, values, path and words */
    public static function refused(): array
    {
        return [
            'a strike beside the prop' => ['strike', ['point' => [9.0, 0.0, 0.0]], 'point', 'off the prop'],
            'too many rays' => ['strike', ['rays' => 200, 'rings' => 100], 'rays', 'at most'],
            'bricks like dust' => ['courses', ['unit' => [0.002, 0.002, 0.002], 'joint' => 0], 'unit', 'at most'],
            'half a tile' => ['tiles', ['grid' => [2.5, 1, 1]], 'grid', 'whole'],
            'too many tiles' => ['tiles', ['grid' => [100, 100, 100]], 'grid', 'at most'],
            'no tile' => ['tiles', ['grid' => [0, 1, 1]], 'grid', 'between 1 and'],
            'flakes thicker than the prop' => ['flakes', ['thickness' => 2.0], 'thickness', 'through the prop'],
            'flakes where no weight is' => ['flakes', ['weight' => ['source' => 'ball', 'values' => ['middle' => [5, 5, 5]]]], 'weight', 'nothing would flake'],
            'cells crowding where no weight is' => [
                'cells',
                ['weight' => ['source' => 'ball', 'values' => ['middle' => [5, 5, 5]]]],
                'weight',
                'nowhere to crowd',
            ],
            'a weight of no source' => ['cells', ['weight' => ['source' => 'moon']], 'weight.source', 'no source of weights'],
            'an open outline' => ['stencil', ['outline' => ['lines' => [['points' => [[0, 0], [1, 1]], 'closed' => false]]]], 'outline', 'no closed line'],
            'a stencil beside the prop' => ['stencil', ['across' => 30.0], 'outline', 'does not meet'],
            'a line outside the prop' => [
                'score',
                ['lines' => ['unit' => 'm', 'lines' => [['points' => [[5, 5], [6, 6]], 'closed' => false]]]],
                'lines.lines[0]',
                'outside the prop',
            ],
            'a line that parts nothing' => [
                'score',
                ['lines' => ['unit' => 'box', 'lines' => [['points' => [[-0.1, 0], [0.1, 0]], 'closed' => false]]]],
                'lines',
                'part nothing',
            ],
            'a drawing that is none' => ['score', ['lines' => ['lines' => [['points' => [[0, 'x'], [1, 1]]]]]], 'lines.lines[0].points[0]', 'two numbers'],
            'a punch beside the prop' => ['punch', ['point' => [9.0, 9.0, 9.0]], 'point', 'misses'],
            'a punch larger than the prop' => ['punch', ['radius' => 5.0], 'radius', 'whole prop'],
            'a punch without direction' => ['punch', ['axis' => [0, 0, 0]], 'axis', 'no length'],
        ];
    }

    /** @param  array<string, mixed>  $values */
    #[DataProvider('refused')]
    public function test_what_cannot_be_is_refused_with_its_place(string $pattern, array $values, string $path, string $words): void
    {
        try {
            self::broken(Solids::shape('box'), $pattern, $values);
            self::fail('it was broken');
        } catch (Problem $e) {
            self::assertStringContainsString($words, $e->getMessage());
            self::assertSame($path, $e->path);
            self::assertNotSame('', $e->remedy);
        }
    }

    public function test_scored_pieces_keep_their_names_when_lines_are_added_or_moved(): void
    {
        $sheet = Solids::shape('sheet', ['width' => 4.0, 'height' => 1.0, 'thickness' => 0.05]);
        $upright = static fn (float $at, string $name = '', float $foot = 0.0): array => [
            'points' => [[$at + $foot, -0.1], [$at, 1.1]],
            'closed' => false,
        ] + ($name === '' ? [] : ['name' => $name]);
        $named = static function (array ...$lines) use ($sheet): array {
            $out = [];
            foreach (self::broken($sheet, 'score', ['lines' => ['unit' => 'm', 'lines' => $lines]]) as $shard) {
                self::assertArrayNotHasKey($shard->name, $out);
                $out[$shard->name] = round($shard->mass->centroid->x, 3);
            }

            return $out;
        };
        // From −2 to 2: the larger part keeps the name of the whole.
        self::assertSame(['shard-0001' => 0.5, 'cut-1' => -1.5], self::sorted($named($upright(-1.0))));
        $two = $named($upright(-1.0), $upright(1.2));
        self::assertSame(['shard-0001' => 0.1, 'cut-1' => -1.5, 'cut-2' => 1.6], self::sorted($two));
        // A third line drawn across the left piece alone leaves the names of the others as they are.
        $level = ['points' => [[-2.1, 0.3], [-0.99, 0.3]], 'closed' => false];
        $three = $named($upright(-1.0), $upright(1.2), $level);
        self::assertSame(['shard-0001', 'cut-1', 'cut-2', 'cut-3'], array_keys(self::sorted($three)));
        self::assertSame([0.1, 1.6], [$three['shard-0001'], $three['cut-2']]);
        // Moving a point changes the two beside it and renames none.
        self::assertSame(array_keys(self::sorted($two)), array_keys(self::sorted($named($upright(-1.0, '', 0.2), $upright(1.2)))));
        // Lines with names of their own keep them when one before them goes.
        self::assertArrayHasKey('cut-b', $named($upright(-1.0, 'a'), $upright(1.2, 'b')));
        self::assertSame(['shard-0001', 'cut-b'], array_keys(self::sorted($named($upright(1.2, 'b')))));
        // One line across two pieces cuts off one of each.
        self::assertSame(
            ['shard-0001', 'cut-1', 'cut-2', 'cut-2-2'],
            array_keys(self::sorted($named($upright(-1.0), ['points' => [[-2.1, 0.3], [2.1, 0.3]], 'closed' => false]))),
        );
    }

    /**
     * @param  array<string, float>  $named
     * @return array<string, float> the whole first, then by line
     */
    private static function sorted(array $named): array
    {
        uksort($named, static fn (string $a, string $b): int => [$a[0] === 's' ? 0 : 1, $a] <=> [$b[0] === 's' ? 0 : 1, $b]);

        return $named;
    }

    public function test_open_ends_are_carried_on_until_they_meet(): void
    {
        $lines = static fn (float $end): array => [
            'lines' => ['unit' => 'box', 'lines' => [['points' => [[-0.49, 0.0], [$end, 0.0]], 'closed' => false]]],
            'reach' => 0.02,
        ];
        self::assertCount(2, self::broken(Solids::shape('box'), 'score', $lines(0.49)));
        $this->expectException(Problem::class);
        self::broken(Solids::shape('box'), 'score', $lines(0.4));
    }

    public function test_a_strike_leaves_what_is_far_in_one_piece(): void
    {
        $shards = self::broken(
            Solids::shape('sheet', ['width' => 4.0, 'height' => 4.0]),
            'strike',
            ['radius' => 0.5, 'jitter' => 0, 'rays' => 12, 'rings' => 5],
        );
        self::assertCount(12 * 5 + 1, $shards);
        $largest = max(array_map(static fn (Shard $s): float => $s->mass->volume, $shards));
        // A 12-gon of radius ½ is broken out of 4 by 4 metres of 6 mm.
        self::assertEqualsWithDelta((16 - 6 * sin(M_PI / 6) * 0.25) * 0.006, $largest, 1e-6);
    }

    public function test_a_punch_gives_the_plug_the_hole_or_both_and_is_as_deep_as_wanted(): void
    {
        $box = Solids::shape('box');
        $volume = static fn (array $values): float => array_sum(array_map(
            static fn (Shard $s): float => $s->mass->volume,
            self::broken($box, 'punch', ['roughness' => 0, 'radius' => 0.25, ...$values]),
        ));
        // A regular polygon of 160 sides, as deep as the box or as wanted.
        $disc = 80 * sin(2 * M_PI / 160) * 0.0625;
        self::assertEqualsWithDelta($disc, $volume(['keep' => 'plug']), 1e-6);
        self::assertEqualsWithDelta(1 - $disc, $volume(['keep' => 'hole']), 1e-6);
        self::assertEqualsWithDelta(0.2 * $disc, $volume(['keep' => 'plug', 'depth' => 0.2]), 1e-6);
        self::assertEqualsWithDelta(1.0, $volume(['keep' => 'both', 'depth' => 0.2]), 1e-9);
    }

    public function test_rougher_punches_have_longer_edges(): void
    {
        $around = static fn (float $roughness): float => BreakFigures::of(self::broken(
            Solids::shape('sheet'),
            'punch',
            ['roughness' => $roughness],
        ))['interior_area'];
        self::assertGreaterThan(1.1 * $around(0.0), $around(0.5));
        self::assertGreaterThan($around(0.5), $around(1.0));
    }

    /**
     * @param  array<string, mixed>  $values
     * @return list<Shard>
     */
    private static function broken(Mesh $solid, string $pattern, array $values): array
    {
        return BreakCatalogue::make($pattern, $values)->break($solid, new SilentProgress);
    }

    private static function outerArea(Mesh $mesh): float
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($mesh);
        $sum = 0.0;
        foreach ($nx as $f => $v) {
            $sum += ($mesh->sides[$f] ?? 0) === 1 ? 0.0 : 0.5 * sqrt($v * $v + $ny[$f] ** 2 + $nz[$f] ** 2);
        }

        return $sum;
    }

    /** Joints in the very planes in which edges of the solid's faces lie, and bricks that end at its sides. */
    public function test_bricks_that_fall_in_with_the_faces_of_a_block_are_cut_all_the_same(): void
    {
        $block = Solids::shape('box', ['width' => 1.0, 'height' => 1.0, 'depth' => 0.6, 'segments' => 4]);
        $shards = BreakCatalogue::make(
            'courses',
            ['unit' => [1 / 8 - 1 / 180, 1 / 24 - 1 / 180, 1 / 16 - 1 / 180], 'joint' => 1 / 180],
        )->break($block, new SilentProgress);
        $volume = 0.0;
        foreach ($shards as $shard) {
            self::assertTrue(Fitness::of($shard->mesh)->canBreak(), $shard->name);
            $volume += $shard->mass->volume;
        }
        self::assertEqualsWithDelta(0.6, $volume, 1e-12);
        // Eight bricks a course, in every other nine; 24 courses; nine and a part deep, and the mortar.
        self::assertGreaterThan(24 * 8 * 9, count($shards));
    }
}
