<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Tests\Shot\Documents;
use YardBreak\Core\Weight\Picture;

/** Expected weights are worked out here from distances, angles and ranks; the block and the ball are those of Maps. */
final class MapRunTest extends TestCase
{
    private const NEAR = ['source' => 'proximity', 'values' => ['to' => 'ball', 'full' => 0.1, 'none' => 0.6, 'falloff' => 'linear']];

    /** The ball has 12 divisions: its faces lie at most 0.2·(1 − cos of half their angle) under the round. */
    private const SAGITTA = 0.0012;

    public function test_proximity_is_the_distance_to_the_ball_where_it_is_at_the_frame(): void
    {
        $run = Maps::run([self::NEAR]);
        $mesh = self::block($run);
        foreach ([0, 7, 20, 33, 12] as $frame) {
            foreach (self::some($run->weightsAt('reach', 'points', $frame)) as $i => $w) {
                $d = self::toBall($mesh, $i, $frame) - 0.2;
                self::assertEqualsWithDelta(self::linear(max(0.0, $d), 0.1, 0.6), $w, self::SAGITTA / 0.5 + 1e-9);
            }
        }
    }

    public function test_depth_counts_below_the_surface_and_no_distance_does_not(): void
    {
        $inside = static fn (string $how): array => Maps::run([['source' => 'proximity', 'values' => ['inside' => $how, 'full' => 0.0, 'none' => 0.2, 'to' => 'ball', 'falloff' => 'linear']]], [], static function (array $d): array {
            // A small block at the middle of the ball.
            $d['props'][0]['source']['values'] = ['width' => 0.1, 'height' => 0.1, 'depth' => 0.1, 'segments' => 1];
            $d['props'][0]['place']['position'] = [0, 0.45, 0];

            return $d;
        })->weightsAt('reach', 'points', 20);
        self::assertSame(1.0, min($inside('zero')));
        // The eight corners come first.
        foreach (array_slice($inside('depth'), 0, 8) as $w) {
            self::assertEqualsWithDelta(1.0 - (0.2 - 0.05 * sqrt(3)) / 0.2, $w, self::SAGITTA / 0.2 + 1e-9);
        }
    }

    /** @return iterable<string, array{string, \Closure(float, float, float, float): float}> */
    public static function measured(): iterable
    {
        yield 'origin' => ['origin', static fn (float $x, float $y, float $z, float $c): float => hypot(hypot($x - $c, $y - 0.3), $z)];
        yield 'pieces' => ['pieces', static fn (float $x, float $y, float $z, float $c): float => hypot(hypot($x - $c, $y - 0.5), $z)];
    }

    /** The ball stands on its origin; unbroken its one piece has its middle 0.2 above that. */
    #[DataProvider('measured')]
    public function test_it_is_measured_to_what_was_chosen(string $to, \Closure $distance): void
    {
        $run = Maps::run([['source' => 'proximity', 'values' => ['to' => 'ball', 'measured' => $to, 'full' => 0.0, 'none' => 2.0, 'falloff' => 'linear']]]);
        $mesh = self::block($run);
        foreach (self::some($run->weightsAt('reach', 'points', 13)) as $i => $w) {
            self::assertEqualsWithDelta(self::linear($distance($mesh->x[$i], $mesh->y[$i], $mesh->z[$i], -2 + 0.1 * 13), 0.0, 2.0), $w, 1e-9);
        }
    }

    /** What was skipped because it could not have changed is what it would be measured anew, in whatever order frames come. */
    public function test_the_order_of_scrubbing_makes_no_difference(): void
    {
        $run = static fn (): MapRun => Maps::run([self::NEAR, ['source' => 'grain', 'values' => ['detail' => 1, 'drift' => [0.1, 0, 0]], 'operation' => 'multiply']], [['step' => 'lag', 'values' => ['half' => 0.1]], ['step' => 'latch', 'values' => []]], static function (array $d): array {
            $d['frames']['last'] = $d['props'][1]['place']['position'][0]['keys'][1]['frame'] = 12;

            return $d;
        });
        $scrubbed = $run();
        $order = range(0, 12);
        $forward = array_map(static fn (int $f): array => $scrubbed->weightsAt('reach', 'points', $f), $order);
        $random = new SeededRandom(2);
        usort($order, static fn (): int => $random->share() < 0.5 ? -1 : 1);
        foreach (array_slice($order, 0, 4) as $frame) {
            self::assertSame($forward[$frame], $scrubbed->weightsAt('reach', 'points', $frame));
            self::assertSame($forward[$frame], $run()->weightsAt('reach', 'points', $frame));
        }
    }

    /** @return iterable<string, array{string, \Closure(float, float): float}> */
    public static function operations(): iterable
    {
        yield 'add' => ['add', static fn (float $w, float $s): float => $w + $s];
        yield 'subtract' => ['subtract', static fn (float $w, float $s): float => $w - $s];
        yield 'multiply' => ['multiply', static fn (float $w, float $s): float => $w * $s];
        yield 'larger' => ['larger', max(...)];
        yield 'smaller' => ['smaller', min(...)];
        yield 'replace' => ['replace', static fn (float $w, float $s): float => $s];
    }

    #[DataProvider('operations')]
    public function test_a_source_changes_what_was_there_by_its_operation_amount_and_limit(string $operation, \Closure $of): void
    {
        $front = static fn (array $direction): array => [
            'source' => 'front',
            'values' => ['direction' => $direction, 'full' => 0.0, 'none' => 1.0, 'falloff' => 'linear'],
        ];
        $run = Maps::run([
            $front([0, 1, 0]),
            ['operation' => $operation, 'amount' => 0.7, 'invert' => true, 'within' => $front([0, 0, 1]) + ['invert' => true]] + $front([1, 0, 0]),
        ]);
        $mesh = self::block($run);
        foreach (self::some($run->weightsAt('reach', 'points', 0)) as $i => $got) {
            $w = self::linear($mesh->y[$i], 0.0, 1.0);
            $s = 1.0 - self::linear($mesh->x[$i], 0.0, 1.0);
            $limit = 1.0 - self::linear($mesh->z[$i], 0.0, 1.0);
            self::assertEqualsWithDelta(max(0.0, min(1.0, $w + 0.7 * $limit * ($of($w, $s) - $w))), $got, 1e-12);
        }
    }

    /** Whatever is stacked upon whatever, weights stay between 0 and 1, also after steps that overshoot. */
    public function test_weights_are_always_between_0_and_1(): void
    {
        $random = new SeededRandom(21);
        $pick = static fn (array $of): mixed => $of[(int) ($random->share() * count($of))];
        for ($n = 0; $n < 12; $n++) {
            $sources = [];
            for ($k = 0; $k < 4; $k++) {
                $sources[] = [
                    'source' => $pick(['proximity', 'ball', 'box', 'stripes', 'grain', 'facing', 'hollows', 'pieces']),
                    'operation' => $pick(['add', 'subtract', 'multiply', 'larger', 'smaller', 'replace']),
                    'invert' => $random->share() < 0.3,
                    'amount' => $random->between(-2, 3),
                ];
                $sources[$k]['values'] = $sources[$k]['source'] === 'proximity' ? ['to' => 'ball', 'full' => $random->share(), 'none' => $random->share()] : [];
            }
            $run = Maps::run(
                $sources,
                [['step' => $pick(['ripple', 'spread', 'lag', 'fade', 'delay', 'latch']), 'values' => []]],
                Documents::set('props/1/place/position/0/keys/1/frame', 12),
            );
            foreach ([0, 8, 9] as $frame) {
                $w = $run->weightsAt('reach', $pick(['points', 'pieces']), $frame);
                self::assertGreaterThanOrEqual(0.0, min($w));
                self::assertLessThanOrEqual(1.0, max($w));
            }
        }
    }

    /** A ball of weight that stands in the world stays behind when its prop moves; one that rides on a prop goes with that. */
    public function test_a_source_stands_in_the_world_in_its_prop_or_rides_on_another(): void
    {
        $moved = static function (array $d): array {
            $d['props'][0]['place']['position'] = [['keys' => [['frame' => 0, 'value' => 0], ['frame' => 10, 'value' => 1]]], 0, 0];
            $d['props'][0]['place']['turn'] = [0, 90, 0];
            $d['props'][0]['motion'] = ['kind' => 'keyed'];

            return $d;
        };
        $ball = ['source' => 'ball', 'values' => ['middle' => [0.5, 0.5, 0], 'full' => 0.0, 'none' => 1.0, 'falloff' => 'linear']];
        $frame = 10;
        foreach (['own' => [0.5, 0.5, 0.0], 'world' => null, 'ball' => null] as $on => $_) {
            $run = Maps::run([['on' => $on] + $ball], [], $moved);
            $mesh = self::block($run);
            foreach (self::some($run->weightsAt('reach', 'points', $frame)) as $i => $w) {
                [$x, $y, $z] = [$mesh->x[$i], $mesh->y[$i], $mesh->z[$i]];
                // A quarter turn about y takes x to −z and z to x; then one metre along x.
                $world = [$z + 1.0, $y, -$x];
                $d = match ($on) {
                    'own' => hypot(hypot($x - 0.5, $y - 0.5), $z),
                    'world' => hypot(hypot($world[0] - 0.5, $world[1] - 0.5), $world[2]),
                    // The ball's origin is at x = −1, 0.3 up.
                    default => hypot(hypot($world[0] + 1.0 - 0.5, $world[1] - 0.3 - 0.5), $world[2]),
                };
                self::assertEqualsWithDelta(self::linear($d, 0.0, 1.0), $w, 1e-9, $on);
            }
        }
    }

    public function test_values_are_keyed_and_tied_to_cues(): void
    {
        $run = Maps::run(
            [[
                'source' => 'front',
                'values' => [
                    'direction' => [0, 1, 0],
                    'full' => ['keys' => [['cue' => 'go', 'offset' => 2, 'value' => 0.0], ['frame' => 20, 'value' => 1.0]]],
                    'none' => 5.0,
                    'falloff' => 'linear',
                ],
            ]],
            [],
            static fn (array $d): array => ['cues' => [['id' => 'go', 'name' => 'Go', 'at' => ['on' => 'frame', 'frame' => 8]]]] + $d,
        );
        $mesh = self::block($run);
        $full = 0.5;
        foreach (self::some($run->weightsAt('reach', 'points', 15)) as $i => $w) {
            self::assertEqualsWithDelta(self::linear($mesh->y[$i], $full, 5.0), $w, 1e-12);
        }
    }

    /** Top of a box: looks up, so all of its inner points are full; its sides are at a right angle and none. */
    public function test_facing_goes_by_the_angle_of_the_surface(): void
    {
        $run = Maps::run([['source' => 'facing', 'values' => ['direction' => [0, 0.5, 0], 'full' => 10, 'none' => 80]]]);
        $mesh = self::block($run);
        $seen = [0, 0];
        foreach (self::some($run->weightsAt('reach', 'points', 0)) as $i => $w) {
            $edge = static fn (float $v): bool => abs(abs($v) - 0.5) < 1e-9;
            if (abs($mesh->y[$i] - 1.0) < 1e-9 && ! $edge($mesh->x[$i]) && ! $edge($mesh->z[$i])) {
                self::assertSame(1.0, $w);
                $seen[0]++;
            } elseif ($mesh->y[$i] > 0.01 && $mesh->y[$i] < 0.99) {
                self::assertSame(0.0, $w);
                $seen[1]++;
            }
        }
        self::assertGreaterThan(20, min($seen));
    }

    /** The inner angle of an L is a hollow, its outer corners are not, and a flat side is neither. */
    public function test_hollows_are_where_the_surface_stands_above_its_own_plane(): void
    {
        $run = Maps::run([['source' => 'hollows', 'values' => ['size' => 0.2, 'full' => 0.2, 'none' => 0.05]]], [], static function (array $d): array {
            $d['props'][0]['source'] = [
                'kind' => 'shape',
                'shape' => 'lathe',
                'values' => [
                    'segments' => 48,
                    'profile' => [
                        [0, 0], [0.6, 0], [0.6, 0.1], [0.6, 0.2], [0.5, 0.2], [0.4, 0.2], [0.3, 0.2], [0.2, 0.2], [0.2, 0.3], [0.2, 0.4], [0.2, 0.6],
                        [0, 0.6],
                    ],
                ],
            ];

            return $d;
        });
        $mesh = self::block($run);
        foreach (self::some($run->weightsAt('reach', 'points', 0)) as $i => $w) {
            $r = round(hypot($mesh->x[$i], $mesh->z[$i]), 3);
            if ($r === 0.2 && abs($mesh->y[$i] - 0.2) < 1e-9) {
                self::assertGreaterThan(0.9, $w, 'in the angle');
            } elseif ($r === 0.6) {
                self::assertSame(0.0, $w, 'on the rim');
            }
        }
    }

    /**
     * On a ball of radius R all of the surface lies below the plane at a point: at the distance d by the sine d / 2R (Thales). Over
     * the cap within s, whose area grows as d², that is s / 3R in the mean.
     */
    public function test_how_sunk_a_ball_is_follows_from_its_radius(): void
    {
        $run = Maps::run([['source' => 'hollows', 'values' => ['size' => 0.12, 'full' => 1, 'none' => -1]]], [], static function (array $d): array {
            $d['props'][0]['source'] = ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.3, 'detail' => 40]];

            return $d;
        });
        $sunk = array_map(static fn (float $w): float => 2 * $w - 1, self::some($run->weightsAt('reach', 'points', 0)));
        self::assertEqualsWithDelta(-0.12 / 0.9, array_sum($sunk) / count($sunk), 0.003);
        // Each sees its own sample of some 60 points.
        self::assertGreaterThan(-0.12 / 0.9 - 0.035, min($sunk));
        self::assertLessThan(-0.12 / 0.9 + 0.035, max($sunk));
    }

    /** Three full of eight pieces by rank, the fourth half way. */
    public function test_pieces_come_one_after_the_other(): void
    {
        $run = Maps::run([[
            'source' => 'pieces',
            'values' => ['order' => 'near', 'from' => [-9, 0.5, 0], 'share' => 0.4, 'soft' => 0.0],
        ]], [], static function (array $d): array {
            $d['props'][0]['break'] = ['pattern' => 'tiles', 'values' => ['grid' => [5, 1, 1]]];

            return $d;
        });
        $pieces = $run->pointsOf('block', MapRun::PIECES);
        $order = $pieces->x;
        asort($order);
        $w = $run->weightsAt('reach', 'pieces', 0);
        self::assertSame([1.0, 1.0, 0.0, 0.0, 0.0], array_map(static fn (int $i): float => $w[$i], array_keys($order)));
        // The points of a piece have what it has.
        $points = $run->pointsOf('block', MapRun::SURFACE);
        foreach (self::some($run->weightsAt('reach', 'points', 0)) as $i => $at) {
            self::assertSame($w[$points->pieceOf()[$i]], $at);
        }
    }

    public function test_a_region_is_what_was_picked(): void
    {
        $run = Maps::run([['source' => 'region', 'values' => ['points' => [3, 9], 'faces' => [20]]]]);
        $mesh = self::block($run);
        $want = array_fill_keys([3, 9, ...array_slice($mesh->faces, 60, 3)], true);
        foreach (self::some($run->weightsAt('reach', 'points', 5)) as $i => $w) {
            self::assertSame(isset($want[$i]) ? 1.0 : 0.0, $w);
        }
    }

    /** The block is a metre wide and stands at the origin: which corner and edge lie nearest is plain. */
    public function test_pins_take_the_nearest_corner_and_edge(): void
    {
        $run = Maps::run([['source' => 'pins', 'values' => ['corners' => [[0.6, 1.1, 0.6]], 'edges' => [[-0.55, 0.4, -0.5]], 'reach' => 0.25]]]);
        $mesh = self::block($run);
        foreach (self::some($run->weightsAt('reach', 'points', 5)) as $i => $w) {
            $off = min(
                sqrt(($mesh->x[$i] - 0.5) ** 2 + ($mesh->y[$i] - 1.0) ** 2 + ($mesh->z[$i] - 0.5) ** 2),
                hypot($mesh->x[$i] + 0.5, $mesh->z[$i] + 0.5),
            );
            self::assertEqualsWithDelta(max(0.0, 1.0 - $off / 0.25), $w, 1e-6);
        }
        $none = Maps::run([['source' => 'pins', 'values' => []]])->weightsAt('reach', 'points', 0);
        self::assertSame(0.0, max($none), 'nothing is picked yet');
    }

    /** A crate of a metre, in centimetres and with z up: its floor is a group of the file, its lid of a material. */
    public function test_a_region_goes_by_groups_and_materials_of_the_file(): void
    {
        $asset = str_repeat('c', 64);
        file_put_contents(
            $path = sys_get_temp_dir().'/'.$asset,
            "v 0 0 0\nv 100 0 0\nv 100 100 0\nv 0 100 0\nv 0 0 100\nv 100 0 100\nv 100 100 100\nv 0 100 100\ng floor\nf 4 3 2 1\ng rest\nusemtl glaze\nf 5 6 7 8\nusemtl clay\nf 1 2 6 5\nf 2 3 7 6\nf 3 4 8 7\nf 4 1 5 8\n",
        );
        try {
            foreach (['groups' => ['floor', 0.0], 'materials' => ['glaze', 1.0]] as $by => [$name, $y]) {
                $run = static fn (string $name): MapRun => Maps::run([['source' => 'region', 'values' => [$by => [$name]]]], [], static function (array $d) use ($asset): array {
                    $d['props'][0]['source'] = ['kind' => 'mesh', 'asset' => $asset, 'file' => 'crate.obj', 'up' => 'z', 'unit' => 'cm'];

                    return $d;
                });
                $mesh = self::block($run($name));
                foreach ($run($name)->weightsAt('reach', 'points', 3) as $i => $w) {
                    self::assertSame(abs($mesh->y[$i] - $y) < 1e-9 ? 1.0 : 0.0, $w, "$by, point $i");
                }
                try {
                    $run('gone')->weightsAt('reach', 'points', 0);
                    self::fail('There is none of that name.');
                } catch (Problem $e) {
                    self::assertStringContainsString('has no '.rtrim($by, 's').' "gone"', $e->getMessage());
                    self::assertStringContainsString($name, (string) $e->remedy);
                }
            }
        } finally {
            unlink($path);
        }
    }

    /** A left half black, a right half white picture thrown along −z: what lies right of the middle is full. */
    public function test_a_picture_is_thrown_on(): void
    {
        $asset = str_repeat('a', 64);
        $run = Maps::run(
            [[
                'source' => 'picture',
                'values' => ['pictures' => [['frame' => 0, 'asset' => $asset, 'file' => 'half.png']], 'middle' => [0, 0.5, 0], 'width' => 1.0],
            ]],
            [],
            null,
            [$asset => new Picture(4, 4, str_repeat("\0\0\xFF\xFF", 4))],
        );
        $mesh = self::block($run);
        foreach (self::some($run->weightsAt('reach', 'points', 0)) as $i => $w) {
            // Between the two middle columns of pixels it goes evenly.
            self::assertEqualsWithDelta(max(0.0, min(1.0, 4.0 * $mesh->x[$i] + 0.5)), $w, 1e-9);
        }
    }

    /** One dab of the full strength: (1 − d²/r²)² on the side it looks from; erased it is gone, mirrored it is on both sides. */
    public function test_a_brush_leaves_what_its_dabs_left(): void
    {
        $dab = [0.25, 1.0, 0.1, 0.0, 1.0, 0.0];
        $stroke = ['how' => 'paint', 'size' => 0.3, 'strength' => 1.0, 'dabs' => [$dab]];
        $run = Maps::run([['source' => 'brush', 'values' => ['strokes' => [$stroke]]]]);
        $mesh = self::block($run);
        $share = static fn (int $i, float $x): float => max(
            0.0,
            1.0 - (($mesh->x[$i] - $x) ** 2 + ($mesh->y[$i] - 1.0) ** 2 + ($mesh->z[$i] - 0.1) ** 2) / 0.09,
        ) ** 2;
        $painted = $run->weightsAt('reach', 'points', 0);
        self::assertGreaterThan(0.5, max($painted));
        foreach ($painted as $i => $w) {
            self::assertEqualsWithDelta($mesh->y[$i] > 0.999 ? $share($i, 0.25) : $w, $w, 1e-12);
            self::assertTrue($w === 0.0 || $mesh->y[$i] > 0.7);
        }
        foreach (Maps::run([['source' => 'brush', 'values' => ['strokes' => [['mirror' => 'x'] + $stroke]]]])->weightsAt('reach', 'points', 0) as $i => $w) {
            if ($mesh->y[$i] > 0.999) {
                self::assertEqualsWithDelta(1.0 - (1.0 - $share($i, 0.25)) * (1.0 - $share($i, -0.25)), $w, 1e-12);
            }
        }
        $erased = Maps::run([[
            'source' => 'brush',
            'values' => ['strokes' => [$stroke, ['how' => 'erase', 'size' => 5.0] + $stroke]],
        ]])->weightsAt('reach', 'points', 0);
        self::assertLessThan(0.01, max($erased));
        $smoothed = Maps::run([[
            'source' => 'brush',
            'values' => ['strokes' => [$stroke, ['how' => 'smooth', 'size' => 5.0] + $stroke]],
        ]])->weightsAt('reach', 'points', 0);
        self::assertLessThan(max($painted), max($smoothed));
        self::assertGreaterThan(count(array_filter($painted)), count(array_filter($smoothed)), 'what was beside takes some of it');
    }

    /** One stroke more, or an undone one less, on what was kept gives what all of them give anew, to the last bit; the strokes before are not walked again. */
    public function test_strokes_are_folded_into_what_they_amount_to(): void
    {
        $strokes = [];
        foreach (range(0, 8) as $k) {
            $strokes[] = [
                'how' => ['paint', 'smooth', 'erase'][$k % 3],
                'size' => 0.2 + 0.05 * $k,
                'strength' => 0.3 + 0.05 * $k,
                'mirror' => ['', 'x'][$k % 2],
                'dabs' => [[0.3 - 0.1 * $k, 1.0, 0.05 * $k, 0.0, 1.0, 0.0], [0.5, 0.5, 0.1 * $k - 0.3, 1.0, 0.0, 0.0]],
            ];
        }
        /** @var \ArrayObject<string, list<float>> $kept */
        $kept = new \ArrayObject;
        $with = static fn (array $some): array => Maps::of(
            Maps::json([['source' => 'brush', 'values' => ['strokes' => $some]]]),
            [],
            $kept,
        )->weightsAt('reach', 'points', 0);
        foreach ([5, 6, 9, 8, 7, 9] as $count) {
            $some = array_slice($strokes, 0, $count);
            self::assertSame(Maps::run([['source' => 'brush', 'values' => ['strokes' => $some]]])->weightsAt('reach', 'points', 0), $with($some));
        }
        self::assertCount(5, $kept, 'one for each number of strokes');
        // What is kept is what is gone on from.
        foreach ($kept as $of => $weights) {
            $kept[$of] = array_fill(0, count($weights), 0.25);
        }
        self::assertSame(0.25, min($with($strokes)));
        // Another stroke in the middle has nothing in common with what was kept of those after it.
        $strokes[2]['strength'] = 0.9;
        self::assertSame(Maps::run([['source' => 'brush', 'values' => ['strokes' => $strokes]]])->weightsAt('reach', 'points', 0), $with($strokes));
    }

    /** 400 strokes of 30 dabs: what 41 frames of their map depend on is told without walking them 41 times. */
    public function test_what_many_strokes_depend_on_is_found_once(): void
    {
        $dabs = array_map(static fn (int $k): array => [0.01 * $k, 1.0, 0.0, 0.0, 1.0, 0.0], range(0, 29));
        $strokes = array_fill(0, 400, ['how' => 'paint', 'size' => 0.2, 'strength' => 0.5, 'dabs' => $dabs]);
        $run = Maps::run([['source' => 'brush', 'values' => ['strokes' => $strokes]]]);
        self::assertLessThan(100_000, strlen(serialize($run->map('reach')->layers[0]->values->at(0.0))));
        self::assertSame(1, count(array_unique($run->keys('reach', 'points'))));
        self::assertNotSame(
            $run->keys('reach', 'points')[0],
            Maps::run([['source' => 'brush', 'values' => ['strokes' => array_slice($strokes, 1)]]])->keys('reach', 'points')[0],
        );
    }

    /** The map of the ball, full on its half towards −x, taken over by the block as the ball passes: each point has that of the nearest place. */
    public function test_the_map_of_another_prop_is_taken_over_by_the_nearest_place(): void
    {
        $run = Maps::run([['source' => 'map', 'values' => ['map' => 'half']]], [], static function (array $d): array {
            $d['props'][1]['weights'] = [[
                'id' => 'half',
                'name' => 'Half',
                'sources' => [['source' => 'front', 'values' => ['direction' => [1, 0, 0], 'full' => 0.0, 'none' => 0.0001]]],
            ]];

            return $d;
        });
        $mesh = self::block($run);
        foreach ([0 => 0.0, 40 => 1.0] as $frame => $want) {
            foreach (self::some($run->weightsAt('reach', 'points', $frame)) as $i => $w) {
                if (abs($mesh->x[$i]) < 0.45) {
                    // From −2 the block lies on the ball's +x side, from 2 on the other.
                    self::assertEqualsWithDelta($want, $w, 1e-12);
                }
            }
        }
    }

    /** Names of maps are told apart by their ids, and whatever is wrong is said with its place. */
    #[DataProvider('faults')]
    public function test_what_is_wrong_is_said_with_its_place(\Closure $change, string $path, string $message): void
    {
        try {
            Maps::run([self::NEAR], [], $change)->weightsAt('reach', 'points', 20);
            self::fail('nothing was said');
        } catch (Problem $e) {
            self::assertStringContainsString($message, $e->getMessage());
            self::assertSame($path, $e->path);
        }
    }

    /** @return iterable<string, array{\Closure, string, string}> */
    public static function faults(): iterable
    {
        $also = static fn (string $id, string $name, array $source): \Closure => static function (array $d) use ($id, $name, $source): array {
            $d['props'][0]['weights'][] = ['id' => $id, 'name' => $name, 'sources' => [$source]];

            return $d;
        };
        $first = static fn (array $source): \Closure => Documents::set('props/0/weights/0/sources/0', $source);
        yield 'two of one name' => [
            $also('b', 'reach', ['source' => 'ball', 'values' => new \stdClass]),
            'props[0].weights[1].name',
            'Two weight maps are called "reach".',
        ];
        yield 'two of one id' => [$also('reach', 'Other', ['source' => 'ball', 'values' => new \stdClass]), 'props[0].weights[1].id', 'the same id'];
        yield 'itself' => [$first(['source' => 'map', 'values' => ['map' => 'reach']]), 'props[0].weights[0].sources', 'The map "Reach" takes over itself.'];
        yield 'a circle' => [
            static fn (array $d): array => $also(
                'b',
                'Other',
                ['source' => 'ball', 'values' => new \stdClass, 'within' => ['source' => 'map', 'values' => ['map' => 'reach']]],
            )($first(['source' => 'map', 'values' => ['map' => 'b']])($d)),
            'props[0].weights[0].sources',
            'The maps "Reach", "Other" take over each other in a circle.',
        ];
        yield 'a map that is gone' => [
            $first(['source' => 'map', 'values' => ['map' => 'gone']]),
            'props[0].weights[0].sources[0]',
            'takes over a map that is not there',
        ];
        yield 'a prop that is gone' => [
            $first(['source' => 'proximity', 'values' => ['to' => 'gone']]),
            'props[0].weights[0].sources[0]',
            'looks at a prop that is not there',
        ];
        yield 'no prop yet' => [
            $first(['source' => 'proximity', 'values' => new \stdClass]),
            'props[0].weights[0].sources[0].values.to',
            'measured to no prop yet',
        ];
        yield 'a hidden prop' => [static function (array $d): array {
            $d['props'][1]['hidden'] = true;

            return $d;
        }, 'props[0].weights[0].sources[0]', 'is hidden'];
        yield 'an empty region' => [
            $first(['source' => 'region', 'values' => new \stdClass]),
            'props[0].weights[0].sources[0].values.points',
            'Nothing is picked',
        ];
        yield 'an unreadable picture' => [
            $first(['source' => 'picture', 'values' => ['pictures' => [['frame' => 3, 'asset' => str_repeat('0', 64), 'file' => 'mask.0003.png']]]]),
            'props[0].weights[0].sources[0].pictures',
            'The picture "mask.0003.png" (frame 3) cannot be read',
        ];
        yield 'an unknown source' => [
            $first(['source' => 'moon', 'values' => new \stdClass]),
            'props[0].weights[0].sources[0].source',
            'no source of weights called "moon"',
        ];
        yield 'an unknown step' => [
            Documents::set('props/0/weights/0/inTime', [['step' => 'dance', 'values' => new \stdClass]]),
            'props[0].weights[0].inTime[0].step',
            'cannot "dance" in time',
        ];
        yield 'a value out of range' => [
            $first(['source' => 'grain', 'values' => ['balance' => 7]]),
            'props[0].weights[0].sources[0].values.balance',
            'between 0 and 1',
        ];
        yield 'a key out of range' => [
            $first(['source' => 'grain', 'values' => ['balance' => ['keys' => [['frame' => 1, 'value' => 7]]]]]),
            'props[0].weights[0].sources[0].values.balance.keys[0].value',
            'between 0 and 1',
        ];
        yield 'no direction at a frame' => [
            $first(['source' => 'front', 'values' => ['direction' => [['keys' => [['frame' => 0, 'value' => 1], ['frame' => 20, 'value' => 0]]], 0, 0]]]),
            'props[0].weights[0].sources[0].values.direction',
            'has no length',
        ];
        yield 'a broken stroke' => [
            $first(['source' => 'brush', 'values' => ['strokes' => [['how' => 'paint', 'size' => 0.1, 'dabs' => [[1, 2, 3]]]]]]),
            'props[0].weights[0].sources[0].values.strokes[0].dabs',
            'six numbers',
        ];
    }

    public function test_maps_are_kept_in_a_document_as_they_were(): void
    {
        $shot = ShotSpec::fromJson(Maps::json([self::NEAR], [['step' => 'latch', 'values' => []]]));
        self::assertSame('props[0].weights[0]', $shot->pathOfMap('reach'));
        self::assertSame('block', $shot->map('reach')?->prop);
        self::assertNull($shot->map('other'));
        self::assertSame(['ball'], $shot->map('reach')->props());
        self::assertTrue($shot->map('reach')->remembers());
    }

    /**
     * Every seventh, and the corners of the block.
     *
     * @param  list<float>  $weights
     * @return array<int, float>
     */
    private static function some(array $weights): array
    {
        return array_filter($weights, static fn (int $i): bool => $i < 8 || $i % 7 === 0, ARRAY_FILTER_USE_KEY);
    }

    private static function block(MapRun $run): Mesh
    {
        return $run->pointsOf('block', MapRun::SURFACE)->mesh ?? self::fail('it has no mesh');
    }

    private static function toBall(Mesh $m, int $i, int $frame): float
    {
        return hypot(hypot($m->x[$i] - (-2.0 + 0.1 * $frame), $m->y[$i] - 0.5), $m->z[$i]);
    }

    private static function linear(float $d, float $full, float $none): float
    {
        return max(0.0, min(1.0, ($none - $d) / ($none - $full)));
    }
}
