<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;

/** Pieces that go, that pass through others, and that weigh by their size, in whole bakes. */
final class DebrisTest extends TestCase
{
    /** A box at rest goes after half a second, shrinking in a quarter; what stood on it comes down to the ground. */
    public function test_what_has_rested_long_enough_goes_and_what_stood_on_it_falls(): void
    {
        $frames = self::baked([
            self::free('low', [0, 0, 0], ['goneAfter' => 0.5, 'goneIn' => 0.25]),
            self::free('high', [0, 0.3, 0]),
        ], 72);
        $sizes = array_map(static fn (Frame $f): float => self::shown($f, 0), $frames);
        $gone = array_keys(array_filter($sizes, static fn (float $s): bool => $s === 0.0));
        self::assertNotSame([], $gone);
        // Six frames to rest, twelve at rest, six to shrink.
        self::assertEqualsWithDelta(6 + 12 + 6, $gone[0], 1.0);
        for ($f = 1; $f <= 72; $f++) {
            self::assertLessThanOrEqual($sizes[$f - 1], $sizes[$f], 'it never grows again');
        }
        self::assertEqualsWithDelta(0.15, self::place($frames[72], 1)[1], 2e-3);
        self::assertSame(1, $frames[72]->figures['gone']);
    }

    public function test_what_leaves_the_box_goes_as_it_flies(): void
    {
        $frames = self::baked([self::free('low', [0, 3.0, 0], ['velocity' => [6.0, 0, 0], 'box' => [4.0, 0, 0], 'goneIn' => 0.0])], 24);
        $gone = array_keys(array_filter($frames, static fn (Frame $f): bool => self::shown($f, 0) === 0.0));
        // 2 m at 6 m/s is 8 frames.
        self::assertEqualsWithDelta(8, $gone[0], 1.0);
    }

    public function test_a_piece_goes_where_its_map_says(): void
    {
        $low = self::free('low', [0, 0, 0], ['goneMap' => 'sweep', 'goneIn' => 0.0]);
        $low['weights'] = [['id' => 'sweep', 'name' => 'Sweep', 'sources' => [Trials::source('front', ['point' => [Trials::keys([0 => -2.0, 24 => 2.0]), 0, 0], 'direction' => [1, 0, 0], 'full' => 0.0, 'none' => 0.01])]]];
        $frames = self::baked([$low], 24);
        $gone = array_keys(array_filter($frames, static fn (Frame $f): bool => self::shown($f, 0) === 0.0));
        // The front passes the middle of the box at frame 12.
        self::assertEqualsWithDelta(12, $gone[0], 1.0);
    }

    public function test_a_prop_passes_through_those_it_is_told_to(): void
    {
        foreach ([[[], 0.45], [['slab'], 0.15]] as [$passes, $height]) {
            $low = self::free('low', [0, 1.0, 0]);
            $low['motion']['passes'] = $passes;
            $frames = self::baked([$low, Trials::box('slab', [0, 0, 0])], 36);
            self::assertEqualsWithDelta($height, self::place($frames[36], 0)[1], 5e-3);
        }
    }

    public function test_passing_through_what_is_not_there_is_refused_with_its_place(): void
    {
        $low = self::free('low', [0, 1.0, 0]);
        $low['motion']['passes'] = ['nobody'];
        try {
            self::baked([$low], 1);
            self::fail('nobody is there');
        } catch (Problem $e) {
            self::assertSame('props[0].motion.passes', $e->path);
        }
    }

    /** A ball of six tenths of a cube's size, dropped on the level, rests with its middle at three tenths. */
    public function test_contact_balls_have_the_share_of_the_size_that_is_asked_for(): void
    {
        $frames = self::baked([self::free('low', [0, 0.5, 0], ['shape' => 'ball', 'ball' => 0.6])], 48);
        self::assertEqualsWithDelta(0.3 * 0.3, self::place($frames[48], 0)[1], 1e-3);
    }

    /**
     * @param  list<float>  $at
     * @param  array<string, mixed>  $values
     * @return array<string, mixed>
     */
    private static function free(string $id, array $at, array $values = []): array
    {
        return Trials::box($id, $at, ['motion' => ['kind' => 'free', 'values' => (object) $values, 'release' => ['on' => 'frame', 'frame' => 0]]]);
    }

    /**
     * @param  list<array<string, mixed>>  $props
     * @return list<Frame>
     */
    private static function baked(array $props, int $last): array
    {
        return iterator_to_array(Trials::ready(Trials::document($props, ['frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]]]))->frames(), false);
    }

    private static function shown(Frame $frame, int $prop): float
    {
        $bytes = $frame->streams[$prop][StreamKind::Sizes->value] ?? null;

        return $bytes === null ? 1.0 : (unpack('g', $bytes) ?: [])[1];
    }

    /** @return array{float, float, float} */
    private static function place(Frame $frame, int $prop): array
    {
        /** @var array{float, float, float} */
        return array_values(unpack('g3', $frame->streams[$prop][StreamKind::Poses->value]) ?: []);
    }
}
