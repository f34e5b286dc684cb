<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Dust;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Dust\Chip\Chips;
use YardBreak\Core\Dust\Chip\ChipShape;
use YardBreak\Core\Dust\Chip\ChipShapes;
use YardBreak\Core\Dust\Grain;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Bake\Trials;

/** Small bodies with a shape, from where they burst to where they lie. */
final class ChipsTest extends TestCase
{
    private const G = 9.80665;

    /** A cube of side 1 turns like 6/m about any axis and lies on six faces half a side off; a regular tetrahedron on four, edge/√24 off. */
    public function test_shapes_turn_and_lie_as_their_form_says(): void
    {
        $cube = ChipShape::of(ChipShapes::mesh('cube'));
        self::assertEqualsWithDelta([6.0, 6.0, 6.0, 0.0, 0.0, 0.0], $cube->inverse, 1e-9);
        self::assertCount(6, $cube->rests);
        self::assertEqualsWithDelta(0.5, $cube->rests[0][3], 1e-9);
        // Over an edge its middle rises from ½ to √½.
        self::assertEqualsWithDelta(sqrt(0.5) - 0.5, $cube->tips, 1e-9);

        $tetrahedron = ChipShape::of(ChipShapes::mesh('tetrahedron'));
        self::assertCount(4, $tetrahedron->rests);
        // Its box has the side 1, its edges √2.
        self::assertEqualsWithDelta(sqrt(2.0 / 24.0), $tetrahedron->rests[0][3], 1e-9);
        self::assertEqualsWithDelta(1.0 / 3.0, $tetrahedron->volume, 1e-9);
    }

    /** Dropped from any turn with any spin, every shape comes to lie on one of its faces, that far above the ground, and stays. */
    public function test_whatever_falls_comes_to_lie_on_a_face(): void
    {
        foreach (['cube', 'splinter', 'flake', 'tetrahedron'] as $name) {
            $shape = ChipShape::of(ChipShapes::mesh($name));
            $random = new SeededRandom(4);
            $chips = new Chips;
            for ($k = 0; $k < 60; $k++) {
                $turn = self::turn($random);
                $chips->add(new Vec3(0.1 * $k, $random->between(0.1, 0.6), 0.0), new Vec3($random->between(-1, 1), 0, $random->between(-1, 1)), $turn, new Vec3($random->between(-9, 9), $random->between(-9, 9), $random->between(-9, 9)), 0.02, 100.0, 0, 0.0);
            }
            for ($f = 0; $f < 96; $f++) {
                self::fly($chips, $shape, self::grain(['shape' => $name]));
                foreach ($chips->y as $y) {
                    self::assertGreaterThan(0.0, $y, $name);
                }
            }
            $heights = array_map(static fn (array $rest): float => 0.02 * $rest[3], $shape->rests);
            foreach ($chips->y as $i => $y) {
                self::assertTrue($chips->isLying($i), "$name $i lies");
                self::assertLessThan(1e-9, min(array_map(static fn (float $h): float => abs($h - $y), $heights)), "$name $i lies on a face");
            }
        }
    }

    /** One impulse at a corner leaves it no more energy than it had, whatever the bounce, and friction takes some. */
    public function test_no_hit_on_the_ground_adds_energy(): void
    {
        $shape = ChipShape::of(ChipShapes::mesh('cube'));
        $random = new SeededRandom(9);
        for ($k = 0; $k < 200; $k++) {
            $chips = new Chips;
            $chips->add(new Vec3(0, 0.05, 0), new Vec3($random->between(-3, 3), -3.0, $random->between(-3, 3)), self::turn($random), new Vec3($random->between(-60, 60), $random->between(-60, 60), 0), 0.05, 9.0, 0, 0.0);
            $before = INF;
            for ($f = 0; $f < 12; $f++) {
                self::fly($chips, $shape, self::grain(['shape' => 'cube', 'bounce' => 1.0, 'density' => 30000.0]), 1 / 240);
                // A cube's moment is the same about any axis: 1/6·m·a².
                $energy = self::G * $chips->y[0] + 0.5 * ($chips->vx[0] ** 2 + $chips->vy[0] ** 2 + $chips->vz[0] ** 2) + self::spinEnergy($chips, 0.05);
                // A step out of the ground lifts it by as much as it fell into it.
                self::assertLessThan($before + self::G * 0.02, $energy);
                $before = $energy;
            }
        }
    }

    /** In free flight a heavy chip falls as anything does. */
    public function test_it_falls_freely(): void
    {
        $chips = new Chips;
        $chips->add(new Vec3(0, 100, 0), Vec3::zero(), [0.0, 0.0, 0.0, 1.0], Vec3::zero(), 0.2, 9.0, 0, 0.0);
        for ($f = 0; $f < 24; $f++) {
            self::fly($chips, ChipShape::of(ChipShapes::mesh('cube')), self::grain(['shape' => 'cube', 'density' => 20000.0]));
        }
        self::assertEqualsWithDelta(100.0 - 0.5 * self::G, $chips->y[0], 0.01);
    }

    /** What it is written as is read back, within a step of the box and of the turn. */
    public function test_what_is_written_is_read_back(): void
    {
        $random = new SeededRandom(2);
        $chips = new Chips;
        $turns = [];
        for ($k = 0; $k < 50; $k++) {
            $turns[] = self::turn($random);
            $chips->add(new Vec3($random->between(-1, 1), $random->between(0, 2), $random->between(5, 6)), Vec3::zero(), $turns[$k], Vec3::zero(), $random->between(0.01, 0.04), 1.0, $k % 4, 0.0);
        }
        $bytes = $chips->bytes();
        self::assertSame(50, Chips::countIn($bytes));
        foreach ([...Chips::read($bytes)] as $k => [$x, $y, $z, $size, $age, $of, $turn]) {
            self::assertEqualsWithDelta([$chips->x[$k], $chips->y[$k], $chips->z[$k]], [$x, $y, $z], 1e-4);
            self::assertEqualsWithDelta($chips->sizeOf($k), $size, 1e-3);
            self::assertSame(0.0, $age);
            self::assertSame($k % 4, $of);
            self::assertEqualsWithDelta($turns[$k], $turn, 1e-4);
        }
    }

    /** A burst goes off once, at its frame; all of a sphere within what the fastest reach, none within what the slowest do. */
    public function test_a_burst_goes_off_once_with_its_inner_edge_following_the_outer(): void
    {
        $frames = self::baked(['from' => 'burst', 'values' => ['form' => 'sphere', 'frame' => 3, 'count' => 500, 'inner' => 0.5, 'speed' => 4, 'shape' => 'cube', 'density' => 20000, 'size' => 30, 'varies' => 0, 'life' => 100, 'meets' => 'nothing', 'keeps' => 0]], 9);
        self::assertSame([0, 500, 500], [$frames[2]->figures['grains'], $frames[3]->figures['grains'], $frames[9]->figures['grains']]);
        $fall = 0.5 * self::G * (6 / 24) ** 2;
        foreach (self::chips($frames[9]) as [$x, $y, $z]) {
            $far = sqrt($x ** 2 + ($y - 2.0 + $fall) ** 2 + $z ** 2);
            self::assertGreaterThan(0.5 * 4.0 * 6 / 24 * 0.98, $far);
            self::assertLessThan(4.0 * 6 / 24 * 1.01, $far);
        }
    }

    /** A ring stays in its plane, a fan within its angle, a streak within its cone. */
    public function test_bursts_have_their_form(): void
    {
        foreach (['ring', 'fan', 'streak'] as $form) {
            $frames = self::baked(['from' => 'burst', 'values' => ['form' => $form, 'towards' => [1, 0, 0], 'wide' => 40, 'frame' => 0, 'count' => 300, 'speed' => 4, 'inner' => 0.9, 'shape' => 'cube', 'density' => 30000, 'size' => 50, 'varies' => 0, 'life' => 100, 'meets' => 'nothing', 'keeps' => 0]], 4, ['gravity' => [0, 0, 0]]);
            foreach (self::chips($frames[4]) as [$x, $y, $z]) {
                $off = sqrt(($y - 2.0) ** 2 + $z ** 2);
                if ($form === 'ring') {
                    self::assertEqualsWithDelta(0.0, $x, 1e-3);
                    self::assertGreaterThan(0.5, $off);
                } else {
                    self::assertLessThan(tan(deg2rad(20.1)) * $x + 1e-3, $off);
                }
            }
        }
    }

    /** A burst tied to a cue goes off at it; one tied to a touch, where the bake finds that. */
    public function test_a_burst_goes_off_at_a_cue(): void
    {
        $dust = ['from' => 'burst', 'values' => ['frame' => ['cue' => 'hit', 'offset' => 2], 'count' => 40, 'life' => 100]];
        $frames = self::baked($dust, 24, [], ['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]], [['id' => 'hit', 'name' => 'Hit', 'at' => ['on' => 'touch', 'one' => 'box', 'other' => 'ground', 'speed' => 0.5]]]);
        $found = null;
        foreach ($frames as $frame) {
            $found ??= $frame->anchored['hit'] ?? null;
        }
        self::assertNotNull($found);
        foreach ($frames as $frame) {
            self::assertSame($frame->number >= $found + 2.0 ? 40 : 0, $frame->figures['grains'], "frame $frame->number");
        }
    }

    public function test_each_hit_makes_a_burst(): void
    {
        $frames = self::baked(['from' => 'burst', 'values' => ['goes' => 'at-each-hit', 'from' => 20, 'count' => 25, 'life' => 100]], 30, [], ['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]]);
        self::assertSame(0, $frames[12]->figures['grains']);
        self::assertGreaterThanOrEqual(25, $frames[30]->figures['grains']);
        self::assertSame(0, $frames[30]->figures['grains'] % 25);
    }

    /** Ten by ten cells of a box's side, 3 cm apart: each flung once, as the ring passes its middle. */
    public function test_a_grid_is_flung_cell_by_cell_as_the_ring_passes(): void
    {
        $frames = self::baked(['from' => 'grid', 'values' => ['columns' => 10, 'rows' => 10, 'axis' => [0, 0, 1], 'at' => [0, 0.15, 0.15], 'frame' => 2, 'wave' => 1.2, 'speed' => 0, 'keeps' => 0, 'life' => 100, 'meets' => 'nothing', 'density' => 30000, 'size' => 100, 'varies' => 0]], 9, ['gravity' => [0, 0, 0]]);
        foreach ($frames as $frame) {
            $within = 0;
            for ($k = 0; $k < 100; $k++) {
                $far = sqrt((0.03 * ($k % 10) - 0.135) ** 2 + (0.03 * intdiv($k, 10) - 0.135) ** 2);
                $within += $far <= 1.2 * ($frame->number - 2) / 24 + 1e-9 ? 1 : 0;
            }
            self::assertSame($within, $frame->figures['grains'], "frame $frame->number");
        }
        self::assertSame(100, $frames[9]->figures['grains']);
    }

    /** Through a box evenly: an eighth in each octant, and as many within half its sides of the middle. */
    public function test_a_volume_goes_over_evenly(): void
    {
        $front = ['id' => 'go', 'name' => 'Go', 'sources' => [Trials::source('front', ['point' => [9, 0, 0], 'direction' => [1, 0, 0]])]];
        $frames = self::baked(['from' => 'map', 'values' => ['map' => 'go', 'from' => 'volume', 'grains' => 4000, 'speed' => 0, 'keeps' => 0, 'life' => 100, 'meets' => 'nothing', 'shape' => 'cube', 'size' => 10]], 1, ['gravity' => [0, 0, 0]], ['weights' => [$front]]);
        $all = [...self::chips($frames[0])];
        self::assertCount(4000, $all);
        $inner = array_filter($all, static fn (array $p): bool => max(abs($p[0]), abs($p[1] - 2.15), abs($p[2])) < 0.075);
        self::assertEqualsWithDelta(500, count($inner), 70, 'three standard deviations');
        self::assertEqualsWithDelta(500, count(array_filter($all, static fn (array $p): bool => $p[0] > 0 && $p[1] > 2.15 && $p[2] > 0)), 70);
    }

    public function test_chips_like_a_prop_that_is_not_there_are_refused_with_their_place(): void
    {
        try {
            self::baked(['from' => 'burst', 'values' => ['shape' => 'prop', 'prop' => 'nobody']], 1);
            self::fail('nobody is there');
        } catch (Problem $e) {
            self::assertSame('props[0].dust[0].values.prop', $e->path);
        }
    }

    /** @param  array<string, mixed>  $values */
    private static function grain(array $values): Grain
    {
        return Grain::of(Option::resolve(Grain::options(), $values));
    }

    private static function fly(Chips $chips, ChipShape $shape, Grain $grain, float $span = 1 / 24): void
    {
        $none = array_fill(0, $chips->count(), 0.0);
        $chips->move($span, [$grain], [$shape], new Vec3(0.0, -self::G, 0.0), [$none, $none, $none], null, 1.225, 0.0, static fn (int $i): array => [[0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.5]]);
    }

    private static function spinEnergy(Chips $chips, float $side): float
    {
        $spin = (static fn (Chips $c): array => [$c->wx[0], $c->wy[0], $c->wz[0]])->bindTo(null, Chips::class)($chips);

        return $side ** 2 / 12.0 * ($spin[0] ** 2 + $spin[1] ** 2 + $spin[2] ** 2);
    }

    /** @return array{float, float, float, float} */
    private static function turn(SeededRandom $random): array
    {
        $q = Quaternion::aboutAxis((new Vec3($random->between(-1, 1), $random->between(-1, 1), $random->between(0.1, 1)))->unit(), $random->between(0, 3.1));

        return [$q->x, $q->y, $q->z, $q->w];
    }

    /**
     * @param  array<string, mixed>  $dust
     * @param  array<string, mixed>  $world
     * @param  array<string, mixed>  $box
     * @param  list<array<string, mixed>>  $cues
     * @return list<Frame>
     */
    private static function baked(array $dust, int $last, array $world = [], array $box = [], array $cues = []): array
    {
        $d = Trials::document([Trials::box('box', [0, 2, 0], $box + ['dust' => [['id' => 'dust', 'name' => 'Dust', 'values' => (object) $dust['values']] + $dust]])], ['frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]], 'cues' => $cues]);
        $d['world'] = $world + $d['world'];

        return iterator_to_array(Trials::ready($d)->frames(), false);
    }

    /** @return iterable<array{float, float, float, float, float, int, array{float, float, float, float}}> */
    private static function chips(Frame $frame): iterable
    {
        return Chips::read($frame->stream(0, \YardBreak\Core\Motion\StreamKind::Chips));
    }
}
