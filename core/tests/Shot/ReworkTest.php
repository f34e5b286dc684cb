<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Shot\Rework;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Shot\Upgrade;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

final class ReworkTest extends TestCase
{
    public function test_a_piece_is_broken_again_and_the_others_stay_as_they_were(): void
    {
        $before = self::cells();
        $after = self::reworked([['pattern' => 'halving', 'values' => ['passes' => 3], 'pieces' => ['shard-0003']]]);
        self::assertCount(count($before) + 7, $after);
        $byName = array_combine(array_map(static fn (Shard $s): string => $s->name, $after), $after);
        foreach ($before as $shard) {
            if ($shard->name !== 'shard-0003') {
                self::assertEquals($shard->mesh, $byName[$shard->name]->mesh);
            }
        }
        self::assertArrayHasKey('shard-0003.1', $byName);
        $figures = BreakFigures::of($after);
        self::assertSame($figures['pieces'], $figures['watertight']);
        self::assertEqualsWithDelta(1.0, $figures['volume'], 1e-12);
    }

    public function test_what_was_inside_stays_inside_when_a_piece_is_broken_again(): void
    {
        $outer = static fn (array $shards): int => array_sum(array_map(
            static fn (Shard $s): int => count(array_keys($s->mesh->sides ?? [], 0, true)),
            $shards,
        ));
        // A box of 12 faces, cut through the middle of a piece that lies within: the outside gets no new faces.
        $inner = self::reworked(
            [['pattern' => 'tiles', 'values' => ['grid' => [3, 3, 3]], 'pieces' => null]],
            [['pattern' => 'tiles', 'values' => ['grid' => [3, 3, 3]]]],
        );
        self::assertCount(729, $inner);
        $area = 0.0;
        foreach ($inner as $s) {
            $f = BreakFigures::of([$s]);
            $area += $f['interior_area'];
        }
        // 27 boxes of a third, each in 27: all walls but the six outer sides.
        self::assertEqualsWithDelta(729 * 6 / 81 - 6, $area, 1e-9);
        self::assertGreaterThan(0, $outer($inner));
    }

    public function test_pieces_broken_again_break_each_its_own_way_but_always_the_same(): void
    {
        $step = [['pattern' => 'cells', 'values' => ['count' => 5], 'pieces' => ['shard-0001', 'shard-0002']]];
        $once = self::reworked($step);
        self::assertEquals($once, self::reworked($step));
    }

    public function test_lines_go_through_the_chosen_pieces_they_cross_and_leave_the_others(): void
    {
        // A row of four boxes, and a line across the second and the third at half their height.
        $row = BreakCatalogue::make('tiles', ['grid' => [4, 1, 1]])->break(Solids::shape('box', ['width' => 4.0]), new SilentProgress);
        usort($row, static fn (Shard $a, Shard $b): int => $a->mass->centroid->x <=> $b->mass->centroid->x);
        $names = array_map(static fn (Shard $s): string => $s->name, $row);
        $line = static fn (float $from, float $to): array => [
            'pattern' => 'score',
            'values' => [
                'axis' => [0, 0, 1],
                'reach' => 0,
                'lines' => ['unit' => 'm', 'lines' => [['points' => [[$from, 0.5], [$to, 0.5]], 'closed' => false]]],
            ],
        ];
        $cut = static fn (array $step, ?array $of): array => array_map(
            static fn (Shard $s): string => $s->name,
            Rework::apply($row, [$step + ['pieces' => $of]], new SilentProgress),
        );
        self::assertEqualsCanonicalizing(
            [$names[0], $names[1].'.1', $names[1].'.cut-1', $names[2].'.1', $names[2].'.cut-1', $names[3]],
            $cut($line(-1.02, 1.02), null),
        );
        self::assertEqualsCanonicalizing(
            [$names[0], $names[1], $names[2].'.1', $names[2].'.cut-1', $names[3]],
            $cut($line(-1.02, 1.02), [$names[2], $names[3]]),
            'only the chosen ones',
        );
        // A second line that goes through another piece stands in the way of neither.
        $both = $line(-1.02, 0.02);
        $both['values']['lines']['lines'][] = ['points' => [[0.98, 0.3], [2.02, 0.3]], 'closed' => false];
        self::assertEqualsCanonicalizing([$names[0], $names[1].'.1', $names[1].'.cut-1', $names[2], $names[3].'.1', $names[3].'.cut-2'], $cut($both, null));
        try {
            $cut($line(5.0, 6.0), null);
            self::fail('nothing was met');
        } catch (Problem $e) {
            self::assertStringStartsWith('rework[0].values.lines', $e->path);
        }
    }

    public function test_joined_neighbours_are_one_piece_without_a_wall_between(): void
    {
        $tiles = BreakCatalogue::make('tiles', ['grid' => [2, 1, 1]])->break(Solids::shape('box'), new SilentProgress);
        $names = array_map(static fn (Shard $s): string => $s->name, $tiles);
        [$whole] = Rework::apply($tiles, [['pattern' => 'join', 'values' => [], 'pieces' => $names]], new SilentProgress);
        self::assertSame($names[0], $whole->name);
        self::assertEqualsWithDelta(1.0, $whole->mass->volume, 1e-12);
        self::assertSame(0, array_sum($whole->mesh->sides ?? []));
    }

    public function test_several_are_joined_and_what_lies_between_in_the_list_stays(): void
    {
        $tiles = BreakCatalogue::make('tiles', ['grid' => [5, 1, 1]])->break(Solids::shape('box'), new SilentProgress);
        $names = array_map(static fn (Shard $s): string => $s->name, $tiles);
        $left = Rework::apply($tiles, [['pattern' => 'join', 'values' => [], 'pieces' => [$names[1], $names[2], $names[4]]]], new SilentProgress);
        self::assertSame([$names[0], $names[1], $names[3]], array_map(static fn (Shard $s): string => $s->name, $left));
        self::assertEqualsWithDelta([0.2, 0.6, 0.2], array_map(static fn (Shard $s): float => $s->mass->volume, $left), 1e-7);
    }

    public function test_pieces_are_taken_out_but_never_the_last(): void
    {
        $left = self::reworked([['pattern' => 'remove', 'values' => [], 'pieces' => ['shard-0001', 'shard-0002']]]);
        self::assertCount(6, $left);
        self::assertNotContains('shard-0001', array_map(static fn (Shard $s): string => $s->name, $left));
        try {
            self::reworked([['pattern' => 'remove', 'values' => [], 'pieces' => null]]);
            self::fail('nothing is left');
        } catch (Problem $e) {
            self::assertSame('rework[0]', $e->path);
        }
    }

    public function test_a_step_that_cannot_be_is_named_with_its_place(): void
    {
        try {
            ShotSpec::fromJson(Documents::json(static function (array $d): array {
                $d['props'][0]['break'] = ['pattern' => 'cells', 'values' => ['count' => 4]];
                $d['props'][0]['rework'] = [
                    ['pattern' => 'join', 'values' => new \stdClass, 'pieces' => null],
                    ['pattern' => 'halving', 'values' => ['passes' => 99], 'pieces' => ['shard-0001']],
                ];

                return $d;
            }));
            self::fail('it was taken');
        } catch (Problem $e) {
            self::assertSame('props[0].rework[1].values.passes', $e->path);
        }
    }

    public function test_a_document_of_the_first_version_is_brought_up_to_date(): void
    {
        $old = json_decode((string) file_get_contents(__DIR__.'/version-2/terracotta-jar.json'));
        $old->version = 1;
        $old->props[0]->repairs = ['weld', 'fill'];
        $old->props[0]->break = (object) ['pattern' => 'cells', 'values' => (object) ['count' => 9, 'strike' => [0.1, 0.2, 0.3]]];
        $new = Upgrade::of($old);
        self::assertSame(ShotSpec::VERSION, $new->version);
        self::assertSame(['weld', 'fill'], array_column($new->props[0]->prepare, 'step'));
        self::assertSame([[0.1, 0.2, 0.3]], $new->props[0]->break->values->cluster);
        self::assertFalse(property_exists($new->props[0], 'repairs'));
        self::assertSame(1, $old->version, 'the old one stays as it was');
        $spec = ShotSpec::fromObject($old);
        self::assertSame('weld', $spec->props[0]->prepare[0]['step']);
        self::assertSame($new, Upgrade::of($new));
    }

    /** @return list<Shard> */
    private static function cells(): array
    {
        return BreakCatalogue::make('cells', ['count' => 8, 'seed' => 4])->break(Solids::shape('box'), new SilentProgress);
    }

    /**
     * @param  list<array{pattern: string, values: array<string, mixed>, pieces: list<string>|null}>  $steps
     * @param  list<array{pattern: string, values: array<string, mixed>}>|null  $first
     * @return list<Shard>
     */
    private static function reworked(array $steps, ?array $first = null): array
    {
        $shards = $first === null
            ? self::cells()
            : BreakCatalogue::make($first[0]['pattern'], $first[0]['values'])->break(Solids::shape('box'), new SilentProgress);

        return Rework::apply($shards, $steps, new SilentProgress);
    }
}
