<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Arrivals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Solids;

/** Ways over surfaces whose shortest ways have closed forms: a ball (great circles) and a sheet bent without stretch (straight lines). */
final class ArrivalsTest extends TestCase
{
    /** r·acos of the cosine between two places: within 2 %, on a mesh of some 5,800 points well within. */
    public function test_on_a_ball_fronts_go_by_great_circles(): void
    {
        $ball = Solids::shape('ball', ['radius' => 1.0, 'detail' => 24]);
        foreach ([0, 777, 3000] as $start) {
            $fronts = Arrivals::over($ball);
            $fronts->begin($start, 0.25);
            $fronts->advance(INF);
            foreach ($fronts->at as $i => $at) {
                $way = acos(max(
                    -1.0,
                    min(1.0, $ball->x[$i] * $ball->x[$start] + ($ball->y[$i] - 1.0) * ($ball->y[$start] - 1.0) + $ball->z[$i] * $ball->z[$start]),
                ));
                self::assertEqualsWithDelta(0.25 + $way, $at, 0.02 * $way + 1e-7, 'acos is that exact close to 1');
            }
        }
    }

    public function test_on_a_bent_sheet_fronts_go_as_if_it_were_flat(): void
    {
        [$sheet, $u, $v] = self::bent(60, 40);
        foreach ([0, 1234] as $start) {
            $fronts = Arrivals::over($sheet);
            $fronts->begin($start, 0.0);
            $fronts->advance(INF);
            foreach ($fronts->at as $i => $at) {
                $way = hypot($u[$i] - $u[$start], $v[$i] - $v[$start]);
                self::assertEqualsWithDelta($way, $at, 0.002 * $way + 1e-9);
            }
        }
    }

    /** A whole edge of the sheet starts at once: the front stays straight. */
    public function test_a_line_of_starts_makes_a_straight_front(): void
    {
        [$sheet, $u] = self::bent(60, 40);
        $fronts = Arrivals::over($sheet);
        foreach ($u as $i => $at) {
            if ($at === 0.0) {
                $fronts->begin($i, 1.0);
            }
        }
        $fronts->advance(INF);
        foreach ($fronts->at as $i => $at) {
            // Between two starts the front dips by the sagitta of a circle, at most.
            self::assertEqualsWithDelta(1.0 + $u[$i], $at, 0.01 * $u[$i] + 1e-9);
        }
    }

    /** The two ends of the bent sheet are 3 cm apart through the air and 3 m over the surface. */
    public function test_a_front_never_jumps_through_the_air(): void
    {
        [$sheet, $u, $v] = self::bent(90, 4, 3.11, 0.5);
        $gap = hypot($sheet->x[0] - $sheet->x[90], $sheet->y[0] - $sheet->y[90]);
        self::assertLessThan(0.04, $gap);
        $fronts = Arrivals::over($sheet);
        $fronts->begin(0, 0.0);
        $fronts->advance(INF);
        self::assertEqualsWithDelta($u[90], $fronts->at[90], 0.002 * $u[90]);
    }

    public function test_what_is_not_joined_is_never_reached(): void
    {
        $ball = Solids::shape('ball', ['detail' => 3]);
        $n = $ball->vertexCount();
        $two = Mesh::merged($ball, $ball);
        $fronts = Arrivals::over($two);
        $fronts->begin(0, 0.0);
        $fronts->advance(INF);
        self::assertLessThan(INF, max(array_slice($fronts->at, 0, $n)));
        self::assertSame([INF], array_values(array_unique(array_slice($fronts->at, $n))));
    }

    /** Starts come as time goes on; a state that was taken up goes on as if nothing had been between. */
    public function test_going_on_in_steps_and_from_a_kept_state_is_all_the_same(): void
    {
        [$sheet] = self::bent(30, 20);
        $random = new SeededRandom(11);
        $slow = array_map(static fn (): float => $random->between(0.7, 1.4), $sheet->x);
        $starts = [[0, 0.0], [300, 0.35], [600, 0.8], [5, 0.1]];
        $whole = Arrivals::over($sheet, $slow);
        foreach ($starts as [$point, $time]) {
            $whole->begin($point, $time);
        }
        $whole->advance(INF);
        $steps = Arrivals::over($sheet, $slow);
        for ($time = 0.0; $time <= 3.0; $time += 0.1) {
            foreach ($starts as [$point, $at]) {
                if ($at > $time - 0.1 && $at <= $time) {
                    $steps->begin($point, $at);
                }
            }
            $steps->advance($time);
            $again = Arrivals::over($sheet, $slow);
            $again->restore($steps->state());
            $steps = $again;
        }
        $steps->advance(INF);
        self::assertSame($whole->at, $steps->at);
    }

    /** Three pieces in a row and one by itself: the way is the sum of its parts. */
    public function test_from_piece_to_piece_ways_add_up(): void
    {
        $fronts = Arrivals::along(4, [[0, 1, 0.5], [2, 1, 0.25], [0, 2, 2.0]]);
        $fronts->begin(0, 1.0);
        $fronts->advance(1.6);
        self::assertSame([1.0, 1.5, 1.75, INF], $fronts->at);
        self::assertSame([1, 1, 0, 0], $fronts->state()['settled']);
    }

    /** @return array{Mesh, list<float>, list<float>} a sheet bent round a cylinder, and where on the flat sheet its points were */
    private static function bent(int $columns, int $rows, float $long = 1.5, float $radius = 0.5): array
    {
        $x = $y = $z = $u = $v = $faces = [];
        for ($j = 0; $j <= $rows; $j++) {
            for ($i = 0; $i <= $columns; $i++) {
                $u[] = $a = $long * $i / $columns;
                $v[] = $z[] = 1.0 * $j / $rows;
                $x[] = $radius * sin($a / $radius);
                $y[] = $radius * cos($a / $radius);
            }
        }
        for ($j = 0; $j < $rows; $j++) {
            for ($i = 0; $i < $columns; $i++) {
                $p = $j * ($columns + 1) + $i;
                array_push($faces, $p, $p + 1, $p + $columns + 2, $p, $p + $columns + 2, $p + $columns + 1);
            }
        }

        return [new Mesh($x, $y, $z, $faces), $u, $v];
    }
}
