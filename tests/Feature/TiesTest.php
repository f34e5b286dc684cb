<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Trial;
use App\Yard\Trials;

/** Numbers that are the same as each other, as edits and trials keep them. */
final class TiesTest extends YardTestCase
{
    private const TIE = ['props/one/break/values/count', 'props/two/break/values/count'];

    public function test_a_change_of_one_is_one_of_both_and_is_undone_as_one(): void
    {
        $id = $this->tied();
        $counts = static fn (array $shot): array => array_map(static fn (array $p): int => $p['break']['values']['count'], $shot['document']['props']);
        $shot = $this->edit($id, 2, [['op' => 'replace', 'path' => '/props/1/break/values/count', 'value' => 12]])->assertOk()->json();
        self::assertSame([12, 12], $counts($shot));
        $shot = $this->send('POST', "shots/$id/undo", ['revision' => 3])->assertOk()->json();
        self::assertSame([5, 5], $counts($shot));
        $shot = $this->send('POST', "shots/$id/redo", ['revision' => 4])->assertOk()->json();
        self::assertSame([12, 12], $counts($shot));
        // Their owner gone they are numbers like others; back, they are tied again.
        $shot = $this->edit($id, 5, [['op' => 'remove', 'path' => '/props/1']])->assertOk()->json();
        self::assertArrayNotHasKey('ties', $shot['document']);
        $shot = $this->send('POST', "shots/$id/undo", ['revision' => 6])->assertOk()->json();
        self::assertSame([self::TIE], $shot['document']['ties']);
    }

    public function test_what_one_of_them_cannot_be_is_refused_in_words(): void
    {
        $id = $this->tied();
        self::assertStringContainsString('props[1].break', (string) $this->edit($id, 2, [['op' => 'replace', 'path' => '/props/1/break/values/count', 'value' => -4]])->assertStatus(422)->json('problem.path'));
        $this->edit($id, 2, [['op' => 'replace', 'path' => '/ties', 'value' => [['one alone']]]])->assertStatus(422);
    }

    public function test_a_variant_has_what_is_tied_to_what_is_tried(): void
    {
        $id = $this->tied();
        $trial = $this->send('POST', "shots/$id/trials", ['axes' => [['path' => '/props/0/break/values/count', 'values' => '4, 9']]])->assertCreated()->json('id');
        self::assertIsString($trial);
        $variant = Trial::query()->findOrFail($trial)->variants()->where('number', 1)->firstOrFail();
        $counts = array_map(static fn (\stdClass $p): int => $p->break->values->count, json_decode(Trials::document($variant))->props);
        self::assertSame([9, 9], $counts);
    }

    public function test_every_number_says_where_it_is_whatever_stands_before_it(): void
    {
        $id = $this->tied();
        $values = array_column($this->get("/api/shots/$id/values")->assertOk()->json(), null, 'path');
        self::assertSame(self::TIE[1], $values['/props/1/break/values/count']['place']);
        self::assertFalse($values['/props/1/break/values/count']['keyed']);
    }

    /** Two boxes whose numbers of pieces, 5 and 6, were made the same. */
    private function tied(): string
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box(5, 'one')], ['op' => 'add', 'path' => '/props/-', 'value' => self::box(6, 'two')]])->assertOk();
        $made = $this->edit($id, 1, [['op' => 'add', 'path' => '/ties', 'value' => [self::TIE]]])->assertOk()->json('document.props');
        self::assertSame([5, 5], array_map(static fn (array $p): int => $p['break']['values']['count'], $made));

        return $id;
    }
}
