<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Tests\Solids;
use YardBreak\Core\Weight\Weight;

/** Expected values are the closed forms of each source: distances, planes and bands written out here. */
final class WeightTest extends TestCase
{
    public function test_a_ball_is_full_within_and_none_beyond_and_even_between(): void
    {
        $ball = Weight::of(['source' => 'ball', 'values' => ['middle' => [1, 2, 3], 'full' => 0.2, 'none' => 0.6, 'falloff' => 'linear']]);
        self::assertSame(1.0, $ball->at(1.0, 2.0, 3.19));
        self::assertSame(0.0, $ball->at(1.0, 2.61, 3.0));
        self::assertEqualsWithDelta(0.75, $ball->at(1.3, 2.0, 3.0), 1e-12);
        self::assertEqualsWithDelta(0.25, $ball->at(1.0, 2.3, 3.4), 1e-12, 'at distance 0.5 by 3-4-5');
    }

    /** The cubic 3t² − 2t³ is ½ half way and has no slope at its ends. */
    public function test_the_smooth_falloff_eases_out_of_both_ends(): void
    {
        $ball = Weight::of(['source' => 'ball', 'values' => ['full' => 0.0, 'none' => 1.0, 'falloff' => 'smooth']]);
        self::assertEqualsWithDelta(0.5, $ball->at(0.5, 0.0, 0.0), 1e-12);
        self::assertEqualsWithDelta(3 * 0.75 ** 2 - 2 * 0.75 ** 3, $ball->at(0.25, 0.0, 0.0), 1e-12);
        self::assertLessThan(1e-5, 1.0 - $ball->at(0.001, 0.0, 0.0));
    }

    /** Each falloff by its formula, and a curve of one's own by W3C css-easing-1: `linear` is (0, 0, 1, 1). */
    public function test_every_falloff_is_its_formula(): void
    {
        $at = static fn (string $falloff, float $d, array $more = []): float => Weight::of([
            'source' => 'ball',
            'values' => ['full' => 1.0, 'none' => 3.0, 'falloff' => $falloff] + $more,
        ])->at($d, 0.0, 0.0);
        foreach ([1.2, 1.9, 2.5, 2.95] as $d) {
            $t = (3.0 - $d) / 2.0;
            self::assertEqualsWithDelta($t * $t, $at('sharp', $d), 1e-12);
            self::assertEqualsWithDelta(sqrt($t), $at('root', $d), 1e-12);
            self::assertEqualsWithDelta($t, $at('own', $d, ['curve' => [0.0, 0.0, 1.0, 1.0]]), 1e-6);
        }
        self::assertEqualsWithDelta(
            0.802403,
            $at('own', 2.0, ['curve' => [0.25, 0.1, 0.25, 1.0]]),
            1e-5,
            'the curve `ease` at ½ (value from memory of css-easing-1 implementations)',
        );
    }

    /** With the two distances swapped a source is what it would be inverted with them right. */
    public function test_swapped_distances_are_the_same_inverted_one_way(): void
    {
        $random = new SeededRandom(4);
        foreach (['linear', 'smooth'] as $falloff) {
            $right = Weight::of(['source' => 'ball', 'values' => ['full' => 0.2, 'none' => 0.7, 'falloff' => $falloff], 'invert' => true]);
            $swapped = Weight::of(['source' => 'ball', 'values' => ['full' => 0.7, 'none' => 0.2, 'falloff' => $falloff]]);
            for ($i = 0; $i < 300; $i++) {
                $p = [$random->between(-1, 1), $random->between(-1, 1), $random->between(-1, 1)];
                self::assertEqualsWithDelta($right->at(...$p), $swapped->at(...$p), 1e-12);
            }
        }
    }

    public function test_a_box_counts_the_distance_to_its_sides_edges_and_corners(): void
    {
        $box = Weight::of(['source' => 'box', 'values' => ['middle' => [0, 1, 0], 'size' => [2, 2, 2], 'full' => 0, 'none' => 1, 'falloff' => 'linear']]);
        self::assertSame(1.0, $box->at(0.9, 1.9, -0.9));
        self::assertEqualsWithDelta(0.7, $box->at(1.3, 1.0, 0.0), 1e-12);
        self::assertEqualsWithDelta(0.5, $box->at(1.3, 2.4, 0.0), 1e-12);
        self::assertEqualsWithDelta(1.0 - sqrt(0.03), $box->at(1.1, 2.1, 1.1), 1e-12);
    }

    public function test_a_front_is_full_behind_its_plane(): void
    {
        $front = Weight::of([
            'source' => 'front',
            'values' => ['point' => [0, 1, 0], 'direction' => [0, 1, 0], 'full' => 0, 'none' => 0.5, 'falloff' => 'linear'],
        ]);
        self::assertSame(1.0, $front->at(9.0, -5.0, 3.0));
        self::assertEqualsWithDelta(0.5, $front->at(-4.0, 1.25, 7.0), 1e-12);
        self::assertSame(0.0, $front->at(0.0, 1.5, 0.0));
    }

    public function test_stripes_repeat_with_their_spacing_and_take_their_share(): void
    {
        $stripes = Weight::of(['source' => 'stripes', 'values' => ['direction' => [1, 0, 0], 'spacing' => 0.4, 'share' => 0.25, 'soft' => 0, 'shift' => 0.1]]);
        foreach ([-1, 0, 3] as $n) {
            self::assertSame(1.0, $stripes->at(0.1 + 0.4 * $n, 5.0, 5.0));
            self::assertSame(1.0, $stripes->at(0.1 + 0.4 * $n + 0.049, 0.0, 0.0));
            self::assertSame(0.0, $stripes->at(0.1 + 0.4 * $n - 0.051, 0.0, 0.0));
        }
        $random = new SeededRandom(2);
        $full = 0.0;
        for ($i = 0; $i < 4000; $i++) {
            $full += $stripes->at($random->between(0.0, 4.0), 0.0, 0.0);
        }
        // Four standard deviations of a share of 4000.
        self::assertEqualsWithDelta(0.25, $full / 4000, 4 * sqrt(0.25 * 0.75 / 4000));
    }

    public function test_a_stripe_along_a_drawn_line_is_as_wide_as_said_seen_along_its_direction(): void
    {
        // An L in the plane z = 0, pushed through along z.
        $line = Weight::of([
            'source' => 'stripes',
            'values' => ['by' => 'line', 'line' => [[0, 0, 0], [1, 0, 0], [1, 1, 0]], 'direction' => [0, 0, 1], 'spacing' => 0.4, 'share' => 0.5, 'soft' => 0],
        ]);
        foreach ([[0.5, 0.099, 7.0], [0.5, -0.099, -3.0], [1.0707, -0.0707, 0.0], [1.099, 0.5, 0.0], [-0.07, 0.07, 1.0]] as $in) {
            self::assertSame(1.0, $line->at(...$in));
        }
        foreach ([[0.5, 0.101, 7.0], [1.072, -0.072, 0.0], [0.899, 0.5, 0.0], [-0.072, 0.072, 1.0], [1.0, 1.101, 0.0]] as $out) {
            self::assertSame(0.0, $line->at(...$out));
        }
        $this->expectExceptionMessage('A line needs two points at least.');
        Weight::of(['source' => 'stripes', 'values' => ['by' => 'line', 'line' => [[0, 0, 0]]]]);
    }

    public function test_grain_covers_more_with_its_balance_and_another_seed_lies_elsewhere(): void
    {
        $share = static function (float $balance, int $seed): array {
            $grain = Weight::of(['source' => 'grain', 'values' => ['size' => 0.1, 'balance' => $balance, 'soft' => 0.0, 'seed' => $seed]]);
            $random = new SeededRandom(9);
            $out = [];
            for ($i = 0; $i < 2000; $i++) {
                $out[] = $grain->at($random->share(), $random->share(), $random->share());
            }

            return $out;
        };
        $half = $share(0.5, 1);
        self::assertEqualsWithDelta(0.5, array_sum($half) / 2000, 0.06);
        self::assertLessThan(0.1, array_sum($share(0.15, 1)) / 2000);
        self::assertGreaterThan(0.9, array_sum($share(0.85, 1)) / 2000);
        self::assertNotSame($half, $share(0.5, 2));
    }

    public function test_inverting_gives_what_is_missing_to_one_at_every_vertex(): void
    {
        $mesh = Solids::vase(8);
        $value = ['source' => 'front', 'values' => ['point' => [0, 0.2, 0], 'none' => 0.2]];
        $plain = Weight::of($value)->over($mesh);
        $inverted = Weight::of($value + ['invert' => true])->over($mesh);
        self::assertCount($mesh->vertexCount(), $plain);
        foreach ($plain as $i => $w) {
            self::assertEqualsWithDelta(1.0, $w + $inverted[$i], 1e-12);
        }
    }

    public function test_a_line_of_words_is_the_same_weight(): void
    {
        $words = Weight::inWords('ball middle=0,1,0 full=0.1 none=0.3 falloff=linear invert');
        self::assertEqualsWithDelta(0.5, Weight::of($words)->at(0.2, 1.0, 0.0), 1e-12);
        self::assertSame(1.0, Weight::of($words)->at(9.0, 0.0, 0.0));
    }

    /** @return iterable<string, array{array<mixed>, string, string}> */
    public static function faults(): iterable
    {
        yield 'unknown source' => [['source' => 'moon'], 'source', 'There is no source of weights called "moon".'];
        yield 'not anywhere' => [['source' => 'hollows'], 'source', 'A break cannot be steered by "hollows" itself.'];
        yield 'keys' => [
            ['source' => 'ball', 'values' => ['full' => ['keys' => [['frame' => 0, 'value' => 0.1], ['frame' => 9, 'value' => 0.2]]]]],
            'full',
            'cannot have keys',
        ];
        yield 'unknown value' => [['source' => 'ball', 'values' => ['width' => 1]], 'width', 'There is no setting called "width" here.'];
        yield 'no direction' => [['source' => 'front', 'values' => ['direction' => [0, 0, 0]]], 'direction', 'has no length'];
    }

    /** @param  array<mixed>  $value */
    #[DataProvider('faults')]
    public function test_what_is_wrong_is_said(array $value, string $path, string $message): void
    {
        try {
            Weight::of($value);
            self::fail('nothing was said');
        } catch (Problem $e) {
            self::assertSame($path, $e->path);
            self::assertStringContainsString($message, $e->getMessage());
        }
    }
}
