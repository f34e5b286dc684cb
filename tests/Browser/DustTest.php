<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** Dust is added by mouse, baked, seen and counted, and taken away again. */
final class DustTest extends BrowserTestCase
{
    public function test_dust_is_added_baked_seen_and_taken_away(): void
    {
        $a = $this->artist;
        $a->opensShot([
            Setting::box('crate', ['place' => ['position' => [0, 1.2, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => ['kind' => 'fixed']]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 12],
        ]);
        $a->keys('4');
        $a->sees('It gives off nothing');
        $a->clicks('[aria-label="Add a kind of dust"]');
        $a->until(static fn (): bool => $a->browser->findElements(WebDriverBy::xpath('//*[@role="menuitem"]')) !== [], 'what dust can come from');
        $a->browser->findElement(WebDriverBy::xpath('//*[@role="menuitem"][.//span[normalize-space(.)="From a place"]]'))->click();
        $a->sees('So many a second');
        $a->types('Grain', '20');
        self::assertEquals(20, $a->document()['props'][0]['dust'][0]['values']['size']);
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->sees('grains');
        $a->keys(WebDriverKeys::HOME);
        $none = $a->picture();
        $a->keys(WebDriverKeys::END);
        self::assertNotSame($none, $a->picture(), 'it pours');
        // 2,000 a second for half a second.
        $a->until(static fn (): bool => preg_match('/grains\s+1,00\d/', $a->text()) === 1, 'a thousand grains in the docket');
        $a->keys('4');
        $a->clicks('[aria-label="Remove Dust from a place"]');
        $a->sees('It gives off nothing');
        $this->assertNoErrors();
    }

    /** A burst of cubes, as large as fists, goes off at a frame and lies about at the end; its curve over its life is drawn and bent by key. */
    public function test_chips_burst_and_come_to_lie(): void
    {
        $a = $this->artist;
        $a->opensShot([
            Setting::box('crate', ['place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => ['kind' => 'fixed']]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 40],
        ]);
        $a->keys('4');
        $a->sees('It gives off nothing');
        $a->clicks('[aria-label="Add a kind of dust"]');
        $a->until(static fn (): bool => $a->browser->findElements(WebDriverBy::xpath('//*[@role="menuitem"]')) !== [], 'what chips can come from');
        $a->browser->findElement(WebDriverBy::xpath('//*[@role="menuitem"][.//span[normalize-space(.)="Burst"]]'))->click();
        $a->sees('Many at once from one place');
        $a->chooses('As', 'cube');
        $a->sees('Spins');
        $a->types('Grains', '60');
        $a->types('Grain', '120');
        $a->types('Leaves with', '3');
        $a->types('Lasts', '60');
        $a->types('At', '4');
        $a->clicks('summary');
        $a->browser->findElement(WebDriverBy::cssSelector('[aria-label^="Size, point 2"]'))->sendKeys(WebDriverKeys::ARROW_UP);
        $a->until(static fn (): bool => ($a->document()['props'][0]['dust'][0]['values']['sizes'][1][1] ?? 0) > 0.44, 'the end of the curve a little higher');
        $values = $a->document()['props'][0]['dust'][0]['values'];
        self::assertEquals(['cube', 60, 4], [$values['shape'], $values['count'], $values['frame']]);
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::HOME);
        $none = $a->picture();
        $a->keys(WebDriverKeys::END);
        self::assertNotSame($none, $a->picture(), 'cubes lie about');
        $a->until(static fn (): bool => preg_match('/grains\s+60/', $a->text()) === 1, 'sixty of them in the docket');
        $a->keys('6');
        $a->sees('Dust, GLB');
        $this->assertNoErrors();
    }
}
