<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\SurfaceTree;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\Box;
use YardBreak\Core\Shape\Scatter;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Weight\Maps;

final class ScatterTest extends TestCase
{
    public function test_every_copy_stands_on_the_surface_the_way_it_looks(): void
    {
        $ball = ShapeCatalogue::mesh('ball', ['radius' => 1.0, 'detail' => 24]);
        $places = Scatter::of(['number' => 300, 'least' => 0.5, 'most' => 2.0])->places($ball);
        self::assertCount(300, $places);
        $tree = new SurfaceTree($ball);
        foreach ($places as $p) {
            self::assertEqualsWithDelta(0.0, $tree->nearest([$p->position->x], [$p->position->y], [$p->position->z])->distance[0], 1e-9);
            // A face of the ball looks away from its middle, but for the angle it spans.
            $up = $p->turn->turn(new Vec3(0, 1, 0));
            $out = $p->position->minus(new Vec3(0, 1, 0))->unit();
            self::assertGreaterThan(cos(M_PI / 12), $up->dot($out));
            self::assertTrue($p->size >= 0.5 && $p->size <= 2.0);
        }
    }

    public function test_they_lie_evenly_by_area(): void
    {
        // A quarter of the top of a box holds a quarter of what lies on the top: binomial, within four standard deviations.
        $box = Box::mesh(['width' => 1.0, 'height' => 1.0, 'depth' => 1.0, 'segments' => 1]);
        $places = Scatter::of(['number' => 6000, 'seed' => 3])->places($box);
        $top = array_filter($places, static fn ($p): bool => $p->position->y > 1.0 - 1e-9);
        self::assertEqualsWithDelta(1000.0, count($top), 4 * sqrt(6000 * 1 / 6 * 5 / 6));
        $corner = array_filter($top, static fn ($p): bool => $p->position->x > 0 && $p->position->z > 0);
        self::assertEqualsWithDelta(count($top) / 4, count($corner), 4 * sqrt(count($top) * 0.25 * 0.75));
    }

    public function test_a_weight_says_where_there_are_any_and_another_how_large(): void
    {
        $sheet = Box::mesh(['width' => 2.0, 'height' => 0.1, 'depth' => 2.0, 'segments' => 1]);
        $ball = ['source' => 'ball', 'values' => ['middle' => [0, 0, 0], 'full' => 0.1, 'none' => 0.6, 'falloff' => 'linear']];
        foreach (Scatter::of(['number' => 200, 'dense' => $ball, 'grow' => $ball, 'least' => 1.0, 'most' => 3.0])->places($sheet) as $p) {
            $d = $p->position->length();
            self::assertLessThan(0.6, $d);
            self::assertEqualsWithDelta(1.0 + 2.0 * min(1.0, (0.6 - $d) / 0.5), $p->size, 1e-9);
        }
    }

    public function test_no_two_stand_closer_than_they_are_apart_and_too_many_are_refused(): void
    {
        $sheet = Box::mesh(['width' => 1.0, 'height' => 0.01, 'depth' => 1.0, 'segments' => 1]);
        $places = Scatter::of(['number' => 60, 'apart' => 0.1])->places($sheet);
        for ($i = 0; $i < 60; $i++) {
            for ($k = 0; $k < $i; $k++) {
                self::assertGreaterThanOrEqual(0.1, $places[$i]->position->minus($places[$k]->position)->length());
            }
        }
        $this->expectExceptionMessageMatches('/^There is room for \d+ copies only, not for 5000\.$/');
        Scatter::of(['number' => 5000, 'apart' => 0.1])->places($sheet);
    }

    public function test_upright_and_sunk_copies(): void
    {
        $ball = ShapeCatalogue::mesh('ball', ['radius' => 1.0, 'detail' => 24]);
        foreach (Scatter::of(['number' => 20, 'lean' => 0, 'sink' => 0.1])->places($ball) as $p) {
            self::assertEqualsWithDelta(1.0, $p->turn->turn(new Vec3(0, 1, 0))->y, 1e-9);
            self::assertEqualsWithDelta(
                0.0,
                (new SurfaceTree($ball))->nearest([$p->position->x], [$p->position->y + 0.1], [$p->position->z])->distance[0],
                1e-9,
            );
        }
    }

    public function test_a_weight_turns_them_instead_of_chance(): void
    {
        $sheet = Box::mesh(['width' => 2.0, 'height' => 0.1, 'depth' => 2.0, 'segments' => 1]);
        $front = ['source' => 'front', 'values' => ['point' => [-1, 0, 0], 'direction' => [1, 0, 0], 'full' => 0.0, 'none' => 2.0, 'falloff' => 'linear']];
        foreach (Scatter::of(['number' => 50, 'turn' => 90, 'twist' => $front, 'lean' => 0])->places($sheet) as $p) {
            // About the vertical by 90° where the weight is 1, at x = −1, by nothing at x = 1.
            $angle = M_PI / 2 * (1.0 - ($p->position->x + 1.0) / 2.0);
            self::assertEqualsWithDelta([cos($angle), 0.0, -sin($angle)], $p->turn->turn(new Vec3(1, 0, 0))->toArray(), 1e-9);
        }
    }

    public function test_each_copy_is_a_piece_of_the_size_it_has(): void
    {
        $shards = $this->strewn(['number' => 25, 'least' => 0.5, 'most' => 1.0, 'seed' => 4]);
        self::assertCount(25, $shards);
        self::assertSame('copy-0025', $shards[24]->name);
        $pip = 0.1 ** 3;
        foreach ($shards as $shard) {
            self::assertGreaterThanOrEqual(0.5 ** 3 * $pip * (1 - 1e-9), $shard->mass->volume);
            self::assertLessThanOrEqual($pip * (1 + 1e-9), $shard->mass->volume);
        }
        self::assertSame(
            array_map(static fn (Shard $s): Mesh => $s->mesh, $shards)[3]->x,
            $this->strewn(['number' => 25, 'least' => 0.5, 'most' => 1.0, 'seed' => 4])[3]->mesh->x,
        );
    }

    public function test_a_map_of_what_they_are_strewn_over_steers_them_as_it_is_at_a_frame(): void
    {
        // The ball is 0.2 wide and goes by at x = −2 … 2 in 40 frames, so at frame 20 it is in the middle of the block.
        $near = ['source' => 'map', 'values' => ['map' => 'reach'], 'frame' => 20];
        foreach ($this->strewn(['number' => 40, 'dense' => $near]) as $shard) {
            $c = $shard->centre();
            // Within 0.5 of the ball's surface, give or take half a copy and an edge of the mesh.
            self::assertLessThan(0.2 + 0.5 + 0.1 + 0.2, sqrt($c->x ** 2 + ($c->y - 0.3) ** 2 + $c->z ** 2));
        }
    }

    public function test_what_a_map_gives_at_another_frame_makes_another_prop(): void
    {
        $key = static fn (int $frame, int $to): string => ShotSpec::fromJson(self::json(
            ['dense' => ['source' => 'map', 'values' => ['map' => 'reach'], 'frame' => $frame]],
            $to,
        ))->props[2]->shardKey();
        self::assertSame($key(20, 2), $key(20, 2));
        self::assertNotSame($key(20, 2), $key(21, 2));
        self::assertNotSame($key(20, 2), $key(20, 3));
    }

    public function test_what_is_gone_or_goes_in_a_circle_is_refused_in_words(): void
    {
        $said = static function (\Closure $change): string {
            try {
                ShotSpec::fromJson(self::json([], 2, $change));

                return '';
            } catch (Problem $e) {
                return $e->path.': '.$e->getMessage();
            }
        };
        $source = static fn (array $source): \Closure => static function (array $d) use ($source): array {
            $d['props'][2]['source'] = $source + $d['props'][2]['source'];

            return $d;
        };
        self::assertSame('props[2].source.of: The prop that is copied is no longer there.', $said($source(['of' => 'nobody'])));
        self::assertSame('props[2].source: Pips is strewn of itself, or over itself.', $said($source(['over' => 'pips'])));
        self::assertSame(
            'props[2].source.values.dense: Pips is strewn by a weight map that is none of Block, or is not there.',
            $said($source(['values' => ['dense' => ['source' => 'map', 'values' => ['map' => 'none']]]])),
        );
        self::assertSame(
            'props[2].source.values.least: The smallest copy is larger than the largest.',
            $said($source(['values' => ['least' => 2, 'most' => 1]])),
        );
    }

    /**
     * @param  array<string, mixed>  $values
     * @return list<Shard>
     */
    private function strewn(array $values): array
    {
        return Maps::maker()->shards(ShotSpec::fromJson(self::json($values, 2))->props[2], new SilentProgress);
    }

    /**
     * Little cubes strewn over the block.
     *
     * @param  array<string, mixed>  $values
     */
    private static function json(array $values, float $to, ?\Closure $change = null): string
    {
        return Maps::json([[
            'source' => 'proximity',
            'values' => ['to' => 'ball', 'full' => 0.1, 'none' => 0.5],
        ]], [], static function (array $d) use ($values, $to, $change): array {
            $d['props'][1]['place']['position'][0]['keys'][1]['value'] = $to;
            $cube = [
                'id' => 'cube',
                'name' => 'Cube',
                'hidden' => true,
                'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.1, 'height' => 0.1, 'depth' => 0.1, 'segments' => 1]],
            ] + $d['props'][1];
            $pips = [
                'id' => 'pips',
                'name' => 'Pips',
                'source' => ['kind' => 'scatter', 'of' => 'cube', 'over' => 'block', 'values' => $values === [] ? new \stdClass : $values],
            ] + $d['props'][1];
            $pips['motion'] = $cube['motion'] = ['kind' => 'fixed'];
            $pips['place'] = $d['props'][0]['place'];
            array_push($d['props'], $pips, $cube);

            return $change === null ? $d : $change($d);
        });
    }
}
