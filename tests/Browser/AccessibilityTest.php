<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverKeys;

/** Every stage, by day and by night, judged by axe-core. */
final class AccessibilityTest extends BrowserTestCase
{
    public function test_no_stage_has_a_finding(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(8), 'place' => ['position' => [0, 0.5, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => Setting::falling()]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 12], ['op' => 'add', 'path' => '/camera', 'value' => ['position' => [1, 1, 3], 'target' => [0, 0.3, 0], 'focal' => 35, 'film' => 36, 'shape' => [1920, 1080]]]]);
        $a->sees('8 shards');
        $a->keys('b');
        $a->until(static fn (): bool => preg_match('/●\s*baked/', $a->text()) === 1);
        $axe = (string) file_get_contents(dirname(__DIR__, 2).'/node_modules/axe-core/axe.min.js');
        $a->js($axe);
        foreach (['Night', 'Day'] as $next) {
            foreach (['1' => 'Built here', '2' => 'Pattern', '3' => 'Weights of Block', '4' => 'Release', '5' => 'Docket', '6' => 'Format', '0' => 'Line up'] as $key => $words) {
                $a->keys((string) $key);
                $a->sees($words);
                $this->assertClean('stage '.$key.' before '.$next);
            }
            // What opens over the benches.
            $a->keys('5');
            $a->presses('Try values…');
            $a->types('Find a value to try', 'seed break');
            $a->sees('Bake 6');
            $this->assertClean('trying values before '.$next);
            $a->presses('Leave it');
            $a->clicks('[aria-label="What was done"]');
            $a->sees('As it began');
            $this->assertClean('what was done before '.$next);
            $a->keys(WebDriverKeys::ESCAPE, '2');
            $a->presses('Presets');
            $a->sees('Crockery');
            $this->assertClean('presets before '.$next);
            $a->keys(WebDriverKeys::ESCAPE);
            $a->presses('Pick pieces');
            $a->sees('All others');
            $this->assertClean('picking pieces before '.$next);
            $a->keys(WebDriverKeys::ESCAPE);
            // As it goes it gives the keys back, wherever they were meanwhile.
            $a->seesNoMore('All others');
            $a->finds('input[aria-label="Pieces"]')->sendKeys([WebDriverKeys::CONTROL, 'a', WebDriverKeys::NULL, '=']);
            $a->until(static fn (): bool => $a->js('return document.querySelector(\'ul[aria-label="Numbers it can be the same as"] button\')') !== null, 'numbers to choose from');
            $this->assertClean('the same as before '.$next);
            $a->keys(WebDriverKeys::ESCAPE);
            $a->clicks('section h2 button');
            // Words of the page of the docs, not of the bench below it.
            $a->sees('passes give 2');
            $this->assertClean('help before '.$next);
            $a->keys(WebDriverKeys::ESCAPE);
            $a->seesNoMore('passes give 2');
            $a->presses($next);
        }
        $a->opens('/');
        $a->sees('● baked');
        $a->js($axe);
        $this->assertClean('the yard');
        $a->presses('Deleted');
        $a->until(static fn (): bool => preg_match('/Nothing was deleted lately|hours left/', $a->text()) === 1, 'what was deleted');
        $this->assertClean('what was deleted');
    }

    public function test_lessons_have_no_finding(): void
    {
        $a = $this->artist;
        $a->opens('/');
        $a->js('localStorage.removeItem("lessons")');
        $a->opens('/');
        $a->clicks('section[aria-label="Lessons"] li button');
        $a->sees('Go to Break');
        $a->js((string) file_get_contents(dirname(__DIR__, 2).'/node_modules/axe-core/axe.min.js'));
        foreach (['Night', 'Day'] as $next) {
            $this->assertClean('a lesson before '.$next);
            $a->presses($next);
        }
        $a->clicks('[aria-label="Leave the lesson"]');
        $a->opens('/');
        $a->presses('Not for me');
        $a->js('localStorage.removeItem("lessons")');
    }

    public function test_trials_and_comparing_have_no_finding(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => Setting::cells(8), 'place' => ['position' => [0, 0.5, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => Setting::falling()]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 12]]);
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $shot = (string) $a->js('return location.pathname');
        $a->presses('Try values…');
        $a->types('Find a value to try', 'seed break');
        $a->presses('Bake 6');
        $a->sees('6 baked');
        $axe = (string) file_get_contents(dirname(__DIR__, 2).'/node_modules/axe-core/axe.min.js');
        $a->js($axe);
        foreach (['Night', 'Day'] as $next) {
            $a->picture('wall');
            $this->assertClean('the wall before '.$next);
            $a->presses('Contact sheet');
            $this->assertClean('the contact sheet before '.$next);
            $a->presses('In sync');
            $a->presses($next);
        }
        $a->opens($shot.'/compare');
        $a->sees('one bake so far');
        $a->js($axe);
        foreach (['Night', 'Day'] as $next) {
            $this->assertClean('comparing before '.$next);
            $a->presses($next);
        }
    }

    private function assertClean(string $where): void
    {
        $a = $this->artist;
        // A colour on its way to another is no finding.
        $a->until(static fn (): bool => $a->js('return document.getAnimations().filter(m=>m.playState==="running"&&m.effect.getTiming().iterations!==Infinity).length') === 0);
        $found = $this->artist->browser->executeAsyncScript('const done=arguments[0];axe.run(document,{resultTypes:["violations"]}).then(r=>done(r.violations.map(v=>v.id+": "+v.help+" — "+v.nodes.slice(0,3).map(n=>n.html.slice(0,140)).join(" | "))))');
        self::assertSame([], $found, $where);
    }
}
