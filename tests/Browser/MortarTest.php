<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverKeys;

/** Mortar is chosen by mouse, says what it bears, is seen bond by bond, breaks where it is hit, and is held by anchors. */
final class MortarTest extends BrowserTestCase
{
    public function test_mortar_is_chosen_read_seen_and_broken(): void
    {
        $a = $this->artist;
        $a->opensShot([
            Setting::box('post', [
                'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.3, 'height' => 1.2, 'depth' => 0.3]],
                'break' => ['pattern' => 'tiles', 'values' => ['grid' => [2, 6, 2]]],
                'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1],
                'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]],
            ]),
            Setting::box('stone', [
                'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.12, 'detail' => 4]],
                'place' => ['position' => [-1.2, 0.8, 0], 'turn' => [0, 0, 0], 'size' => 1],
                'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => ['velocity' => [9, 0.5, 0]]],
            ]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 14],
        ]);
        $a->keys('4');
        $a->chooses('Mortar', 'lime mortar');
        $a->sees('44 bonds hold it together; it stands on the ground with 4 pieces.');
        $a->sees('of what the most strained bond bears');
        $plain = $a->picture();
        $a->clicks('[aria-label="Show the bonds in the picture"]');
        $a->sees('Bonds are shown');
        self::assertNotSame($plain, $a->picture(), 'they are drawn');
        $a->chooses('Also what touches', 'ground');
        $a->sees('it hangs on 4 anchored pieces and stands on the ground');
        self::assertSame(['ground'], $a->document()['props'][0]['motion']['anchoredBy']['touching']);
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->sees('bonds that break');
        $a->keys(WebDriverKeys::END);
        $cracks = $a->picture();
        $a->keys('4');
        $a->chooses('Mortar', 'glass');
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::END);
        self::assertNotSame($cracks, $a->picture(), 'glass holds what lime does not');
        $this->assertNoErrors();
    }
}
