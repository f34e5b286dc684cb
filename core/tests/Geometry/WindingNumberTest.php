<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\WindingNumber;
use YardBreak\Core\Tests\Solids;

final class WindingNumberTest extends TestCase
{
    public function test_it_is_one_inside_and_none_outside_closed_solids(): void
    {
        mt_srand(3);
        $any = static fn (): float => mt_rand() / mt_getrandmax() - 0.5;
        $ball = new WindingNumber(Solids::shape('ball', ['radius' => 0.5, 'detail' => 20]));
        $box = new WindingNumber(Solids::shape('box'));
        for ($i = 0; $i < 400; $i++) {
            $p = [2.4 * $any(), 2.4 * $any() + 0.5, 2.4 * $any()];
            $r = sqrt($p[0] ** 2 + ($p[1] - 0.5) ** 2 + $p[2] ** 2);
            if (abs($r - 0.5) > 0.02) {
                self::assertEqualsWithDelta($r < 0.5 ? 1.0 : 0.0, $ball->at([$p[0]], [$p[1]], [$p[2]])[0], 0.05);
            }
            if (max(abs($p[0]), abs($p[1] - 0.5), abs($p[2])) < 0.49) {
                self::assertEqualsWithDelta(1.0, $box->at([$p[0]], [$p[1]], [$p[2]])[0], 0.05);
            }
        }
    }

    /** A square seen from a point over its middle at half its side fills a sixth of the sphere; a cube has six such sides. */
    public function test_an_open_sheet_counts_by_the_share_of_the_sky_it_fills(): void
    {
        $square = new WindingNumber(new Mesh([0.0, 1.0, 1.0, 0.0], [0.0, 0.0, 1.0, 1.0], [0.0, 0.0, 0.0, 0.0], [0, 1, 2, 0, 2, 3]));
        [$front, $behind, $on] = $square->at([0.5, 0.5, 0.4], [0.5, 0.5, 0.3], [0.5, -0.5, 0.0]);
        self::assertEqualsWithDelta(-1 / 6, $front, 1e-12);
        self::assertEqualsWithDelta(1 / 6, $behind, 1e-12);
        self::assertSame(0.0, $on);
    }

    public function test_on_a_closed_surface_it_is_a_half(): void
    {
        foreach ([Solids::shape('sheet', ['segments' => 6]), Solids::shape('ring', ['segments' => 40, 'rows' => 15]), Solids::vase()] as $solid) {
            $x = $y = $z = [];
            foreach (array_chunk($solid->faces, 3) as [$a, $b, $c]) {
                $x[] = ($solid->x[$a] + $solid->x[$b] + $solid->x[$c]) / 3.0;
                $y[] = ($solid->y[$a] + $solid->y[$b] + $solid->y[$c]) / 3.0;
                $z[] = ($solid->z[$a] + $solid->z[$b] + $solid->z[$c]) / 3.0;
            }
            foreach ((new WindingNumber($solid))->at($x, $y, $z) as $w) {
                self::assertEqualsWithDelta(0.5, $w, 0.05);
            }
        }
    }
}
