<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shape;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\Lathe;
use YardBreak\Core\Shape\Repair;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Tests\Solids;

final class ShapesTest extends TestCase
{
    /** @return array<string, array{string}> */
    public static function names(): array
    {
        return array_combine(array_keys(ShapeCatalogue::SHAPES), array_map(static fn (string $n): array => [$n], array_keys(ShapeCatalogue::SHAPES)));
    }

    #[DataProvider('names')]
    public function test_every_shape_is_a_closed_solid_that_stands_on_the_ground(string $name): void
    {
        $values = $name === 'lathe' ? ['profile' => [[0, 0], [0.3, 0], [0.2, 0.5], [0, 0.5]]] : [];
        $mesh = ShapeCatalogue::mesh($name, $values);
        $fitness = Fitness::of($mesh);
        self::assertTrue($fitness->canBreak());
        self::assertSame([0, 0, 0], [$fitness->doubledFaces, $fitness->zeroAreaFaces, $fitness->loosePoints]);
        // Four letters.
        self::assertSame($name === 'text' ? 4 : 1, $fitness->parts);
        self::assertEqualsWithDelta(0.0, min($mesh->y), 0.01);
        // The faces round a swept bar are not turned alike at both ends.
        self::assertEqualsWithDelta(0.0, min($mesh->x) + max($mesh->x), $name === 'sweep' ? 1e-4 : 1e-9);
    }

    /** A ball's normal points from its middle, a ring's from the middle of its tube, whichever way the profile runs. */
    public function test_turned_shapes_are_shaded_as_the_curve_they_stand_for(): void
    {
        $arc = array_map(
            static fn (int $k): array => $k === 0 || $k === 12 ? [0.0, $k === 0 ? -2.0 : 2.0] : [2.0 * sin(M_PI * $k / 12), -2.0 * cos(M_PI * $k / 12)],
            range(0, 12),
        );
        foreach ([$arc, array_reverse($arc)] as $profile) {
            $ball = Lathe::turned($profile, 16);
            foreach ($ball->faces as $c => $v) {
                foreach ([$ball->x, $ball->y, $ball->z] as $a => $axis) {
                    self::assertEqualsWithDelta($axis[$v] / 2.0, $ball->normals[3 * $c + $a] ?? null, 1e-12);
                }
            }
        }
        $ring = ShapeCatalogue::mesh('ring', ['radius' => 0.5, 'tube' => 0.2, 'rows' => 9, 'segments' => 20]);
        foreach ($ring->faces as $c => $v) {
            $r = hypot($ring->x[$v], $ring->z[$v]);
            $expected = [$ring->x[$v] / $r * ($r - 0.5) / 0.2, ($ring->y[$v] - 0.2) / 0.2, $ring->z[$v] / $r * ($r - 0.5) / 0.2];
            for ($a = 0; $a < 3; $a++) {
                self::assertEqualsWithDelta($expected[$a], $ring->normals[3 * $c + $a] ?? null, 1e-12);
            }
        }
    }

    public function test_a_cylinder_keeps_the_crease_round_its_ends(): void
    {
        $mesh = ShapeCatalogue::mesh('cylinder', ['segments' => 24, 'rows' => 3]);
        $kinds = [];
        for ($c = 0, $n = count($mesh->faces); $c < $n; $c++) {
            $kinds[(string) round(abs($mesh->normals[3 * $c + 1] ?? 2.0), 9)] = true;
        }
        ksort($kinds);
        self::assertSame(['0', '1'], array_map(strval(...), array_keys($kinds)), 'flat ends, upright sides, nothing between');
    }

    /** Closed forms: section times length. */
    public function test_beams_have_the_volume_of_their_section(): void
    {
        $volume = static fn (array $values): float => MassProperties::of(ShapeCatalogue::mesh(
            'beam',
            ['length' => 3.0, 'height' => 0.15, 'width' => 0.075, ...$values],
        ))->volume;
        self::assertEqualsWithDelta(3.0 * 0.15 * 0.075, $volume([]), 1e-9);
        // Parts a fifth of the smaller side thick: 15 mm.
        self::assertEqualsWithDelta(3.0 * (2 * 0.075 * 0.015 + 0.12 * 0.015), $volume(['section' => 'I']), 1e-9);
        self::assertEqualsWithDelta(3.0 * (0.075 + 0.135) * 0.015, $volume(['section' => 'L']), 1e-9);
        self::assertEqualsWithDelta(3.0 * (0.075 + 0.135) * 0.015, $volume(['section' => 'T']), 1e-9);
        self::assertEqualsWithDelta(3.0 * M_PI / 4 * 0.15 * 0.075, $volume(['section' => 'round']), 0.01 * 0.03);
    }

    public function test_a_straight_sweep_is_a_cylinder_and_a_tapered_one_a_truncated_cone(): void
    {
        $mesh = static fn (float $taper): Mesh => ShapeCatalogue::mesh(
            'sweep',
            ['path' => [[0, 0, 0], [0, 1, 0]], 'radius' => 0.2, 'taper' => $taper, 'segments' => 200, 'rounding' => 20],
        );
        $round = 100 * sin(2 * M_PI / 200) * 0.04;
        self::assertEqualsWithDelta($round, MassProperties::of($mesh(1.0))->volume, 1e-9);
        self::assertEqualsWithDelta($round / 3 * (1 + 0.5 + 0.25), MassProperties::of($mesh(0.5))->volume, 1e-6);
    }

    public function test_outlines_become_slabs_and_outlines_within_them_holes(): void
    {
        $square = static fn (float $h): array => ['points' => [[-$h, -$h], [$h, -$h], [$h, $h], [-$h, $h]], 'closed' => true];
        $volume = static fn (array $lines): float => MassProperties::of(ShapeCatalogue::mesh(
            'outline',
            ['outline' => ['lines' => $lines], 'size' => 2.0, 'depth' => 0.1],
        ))->volume;
        self::assertEqualsWithDelta(2 * 2 * 0.1, $volume([$square(0.5)]), 1e-12);
        self::assertEqualsWithDelta((4 - 1) * 0.1, $volume([$square(0.5), $square(0.25)]), 1e-12);
        self::assertEqualsWithDelta((4 - 1 + 0.16) * 0.1, $volume([$square(0.5), $square(0.25), $square(0.1)]), 1e-12);
        // Two that touch in a corner stay solid.
        $touching = ShapeCatalogue::mesh(
            'outline',
            ['outline' => ['lines' => [
                ['points' => [[-0.5, -0.5], [0, -0.5], [0, 0], [-0.5, 0]], 'closed' => true],
                ['points' => [[0, 0], [0.5, 0], [0.5, 0.5], [0, 0.5]], 'closed' => true],
            ]]],
        );
        self::assertTrue(Fitness::of($touching)->canBreak());
    }

    /** @return array<string, array{string, array<string, mixed>, string, string}> */
    public static function refusedShapes(): array
    {
        return [
            'an outline that crosses itself' => [
                'outline',
                ['outline' => ['lines' => [['points' => [[0, 0], [1, 1], [1, 0], [0, 1]], 'closed' => true]]]],
                'outline',
                'crosses itself near 0.500, 0.500',
            ],
            'an open outline' => [
                'outline',
                ['outline' => ['lines' => [['points' => [[0, 0], [1, 0], [1, 1]], 'closed' => false]]]],
                'outline',
                'no closed line',
            ],
            'letters no font has' => ['text', ['text' => 'Farn 羊歯'], 'text', 'no letter for "羊 歯"'],
            'blanks only' => ['text', ['text' => '   '], 'text', 'no letter'],
            'a font that does not come along' => ['text', ['font' => 'Comic'], 'font', 'must be one of'],
            'a path of one place' => ['sweep', ['path' => [[0, 0, 0], [0, 0, 0]]], 'path', 'two different points'],
        ];
    }

    /** @param  array<string, mixed>  $values */
    #[DataProvider('refusedShapes')]
    public function test_what_cannot_be_built_is_refused_with_its_place(string $shape, array $values, string $path, string $words): void
    {
        try {
            ShapeCatalogue::mesh($shape, $values);
            self::fail('it was built');
        } catch (Problem $e) {
            self::assertStringContainsString($words, $e->getMessage());
            self::assertSame($path, $e->path);
        }
    }

    public function test_capitals_are_as_high_as_wanted_and_accents_stand_above_them(): void
    {
        $high = static fn (string $text, string $font): float => max(ShapeCatalogue::mesh('text', ['text' => $text, 'height' => 0.5, 'font' => $font])->y);
        foreach (['Archivo', 'Archivo heavy', 'Plex Mono'] as $font) {
            self::assertEqualsWithDelta(0.5, $high('H', $font), 1e-6);
            self::assertGreaterThan(0.55, $high('É', $font));
        }
        self::assertSame(5, Fitness::of(ShapeCatalogue::mesh('text', ['text' => 'éàB']))->parts);
    }

    public function test_a_ball_has_even_triangles_and_no_poles(): void
    {
        $f = Fitness::of(ShapeCatalogue::mesh('ball', ['detail' => 12]));
        self::assertSame(20 * 12 * 12, $f->faces);
        self::assertLessThan(1.9, $f->longestEdge / $f->shortestEdge);
    }

    public function test_a_rounded_profile_passes_through_its_points_and_keeps_within_reach(): void
    {
        $profile = [[0.0, 0.0], [0.2, 0.0], [0.3, 0.3], [0.1, 0.5], [0.0, 0.52]];
        $round = Lathe::rounded($profile, 3);
        self::assertCount(4 * 4 + 1, $round);
        foreach ($profile as $k => $p) {
            self::assertEqualsWithDelta($p, $round[4 * $k], 1e-12);
        }
        foreach ($round as [$r, $h]) {
            self::assertTrue($r >= 0.0 && $r < 0.36 && $h > -0.06 && $h < 0.56);
        }
    }

    /** @return array<string, array{string, array<string, mixed>, string}> */
    public static function wrongValues(): array
    {
        return [
            'unknown shape' => ['teapot', [], 'no shape called'],
            'too small' => ['box', ['width' => 0], 'Width is 0'],
            'text' => ['box', ['width' => 'wide'], 'must be a number'],
            'half a segment' => ['cone', ['segments' => 12.5], 'whole number'],
            'unknown setting' => ['ball', ['colour' => 3], 'no setting called'],
            'tube too thick' => ['ring', ['tube' => 0.5], 'thicker than the ring'],
            'no profile' => ['lathe', ['profile' => [[0, 0], [1, 1]]], 'at least three'],
            'flat profile' => ['lathe', ['profile' => [[0, 0], [1, 0], [2, 0], [0, 0]]], 'no volume'],
            'not finite' => ['box', ['height' => NAN], 'must be a number'],
        ];
    }

    /** @param  array<string, mixed>  $values */
    #[DataProvider('wrongValues')]
    public function test_wrong_values_are_refused_in_words(string $shape, array $values, string $words): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessageMatches('/'.preg_quote($words, '/').'/');
        ShapeCatalogue::mesh($shape, $values);
    }

    public function test_repairs_mend_what_the_report_finds(): void
    {
        $whole = Solids::shape('box', ['segments' => 3]);
        $volume = MassProperties::of($whole)->volume;

        // Every face with corners of its own.
        $x = $y = $z = $faces = [];
        foreach ($whole->faces as $k => $v) {
            $x[] = $whole->x[$v] + 1e-9 * ($k % 3);
            $y[] = $whole->y[$v];
            $z[] = $whole->z[$v];
            $faces[] = $k;
        }
        $loose = new Mesh($x, $y, $z, $faces);
        self::assertSame($whole->faceCount(), Fitness::of($loose)->parts);
        self::assertTrue(Fitness::of(Repair::weld($loose))->canBreak());

        // Every third face turned over.
        $turned = $whole->faces;
        for ($f = 0; $f < $whole->faceCount(); $f += 3) {
            [$turned[3 * $f], $turned[3 * $f + 1]] = [$turned[3 * $f + 1], $turned[3 * $f]];
        }
        $mixed = new Mesh($whole->x, $whole->y, $whole->z, $turned);
        self::assertFalse(Fitness::of($mixed)->oriented);
        self::assertEqualsWithDelta($volume, MassProperties::of(Repair::orient($mixed))->volume, 1e-12);

        // Inside out.
        $inverted = new Mesh($whole->x, $whole->y, $whole->z, array_merge(...array_map(array_reverse(...), array_chunk($whole->faces, 3))));
        self::assertTrue(Fitness::of($inverted)->insideOut);
        self::assertTrue(Fitness::of(Repair::orient($inverted))->canBreak());

        // A hole on a flat side is filled flat.
        $open = new Mesh($whole->x, $whole->y, $whole->z, array_slice($whole->faces, 6));
        self::assertSame(4, Fitness::of($open)->boundaryEdges);
        $filled = Repair::fill($open);
        self::assertTrue(Fitness::of($filled)->canBreak());
        self::assertEqualsWithDelta($volume, MassProperties::of($filled)->volume, 1e-12);

        // Doubled and zero-area faces.
        $doubled = new Mesh($whole->x, $whole->y, $whole->z, [...$whole->faces, ...array_slice($whole->faces, 0, 9)]);
        self::assertSame(3, Fitness::of($doubled)->doubledFaces);
        self::assertTrue(Fitness::of(Repair::dropDoubles($doubled))->canBreak());
        $thin = new Mesh($whole->x, $whole->y, $whole->z, [...$whole->faces, 0, 1, 0, 2, 2, 3]);
        self::assertSame(2, Fitness::of($thin)->zeroAreaFaces);
        self::assertTrue(Fitness::of(Repair::dropDegenerates($thin))->canBreak());
    }

    public function test_an_unknown_repair_is_refused(): void
    {
        $this->expectException(Problem::class);
        PrepareCatalogue::apply(Solids::shape('box'), [['step' => 'polish']]);
    }
}
