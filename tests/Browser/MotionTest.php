<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

final class MotionTest extends BrowserTestCase
{
    public function test_keys_are_set_moved_copied_and_removed(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('gate')]);
        $a->keys('4');
        $a->sees('Motion of Gate');
        $a->keys('k');
        for ($i = 0; $i < 12; $i++) {
            $a->keys(WebDriverKeys::ARROW_RIGHT);
        }
        $a->keys('k');
        $a->until(fn (): bool => $this->frames() === [0, 12]);
        $a->types('Position x', '1.5');
        $a->until(fn (): bool => $this->artist->document()['props'][0]['place']['position'][0]['keys'][1]['value'] === 1.5);

        $this->drag('Position of Gate, key at frame 12', 24 - 12);
        $a->until(fn (): bool => $this->frames() === [0, 24]);
        // Onto another key it does not go.
        $this->drag('Position of Gate, key at frame 24', -24);
        $a->sees('Another key is already there');
        self::assertSame([0, 24], $this->frames());
        $this->drag('Position of Gate, key at frame 24', 12, WebDriverKeys::ALT);
        $a->until(fn (): bool => $this->frames() === [0, 24, 36]);
        $a->keys(WebDriverKeys::DELETE);
        $a->until(fn (): bool => $this->frames() === [0, 24]);

        // Half way between its keys the gate stands half way.
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $x = $a->browser->executeAsyncScript('const done=arguments[0];fetch("/api"+location.pathname+"/bake").then(r=>r.json()).then(({bake})=>fetch("/api/bakes/"+bake.id+"/frames?from=12")).then(r=>r.arrayBuffer()).then(b=>done(new Float32Array(b)[8]))');
        self::assertEqualsWithDelta(0.75, $x, 1e-4);
    }

    public function test_only_the_range_plays(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('gate')]);
        for ($i = 0; $i < 5; $i++) {
            $a->keys(WebDriverKeys::ARROW_RIGHT);
        }
        $a->keys('[');
        for ($i = 0; $i < 5; $i++) {
            $a->keys(WebDriverKeys::ARROW_RIGHT);
        }
        $a->keys(']');
        $a->keys(WebDriverKeys::HOME);
        self::assertSame('5', $this->at());
        $a->keys(WebDriverKeys::SPACE);
        $seen = [];
        // A busy machine skips frames, so it may take a few rounds to see three of them.
        for ($i = 0; $i < 25 || $i < 150 && count(array_unique($seen)) < 3; $i++) {
            $seen[] = (int) $this->at();
            usleep(40_000);
        }
        $a->keys(WebDriverKeys::SPACE);
        self::assertGreaterThanOrEqual(5, min($seen));
        self::assertLessThanOrEqual(10, max($seen));
        self::assertGreaterThan(2, count(array_unique($seen)), 'it does play');
    }

    public function test_a_release_is_set_to_a_frame_and_the_bake_keeps_to_it(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('crate', ['place' => ['position' => [0, 1, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => ['kind' => 'free', 'values' => ['held' => 'still'], 'release' => ['on' => 'frame', 'frame' => 0]]])]);
        $a->keys('4');
        $a->sees('Let go');
        $a->types('Frame', '10');
        $a->sees('saved');
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $y = $a->browser->executeAsyncScript('const done=arguments[0];fetch("/api"+location.pathname+"/bake").then(r=>r.json()).then(({bake})=>fetch("/api/bakes/"+bake.id+"/frames?from=0")).then(r=>r.arrayBuffer()).then(b=>{const f=new Float32Array(b);done([f[9],f[16*10+9],f[16*16+9]])})');
        self::assertEqualsWithDelta($y[0], $y[1], 1e-6, 'it stays until frame 10');
        // Free fall, v² and all: ½ g t² after 6 frames.
        self::assertEqualsWithDelta($y[0] - 0.5 * 9.80665 * (6 / 24) ** 2, $y[2], 0.002);
    }

    /** @return list<int> */
    private function frames(): array
    {
        return array_column($this->artist->document()['props'][0]['place']['position'][0]['keys'] ?? [], 'frame');
    }

    private function at(): string
    {
        return (string) $this->artist->js('return document.querySelector("[data-frame]").dataset.frame');
    }

    private function drag(string $key, int $frames, ?string $with = null): void
    {
        $b = $this->artist->browser;
        $pixels = (int) round($frames * (float) $this->artist->js('const k=document.querySelectorAll("[aria-label^=\'Position of Gate, key\']");const at=e=>{const r=e.getBoundingClientRect();return r.left+r.width/2};const f=e=>Number(e.getAttribute("aria-label").split(" ").pop());return (at(k[1])-at(k[0]))/(f(k[1])-f(k[0]))'));
        $element = $b->findElement(WebDriverBy::cssSelector('[aria-label="'.$key.'"]'));
        $action = $b->action()->moveToElement($element)->clickAndHold();
        if ($with !== null) {
            $action->keyDown(null, $with);
        }
        $action->moveByOffset($pixels <=> 0, 0)->moveByOffset($pixels - ($pixels <=> 0), 0)->release();
        if ($with !== null) {
            $action->keyUp(null, $with);
        }
        $action->perform();
    }
}
