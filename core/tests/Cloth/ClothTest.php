<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Cloth;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Tests\Bake\Trials;

/** Cloth against closed forms, on more than one mesh. */
final class ClothTest extends TestCase
{
    private const G = 9.80665;

    /** What falls freely falls as anything does: the fault that every static test passes. */
    public function test_free_fall(): void
    {
        $frames = self::baked(self::sheet(12), 12);
        // Half of m·v², with v = g·t, of 0.3 kg.
        self::assertEqualsWithDelta(0.5 * 0.3 * (0.5 * self::G) ** 2, $frames[12]->figures['energy'], 0.01 * 0.5 * 0.3 * (0.5 * self::G) ** 2);
        self::assertSame([1, 0], [$frames[12]->figures['moving'], $frames[12]->figures['resting']]);
        $rest = self::points($frames[0]);
        foreach (self::points($frames[12]) as $k => [$x, $y]) {
            self::assertEqualsWithDelta($rest[$k][1] - 0.5 * self::G * 0.25, $y, 0.01 * 0.5 * self::G * 0.25);
            self::assertEqualsWithDelta($rest[$k][0], $x, 1e-4);
        }
    }

    /** A sheet hung by its upper edge is drawn out by ρgL/2k on the mean (its own weight, from none below to all of it above). */
    public function test_a_hung_sheet_stretches_by_its_weight_on_any_mesh(): void
    {
        $long = 0.5 * 0.3 * self::G / 2000.0;
        foreach ([10, 24] as $segments) {
            $sheet = self::sheet($segments, ['hold' => 'top', 'damping' => 0.02, 'itself' => 'no', 'steps' => 12]);
            $sheet['place']['turn'] = [0, 0, 0];
            $frames = self::baked($sheet, 60);
            $ys = array_column(self::points($frames[60]), 1);
            self::assertEqualsWithDelta($long, max($ys) - min($ys) - 1.0, 0.1 * $long, "$segments to the side");
        }
    }

    /**
     * Hung by its upper edge it swings in its first mode as a hanging chain does: J₀(2.4048·√(l/L)), T = 4π/2.4048·√(L/g) (Daniel Bernoulli; Lamb,
     * "Higher Mechanics"). Without damping it keeps its swing.
     */
    public function test_a_hung_strip_swings_as_long_and_as_far_as_a_chain(): void
    {
        $root = 2.404825557695773;
        foreach ([[12, 3.0], [20, 3.0]] as [$segments, $degrees]) {
            $strip = self::sheet($segments, ['hold' => 'top', 'damping' => 0, 'bend' => 1e-6, 'itself' => 'no']);
            $strip['source']['values']['width'] = 0.2;
            $strip['place']['turn'] = [$degrees, 0, 0];
            $frames = self::baked($strip, 440);
            $rest = self::points($frames[0]);
            $top = max(array_column($rest, 1));
            // By how much the mode is in what it shows, by frame.
            $weights = array_map(static fn (array $p): float => self::bessel($root * sqrt(max(0.0, 1.0 - ($top - $p[1]) / cos(deg2rad($degrees))))), $rest);
            $swing = array_map(static function (Frame $f) use ($weights): float {
                return array_sum(array_map(static fn (array $p, float $w): float => $w * $p[2], self::points($f), $weights)) / array_sum(array_map(static fn (float $w): float => $w * $w, $weights));
            }, $frames);
            $middle = array_sum($swing) / count($swing);
            $crossed = $far = [];
            foreach ($swing as $k => $q) {
                $before = $swing[$k - 1] ?? $q;
                if (($before - $middle) * ($q - $middle) < 0.0) {
                    $crossed[] = $k - 1 + ($before - $middle) / ($before - $q);
                }
                $far[count($crossed)] = max($far[count($crossed)] ?? 0.0, abs($q - $middle));
            }
            $period = 4.0 * M_PI / $root * sqrt(1.0 / self::G);
            self::assertEqualsWithDelta($period, ($crossed[20] - $crossed[0]) / 10 / 24, 0.01 * $period, "$segments along");
            // Its height goes by the square of how far it swings.
            self::assertGreaterThan(0.8, (($far[20] + $far[21]) / ($far[1] + $far[2])) ** 2, "$segments along");
            self::assertLessThan(1.1, (($far[20] + $far[21]) / ($far[1] + $far[2])) ** 2, "$segments along");
        }
    }

    /** J₀, by its series. */
    private static function bessel(float $x): float
    {
        $sum = 0.0;
        $term = 1.0;
        for ($n = 1; $n < 30; $n++) {
            $sum += $term;
            $term *= -0.25 * $x * $x / ($n * $n);
        }

        return $sum;
    }

    /** Turned as a whole, what pulls it too, it swings the same: no axis is another one than the others. */
    public function test_turned_with_all_that_acts_on_it_it_moves_the_same(): void
    {
        $swing = static function (array $turn, array $gravity): array {
            $sheet = self::sheet(8, ['hold' => 'top', 'damping' => 0.002]);
            $sheet['place'] = ['position' => [0, 5, 0], 'turn' => $turn, 'size' => 1];

            return self::points(self::baked($sheet, 10, ['gravity' => $gravity])[10]);
        };
        $plain = $swing([0, 0, 0], [2.0, -4.0, -8.0]);
        self::assertGreaterThan(0.3, max(array_map(static fn (array $p): float => abs($p[2]), $plain)), 'it swings');
        // About x: y to z, z to −y. About z: x to y, y to −x.
        foreach ($swing([90, 0, 0], [2.0, 8.0, -4.0]) as $k => [$x, $y, $z]) {
            self::assertEqualsWithDelta($plain[$k], [$x, 5.0 + $z, 5.0 - $y], 1e-4, "turned about x, point $k");
        }
        foreach ($swing([0, 0, 90], [4.0, 2.0, -8.0]) as $k => [$x, $y, $z]) {
            self::assertEqualsWithDelta($plain[$k], [$y - 5.0, 5.0 - $x, $z], 1e-4, "turned about z, point $k");
        }
    }

    /** Grown to 1.25 of its length, with nothing else on it, its area is 1.25² of what it was. */
    public function test_growth_makes_as_much_area_as_it_says(): void
    {
        $frames = self::baked(self::sheet(8, ['growth' => 1.25, 'damping' => 0.01, 'itself' => 'no']), 48, ['gravity' => [0, 0, 0]]);
        self::assertEqualsWithDelta(1.5625, self::area(self::sheet(8), $frames[48]), 0.001 * 1.5625);
    }

    /** A ball under pressure: tension T = Δp·r/2, and strain ε = T(1 − ν)/k for both directions alike (sphere, small strain). */
    public function test_a_ball_under_pressure_grows_by_what_its_skin_gives(): void
    {
        $ball = self::ball(['pressure' => 100]);
        $frames = self::baked($ball, 36, ['gravity' => [0, 0, 0]]);
        $far = array_map(static fn (array $p): float => sqrt($p[0] ** 2 + ($p[1] - 5.5) ** 2 + $p[2] ** 2), self::points($frames[36]));
        // Faces of the mesh lie a little inside the ball they are of: compared with the same mesh unloaded.
        $start = array_map(static fn (array $p): float => sqrt($p[0] ** 2 + ($p[1] - 5.5) ** 2 + $p[2] ** 2), self::points($frames[0]));
        $grown = array_sum($far) / array_sum($start) - 1.0;
        self::assertEqualsWithDelta(100.0 * 0.5 / 2.0 * 0.7 / 2000.0, $grown, 0.02 * 100.0 * 0.5 / 2.0 * 0.7 / 2000.0);
        // Pressure from within moves nothing as a whole, however roughly it is solved.
        self::assertEqualsWithDelta([0.0, 5.5, 0.0], array_map(static fn (int $k): float => array_sum(array_column(self::points($frames[36]), $k)) / count($far), [0, 1, 2]), 1e-5);
    }

    /** Pressure that rises from none at one side to all at the other pushes a free sheet by p·A/2 as a whole, and the far side more. */
    public function test_pressure_goes_by_its_map(): void
    {
        $sheet = self::sheet(10, ['pressure' => 0.3, 'pressureMap' => 'rises', 'itself' => 'no']);
        $sheet['weights'][] = ['id' => 'rises', 'name' => 'Rises', 'sources' => [Trials::source('front', ['point' => [0.5, 0, 0], 'direction' => [-1, 0, 0], 'full' => 0, 'none' => 1], ['on' => 'own'])]];
        $frames = self::baked($sheet, 6, ['gravity' => [0, 0, 0]]);
        [$before, $after] = [self::points($frames[0]), self::points($frames[6])];
        // Points of the grid weigh as many corners of faces as they have: what moves is told by the mean speed of all faces, here by area.
        $middle = static function (array $points): float {
            $sum = 0.0;
            for ($j = 0; $j < 10; $j++) {
                for ($i = 0; $i < 10; $i++) {
                    $sum += array_sum(array_map(static fn (int $k): float => $points[$k][2], [11 * $j + $i, 11 * $j + $i + 1, 11 * $j + $i + 11, 11 * $j + $i + 12])) / 400.0;
                }
            }

            return $sum;
        };
        $way = 0.5 * 0.5 * 0.3 / 0.3 * 0.25 ** 2;
        self::assertEqualsWithDelta($way, abs($middle($after) - $middle($before)), 0.02 * $way);
        $moved = array_map(static fn (array $p, array $q): float => abs($q[2] - $p[2]), $before, $after);
        self::assertGreaterThan(1.5 * $way, max($moved));
        self::assertLessThan(0.5 * $way, min($moved));
    }

    /**
     * Sealed with air in it the ball grows by hardly anything: p·V stays (Boyle, ISO 2533 outside), so that of Δp there is left Δp − 3·ε·p₀, and
     * ε = Δp·c/(1 + 3·p₀·c) with c = r(1 − ν)/2k.
     */
    public function test_air_of_a_set_amount_hardly_lets_a_ball_grow(): void
    {
        $frames = self::baked(self::ball(['filled' => 'air', 'pressure' => 1000]), 36, ['gravity' => [0, 0, 0]]);
        $grown = self::wide($frames[36]) / self::wide($frames[0]) - 1.0;
        $c = 0.5 * 0.7 / 2.0 / 2000.0;
        self::assertEqualsWithDelta(1000.0 * $c / (1.0 + 3.0 * 101325.0 * $c), $grown, 0.05 * 1000.0 * $c / (1.0 + 3.0 * 101325.0 * $c));
    }

    /** What keeps its volume keeps it where it falls and is pressed flat, and takes the volume it is told to. */
    public function test_what_keeps_its_volume_keeps_it(): void
    {
        $ball = self::ball(['filled' => 'volume', 'stretch' => 200, 'damping' => 0.005, 'limit' => 1, 'volume' => Trials::keys([0 => 1.0, 24 => 1.0, 36 => 1.3])]);
        $ball['place']['position'] = [0, 0.3, 0];
        $frames = self::baked($ball, 40);
        $made = self::volume($ball, $frames[0]);
        foreach ([8, 16, 24] as $f) {
            self::assertEqualsWithDelta($made, self::volume($ball, $frames[$f]), 0.02 * $made, "frame $f");
        }
        $ys = array_column(self::points($frames[24]), 1);
        self::assertLessThan(0.95, max($ys) - min($ys), 'it lies on the ground and is flatter than it was made');
        self::assertEqualsWithDelta(1.3 * $made, self::volume($ball, $frames[40]), 0.03 * $made);
    }

    /** A strip held at one end bends under its own weight by wL⁴/8B for small bends (ASTM D1388 takes its bending length from it). */
    public function test_a_strip_held_at_its_end_bends_as_its_rigidity_lets_it(): void
    {
        foreach ([16, 32] as $along) {
            // 0.1 kg/m² over 0.2 m with 0.01 N·m: 2 cm of 20.
            $strip = Trials::box('sheet', [0, 2, 0], [
                'source' => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => 0.2, 'height' => 0.05, 'thickness' => 0, 'segments' => $along]],
                'place' => ['position' => [0, 2, 0], 'turn' => [-90, 0, 0], 'size' => 1],
                'weights' => [self::side(-0.1 + 0.2 / $along * 1.01)],
                'motion' => ['kind' => 'cloth', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => ['fabric' => 'own', 'weight' => 0.1, 'stretch' => 2000, 'bend' => 0.01, 'hold' => 'top', 'damping' => 0.03, 'itself' => 'no', 'steps' => 20]],
            ]);
            $frames = self::baked($strip, 96);
            $points = self::points($frames[96]);
            // Hinges bend about the lines of points: the first of them takes up half a square of what is held.
            $free = 0.2 - 0.5 * 0.2 / $along;
            $end = array_filter($points, static fn (array $p): bool => $p[0] > 0.09);
            $sag = self::points($frames[0])[0][1] - min(array_column($end, 1));
            $expected = 0.1 * self::G * $free ** 4 / 8.0 / 0.01;
            self::assertEqualsWithDelta($expected, $sag, 0.15 * $expected, "$along along");
        }
    }

    /** Held everywhere it is its prop, moving as that is keyed; held again after it was free it ends on it. */
    public function test_what_is_held_goes_with_its_prop_and_what_is_held_again_comes_home(): void
    {
        $sheet = self::sheet(8, ['hold' => 'top']);
        $sheet['place']['position'] = [Trials::keys([0 => 0.0, 24 => 1.0]), 5, 0];
        $sheet['weights'] = [['id' => 'top', 'name' => 'Top', 'sources' => [Trials::source('front', ['point' => [Trials::keys([0 => 9.0, 6 => 9.0, 7 => -9.0, 14 => -9.0, 15 => 9.0]), 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.001])]]];
        $frames = self::baked($sheet, 40);
        $rest = self::points($frames[0]);
        foreach ([6, 40] as $f) {
            foreach (self::points($frames[$f]) as $k => $p) {
                self::assertEqualsWithDelta([$rest[$k][0] + min(24, $f) / 24.0, $rest[$k][1], $rest[$k][2]], $p, $f === 6 ? 1e-5 : 1e-3, "frame $f, point $k");
            }
        }
        self::assertLessThan(4.9, min(array_column(self::points($frames[14]), 1)), 'free it fell');
    }

    /** Dropped on the ground and over a box it lies on them, its thickness off, and nothing of it is inside. */
    public function test_it_lies_on_what_it_falls_on(): void
    {
        $sheet = self::sheet(16, ['damping' => 0.005]);
        $sheet['place'] = ['position' => [0, 0.7, 0.5], 'turn' => [-90, 0, 0], 'size' => 1];
        $frames = self::baked($sheet, 48, [], [Trials::box('block', [0, 0, 0])]);
        foreach ($frames as $f => $frame) {
            foreach (self::points($frame) as [$x, $y, $z]) {
                self::assertGreaterThan(-2e-3, $y, "frame $f");
                self::assertFalse(max(abs($x), abs($z)) < 0.145 && $y < 0.294, "frame $f: $x $y $z lies in the block");
            }
        }
        $deepest = max(array_map(static fn (Frame $f): float => $f->figures['overlap'], $frames));
        self::assertLessThan(2e-3, $deepest);
        $sunk = self::sheet(4);
        $sunk['place'] = ['position' => [0, -0.005, 0.5], 'turn' => [-90, 0, 0], 'size' => 1];
        self::assertEqualsWithDelta(0.006, self::baked($sunk, 1)[1]->figures['overlap'], 1e-6, 'it is told how deep it was: half a centimetre, and its thickness');
        $ys = array_column(self::points($frames[48]), 1);
        self::assertEqualsWithDelta(0.301, max($ys), 0.02, 'it lies over the top');
        self::assertLessThan(0.2, min($ys), 'and hangs down beside it');
    }

    /**
     * Something heavy let go on a strip hangs at rest where twice the tension's upward part bears it, 2·T·sin θ = m·g with
     * T = k·w·λ(λ² − 1)/2 (Green strain along it), found by bisection. Let go higher up it moves nothing before it is met.
     */
    public function test_a_strip_catches_a_bar_and_bears_it_as_statics_has_it(): void
    {
        $above = self::baked(self::strip(), 4, [], [self::bar(0.95)]);
        $place = static fn (Frame $f): float => (array_values(unpack('g*', $f->stream(1, StreamKind::Poses)) ?: []))[1];
        foreach (self::baked(self::strip(), 4) as $k => $alone) {
            self::assertGreaterThan(0.76, $place($above[$k]) - 0.025, "frame $k: it is still on its way");
            self::assertEquals(self::points($alone), self::points($above[$k]), "frame $k: nothing is moved by it yet");
        }
        $frames = self::baked(self::strip(), 72, [], [self::bar(0.95)]);
        // Half its span beside the bar as made, and hanging.
        [$half, $width, $stretch] = [0.5 - 0.025, 0.2, 2000.0];
        [$low, $high] = [0.0, 0.5];
        for ($k = 0; $k < 60; $k++) {
            $sag = 0.5 * ($low + $high);
            $long = sqrt($sag ** 2 + $half ** 2) / $half;
            $bears = 2.0 * $stretch * $width * $long * ($long ** 2 - 1.0) / 2.0 * $sag / ($long * $half);
            [$low, $high] = $bears < 2.0 * self::G ? [$sag, $high] : [$low, $sag];
        }
        self::assertEqualsWithDelta(0.75 - $low + 0.025 + 0.001, $place($frames[72]), 0.05 * $low);
        self::assertEqualsWithDelta($place($frames[72]), $place($frames[66]), 0.004, 'it lies still');
    }

    /** Momentum passes from one to the other and none is lost: in no gravity a bar flies into a sheet that nothing holds. */
    public function test_what_flies_into_a_free_sheet_gives_it_its_momentum(): void
    {
        $sheet = self::sheet(16, ['itself' => 'no']);
        $sheet['place'] = ['position' => [0, 1, 0.5], 'turn' => [-90, 0, 0], 'size' => 1];
        $bar = self::bar(1.2);
        $bar['motion']['pushes'] = [['push' => 'away', 'values' => ['point' => [0, 100, 0], 'speed' => 2.0]]];
        $frames = self::baked($sheet, 12, ['gravity' => [0, 0, 0]], [$bar]);
        $bar = static fn (Frame $f): float => (array_values(unpack('g*', $f->stream(1, StreamKind::Poses)) ?: []))[1];
        $cloth = static fn (Frame $f): float => array_sum(array_column(self::points($f), 1)) / count(self::points($f));
        $momentum = static fn (int $k): float => 24.0 * (2.0 * ($bar($frames[$k]) - $bar($frames[$k - 1])) + 0.3 * ($cloth($frames[$k]) - $cloth($frames[$k - 1])));
        self::assertEqualsWithDelta(-4.0, $momentum(1), 0.01);
        self::assertLessThan(-0.2, 24.0 * ($cloth($frames[12]) - $cloth($frames[11])), 'the sheet is taken along');
        // Points of a regular mesh weigh alike but for those at its rim: their mean is not quite its middle.
        self::assertEqualsWithDelta(-4.0, $momentum(12), 0.04);
    }

    /** On a slope it stays where tan of its angle is less than its friction with it, and slides with g(sin − μ cos) where it is more. */
    public function test_it_slides_down_a_slope_as_friction_lets_it(): void
    {
        foreach ([[0.6, 0.0], [0.3, self::G * (sin(0.4) - 0.3 * cos(0.4))]] as [$friction, $gains]) {
            $sheet = self::sheet(6, ['itself' => 'no', 'damping' => 0.01]);
            $sheet['source']['values'] = ['width' => 0.3, 'height' => 0.3, 'thickness' => 0, 'segments' => 6];
            $sheet['place'] = ['position' => [0, 1.0 + 0.102 * cos(0.4) + 0.15 * sin(0.4), -0.102 * sin(0.4) + 0.15 * cos(0.4)], 'turn' => [-90 - rad2deg(0.4), 0, 0], 'size' => 1];
            $sheet['material']['friction'] = $friction;
            $slope = Trials::box('slope', [0, 1, 0], ['source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 1, 'height' => 0.2, 'depth' => 4]]]);
            $slope['place'] = ['position' => [0, 1.0 - 0.1 * cos(0.4), 0.1 * sin(0.4)], 'turn' => [-rad2deg(0.4), 0, 0], 'size' => 1];
            $slope['material']['friction'] = $friction;
            $frames = self::baked($sheet, 24, [], [$slope]);
            $middle = static fn (int $k): array => array_map(static fn (int $a): float => array_sum(array_column(self::points($frames[$k]), $a)) / 49, [0, 1, 2]);
            // By how much faster it goes along half a second later.
            $speed = static fn (int $k): float => 12.0 * self::far($middle($k - 1), $middle($k + 1));
            self::assertEqualsWithDelta(0.5 * $gains, $speed(22) - $speed(10), max(0.01, 0.05 * 0.5 * $gains), "friction $friction");
            self::assertLessThan($gains === 0.0 ? 0.01 : 1.0, self::far($middle(6), $middle(24)), "friction $friction");
        }
    }

    /** What is held goes to where its prop blends to: a sheet that a front takes over into one twice as large, held all over. */
    public function test_what_is_held_goes_along_with_the_blend_of_its_prop(): void
    {
        $sheet = self::sheet(6, ['hold' => 'all']);
        $sheet['weights'] = [
            ['id' => 'all', 'name' => 'All', 'sources' => [Trials::source('front', ['point' => [0, -9, 0], 'direction' => [0, 1, 0], 'full' => 0, 'none' => 1], ['invert' => true])]],
            ['id' => 'over', 'name' => 'Over', 'sources' => [Trials::source('front', ['point' => [0, ['keys' => [['frame' => 0, 'value' => -3], ['frame' => 8, 'value' => 3]]], 0], 'direction' => [0, 1, 0], 'full' => 0, 'none' => 1, 'falloff' => 'linear'], ['on' => 'own'])]],
        ];
        $sheet['blend'] = ['map' => 'over', 'to' => ['large']];
        $large = ['id' => 'large', 'name' => 'Large', 'hidden' => true, 'motion' => ['kind' => 'fixed']] + $sheet;
        unset($large['weights'], $large['blend']);
        $large['place']['size'] = 2;
        $frames = self::baked($sheet, 8, [], [$large]);
        $start = self::points($frames[0]);
        foreach ([4, 8] as $f) {
            foreach (self::points($frames[$f]) as $k => [$x, $y, $z]) {
                [$ox, $oy, $oz] = $start[$k];
                // The front is full 0 behind and none 1 beyond where it stands.
                $w = max(0.0, min(1.0, 1.0 - ($oy - 5.0 - (-3.0 + 0.75 * $f))));
                self::assertEqualsWithDelta([$ox * (1.0 + $w), 5.0 + ($oy - 5.0) * (1.0 + $w), $oz * (1.0 + $w)], [$x, $y, $z], 1e-4);
            }
        }
    }

    /** One sheet falls on another that is held: it lies on that, and neither passes the other. */
    public function test_cloth_lies_on_cloth(): void
    {
        $lower = self::sheet(12, ['damping' => 0.01, 'hold' => 'rim', 'itself' => 'no']);
        $lower['place'] = ['position' => [0, 1, 0.5], 'turn' => [-90, 0, 0], 'size' => 1];
        $lower['weights'] = [self::rim()];
        $upper = self::sheet(8, ['damping' => 0.01, 'itself' => 'no']);
        [$upper['id'], $upper['name']] = ['upper', 'Upper'];
        $upper['source']['values'] = ['width' => 0.5, 'height' => 0.5, 'thickness' => 0, 'segments' => 8];
        $upper['place'] = ['position' => [0, 1.3, 0.25], 'turn' => [-90, 0, 0], 'size' => 1];
        $frames = self::baked($lower, 60, [], [$upper]);
        $ys = array_column(array_chunk(array_values(unpack('g*', $frames[60]->stream(1, StreamKind::Points)) ?: []), 3), 1);
        self::assertGreaterThan(0.9, min($ys), 'it is caught');
        self::assertLessThan(1.2, max($ys), 'it has fallen that far');
        self::assertGreaterThan(max(array_filter(array_column(self::points($frames[60]), 1), static fn (float $y): bool => $y < 0.98) ?: [0.0]), array_sum($ys) / count($ys));
    }

    /** Over the rim of an open sheet that stands on its edge a coarse one hangs, though none of its points may meet that. */
    public function test_the_rim_of_an_open_sheet_bears_it(): void
    {
        $sheet = self::sheet(9, ['damping' => 0.01, 'itself' => 'no']);
        // Half of a cell off, so that a row of its points lies to either side of the rim.
        $sheet['place'] = ['position' => [0, 0.62, 0.5], 'turn' => [-90, 0, 0], 'size' => 1];
        $wall = Trials::box('wall', [0, 0, 0], ['source' => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => 2, 'height' => 0.6, 'thickness' => 0, 'segments' => 4]]]);
        $wall['material']['friction'] = $sheet['material']['friction'] = 1.0;
        $points = self::points(self::baked($sheet, 30, [], [$wall])[30]);
        $rows = array_chunk($points, 10);
        foreach (range(0, 9) as $i) {
            // Where each line of points across crosses the plane of the wall.
            foreach (range(0, 8) as $j) {
                [[, $ya, $za], [, $yb, $zb]] = [$rows[$j][$i], $rows[$j + 1][$i]];
                if ($za * $zb <= 0.0) {
                    // Its own outermost faces may sink in by most of one.
                    self::assertGreaterThan($i > 1 && $i < 8 ? 0.59 : 0.5, $ya + ($yb - $ya) * $za / ($za - $zb), "line $i");
                }
            }
        }
        self::assertLessThan(0.25, min(array_column($points, 1)), 'it hangs down on both sides');
        self::assertGreaterThan(0.0, max(array_column($points, 2)) * -min(array_column($points, 2)));
    }

    /** A sheet of four centimetres falls over bars of two: it hangs over them, though none of its points may meet one. */
    public function test_bars_narrower_than_its_faces_bear_it(): void
    {
        $sheet = self::sheet(25, ['damping' => 0.01, 'itself' => 'no']);
        $sheet['place'] = ['position' => [0, 0.6, 0.5], 'turn' => [-90, 0, 0], 'size' => 1];
        $bars = array_map(static fn (float $x): array => Trials::box('bar'.round(1000 * $x), [$x, 0, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.02, 'height' => 0.5, 'depth' => 0.8, 'segments' => 1]],
        ]), [-0.147, 0.013, 0.173]);
        $points = self::points(self::baked($sheet, 30, [], $bars)[30]);
        // Over the bars it is no lower than a tenth of a face under their tops.
        $over = array_filter($points, static fn (array $p): bool => abs($p[2]) < 0.3 && array_filter([-0.147, 0.013, 0.173], static fn (float $x): bool => abs($p[0] - $x) < 0.01) !== []);
        self::assertGreaterThan(20, count($over));
        self::assertGreaterThan(0.47, min(array_column($over, 1)));
        self::assertLessThan(0.45, min(array_column($points, 1)), 'beside them it hangs down');
    }

    /** Air takes it along: a light sheet in wind ends with the wind's speed, and wind along it hardly holds it. */
    public function test_the_wind_carries_it(): void
    {
        $forces = [['id' => 'wind', 'name' => 'Wind', 'kind' => 'wind', 'values' => ['speed' => 3, 'direction' => [0, 0, 1]]]];
        $frames = self::baked(self::sheet(6, ['itself' => 'no', 'weight' => 0.05]), 48, ['gravity' => [0, 0, 0]], [], $forces);
        $mean = static fn (Frame $f): float => array_sum(array_column(self::points($f), 2)) / count(self::points($f));
        self::assertEqualsWithDelta(3.0 / 24, $mean($frames[48]) - $mean($frames[47]), 0.05 * 3.0 / 24);
    }

    /**
     * A sheet that falls in a heap keeps off itself: points that were far apart on it are never in one place, nearer where it is to lie closely. It is
     * not strained by that, and lies still.
     */
    public function test_it_keeps_off_itself(): void
    {
        $edge = 1.0 / 14;
        // 1.2 of its longest edge, and half of that; what presses them together takes up to a third.
        foreach (['yes' => 1.2 * M_SQRT2 * $edge, 'closely' => 0.6 * M_SQRT2 * $edge] as $itself => $apart) {
            $sheet = self::sheet(14, ['fabric' => 'silk', 'damping' => 0.005, 'itself' => $itself]);
            $sheet['place'] = ['position' => [0, 0.02, 0], 'turn' => [-6, 0, 3], 'size' => 1];
            $frames = self::baked($sheet, 60);
            $rest = self::points($frames[0]);
            $points = self::points($frames[60]);
            $nearest = INF;
            foreach ($points as $i => $p) {
                foreach (array_slice($points, 0, $i) as $j => $q) {
                    if (self::far($rest[$i], $rest[$j]) > 3.0 * $edge) {
                        $nearest = min($nearest, self::far($p, $q));
                    }
                }
            }
            self::assertGreaterThan(0.67 * $apart, $nearest, $itself);
            self::assertLessThan(1.25 * $apart, $nearest, "$itself: middles of edges may be nearer than points");
            self::assertLessThan(0.4, max(array_column($points, 1)), "$itself: it has fallen in");
            self::assertLessThan(0.25, max(array_map(static fn (Frame $f): float => $f->figures['stretch'], $frames)), "$itself: silk is taut at 0.12 already");
            self::assertLessThan(0.5 * 0.06 * 0.03 ** 2, $frames[60]->figures['energy'], "$itself: slower than three centimetres a second on the mean");
        }
    }

    /** Taken up after any frame it goes on with the same bytes. */
    public function test_taken_up_it_goes_on_the_same(): void
    {
        $sheet = self::sheet(8, ['hold' => 'top', 'growth' => Trials::keys([0 => 1.0, 12 => 1.2])]);
        $sheet['place'] = ['position' => [0, 0.6, 0], 'turn' => [-60, 0, 0], 'size' => 1];
        $ready = Trials::ready(self::document($sheet, 16, [], [Trials::box('block', [0, 0, 0])]));
        $whole = iterator_to_array($ready->frames(), false);
        $sliced = iterator_to_array($ready->frames(static fn (): bool => true), false);
        foreach ($whole as $k => $frame) {
            self::assertSame($frame->streams, $sliced[$k]->streams, "frame $k");
        }
    }

    /** Which points were looked at to keep folds off each other before it was taken up makes no difference, nor what drifts under it. */
    public function test_taken_up_in_a_heap_and_over_what_drifts_it_goes_on_the_same(): void
    {
        $heap = self::sheet(8, ['fabric' => 'silk', 'damping' => 0.005]);
        $heap['place'] = ['position' => [0, 0.02, 0], 'turn' => [-6, 0, 3], 'size' => 1];
        self::assertSame([], Trials::lost(self::document($heap, 24), 4));
        $sheet = self::sheet(8, ['itself' => 'no']);
        $sheet['place'] = ['position' => [0, 0.4, 0.5], 'turn' => [-90, 0, 0], 'size' => 1];
        $rises = Trials::box('block', [0, 0, 0], [
            'weights' => [['id' => 'rise', 'name' => 'Rise', 'sources' => [Trials::source('front', ['point' => [Trials::keys([0 => 1.0, 12 => -1.0]), 0, 0], 'direction' => [-1, 0, 0], 'full' => 0, 'none' => 1.0])]]],
            'motion' => ['kind' => 'drift', 'drift' => ['map' => 'rise', 'ease' => 'smooth', 'handOver' => false, 'moves' => [['move' => 'offset', 'values' => ['by' => [0, 0.5, 0], 'random' => 0, 'strewn' => 0, 'seed' => 1]]]]],
        ]);
        self::assertSame([], Trials::lost(self::document($sheet, 12, [], [$rises]), 2));
    }

    public function test_a_hold_by_a_map_that_is_not_there_is_refused_with_its_place(): void
    {
        try {
            Trials::ready(self::document(self::sheet(4, ['hold' => 'nowhere']), 2));
            self::fail('there is no such map');
        } catch (Problem $e) {
            self::assertSame('props[0].motion.values.hold', $e->path);
        }
    }

    /**
     * A square metre of 0.3 kg and 2,000 N/m.
     *
     * @param  array<string, mixed>  $values
     * @return array<string, mixed>
     */
    private static function sheet(int $segments, array $values = []): array
    {
        return Trials::box('sheet', [0, 5, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => 1, 'height' => 1, 'thickness' => 0, 'segments' => $segments]],
            'weights' => [['id' => 'top', 'name' => 'Top', 'sources' => [Trials::source('front', ['point' => [0, 0.999, 0], 'direction' => [0, -1, 0], 'full' => 0, 'none' => 0.001], ['on' => 'own'])]]],
            'motion' => ['kind' => 'cloth', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => $values + ['fabric' => 'own', 'weight' => 0.3, 'stretch' => 2000, 'bend' => 1e-5]],
        ]);
    }

    /**
     * @param  array<string, mixed>  $values
     * @return array<string, mixed> a metre wide, of the same fabric
     */
    private static function ball(array $values): array
    {
        return Trials::box('sheet', [0, 5, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.5, 'detail' => 10]],
            'motion' => ['kind' => 'cloth', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => $values + ['fabric' => 'own', 'weight' => 0.3, 'stretch' => 2000, 'bend' => 0, 'damping' => 0.02, 'itself' => 'no']],
        ]);
    }

    /** How far points are from their middle on the mean. */
    private static function wide(Frame $frame): float
    {
        $points = self::points($frame);
        $middle = array_map(static fn (int $k): float => array_sum(array_column($points, $k)) / count($points), [0, 1, 2]);

        return array_sum(array_map(static fn (array $p): float => self::far($p, [$middle[0], $middle[1], $middle[2]]), $points)) / count($points);
    }

    /** @param  array<string, mixed>  $prop */
    private static function volume(array $prop, Frame $frame): float
    {
        $shot = Trials::ready(self::document($prop, 2))->shot;
        $points = self::points($frame);
        $sum = 0.0;
        foreach (array_chunk(Trials::made($shot)[0]['sheet'][0]->mesh->faces, 3) as [$a, $b, $c]) {
            [$p, $q, $r] = [$points[$a], $points[$b], $points[$c]];
            $sum += ($p[0] * ($q[1] * $r[2] - $q[2] * $r[1]) + $p[1] * ($q[2] * $r[0] - $q[0] * $r[2]) + $p[2] * ($q[0] * $r[1] - $q[1] * $r[0])) / 6.0;
        }

        return $sum;
    }

    /** @return array<string, mixed> a metre of a strip, held at both ends */
    private static function strip(): array
    {
        $strip = self::sheet(48, ['damping' => 0.05, 'itself' => 'no', 'weight' => 0.05, 'hold' => 'top', 'limit' => 1]);
        $strip['source']['values'] = ['width' => 1, 'height' => 0.2, 'thickness' => 0, 'segments' => 48];
        $strip['place'] = ['position' => [0, 0.75, 0.1], 'turn' => [-90, 0, 0], 'size' => 1];
        $strip['weights'] = [['id' => 'top', 'name' => 'Top', 'sources' => [
            Trials::source('front', ['point' => [0.499, 0, 0], 'direction' => [-1, 0, 0], 'full' => 0, 'none' => 0.001], ['on' => 'own']),
            Trials::source('front', ['point' => [-0.499, 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.001], ['on' => 'own']),
        ]]];

        return $strip;
    }

    /** @return array<string, mixed> 2 kg, 5 cm high and wide, longer than the strip is wide */
    private static function bar(float $height): array
    {
        return Trials::box('bar', [0, $height, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.05, 'height' => 0.05, 'depth' => 0.3]],
            'material' => ['name' => 'steel', 'colour' => '#888888', 'inner' => '#888888', 'density' => 2.0 / 0.00075, 'friction' => 0.6, 'bounce' => 0.0],
            'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]],
        ]);
    }

    /** @return array<string, mixed> a map that is full at the rim of a square metre */
    private static function rim(): array
    {
        return ['id' => 'rim', 'name' => 'Rim', 'sources' => array_map(
            static fn (array $side): array => Trials::source('front', ['point' => $side[0], 'direction' => $side[1], 'full' => 0, 'none' => 0.001], ['on' => 'own']),
            [[[0, 0.999, 0], [0, -1, 0]], [[0, 0.001, 0], [0, 1, 0]], [[0.499, 0, 0], [-1, 0, 0]], [[-0.499, 0, 0], [1, 0, 0]]],
        )];
    }

    /** @return array<string, mixed> a map that is full where x is less */
    private static function side(float $x): array
    {
        return ['id' => 'top', 'name' => 'Top', 'sources' => [Trials::source('front', ['point' => [$x, 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.0001], ['on' => 'own'])]];
    }

    /**
     * @param  array<string, mixed>  $sheet
     * @param  array<string, mixed>  $world
     * @param  list<array<string, mixed>>  $others
     * @param  list<array<string, mixed>>  $forces
     * @return array<string, mixed>
     */
    private static function document(array $sheet, int $last, array $world = [], array $others = [], array $forces = []): array
    {
        $d = Trials::document([$sheet, ...$others], ['frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]], 'forces' => $forces]);
        $d['world'] = $world + $d['world'];

        return $d;
    }

    /**
     * @param  array<string, mixed>  $sheet
     * @param  array<string, mixed>  $world
     * @param  list<array<string, mixed>>  $others
     * @param  list<array<string, mixed>>  $forces
     * @return list<Frame>
     */
    private static function baked(array $sheet, int $last, array $world = [], array $others = [], array $forces = []): array
    {
        return iterator_to_array(Trials::ready(self::document($sheet, $last, $world, $others, $forces))->frames(), false);
    }

    /** @return list<array{float, float, float}> */
    private static function points(Frame $frame): array
    {
        /** @var list<array{float, float, float}> */
        return array_chunk(array_values(unpack('g*', $frame->stream(0, StreamKind::Points)) ?: []), 3);
    }

    /**
     * @param  array<string, mixed>  $sheet
     */
    private static function area(array $sheet, Frame $frame): float
    {
        $shot = Trials::ready(self::document($sheet, 2))->shot;
        $mesh = Trials::made($shot)[0]['sheet'][0]->mesh;
        $points = self::points($frame);
        $sum = 0.0;
        foreach (array_chunk($mesh->faces, 3) as [$a, $b, $c]) {
            $m = new Mesh(array_column($points, 0), array_column($points, 1), array_column($points, 2), [$a, $b, $c]);
            $u = [$m->x[$b] - $m->x[$a], $m->y[$b] - $m->y[$a], $m->z[$b] - $m->z[$a]];
            $v = [$m->x[$c] - $m->x[$a], $m->y[$c] - $m->y[$a], $m->z[$c] - $m->z[$a]];
            $sum += 0.5 * sqrt(($u[1] * $v[2] - $u[2] * $v[1]) ** 2 + ($u[2] * $v[0] - $u[0] * $v[2]) ** 2 + ($u[0] * $v[1] - $u[1] * $v[0]) ** 2);
        }

        return $sum;
    }

    /**
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}  $q
     */
    private static function far(array $p, array $q): float
    {
        return sqrt(($p[0] - $q[0]) ** 2 + ($p[1] - $q[1]) ** 2 + ($p[2] - $q[2]) ** 2);
    }
}
