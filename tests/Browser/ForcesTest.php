<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** A wind is added by mouse, says what it does, is seen, and blows. */
final class ForcesTest extends BrowserTestCase
{
    public function test_a_wind_is_added_read_seen_baked_and_taken_away_again(): void
    {
        $a = $this->artist;
        $light = ['name' => 'plaster', 'colour' => '#e4dfd3', 'inner' => '#f1ede4', 'density' => 30, 'friction' => 0.5, 'bounce' => 0.05];
        $a->opensShot([
            Setting::box('crate', ['break' => Setting::cells(6), 'material' => $light, 'place' => ['position' => [0, 0.5, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 16],
        ]);
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::END);
        $calm = $a->picture();
        $a->keys(WebDriverKeys::HOME, '0');
        $a->sees('Nothing but gravity pushes');
        $a->clicks('[aria-label="Add a force"]');
        $a->until(static fn (): bool => $a->browser->findElements(WebDriverBy::xpath('//*[@role="menuitem"]')) !== [], 'the forces to choose from');
        $a->browser->findElement(WebDriverBy::xpath('//*[@role="menuitem"][.//span[normalize-space(.)="Wind"]]'))->click();
        $a->sees('Air at 8 m/s carries off');
        $a->types('Speed', '40');
        $a->sees('Air at 40 m/s carries off all 6 pieces');
        $a->sees('air up to 40 m/s');
        self::assertSame('wind', $a->document()['forces'][0]['kind']);
        self::assertEquals(40, $a->document()['forces'][0]['values']['speed']);
        // Turned upwards by the tip of its arrow, and back.
        $tip = $a->finds('[aria-label="Turn Wind"]');
        $tip->sendKeys([WebDriverKeys::SHIFT, WebDriverKeys::ARROW_UP]);
        $way = static fn (): array => (array) $a->document()['forces'][0]['values']['direction'];
        $a->until(static fn (): bool => $way()[1] > 0.2, 'the wind goes upwards');
        self::assertEqualsWithDelta(1.0, hypot(hypot($way()[0], $way()[1]), $way()[2]), 2e-3);
        $a->keys(WebDriverKeys::CONTROL, 'z', WebDriverKeys::NULL);
        $a->until(static fn (): bool => $way() == [1, 0, 0], 'it goes straight again');
        // Keyed to nothing at the last frame: its lane is on the cue sheet.
        $a->clicks('[aria-label="Key Amount at frame 0"]');
        $a->sees('wind amount');
        $a->clicks('[aria-label="Remove the key of Amount at frame 0"]');
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::END);
        self::assertNotSame($calm, $a->picture(), 'the wind has blown them off');
        $a->keys('0');
        $a->clicks('[aria-label="Remove Wind"]');
        $a->sees('Nothing but gravity pushes');
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::END);
        $a->showsAgain($calm);
        $this->assertNoErrors();
    }

    /** At half the pace the last frame shows what half way showed before; how it would fly stands there before any bake. */
    public function test_time_passes_at_half_its_pace_and_a_flight_is_foretold(): void
    {
        $a = $this->artist;
        $a->opensShot([
            Setting::box('crate', ['place' => ['position' => [0, 2, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => ['kind' => 'free', 'values' => ['velocity' => [1.5, 0, 0]], 'release' => ['on' => 'frame', 'frame' => 0]]]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 16],
        ]);
        $a->keys('4');
        $a->sees('Alone it comes down');
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::HOME, ...array_fill(0, 8, WebDriverKeys::ARROW_RIGHT));
        $energy = static fn (): string => preg_match('/energy\s+([\d.]+ k?J)/', $a->text(), $found) === 1 ? $found[1] : '';
        $a->until(static fn (): bool => $energy() !== '', 'the energy in the docket');
        $half = $energy();
        $a->keys(WebDriverKeys::END);
        $a->until(static fn (): bool => $energy() !== $half, 'more of it at the end');
        $a->keys('0');
        $a->types('Pace', '0.5');
        $a->sees('keep to their frames');
        self::assertEquals(0.5, $a->document()['world']['pace']);
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::END);
        $a->until(static fn (): bool => $energy() === $half, "at the end $half, as half way before");
        $this->assertNoErrors();
    }
}
