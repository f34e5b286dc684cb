<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Solids;

/** High stacks of thin things stand; what cannot stand falls as ever. Places by form. */
final class StacksTest extends TestCase
{
    /** Sixty slates of 6 mm, laid on each other a little askew: all rest within 3 s, 95 of 100 sunk in by less than a twentieth. */
    public function test_sixty_slates_come_to_rest_on_each_other(): void
    {
        $thick = 0.006;
        foreach (range(1, 10) as $seed) {
            $random = new SeededRandom($seed);
            $w = new World;
            $bodies = [];
            for ($k = 0; $k < 60; $k++) {
                $bodies[] = Solids::addBox($w, [0.3, $thick, 0.2], new Vec3($random->between(-0.01, 0.01), $thick * ($k + 0.5), $random->between(-0.01, 0.01)));
            }
            $w->pieceSize = 0.3;
            $w->pieceThickness = $thick;
            for ($f = 0; $f < 72; $f++) {
                $w->step(1 / 24, 2, 6);
            }
            self::assertCount(0, array_keys($w->state, World::MOVING, true), "seed $seed");
            $apart = [];
            foreach ($bodies as $k => $b) {
                $apart[] = ($w->py[$b] - ($k === 0 ? -0.5 * $thick : $w->py[$bodies[$k - 1]])) / $thick;
            }
            sort($apart);
            // 95 of 100, and all of them.
            self::assertGreaterThan(0.95, $apart[3], "seed $seed");
            self::assertGreaterThan(0.85, $apart[0], "seed $seed");
            self::assertGreaterThan(0.97 * 60 * $thick, $w->py[$bodies[59]] + 0.5 * $thick);
        }
    }

    /** Plates that each jut out over the one below: at a quarter of their length the middle of the upper five lies beyond the edge of the first, so they topple; at less than a sixth it does not. */
    public function test_what_leans_out_too_far_topples_and_what_does_not_stays(): void
    {
        $tops = [];
        foreach (['stands' => 0.08, 'just stands' => 0.16, 'leans' => 0.25] as $name => $out) {
            $w = new World;
            for ($k = 0; $k < 6; $k++) {
                $last = Solids::addBox($w, [0.4, 0.016, 0.2], new Vec3($out * 0.4 * $k, 0.008 + 0.016 * $k, 0.0));
            }
            $w->pieceSize = 0.4;
            $w->pieceThickness = 0.016;
            for ($f = 0; $f < 48; $f++) {
                $w->step(1 / 24, 2, 6);
            }
            $tops[$name] = $w->py[$last];
        }
        // The middle of the upper five lies three steps out, the edge half a length: 0.24, 0.48 and 0.75 of a length against 0.5.
        self::assertEqualsWithDelta(0.088, $tops['stands'], 0.002);
        self::assertEqualsWithDelta(0.088, $tops['just stands'], 0.002);
        self::assertLessThan(0.06, $tops['leans']);
    }

    /** What is thrown at a stack gives it its momentum: nothing is held back by what stands under. */
    public function test_a_stack_that_is_hit_from_the_side_goes_on_with_what_hit_it(): void
    {
        $w = new World;
        $w->groundFriction = 0.0;
        $mass = 0.0;
        for ($k = 0; $k < 6; $k++) {
            $b = Solids::addBox($w, [0.3, 0.012, 0.3], new Vec3(0.0, 0.006 + 0.012 * $k, 0.0));
            $mass += $w->mass[$b];
        }
        $w->pieceSize = 0.3;
        $w->pieceThickness = 0.012;
        for ($f = 0; $f < 12; $f++) {
            $w->step(1 / 24, 2, 6);
        }
        $hammer = Solids::addBox($w, [0.1, 0.072, 0.3], new Vec3(-0.5, 0.036, 0.0), velocity: new Vec3(2.0, 0.0, 0.0));
        $given = 2.0 * $w->mass[$hammer];
        for ($f = 0; $f < 24; $f++) {
            $w->step(1 / 24, 2, 6);
        }
        $sum = 0.0;
        foreach ($w->state as $b => $state) {
            $sum += $w->mass[$b] * $w->vx[$b];
        }
        self::assertEqualsWithDelta($given, $sum, 0.01 * $given);
    }
}
