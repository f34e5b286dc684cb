<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Rigid\BroadPhase;

/** Pairs of boxes against the definition: every two compared. */
final class BroadPhaseTest extends TestCase
{
    /** @return array<string, array{float, float, float}> how widely boxes lie, how large they are, and the share much larger */
    public static function yards(): array
    {
        return [
            'a heap' => [1.0, 0.2, 0.0],
            'apart' => [10.0, 0.2, 0.0],
            'with planks and plates' => [3.0, 0.2, 0.05],
            'all in one place' => [0.05, 0.2, 0.0],
            'below the origin and far off' => [2000.0, 40.0, 0.01],
        ];
    }

    #[DataProvider('yards')]
    public function test_it_finds_what_comparing_all_finds(float $spread, float $size, float $large): void
    {
        mt_srand(5);
        $any = static fn (): float => mt_rand() / mt_getrandmax();
        $low = $high = [[], [], []];
        $kind = $body = $group = [];
        for ($c = 0; $c < 300; $c++) {
            for ($a = 0; $a < 3; $a++) {
                $from = ($any() - 0.5) * $spread;
                $low[$a][] = $from;
                $high[$a][] = $from + $size * (0.5 + $any()) * ($any() < $large ? 40.0 : 1.0);
            }
            $kind[] = [BroadPhase::STILL, BroadPhase::RESTING, BroadPhase::MOVING, BroadPhase::WAITING, BroadPhase::KEYED][mt_rand(0, 4)];
            $body[] = mt_rand(0, 200);
            $group[] = mt_rand(0, 4);
        }
        $expected = [];
        for ($c = 0; $c < 300; $c++) {
            for ($d = $c + 1; $d < 300; $d++) {
                $meet = true;
                for ($a = 0; $a < 3; $a++) {
                    $meet = $meet && $low[$a][$c] <= $high[$a][$d] && $low[$a][$d] <= $high[$a][$c];
                }
                $moves = $kind[$c] === BroadPhase::MOVING || $kind[$d] === BroadPhase::MOVING;
                $waits = $kind[$c] === BroadPhase::WAITING || $kind[$d] === BroadPhase::WAITING;
                $wakes = [$kind[$c], $kind[$d]] === [BroadPhase::KEYED, BroadPhase::RESTING]
                    || [$kind[$d], $kind[$c]] === [BroadPhase::KEYED, BroadPhase::RESTING];
                if ($meet && $body[$c] !== $body[$d] && ($moves || $wakes || ($waits && $group[$c] !== $group[$d]))) {
                    $expected[] = $c.'-'.$d;
                }
            }
        }
        $found = array_map(
            static fn (array $p): string => $p[0].'-'.$p[1],
            array_chunk(BroadPhase::pairs($low[0], $high[0], $low[1], $high[1], $low[2], $high[2], $kind, $body, $group), 2),
        );
        sort($found);
        sort($expected);
        self::assertSame($expected, $found);
    }
}
