<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

/** Volumes of what cutters take out, against the Manifold library's boolean operations (float32 in: to 1e-5). */
final class BooleanTest extends TestCase
{
    public function test_a_punch_takes_out_what_a_boolean_intersection_does(): void
    {
        foreach ([
            'ring' => Solids::shape('ring', ['segments' => 60, 'rows' => 20]),
            'ball' => Solids::shape('ball', ['detail' => 10]),
            'thin vase' => Solids::vase(),
        ] as $name => $solid) {
            [$x, $z] = $name === 'ring' ? [0.4, 0.0] : [0.03, 0.02];
            $plug = BreakCatalogue::make(
                'punch',
                ['point' => [$x, 0.1, $z], 'axis' => [0, -1, 0], 'radius' => 0.05, 'roughness' => 0, 'keep' => 'plug'],
            )->break($solid, new SilentProgress);
            $prism = [];
            for ($k = 0; $k < 160; $k++) {
                foreach ([-2.0, 2.0] as $y) {
                    $prism[] = [$x + 0.05 * cos(2 * M_PI * $k / 160), $y, $z + 0.05 * sin(2 * M_PI * $k / 160)];
                }
            }
            $own = array_sum(array_map(static fn (Shard $s): float => $s->mass->volume, $plug));
            self::assertEqualsWithDelta(1.0, $own / self::common($solid, [$prism]), 1e-3, $name);
        }
    }

    /** A box is cut out by its own faces, so what is taken is what the boolean gives; only its corners are rounded off a little. */
    public function test_a_box_shaped_prop_takes_out_what_a_boolean_intersection_does(): void
    {
        $box = Solids::shape('box', ['width' => 0.3, 'height' => 0.12, 'depth' => 0.2]);
        foreach ([
            'ring' => [Solids::shape('ring', ['segments' => 60, 'rows' => 20]), new Vec3(0.4, 0.05, 0.03)],
            'ball' => [Solids::shape('ball', ['detail' => 10]), new Vec3(0.2, 0.25, 0.1)],
            'thin vase' => [Solids::vase(), new Vec3(0.15, 0.15, 0.02)],
        ] as $name => [$solid, $at]) {
            $tool = $box->movedBy($at);
            $plug = BreakCatalogue::make('punch', ['cutter' => 'prop', 'tool' => $tool, 'roughness' => 0, 'keep' => 'plug'])->break($solid, new SilentProgress);
            $own = array_sum(array_map(static fn (Shard $s): float => $s->mass->volume, $plug));
            self::assertEqualsWithDelta(1.0, $own / self::common($solid, [array_map(null, $tool->x, $tool->y, $tool->z)]), 2e-3, $name);
        }
    }

    public function test_bricks_are_what_a_boolean_intersection_with_boxes_gives(): void
    {
        $ball = Solids::shape('ball', ['detail' => 10]);
        $bricks = BreakCatalogue::make(
            'courses',
            ['unit' => [0.2, 0.1, 0.2], 'joint' => 0, 'bond' => 'stack', 'axis' => [0, 0, 1]],
        )->break($ball, new SilentProgress);
        $low = [min($ball->x), min($ball->y), min($ball->z)];
        foreach ($bricks as $brick) {
            $c = $brick->mass->centroid->toArray();
            $box = [];
            foreach ([0, 1] as $i) {
                foreach ([0, 1] as $j) {
                    foreach ([0, 1] as $k) {
                        $box[] = [
                            $low[0] + 0.2 * (floor(($c[0] - $low[0]) / 0.2) + $i),
                            $low[1] + 0.1 * (floor(($c[1] - $low[1]) / 0.1) + $j),
                            $low[2] + 0.2 * (floor(($c[2] - $low[2]) / 0.2) + $k),
                        ];
                    }
                }
            }
            self::assertEqualsWithDelta($brick->mass->volume, self::common($ball, [$box]), 1e-7);
        }
    }

    /**
     * @param  list<list<array{float, float, float}>>  $cells  points of convex shapes
     * @return float volume they have in common with the solid
     */
    private static function common(Mesh $solid, array $cells): float
    {
        file_put_contents(
            $file = (string) tempnam(sys_get_temp_dir(), 'cut'),
            json_encode(['points' => array_merge(...array_map(null, $solid->x, $solid->y, $solid->z)), 'faces' => $solid->faces, 'cells' => $cells]),
        );
        $volume = (float) OutsideTools::node('cut.mjs', $file)['volume'];
        unlink($file);

        return $volume;
    }
}
