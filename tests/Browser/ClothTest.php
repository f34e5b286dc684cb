<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverKeys;

/** A sheet is made cloth by mouse, held where a map says, baked and seen to hang. */
final class ClothTest extends BrowserTestCase
{
    public function test_a_sheet_hangs_from_where_a_map_holds_it(): void
    {
        $a = $this->artist;
        $a->opensShot([
            Setting::box('sheet', [
                'source' => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => 1, 'height' => 1, 'thickness' => 0, 'segments' => 12]],
                'place' => ['position' => [0, 1.5, 0], 'turn' => [-90, 0, 0], 'size' => 1],
                'weights' => [['id' => 'edge', 'name' => 'Edge', 'sources' => [['source' => 'front', 'values' => ['point' => [0.45, 0, 0], 'direction' => [-1, 0, 0], 'full' => 0, 'none' => 0.001], 'invert' => false, 'operation' => 'add', 'amount' => 1, 'on' => 'own']]]],
            ]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 12],
        ]);
        $a->keys('4');
        $a->presses('Cloth');
        $a->sees('Its surface is fabric once released');
        $a->chooses('Fabric', 'silk');
        $a->chooses('Held where', 'edge');
        self::assertSame(['silk', 'edge'], [$a->document()['props'][0]['motion']['values']['fabric'], $a->document()['props'][0]['motion']['values']['hold']]);
        self::assertStringNotContainsString('encloses no volume', $a->text(), 'fabric needs no inside');
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::HOME);
        $flat = $a->picture();
        $a->keys(WebDriverKeys::END);
        self::assertNotSame($flat, $a->picture(), 'it hangs down');
        $a->until(static fn (): bool => preg_match('/energy\\s+[1-9]/', $a->text()) === 1, 'it swings, in the docket');
        $this->assertNoErrors();
    }
}
