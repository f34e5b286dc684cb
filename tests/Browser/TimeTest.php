<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** Values over frames, cues, and what a bake keeps, as an artist meets them. */
final class TimeTest extends BrowserTestCase
{
    public function test_a_value_is_keyed_from_nothing_by_mouse_and_another_by_keyboard(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('gate')]);
        $a->keys('4');
        $a->sees('Motion of Gate');
        $a->clicks('[aria-label="Key Size at frame 0"]');
        $a->until(fn (): bool => ($this->place()['size']['keys'] ?? null) === [['frame' => 0, 'value' => 1]]);
        self::assertSame('keyed', $a->document()['props'][0]['motion']['kind'], 'what stood fixed moves by its keys now');
        $this->goesTo(10);
        $a->types('Size', '0.2');
        $a->until(fn (): bool => array_column($this->place()['size']['keys'], 'value', 'frame') === [0 => 1, 10 => 0.2]);
        $a->sees('◂ key at 0');
        $this->goesTo(5);
        self::assertSame('0.6', $a->reads('Size'), 'half way it is half way');
        $a->sees('key at 10 ▸');

        $mark = $a->finds('[aria-label="Key Position z at frame 5"]');
        $a->js('arguments[0].focus()', $mark);
        $mark->sendKeys(WebDriverKeys::ENTER);
        $a->until(fn (): bool => array_column($this->place()['position'][2]['keys'] ?? [], 'frame') === [5]);
        $a->sees('position');
        // Picked, moved, and taken away again without the mouse.
        $a->keys(WebDriverKeys::CONTROL, 'a', WebDriverKeys::NULL);
        $a->keys('.');
        $a->until(fn (): bool => array_column($this->place()['position'][2]['keys'] ?? [], 'frame') === [6] && array_column($this->place()['size']['keys'], 'frame') === [1, 11]);
        $a->keys(WebDriverKeys::DELETE);
        $a->until(fn (): bool => $this->place()['size'] === 1 && $this->place()['position'][2] === 0);
        $a->clicks('[aria-label=Undo]');
        $a->until(fn (): bool => array_column($this->place()['size']['keys'] ?? [], 'frame') === [1, 11]);
        $this->assertNoErrors();
    }

    public function test_a_curve_is_bent_by_its_handle_and_keys_are_typed_exactly(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('gate', ['place' => ['position' => [['keys' => [['frame' => 0, 'value' => 0], ['frame' => 48, 'value' => 2]]], 0.3, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => ['kind' => 'keyed']])]);
        $a->keys('4');
        $a->clicks('[aria-label="Curve of Gate: position"]');
        $a->sees('Gate position');
        $this->picks('Position of Gate, key at frame 0');
        $a->presses('Ease');
        $a->presses('Own curve');
        $a->until(fn (): bool => ($this->place()['position'][0]['keys'][0]['ease'] ?? null) === [0.5, 0, 0.5, 1]);
        $a->dragsOn('[aria-label="Handle after frame 0"]', [0, 0], [-60, -30]);
        $a->until(fn (): bool => ($this->place()['position'][0]['keys'][0]['ease'][0] ?? 1) < 0.5);
        [, $y1] = $this->place()['position'][0]['keys'][0]['ease'];
        self::assertGreaterThan(0.05, $y1);
        $this->goesTo(12);
        self::assertGreaterThan(0.4, (float) $a->reads('Position x'), 'it starts harder than evenly would be behind a smooth one');

        $this->picks('Position of Gate, key at frame 48');
        $field = $a->finds('[aria-label=Curves] input[aria-label="Position x"]');
        $field->click();
        $field->sendKeys([WebDriverKeys::CONTROL, 'a', WebDriverKeys::NULL, '3', WebDriverKeys::ENTER]);
        $a->until(fn (): bool => $this->place()['position'][0]['keys'][1]['value'] === 3);
        $a->presses('Make linear');
        $a->chooses('After its keys', 'swing');
        $a->until(fn (): bool => ($this->place()['position'][0]['after'] ?? '') === 'swing');
        $this->assertNoErrors();
    }

    public function test_a_key_hangs_on_a_touch_and_another_cue_takes_its_keys_along_and_a_bake_says_what_it_keeps(): void
    {
        $a = $this->artist;
        $post = ['place' => ['position' => [0, 0.3, 0], 'turn' => [0, 0, 0], 'size' => 1]];
        // Its face comes at the post's, 2.4 m off, by 0.1 m a frame.
        $ram = ['place' => ['position' => [['keys' => [['frame' => 0, 'value' => 3], ['frame' => 40, 'value' => -1]]], 0.3, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => ['kind' => 'keyed']];
        $lamp = ['place' => ['position' => [0, 2, 0], 'turn' => [0, ['keys' => [['frame' => 60, 'value' => 0], ['frame' => 70, 'value' => 90]]], 0], 'size' => 1], 'motion' => ['kind' => 'keyed']];
        $a->opensShot([Setting::box('post', $post), Setting::box('ram', $ram), Setting::box('lamp', $lamp)]);
        $a->keys('4');
        $this->goesTo(10);
        $a->presses('+ Cue');
        $a->sees('Cue 1');
        $a->clicks('[aria-label^="Cue Cue 1"]');
        $a->presses('a first touch');
        $a->chooses('And', 'ram');
        $a->sees('Found at frame 24');
        $a->keys(WebDriverKeys::ESCAPE);

        $this->picks('Turn of Lamp, key at frame 60');
        $a->chooses('Tie to a cue', 'cue-1');
        $a->until(fn (): bool => ($a->document()['props'][2]['place']['turn'][1]['keys'][0]['cue'] ?? '') === 'cue-1');
        $a->keys('5', 'b');
        $a->sees('Up to date');

        // A cue at a frame is dragged, and what hangs on it goes along.
        $this->goesTo(70);
        $a->presses('+ Cue');
        $this->picks('Turn of Lamp, key at frame 70');
        $a->chooses('Tie to a cue', 'cue-2');
        $a->until(fn (): bool => ($a->document()['props'][2]['place']['turn'][1]['keys'][1]['cue'] ?? '') === 'cue-2');
        $a->dragsOn('[aria-label^="Cue Cue 2"]', [0, 0], [60, 0]);
        $a->until(fn (): bool => ($a->document()['cues'][1]['at']['frame'] ?? 70) > 70);
        $to = $a->document()['cues'][1]['at']['frame'];
        self::assertSame(1, count($a->browser->findElements(WebDriverBy::cssSelector('[aria-label="Turn of Lamp, key at frame '.$to.'"]'))));
        // The stretch that leads there begins at the key at 60.
        $a->sees('Frames 0–60 stay, 61–96 are computed');
        $a->sees('Because of: turn y of Lamp');
        $a->presses('Bake from frame 61');
        $a->sees('Up to date');
        $a->sees('97, 61 of them kept');
        $a->clicks('[aria-label=Undo]');
        $a->sees('All 97 frames are there from an earlier bake');
        $this->assertNoErrors();
    }

    public function test_time_is_shown_as_frames_seconds_or_timecode_and_another_rate_asks(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('gate', ['place' => ['position' => [['keys' => [['frame' => 0, 'value' => 0], ['frame' => 48, 'value' => 2]]], 0.3, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => ['kind' => 'keyed']])]);
        $this->goesTo(48);
        $another = fn () => $a->clicks('[aria-label$="another way"]');
        $another();
        $a->until(fn (): bool => $this->clock() === '2.00 s');
        $another();
        $a->until(fn (): bool => $this->clock() === '00:00:02:00');
        // A moment is typed as any of them, whichever is shown.
        foreach (['12' => '00:00:00:12', '1.5 s' => '00:00:01:12', '00:00:03:01' => '00:00:03:01', '2:00' => '00:00:02:00'] as $typed => $shown) {
            $a->types('Frame', (string) $typed);
            $a->until(fn (): bool => $this->clock() === $shown);
        }
        $a->types('Frame', '4000');
        $a->sees('The shot goes from frame 0 to 96.');
        $field = $a->finds('input[aria-label="Frame"]');
        $field->click();
        $field->sendKeys(['9', WebDriverKeys::ESCAPE]);
        self::assertSame('00:00:02:00', $this->clock(), 'Escape puts back what was there');
        $another();
        $a->keys('0');
        $a->chooses('Rate', '48/1');
        $a->sees('Keep seconds');
        $a->presses('Keep seconds');
        $a->until(fn (): bool => array_column($this->place()['position'][0]['keys'], 'frame') === [0, 96]);
        self::assertEquals(['first' => 0, 'last' => 192, 'rate' => [48, 1]], $a->document()['frames']);
        $a->chooses('Rate', '24000/1001');
        $a->presses('Keep frames');
        $a->until(fn (): bool => $a->document()['frames']['rate'] === [24000, 1001]);
        self::assertSame([0, 96], array_column($this->place()['position'][0]['keys'], 'frame'));
    }

    /** Two thousand keys of eight lanes, all picked: one is dragged, and every other goes as far. */
    public function test_two_thousand_keys_are_dragged_as_one(): void
    {
        $a = $this->artist;
        $a->opensShot(Setting::manyKeys());
        $a->keys('4');
        $a->sees('position');
        $a->keys(WebDriverKeys::CONTROL, 'a', WebDriverKeys::NULL);
        $a->sees('2000 picked');
        $before = array_column($a->document()['props'][3]['place']['turn'][1]['keys'], 'frame');
        $a->dragsOn('[aria-label="Position of One, key at frame 100"]', [0, 0], [20, 0]);
        $after = $before;
        $a->until(function () use ($a, $before, &$after): bool {
            return ($after = array_column($a->document()['props'][3]['place']['turn'][1]['keys'], 'frame')) !== $before;
        });
        $by = $after[0] - $before[0];
        self::assertGreaterThan(2, $by);
        foreach ($a->document()['props'] as $prop) {
            foreach ([$prop['place']['position'][0], $prop['place']['turn'][1]] as $track) {
                self::assertSame(array_map(static fn (int $frame): int => $frame + $by, $before), array_column($track['keys'], 'frame'));
            }
        }
        $this->assertNoErrors();
    }

    private function clock(): string
    {
        return (string) $this->artist->js('return document.querySelector("[data-frame]").value');
    }

    /** @return array<string, mixed> the place of the first prop */
    private function place(): array
    {
        return $this->artist->document()['props'][0]['place'];
    }

    private function picks(string $key): void
    {
        $element = $this->artist->finds('[aria-label="'.$key.'"]');
        $this->artist->js('arguments[0].scrollIntoView({ block: "center" })', $element);
        $this->artist->browser->action()->moveToElement($element)->click()->perform();
    }

    private function goesTo(int $frame): void
    {
        $a = $this->artist;
        $now = (int) $a->js('return document.querySelector("[data-frame]").dataset.frame');
        $a->keys(...array_fill(0, abs($frame - $now) ?: 1, $frame > $now ? WebDriverKeys::ARROW_RIGHT : ($frame < $now ? WebDriverKeys::ARROW_LEFT : '')));
    }
}
