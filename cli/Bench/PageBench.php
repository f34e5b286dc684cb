<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use Facebook\WebDriver\WebDriverKeys;
use Tests\Browser\Artist;
use Tests\Browser\Setting;
use Tests\Browser\StartedYard;
use YardBreak\Core\Problem;

/**
 * What somebody at the screen waits for, in a browser without a graphics card: a new break, the first frame of a
 * bake, and the script time of a frame while scrubbing. Beside it the same browser's time for a bare request, as
 * a measure of the machine.
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
        $artist->until(static fn (): bool => $artist->js('return window.waited') !== null, 30);

        return ['case' => 'Bake pressed to first frame drawn at 200 pieces, s', 'value' => round((float) $artist->js('return window.waited') / 1000, 3), 'promised' => 1.5, 'bare_request_s' => $this->bareRequest($artist)];
    }

    /** @return array<string, int|float|string|bool> median over 30 frames of a bake with all pieces on the move */
    private function scrubbing(Artist $artist, int $pieces): array
    {
        $artist->opensShot([Setting::box('block', ['break' => Setting::cells($pieces), 'motion' => ['kind' => 'free', 'held' => 'still', 'release' => ['on' => 'frame', 'frame' => 0]]]), ['op' => 'replace', 'path' => '/frames/last', 'value' => 32], ['op' => 'replace', 'path' => '/quality', 'value' => 'fast']]);
        $artist->sees($pieces.' shards', 60);
        $artist->keys('5', 'b');
        $artist->sees('Up to date', 300);
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
