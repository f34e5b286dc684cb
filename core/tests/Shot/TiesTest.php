<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Shot\ShotValue;
use YardBreak\Core\Shot\Ties;
use YardBreak\Core\Tests\Bake\Trials;

/** Numbers that are the same as each other, by what ties are to mean. */
final class TiesTest extends TestCase
{
    private const ONE = 'props/one/material/friction';

    private const TWO = 'props/two/material/friction';

    public function test_where_one_is_changed_the_others_follow_whichever_it_is(): void
    {
        $before = self::document([[self::ONE, self::TWO]]);
        foreach ([[0, 1], [1, 0]] as [$changed, $other]) {
            $after = $before;
            $after['props'][$changed]['material']['friction'] = 0.25;
            self::assertSame([['op' => 'add', 'path' => "/props/$other/material/friction", 'value' => 0.25]], Ties::steps($before, $after));
        }
        self::assertSame([], Ties::steps($before, $before));
    }

    public function test_a_new_tie_takes_the_number_of_the_first_and_its_keys(): void
    {
        $before = self::document([]);
        $before['props'][0]['material']['friction'] = Trials::keys([0 => 0.1, 9 => 1.0]);
        $after = ['ties' => [[self::ONE, self::TWO]]] + $before;
        self::assertSame([['op' => 'add', 'path' => '/props/1/material/friction', 'value' => $before['props'][0]['material']['friction']]], Ties::steps($before, $after));
        // What nobody has set is what it usually is.
        unset($after['props'][0]['material']['friction'], $before['props'][0]['material']['friction']);
        $usual = array_column(ShotValue::all($before), 'now', 'place')[self::ONE];
        $after['props'][1]['material']['friction'] = $before['props'][1]['material']['friction'] = 0.9;
        self::assertSame($usual, Ties::steps($before, $after)[0]['value']);
    }

    public function test_of_axes_one_takes_the_place_of_the_one_there(): void
    {
        $before = self::document([['props/one/place/position/1', 'props/two/place/position/0']]);
        $after = $before;
        $after['props'][0]['place']['position'][1] = 3;
        self::assertSame([['op' => 'replace', 'path' => '/props/1/place/position/0', 'value' => 3]], Ties::steps($before, $after));
    }

    public function test_what_has_no_values_yet_is_given_some(): void
    {
        $document = self::document([['props/one/motion/values/drag', 'props/two/motion/values/drag']], ['motion' => ['kind' => 'free']]);
        $after = $document;
        $after['props'][0]['motion']['values'] = ['drag' => 2.0];
        self::assertEquals([['op' => 'add', 'path' => '/props/1/motion/values', 'value' => (object) []], ['op' => 'add', 'path' => '/props/1/motion/values/drag', 'value' => 2.0]], Ties::steps($document, $after));
    }

    public function test_a_place_is_the_same_whatever_stands_before_it(): void
    {
        $document = self::document([]);
        array_unshift($document['props'], Trials::box('first', [5, 1, 0]));
        $places = array_column(ShotValue::all($document), 'path', 'place');
        self::assertSame('/props/1/material/friction', $places[self::ONE]);
        self::assertSame('/props/2/place/position/2', $places['props/two/place/position/2']);
    }

    public function test_what_stands_in_a_list_without_names_has_no_place(): void
    {
        $document = self::document([]);
        $document['props'][0]['weights'] = [['id' => 'm', 'name' => 'M', 'sources' => [['source' => 'front', 'values' => ['speed' => 1.0], 'invert' => false, 'operation' => 'add', 'amount' => 1]]]];
        $of = array_values(array_filter(ShotValue::all($document), static fn (ShotValue $v): bool => str_starts_with($v->path, '/props/0/weights')));
        self::assertNotSame([], $of);
        self::assertSame([null], array_values(array_unique(array_column($of, 'place'))));
    }

    public function test_what_is_not_there_any_more_is_not_tied_and_what_is_hidden_stays_so(): void
    {
        $before = self::document([[self::ONE, self::TWO]]);
        $gone = $before;
        array_pop($gone['props']);
        self::assertSame([['op' => 'remove', 'path' => '/ties']], Ties::steps($before, $gone));
        $hidden = $before;
        $hidden['props'][1]['hidden'] = true;
        self::assertSame([], Ties::steps($before, $hidden));
        $changed = $hidden;
        $changed['props'][0]['material']['friction'] = 0.4;
        self::assertSame('/props/1/material/friction', Ties::steps($hidden, $changed)[0]['path']);
        $three = self::document([[self::ONE, self::TWO, 'props/none/material/friction']]);
        self::assertSame([['op' => 'replace', 'path' => '/ties', 'value' => [[self::ONE, self::TWO]]]], Ties::steps($three, $three));
    }

    public function test_what_is_of_no_use_just_now_stays_tied_for_when_it_is(): void
    {
        $count = static fn (string $of): string => "props/$of/break/values/count";
        $before = self::document([[$count('one'), $count('two')]], ['break' => ['pattern' => 'cells', 'values' => ['count' => 6]]]);
        $whole = $before;
        $whole['props'][0]['break'] = null;
        self::assertSame([], Ties::steps($before, $whole));
        $whole['props'][1]['break']['values']['count'] = 40;
        $again = $whole;
        $again['props'][0]['break'] = ['pattern' => 'cells', 'values' => ['count' => 6]];
        // It comes back as the first of its tie, so the others go by it.
        self::assertSame([['op' => 'add', 'path' => '/props/1/break/values/count', 'value' => 6]], Ties::steps($whole, $again));
    }

    public function test_only_numbers_of_one_kind_follow_each_other(): void
    {
        $unlike = self::document([[self::ONE, 'props/two/material/density']]);
        $after = $unlike;
        $after['props'][0]['material']['friction'] = 0.3;
        self::assertSame([], Ties::steps($unlike, $after));
    }

    public function test_a_document_with_ties_is_valid_and_moves_as_without(): void
    {
        $document = Trials::document([Trials::box('one', [0, 1, 0]), Trials::box('two', [2, 1, 0])]);
        $without = ShotSpec::fromJson((string) json_encode($document, JSON_PRESERVE_ZERO_FRACTION));
        $with = ShotSpec::fromJson((string) json_encode($document + ['ties' => [[self::ONE, self::TWO]]], JSON_PRESERVE_ZERO_FRACTION));
        self::assertSame(History::of($without)->chain(), History::of($with)->chain());
    }

    /**
     * @param  list<list<string>>  $ties
     * @param  array<string, mixed>  $with
     * @return array<string, mixed>
     */
    private static function document(array $ties, array $with = []): array
    {
        return Trials::document([Trials::box('one', [0, 1, 0], $with), Trials::box('two', [2, 1, 0], $with)], ['version' => ShotSpec::VERSION] + ($ties === [] ? [] : ['ties' => $ties]));
    }
}
