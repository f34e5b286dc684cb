<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** Trying values, looking at what came of them, and taking one. */
final class TrialsTest extends BrowserTestCase
{
    public function test_six_seeds_are_tried_compared_and_one_is_chosen(): void
    {
        $a = $this->artist;
        $a->opensShot($this->falls());
        $a->keys('5');
        $a->presses('Try values…');
        $a->types('Find a value to try', 'seed break');
        $a->sees('now 4');
        $a->types('Values of Seed of Block', '1–400');
        $a->sees('400 variants (the first 40 are listed)');
        $a->types('Values of Seed of Block', '1, x');
        $a->sees('Seed of Block cannot be "x".');
        $a->types('Values of Seed of Block', '1–6');
        $a->sees('roughly: the shot has not been baked yet');
        $a->presses('Bake 6');
        $a->sees('6 baked');
        self::assertCount(6, $a->browser->findElements(WebDriverBy::cssSelector('#wall [data-part]')));
        $first = $a->picture('wall');
        self::assertSame('72', $a->js('return document.getElementById("wall").dataset.pieces'), 'twelve in each of six');
        $a->keys(WebDriverKeys::END);
        $end = $a->picture('wall');
        self::assertNotSame($first, $end, 'one playhead moves all');
        // While the key is held each shows the first.
        $a->js('document.dispatchEvent(new KeyboardEvent("keydown",{key:"x",code:"KeyX",bubbles:true}))');
        $flipped = $a->picture('wall');
        self::assertNotSame($end, $flipped);
        $a->js('document.dispatchEvent(new KeyboardEvent("keyup",{key:"x",code:"KeyX",bubbles:true}))');
        $a->until(fn (): bool => $a->picture('wall') === $end, 'what was there before');

        $a->chooses('In order of', 'spread');
        $spreads = $a->js('return [...document.querySelectorAll("ul[aria-label=Variants] li")].map(l=>l.innerText.split("\n").at(-1))');
        $metres = array_map(static fn (string $s): float => (float) $s * (str_ends_with($s, 'cm') ? 0.01 : 1.0), $spreads);
        $sorted = $metres;
        sort($sorted);
        self::assertSame($sorted, $metres, 'least spread first');

        $a->presses('Contact sheet');
        self::assertNotSame($end, $a->picture('wall'), 'each at a frame of its own');
        $a->presses('In sync');
        for ($k = 0; $k < 4; $k++) {
            $a->clicks('ul[aria-label="Variants"] input:checked');
        }
        $a->until(static fn (): bool => count($a->browser->findElements(WebDriverBy::cssSelector('#wall [data-part]'))) === 2, 'two of them');
        $a->sees('The second against the first');
        $a->sees('Other from frame 0 on, by');
        $two = $a->picture('wall');
        $a->presses('Ghost');
        self::assertNotSame($two, $a->picture('wall'), 'one through the other');
        $a->presses('Flip');
        $one = $a->picture('wall');
        $a->js('document.dispatchEvent(new KeyboardEvent("keydown",{key:"x",code:"KeyX",bubbles:true}))');
        self::assertNotSame($one, $a->picture('wall'), 'the other in its place');
        $a->js('document.dispatchEvent(new KeyboardEvent("keyup",{key:"x",code:"KeyX",bubbles:true}))');

        $chosen = $a->js('return document.querySelector("#wall li button").getAttribute("aria-label")');
        self::assertMatchesRegularExpression('/^Choose Seed of Block \d$/', (string) $chosen);
        $a->clicks('#wall li button');
        $a->sees('It is the shot now.');
        $a->sees('Up to date');
        self::assertSame((int) substr((string) $chosen, -1), $a->document()['props'][0]['break']['values']['seed'], 'and baked already');
        $a->sees('6 · just now');
        $a->clicks('[aria-label=Undo]');
        $a->until(static fn (): bool => $a->document()['props'][0]['break']['values']['seed'] === 4, 'the seed there was');
        $this->assertNoErrors();
    }

    /** Drift is not baked: what a variant has of it is worked out beside its bake. Two that are baked alike differ by nothing else. */
    public function test_what_maps_decide_is_seen_of_each_variant(): void
    {
        $a = $this->artist;
        $front = ['source' => 'front', 'on' => 'own', 'values' => ['point' => [['keys' => [['frame' => 0, 'value' => -1], ['frame' => 12, 'value' => 1]]], 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.2, 'falloff' => 'linear']];
        $a->opensShot([...$this->falls(), Setting::box('board', [
            'place' => ['position' => [2, 0.3, 0], 'turn' => [0, 0, 0], 'size' => 1], 'break' => ['pattern' => 'tiles', 'values' => ['grid' => [4, 1, 1]]], 'weights' => [['id' => 'sweep', 'name' => 'Sweep', 'sources' => [$front]]],
            'motion' => ['kind' => 'drift', 'drift' => ['map' => 'sweep', 'ease' => 'linear', 'moves' => [['move' => 'offset', 'values' => ['by' => [0, 1, 0], 'random' => 0, 'strewn' => 0]]]]],
        ])]);
        $trial = $a->browser->executeAsyncScript('const done=arguments[1],id=location.pathname.split("/").pop();fetch("/api/shots/"+id+"/trials",{method:"POST",headers:{"X-Yard":"1","Content-Type":"application/json"},body:JSON.stringify({axes:[{path:arguments[0],values:"0.5, 1"}]})}).then(r=>r.json()).then(t=>done("/shots/"+id+"/trials/"+t.id))', ['/props/1/motion/drift/moves/0/values/by/1']);
        self::assertIsString($trial);
        $a->opens($trial);
        $a->sees('2 baked');
        $a->keys(WebDriverKeys::END);
        $beside = $a->picture('wall');
        $a->presses('Flip');
        $one = $a->picture('wall');
        self::assertNotSame($beside, $one);
        $a->js('document.dispatchEvent(new KeyboardEvent("keydown",{key:"x",code:"KeyX",bubbles:true}))');
        self::assertNotSame($one, $a->picture('wall'), 'half as high');
        $a->js('document.dispatchEvent(new KeyboardEvent("keyup",{key:"x",code:"KeyX",bubbles:true}))');
        $this->assertNoErrors();
    }

    public function test_one_that_fails_says_why_in_its_picture_and_the_others_go_on(): void
    {
        $a = $this->artist;
        $shot = $this->falls();
        $shot[0]['value']['break'] = ['pattern' => 'punch', 'values' => ['radius' => 0.1]];
        $a->opensShot($shot);
        $a->keys('5');
        $a->presses('Try values…');
        $a->types('Find a value to try', 'radius break');
        $a->types('Values of Radius of Block', '0.1, 5');
        $a->presses('Bake 2');
        $a->sees('1 baked, 1 not');
        $a->sees('The punch takes the whole prop with it.');
        $a->presses('Remove');
        $a->sees('Try values…');
        $this->assertNoErrors();
    }

    public function test_two_bakes_are_held_against_each_other(): void
    {
        $a = $this->artist;
        $a->opensShot($this->falls());
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys('1');
        $a->types('Bounce', '80', 'section ');
        $a->until(static fn (): bool => ($a->document()['props'][0]['material']['bounce'] ?? 0) == 0.8, 'the bounce');
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->clicks('a[href$="/compare"]');
        $a->sees('2 bakes of the shot are kept');
        $a->sees('The second against the first');
        $a->until(static fn (): bool => preg_match('/(later|earlier|farther|less far|energy|rest)/', $a->js('return document.querySelector("ul[aria-label=Differences]")?.innerText ?? ""')) === 1, 'what is different');
        $a->sees('bounce');
        $a->keys(WebDriverKeys::END);
        $beside = $a->picture('wall');
        $a->presses('Ghost');
        self::assertNotSame($beside, $a->picture('wall'));
        $a->clicks('header a[href*="/shots/"]');
        $a->sees('Up to date');
        $this->assertNoErrors();
    }

    /** @return list<array<string, mixed>> a block that falls and breaks, in half a second */
    private function falls(): array
    {
        return [
            Setting::box('block', ['break' => Setting::cells(12), 'place' => ['position' => [0, 0.6, 0], 'turn' => [10, 0, 20], 'size' => 1], 'motion' => Setting::falling()]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 16],
        ];
    }
}
