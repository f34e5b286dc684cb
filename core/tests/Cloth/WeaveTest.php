<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Cloth;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Cloth\Weave;
use YardBreak\Core\Geometry\Mesh;

final class WeaveTest extends TestCase
{
    /** A face no wider than rounding is none: strained by what its points are rounded it would throw them off. */
    public function test_a_face_without_width_is_left_out_and_its_points_stay_where_they_hang(): void
    {
        $y = 0.05 + 1e-10;
        $weave = Weave::of(new Mesh([0.0, 0.1, 0.1, 0.0, 0.05], [0.0, 0.0, 0.1, 0.1, $y], array_fill(0, 5, 0.0), [0, 1, 4, 1, 2, 4, 2, 3, 4, 3, 0, 4, 0, 4, 2]));
        self::assertCount(4, $weave->areas);
        self::assertEqualsWithDelta(0.01, array_sum($weave->areas), 1e-12);
        self::assertEqualsWithDelta(0.01, array_sum($weave->share), 1e-12);
        self::assertSame([0, 0, 0, 0, 0], $weave->parts);
    }

    /** Small faces are faces as large ones are: a sheet of a tenth of a micrometre has all of its. */
    public function test_small_faces_count(): void
    {
        self::assertCount(2, Weave::of(new Mesh([0.0, 1e-7, 1e-7, 0.0], [0.0, 0.0, 1e-7, 1e-7], array_fill(0, 4, 0.0), [0, 1, 2, 0, 2, 3]))->areas);
    }
}
