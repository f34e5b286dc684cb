<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\TellingFrame;

final class TellingFrameTest extends TestCase
{
    public function test_it_lies_in_the_first_third_of_what_moves(): void
    {
        // One falls from frame 10 on, forty come apart at 20 and lie still one after the other until 60.
        $moving = static fn (int $f): int => $f < 10 ? 0 : ($f < 20 ? 1 : max(0, 60 - $f));
        $figures = array_map(static fn (int $f): array => ['frame' => 1001 + $f, 'moving' => $moving($f), 'energy' => (float) $moving($f)], range(0, 80));
        // Half of the forty still move at frame 40: a third of the way from 20 there.
        self::assertSame(1001 + 26, TellingFrame::of($figures));
    }

    public function test_what_has_fallen_already_is_shown_while_it_flies(): void
    {
        // Sixty come apart at frame 20 and slide about until 80, but have spent all but a fortieth of their energy after 25.
        $figures = array_map(static fn (int $f): array => ['frame' => $f, 'moving' => $f < 20 || $f > 80 ? 0 : 60, 'energy' => $f <= 25 ? 50.0 : 1.4], range(0, 90));
        self::assertSame(25, TellingFrame::of($figures));
    }

    public function test_it_is_in_the_middle_where_physics_moves_nothing(): void
    {
        self::assertSame(6, TellingFrame::of(array_map(static fn (int $frame): array => ['frame' => $frame, 'moving' => 0, 'energy' => 0.0], [5, 6, 7])));
    }
}
