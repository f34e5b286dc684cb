<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Prepare;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Problem;
use YardBreak\Core\Tests\Solids;

final class RebuildTest extends TestCase
{
    /** @return array<string, array{Mesh}> */
    public static function closed(): array
    {
        // A pane far thinner than a cell cannot show.
        return array_diff_key(Solids::closed(), ['pane' => 0]);
    }

    #[DataProvider('closed')]
    public function test_a_closed_solid_comes_out_closed_with_its_volume_and_parts(Mesh $solid): void
    {
        $out = self::rebuilt($solid, 64);
        $fitness = Fitness::of($out);
        self::assertTrue($fitness->canBreak());
        self::assertSame(0, $fitness->nonmanifoldEdges);
        self::assertSame(Fitness::of($solid)->parts, $fitness->parts);
        self::assertEqualsWithDelta(1.0, $fitness->volume / MassProperties::of($solid)->volume, 0.005);
    }

    public function test_the_corners_of_a_box_stay_sharp(): void
    {
        $out = self::rebuilt(Solids::shape('box'), 20);
        foreach ([-0.5, 0.5] as $x) {
            foreach ([0.0, 1.0] as $y) {
                foreach ([-0.5, 0.5] as $z) {
                    $near = min(array_map(
                        static fn (int $i): float => sqrt(($out->x[$i] - $x) ** 2 + ($out->y[$i] - $y) ** 2 + ($out->z[$i] - $z) ** 2),
                        array_keys($out->x),
                    ));
                    self::assertLessThan(0.001, $near);
                }
            }
        }
        // All of its surface lies on the box's.
        foreach ($out->x as $i => $x) {
            self::assertEqualsWithDelta(0.5, max(abs($x), abs($out->y[$i] - 0.5), abs($out->z[$i])), 1e-4);
        }
    }

    /** Two balls of radius r at a distance d have the lens π(4r + d)(2r − d)²/12 in common (Weisstein, "Sphere-sphere intersection"). */
    public function test_what_crosses_itself_becomes_one_skin(): void
    {
        $ball = Solids::shape('ball', ['radius' => 0.5, 'detail' => 24]);
        $out = self::rebuilt(Mesh::merged($ball, $ball->movedBy(new Vec3(0.4, 0.0, 0.0))), 64);
        $fitness = Fitness::of($out);
        self::assertTrue($fitness->canBreak());
        self::assertSame(1, $fitness->parts);
        $union = 2.0 * 4.0 / 3.0 * M_PI * 0.125 - M_PI * 2.4 * 0.6 ** 2 / 12.0;
        self::assertEqualsWithDelta(1.0, $fitness->volume / $union, 0.005);
    }

    public function test_holes_of_a_scan_are_closed_over(): void
    {
        $ball = Solids::shape('ball', ['radius' => 0.5, 'detail' => 16]);
        $open = new Mesh($ball->x, $ball->y, $ball->z, array_slice($ball->faces, 0, -600));
        self::assertGreaterThan(0, Fitness::of($open)->boundaryEdges);
        $fitness = Fitness::of(self::rebuilt($open, 48));
        self::assertTrue($fitness->canBreak());
        self::assertSame(1, $fitness->parts);
        self::assertEqualsWithDelta(1.0, $fitness->volume / MassProperties::of($ball)->volume, 0.05);
    }

    public function test_a_sheet_becomes_a_plate(): void
    {
        $square = new Mesh([0.0, 1.0, 1.0, 0.0], [0.0, 0.0, 1.0, 1.0], [0.0, 0.0, 0.0, 0.0], [0, 1, 2, 0, 2, 3]);
        foreach ([[0.0, 2.5 / 40], [0.1, 0.1]] as [$asked, $thick]) {
            $fitness = Fitness::of(self::rebuilt($square, 40, $asked));
            self::assertTrue($fitness->canBreak());
            self::assertEqualsWithDelta($thick, $fitness->bounds->size()->z, 0.001);
            self::assertEqualsWithDelta($thick, $fitness->volume, 0.05 * $thick);
        }
        $this->expectExceptionMessage('thickness');
        self::rebuilt($square, 40, 0.01);
    }

    /** A heap of random tetrahedra, coarse: every way the skin can pass a cell, and always closed. */
    public function test_any_soup_gives_a_closed_skin(): void
    {
        mt_srand(11);
        $any = static fn (): float => mt_rand() / mt_getrandmax();
        for ($run = 0; $run < 12; $run++) {
            $x = $y = $z = $faces = [];
            for ($t = 0; $t < 60; $t++) {
                $at = [$any(), $any(), $any()];
                for ($k = 0; $k < 4; $k++) {
                    $x[] = $at[0] + 0.25 * $any();
                    $y[] = $at[1] + 0.25 * $any();
                    $z[] = $at[2] + 0.25 * $any();
                }
                foreach ([0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3] as $k) {
                    $faces[] = 4 * $t + $k;
                }
            }
            $fitness = Fitness::of(self::rebuilt(new Mesh($x, $y, $z, $faces), 12 + $run));
            self::assertTrue($fitness->closed && $fitness->oriented && ! $fitness->insideOut);
        }
    }

    public function test_places_in_a_picture_are_carried_over(): void
    {
        $box = Solids::shape('box');
        $uvs = [];
        foreach ($box->faces as $p) {
            array_push($uvs, $box->x[$p], 3.0 * $box->y[$p]);
        }
        $out = self::rebuilt($box->withUvs($uvs), 16);
        self::assertNotNull($out->uvs);
        $seen = 0;
        foreach ($out->faces as $c => $p) {
            // On the two sides where the picture is not seen edge on, well off the corners.
            if (abs($out->x[$p]) < 0.4 && abs($out->y[$p] - 0.5) < 0.4) {
                self::assertEqualsWithDelta($out->x[$p], $out->uvs[2 * $c], 1e-6);
                self::assertEqualsWithDelta(3.0 * $out->y[$p], $out->uvs[2 * $c + 1], 1e-6);
                $seen++;
            }
        }
        self::assertGreaterThan(100, $seen);
    }

    public function test_what_is_nothing_or_too_thin_is_refused_in_words(): void
    {
        foreach ([new Mesh([], [], [], []), Solids::shape('sheet', ['segments' => 6])] as $mesh) {
            try {
                self::rebuilt($mesh, 16);
                self::fail('it was built');
            } catch (Problem $e) {
                self::assertNotSame('', $e->remedy);
            }
        }
    }

    private static function rebuilt(Mesh $mesh, int $detail, float $thickness = 0.0): Mesh
    {
        return PrepareCatalogue::apply($mesh, [['step' => 'rebuild', 'values' => ['detail' => $detail, 'thickness' => $thickness]]]);
    }
}
