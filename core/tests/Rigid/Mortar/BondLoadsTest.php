<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid\Mortar;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Joint;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\Mortar\BondLoads;
use YardBreak\Core\Rigid\Mortar\Bonds;
use YardBreak\Core\Rigid\Mortar\Cluster;

/** Loads on bonds against the statics of beams and the dynamics of rigid bodies, in closed form (common practice). */
final class BondLoadsTest extends TestCase
{
    private const G = 9.80665;

    /** Side of a block, and its mass at 2000 kg/m³. */
    private const S = 0.1;

    private const M = 2.0;

    /** Two blocks under each other on the ceiling: the upper bond bears both, the lower one. */
    public function test_what_hangs_draws_on_each_bond_with_all_that_is_below_it(): void
    {
        $row = self::row(3, new Vec3(0.0, -self::S, 0.0));
        $cluster = self::cluster(3, new Vec3(0.0, -self::S, 0.0), [0 => true]);
        foreach ([1, 2] as $piece) {
            $cluster->add($piece, new Vec3(0.0, -self::M * self::G, 0.0), Vec3::zero());
        }
        $borne = (new BondLoads($cluster, $row, 5e9))->borne(1e-9);
        foreach ([2.0, 1.0] as $bond => $blocks) {
            [$force, $moment] = $borne[$bond];
            self::assertEqualsWithDelta($blocks * self::M * self::G, $force->dot($row->normal[$bond]), 1e-5);
            self::assertEqualsWithDelta(0.0, $moment->length(), 1e-6);
            [$tension, $shear, $pressure] = $row->stress($bond, $force, $moment);
            self::assertEqualsWithDelta($blocks * self::M * self::G / self::S ** 2, $tension, 1e-2);
            self::assertEqualsWithDelta(0.0, $shear + $pressure, 1e-2);
        }
    }

    /** Shear of all that is beyond, and its moment, ρgAL and ρgAL²/2 at the root; stress 6M/h³. */
    public function test_a_cantilever_bears_most_at_its_root(): void
    {
        foreach ([12, 60] as $n) {
            $row = self::row($n + 1, new Vec3(self::S, 0.0, 0.0));
            $cluster = self::cluster($n + 1, new Vec3(self::S, 0.0, 0.0), [0 => true]);
            for ($piece = 1; $piece <= $n; $piece++) {
                $cluster->add($piece, new Vec3(0.0, -self::M * self::G, 0.0), Vec3::zero());
            }
            $borne = (new BondLoads($cluster, $row, 5e9))->borne(1e-8);
            $weight = $n * self::M * self::G;
            [$force, $moment] = $borne[0];
            self::assertEqualsWithDelta(-$weight, $force->y, 1e-4 * $weight, "$n blocks");
            self::assertEqualsWithDelta(0.5 * $n * self::S * $weight, abs($moment->z), 1e-4 * $n * self::S * $weight, "$n blocks");
            [$tension, $shear] = $row->stress(0, $force, $moment);
            self::assertEqualsWithDelta(6.0 * 0.5 * $n * self::S * $weight / self::S ** 3, $tension, 1e-3 * $tension);
            self::assertEqualsWithDelta($weight / self::S ** 2, $shear, 1e-3 * $shear);
            foreach ($borne as $bond => [$f, $m]) {
                self::assertLessThanOrEqual($tension, $row->stress($bond, $f, $m)[0], 'nowhere more than at the root');
            }
        }
    }

    /** A free rod drawn at its ends by equal and opposite forces bears them in every bond; thrown by one end it bears nothing beyond. */
    public function test_what_is_free_bears_what_is_left_when_it_moves_as_one(): void
    {
        $row = self::row(5, new Vec3(self::S, 0.0, 0.0));
        $cluster = self::cluster(5, new Vec3(self::S, 0.0, 0.0));
        $cluster->add(0, new Vec3(-10.0, 0.0, 0.0), Vec3::zero());
        $cluster->add(4, new Vec3(10.0, 0.0, 0.0), Vec3::zero());
        $cluster->balance(Vec3::zero());
        foreach ((new BondLoads($cluster, $row, 5e9))->borne(1e-9) as $bond => [$force]) {
            self::assertEqualsWithDelta(10.0, $force->dot($row->normal[$bond]), 1e-4);
        }
        // Drawn by one end alone: each bond draws what is behind it, a fifth less each.
        $cluster = self::cluster(5, new Vec3(self::S, 0.0, 0.0));
        $cluster->add(4, new Vec3(10.0, 0.0, 0.0), Vec3::zero());
        $cluster->balance(Vec3::zero());
        foreach ((new BondLoads($cluster, $row, 5e9))->borne(1e-9) as $bond => [$force]) {
            self::assertEqualsWithDelta(2.0 * ($bond + 1), $force->dot($row->normal[$bond]), 1e-4);
        }
    }

    /** A rod that turns about its middle: at a distance r the bond draws in ω² times the mass and middle of all beyond. */
    public function test_what_turns_is_drawn_apart(): void
    {
        $row = self::row(4, new Vec3(self::S, 0.0, 0.0));
        $cluster = self::cluster(4, new Vec3(self::S, 0.0, 0.0));
        $cluster->balance(new Vec3(0.0, 0.0, 10.0));
        $borne = (new BondLoads($cluster, $row, 5e9))->borne(1e-9);
        self::assertEqualsWithDelta(100.0 * self::M * 1.5 * self::S, $borne[0][0]->dot($row->normal[0]), 1e-4);
        self::assertEqualsWithDelta(100.0 * self::M * (1.5 + 0.5) * self::S, $borne[1][0]->dot($row->normal[1]), 1e-4);
    }

    /** A chimney that topples about its foot bears the greatest moment a third of the way up (e.g. Varieschi & Kamiya 2003, "Toy models for the falling chimney"). */
    public function test_a_toppling_chimney_bears_most_a_third_up(): void
    {
        $n = 30;
        $up = new Vec3(0.0, self::S, 0.0);
        $row = self::row($n, $up);
        $cluster = self::cluster($n, $up);
        // Lying level and turning about its foot at its lower end: gravity on all of it, the foot bears a quarter of the weight.
        for ($piece = 0; $piece < $n; $piece++) {
            $cluster->add($piece, new Vec3(self::M * self::G, 0.0, 0.0), Vec3::zero());
        }
        $cluster->push(0, new Vec3(0.0, -0.5 * self::S, 0.0), new Vec3(-0.25 * $n * self::M * self::G, 0.0, 0.0));
        $cluster->balance(Vec3::zero());
        $borne = (new BondLoads($cluster, $row, 5e9))->borne(1e-7);
        $bent = array_map(static fn (array $b): float => $b[1]->length(), $borne);
        self::assertEqualsWithDelta($n / 3, array_search(max($bent), $bent, true) + 1, 1.01);
    }

    /** Within the time of contact a blow is felt only as far as the wave comes; over long ones all of it is moved. */
    public function test_a_short_blow_is_borne_near_it_and_a_long_one_by_all(): void
    {
        $n = 60;
        $row = self::row($n, new Vec3(self::S, 0.0, 0.0));
        $far = [];
        foreach ([2e-4, 2e-3, 2e-1] as $time) {
            $cluster = self::cluster($n, new Vec3(self::S, 0.0, 0.0));
            $cluster->add(0, new Vec3(1.0 / $time, 0.0, 0.0), Vec3::zero());
            $borne = (new BondLoads($cluster, $row, 5e9, $time))->borne(1e-8);
            $far[] = $borne[40][0]->length() * $time;
        }
        // In the end every bond pushes on what is beyond it: 19 of 60.
        self::assertEqualsWithDelta(19 / 60, $far[2], 0.01);
        self::assertLessThan(1e-3, $far[0]);
        self::assertLessThan($far[2], $far[1]);
    }

    /** A level row on three props bears the moments of a beam over two spans: the middle one carries 10/8 of the load of a span (common practice). */
    public function test_supports_bear_as_stiff_as_all_is_and_none_pulls(): void
    {
        $n = 81;
        $row = self::row($n, new Vec3(self::S, 0.0, 0.0));
        $up = new Vec3(0.0, 1.0, 0.0);
        $borne = function (array $at, array $loads) use ($n, $row, $up): array {
            $cluster = self::cluster($n, new Vec3(self::S, 0.0, 0.0));
            foreach ($loads as $piece => $load) {
                $cluster->add($piece, new Vec3(0.0, -$load, 0.0), Vec3::zero());
            }
            $total = array_sum($loads);
            // All of it on one of them, as a solver may well have it, and its moment made up by the others.
            $about = 0.0;
            foreach ($loads as $piece => $load) {
                $about += self::S * $piece * $load;
            }
            [$left, $right] = [self::S * $at[0], self::S * $at[count($at) - 1]];
            $far = ($about - $total * $left) / ($right - $left);
            foreach ($at as $k => $piece) {
                $cluster->support($piece, new Vec3(self::S * $piece, 0.0, 0.0), $up);
                $cluster->carry($piece, $up->times($k === 0 ? $total - $far : ($k === count($at) - 1 ? $far : 0.0)), Vec3::zero());
            }
            $cluster->balance(Vec3::zero());

            return (new BondLoads($cluster, $row, 5e9))->borne(1e-9);
        };
        $shear = static fn (array $b, int $bond): float => $b[$bond][0]->y;
        $all = $borne([0, 40, 80], array_fill(0, $n, 10.0));
        // What the middle bears: how much the shear jumps there, and what lies on it.
        $middle = abs($shear($all, 40) - $shear($all, 39)) + 10.0;
        self::assertEqualsWithDelta(1.25 * 400.0, $middle, 1.0);
        // Loaded beyond the right one alone, the left one lifts: the others bear all of it.
        $tilted = $borne([0, 40, 60], [80 => 10.0, 50 => 400.0]);
        self::assertEqualsWithDelta(0.0, abs($shear($tilted, 20)), 0.5);
    }

    /** A wall of bricks solved by lots and without gives the same. */
    public function test_lots_change_how_fast_but_not_what(): void
    {
        $joints = [];
        [$w, $h] = [9, 8];
        $at = static fn (int $k): Vec3 => new Vec3(self::S * ($k % $w), self::S * intdiv($k, $w), 0.0);
        for ($k = 0; $k < $w * $h; $k++) {
            foreach ([1 => $k % $w < $w - 1, $w => $k < $w * ($h - 1)] as $step => $is) {
                if ($is) {
                    $joints[] = self::joint($k, $k + $step, $at($k)->plus($at($k + $step))->times(0.5), $at($k + $step)->minus($at($k))->unit());
                }
            }
        }
        $bonds = new Bonds($joints);
        $pieces = range(0, $w * $h - 1);
        $make = static function () use ($pieces, $at, $w): Cluster {
            $c = new Cluster(
                $pieces, array_map($at, $pieces), array_fill(0, count($pieces), self::M), array_fill(0, count($pieces), self::inertia()),
                array_fill_keys(range(0, $w - 1), true),
            );
            foreach ($pieces as $piece) {
                $c->add($piece, new Vec3(3.0, -self::M * self::G, 1.0), Vec3::zero());
            }

            return $c;
        };
        $borne = (new BondLoads($make(), $bonds, 5e9))->borne(1e-9);
        // What holds the lowest row bears all of the loads on the others.
        $sum = Vec3::zero();
        foreach ($borne as $bond => [$force]) {
            $sum = $bonds->one[$bond] < $w && $bonds->other[$bond] >= $w ? $sum->plus($force) : $sum;
        }
        $above = $w * ($h - 1);
        self::assertEqualsWithDelta([3.0 * $above, -self::M * self::G * $above, 1.0 * $above], $sum->toArray(), 1e-3 * $above);
    }

    public static function row(int $n, Vec3 $step): Bonds
    {
        $joints = [];
        for ($k = 0; $k < $n - 1; $k++) {
            $joints[] = self::joint($k, $k + 1, $step->times($k + 0.5), $step->unit());
        }

        return new Bonds($joints);
    }

    private static function joint(int $one, int $other, Vec3 $at, Vec3 $n): Joint
    {
        $own = self::S ** 4 / 12.0;
        $spread = [$own * (1 - $n->x ** 2), $own * (1 - $n->y ** 2), $own * (1 - $n->z ** 2), 0.0, 0.0, 0.0];

        return new Joint($one, $other, self::S ** 2, $at, $n, $spread, self::S);
    }

    /** @param  array<int, true>  $fixed */
    private static function cluster(int $n, Vec3 $step, array $fixed = []): Cluster
    {
        $pieces = range(0, $n - 1);

        return new Cluster(
            $pieces, array_map(static fn (int $k): Vec3 => $step->times($k), $pieces), array_fill(0, $n, self::M), array_fill(0, $n, self::inertia()), $fixed,
        );
    }

    /** @return array{float, float, float, float, float, float} */
    private static function inertia(): array
    {
        $i = self::M * self::S ** 2 / 6.0;

        return [$i, $i, $i, 0.0, 0.0, 0.0];
    }
}
