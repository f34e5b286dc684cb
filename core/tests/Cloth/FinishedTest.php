<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Cloth;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Cloth\Finish;
use YardBreak\Core\Cloth\Finished;
use YardBreak\Core\Cloth\Stretch;
use YardBreak\Core\Cloth\Weave;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Tests\Solids;

/** Surfaces finished after the bake, by what is known of them: areas, volumes, and Loop's own masks. */
final class FinishedTest extends TestCase
{
    public function test_with_nothing_to_do_it_is_as_made(): void
    {
        $mesh = Solids::shape('box', ['segments' => 2]);
        $one = Finished::of([$mesh], new Finish)->pieces[0];
        self::assertSame([$mesh->faceCount(), $mesh->uvs], [$one->faceCount(), $one->uvs]);
        foreach ($mesh->faces as $k => $v) {
            self::assertSame([$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]], [$one->x[$one->faces[$k]], $one->y[$one->faces[$k]], $one->z[$one->faces[$k]]]);
        }
    }

    /** Of a flat square of a metre: divided it stays flat and its border goes through the rounded corners; thick it is a closed plate. */
    public function test_a_sheet_with_a_thickness_is_a_closed_plate(): void
    {
        $sheet = ShapeCatalogue::mesh('sheet', ['width' => 1.0, 'height' => 1.0, 'thickness' => 0.0, 'segments' => 8]);
        $plate = Finished::of([$sheet], new Finish(0, 0.02))->pieces[0];
        $fit = Fitness::of($plate);
        self::assertTrue($fit->closed && $fit->oriented && ! $fit->insideOut);
        self::assertEqualsWithDelta(0.02, $fit->volume, 1e-9);
        self::assertSame(2 * 128 + 2 * 32, $plate->faceCount());
        $fine = Finished::of([$sheet], new Finish(2, 0.02))->pieces[0];
        self::assertTrue(Fitness::of($fine)->closed);
        self::assertEqualsWithDelta(0.02, Fitness::of($fine)->volume, 0.0003, 'its four corners are rounded by the border spline');
        self::assertSame([-0.01, 0.01], [min($fine->z), max($fine->z)]);
    }

    /** Loop's masks at an octahedron: an edge's middle is 3/8, 3/8, 1/8, 1/8, so (3/8 + 3/8)/… off its middle; a corner of four keeps 1 − 4β with β = (5/8 − (3/8)²)/4. */
    public function test_points_move_by_loops_masks(): void
    {
        $x = [1.0, -1.0, 0.0, 0.0, 0.0, 0.0];
        $y = [0.0, 0.0, 1.0, -1.0, 0.0, 0.0];
        $z = [0.0, 0.0, 0.0, 0.0, 1.0, -1.0];
        $octahedron = new Mesh($x, $y, $z, [0, 2, 4, 2, 1, 4, 1, 3, 4, 3, 0, 4, 2, 0, 5, 1, 2, 5, 3, 1, 5, 0, 3, 5]);
        $made = Finished::of([$octahedron], new Finish(1))->pieces[0];
        $far = array_map(static fn (float $a, float $b, float $c): string => sprintf('%.9f', sqrt($a * $a + $b * $b + $c * $c)), $made->x, $made->y, $made->z);
        $beta = (0.625 - 0.375 ** 2) / 4.0;
        // The neighbours of a corner cancel out; those beside an edge too.
        self::assertEquals([sprintf('%.9f', 0.375 * sqrt(2.0)) => 12, sprintf('%.9f', 1.0 - 4.0 * $beta) => 6], array_map(count(...), self::grouped($far)));
    }

    /** Dividing and thickening know no place: turned, moved before or after, it is the same; and what is the same everywhere stays so. */
    public function test_it_goes_along_with_its_points(): void
    {
        $mesh = Solids::shape('cylinder', ['segments' => 12]);
        $place = new Placement(new Vec3(0.3, -2.0, 1.0), Quaternion::aboutAxis(new Vec3(0.3, 0.8, -0.1), 0.9));
        $finished = Finished::of([$mesh], new Finish(1, 0.01));
        $there = $mesh->placed($place);
        $moved = $finished->at($there->x, $there->y, $there->z)[0];
        $want = $finished->pieces[0]->placed($place);
        foreach ($want->x as $v => $at) {
            self::assertEqualsWithDelta([$at, $want->y[$v], $want->z[$v]], [$moved->x[$v], $moved->y[$v], $moved->z[$v]], 1e-9);
        }
        foreach ($finished->carried(array_fill(0, $finished->moving(), 0.7)) as $value) {
            self::assertEqualsWithDelta(0.7, $value, 1e-12);
        }
    }

    /** The shell of a ball shines as a ball, without and within; flat it does not. */
    public function test_smooth_it_is_shaded_as_one_surface_on_both_sides(): void
    {
        $ball = ShapeCatalogue::mesh('ball', ['radius' => 1.0, 'detail' => 8]);
        $off = static function (bool $smooth) use ($ball): float {
            $shell = Finished::of([$ball], new Finish(1, 0.02, $smooth))->pieces;
            $worst = 0.0;
            $m = $shell[0];
            foreach ($m->faces as $k => $v) {
                $out = (new Vec3($m->x[$v], $m->y[$v] - 1.0, $m->z[$v]))->unit();
                $normal = new Vec3($m->normals[3 * $k] ?? 0.0, $m->normals[3 * $k + 1] ?? 0.0, $m->normals[3 * $k + 2] ?? 0.0);
                $worst = max($worst, acos(min(1.0, abs($out->dot($normal)))));
            }

            return rad2deg($worst);
        };
        self::assertLessThan(1.5, $off(true));
        self::assertGreaterThan(2.0, $off(false));
    }

    public function test_too_many_faces_are_refused(): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('The number of faces');
        Finished::of([Solids::shape('sheet', ['segments' => 130])], new Finish(3, 0.01));
    }

    /** Drawn to 1.2 along x it is drawn by 0.2 everywhere, whichever way its faces lie; sheared by γ by (γ + √(γ² + 4))/2 − 1; grown by as much it is not drawn. */
    public function test_stretch_is_that_of_the_deformation(): void
    {
        $sheet = ShapeCatalogue::mesh('sheet', ['width' => 1.0, 'height' => 1.0, 'thickness' => 0.0, 'segments' => 5]);
        $weave = Weave::of($sheet);
        $drawn = Stretch::of($weave, array_map(static fn (float $x): float => 1.2 * $x, $weave->x), $weave->y, $weave->z, null);
        self::assertEqualsWithDelta([0.2, 0.2], [min($drawn), max($drawn)], 1e-12);
        $sheared = Stretch::of($weave, array_map(static fn (float $x, float $y): float => $x + 0.3 * $y, $weave->x, $weave->y), $weave->y, $weave->z, null);
        self::assertEqualsWithDelta(0.5 * (0.3 + sqrt(0.09 + 4.0)) - 1.0, max($sheared), 1e-12);
        $grown = Stretch::of($weave, ...[...array_map(static fn (array $axis): array => array_map(static fn (float $v): float => 1.3 * $v, $axis), [$weave->x, $weave->y, $weave->z]), array_fill(0, $weave->count(), 1.3)]);
        self::assertEqualsWithDelta([0.0, 0.0], [min($grown), max($grown)], 1e-12);
        self::assertSame([false, true], [$weave->isClosed, Weave::of(Solids::shape('box'))->isClosed]);
    }

    /**
     * @param  list<string>  $of
     * @return array<string, list<int>>
     */
    private static function grouped(array $of): array
    {
        $out = [];
        foreach ($of as $k => $value) {
            $out[$value][] = $k;
        }
        ksort($out);

        return $out;
    }
}
