<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break\Cut;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cut\Piece;
use YardBreak\Core\Break\Cut\Sheet;
use YardBreak\Core\Break\Cut\SheetCutter;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Solids;

final class SheetCutterTest extends TestCase
{
    public function test_a_plane_divides_a_box_in_the_shares_it_should(): void
    {
        $cutter = self::cutter('box');
        [$behind, $before] = $cutter->split($cutter->whole(), new Sheet(new Vec3(1, 0, 0), new Vec3(0.2, 0, 0)));
        self::assertNotNull($behind);
        self::assertNotNull($before);
        // A unit cube about the origin: 0.7 lies behind x = 0.2.
        self::assertEqualsWithDelta(0.7, $cutter->volume($behind) / 6, 1e-12);
        self::assertEqualsWithDelta(0.3, $cutter->volume($before) / 6, 1e-12);
        [$low, $high] = $cutter->box($before);
        self::assertEqualsWithDelta([0.2, -0.5, -0.5], $low, 1e-12);
        self::assertEqualsWithDelta([0.5, 0.5, 0.5], $high, 1e-12);
    }

    public function test_what_a_sheet_misses_stays_whole(): void
    {
        $cutter = self::cutter('ball');
        $whole = $cutter->whole();
        self::assertSame([$whole, null], $cutter->split($whole, new Sheet(new Vec3(0, 1, 0), new Vec3(0, 0.9, 0))));
        self::assertSame([null, $whole], $cutter->split($whole, new Sheet(new Vec3(0, 1, 0), new Vec3(0, -0.9, 0))));
    }

    public function test_a_plane_through_a_point_of_the_mesh_is_refused_not_guessed(): void
    {
        $cutter = self::cutter('box');
        $this->expectException(\UnexpectedValueException::class);
        $cutter->split($cutter->whole(), new Sheet(new Vec3(1, 0, 0), new Vec3(0.5, 0, 0)));
    }

    public function test_both_halves_of_a_rough_cut_use_the_same_points_and_add_up(): void
    {
        foreach (['box', 'ball', 'ring'] as $shape) {
            $cutter = self::cutter($shape);
            $whole = $cutter->whole();
            [$behind, $before] = $cutter->split($whole, self::rough());
            self::assertNotNull($behind);
            self::assertNotNull($before);
            self::assertEqualsWithDelta($cutter->volume($whole), $cutter->volume($behind) + $cutter->volume($before), 1e-9, $shape);
            self::assertSame(self::wallOf($behind), self::turnedOver(self::wallOf($before)), $shape);
            self::assertSame([], self::openEdges($behind), $shape);
            self::assertSame([], self::openEdges($before), $shape);
        }
    }

    public function test_the_wall_of_a_rough_cut_lies_on_its_sheet(): void
    {
        $cutter = self::cutter('box');
        $sheet = self::rough();
        [$behind] = $cutter->split($cutter->whole(), $sheet);
        self::assertNotNull($behind);
        $cut = $cutter->cut([$behind]);
        $worst = 0.0;
        foreach ($cut->origins[0] as $f => $origin) {
            foreach ($origin < 0 ? [0, 1, 2] : [] as $k) {
                $p = $cut->faces[0][3 * $f + $k];
                $worst = max($worst, abs($sheet->from($cut->px[$p], $cut->py[$p], $cut->pz[$p])));
            }
        }
        self::assertLessThan(1e-6, $worst);
    }

    public function test_a_sheet_is_as_far_from_its_plane_as_it_says_at_most(): void
    {
        $sheet = self::rough();
        $random = new SeededRandom(6);
        for ($i = 0; $i < 5000; $i++) {
            self::assertLessThanOrEqual($sheet->reach(), abs($sheet->relief($random->between(-1, 1), $random->between(-1, 1))));
        }
        $bowed = new Sheet(new Vec3(0, 0, 1), Vec3::zero(), bow: 0.4);
        self::assertEqualsWithDelta(0.4 * 0.25, $bowed->relief(0.3, 0.4), 1e-12);
        self::assertFalse($bowed->isFlat());
    }

    public function test_points_on_edges_are_made_once_for_all_pieces_a_sheet_cuts(): void
    {
        $cutter = self::cutter('box');
        [$left, $right] = $cutter->split($cutter->whole(), new Sheet(new Vec3(1, 0, 0), new Vec3(0.01, 0, 0)));
        $sheet = new Sheet(new Vec3(0, 1, 0), new Vec3(0, 0.13, 0));
        self::assertNotNull($left);
        self::assertNotNull($right);
        [$a] = $cutter->split($left, $sheet);
        [$b] = $cutter->split($right, $sheet);
        self::assertNotNull($a);
        self::assertNotNull($b);
        // The two lower parts meet in the wall between them: at its upper corners, and where its own diagonal is met.
        $shared = array_intersect(array_unique($a->faces), array_unique($b->faces));
        self::assertGreaterThanOrEqual(4, count($shared));
    }

    private static function cutter(string $shape): SheetCutter
    {
        return new SheetCutter((new UnitFrame(Solids::shape($shape)))->unit);
    }

    private static function rough(): Sheet
    {
        return new Sheet((new Vec3(0.3, 1.0, 0.2))->unit(), new Vec3(0.013, 0.021, -0.017), 0.08, 0.5, 0.1, 0.1, new Noise(new SeededRandom(3)));
    }

    /** @return list<list<int>> */
    private static function wallOf(Piece $piece): array
    {
        $out = [];
        foreach ($piece->origins as $f => $origin) {
            if ($origin < 0) {
                $out[] = array_slice($piece->faces, 3 * $f, 3);
            }
        }

        return $out;
    }

    /**
     * @param  list<list<int>>  $faces
     * @return list<list<int>>
     */
    private static function turnedOver(array $faces): array
    {
        return array_map(static fn (array $f): array => [$f[0], $f[2], $f[1]], $faces);
    }

    /** @return list<string> edges without their reverse */
    private static function openEdges(Piece $piece): array
    {
        $edges = [];
        foreach (array_chunk($piece->faces, 3) as [$a, $b, $c]) {
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                $edges["$p $q"] = true;
            }
        }

        return array_values(array_filter(array_keys($edges), static fn (string $e): bool => ! isset($edges[implode(' ', array_reverse(explode(' ', $e)))])));
    }
}
