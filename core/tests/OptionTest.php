<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\LinesKind;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Path;
use YardBreak\Core\Kinds\Point;
use YardBreak\Core\Kinds\Points;
use YardBreak\Core\Kinds\Sizes;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Kinds\Words;
use YardBreak\Core\Option;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Weight\WeightCatalogue;

final class OptionTest extends TestCase
{
    /** @return list<Option> */
    private static function options(): array
    {
        return [
            new Option('count', 'Pieces', '', Whole::class, 5, 1, 10),
            new Option('share', 'Share', '', Number::class, 0.5, 0, 1),
            new Option('at', 'Point', '', Point::class, null, -10, 10, 'm'),
            new Option('size', 'Sizes', '', Sizes::class, [1.0, 1.0, 1.0], 0.5, 2),
            new Option('round', 'Points', '', Points::class, null, -10, 10),
            new Option('path', 'Path', '', Path::class, [[0, 0, 0], [1, 0, 0]], -10, 10),
            new Option('word', 'Word', '', Words::class, 'FERN', 1, 5),
            new Option('kind', 'Kind', '', Choice::class, 'one', choices: ['one', 'other']),
            new Option('lines', 'Lines', '', LinesKind::class, ['lines' => []]),
        ];
    }

    public function test_what_is_missing_takes_its_default(): void
    {
        $values = Option::resolve(self::options(), []);
        self::assertSame([5, 0.5, null, 'FERN', 'one'], [$values['count'], $values['share'], $values['at'], $values['word'], $values['kind']]);
    }

    public function test_words_of_the_command_line_become_numbers_and_points(): void
    {
        $values = Option::resolve(self::options(), ['count' => '7', 'share' => '0.25', 'at' => '1,-2,0.5', 'round' => '0,0,0;1,2,3', 'path' => '0,0,0;0,1,0']);
        self::assertSame(
            [7, 0.25, [1.0, -2.0, 0.5], [[0.0, 0.0, 0.0], [1.0, 2.0, 3.0]]],
            [$values['count'], $values['share'], $values['at'], $values['round']],
        );
        self::assertCount(2, $values['path']);
    }

    /** @return array<string, array{string, mixed, string}> */
    public static function refused(): array
    {
        return [
            'a word for a number' => ['count', 'many', 'must be a number'],
            'half a piece' => ['count', 2.5, 'whole number'],
            'too few' => ['count', 0, 'between 1 and 10'],
            'not finite' => ['share', INF, 'must be a number'],
            'two numbers' => ['at', [1, 2], 'three numbers'],
            'a word among numbers' => ['at', '1,two,3', 'three numbers'],
            'a point too far off' => ['at', [0, 0, 99], 'between -10 and 10 m'],
            'a size too small' => ['size', [1, 1, 0.1], 'between 0.5 and 2'],
            'no points' => ['round', [], 'one to 1000 points'],
            'a path of one' => ['path', [[0, 0, 0]], 'two to 1000 points'],
            'a bad point of a path' => ['path', [[0, 0, 0], [1, 'x', 0]], 'three numbers'],
            'a word too long' => ['word', 'FENNEL', '1 to 5 letters'],
            'no word' => ['word', '', '1 to 5 letters'],
            'another kind' => ['kind', 'third', 'one of: one, other'],
            'no drawing' => ['lines', 'scribble', 'must be a drawing'],
            'a drawing without lines' => ['lines', ['points' => []], 'list of lines'],
            'what is not there' => ['cuont', 3, 'no setting called "cuont"'],
        ];
    }

    #[DataProvider('refused')]
    public function test_what_is_wrong_is_named(string $name, mixed $value, string $words): void
    {
        try {
            Option::resolve(self::options(), [$name => $value]);
            self::fail('it was taken');
        } catch (Problem $e) {
            self::assertStringContainsString($words, $e->getMessage());
            self::assertStringStartsWith($name, $e->path);
        }
    }

    /** Everything there is can be made with nothing but its defaults, so a first press always shows something. */
    public function test_defaults_of_all_catalogues_are_within_their_own_bounds(): void
    {
        foreach ([
            ...ShapeCatalogue::SHAPES,
            ...PrepareCatalogue::STEPS,
            ...BreakCatalogue::PATTERNS,
            ...WeightCatalogue::SOURCES,
            ...WeightCatalogue::STEPS,
        ] as $class) {
            $options = $class::options();
            $defaults = array_filter(
                array_combine(array_map(static fn (Option $o): string => $o->name, $options), array_map(static fn (Option $o): mixed => $o->default, $options)),
                static fn (mixed $v): bool => $v !== null && $v !== [],
            );
            self::assertEquals($defaults, array_intersect_key(Option::resolve($options, $defaults), $defaults), $class);
            foreach ($options as $o) {
                self::assertNotSame('', $o->label, $class);
                foreach (explode('|', $o->with) as $need) {
                    [$other] = explode('=', $need);
                    self::assertContains($other, ['', ...array_map(static fn (Option $p): string => $p->name, $options)], $class.' '.$o->name);
                }
            }
        }
    }
}
