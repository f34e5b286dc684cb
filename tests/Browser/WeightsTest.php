<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

final class WeightsTest extends BrowserTestCase
{
    /** A ball that comes into a block from the left: the map is made by mouse, its reach read off the coverage, and set by dragging. */
    public function test_a_proximity_map_is_made_by_mouse_and_its_coverage_read(): void
    {
        $a = $this->artist;
        $a->opensShot(self::passing());
        $a->clicks('nav[aria-label=Stages] button:nth-child(3)');
        $a->sees('No map yet');
        $a->presses('Proximity');
        $a->sees('proximity(Ball)');
        // At first the ball is two metres off, at the end inside the block.
        $a->until(fn (): bool => abs($this->untouched() - 1.0) < 1e-6);
        $a->keys(WebDriverKeys::END);
        $a->until(fn (): bool => $this->untouched() < 0.9);
        $before = $this->untouched();
        $dark = $this->picture();
        // None beyond is dragged farther out: less of the block is untouched, and the picture changes while it is dragged.
        $grip = $a->finds('[role=slider][aria-label^="None beyond"]');
        $a->browser->action()->clickAndHold($grip)->moveByOffset(25, 0)->perform();
        $a->until(fn (): bool => $this->picture() !== $dark);
        $a->browser->action()->release()->perform();
        $a->until(fn (): bool => $this->untouched() < $before - 0.02);
        // The sentence under the figures names the place of what is doubtful, and one press goes there.
        $a->sees('it never becomes full');
        $a->presses('Show');
        $a->until(fn (): bool => $a->browser->findElements(WebDriverBy::cssSelector('[role=status][aria-label=Here]')) !== []);
        $a->clicks('[aria-label=Undo]');
        $a->until(fn (): bool => abs($this->untouched() - $before) < 1e-6);
    }

    /** The same by the keyboard alone: stage, menu, distances by arrows, and the pointer that tells the weight is not needed. */
    public function test_a_map_is_made_and_changed_by_keyboard(): void
    {
        $a = $this->artist;
        $a->opensShot(self::passing());
        $a->keys('3');
        $a->sees('No map yet');
        $a->finds('button[aria-label="Begin with another source"]')->sendKeys(WebDriverKeys::ENTER);
        $a->sees('Behind a plane');
        $this->focused('Proximity');
        $a->browser->switchTo()->activeElement()->sendKeys(WebDriverKeys::ARROW_DOWN);
        $this->focused('Front');
        $a->browser->switchTo()->activeElement()->sendKeys(WebDriverKeys::ENTER);
        $a->until(fn (): bool => ($this->sources()[0]['source'] ?? '') === 'front');
        $grip = $a->finds('[role=slider][aria-label^="None beyond"]');
        $was = $this->sources()[0]['values']['none'];
        $grip->sendKeys(WebDriverKeys::ARROW_RIGHT);
        $a->until(fn (): bool => $this->sources()[0]['values']['none'] > $was);
        // Keyed at two frames it runs up through the block.
        $a->types('Through y', '-0.2');
        $a->until(fn (): bool => $this->sources()[0]['values']['point'][1] === -0.2);
        $a->finds('button[aria-label="Key Through y at frame 0"]')->sendKeys(WebDriverKeys::ENTER);
        $a->until(fn (): bool => is_array($this->sources()[0]['values']['point'][1]));
        $a->keys(WebDriverKeys::END);
        $a->types('Through y', '1.2');
        $a->until(fn (): bool => count($this->sources()[0]['values']['point'][1]['keys']) === 2);
        $a->until(fn (): bool => ($this->coverage()[1] ?? 0.0) > 0.99);
        $a->sees('front: front through');
    }

    /** A mend: distances the wrong way round are told and swapped by one press; sources are limited, inverted, taken away and undone. */
    /** A block that is lifted tile by tile: the map lies on it unbroken, its effect moves the tiles, and both are seen at once. */
    public function test_the_map_its_effect_and_both_are_seen(): void
    {
        $a = $this->artist;
        $rise = ['id' => 'rise', 'name' => 'Rise', 'sources' => [['source' => 'front', 'operation' => 'add', 'amount' => 1, 'on' => 'own', 'values' => ['point' => [['keys' => [['frame' => 0, 'value' => -0.5], ['frame' => 24, 'value' => 0.5]]], 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.1, 'falloff' => 'linear']]]];
        $lift = ['kind' => 'drift', 'drift' => ['map' => 'rise', 'ease' => 'linear', 'moves' => [['move' => 'offset', 'values' => ['by' => [0, 0.5, 0], 'random' => 0, 'strewn' => 0, 'seed' => 1]]]]];
        $a->opensShot([Setting::box('block', ['break' => ['pattern' => 'tiles', 'values' => ['grid' => [4, 2, 2]]], 'motion' => $lift, 'weights' => [$rise, ['name' => 'Idle', 'id' => 'idle'] + $rise]]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 24]]);
        $a->keys('3');
        for ($k = 0; $k < 12; $k++) {
            $a->keys(WebDriverKeys::ARROW_RIGHT);
        }
        $looked = fn (): string => (string) $a->js('return document.querySelector("[role=radiogroup][aria-label=\"In the picture\"] [aria-checked=true]")?.innerText ?? ""');
        $a->until(fn (): bool => $looked() === 'Map');
        $pieces = fn (): int => (int) $a->js('return document.getElementById("picture").dataset.pieces');
        $map = $a->picture();
        self::assertSame(1, $pieces(), 'the map lies on the prop unbroken');
        $a->presses('Effect');
        $a->sees('It drifts its pieces.');
        $effect = $a->picture();
        self::assertSame(16, $pieces());
        $a->presses('Both');
        $both = $a->picture();
        self::assertSame(16, $pieces());
        self::assertCount(3, array_unique([$map, $effect, $both]));
        // By the keyboard back and forth, to the very same pictures.
        $turn = function (string $to) use ($a): void {
            $a->browser->switchTo()->activeElement()->sendKeys(WebDriverKeys::ARROW_LEFT);
            $this->focused($to);
            $a->browser->switchTo()->activeElement()->sendKeys(' ');
        };
        $turn('Effect');
        $a->until(fn (): bool => $looked() === 'Effect');
        $a->showsAgain($effect);
        $turn('Map');
        $a->until(fn (): bool => $looked() === 'Map');
        $a->showsAgain($map);
        // A map that does nothing says so, and where that is changed.
        $a->presses('Idle');
        $a->presses('Effect');
        $a->sees('It does nothing yet: say below what it does.');
        // On another stage nothing of it stays.
        $a->keys('2');
        $a->keys('3');
        $a->until(fn (): bool => $looked() === 'Map');
        $this->assertNoErrors();
    }

    public function test_a_warning_is_mended_by_its_button(): void
    {
        $a = $this->artist;
        $map = [['id' => 'near', 'name' => 'Near', 'sources' => [['source' => 'ball', 'values' => ['middle' => [0, 0.3, 0], 'full' => 0.4, 'none' => 0.1, 'falloff' => 'linear']]]]];
        $a->opensShot([Setting::box('block', ['weights' => $map])]);
        $a->keys('3');
        $a->sees('its two distances are swapped');
        $a->presses('Mend');
        $a->until(fn (): bool => $this->sources()[0]['values']['full'] === 0.1 && $this->sources()[0]['values']['none'] === 0.4);
        $a->seesNoMore('its two distances are swapped');
        $a->ticks('Invert');
        $a->sees('¬ball');
        $a->clicks('button[aria-label="Remove Ball"]');
        $a->sees('No source yet');
        $a->clicks('[aria-label=Undo]');
        $a->sees('¬ball');
    }

    /** @return list<array{op: string, path: string, value: mixed}> */
    private static function passing(): array
    {
        $keys = ['keys' => [['frame' => 0, 'value' => -2], ['frame' => 24, 'value' => 0.2]]];

        return [
            Setting::box('block'),
            Setting::box('ball', ['name' => 'Ball', 'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.15]], 'place' => ['position' => [$keys, 0.2, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => ['kind' => 'keyed']]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 24],
        ];
    }

    /** @return list<float> none, full, least, mean and most at the playhead, as far as that is worked out */
    private function coverage(): array
    {
        $told = (string) $this->artist->js('return document.querySelector("[data-coverage]")?.dataset.coverage ?? ""');

        return $told === '' ? [] : array_map(floatval(...), explode(' ', $told));
    }

    /** Share of the prop at weight 0; above 1 as long as it is not worked out. */
    private function untouched(): float
    {
        return $this->coverage()[0] ?? 2.0;
    }

    private function focused(string $words): void
    {
        $this->artist->until(fn (): bool => str_starts_with((string) $this->artist->js('return document.activeElement?.innerText ?? ""'), $words));
    }

    /** @return list<array<string, mixed>> */
    private function sources(): array
    {
        return $this->artist->document()['props'][0]['weights'][0]['sources'] ?? [];
    }

    /** What the canvas shows, as one number a change of which is a change of the picture. */
    private function picture(): string
    {
        return md5((string) $this->artist->js('return document.querySelector("canvas").toDataURL()'));
    }
}
