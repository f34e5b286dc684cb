<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** Five short lessons for those who are here for the first time, each done on the page itself. */
final class LessonsTest extends BrowserTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->artist->opens('/');
        $this->artist->js('localStorage.removeItem("lessons")');
        $this->artist->opens('/');
    }

    protected function tearDown(): void
    {
        $this->artist->js('localStorage.removeItem("lessons")');
        parent::tearDown();
    }

    public function test_they_are_offered_until_they_are_put_away_and_then_only_where_asked_for(): void
    {
        $a = $this->artist;
        $a->sees('Five short lessons');
        $a->presses('Not for me');
        $a->seesNoMore('Five short lessons');
        $a->opens('/');
        $a->sees('New shot');
        usleep(500_000);
        self::assertStringNotContainsString('Five short lessons', $a->text());
        $a->presses('Lessons');
        $a->sees('Five short lessons');
        $this->assertNoErrors();
    }

    public function test_a_jar_is_broken_step_by_step_and_a_lesson_can_be_left(): void
    {
        $a = $this->artist;
        $this->begins('Break a jar', 'Go to Break');
        // What is pointed at is told on the page too.
        $a->presses('Show me where');
        $a->until(static fn (): bool => str_contains((string) $a->js('return document.querySelector("nav [data-found]")?.innerText'), 'Break'), 'the stage to be pointed at');
        $a->keys('2');
        $a->sees('Choose Cells');
        $a->clicks('[role=radio][title^="Solid chunks"]');
        $a->sees('Type 200 into Pieces');
        // Come back to, it is where it was left.
        $a->browser->navigate()->refresh();
        $a->sees('Type 200 into Pieces');
        $a->keys('2');
        $a->types('Pieces', '200');
        $a->sees('drag Spread apart');
        $a->presses('Skip this step');
        $a->sees('That was break a jar');
        $a->presses('To the yard');
        $a->sees('Five short lessons');
        self::assertSame('Break a jar', trim((string) $a->js('return document.querySelector(\'section[aria-label="Lessons"] [aria-label="done"]\')?.parentElement.innerText.replace(/^\d+\s*/, "")')));
        $this->begins('Let it fall', 'What moves, and how, is on Motion');
        $a->clicks('[aria-label="Leave the lesson"]');
        $a->until(static fn (): bool => $a->js('return document.querySelector(\'aside[aria-label="Lesson"]\')') === null);
        $this->assertNoErrors();
    }

    public function test_a_jar_is_let_fall(): void
    {
        $a = $this->artist;
        $this->begins('Let it fall', 'What moves, and how, is on Motion');
        $a->keys('4');
        $a->sees('Choose Free');
        $this->radio('How it moves', 'Free');
        $a->sees('Let it hit harder');
        $a->types('Position y', '1.6');
        $a->sees('Press Bake');
        $this->bakes();
        $a->sees('Play it with Space');
        $this->playsToTheEnd('let it fall');
    }

    public function test_a_map_decides(): void
    {
        $a = $this->artist;
        $this->begins('Let a map decide', 'Go to Weights');
        $a->keys('3');
        $a->sees('Begin a map with Front');
        $a->browser->findElement(WebDriverBy::xpath('//section[@aria-label="Weights"]//button[normalize-space()="Front"]'))->click();
        $a->sees('Drag the playhead');
        $a->types('Frame', '14');
        $a->sees('by a weight map');
        $a->keys('4');
        $a->chooses('Let go', 'weight');
        $a->sees('Press Bake');
        $this->bakes();
        $a->sees('where the front has come to');
        $this->playsToTheEnd('let a map decide');
        $jar = $a->document()['props'][0];
        self::assertSame($jar['weights'][0]['id'], $jar['motion']['release']['map']);
    }

    public function test_keys_and_cues(): void
    {
        $a = $this->artist;
        $this->begins('Keys and cues', 'press the small diamond');
        $a->keys('4');
        $a->clicks('[aria-label="Key Position x at frame 0"]');
        $a->sees('Go on to about frame 24');
        $a->types('Frame', '24');
        $a->sees('Move the jar');
        $a->types('Position x', '0.5');
        $a->sees('Give this moment a name');
        $a->presses('+ Cue');
        $a->sees('The curve between keys');
        $a->keys(WebDriverKeys::SPACE);
        $a->sees('That was keys and cues');
        $this->assertNoErrors();
    }

    public function test_one_of_four_seeds_is_chosen(): void
    {
        $a = $this->artist;
        $this->begins('Try, compare, choose', 'Which seed breaks best?');
        $a->keys('5');
        $a->sees('choose Seed of Jar');
        $a->presses('Try values…');
        $a->until(static fn (): bool => $a->js('return document.querySelector(\'ul[aria-label="Values that can be tried"] button\')') !== null);
        $a->browser->findElement(WebDriverBy::xpath('//ul[@aria-label="Values that can be tried"]//button[starts-with(., "Seed of Jar")]'))->click();
        $a->types('Values of Seed of Jar', '1-2');
        $a->sees('2 variants');
        $a->presses('Bake 2');
        $a->sees('All of them play in step');
        $a->until(static fn (): bool => $a->js('return document.querySelectorAll(\'button[aria-label^="Choose "]:not([disabled])\').length') > 0, 'a variant that can be chosen');
        $a->clicks('button[aria-label^="Choose "]:not([disabled])');
        $a->sees('It is the shot now, as one change');
        $a->presses('I have seen it');
        $a->sees('That was try, compare, choose');
        $this->assertNoErrors();
    }

    private function begins(string $lesson, string $says): void
    {
        $this->artist->until(fn (): bool => (bool) $this->artist->js('const b=[...document.querySelectorAll(`section[aria-label="Lessons"] li button`)].find(e=>e.innerText.includes(arguments[0])); b?.click(); return b!==undefined', $lesson), "the lesson $lesson");
        $this->artist->sees($says);
        $this->artist->until(fn (): bool => $this->artist->js('return document.getElementById("picture")?.dataset.frameDrawn') !== null, 'the picture of the lesson');
    }

    /** On the bench of Motion. */
    private function bakes(): void
    {
        $this->artist->browser->findElement(WebDriverBy::xpath('//section[@aria-label="Motion"]//button[normalize-space()="Bake"]'))->click();
    }

    private function radio(string $group, string $name): void
    {
        $this->artist->until(fn (): bool => (bool) $this->artist->js('const b=[...document.querySelectorAll(`[aria-label="${arguments[0]}"] [role=radio]`)].find(e=>e.innerText.trim()===arguments[1]); b?.click(); return b!==undefined', $group, $name), "$name of $group");
    }

    /** It plays by itself as it comes, or by Space where that has ended. */
    private function playsToTheEnd(string $lesson): void
    {
        $a = $this->artist;
        $a->until(function () use ($a, $lesson): bool {
            if (str_contains($a->text(), 'That was '.$lesson)) {
                return true;
            }
            if ($a->js('return document.querySelector(\'[aria-label="Play"]\')') !== null) {
                $a->keys(WebDriverKeys::SPACE);
                usleep(400_000);
            }

            return false;
        }, 'the end of the lesson');
        $this->assertNoErrors();
    }
}
