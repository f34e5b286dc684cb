<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Rims;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Tests\Solids;

/** Edges and corners of shapes that everyone knows. */
final class RimsTest extends TestCase
{
    public function test_a_sheet_ends_in_four_edges_between_four_corners(): void
    {
        $rims = Rims::of(Solids::shape('sheet', ['width' => 1.0, 'height' => 1.0, 'thickness' => 0.0, 'segments' => 10]));
        self::assertCount(4, $rims->corners);
        self::assertSame([11, 11, 11, 11], array_map(count(...), $rims->lines));
        self::assertSame([false], array_unique($rims->closed));
    }

    public function test_a_box_has_twelve_edges_and_eight_corners(): void
    {
        $rims = Rims::of(Solids::shape('box', ['segments' => 3]));
        self::assertCount(8, $rims->corners);
        self::assertCount(12, $rims->lines);
    }

    /** A can has two round edges and no corner; a ball none at all. */
    public function test_round_edges_come_round_to_where_they_began(): void
    {
        $can = Rims::of(Solids::shape('cylinder', ['segments' => 32]));
        self::assertSame([], $can->corners);
        self::assertSame([true, true], $can->closed);
        self::assertSame([32, 32], array_map(count(...), $can->lines));
        self::assertSame([], Rims::of(Solids::shape('ball', ['detail' => 8]))->lines);
    }

    public function test_the_middle_of_an_edge_finds_it_again(): void
    {
        $rims = Rims::of(Solids::shape('box', ['segments' => 4]));
        foreach ($rims->places()['lines'] as $k => $line) {
            self::assertSame($rims->lines[$k], $rims->line(Vec3::of($line['middle'])));
        }
        foreach ($rims->places()['corners'] as $k => $at) {
            self::assertSame($rims->corners[$k], $rims->point(Vec3::of($at)));
        }
    }
}
