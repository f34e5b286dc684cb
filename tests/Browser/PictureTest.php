<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverKeys;

/** What the picture shows, whatever the size of what is in it. */
final class PictureTest extends BrowserTestCase
{
    private const MAGENTA = ['name' => 'plaster', 'colour' => '#ff00ff', 'inner' => '#ff00ff', 'density' => 1000, 'friction' => 0.6, 'bounce' => 0.1];

    protected function tearDown(): void
    {
        $this->artist->js('localStorage.setItem("picture", "plain")');
    }

    public function test_a_shot_looks_and_handles_alike_at_any_size(): void
    {
        $a = $this->artist;
        $seen = [];
        foreach ([1.0, 0.01, 100.0] as $k) {
            $a->opens('/');
            // With all its light and grain.
            $a->js('localStorage.setItem("picture", "fine")');
            $a->opensShot([
                Setting::box('block', ['source' => self::boxOf(2.4 * $k, 2.0 * $k, 1.6 * $k), 'place' => ['position' => [0.8 * $k, 1.2 * $k, 0], 'turn' => [10, 30, 0], 'size' => 1], 'break' => Setting::cells(12)]),
                Setting::box('slab', ['source' => self::boxOf(6.0 * $k, 0.2 * $k, 6.0 * $k), 'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1]]),
            ]);
            $a->until(static fn (): bool => $a->js('return document.getElementById("picture").dataset.pieces') === '13');
            $a->presses('Surface');
            $pictures = [$this->pixels()];
            $a->keys(WebDriverKeys::ALT, WebDriverKeys::ARROW_LEFT, WebDriverKeys::ARROW_UP, WebDriverKeys::PAGE_UP, WebDriverKeys::NULL);
            $pictures[] = $this->pixels();
            $a->drags([[0, 0]]);
            $a->sees('shard-');
            preg_match('/shard-\d+(?=, )/', $a->text(), $picked);
            $seen[] = [$pictures, $picked[0] ?? 'none', (string) $a->js('return document.querySelector("[data-scale]").textContent')];
        }
        self::assertGreaterThan(0.2, self::unlike($seen[0][0][0], $seen[0][0][1]), 'the view was turned');
        foreach ([1, 2] as $other) {
            foreach ([0, 1] as $view) {
                self::assertLessThan(0.01, self::unlike($seen[0][0][$view], $seen[$other][0][$view]));
            }
            self::assertSame($seen[0][1], $seen[$other][1], 'the same piece is picked');
        }
        self::assertSame(['1 m', '1 cm', '100 m'], array_column($seen, 2));
        $this->assertNoErrors();
    }

    public function test_what_is_worked_on_fills_the_free_part_of_the_picture(): void
    {
        foreach ([[0.4, 0.4, 0.4], [2.0, 1.0, 0.1], [0.1, 1.5, 0.1], [12.0, 8.0, 0.5]] as $size) {
            $this->artist->opensShot([Setting::box('block', ['source' => self::boxOf(...$size), 'material' => self::MAGENTA]), Setting::box('post', ['place' => ['position' => [3, 0, -2], 'turn' => [0, 0, 0], 'size' => 1]])]);
            $this->artist->keys('1');
            $this->artist->presses('Off');
            $this->assertFills();
            // After turning and coming closer, F puts it back.
            $this->artist->keys(WebDriverKeys::ALT, WebDriverKeys::ARROW_LEFT, WebDriverKeys::ARROW_LEFT, WebDriverKeys::PAGE_UP, WebDriverKeys::PAGE_UP, WebDriverKeys::NULL);
            $this->artist->keys('f');
            $this->assertFills();
        }
    }

    public function test_a_bolt_beside_a_wall_can_be_worked_on_as_well_as_the_wall(): void
    {
        $a = $this->artist;
        $a->opensShot([
            Setting::box('bolt', ['source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.005, 'detail' => 12]], 'material' => self::MAGENTA, 'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1]]),
            Setting::box('wall', ['source' => self::boxOf(40, 6, 0.3), 'place' => ['position' => [0, 0, -1], 'turn' => [0, 0, 0], 'size' => 1]]),
        ]);
        $a->keys('1');
        $a->presses('Off');
        $a->keys('f');
        $box = $this->assertFills();
        // A ball's outline fills π/4 of the box round it: nothing of it is cut away, nor shines through.
        self::assertEqualsWithDelta(M_PI / 4, $box['pixels'] / ($box['width'] * $box['height']), 0.04);
        self::assertStringContainsString('mm', (string) $a->js('return document.querySelector("[data-scale]").textContent'));
        $first = $a->picture();
        $a->keys(WebDriverKeys::ALT, WebDriverKeys::ARROW_LEFT, WebDriverKeys::ARROW_RIGHT, WebDriverKeys::NULL);
        self::assertLessThan(0.002, self::unlike($this->pixels(), $this->pixels()), 'nothing flickers');
        self::assertNotSame('', $first);
        $a->presses("Wall\nfixed");
        $a->keys('f');
        usleep(600_000);
        self::assertStringNotContainsString('mm', (string) $a->js('return document.querySelector("[data-scale]").textContent'));
        // The grey wall has taken the place of sky and ground in the middle.
        $a->drags([[0, 0]]);
        $a->until(static fn (): bool => $a->js('return document.querySelector("[aria-label=Props] [aria-pressed=true]").textContent') === 'Wallfixed');
    }

    /** The ground is chosen on the shot's bench, drawn as the core has it, and what falls comes to rest on it. */
    public function test_rough_ground_is_chosen_and_seen(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['source' => self::boxOf(0.3, 0.3, 0.3), 'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 30]]);
        $a->keys('0');
        $a->sees('Gravity, ground and pace');
        $a->chooses('Ground', 'rough');
        $a->sees('Uneven by chance');
        $a->chooses('Ground', 'flat');
        $a->sees('A plane at height 0');
        $flat = $a->picture();
        $a->chooses('Ground', 'rough');
        $a->sees('Uneven by chance');
        $a->types('Height', '0.3');
        $a->until(static fn (): bool => ($a->document()['world']['ground']['values']['height'] ?? null) === 0.3);
        $rough = $a->picture();
        self::assertNotSame($flat, $rough);
        $a->types('Seed', '8');
        $a->until(static fn (): bool => $a->document()['world']['ground']['values']['seed'] === 8);
        self::assertNotSame($rough, $a->picture());
        // As steep as a wall it is not taken, and what was is still there.
        $a->types('Height', '9');
        $a->sees('as steep as a wall');
        $a->until(static fn (): bool => $a->document()['world']['ground']['values']['height'] === 0.3);
        $a->chooses('Ground', 'flat');
        $a->showsAgain($flat);
        $this->assertNoErrors();
    }

    public function test_the_whole_way_of_a_bake_is_in_the_picture(): void
    {
        $a = $this->artist;
        $a->opensShot([
            Setting::box('block', ['source' => self::boxOf(0.3, 0.3, 0.3), 'material' => self::MAGENTA, 'place' => ['position' => [0, 2.5, 0], 'turn' => [0, 0, 20], 'size' => 1], 'break' => Setting::cells(10), 'motion' => ['values' => ['held' => 'whole', 'velocity' => [2, 0, 0]]] + Setting::falling()]),
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 36],
        ]);
        $a->keys('5');
        $a->keys('b');
        $a->sees('Save GLB');
        foreach ([WebDriverKeys::HOME, WebDriverKeys::END] as $key) {
            $a->keys($key);
            $a->presses('Surface');
            $box = $this->magenta();
            $free = $this->free();
            self::assertGreaterThan(0, $box['pixels']);
            self::assertGreaterThanOrEqual($free['top'], $box['top']);
            self::assertLessThanOrEqual($free['bottom'], $box['top'] + $box['height']);
            self::assertGreaterThanOrEqual(0, $box['left']);
            self::assertLessThanOrEqual($free['width'], $box['left'] + $box['width']);
        }
    }

    public function test_arrows_to_move_by_show_only_where_placing_is_the_work(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['break' => ['pattern' => 'strike', 'values' => ['point' => [0, 0.3, 0.3]]]])]);
        $a->sees('shards');
        $a->presses('Surface');
        $arrows = fn (): int => count(array_filter($this->pixels(), static fn (int $c): bool => self::near($c, 0x1F7A5C, 12)));
        self::assertLessThan(5, $arrows());
        $a->keys('4');
        self::assertGreaterThan(20, $arrows());
        $a->keys('5');
        self::assertLessThan(5, $arrows());
        // The hit point is a mark that is dragged over the prop itself.
        $a->keys('2');
        $before = $a->document()['props'][0]['break']['values']['point'];
        $a->dragsOn('[aria-label="Move the hit point"]', [0, 0], [40, -25]);
        $a->until(fn (): bool => $a->document()['props'][0]['break']['values']['point'] !== $before);
        [$x, $y, $z] = $a->document()['props'][0]['break']['values']['point'];
        // Still on one of the sides that are seen.
        self::assertEqualsWithDelta(0.3, max(abs($x), abs($z), $y - 0.3), 0.003);
        $a->js('document.querySelector("[aria-label=\'Move the hit point\']").focus()');
        $a->browser->getKeyboard()->sendKeys(WebDriverKeys::ARROW_LEFT);
        $a->until(fn (): bool => $a->document()['props'][0]['break']['values']['point'] !== [$x, $y, $z]);
    }

    public function test_the_playheads_flag_says_its_frame_and_a_folded_cue_sheet_is_one_line(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block')]);
        $a->keys(WebDriverKeys::ARROW_RIGHT, WebDriverKeys::ARROW_RIGHT);
        // No two labels of the ruler overlap, whatever the frame.
        for ($k = 0; $k < 6; $k++) {
            $a->keys(WebDriverKeys::ARROW_RIGHT);
            $boxes = (array) $a->js('return [...document.querySelectorAll("svg[aria-label=Playhead] text")].map((t) => { const r = t.getBoundingClientRect(); return [r.left, r.right, t.textContent]; })');
            self::assertContains((string) (3 + $k), array_column($boxes, 2));
            usort($boxes, static fn (array $p, array $q): int => $p[0] <=> $q[0]);
            for ($i = 1; $i < count($boxes); $i++) {
                self::assertGreaterThan($boxes[$i - 1][1], $boxes[$i][0]);
            }
        }
        $a->presses('Cues');
        $a->until(static fn (): bool => (int) $a->js('return document.querySelector("[aria-label=\"Cue sheet\"]").getBoundingClientRect().height') <= 34);
        $a->until(static fn (): bool => $a->js('return document.querySelectorAll("[aria-label=Lanes]").length') === 0);
        $a->presses('Cues ▸');
        $a->until(static fn (): bool => $a->js('return document.querySelectorAll("[aria-label=Lanes]").length') === 1);
    }

    /** @return array{kind: string, shape: string, values: array<string, float>} */
    private static function boxOf(float $width, float $height, float $depth): array
    {
        return ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => $width, 'height' => $height, 'depth' => $depth]];
    }

    /** @return array{left: int, top: int, width: int, height: int, pixels: int} */
    private function assertFills(): array
    {
        $box = $this->magenta();
        $free = $this->free();
        $fill = max($box['width'] / $free['width'], $box['height'] / ($free['bottom'] - $free['top']));
        self::assertGreaterThan(0.55, $fill);
        self::assertLessThan(0.85, $fill);
        self::assertGreaterThanOrEqual($free['top'], $box['top']);
        self::assertLessThanOrEqual($free['bottom'], $box['top'] + $box['height']);

        return $box;
    }

    /** @return array{width: float, top: float, bottom: float} what strip and buttons leave of the picture, in its pixels */
    private function free(): array
    {
        return (array) $this->artist->js('const p=document.getElementById("picture").getBoundingClientRect(),r=(s)=>document.querySelector(s).getBoundingClientRect();return {width:p.width,top:r("[data-over=top]").bottom-p.top,bottom:r("[data-over=bottom]").top-p.top}');
    }

    /** @return array{left: int, top: int, width: int, height: int, pixels: int} where the picture is magenta */
    private function magenta(): array
    {
        $pixels = $this->pixels();
        $size = (array) $this->artist->js('const c=document.querySelector("#picture canvas");return [c.width,c.height,c.clientWidth/c.width]');
        [$left, $right, $top, $bottom, $n] = [PHP_INT_MAX, -1, PHP_INT_MAX, -1, 0];
        foreach ($pixels as $i => $c) {
            if (min(($c >> 16) & 255, $c & 255) > 1.6 * (($c >> 8) & 255) + 20) {
                $x = $i % $size[0];
                $y = intdiv($i, $size[0]);
                [$left, $right, $top, $bottom, $n] = [min($left, $x), max($right, $x), min($top, $y), max($bottom, $y), $n + 1];
            }
        }
        $k = $size[2];

        return ['left' => (int) ($left * $k), 'top' => (int) ($top * $k), 'width' => (int) (($right - $left + 1) * $k), 'height' => (int) (($bottom - $top + 1) * $k), 'pixels' => (int) ($n * $k * $k)];
    }

    /** @return list<int> the picture, row by row, as 0xRRGGBB */
    private function pixels(): array
    {
        usleep(400_000);
        // Asked for within a frame, after everything that frame draws.
        $url = (string) $this->artist->browser->executeAsyncScript('const done = arguments[0]; requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(() => done(document.querySelector("#picture canvas").toDataURL()))))');
        $image = imagecreatefromstring((string) base64_decode(substr($url, 22))) ?: self::fail('The picture is no PNG.');
        $out = [];
        for ($y = 0, $h = imagesy($image), $w = imagesx($image); $y < $h; $y++) {
            for ($x = 0; $x < $w; $x++) {
                $out[] = imagecolorat($image, $x, $y) & 0xFFFFFF;
            }
        }

        return $out;
    }

    /**
     * @param  list<int>  $one
     * @param  list<int>  $other
     * @return float share of pixels that differ by more than 8 of 255
     */
    private static function unlike(array $one, array $other): float
    {
        self::assertCount(count($one), $other);
        $n = 0;
        foreach ($one as $i => $c) {
            $n += self::near($c, $other[$i], 8) ? 0 : 1;
        }

        return $n / count($one);
    }

    private static function near(int $one, int $other, int $by): bool
    {
        return abs(($one >> 16 & 255) - ($other >> 16 & 255)) <= $by && abs(($one >> 8 & 255) - ($other >> 8 & 255)) <= $by && abs(($one & 255) - ($other & 255)) <= $by;
    }
}
