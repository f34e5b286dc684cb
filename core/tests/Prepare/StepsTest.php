<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Prepare;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Prepare\Quads;
use YardBreak\Core\Problem;
use YardBreak\Core\Tests\Solids;

final class StepsTest extends TestCase
{
    public function test_pushing_a_box_moves_every_side_by_the_distance(): void
    {
        $out = self::done(Solids::shape('box', ['segments' => 3]), 'push', ['distance' => 0.1]);
        self::assertEqualsWithDelta(1.2 ** 3, MassProperties::of($out)->volume, 1e-9);
        $in = self::done(Solids::shape('box', ['segments' => 3]), 'push', ['distance' => -0.1]);
        self::assertEqualsWithDelta(0.8 ** 3, MassProperties::of($in)->volume, 1e-9);
    }

    public function test_a_thickened_solid_is_a_hollow_shell_and_a_thickened_sheet_a_plate(): void
    {
        $shell = self::done(Solids::shape('box', ['segments' => 2]), 'thicken', ['distance' => 0.1]);
        self::assertSame(2, Fitness::of($shell)->parts);
        self::assertEqualsWithDelta(1 - 0.8 ** 3, MassProperties::of($shell)->volume, 1e-9);
        $square = new Mesh([0.0, 1.0, 1.0, 0.0], [0.0, 0.0, 1.0, 1.0], [0.0, 0.0, 0.0, 0.0], [0, 1, 2, 0, 2, 3]);
        foreach ([0.05, -0.05] as $distance) {
            $plate = self::done($square, 'thicken', ['distance' => $distance]);
            self::assertTrue(Fitness::of($plate)->canBreak());
            self::assertEqualsWithDelta(0.05, MassProperties::of($plate)->volume, 1e-12);
        }
    }

    public function test_cutting_in_half_keeps_the_side_that_is_meant(): void
    {
        $half = self::done(Solids::shape('ball', ['detail' => 12]), 'cut', ['axis' => [1, 0, 0]]);
        self::assertTrue(Fitness::of($half)->canBreak());
        self::assertGreaterThan(-1e-6, min($half->x));
        self::assertEqualsWithDelta(0.5, MassProperties::of($half)->volume / MassProperties::of(Solids::shape('ball', ['detail' => 12]))->volume, 1e-6);
        $quarter = self::done(Solids::shape('box'), 'cut', ['axis' => [0, -1, 0], 'at' => 0.75]);
        self::assertEqualsWithDelta(0.25, MassProperties::of($quarter)->volume, 1e-6);
        self::assertLessThan(0.2501, max($quarter->y));
    }

    public function test_a_half_and_its_mirror_image_are_the_whole(): void
    {
        $half = self::done(Solids::vase(24), 'cut', ['axis' => [1, 0, 0]]);
        $whole = self::done($half, 'mirror', ['keep' => 'both']);
        self::assertTrue(Fitness::of($whole)->canBreak());
        self::assertSame(1, Fitness::of($whole)->parts);
        self::assertEqualsWithDelta(2.0, MassProperties::of($whole)->volume / MassProperties::of($half)->volume, 1e-6);
        $image = self::done(Solids::shape('cone'), 'mirror', ['axis' => 'y']);
        self::assertEqualsWithDelta(MassProperties::of(Solids::shape('cone'))->volume, MassProperties::of($image)->volume, 1e-12);
    }

    public function test_simple_subdivision_keeps_the_form(): void
    {
        $out = self::done(Solids::vase(24), 'subdivide', ['times' => 2]);
        self::assertSame(16 * Solids::vase(24)->faceCount(), $out->faceCount());
        self::assertEqualsWithDelta(MassProperties::of(Solids::vase(24))->volume, MassProperties::of($out)->volume, 1e-12);
    }

    /**
     * Reference: Catmull & Clark 1978. After one round of a cube of side 2 about the origin its corner lies at
     * (F + 2R + (n − 3)P)/n with F the mean of three face middles, R of three edge middles, P the corner: 5/9.
     */
    public function test_catmull_clark_moves_points_by_its_stencils(): void
    {
        $cube = Solids::shape('box', ['width' => 2.0, 'height' => 2.0, 'depth' => 2.0]);
        self::assertCount(6, Quads::of($cube));
        $out = self::done($cube, 'subdivide', ['scheme' => 'catmull-clark']);
        self::assertSame(48, $out->faceCount());
        $found = ['corner' => 0, 'edge' => 0, 'face' => 0];
        foreach ($out->x as $i => $x) {
            $p = [abs($x), abs($out->y[$i] - 1.0), abs($out->z[$i])];
            sort($p);
            foreach (['corner' => [5 / 9, 5 / 9, 5 / 9], 'edge' => [0.0, 0.75, 0.75], 'face' => [0.0, 0.0, 1.0]] as $name => $at) {
                $found[$name] += max(abs($p[0] - $at[0]), abs($p[1] - $at[1]), abs($p[2] - $at[2])) < 1e-12 ? 1 : 0;
            }
        }
        self::assertSame(['corner' => 8, 'edge' => 12, 'face' => 6], $found);
    }

    /**
     * Reference: Loop 1987. A tetrahedron's point with three neighbours keeps 1 − 3β of itself, β = 3/16; an edge's
     * middle is ⅜ of its ends and ⅛ of the corners opposite.
     */
    public function test_loop_moves_points_by_its_stencils(): void
    {
        $x = [1.0, -1.0, -1.0, 1.0];
        $y = [1.0, -1.0, 1.0, -1.0];
        $z = [1.0, 1.0, -1.0, -1.0];
        $out = self::done(new Mesh($x, $y, $z, [0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3]), 'subdivide', ['scheme' => 'loop']);
        // The four points add up to nothing, so the three neighbours of one are its negative.
        $k = (1 - 3 * 3 / 16) - 3 / 16;
        for ($i = 0; $i < 4; $i++) {
            self::assertEqualsWithDelta([$k * $x[$i], $k * $y[$i], $k * $z[$i]], [$out->x[$i], $out->y[$i], $out->z[$i]], 1e-12);
        }
        // Middle of the edge from 0 to 2: ⅜(a + b) + ⅛(c + d) = ¼(a + b) as c + d = −(a + b).
        self::assertContains(
            [0.25 * ($x[0] + $x[2]), 0.25 * ($y[0] + $y[2]), 0.25 * ($z[0] + $z[2])],
            array_map(static fn (int $i): array => [$out->x[$i], $out->y[$i], $out->z[$i]], range(4, 9)),
        );
    }

    /** @return array<string, array{Mesh}> */
    public static function solids(): array
    {
        return Solids::closed();
    }

    /** Reference: Botsch & Kobbelt 2004; at least 95 % of edges within 20 % of the wanted length where nothing thin stands in the way. */
    #[DataProvider('solids')]
    public function test_remeshing_gives_even_edges_on_the_same_surface(Mesh $mesh): void
    {
        $edge = 0.02 * ($mesh->vertexCount() > 0 ? max(max($mesh->x) - min($mesh->x), max($mesh->y) - min($mesh->y)) : 1.0);
        $out = self::done($mesh, 'remesh', ['faces' => 0, 'edge' => $edge]);
        $fitness = Fitness::of($out);
        self::assertTrue($fitness->closed && $fitness->oriented);
        self::assertSame(Fitness::of($mesh)->parts, $fitness->parts);
        $within = $all = 0;
        foreach ($out->faces as $i => $p) {
            $q = $out->faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $l = sqrt(($out->x[$p] - $out->x[$q]) ** 2 + ($out->y[$p] - $out->y[$q]) ** 2 + ($out->z[$p] - $out->z[$q]) ** 2);
            $all++;
            $within += abs($l / $edge - 1) <= 0.2 ? 1 : 0;
        }
        // On walls about as thin as the edges are long, their rims decide.
        self::assertGreaterThan(0.92, $within / $all);
        self::assertEqualsWithDelta(1.0, MassProperties::of($out)->volume / MassProperties::of($mesh)->volume, 0.012);
    }

    public function test_creases_stay_where_they_are(): void
    {
        $out = self::done(Solids::shape('box'), 'remesh', ['faces' => 3000]);
        self::assertEqualsWithDelta(1.0, MassProperties::of($out)->volume, 1e-9);
    }

    public function test_steps_are_done_in_order_and_name_the_one_that_cannot_be(): void
    {
        $box = Solids::shape('box');
        $one = PrepareCatalogue::apply($box, [['step' => 'cut', 'values' => []], ['step' => 'push', 'values' => ['distance' => 0.1]]]);
        $other = PrepareCatalogue::apply($box, [['step' => 'push', 'values' => ['distance' => 0.1]], ['step' => 'cut', 'values' => []]]);
        self::assertEqualsWithDelta(0.7 * 1.2 * 1.2, MassProperties::of($one)->volume, 1e-6);
        self::assertEqualsWithDelta(0.6 * 1.2 * 1.2, MassProperties::of($other)->volume, 1e-6);
        try {
            PrepareCatalogue::apply($box, [['step' => 'orient', 'values' => []], ['step' => 'remesh', 'values' => ['faces' => 1]]]);
            self::fail('it was done');
        } catch (Problem $e) {
            self::assertSame('prepare[1].faces', $e->path);
        }
    }

    /** @return array<string, array{string, array<string, mixed>, string}> */
    public static function refused(): array
    {
        return [
            'no thickness' => ['thicken', ['distance' => 0], 'no plate'],
            'nothing left' => ['cut', ['at' => 1], 'Nothing of the prop'],
            'no direction' => ['cut', ['axis' => [0, 0, 0]], 'no length'],
            'dust' => ['remesh', ['edge' => 1e-5], 'at most'],
            'a flood of faces' => ['subdivide', ['times' => 8, 'scheme' => 'loop', 'faces' => 1], 'no setting'],
        ];
    }

    /** @param  array<string, mixed>  $values */
    #[DataProvider('refused')]
    public function test_what_cannot_be_done_is_refused_in_words(string $step, array $values, string $words): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessage($words);
        self::done(Solids::shape('box'), $step, $values);
    }

    /** @param  array<string, mixed>  $values */
    private static function done(Mesh $mesh, string $step, array $values): Mesh
    {
        return PrepareCatalogue::apply($mesh, [['step' => $step, 'values' => $values]]);
    }
}
