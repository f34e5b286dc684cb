<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Dust;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Dust\AirGrid;
use YardBreak\Core\Dust\Grains;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Tests\Bake\Trials;

/** Grains in air, from where they are born to where they lie. */
final class DustTest extends TestCase
{
    private const G = 9.80665;

    private const AIR = 1.225;

    /** Drops of water reach what Gunn & Kinzer 1949 measured (0.27 m/s at 0.1 mm, 4.03 at 1 mm; values from memory), and specks what Stokes says. */
    public function test_grains_fall_as_fast_as_drops_were_measured_to(): void
    {
        foreach ([[1e-5, 1000.0 * self::G * 1e-10 / 18 / Grains::VISCOSITY, 0.02], [1e-4, 0.27, 0.1], [1e-3, 4.03, 0.05]] as [$size, $speed, $within]) {
            $grains = new Grains;
            $grains->add(new Vec3(0, 1000, 0), Vec3::zero(), $size, 100.0, 0, 0.0);
            for ($k = 0; $k < 240; $k++) {
                $grains->move(1 / 24, [0.0], [0.0], [0.0], null, null, null, new Vec3(0.0, -self::G, 0.0), [1000.0], self::AIR, 0.0);
            }
            self::assertEqualsWithDelta(-$speed, $grains->vy[0], $within * $speed, $size.' m across');
        }
    }

    /** Where drag goes by the speed alone the way is the same however finely time is stepped: u·t − uτ(1 − e^(−t/τ)) (Stokes). */
    public function test_the_way_of_a_speck_does_not_hang_on_the_steps(): void
    {
        $size = 2e-5;
        $tau = 1000.0 * $size ** 2 / 18 / Grains::VISCOSITY;
        $way = 0.002 * (0.05 - $tau * (1.0 - exp(-0.05 / $tau)));
        foreach ([1, 2, 50] as $steps) {
            $grains = new Grains;
            $grains->add(Vec3::zero(), Vec3::zero(), $size, 100.0, 0, 0.0);
            for ($k = 0; $k < $steps; $k++) {
                $grains->move(0.05 / $steps, [0.002], [0.0], [0.0], null, null, null, Vec3::zero(), [1000.0], self::AIR, 0.0);
            }
            self::assertEqualsWithDelta($way, $grains->x[0], 1e-12, "$steps steps");
        }
    }

    /** What is linear from place to place is read exactly between the nodes, and out to the rim. */
    public function test_a_grid_reads_what_goes_evenly_exactly(): void
    {
        $x = [0.0, 2.0, 0.7, 1.999, 0.3];
        $y = [0.0, 1.0, 0.2, 0.5, 0.999];
        $z = [-1.0, 3.0, 0.4, 2.9, -0.99];
        $grid = AirGrid::round($x, $y, $z);
        [$nx, $ny, $nz] = $grid->nodes();
        $u = $v = $w = [];
        foreach ($nx as $i => $a) {
            $u[] = 2.0 * $a - $ny[$i];
            $v[] = $nz[$i] + 1.0;
            $w[] = 0.5 * $a + $ny[$i] + $nz[$i];
        }
        [$p, $q, $r] = $grid->read($u, $v, $w, $x, $y, $z);
        foreach ($x as $i => $a) {
            self::assertEqualsWithDelta([2.0 * $a - $y[$i], $z[$i] + 1.0, 0.5 * $a + $y[$i] + $z[$i]], [$p[$i], $q[$i], $r[$i]], 1e-9);
        }
    }

    /** As a front passes each place of the surface is born once, where it is, and in the end all are. */
    public function test_a_surface_goes_over_into_grains_place_by_place(): void
    {
        $frames = self::baked(['break' => ['pattern' => 'tiles', 'values' => ['grid' => [5, 1, 1]]], 'weights' => [self::front(['keys' => [['frame' => 2, 'value' => -0.16], ['frame' => 12, 'value' => 0.16]]])]], [
            'from' => 'map', 'values' => ['map' => 'go', 'grains' => 2000, 'speed' => 0, 'keeps' => 0, 'life' => 100, 'meets' => 'nothing', 'density' => 30000, 'size' => 50],
        ], 14, [0, 2, 0]);
        $counts = array_map(static fn (Frame $f): int => $f->figures['grains'], $frames);
        self::assertSame(0, $counts[0]);
        self::assertSame(2000, $counts[14]);
        for ($k = 1; $k <= 14; $k++) {
            self::assertGreaterThanOrEqual($counts[$k - 1], $counts[$k]);
        }
        self::assertGreaterThan(3, count(array_unique($counts)), 'it passes bit by bit');
        // Those of the first frame that has any lie on the box, at its end.
        $first = $frames[(int) array_key_first(array_filter($counts))];
        foreach (self::places($first) as [$x, $y, $z]) {
            self::assertEqualsWithDelta(0.0, min(abs(abs($x) - 0.15), abs($y - 2.0), abs($y - 2.3), abs(abs($z) - 0.15)), 1e-4);
            self::assertLessThan(-0.08, $x);
        }
    }

    /** So many a second, all of them within the ball they come from, and gone when they have lived. */
    public function test_a_place_pours_so_many_a_second_until_they_have_lived(): void
    {
        $frames = self::baked([], ['from' => 'point', 'values' => ['rate' => 240, 'across' => 0.1, 'life' => 0.5, 'varies' => 0, 'speed' => 0]], 24);
        self::assertSame(0, $frames[0]->figures['grains']);
        self::assertEqualsWithDelta(60, $frames[6]->figures['grains'], 3);
        self::assertEqualsWithDelta(120, $frames[24]->figures['grains'], 15);
        foreach (self::places($frames[1]) as [$x, $y, $z]) {
            self::assertLessThan(0.0501, sqrt($x ** 2 + ($y - 2.0) ** 2 + $z ** 2));
        }
    }

    /** A shelf breaks off at its root: one bond of 0.01 m² at 8,000 to the square metre gives 80, there. */
    public function test_a_crack_gives_off_as_much_as_it_is_large(): void
    {
        $frames = self::baked([
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.6, 'height' => 0.1, 'depth' => 0.1, 'segments' => 1]],
            'break' => ['pattern' => 'tiles', 'values' => ['grid' => [6, 1, 1]]],
            'weights' => [self::front(-0.22)],
            'motion' => ['kind' => 'free', 'anchoredBy' => ['map' => 'go'], 'values' => ['mortar' => 'own', 'tension' => 0.05, 'shear' => 10, 'uneven' => 0]],
        ], ['from' => 'cracks', 'values' => ['dense' => 8000, 'life' => 100, 'speed' => 0, 'keeps' => 0]], 6);
        $cracks = array_sum(array_map(static fn (Frame $f): int => count($f->figures['cracks']['box'] ?? []), $frames));
        self::assertSame(1, $cracks);
        self::assertEqualsWithDelta(80, $frames[6]->figures['grains'], 1);
        $born = $frames[(int) array_key_first(array_filter(array_map(static fn (Frame $f): int => $f->figures['grains'], $frames)))];
        foreach (self::places($born) as [$x, $y, $z]) {
            self::assertEqualsWithDelta(-0.2, $x, 0.03);
            self::assertLessThan(0.06, abs($z));
        }
    }

    public function test_what_moves_leaves_a_trail_and_what_stands_none(): void
    {
        $dust = ['from' => 'trail', 'values' => ['dense' => 1000, 'life' => 100]];
        self::assertSame(0, self::baked([], $dust, 6)[6]->figures['grains']);
        // 0.54 m² of surface, 1,000 for each of them and metre: falling for half a second it goes 1.2 m.
        $frames = self::baked(['motion' => ['kind' => 'free']], $dust, 12, [0, 3, 0]);
        self::assertEqualsWithDelta(0.54 * 1000 * 0.5 * self::G * 0.25, $frames[12]->figures['grains'], 60);
    }

    /** A cube of 70.2 kg lets fall through 1 m meets the ground with 70.2·4.43 N·s: ten grains for each, there and then. */
    public function test_a_hit_gives_off_as_much_as_it_is_hard(): void
    {
        $frames = self::baked(['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]], ['from' => 'hits', 'values' => ['dense' => 10, 'life' => 100, 'speed' => 0, 'keeps' => 0]], 16, [0, 1, 0]);
        $counts = array_map(static fn (Frame $f): int => $f->figures['grains'], $frames);
        self::assertSame(0, $counts[10]);
        self::assertEqualsWithDelta(10 * 2600 * 0.027 * sqrt(2 * self::G), $counts[16], 0.1 * $counts[16]);
        foreach (self::places($frames[(int) array_key_first(array_filter($counts))]) as [$x, $y, $z]) {
            self::assertLessThan(0.16, max(abs($x), abs($z)));
            self::assertLessThan(0.1, abs($y));
        }
    }

    /** A hundred ways to fall, all kinds of ground and landing: nothing is ever below it, and nothing inside a box that stands in the way. */
    public function test_nothing_passes_the_ground_or_what_it_falls_on(): void
    {
        foreach ([['flat', 'bounces', 'ground'], ['flat', 'sticks', 'everything'], ['rough', 'bounces', 'everything'], ['slope', 'bounces', 'ground']] as [$kind, $lands, $meets]) {
            $ground = ['flat' => ['kind' => 'flat'], 'rough' => ['kind' => 'rough', 'values' => (object) []], 'slope' => ['kind' => 'rough', 'values' => ['seed' => 5]]][$kind];
            $table = Trials::box('table', [0.1, 0.4, 0]);
            $shot = self::document([], ['from' => 'point', 'values' => ['rate' => 6000, 'across' => 0.6, 'speed' => 2, 'spread' => 180, 'lands' => $lands, 'meets' => $meets, 'bounce' => 0.5, 'size' => 4, 'life' => 100]], 24, [0, 1.5, 0]);
            $shot['props'][] = $table;
            $shot['world']['ground'] = $ground;
            $baker = Trials::ready($shot)->baker();
            $baker->firstFrame();
            $floor = $baker->shot()->ground;
            for ($k = 0; $k < 24; $k++) {
                $frame = $baker->nextFrame();
                foreach (self::places($frame) as [$x, $y, $z]) {
                    self::assertGreaterThan(($floor === null ? 0.0 : $floor->height($x, $z)) - 2e-3, $y, "$kind, frame $frame->number");
                    if ($meets === 'everything') {
                        self::assertFalse(abs($x - 0.1) < 0.147 && $y > 0.403 && $y < 0.697 && abs($z) < 0.147, "$kind: inside the table");
                    }
                }
            }
            self::assertGreaterThan(1000, $frame->figures['grains']);
        }
    }

    /** Heavy grains thrown along the ground: those that stick stay where they land, those that do not slide on, and stop. */
    public function test_grains_stick_or_slide_until_friction_stops_them(): void
    {
        $far = [];
        foreach (['sticks', 'bounces'] as $lands) {
            $dust = ['from' => 'point', 'values' => ['at' => [0, 0.011, 0], 'towards' => [1, 0, 0], 'across' => 0, 'rate' => ['keys' => [['frame' => 0, 'value' => 2400], ['frame' => 1, 'value' => 2400], ['frame' => 2, 'value' => 0]]], 'speed' => 2, 'varies' => 0, 'spread' => 0, 'lands' => $lands, 'meets' => 'ground', 'bounce' => 0, 'size' => 20, 'density' => 8000, 'life' => 100]];
            $shot = self::document([], $dust, 40, [0, 0, 0]);
            $shot['world']['friction'] = 0.5;
            $shot['props'][0]['material']['friction'] = 0.5;
            $frames = iterator_to_array(Trials::ready($shot)->frames(), false);
            $there = array_column(self::places($frames[30]), 0);
            self::assertNotSame([], $there);
            self::assertEqualsWithDelta($there, array_column(self::places($frames[40]), 0), 1e-4, "$lands: they lie still");
            $far[$lands] = max($there);
        }
        self::assertGreaterThan(0.3, $far['bounces'] - $far['sticks']);
    }

    public function test_dust_from_nowhere_of_no_weight_or_by_a_map_that_is_not_there_is_refused_with_its_place(): void
    {
        foreach ([
            ['props[0].dust[0].from', ['from' => 'nowhere', 'values' => []]],
            ['props[0].dust[0].values.density', ['from' => 'point', 'values' => ['density' => 0]]],
            ['props[0].dust[0].values.map', ['from' => 'map', 'values' => ['map' => 'gone']]],
            ['props[0].dust[0].values.grains', ['from' => 'map', 'values' => ['grains' => 500001]]],
        ] as [$path, $dust]) {
            try {
                Trials::ready(self::document([], $dust, 2));
                self::fail($path);
            } catch (Problem $e) {
                self::assertSame($path, $e->path);
            }
        }
    }

    /** @return array<string, mixed> a map that is full before a place along x */
    private static function front(mixed $at): array
    {
        return ['id' => 'go', 'name' => 'Go', 'sources' => [Trials::source('front', ['point' => [$at, 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.001, 'falloff' => 'linear'])]];
    }

    /**
     * @param  array<string, mixed>  $box
     * @param  array<string, mixed>  $dust
     * @param  list<float|int>  $at
     * @return array<string, mixed>
     */
    private static function document(array $box, array $dust, int $last, array $at = [0, 2, 0]): array
    {
        return Trials::document([Trials::box('box', $at, $box + ['dust' => [['id' => 'dust', 'name' => 'Dust', 'values' => (object) $dust['values']] + $dust]])], ['frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]]]);
    }

    /**
     * @param  array<string, mixed>  $box
     * @param  array<string, mixed>  $dust
     * @param  list<float|int>  $at
     * @return list<Frame>
     */
    private static function baked(array $box, array $dust, int $last, array $at = [0, 2, 0]): array
    {
        return iterator_to_array(Trials::ready(self::document($box, $dust, $last, $at))->frames(), false);
    }

    /** @return list<array{float, float, float}> of all grains of the first prop */
    private static function places(Frame $frame): array
    {
        $bytes = $frame->stream(0, StreamKind::Grains);
        [$x, $y, $z, $w, $h, $d] = array_values(unpack('g6', $bytes) ?: []);
        $out = [];
        foreach (array_chunk(array_values(unpack('v*', substr($bytes, StreamKind::Grains->lead())) ?: []), 4) as [$a, $b, $c]) {
            $out[] = [$x + $w * $a / 65535, $y + $h * $b / 65535, $z + $d * $c / 65535];
        }

        return $out;
    }
}
