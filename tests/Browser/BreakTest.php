<?php

declare(strict_types=1);

namespace Tests\Browser;

final class BreakTest extends BrowserTestCase
{
    public function test_pieces_are_picked_in_the_picture_and_shown_in_figures(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(20)])]);
        $a->sees('20 shards');
        $a->waitsForPicture();
        $plain = $a->picture();
        $a->drags([[0, 0]]);
        $a->sees('shard-00');
        self::assertNotSame($plain, $a->picture(), 'the picked piece is lit');
        // A click beside everything picks nothing.
        $a->drags([[-400, -100]]);
        $a->seesNoMore('shard-00');
        self::assertSame($plain, $a->picture());
        // A drag turns the view and picks nothing.
        $a->drags([[0, 0], [60, 10], [90, 20]]);
        self::assertStringNotContainsString('shard-00', $a->text());
        self::assertNotSame($plain, $a->picture());
        $this->assertNoErrors();
    }

    public function test_a_bar_of_the_chart_picks_its_pieces(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(40)])]);
        $a->sees('40/40');
        $bar = $a->js('return [...document.querySelectorAll("[aria-label^=\'Piece sizes\'] [role=button]")].findIndex(b=>b.getAttribute("aria-label")!=="0 pieces")');
        $many = (int) $a->js('return document.querySelectorAll("[aria-label^=\'Piece sizes\'] [role=button]")[arguments[0]].getAttribute("aria-label")', $bar);
        $a->js('document.querySelectorAll("[aria-label^=\'Piece sizes\'] [role=button]")[arguments[0]].dispatchEvent(new MouseEvent("click",{bubbles:true}))', $bar);
        $a->sees($many === 1 ? 'shard-00' : $many.' picked');
        $a->presses('Clear');
        $a->seesNoMore($many === 1 ? 'shard-00' : $many.' picked');
    }

    public function test_the_strike_point_draws_the_pieces_to_it(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(50)])]);
        $a->sees('50/50');
        $even = $this->smallestNear();
        $a->js('[...document.querySelectorAll("label")].find(l=>l.innerText.includes("Strike point"))?.querySelector("[role=checkbox],input")?.click()');
        $a->sees('Crowd at strike');
        foreach (['x' => '0.28', 'y' => '0.55', 'z' => '0.28'] as $axis => $value) {
            $a->types('At '.$axis, $value);
        }
        $a->types('Crowd at strike', '90');
        $a->types('Reach of strike', '0.1');
        $a->until(fn (): bool => $this->smallestNear() > $even + 5);
        self::assertSame([0.28, 0.55, 0.28], $a->document()['props'][0]['break']['values']['strike']);
    }

    public function test_a_break_of_thousands_says_how_far_it_is(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(10)])]);
        $a->sees('10 shards');
        $a->types('Even spacing', '100');
        $a->types('Pieces', '6000');
        $a->until(static fn (): bool => preg_match('/breaking… \d+ %/', $a->text()) === 1, 30);
        // Another value ends it; the last wish counts.
        $a->types('Pieces', '12');
        $a->sees('12 shards', 30);
    }

    /** How many pieces' middles lie near the corner the strike is put to, as the server has them. */
    private function smallestNear(): int
    {
        $this->artist->sees('saved');
        $pieces = json_decode((string) $this->artist->browser->executeAsyncScript(<<<'JS'
            const done = arguments[0];
            fetch('/api' + location.pathname + '/props/block/picture', { headers: { 'X-Yard': '1' } }).then((r) => r.arrayBuffer()).then((b) => {
                const n = new DataView(b).getUint32(0, true);
                done(JSON.stringify(JSON.parse(new TextDecoder().decode(new Uint8Array(b, 4, n))).pieces));
            });
            JS), true);

        return count(array_filter($pieces, static fn (array $p): bool => hypot(hypot($p['centre'][0] - 0.28, $p['centre'][1] - 0.55), $p['centre'][2] - 0.28) < 0.2));
    }
}
