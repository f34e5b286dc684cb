<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverElement;
use Facebook\WebDriver\WebDriverKeys;

/** What is typed goes where it is meant to, and nowhere else. */
final class TypingTest extends BrowserTestCase
{
    public function test_escape_puts_back_enter_takes_and_gives_the_keys_to_the_stage(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('crate')]);
        $a->keys('1');
        $a->sees('Width');
        $width = $this->field('Width');
        $width->click();
        $width->sendKeys([WebDriverKeys::CONTROL, 'a', WebDriverKeys::NULL, '7', WebDriverKeys::ESCAPE]);
        self::assertSame('0.6', $a->reads('Width'), 'put back');
        usleep(500_000);
        self::assertSame(0.6, $a->document()['props'][0]['source']['values']['width']);
        $width = $this->field('Width');
        $width->click();
        // What follows Enter is for the stage: 2 goes to Break.
        $width->sendKeys([WebDriverKeys::CONTROL, 'a', WebDriverKeys::NULL, '0.7', WebDriverKeys::ENTER]);
        $a->browser->getKeyboard()->sendKeys('2');
        $a->sees('Choose a pattern to break it');
        self::assertSame(0.7, $a->document()['props'][0]['source']['values']['width']);
        // After a pattern is chosen the digits still go to the stages.
        $a->clicks('section [role=radio]');
        $a->browser->getKeyboard()->sendKeys('1');
        $a->sees('Width');
        $this->assertNoErrors();
    }

    public function test_a_number_is_made_the_same_as_another_and_let_go(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('crate'), Setting::box('lid')]);
        $widths = static fn (): array => array_map(static fn (array $p): mixed => $p['source']['values']['width'], $a->document()['props']);
        $a->keys('1');
        $a->types('Width', '0.8');
        $a->until(static fn (): bool => $widths() === [0.8, 0.6]);
        $a->clicks('ul[aria-label="Props"] li:nth-child(2) button[aria-pressed]');
        $a->until(static fn (): bool => $a->js('return document.querySelector("section[aria-label=Props] h2")?.innerText') === 'Lid');
        $field = $this->field('Width');
        $field->click();
        $field->sendKeys([WebDriverKeys::CONTROL, 'a', WebDriverKeys::NULL, '=']);
        $a->until(static fn (): bool => $a->js('return document.querySelector(\'ul[aria-label="Numbers it can be the same as"] button\')') !== null, 'numbers to choose from');
        $a->browser->findElement(WebDriverBy::cssSelector('input[aria-label="Find what it is the same as"]'))->sendKeys(['width crate', WebDriverKeys::ENTER]);
        $a->until(static fn (): bool => $widths() === [0.8, 0.8]);
        // Whichever is changed, the other is with it.
        $a->types('Width', '0.5');
        $a->until(static fn (): bool => $widths() === [0.5, 0.5]);
        $a->clicks('[aria-label="Width is the same as another"]');
        $a->sees('Width of Crate');
        $a->presses('By itself again');
        $a->until(static fn (): bool => ! isset($a->document()['ties']));
        $a->types('Width', '0.4');
        $a->until(static fn (): bool => $widths() === [0.5, 0.4]);
        $this->assertNoErrors();
    }

    public function test_a_material_begins_as_it_is_kept_in_this_yard(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('crate')]);
        $a->keys('1');
        $a->chooses('Made of', 'slate');
        $a->until(fn (): bool => $this->prop()['material']['density'] === 2700);
        self::assertStringNotContainsString('Keep as the usual', $a->text());
        $a->types('Density', '2850');
        $a->presses('Keep as the usual slate');
        $a->sees('The given slate again');
        $a->chooses('Made of', 'ice');
        $a->until(fn (): bool => $this->prop()['material']['density'] === 917);
        $a->chooses('Made of', 'slate');
        $a->until(fn (): bool => $this->prop()['material']['density'] === 2850);
        $a->presses('The given slate again');
        $a->sees('Keep as the usual slate');
        $a->chooses('Made of', 'ice');
        $a->until(fn (): bool => $this->prop()['material']['density'] === 917);
        $a->chooses('Made of', 'slate');
        $a->until(fn (): bool => $this->prop()['material']['density'] === 2700);
        $this->assertNoErrors();
    }

    public function test_typing_a_place_keys_nothing_and_moves_no_other_setting(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('crate')]);
        $a->keys('4');
        $a->sees('Position');
        $a->types('Position x', '0.25');
        $a->until(fn (): bool => $this->prop()['place']['position'][0] === 0.25);
        self::assertSame('fixed', $this->prop()['motion']['kind']);
        // A key mark keys, and says so.
        $a->keys('4');
        $a->clicks('[aria-label="Key Position x at frame 0"]');
        $a->until(fn (): bool => is_array($this->prop()['place']['position'][0]));
        self::assertSame('keyed', $this->prop()['motion']['kind']);
        $this->assertNoErrors();
    }

    public function test_a_hand_over_is_at_the_frame_at_which_the_map_is_full_and_can_be_set_to_another(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('board', ['break' => ['pattern' => 'tiles', 'values' => ['grid' => [4, 1, 1]]]]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 80]]);
        $a->sees('4 shards');
        $a->keys('4');
        $a->presses('Drift');
        $a->sees('As it fills');
        $a->presses('they come');
        $a->ticks('Hand over to physics');
        $a->until(fn (): bool => isset($this->prop()['motion']['release']['frame']));
        // At that frame all of it has come, at the one before not yet.
        $frame = $this->prop()['motion']['release']['frame'];
        $full = array_column(json_decode((string) $a->browser->executeAsyncScript('const done=arguments[0],ask=()=>fetch("/api"+location.pathname+"/maps/board-comes").then(r=>r.json()).then(m=>m.done?done(JSON.stringify(m.coverage)):setTimeout(ask,200));ask()'), true), 1);
        self::assertEqualsWithDelta(1.0, $full[$frame], 1e-3);
        self::assertLessThan(0.999, $full[$frame - 1]);
        $a->sees('Release');
        $a->types('Frame', (string) ($frame - 12), 'section ');
        $a->until(fn (): bool => $this->prop()['motion']['release'] == ['on' => 'frame', 'frame' => $frame - 12]);
        $a->until(static fn (): bool => str_contains($a->text(), 'to look at'));
        $a->browser->findElement(WebDriverBy::xpath('//button[contains(.,"Site check")]'))->click();
        $a->sees('handed over to physics at frame '.($frame - 12));
        $this->assertNoErrors();
    }

    public function test_where_the_first_source_goes_the_next_takes_its_place(): void
    {
        $a = $this->artist;
        $front = ['source' => 'front', 'values' => ['point' => [0, 0, 0], 'direction' => [1, 0, 0]]];
        $a->opensShot([Setting::box('board', ['weights' => [['id' => 'm', 'name' => 'Mixed', 'sources' => [['source' => 'ball', 'values' => new \stdClass], ['operation' => 'multiply'] + $front]]]])]);
        $a->keys('3');
        $a->sees('Mixed');
        $a->clicks('[aria-label="Remove Ball"]');
        $a->until(fn (): bool => count($this->prop()['weights'][0]['sources']) === 1);
        self::assertSame('replace', $this->prop()['weights'][0]['sources'][0]['operation']);
        $this->assertNoErrors();
    }

    public function test_find_knows_what_is_done_where_by_its_own_and_by_everyday_words(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('crate'), Setting::box('pip')]);
        foreach (['scatter' => ['Strew copies of a prop over another', 'Strew copies'], 'fps' => ['Frames and rate', 'Frames'], 'watertight' => ['Fitness of a mesh', 'Fitness'], 'by halving' => ['Break by halving', 'Halving']] as $typed => [$entry, $at]) {
            $a->browser->getKeyboard()->sendKeys([WebDriverKeys::CONTROL, 'k', WebDriverKeys::NULL]);
            $a->until(fn (): bool => $a->browser->findElements(WebDriverBy::cssSelector('[cmdk-input]')) !== []);
            $a->finds('[cmdk-input]')->sendKeys($typed);
            $a->until(fn (): bool => str_starts_with((string) $a->js('return document.querySelector("[cmdk-item][data-selected=true]")?.innerText ?? ""'), $entry), $entry);
            $a->browser->getKeyboard()->sendKeys(WebDriverKeys::ENTER);
            $a->until(fn (): bool => str_starts_with((string) $a->js('return document.querySelector("[data-found]")?.innerText ?? ""'), $at), $at);
        }
        $this->assertNoErrors();
    }

    /** A shot that says as little as a shot may: every field there is takes another number, though the document has no word of it yet. */
    public function test_every_field_of_every_bench_takes_a_number(): void
    {
        $a = $this->artist;
        $bare = ['break' => ['pattern' => 'cells', 'values' => new \stdClass]];
        $shots = [
            'fixed' => [Setting::box('one', $bare)],
            'free' => [Setting::box('one', $bare + ['motion' => ['kind' => 'free']])],
            'drift' => [Setting::box('one', $bare + ['weights' => [['id' => 'm', 'name' => 'Map', 'sources' => [['source' => 'front', 'values' => new \stdClass]]]], 'motion' => ['kind' => 'drift', 'drift' => ['map' => 'm', 'moves' => [['move' => 'offset', 'values' => new \stdClass]], 'handOver' => true]]])],
        ];
        $tried = 0;
        foreach ($shots as $what => $shot) {
            $a->opensShot($shot);
            // What a motion changes is on its own bench.
            foreach ($what === 'fixed' ? ['1', '2', '3', '4', '5', '0'] : ['4'] as $stage) {
                $a->keys($stage);
                $a->until(static fn (): bool => $a->js('return document.getElementById("picture").dataset.waits') === '');
                foreach ($this->labels() as $label) {
                    $fields = array_values(array_filter($a->browser->findElements(WebDriverBy::cssSelector('section input.figure[aria-label="'.$label.'"]')), static fn (WebDriverElement $f): bool => $f->isDisplayed() && $f->isEnabled()));
                    if ($fields === []) {
                        // What it belonged to has changed with another one.
                        continue;
                    }
                    $now = (string) $fields[0]->getAttribute('value');
                    $a->js('arguments[0].scrollIntoView({ block: "center" })', $fields[0]);
                    $fields[0]->click();
                    $fields[0]->sendKeys([WebDriverKeys::CONTROL, 'a', WebDriverKeys::NULL, $now === '1' ? '2' : '1', WebDriverKeys::ENTER]);
                    $a->sees('saved');
                    $said = (string) $a->js('return [...document.querySelectorAll("[data-sonner-toast]")].map((t) => t.innerText).join(" | ")');
                    self::assertStringNotContainsString('Non-existent', $said, "$what, stage $stage, $label");
                    self::assertStringNotContainsString('Reload', $said, "$what, stage $stage, $label");
                    $tried++;
                }
            }
        }
        self::assertGreaterThan(45, $tried);
        $this->assertNoErrors();
    }

    /** @return list<string> of the fields of a bench, once each */
    private function labels(): array
    {
        return array_values(array_unique(array_map(strval(...), (array) $this->artist->js('return [...document.querySelectorAll("section input.figure[aria-label]:not([type=range])")].map((i) => i.getAttribute("aria-label")).filter((l) => !l.includes("\""))'))));
    }

    private function field(string $label): WebDriverElement
    {
        return $this->artist->finds('input[aria-label="'.$label.'"]');
    }

    /** @return array<string, mixed> */
    private function prop(): array
    {
        return $this->artist->document()['props'][0];
    }
}
