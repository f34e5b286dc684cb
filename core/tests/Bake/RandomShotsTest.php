<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Problem;

/** Some of the shots that `bin/attack --only=history` tries by the thousand. */
final class RandomShotsTest extends TestCase
{
    public function test_what_is_kept_resumed_and_evaluated_is_what_a_whole_bake_gives(): void
    {
        for ($seed = 1, $tried = 0; $tried < 9; $seed++) {
            try {
                self::assertNull(Truths::broken($seed), "seed $seed");
                $tried++;
            } catch (Problem) {
                // Some are no shots: a map that takes over itself, what drifts in a circle, a key before its touch.
                self::assertLessThan(40, $seed);
            }
        }
    }
}
