<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** What weight maps do, as an artist sets it up: pieces let go, drifting, appearing; surfaces that change; copies strewn. */
final class DriftTest extends BrowserTestCase
{
    private const TILES = ['pattern' => 'tiles', 'values' => ['grid' => [4, 1, 1]]];

    public function test_pieces_are_let_go_by_a_map_and_their_order_is_told_without_a_bake(): void
    {
        $a = $this->artist;
        $a->opensShot(self::swept(['motion' => ['kind' => 'fixed']]));
        $a->sees('4 shards');
        $a->keys('4');
        $a->presses('Free');
        $a->sees('Release');
        $a->chooses('Let go', 'weight');
        $a->until(fn (): bool => ($this->motion()['release']['map'] ?? '') === 'sweep');
        // It goes 1/30 m a frame, and its half lies 0.1 m before it: over the middle of the first tile at frame 5.25, of the last at 18.75.
        $a->sees('frame 6 – 19');
        $plain = $a->picture();
        $a->clicks('button[aria-label="Show the order in the picture"]');
        $a->sees('Shown in the picture');
        self::assertNotSame($plain, $a->picture());
        // One piece is told otherwise by the keyboard.
        $a->types('From weight', '1');
        $a->until(fn (): bool => ($this->motion()['release']['level'] ?? 0) === 1);
        // Full it is 0.1 m later: at 8.25 and 21.75.
        $a->sees('frame 9 – 22');
        $this->assertNoErrors();
    }

    public function test_a_prop_without_a_map_is_let_drift_and_assembles(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('board', ['break' => self::TILES]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 24]]);
        $a->sees('4 shards');
        $a->keys('4');
        $a->waitsForPicture();
        $still = $a->picture();
        $a->presses('Drift');
        $a->sees('As it fills');
        $a->until(fn (): bool => ($this->motion()['kind'] ?? '') === 'drift');
        $a->keys(WebDriverKeys::END);
        $a->until(fn (): bool => $a->frameDrawn() === 24 && $a->picture() !== $still);
        $gone = $a->picture();
        // The other way round they have come at the end.
        $a->presses('they come');
        $a->until(fn (): bool => ($this->motion()['drift']['assemble'] ?? false) === true);
        $a->until(fn (): bool => $a->picture() !== $gone);
        $there = $a->picture();
        $a->keys(WebDriverKeys::HOME);
        $a->until(fn (): bool => $a->frameDrawn() === 0 && $a->picture() !== $there);
        $a->clicks('[aria-label="Add a move"]');
        $this->picks('Size');
        $a->until(fn (): bool => in_array('size', array_column($this->motion()['drift']['moves'], 'move'), true));
        $a->presses('faces');
        $a->sees('Stretch');
        $a->until(fn (): bool => ($this->motion()['drift']['by'] ?? '') === 'faces');
        $this->assertNoErrors();
    }

    public function test_where_a_piece_flies_is_placed_by_hand_and_a_path_is_drawn(): void
    {
        $a = $this->artist;
        $drift = ['kind' => 'drift', 'drift' => ['map' => 'sweep', 'ease' => 'linear', 'moves' => [['move' => 'path', 'values' => ['kind' => 'line', 'points' => [[0, 0, 0], [0, 0.2, 0]], 'spread' => 0]]]]];
        $a->opensShot(self::swept(['motion' => $drift]));
        $a->sees('4 shards');
        $a->waitsForPicture();
        $a->drags([[0, 0]]);
        $a->sees('1 picked');
        $a->keys('4');
        $a->presses('Place the picked piece by hand');
        $a->until(fn (): bool => count($this->motion()['drift']['ends'] ?? []) === 1);
        $end = $this->motion()['drift']['ends'][0];
        $handle = 'button[aria-label="Move where '.$end['piece'].' flies"]';
        $a->until(fn (): bool => $a->browser->findElements(WebDriverBy::cssSelector($handle)) !== []);
        $a->dragsOn($handle, [0, 0], [60, -20]);
        $a->until(fn (): bool => ($this->motion()['drift']['ends'][0]['by'] ?? $end['by']) !== $end['by']);
        $dragged = $this->motion()['drift']['ends'][0]['by'];
        $a->finds($handle)->sendKeys(WebDriverKeys::ARROW_UP);
        $a->until(fn (): bool => $this->motion()['drift']['ends'][0]['by'][1] > $dragged[1]);

        $a->presses('Draw it in the picture');
        $a->sees('Press to add points');
        $a->drags([[120, -60]]);
        $a->until(fn (): bool => count($this->motion()['drift']['moves'][0]['values']['points']) === 3);
        $a->drags([[160, -20]]);
        $a->until(fn (): bool => count($this->motion()['drift']['moves'][0]['values']['points']) === 4);
        $a->keys(WebDriverKeys::ENTER);
        $a->seesNoMore('Press to add points');
        $a->clicks('[aria-label=Undo]');
        $a->until(fn (): bool => count($this->motion()['drift']['moves'][0]['values']['points']) === 3);
        $this->assertNoErrors();
    }

    public function test_a_map_is_painted_and_erased_by_mouse_and_by_keyboard(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.6, 'height' => 0.6, 'depth' => 0.6, 'segments' => 6]]])]);
        $a->keys('3');
        $a->presses('Brush');
        $a->sees('nothing painted yet');
        $a->until(fn (): bool => ($this->coverage()[0] ?? 0.0) === 1.0);
        $a->waitsForPicture();
        $plain = $a->picture();
        $a->drags([[-40, 20], [-20, 20], [0, 25], [20, 20], [40, 20]]);
        $a->sees('1 stroke');
        $a->until(fn (): bool => ($this->coverage()[4] ?? 0.0) > 0.5);
        self::assertNotSame($plain, $a->picture());
        $painted = $this->coverage()[3];
        $a->presses('Erase');
        $a->drags([[-40, 20], [-20, 20], [0, 25]]);
        $a->until(fn (): bool => count($this->strokes()) === 2 && ($this->coverage()[3] ?? 1.0) < $painted);
        self::assertSame(['paint', 'erase'], array_column($this->strokes(), 'how'));
        // Without the mouse: the brush stands in the middle of the picture.
        $a->presses('Paint');
        $board = $a->finds('[role=application][aria-label^=Brush]');
        $a->js('arguments[0].focus()', $board);
        $board->sendKeys([WebDriverKeys::ARROW_DOWN, WebDriverKeys::ENTER]);
        $a->until(fn (): bool => count($this->strokes()) === 3);
        // Faces are picked the same way.
        $a->clicks('[aria-label="Add a source"]');
        $this->picks('Region');
        $a->sees('nothing picked yet');
        $a->drags([[0, 30], [10, 30]]);
        $a->until(fn (): bool => ($this->sources()[1]['values']['faces'] ?? []) !== []);
        $a->sees('faces');
        $this->assertNoErrors();
    }

    public function test_a_map_shows_a_prop_changes_its_surface_and_lets_another_take_its_place(): void
    {
        $a = $this->artist;
        $a->opensShot([...self::swept([]), Setting::box('core', ['name' => 'Core', 'place' => ['position' => [0, 0.3, 0], 'turn' => [0, 0, 0], 'size' => 0.9]])]);
        $a->sees('4 shards');
        $a->keys('3');
        $a->sees('Moves nothing yet');
        $a->chooses('Shows it', 'grow');
        $a->until(fn (): bool => ($this->prop()['appears']['how'] ?? '') === 'grow');
        // On another stage, at the first frame nothing of it has come.
        $a->keys('5');
        $a->keys(WebDriverKeys::HOME);
        $a->until(fn (): bool => $a->frameDrawn() === 0);
        $none = $a->picture();
        $a->keys(WebDriverKeys::END);
        $a->until(fn (): bool => $a->frameDrawn() === 24 && $a->picture() !== $none);
        $a->keys('3');
        $a->ticks('Turns into another surface');
        $a->until(fn (): bool => ($this->prop()['material']['second']['map'] ?? '') === 'sweep');
        $a->ticks('Relief');
        $a->until(fn (): bool => ($this->prop()['relief']['map'] ?? '') === 'sweep');
        $a->types('Relief', '0.05');
        $a->until(fn (): bool => ($this->prop()['relief']['depth'] ?? 0) === 0.05);
        $a->chooses('Stand-in', 'core');
        $a->until(fn (): bool => ($this->prop()['appears']['invert'] ?? false) === true && ($a->document()['props'][1]['appears']['how'] ?? '') === 'surface');
        $a->sees('Core comes as Board goes');
        $this->assertNoErrors();
    }

    public function test_copies_are_strewn_over_a_prop_each_a_piece(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block'), Setting::box('pip', ['place' => ['position' => [1, 0.02, 0], 'turn' => [0, 0, 0], 'size' => 0.06]])]);
        $a->keys('1');
        $a->clicks('[aria-label="Add a prop"]');
        $a->sees('Strew copies');
        $a->presses('Strew Pip over Block');
        $a->until(fn (): bool => ($a->document()['props'][2]['source']['kind'] ?? '') === 'scatter');
        $a->sees('60 shards');
        self::assertTrue($a->document()['props'][1]['hidden'] ?? false, 'what is copied is hidden itself');
        $a->types('Copies', '25');
        $a->sees('25 shards');
        $a->types('Smallest', '3');
        $a->sees('The smallest copy is larger than the largest.');
        $this->assertNoErrors();
    }

    /**
     * A board of four tiles, and a front that sweeps over it from left to right: full behind it, none from 0.2 m before it.
     *
     * @param  array<string, mixed>  $with
     * @return list<array{op: string, path: string, value: mixed}>
     */
    private static function swept(array $with): array
    {
        $front = ['source' => 'front', 'on' => 'own', 'values' => ['point' => [['keys' => [['frame' => 0, 'value' => -0.5], ['frame' => 24, 'value' => 0.3]]], 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.2, 'falloff' => 'linear']];

        return [Setting::box('board', $with + ['break' => self::TILES, 'weights' => [['id' => 'sweep', 'name' => 'Sweep', 'sources' => [$front]]]]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 24]];
    }

    private function picks(string $words): void
    {
        $this->artist->until(function () use ($words): bool {
            foreach ($this->artist->browser->findElements(WebDriverBy::cssSelector('[role=menuitem]')) as $item) {
                if (str_starts_with($item->getText(), $words)) {
                    $item->click();

                    return true;
                }
            }

            return false;
        });
    }

    /** @return array<string, mixed> */
    private function prop(): array
    {
        return $this->artist->document()['props'][0];
    }

    /** @return array<string, mixed> */
    private function motion(): array
    {
        return $this->prop()['motion'];
    }

    /** @return list<array<string, mixed>> */
    private function sources(): array
    {
        return $this->prop()['weights'][0]['sources'] ?? [];
    }

    /** @return list<array<string, mixed>> */
    private function strokes(): array
    {
        return $this->sources()[0]['values']['strokes'] ?? [];
    }

    /** @return list<float> none, full, least, mean and most at the playhead, as far as that is worked out */
    private function coverage(): array
    {
        $told = (string) $this->artist->js('return document.querySelector("[data-coverage]")?.dataset.coverage ?? ""');

        return $told === '' ? [] : array_map(floatval(...), explode(' ', $told));
    }
}
