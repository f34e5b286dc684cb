<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;
use YardBreak\Core\Problem;

final class PackTest extends TestCase
{
    public function test_everything_is_read_back_as_it_was_written(): void
    {
        $many = range(0, 9000);
        $out = new PackWriter('Test', 3);
        $out->int(-5);
        $out->float(0.1);
        $out->floats([INF, -0.0, 1e-300]);
        $out->singles([0.5, -2.25]);
        $out->ints([PHP_INT_MAX, PHP_INT_MIN]);
        $out->small([-2147483648, -1, 0, 2147483647]);
        $out->flags([0, 255]);
        $out->text('säule');
        $out->packed(str_repeat('a', 5000));
        $out->small($many);
        $out->floats([]);
        self::assertLessThan(9001 * 4 + 300, strlen($out->bytes()));
        $in = new PackReader($out->bytes(), 'Test', 3);
        self::assertSame([-5, 0.1], [$in->int(), $in->float()]);
        self::assertSame(serialize([INF, -0.0, 1e-300]), serialize($in->floats()));
        self::assertSame([[0.5, -2.25], [PHP_INT_MAX, PHP_INT_MIN]], [$in->singles(), $in->ints()]);
        self::assertSame([[-2147483648, -1, 0, 2147483647], [0, 255]], [$in->small(), $in->flags()]);
        self::assertSame(['säule', str_repeat('a', 5000), $many, []], [$in->text(), $in->packed(), $in->small(), $in->floats()]);
        $in->end();
    }

    public function test_what_is_damaged_or_of_another_version_is_said(): void
    {
        $out = new PackWriter('Test', 3);
        $out->packed('abc');
        $out->floats([1.0, 2.0]);
        $bytes = $out->bytes();
        $read = static function (string $bytes, string $name = 'Test', int $version = 3): void {
            $in = new PackReader($bytes, $name, $version);
            $in->packed();
            $in->floats();
            $in->end();
        };
        $read($bytes);
        foreach ([
            [$bytes, 'Rest'],
            [$bytes, 'Test', 4],
            [''],
            [substr($bytes, 0, 7)],
            [substr($bytes, 0, -1)],
            [$bytes.'x'],
            [substr_replace($bytes, 'xxx', 14, 3)],
        ] as $k => $arguments) {
            try {
                $read(...$arguments);
                self::fail("it was taken: $k");
            } catch (Problem $e) {
                self::assertStringContainsString('another version of Yard Break, or is damaged', $e->getMessage());
            }
        }
    }
}
