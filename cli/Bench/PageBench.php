<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use Tests\Browser\Artist;
use Tests\Browser\Setting;
use Tests\Browser\StartedYard;
use YardBreak\Core\Problem;

/**
 * What somebody at the screen waits for, in a browser without a graphics card: a new break, the first frame of a
 * bake, the script time of a frame while scrubbing and while painting, and a weight map made and dragged. Beside it the
 * same browser's time for a bare request, as a measure of the machine.
 */
final class PageBench implements Benchmark
{
    public function rows(array $settings): array
    {
        if (! class_exists(StartedYard::class)) {
            throw new Problem('bench', 'The browser tools are not installed.', '', 'Run bin/test once; it installs them.');
        }
        $yard = new StartedYard;
        try {
            $artist = new Artist($yard);
            $artist->opens('/');
            $rows = [$this->firstLoad()];
            $rows[] = $this->preview($artist);
            $rows[] = $this->firstFrame($artist);
            $rows[] = $this->scrubbing($artist, (int) ($settings['pieces'] ?? 1000));
            $rows[] = $this->dragging($artist);
            array_push($rows, ...$this->maps($artist));
            $rows[] = $this->painting($artist);
        } finally {
            $yard->stop();
        }

        return $rows;
    }

    /** @return array<string, int|float|string|bool> */
    private function firstLoad(): array
    {
        $root = dirname(__DIR__, 2).'/public/build/';
        $manifest = json_decode((string) file_get_contents($root.'manifest.json'), true);
        $files = [];
        $take = function (string $name) use (&$take, &$files, $manifest): void {
            $chunk = $manifest[$name];
            if (isset($files[$chunk['file']])) {
                return;
            }
            $files[$chunk['file']] = true;
            foreach ($chunk['css'] ?? [] as $css) {
                $files[$css] = true;
            }
            foreach ($chunk['imports'] ?? [] as $import) {
                $take($import);
            }
        };
        foreach ($manifest as $name => $chunk) {
            if ($chunk['isEntry'] ?? false) {
                $take($name);
            }
        }
        $bytes = array_sum(array_map(static fn (string $f): int => strlen((string) gzencode((string) file_get_contents($root.$f), 9)), array_keys($files)));

        return ['case' => 'first load before the picture, gzip kB', 'value' => round($bytes / 1000), 'promised' => 500];
    }

    /** @return array<string, int|float|string|bool> from Enter to the new shards drawn; median of five */
    private function preview(Artist $artist): array
    {
        $artist->opensShot([Setting::box('block', ['break' => Setting::cells(100)])]);
        $artist->sees('100 shards');
        $times = [];
        for ($i = 1; $i <= 5; $i++) {
            $artist->js(<<<'JS'
                window.waited = null;
                const words = arguments[0];
                addEventListener('keydown', function wait(e) {
                    if (e.key !== 'Enter') return;
                    removeEventListener('keydown', wait, true);
                    const begun = performance.now();
                    const look = () => {
                        if (document.body.innerText.includes(words)) requestAnimationFrame(() => (window.waited = performance.now() - begun));
                        else requestAnimationFrame(look);
                    };
                    look();
                }, true);
                JS, (100 + $i).' shards');
            $artist->types('Pieces', (string) (100 + $i));
            $artist->until(static fn (): bool => $artist->js('return window.waited') !== null);
            $times[] = (float) $artist->js('return window.waited') / 1000;
        }

        return ['case' => 'new count to new shards at 100 pieces, s', 'value' => round(self::median($times), 3), 'promised' => 0.5, 'bare_request_s' => $this->bareRequest($artist)];
    }

    /** @return array<string, int|float|string|bool> from pressing B to a baked frame drawn */
    private function firstFrame(Artist $artist): array
    {
        $artist->opensShot([Setting::box('block', ['break' => Setting::cells(200), 'place' => ['position' => [0, 1, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => Setting::falling()])]);
        $artist->sees('200 shards');
        $artist->js(<<<'JS'
            window.waited = null;
            addEventListener('keydown', (e) => {
                if (e.key !== 'b') return;
                const begun = performance.now();
                const look = () => {
                    if (Number(document.getElementById('picture').dataset.bakedFrames) > 0) window.waited = performance.now() - begun;
                    else requestAnimationFrame(look);
                };
                look();
            }, { capture: true });
            JS);
        $artist->keys('5', 'b');
        $artist->until(static fn (): bool => $artist->js('return window.waited') !== null);

        return ['case' => 'Bake pressed to first frame drawn at 200 pieces, s', 'value' => round((float) $artist->js('return window.waited') / 1000, 3), 'promised' => 1.5, 'bare_request_s' => $this->bareRequest($artist)];
    }

    /** @return array<string, int|float|string|bool> median over 30 frames of a bake with all pieces on the move */
    private function scrubbing(Artist $artist, int $pieces): array
    {
        $artist->opensShot([Setting::box('block', ['break' => Setting::cells($pieces), 'motion' => ['kind' => 'free', 'values' => ['held' => 'still'], 'release' => ['on' => 'frame', 'frame' => 0]]]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 32], ['op' => 'replace', 'path' => '/quality', 'value' => 'fast']]);
        $artist->sees($pieces.' shards');
        $artist->keys('5', 'b');
        $artist->sees('Up to date');
        $artist->keys(WebDriverKeys::HOME);
        $artist->until(static fn (): bool => $artist->frameDrawn() === 0);
        $times = [];
        for ($frame = 1; $frame <= 30; $frame++) {
            $artist->keys(WebDriverKeys::ARROW_RIGHT);
            $artist->until(static fn (): bool => $artist->frameDrawn() === $frame);
            $times[] = (float) $artist->js('return document.getElementById("picture").dataset.drawMs');
        }

        return ['case' => 'script time of a frame at '.$pieces.' pieces, ms', 'value' => round(self::median($times), 2), 'promised' => 2.0, 'bare_request_s' => $this->bareRequest($artist)];
    }

    /** @return array<string, int|float|string|bool> script time of a move of the pointer with all keys picked; the best of some tries, for another program may have the core for a while */
    private function dragging(Artist $artist): array
    {
        $artist->opensShot(Setting::manyKeys());
        $artist->keys('4');
        $artist->sees('position');
        $artist->keys(WebDriverKeys::CONTROL, 'a', WebDriverKeys::NULL);
        $artist->sees('2000 picked');
        $tools = new ChromeDevToolsDriver($artist->browser);
        $tools->execute('Performance.enable');
        $spent = static function () use ($tools): float {
            $found = array_column((array) ($tools->execute('Performance.getMetrics')['metrics'] ?? []), 'value', 'name');

            return (float) ($found['ScriptDuration'] ?? 0.0);
        };
        $moves = 20;
        $each = INF;
        for ($try = 0; $try < 4; $try++) {
            $before = $spent();
            $artist->browser->executeAsyncScript(<<<'JS'
                const [moves, begun, done] = arguments;
                const key = document.querySelector('[aria-label="Position of One, key at frame 100"]');
                const at = key.getBoundingClientRect();
                if (!begun) key.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, clientX: 300, clientY: at.y }));
                let k = 0;
                const step = () => {
                    window.dispatchEvent(new PointerEvent('pointermove', { clientX: 300 + ++k, clientY: at.y }));
                    if (k < moves) requestAnimationFrame(step);
                    else done();
                };
                requestAnimationFrame(step);
                JS, [$moves, $try > 0]);
            $each = min($each, 1000.0 * ($spent() - $before) / $moves);
        }
        $artist->js('window.dispatchEvent(new PointerEvent("pointerup", { clientX: 0, clientY: 0 }))');

        return ['case' => 'script time of a move of 2,000 keys, ms', 'value' => round($each, 1), 'promised' => 16.0, 'bare_request_s' => $this->bareRequest($artist)];
    }

    /** @return list<array<string, int|float|string|bool>> from a map that was changed to its coverage at the playhead, and from a drag of a distance to the map it makes */
    private function maps(Artist $artist): array
    {
        $near = ['source' => 'proximity', 'values' => ['to' => 'passer', 'full' => 0.05, 'none' => 0.4]];
        $passer = Setting::box('passer', ['source' => ['kind' => 'shape', 'shape' => 'ring', 'values' => ['radius' => 0.3, 'tube' => 0.1, 'segments' => 64, 'rows' => 24]], 'place' => ['position' => [['keys' => [['frame' => 0, 'value' => -0.5], ['frame' => 90, 'value' => 0.5]]], 0.5, 0], 'turn' => [0, 0, 0], 'size' => 1], 'motion' => ['kind' => 'keyed']]);
        $first = $dragged = [];
        foreach ([self::TEN_THOUSAND, self::TWENTY_THOUSAND] as $detail) {
            $artist->opensShot([self::ball($detail, [$near]), $passer]);
            $artist->keys('3');
            $artist->until(static fn (): bool => $artist->js('return document.querySelector("[data-coverage]")') !== null);
            $artist->js(self::COVERAGE);
            if ($detail === self::TEN_THOUSAND) {
                for ($k = 0; $k < 5; $k++) {
                    $artist->until(static fn (): bool => ! str_contains($artist->text(), 'Working out'));
                    $artist->js('covered("keydown", (e) => e.key === "ArrowRight")');
                    $artist->browser->findElement(WebDriverBy::cssSelector('[role=slider][aria-label^="None beyond"]'))->sendKeys(WebDriverKeys::ARROW_RIGHT);
                    $artist->until(static fn (): bool => $artist->js('return window.waited') !== null);
                    $first[] = (float) $artist->js('return window.waited') / 1000;
                }

                continue;
            }
            $artist->until(static fn (): bool => ! str_contains($artist->text(), 'Working out'));
            $grip = $artist->browser->findElement(WebDriverBy::cssSelector('[role=slider][aria-label^="None beyond"]'));
            $artist->browser->action()->clickAndHold($grip)->perform();
            for ($k = 0; $k < 9; $k++) {
                $artist->js('covered("pointermove", () => true)');
                $artist->browser->action()->moveByOffset(3, 0)->perform();
                $artist->until(static fn (): bool => $artist->js('return window.waited') !== null);
                $dragged[] = (float) $artist->js('return window.waited');
            }
            $artist->browser->action()->release()->perform();
        }

        return [
            ['case' => 'a map changed to its coverage at the playhead, 10,000 points, s', 'value' => round(self::median($first), 3), 'promised' => 0.3, 'bare_request_s' => $this->bareRequest($artist)],
            ['case' => 'a distance dragged to the new map, 20,000 points, ms', 'value' => round(self::median($dragged), 1), 'promised' => 100.0, 'bare_request_s' => $this->bareRequest($artist)],
        ];
    }

    /** @return array<string, int|float|string|bool> script time of a move of the brush and of the frame it makes; median of 60 */
    private function painting(Artist $artist): array
    {
        $artist->opensShot([self::ball(self::FIFTY_THOUSAND, [['source' => 'brush', 'values' => ['strokes' => []]]])]);
        $artist->keys('3');
        $artist->until(static fn (): bool => $artist->js('return document.querySelector("[data-coverage]")') !== null);
        // A line drawn by hand shows that the mesh is there to be painted.
        $artist->until(static function () use ($artist): bool {
            $artist->drags([[-40, 0], [0, 0], [40, 0]]);
            usleep(300_000);

            return preg_match('/[1-9]\d* strokes?\b/', $artist->text()) === 1;
        });
        $took = $artist->browser->executeAsyncScript(<<<'JS'
            const done = arguments[0];
            const canvas = document.querySelector('#picture canvas');
            const box = canvas.getBoundingClientRect();
            const at = (k) => ({ bubbles: true, cancelable: true, button: 0, buttons: 1, clientX: box.left + box.width / 2 + 60 * Math.cos(k / 4), clientY: box.top + box.height / 2 + 60 * Math.sin(k / 4) });
            const times = [];
            canvas.dispatchEvent(new PointerEvent('pointerdown', at(0)));
            let k = 1;
            const move = () => {
                const begun = performance.now();
                window.dispatchEvent(new PointerEvent('pointermove', at(k)));
                const script = performance.now() - begun;
                requestAnimationFrame(() => requestAnimationFrame(() => {
                    times.push(script + Number(document.getElementById('picture').dataset.drawMs));
                    if (++k <= 60) return move();
                    window.dispatchEvent(new PointerEvent('pointerup', at(k)));
                    done(times);
                }));
            };
            move();
            JS);
        $artist->until(static fn (): bool => count($artist->document()['props'][0]['weights'][0]['sources'][0]['values']['strokes'][1]['dabs'] ?? []) > 10);

        return ['case' => 'a move of the brush on 50,000 points, script, ms', 'value' => round(self::median($took), 2), 'slowest' => round(max($took), 2), 'promised' => 16.7, 'bare_request_s' => $this->bareRequest($artist)];
    }

    /** Divisions of balls of about so many points. */
    private const TEN_THOUSAND = 32;

    private const TWENTY_THOUSAND = 45;

    private const FIFTY_THOUSAND = 71;

    /** Leaves in `waited` the milliseconds from an event to other weights told of, drawn. */
    private const COVERAGE = <<<'JS'
        window.covered = (event, counts) => {
            window.waited = null;
            const told = () => {
                const facts = [...document.querySelectorAll('section')].find((s) => s.textContent.startsWith('At frame'));
                return (facts?.querySelector('header').textContent ?? '') + (facts?.querySelector('p.figure')?.textContent ?? '');
            };
            const before = told();
            addEventListener(event, function begin(e) {
                if (!counts(e)) return;
                removeEventListener(event, begin, true);
                const begun = performance.now();
                const look = () => {
                    const now = told();
                    if (now.includes('mean') && now !== before) requestAnimationFrame(() => (window.waited = performance.now() - begun));
                    else requestAnimationFrame(look);
                };
                look();
            }, true);
        };
        JS;

    /**
     * @param  list<array<string, mixed>>  $sources
     * @return array{op: string, path: string, value: mixed}
     */
    private static function ball(int $detail, array $sources): array
    {
        return Setting::box('ball', ['source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.5, 'detail' => $detail]], 'weights' => [['id' => 'map', 'name' => 'Map', 'sources' => $sources]]]);
    }

    private function bareRequest(Artist $artist): float
    {
        return round((float) $artist->browser->executeAsyncScript('const done=arguments[0],b=performance.now();fetch("/up").then(r=>r.text()).then(()=>done(performance.now()-b))') / 1000, 3);
    }

    /** @param  non-empty-list<float>  $values */
    private static function median(array $values): float
    {
        sort($values);

        return $values[intdiv(count($values), 2)];
    }
}
