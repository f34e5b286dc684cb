<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use YardBreak\Core\Tests\References\OutsideTools;

/** What somebody meets who has never been here. */
final class FirstMinuteTest extends BrowserTestCase
{
    /** Bring in, to the Break stage, a pattern, let it fall, save: five. */
    public function test_a_mesh_becomes_a_saved_break_in_five_actions(): void
    {
        $a = $this->artist;
        $a->emptiesTheYard();
        $a->opens('/');
        $a->presses('New shot');
        $a->sees('Add a prop');
        $a->until(static fn (): bool => $a->js('return document.getElementById("picture")') !== null);
        $begun = microtime(true);
        $actions = 0;
        $act = static function (\Closure $what) use (&$actions): void {
            $what();
            $actions++;
        };
        $file = $this->mesh('Garden gnome.obj', 0.4, 2.0);
        $act(fn () => $this->drops($file));
        $a->sees('can be broken');
        // On the bench, not only in the note that it came in.
        $a->sees('faces outwards');
        $act(static fn () => $a->keys('2'));
        $a->sees('stays in one piece');
        $act(static fn () => $a->clicks('[role=radio][title^="Solid chunks"]'));
        $a->sees('Let it fall');
        $act(static fn () => $a->presses('Let it fall'));
        $a->sees('Save GLB');
        $act(static fn () => $a->presses('Save GLB'));
        $saved = $a->yard->downloads.'/new-shot.glb';
        $a->until(static fn (): bool => is_file($saved));
        self::assertSame(5, $actions);
        self::assertLessThan(90.0, microtime(true) - $begun);
        $report = OutsideTools::node('validate.mjs', $saved);
        self::assertSame([0, 1], [$report['errors'], $report['animations']]);
        self::assertGreaterThan(10, $report['nodes']);
        // It came in 2 m under the ground, and was stood upon it before it was raised by its own height.
        self::assertEqualsWithDelta(2.0 + 0.4, $a->document()['props'][0]['place']['position'][1], 1e-6);
        $this->assertNoErrors();
    }

    public function test_a_size_that_cannot_be_true_is_asked_for(): void
    {
        $a = $this->artist;
        $a->opensShot([]);
        $a->sees('Add a prop');
        $a->bringsIn($this->mesh('Plinth.obj', 1500.0, 0.0));
        $a->sees('How large is Plinth.obj?');
        $a->sees('In metres it would be 1.5 km across');
        // The likeliest answer has the focus.
        self::assertStringContainsString('millimetres', (string) $a->js('return document.activeElement.textContent'));
        $a->browser->getKeyboard()->sendKeys("\u{E007}");
        $a->sees('1.5 × 1.5 × 1.5 m');
        self::assertSame('mm', $a->document()['props'][0]['source']['unit']);
    }

    public function test_baking_what_cannot_move_offers_to_let_it_fall(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(8), 'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1]]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 24]]);
        $a->sees('8 shards');
        $a->keys('b');
        $a->sees('Nothing can move yet');
        self::assertNull($this->bake());
        $a->js('[...document.querySelectorAll("[role=dialog] button")].find((b) => b.textContent === "Let it fall").click()');
        $a->sees('Save GLB');
        self::assertSame('free', $a->document()['props'][0]['motion']['kind']);
        self::assertEqualsWithDelta(0.6, $a->document()['props'][0]['place']['position'][1], 1e-4);
    }

    public function test_cards_are_drawn_play_when_pointed_at_and_a_baked_shot_plays_at_once(): void
    {
        $a = $this->artist;
        $a->emptiesTheYard();
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(8), 'place' => ['position' => [0, 0.5, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => Setting::falling()]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 24]]);
        $a->sees('8 shards');
        $a->keys('b');
        $a->until(static fn (): bool => preg_match('/●\s*baked/', $a->text()) === 1);
        $a->opens('/');
        $a->sees('● baked');
        // Its picture is drawn here, of a frame in which it has come apart.
        $a->until(static fn (): bool => $a->js('return document.querySelector("main img")?.naturalWidth > 0'));
        $card = $a->finds('ul[aria-label="Shots"] li');
        $a->browser->action()->moveToElement($card)->perform();
        $a->until(static fn (): bool => (int) $a->js('return document.querySelector(\'ul[aria-label="Shots"] li canvas\')?.dataset.frame') > 3);
        $card->findElement(WebDriverBy::tagName('a'))->click();
        $a->sees('Save GLB');
        $a->until(static fn (): bool => (int) $a->js('return document.querySelector("[data-frame]").dataset.frame') > 2);
        $this->assertNoErrors();
    }

    private function bake(): mixed
    {
        return $this->artist->browser->executeAsyncScript('fetch("/api"+location.pathname+"/bake").then(r=>r.json()).then(b=>arguments[0](b.bake))');
    }

    /** A closed cube of the given size with its middle so far under the ground. */
    private function mesh(string $name, float $size, float $under): string
    {
        $path = sys_get_temp_dir().'/'.$name;
        $text = '';
        for ($k = 0; $k < 8; $k++) {
            $text .= sprintf("v %f %f %f\n", $size * ($k & 1), $size * ($k >> 1 & 1) - $under, $size * ($k >> 2));
        }
        file_put_contents($path, $text."f 1 3 4 2\nf 5 6 8 7\nf 1 2 6 5\nf 3 7 8 4\nf 1 5 7 3\nf 2 4 8 6\n");

        return $path;
    }

    /** Lets a file go over the stage. */
    private function drops(string $path): void
    {
        $this->artist->js('const [name, text] = arguments, data = new DataTransfer(), at = document.getElementById("picture"); data.items.add(new File([text], name)); for (const type of ["dragover", "drop"]) at.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data }));', basename($path), (string) file_get_contents($path));
    }
}
