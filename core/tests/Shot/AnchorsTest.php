<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Prepared;
use YardBreak\Core\Shot\Anchors;
use YardBreak\Core\Tests\Bake\Trials;

/** Which pieces stay held whatever happens: counted in tiles. */
final class AnchorsTest extends TestCase
{
    /** Three tiles wide and three high: by name, by a map that is full on the left third, by standing on the ground, by the wall at its right. */
    public function test_pieces_are_anchored_by_name_map_ground_and_what_they_touch(): void
    {
        $post = Trials::box('post', [0.3, 0, 0]);
        foreach ([
            [[], [], 0],
            [[], ['touching' => ['ground']], 3],
            [[], ['map' => 'left'], 3],
            [[], ['map' => 'left', 'touching' => ['ground']], 5],
            [[], ['touching' => ['post']], 3],
            [['named'], ['touching' => ['post', 'ground']], 5],
            [[], ['map' => 'left', 'level' => 0.0], 9],
        ] as [$anchors, $by, $count]) {
            $box = Trials::box('box', [0, 0, 0], [
                'break' => ['pattern' => 'tiles', 'values' => ['grid' => [3, 3, 1]]],
                'weights' => [['id' => 'left', 'name' => 'Left', 'sources' => [Trials::source('front', ['point' => [-0.05, 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.001, 'falloff' => 'linear'])]]],
                'motion' => ['kind' => 'free', 'anchors' => $anchors, 'anchoredBy' => (object) $by],
            ]);
            $shot = Trials::ready(Trials::document([$box, $post]))->shot;
            [$shards, $parts] = Trials::made($shot);
            $anchored = Prepared::ofParts($shot, $shot->props[0], $parts)->anchored;
            self::assertCount($count, $anchored, json_encode([$anchors, $by]) ?: '');
            foreach (isset($by['touching']) && count($by) === 1 && $by['touching'] === ['ground'] ? array_keys($anchored) : [] as $piece) {
                self::assertLessThan(0.1, $shards['box'][$piece]->centre()->y);
            }
        }
    }

    /** What is anchored stays, whatever lets the others go. */
    public function test_what_is_anchored_is_never_let_go(): void
    {
        $box = Trials::box('box', [0, 0, 0], [
            'break' => ['pattern' => 'tiles', 'values' => ['grid' => [3, 3, 1]]],
            'motion' => ['kind' => 'free', 'anchoredBy' => ['touching' => ['ground']]],
        ]);
        $frame = Trials::ready(Trials::document([$box]))->baker()->firstFrame();
        self::assertSame(['box' => 6], $frame->figures['released']);
    }

    public function test_what_touches_itself_or_nothing_is_not_anchored(): void
    {
        $box = Trials::box('box', [0, 1, 0], ['break' => ['pattern' => 'tiles', 'values' => ['grid' => [2, 1, 1]]], 'motion' => ['kind' => 'free', 'anchoredBy' => ['touching' => ['ground', 'box', 'gone']]]]);
        $shot = Trials::ready(Trials::document([$box]))->shot;
        [, $parts] = Trials::made($shot);
        self::assertSame([], Anchors::of($shot, $shot->props[0], ['one', 'two'], static fn (): array => [[0.0, 0.1], [0.5, 0.6], [0.0, 0.1]], $parts));
    }
}
