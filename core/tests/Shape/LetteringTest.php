<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shape;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Shape\Lettering;

final class LetteringTest extends TestCase
{
    public function test_reading_a_font_leaves_nothing_in_the_temporary_folder(): void
    {
        $there = static fn (): array => glob(sys_get_temp_dir().'/{fnt,php}*', GLOB_BRACE) ?: [];
        $before = $there();
        foreach (array_keys(Lettering::FONTS) as $font) {
            self::assertGreaterThan(2, count(Lettering::outline('Row', $font, 0.2, 0.05)->lines));
        }
        self::assertSame([], array_values(array_diff($there(), $before)));
    }
}
