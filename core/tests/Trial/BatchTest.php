<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Trial;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\ShotValue;
use YardBreak\Core\Tests\Bake\Trials;
use YardBreak\Core\Trial\Batch;

/** Variants of a shot, by form. */
final class BatchTest extends TestCase
{
    private const COUNT = '/props/0/break/values/count';

    private const FRICTION = '/props/0/material/friction';

    /** @param  list<int|float|string>|string  $meant  the values, or what is said of it */
    #[DataProvider('written')]
    public function test_what_is_written_is_read(string $path, string $written, array|string $meant): void
    {
        try {
            $values = Batch::of([['path' => $path, 'values' => $written]], self::tryable())->axes[0]->values;
            self::assertSame($meant, $values);
        } catch (Problem $e) {
            self::assertIsString($meant, $e->getMessage());
            self::assertStringContainsString($meant, $e->getMessage());
        }
    }

    /** @return iterable<string, array{string, string, list<int|float|string>|string}> */
    public static function written(): iterable
    {
        yield 'a list with thousands' => [self::COUNT, '200, 1,000, 10,000', [200, 1000, 10000]];
        yield 'without blanks' => [self::COUNT, '5,10;20', [5, 10, 20]];
        yield 'a range' => [self::COUNT, '1–12', range(1, 12)];
        yield 'a range with a hyphen, backwards' => [self::COUNT, '12-9', [12, 11, 10, 9]];
        yield 'a range and a value' => [self::COUNT, '1 to 3, 50', [1, 2, 3, 50]];
        yield 'the same twice' => [self::COUNT, '3, 3', [3]];
        yield 'steps' => [self::FRICTION, '0.1–0.6 by 0.1', [0.1, 0.2, 0.3, 0.4, 0.5, 0.6]];
        yield 'so many' => [self::FRICTION, '0.25–1 in 4', [0.25, 0.5, 0.75, 1]];
        yield 'per cent' => ['/props/0/material/bounce', '10 %, 50', [0.1, 0.5]];
        yield 'negative' => ['/props/0/place/position/1', '-2, −1, -1–1 by 0.5', [-2, -1, -0.5, 0, 0.5, 1]];
        yield 'its unit' => ['/props/0/material/density', '500 kg/m³, 2,600', [500, 2600]];
        yield 'a pattern' => ['/props/0/break', 'Cells, strike', ['cells', 'strike']];
        yield 'no number' => [self::COUNT, 'many', 'Pieces of Block cannot be "many"'];
        yield 'out of range' => [self::FRICTION, '0.5, 7', 'Friction of Block cannot be 7: it must be between 0 and 5'];
        yield 'not whole' => [self::COUNT, '1.5', 'it must be a whole number'];
        yield 'no step' => [self::FRICTION, '0.1–0.6', 'needs to know how far apart'];
        yield 'far too many' => [self::COUNT, '1–5000', 'would have 5,000 values; there are 1,000 at most'];
        yield 'nothing' => [self::COUNT, ' , ', 'has no values to try'];
        yield 'no such choice' => ['/props/0/break', 'melt', 'Pattern of Block cannot be "melt"'];
    }

    public function test_every_value_meets_every_other_the_last_changing_fastest(): void
    {
        $batch = Batch::of([['path' => self::COUNT, 'values' => '4, 8'], ['path' => self::FRICTION, 'values' => '0.2, 0.4, 0.8']], self::tryable());
        self::assertSame(6, $batch->count());
        $variants = $batch->variants(self::document(), self::extents(...));
        self::assertSame('Pieces of Block 4, friction of Block 0.2', $variants[0]['words']);
        self::assertSame('Pieces of Block 8, friction of Block 0.4', $variants[4]['words']);
        self::assertSame([['op' => 'add', 'path' => self::COUNT, 'value' => 8], ['op' => 'add', 'path' => self::FRICTION, 'value' => 0.4]], $variants[4]['patch']);
    }

    public function test_another_pattern_comes_with_lengths_that_suit_and_without_steps_after_the_old(): void
    {
        $variants = Batch::of([['path' => '/props/0/break', 'values' => 'cells, courses']], self::tryable())->variants(self::document(), self::extents(...));
        self::assertSame([], $variants[0]['patch'], 'that it is');
        self::assertSame(['/props/0/break', '/props/0/rework'], array_column($variants[1]['patch'], 'path'));
        self::assertSame('courses', $variants[1]['patch'][0]['value']['pattern']);
        self::assertArrayNotHasKey('count', (array) $variants[1]['patch'][0]['value']['values']);
    }

    public function test_too_much_at_once_is_refused_in_words(): void
    {
        foreach ([
            'Nothing is chosen' => [],
            'The same value is chosen twice' => [['path' => self::COUNT, 'values' => '1'], ['path' => self::COUNT, 'values' => '2']],
            'A pattern and a value of it' => [['path' => self::COUNT, 'values' => '1'], ['path' => '/props/0/break', 'values' => 'strike']],
            '10,000 variants' => [['path' => self::COUNT, 'values' => '1–100'], ['path' => '/props/0/break/values/seed', 'values' => '1–100']],
            'no such value any more' => [['path' => '/props/7/break', 'values' => 'cells']],
        ] as $words => $axes) {
            try {
                Batch::of($axes, self::tryable());
                self::fail($words);
            } catch (Problem $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
    }

    public function test_what_is_keyed_hidden_or_of_no_use_is_not_tried(): void
    {
        $document = self::document();
        $paths = array_column(ShotValue::all($document), 'path');
        self::assertContains(self::FRICTION, $paths);
        self::assertContains('/props/0/motion/values/drag', $paths);
        $document['props'][0]['material']['friction'] = Trials::keys([0 => 0.1, 9 => 1]);
        $document['props'][0]['break'] = null;
        $fewer = ShotValue::all($document);
        self::assertNotContains(self::COUNT, array_column($fewer, 'path'));
        try {
            Batch::of([['path' => self::FRICTION, 'values' => '0.2, 0.4']], $fewer);
            self::fail('What is keyed was tried.');
        } catch (Problem $e) {
            self::assertStringContainsString('Friction of Block has keys', $e->getMessage());
        }
        $document['props'][0]['hidden'] = true;
        self::assertSame([], array_filter(array_column(ShotValue::all($document), 'path'), static fn (string $p): bool => str_starts_with($p, '/props')));
    }

    /** @return list<ShotValue> */
    private static function tryable(): array
    {
        return ShotValue::all(self::document());
    }

    /** @return array{float, float, float} */
    private static function extents(): array
    {
        return [0.3, 0.3, 0.3];
    }

    /** @return array<string, mixed> */
    private static function document(): array
    {
        return Trials::document([Trials::box('block', [0, 1, 0], ['break' => ['pattern' => 'cells', 'values' => ['count' => 6]], 'motion' => ['kind' => 'free']])]);
    }
}
