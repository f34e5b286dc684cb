<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Force\Effect;
use YardBreak\Core\Force\ForceCatalogue;
use YardBreak\Core\Force\Instant;
use YardBreak\Core\Force\Pull;
use YardBreak\Core\Force\Swirl;
use YardBreak\Core\Force\Turbulence;
use YardBreak\Core\Force\Wind;
use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Bake\Trials;
use YardBreak\Core\Timing\Values;

/** Forces against closed forms; each says which. */
final class ForcesTest extends TestCase
{
    private const G = 9.80665;

    /** A cube falling flat in air of 1.225 kg/m³ (ISO 2533): v = vₜ·tanh(gₑt/vₜ), vₜ = √(2mgₑ/ρC_dA), gₑ = g(1 − ρ/ρ_c): the closed form for drag by the square of the speed. */
    public function test_what_falls_in_air_gains_speed_as_it_should_and_no_more_than_its_terminal_speed(): void
    {
        foreach ([[20.0, 1.0], [5.0, 1.05]] as [$density, $drag]) {
            $at = self::heights(['still-air' => []], $density, ['drag' => $drag], 96);
            $side = 0.3;
            $g = self::G * (1.0 - Effect::AIR / $density);
            $end = sqrt(2.0 * $density * $side * $g / (Effect::AIR * $drag));
            foreach ([6, 12, 24, 95] as $frame) {
                $speed = ($at[$frame] - $at[$frame + 1]) * 24.0;
                $form = $end * tanh($g * ($frame + 0.5) / 24.0 / $end);
                self::assertEqualsWithDelta($form, $speed, 0.01 * $form, "$density kg/m³, frame $frame");
            }
        }
    }

    /** In water what is lighter rises by g(ρ_w/ρ − 1) at first, and then by no more than √(2(ρ_w − ρ)gs/ρ_wC_d). */
    public function test_what_is_lighter_than_water_rises_in_it(): void
    {
        $at = self::heights(['still-air' => ['of' => 'water']], 500.0, [], 72);
        $a = self::G * (998.2 / 500.0 - 1.0);
        self::assertEqualsWithDelta(0.5 * $a / 24.0 ** 2, $at[1] - $at[0], 0.05 * 0.5 * $a / 24.0 ** 2);
        $end = sqrt(2.0 * 498.2 * self::G * 0.3 / 998.2);
        self::assertEqualsWithDelta($end, ($at[72] - $at[71]) * 24.0, 0.01 * $end);
    }

    /** Plain damping alone: v = v₀·e^(−kt). */
    public function test_plain_drag_takes_its_share_of_the_speed(): void
    {
        $x = self::along(0, self::bake(['drag' => ['share' => 2.0]], ['velocity' => [3.0, 0.0, 0.0]], 48, gravity: 0.0));
        foreach ([12, 24, 48] as $frame) {
            self::assertEqualsWithDelta(1.5 * (1.0 - exp(-2.0 * $frame / 24.0)), $x[$frame] - $x[0], 0.01);
        }
    }

    /** A circle of radius r under k/r² is gone round in 2π√(r³/k) (Kepler). */
    public function test_what_circles_a_point_that_pulls_comes_round_in_keplers_time(): void
    {
        $frames = self::bake(
            ['pull' => ['at' => [2.0, 20.0, 0.0], 'strength' => 16.0, 'law' => '1/r²']],
            ['velocity' => [0.0, 0.0, sqrt(8.0)]],
            107, gravity: 0.0, position: [0.0, 19.85, 0.0],
        );
        $once = 2.0 * M_PI * sqrt(8.0 / 16.0) * 24.0;
        self::assertEqualsWithDelta(106.6, $once, 0.1);
        [$x, $z] = [self::along(0, $frames), self::along(2, $frames)];
        foreach ([27, 53, 80, 107] as $frame) {
            self::assertEqualsWithDelta(2.0, hypot($x[$frame] - 2.0, $z[$frame]), 0.02, "frame $frame");
        }
        self::assertEqualsWithDelta(0.0, $x[107], 0.03);
    }

    /** The profile of Lamb and Oseen, Γ/2πr·(1 − e^(−r²/c²)): Saffman 1992, §13.1. */
    public function test_a_swirl_goes_round_as_lamb_and_oseen_say(): void
    {
        $swirl = Swirl::of(['at' => [1.0, 0.0, 2.0], 'axis' => [0.0, 3.0, 0.0], 'speed' => 7.0, 'radius' => 0.4, 'inflow' => 0.0, 'updraft' => 0.0, 'reach' => 0.0]);
        $core = 0.4 / 1.12090642;
        $circulation = 7.0 * 2.0 * M_PI * 0.4 / (1.0 - exp(-1.12090642 ** 2));
        $fastest = 0.0;
        foreach ([0.01, 0.1, 0.3, 0.39, 0.4, 0.41, 0.8, 2.0, 9.0] as $r) {
            $effect = new Effect([1.0 + $r], [5.0], [2.0]);
            $swirl->on($effect, new Instant(0.0, 0, 1 / 24), array_fill(0, count($effect->x), 1.0));
            $form = $circulation / (2.0 * M_PI * $r) * (1.0 - exp(-$r * $r / $core / $core));
            self::assertEqualsWithDelta($form, -$effect->uz[0], 1e-6 * $form);
            self::assertEqualsWithDelta(0.0, hypot($effect->ux[0], $effect->uy[0]), 1e-12);
            $fastest = max($fastest, $form);
        }
        self::assertEqualsWithDelta(7.0, $fastest, 1e-6);
    }

    /** Bridson, Hourihan & Nordenstam 2007: the curl of a potential has no divergence; by central differences, against the size of its slopes. */
    public function test_eddies_have_no_divergence_and_the_speed_asked_for(): void
    {
        $air = static function (array $x, array $y, array $z): Effect {
            $effect = new Effect($x, $y, $z);
            Turbulence::of(['speed' => 4.0, 'size' => 0.7, 'detail' => 3, 'change' => 0.8, 'seed' => 5])->on($effect, new Instant(1.7, 0, 1.0), array_fill(0, count($effect->x), 1.0));

            return $effect;
        };
        $random = new SeededRandom(2);
        $h = 1e-4;
        for ($n = 0; $n < 300; $n++) {
            [$x, $y, $z] = [$random->between(-5, 5), $random->between(-5, 5), $random->between(-5, 5)];
            $f = $air([$x + $h, $x - $h, $x, $x, $x, $x], [$y, $y, $y + $h, $y - $h, $y, $y], [$z, $z, $z, $z, $z + $h, $z - $h]);
            [$a, $b, $c] = [($f->ux[0] - $f->ux[1]) / 2 / $h, ($f->uy[2] - $f->uy[3]) / 2 / $h, ($f->uz[4] - $f->uz[5]) / 2 / $h];
            // The differences themselves err by h² times third derivatives.
            self::assertLessThan(1e-6 * 60.0, abs($a + $b + $c));
        }
        $many = array_map(static fn (): float => $random->between(-30, 30), range(1, 12000));
        $f = $air(array_slice($many, 0, 4000), array_slice($many, 4000, 4000), array_slice($many, 8000));
        $sum = 0.0;
        foreach ($f->ux as $i => $u) {
            $sum += $u * $u + $f->uy[$i] ** 2 + $f->uz[$i] ** 2;
        }
        self::assertEqualsWithDelta(4.0, sqrt($sum / 4000), 0.1);
    }

    /** @return array<string, array{string, array<string, mixed>}> */
    public static function kinds(): array
    {
        return [
            'wind' => ['wind', []], 'wind from a point' => ['wind', ['from' => 'outwards', 'at' => [0.1, 0.2, 0.3]]], 'gusty wind' => ['wind', ['gusts' => 0.7]],
            'turbulence' => ['turbulence', []], 'swirl' => ['swirl', ['inflow' => 2.0, 'updraft' => 3.0]], 'pull' => ['pull', []], 'pull to a line' => ['pull', ['to' => 'line', 'law' => '1/r²']], 'pull one way' => ['pull', ['to' => 'way', 'at' => [0.0, 0.0, 0.0]]],
            'drag' => ['drag', []], 'blast' => ['blast', ['speed' => 1.0]], 'still air' => ['still-air', ['of' => 'water']],
        ];
    }

    /**
     * Half of it does half as much, none nothing, everywhere or place by place.
     *
     * @param  array<string, mixed>  $values
     */
    #[DataProvider('kinds')]
    public function test_a_force_does_as_much_as_there_is_of_it(string $kind, array $values): void
    {
        $does = static function (float|array $amounts, array $more = []) use ($kind, $values): array {
            $effect = new Effect([0.7, -0.4, 0.9], [0.2, 0.5, 0.1], [0.3, 0.6, -0.8]);
            $class = ForceCatalogue::FORCES[$kind];
            // The front of a blast is on its way through all three places.
            $class::of(Values::of($class::options(), $more + $values)->at(0.0))->on($effect, new Instant(24.0, 0, 1 / 24, 9.0), is_array($amounts) ? $amounts : array_fill(0, 3, $amounts));
            $out = [];
            foreach ([0, 1, 2] as $i) {
                $strike = ($effect->strikes[$i] ?? Vec3::zero())->toArray();
                $out[] = [$effect->ux[$i], $effect->uy[$i], $effect->uz[$i], $effect->ax[$i], $effect->ay[$i], $effect->az[$i], $effect->slowing[$i], ...$strike, ...($kind === 'still-air' ? [$effect->density[$i]] : [])];
            }

            return $out;
        };
        $all = $does(1.0);
        foreach ($all as $place) {
            self::assertGreaterThan(1e-3, max(array_map(abs(...), $place)));
        }
        $part = static fn (array $place, float $share): array => array_map(static fn (float $v): float => $share * $v, $place);
        self::assertEqualsWithDelta(array_map(static fn (array $p): array => $part($p, 0.25), $all), $does(0.25), 1e-12);
        self::assertEqualsWithDelta([$part($all[0], 0.0), $part($all[1], 0.5), $all[2]], $does([0.0, 0.5, 1.0]), 1e-12);
        if (in_array('reach', array_column(ForceCatalogue::FORCES[$kind]::options(), 'name'), true)) {
            // Beyond its reach it does nothing; a very long one changes nothing.
            self::assertEqualsWithDelta($all, $does(1.0, ['reach' => 1e4]), 2e-3 * max(array_map(abs(...), array_merge(...$all))));
            foreach ($does(1.0, ['reach' => 0.05]) as $place) {
                self::assertEqualsWithDelta(0.0, max(array_map(abs(...), $place)), 1e-12);
            }
        }
    }

    /** Half way to where it ends there is half of it, and speed 10 m/s goes towards where it is told, whatever the length of that. */
    public function test_a_wind_dies_away_evenly_to_its_reach_and_goes_where_it_is_told(): void
    {
        $effect = new Effect([2.0, 0.0], [0.0, 0.0], [0.0, 1.0]);
        Wind::of(Values::of(Wind::options(), ['speed' => 10.0, 'direction' => [0.0, 30.0, 40.0], 'at' => [0.0, 0.0, 0.0], 'reach' => 4.0])->at(0.0))->on($effect, new Instant(0.0, 0, 1 / 24), array_fill(0, count($effect->x), 1.0));
        self::assertEqualsWithDelta([0.0, 3.0, 4.0], [$effect->ux[0], $effect->uy[0], $effect->uz[0]], 1e-12);
        self::assertEqualsWithDelta([0.0, 4.5, 6.0], [$effect->ux[1], $effect->uy[1], $effect->uz[1]], 1e-12);
        self::assertSame(Effect::AIR, $effect->density[0]);
    }

    /** By form: 1/r to a line, half as much at 2 m as at 1; evenly less within the core; one way as gravity does. */
    public function test_pulls_go_by_their_law(): void
    {
        $a = static function (array $values, float $x, float $y, float $z): array {
            $effect = new Effect([$x], [$y], [$z]);
            Pull::of(Values::of(Pull::options(), $values)->at(0.0))->on($effect, new Instant(0.0, 0, 1 / 24), array_fill(0, count($effect->x), 1.0));

            return [$effect->ax[0], $effect->ay[0], $effect->az[0]];
        };
        $line = ['to' => 'line', 'at' => [1.0, 0.0, 0.0], 'along' => [0.0, 7.0, 0.0], 'strength' => 12.0, 'core' => 0.5];
        self::assertEqualsWithDelta([-12.0, 0.0, 0.0], $a($line, 2.0, 33.0, 0.0), 1e-12);
        self::assertEqualsWithDelta([0.0, 0.0, -6.0], $a($line, 1.0, -4.0, 2.0), 1e-12);
        self::assertEqualsWithDelta([-12.0, 0.0, 0.0], $a($line, 1.25, 0.0, 0.0), 1e-12, 'half way into the core: half of 12 / 0.5');
        self::assertEqualsWithDelta([0.0, -3.0, 4.0], $a(['to' => 'way', 'along' => [0.0, -6.0, 8.0], 'strength' => 5.0], 9.0, 9.0, 9.0), 1e-12);
        self::assertEqualsWithDelta([0.0, 5.0, 0.0], $a(['at' => [0.0, 3.0, 0.0], 'strength' => 5.0, 'law' => 'even'], 0.0, -8.0, 0.0), 1e-12);
    }

    /** Gusts go along with the air: what is at a place now is downwind a little later, by as far as the air has gone. */
    public function test_gusts_travel_with_the_wind(): void
    {
        $at = static function (float $x, float $frame): float {
            $effect = new Effect([$x], [0.0], [0.0]);
            Wind::of(Values::of(Wind::options(), ['speed' => 6.0, 'gusts' => 0.8, 'every' => 2.0])->at(0.0))->on($effect, new Instant($frame, 0, 1 / 24), array_fill(0, count($effect->x), 1.0));

            return $effect->ux[0];
        };
        $seen = [];
        for ($k = 0; $k < 40; $k++) {
            self::assertEqualsWithDelta($at(0.0, 7.0 * $k), $at(6.0, 7.0 * $k + 24.0), 1e-9);
            $seen[] = $at(0.0, 7.0 * $k);
        }
        self::assertLessThan(5.0, min($seen));
        self::assertGreaterThan(7.0, max($seen));
        self::assertEqualsWithDelta(6.0, array_sum($seen) / 40, 1.0);
    }

    /** Derivatives of noise against central differences of it. */
    public function test_slopes_of_noise_are_its_derivatives(): void
    {
        $noise = new Noise(new SeededRandom(7));
        $random = new SeededRandom(3);
        $h = 1e-5;
        for ($n = 0; $n < 200; $n++) {
            [$x, $y, $z] = [$random->between(-300, 300), $random->between(-3, 3), $random->between(-3, 3)];
            [$a, $b, $c] = $noise->slopesAt($x, $y, $z);
            self::assertEqualsWithDelta(($noise->at($x + $h, $y, $z) - $noise->at($x - $h, $y, $z)) / 2 / $h, $a, 1e-7);
            self::assertEqualsWithDelta(($noise->at($x, $y + $h, $z) - $noise->at($x, $y - $h, $z)) / 2 / $h, $b, 1e-7);
            self::assertEqualsWithDelta(($noise->at($x, $y, $z + $h) - $noise->at($x, $y, $z - $h)) / 2 / $h, $c, 1e-7);
        }
    }

    /** @return array<string, array{float, bool}> share of the wind at which ½ρC_dAu² = μmg, and whether it moves */
    public static function winds(): array
    {
        return ['a little less than what slides it' => [0.93, false], 'a little more' => [1.07, true]];
    }

    /** A crate on the ground, μ = 0.5 for both: Coulomb. It rests first, and only a wind that moves it wakes it. */
    #[DataProvider('winds')]
    public function test_what_rests_wakes_when_the_wind_begins_to_move_it_and_only_then(float $share, bool $moves): void
    {
        $speed = $share * sqrt(2.0 * 0.5 * 40.0 * 0.3 * self::G / Effect::AIR);
        $frames = self::bake(['wind' => ['speed' => ['keys' => [['frame' => 0, 'value' => 0], ['frame' => 24, 'value' => 0], ['frame' => 48, 'value' => $speed]]]]], [], 72, 40.0, position: [0.0, 0.0, 0.0]);
        self::assertSame(1, $frames[24]->figures['resting']);
        self::assertSame($moves ? 0 : 1, $frames[60]->figures['resting']);
        $x = self::along(0, $frames);
        self::assertEqualsWithDelta(0.0, $x[24], 1e-4);
        $moves ? self::assertGreaterThan(0.05, $x[72]) : self::assertEqualsWithDelta(0.0, $x[72], 1e-4);
    }

    /** i·A/m once, as the front passes: a cube of 0.3 m and 500 kg/m³ face on to it at 1 m gets 60·0.09/13.5 m/s, at 2 m half of it; fronts of 20 m/s come to 1 m after 1.2 frames. */
    public function test_a_blast_pushes_once_as_its_front_passes(): void
    {
        foreach ([1 => 0.4, 2 => 0.2] as $r => $speed) {
            $frames = self::bake(['blast' => ['at' => [-(float) $r, 30.15, 0.0], 'frame' => 4, 'impulse' => 60.0, 'speed' => 20.0]], [], 24, gravity: 0.0);
            $x = self::along(0, $frames);
            $comes = 4.0 + 24.0 * $r / 20.0;
            self::assertSame(0.0, $x[(int) floor($comes) - 1] - $x[0]);
            self::assertEqualsWithDelta($speed, ($x[24] - $x[12]) * 2.0, 1e-5);
            self::assertEqualsWithDelta($comes, 24.0 - ($x[24] - $x[0]) / $speed * 24.0, 0.6, 'within a search of a frame');
        }
    }

    public function test_a_shard_askew_sails_aside_and_a_cube_does_not(): void
    {
        $aside = [];
        foreach ([0.0, 30.0] as $turn) {
            $frames = self::bake(['still-air' => []], [], 24, 30.0, turn: [0, 0, $turn], with: ['source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.3, 'height' => 0.01, 'depth' => 0.3]]]);
            $aside[] = abs(self::along(0, $frames)[24]);
        }
        self::assertLessThan(1e-6, $aside[0]);
        self::assertGreaterThan(0.1, $aside[1]);
    }

    public function test_what_a_force_does_not_act_on_moves_as_if_there_were_none(): void
    {
        $none = self::streams(self::bake([], [], 12));
        $other = self::bake(['wind' => ['speed' => 30.0]], [], 12, on: ['other']);
        $off = self::bake(['wind' => ['speed' => 30.0]], [], 12, amount: 0);
        self::assertSame([$none, $none], [self::streams($other), self::streams($off)]);
        self::assertNotSame($none, self::streams(self::bake(['wind' => ['speed' => 30.0]], [], 12)));
    }

    /** Half of a wall of tiles weighs 0: those fall straight down. */
    public function test_a_map_says_how_much_of_a_force_pieces_get(): void
    {
        $frames = self::bake(['wind' => ['speed' => 12.0]], [], 12, 60.0, position: [0.0, 2.0, 0.0], with: [
            'break' => ['pattern' => 'tiles', 'values' => ['grid' => [2, 1, 1]]],
            'weights' => [['id' => 'half', 'name' => 'Half', 'sources' => [Trials::source('ball', ['middle' => [0.1, 0.15, 0.0], 'full' => 0.1, 'none' => 0.15])]]],
        ], map: 'half');
        $x = array_map(static fn (int $piece): float => self::along(0, $frames, $piece)[12] - self::along(0, $frames, $piece)[0], [0, 1]);
        sort($x);
        self::assertEqualsWithDelta(0.0, $x[0], 1e-6);
        self::assertGreaterThan(0.02, $x[1]);
    }

    public function test_forces_taken_up_from_a_state_give_the_same_bytes(): void
    {
        $document = self::document(
            ['wind' => ['speed' => 9.0, 'gusts' => 0.6], 'turbulence' => ['speed' => 5.0], 'swirl' => ['updraft' => 6.0], 'pull' => ['strength' => 4.0]],
            [], 20, 15.0, position: [0.0, 0.3, 0.0], with: ['break' => ['pattern' => 'cells', 'values' => ['count' => 12, 'seed' => 2]]],
        );
        self::assertSame(array_map(md5(...), Trials::baked($document)), array_map(md5(...), Trials::baked($document, true)));
        self::assertSame([], Trials::lost($document, 4));
    }

    /**
     * @param  array<string, array<string, mixed>>  $forces  values by kind
     * @param  array<string, mixed>  $values  of the mover
     * @param  list<float>  $position
     * @param  list<float>  $turn
     * @param  array<string, mixed>  $with
     * @param  list<string>|null  $on
     * @return array<string, mixed>
     */
    private static function document(
        array $forces, array $values, int $last, float $density = 500.0, float $gravity = self::G, array $position = [0.0, 30.0, 0.0], array $turn = [0, 0, 0],
        array $with = [], ?array $on = null, string $map = '', float $amount = 1.0,
    ): array {
        $box = Trials::box('box', $position, $with + [
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]],
            'place' => ['position' => $position, 'turn' => $turn, 'size' => 1],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => $density, 'friction' => 0.5, 'bounce' => 0.0],
            'motion' => ['kind' => 'free', 'values' => (object) $values, 'release' => ['on' => 'frame', 'frame' => 0]],
        ]);
        $acting = [];
        foreach ($forces as $kind => $own) {
            $acting[] = ['id' => $kind, 'name' => ucfirst($kind), 'kind' => $kind, 'values' => (object) $own, 'amount' => $amount] + ($on === null ? [] : ['on' => $on]) + ($map === '' ? [] : ['map' => $map]);
        }

        return Trials::document([$box, Trials::box('other', [50.0, 0.0, 0.0])], [
            'version' => 5,
            'frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]],
            'world' => ['gravity' => [0, -$gravity, 0], 'ground' => ['kind' => 'flat', 'values' => (object) []], 'friction' => 0.5, 'bounce' => 0.0],
            'forces' => $acting,
        ]);
    }

    /**
     * @param  array<string, array<string, mixed>>  $forces
     * @param  array<string, mixed>  $values
     * @param  list<float>  $position
     * @param  list<float>  $turn
     * @param  array<string, mixed>  $with
     * @param  list<string>|null  $on
     * @return list<Frame>
     */
    private static function bake(
        array $forces, array $values, int $last, float $density = 500.0, float $gravity = self::G, array $position = [0.0, 30.0, 0.0], array $turn = [0, 0, 0],
        array $with = [], ?array $on = null, string $map = '', float $amount = 1.0,
    ): array {
        return iterator_to_array(Trials::ready(self::document($forces, $values, $last, $density, $gravity, $position, $turn, with: $with, on: $on, map: $map, amount: $amount))->frames(), false);
    }

    /**
     * @param  array<string, array<string, mixed>>  $forces
     * @param  array<string, mixed>  $values
     * @return list<float> metres, frame by frame
     */
    private static function heights(array $forces, float $density, array $values, int $last): array
    {
        return self::along(1, self::bake($forces, $values, $last, $density, position: [0.0, 300.0, 0.0]));
    }

    /**
     * @param  list<Frame>  $frames
     * @return list<float> metres, where a piece of the first prop is along an axis
     */
    private static function along(int $axis, array $frames, int $piece = 0): array
    {
        return array_map(static fn (Frame $f): float => (array_values(unpack('g3', $f->stream(0, StreamKind::Poses), $piece * Pose::BYTES) ?: []))[$axis], $frames);
    }

    /**
     * @param  list<Frame>  $frames
     * @return list<string>
     */
    private static function streams(array $frames): array
    {
        return array_map(static fn (Frame $f): string => md5($f->stream(0, StreamKind::Poses)), $frames);
    }
}
