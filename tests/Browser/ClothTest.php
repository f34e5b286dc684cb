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
        $a->choosesPictured('Fabric', 'silk');
        $a->chooses('Held where', 'edge');
        $a->types('Pressure', '0.5');
        self::assertSame(['silk', 'edge'], [$a->document()['props'][0]['motion']['values']['fabric'], $a->document()['props'][0]['motion']['values']['hold']]);
        self::assertStringNotContainsString('encloses no volume', $a->text(), 'fabric needs no inside');
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::HOME);
        $flat = $a->picture();
        $a->keys(WebDriverKeys::END);
        self::assertNotSame($flat, $a->picture(), 'it hangs down');
        $hangs = $a->picture();
        $a->keys('4');
        $a->sees('288 faces');
        $a->chooses('Divided', '1');
        $a->sees('1,152 faces');
        self::assertSame(1, $a->document()['props'][0]['finish']['times']);
        $a->keys('5');
        $a->sees('Up to date');
        $plain = $a->picture();
        self::assertNotSame($hangs, $plain, 'rounded, without another bake');
        $a->sees('Stretch of Sheet');
        $a->sees('drawn most');
        $a->ticks('Show it in the picture');
        $drawn = $a->picture();
        self::assertNotSame($plain, $drawn, 'by colour');
        $a->sees('Pressure in Sheet');
        $a->ticks('Show that in the picture');
        self::assertNotSame($drawn, $a->picture(), 'the pressure, which is the same all over');
        $a->sees('0.5 Pa');
        $a->until(static fn (): bool => preg_match('/energy\\s+[1-9]/', $a->text()) === 1, 'it swings, in the docket');
        $this->assertNoErrors();
    }

    public function test_corners_and_edges_are_held_by_pressing_on_them(): void
    {
        $a = $this->artist;
        $a->opensShot([
            Setting::box('sheet', [
                'source' => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => 1, 'height' => 1, 'thickness' => 0, 'segments' => 12]],
                'place' => ['position' => [0, 1.5, 0], 'turn' => [-90, 0, 0], 'size' => 1],
            ]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 12],
        ]);
        $a->keys('4');
        $a->presses('Cloth');
        $a->sees('Nothing holds it: it falls.');
        $a->ticks('Pick in the picture');
        foreach ([1, 2] as $k) {
            $a->clicks("[aria-label='Corner $k: free']");
            $a->until(static fn (): bool => (bool) $a->js("return document.querySelector(\"[aria-label='Corner $k: held']\") !== null"), "corner $k to be held");
        }
        $a->sees('Held at 2 corners.');
        $prop = $a->document()['props'][0];
        self::assertSame($prop['weights'][0]['id'], $prop['motion']['values']['hold']);
        [$one, $other] = $prop['weights'][0]['sources'][0]['values']['corners'];
        self::assertEqualsWithDelta([1.0, 0.5, 0.5], [hypot($one[0] - $other[0], $one[1] - $other[1]), abs($one[0]), abs($one[1] - 0.5)], 1e-6, 'two corners of one edge');
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::HOME);
        $flat = $a->picture();
        $a->keys(WebDriverKeys::END);
        self::assertNotSame($flat, $a->picture(), 'it hangs');
        $a->keys('4', WebDriverKeys::HOME);
        $a->ticks('Pick in the picture');
        // The line itself, a quarter of the way along it, where no mark lies.
        $a->until(static fn (): bool => $a->js('const p=document.querySelector("#picture ~ * path.cursor-pointer, path.cursor-pointer");if(!p)return false;const q=p.getPointAtLength(p.getTotalLength()/4),m=p.getScreenCTM(),e=document.elementFromPoint(q.x+m.e,q.y+m.f);if(e!==p)return false;e.dispatchEvent(new PointerEvent("pointerdown",{bubbles:true}));return true') === true, 'the line of an edge');
        $a->sees('Held at 2 corners and 1 edge.');
        self::assertCount(1, $a->document()['props'][0]['weights'][0]['sources'][0]['values']['edges']);
        $a->presses('Let go');
        $a->sees('Nothing holds it: it falls.');
        self::assertNull($a->document()['props'][0]['weights'][0]['sources'][0]['values']['edges']);
        $this->assertNoErrors();
    }

    public function test_a_frame_is_kept_and_a_prop_goes_over_into_it_along_a_front(): void
    {
        $a = $this->artist;
        $front = static fn (mixed $at): array => ['source' => 'front', 'values' => ['point' => [$at, 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.2], 'operation' => 'add', 'amount' => 1, 'on' => 'own'];
        $a->opensShot([
            Setting::box('sheet', [
                'source' => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => 1, 'height' => 1, 'thickness' => 0, 'segments' => 12]],
                'place' => ['position' => [0, 1.5, 0], 'turn' => [-90, 0, 0], 'size' => 1],
                'motion' => ['kind' => 'cloth', 'values' => ['fabric' => 'silk', 'hold' => 'edge'], 'release' => ['on' => 'frame', 'frame' => 0]],
                'weights' => [
                    ['id' => 'over', 'name' => 'Over', 'sources' => [$front(['keys' => [['frame' => 0, 'value' => -0.8], ['frame' => 10, 'value' => 0.8]]])]],
                    ['id' => 'edge', 'name' => 'Edge', 'sources' => [$front(-0.45)]],
                ],
            ]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 12],
        ]);
        $a->keys('5', 'b');
        $a->sees('Up to date');
        $a->keys(WebDriverKeys::END);
        $a->presses('Keep Sheet at frame 12');
        $a->until(static fn (): bool => count($a->document()['props']) === 2, 'the cast to be there');
        $cast = $a->document()['props'][1];
        self::assertSame(['Sheet at 12', 'mesh', true, 'fixed'], [$cast['name'], $cast['source']['kind'], $cast['source']['kept'], $cast['motion']['kind']]);
        // It stands where the sheet hangs; out of sight the sheet alone is to be seen.
        $a->clicks('[aria-label="Hide Sheet at 12"]');
        $a->clicks('ul[aria-label="Props"] li:first-child button');
        $a->keys('4');
        $a->presses('Fixed');
        $a->keys('3');
        $a->chooses('Blends into', $cast['id']);
        $a->until(static fn (): bool => ($a->document()['props'][0]['blend'] ?? null) === ['map' => 'over', 'to' => [$cast['id']]], 'the blend to be kept');
        $a->keys('4', WebDriverKeys::HOME);
        $flat = $a->picture();
        $a->keys(WebDriverKeys::END);
        $hung = $a->picture();
        self::assertNotSame($flat, $hung, 'it hangs, without a bake');
        for ($k = 0; $k < 6; $k++) {
            $a->keys(WebDriverKeys::ARROW_LEFT);
        }
        self::assertNotContains($a->picture(), [$flat, $hung], 'half of it');
        $this->assertNoErrors();
    }
}
