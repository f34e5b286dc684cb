<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Tests\Bake\Trials;

/** What weights, and pieces that are made by them, are named by: where the names are the same, so are they, in whatever shot. */
final class NamesTest extends TestCase
{
    /** Patches that move go by seconds, not by frames. */
    public function test_grain_that_drifts_is_named_by_the_seconds_since_the_first_frame(): void
    {
        $grain = [['source' => 'grain', 'values' => ['size' => 0.2, 'drift' => [0.5, 0, 0]]]];
        $run = static fn (int $first, int $rate): MapRun => Maps::run(
            $grain,
            [],
            static fn (array $d): array => ['frames' => ['first' => $first, 'last' => 40, 'rate' => [$rate, 1]]] + $d,
        );
        $plain = $run(0, 24);
        foreach ([$run(0, 48), $run(10, 24)] as $other) {
            $at = 20 - $other->shot->first;
            self::assertNotEquals($plain->weightsAt('reach', MapRun::SURFACE, 20), $other->weightsAt('reach', MapRun::SURFACE, 20));
            self::assertNotSame($plain->keys('reach', MapRun::SURFACE)[20], $other->keys('reach', MapRun::SURFACE)[$at]);
        }
        // The same moment after the start is the same, whatever its number.
        $late = $run(10, 24);
        self::assertSame($plain->keys('reach', MapRun::SURFACE)[20], $late->keys('reach', MapRun::SURFACE)[20]);
        self::assertSame($plain->weightsAt('reach', MapRun::SURFACE, 20), $late->weightsAt('reach', MapRun::SURFACE, 30));
    }

    /** What is taken over from another prop is that of the place that is nearest at the moment. */
    public function test_a_map_taken_over_is_named_by_where_its_prop_stands(): void
    {
        $run = static fn (float $x): MapRun => Maps::run([['source' => 'map', 'values' => ['map' => 'own']]], [], static function (array $d) use ($x): array {
            $d['props'][1]['place']['position'] = [$x, 0.3, 0];
            $d['props'][1]['motion'] = ['kind' => 'fixed'];
            $d['props'][1]['weights'] = [[
                'id' => 'own',
                'name' => 'Own',
                'sources' => [Trials::source('front', ['point' => [0, 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.1, 'falloff' => 'linear'])],
            ]];

            return $d;
        });
        self::assertNotEquals($run(0.0)->weightsAt('reach', MapRun::SURFACE, 0), $run(0.4)->weightsAt('reach', MapRun::SURFACE, 0));
        self::assertNotSame($run(0.0)->keys('reach', MapRun::SURFACE)[0], $run(0.4)->keys('reach', MapRun::SURFACE)[0]);
        // Both moved alike they stand to each other as before.
        $both = Maps::run([['source' => 'map', 'values' => ['map' => 'own']]], [], static function (array $d): array {
            $d['props'][0]['place']['position'] = [2.0, 0, 0];
            $d['props'][1]['place']['position'] = [2.4, 0.3, 0];
            $d['props'][1]['motion'] = ['kind' => 'fixed'];
            $d['props'][1]['weights'] = [[
                'id' => 'own',
                'name' => 'Own',
                'sources' => [Trials::source('front', ['point' => [0, 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.1, 'falloff' => 'linear'])],
            ]];

            return $d;
        });
        self::assertEqualsWithDelta($run(0.4)->weightsAt('reach', MapRun::SURFACE, 0), $both->weightsAt('reach', MapRun::SURFACE, 0), 1e-9);
    }

    /** What a source remembers only saves work: the ball stands from frame 6 on, then its two distances are keyed. */
    public function test_weights_are_the_same_in_whatever_order_frames_are_asked_for(): void
    {
        $keys = static fn (float $a, float $b): array => ['keys' => [
            ['frame' => 6, 'value' => $a],
            ['frame' => 7, 'value' => $b],
            ['frame' => 12, 'value' => $a],
        ]];
        $run = static fn (): MapRun => Maps::run([['source' => 'proximity', 'values' => ['to' => 'ball', 'full' => $keys(0.3, 0.05), 'none' => $keys(0.6, 1.4), 'falloff' => 'linear']]], [], static function (array $d): array {
            $d['props'][1]['place']['position'][0] = ['keys' => [['frame' => 0, 'value' => -2], ['frame' => 6, 'value' => -0.8]]];

            return $d;
        });
        $inOrder = $run();
        $other = $run();
        $straight = [];
        foreach ([7, 3, 8, 6, 7] as $frame) {
            $straight[$frame] = $other->weightsAt('reach', MapRun::SURFACE, $frame);
        }
        foreach ([3, 6, 7, 8] as $frame) {
            $weights = $inOrder->weightsAt('reach', MapRun::SURFACE, $frame);
            self::assertSame($run()->weightsAt('reach', MapRun::SURFACE, $frame), $weights, "frame $frame");
            self::assertSame($straight[$frame] ?? $weights, $weights, "frame $frame");
        }
    }

    /** Pieces that are crowded by a map as it is at a frame: when its cue comes, how long a frame lasts, and where the shot begins. */
    public function test_pieces_steered_by_a_map_are_named_by_all_it_goes_by(): void
    {
        $name = static function (int $cue, int $rate, int $first): string {
            $keys = ['keys' => [['frame' => 0, 'value' => -0.5], ['cue' => 'go', 'offset' => 0, 'value' => 0.5]]];
            $d = Trials::document([Trials::box('block', [0, 0, 0], [
                'break' => [
                    'pattern' => 'cells',
                    'values' => ['count' => 20, 'seed' => 1, 'weight' => ['source' => 'map', 'values' => ['map' => 'rise'], 'frame' => 12]],
                ],
                'weights' => [[
                    'id' => 'rise',
                    'name' => 'Rise',
                    'sources' => [Trials::source(
                        'front',
                        ['point' => [0, $keys, 0], 'direction' => [0, 1, 0], 'full' => 0, 'none' => 0.2, 'falloff' => 'linear'],
                    )],
                    'inTime' => [['step' => 'lag', 'values' => ['half' => 0.4]]],
                ]],
            ])], ['cues' => [['id' => 'go', 'name' => 'Go', 'at' => ['on' => 'frame', 'frame' => $cue]]], 'frames' => ['first' => $first,
                'last' => 24,
                'rate' => [$rate, 1]]]);

            return ShotSpec::fromJson((string) json_encode($d))->props[0]->shardKey();
        };
        $plain = $name(4, 24, 0);
        self::assertSame($plain, $name(4, 24, 0));
        self::assertNotSame($plain, $name(10, 24, 0), 'the cue');
        self::assertNotSame($plain, $name(4, 60, 0), 'the rate');
        self::assertNotSame($plain, $name(4, 24, 2), 'the first frame');
    }
}
