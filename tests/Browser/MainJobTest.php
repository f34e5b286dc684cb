<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use YardBreak\Core\Tests\References\OutsideTools;

final class MainJobTest extends BrowserTestCase
{
    public function test_from_an_empty_yard_to_a_validated_file(): void
    {
        $a = $this->artist;
        $a->emptiesTheYard();
        $a->opens('/');
        $a->sees('The yard is empty');
        $a->sees('Open the demo: Terracotta jar');
        $a->presses('Open the demo: Terracotta jar');
        $a->sees('400 shards');
        $a->waitsForPicture();
        $unbroken = $a->picture();

        // Fewer pieces, another seed: the shards change.
        $a->types('Pieces', '60');
        $a->sees('60 shards');
        $a->types('Seed', '8');
        $a->sees('60/60');
        self::assertNotSame($unbroken, $a->picture());
        $before = $a->picture();
        $a->types('Spread apart', '60');
        $a->until(static fn (): bool => $a->picture() !== $before);
        $a->types('Spread apart', '0');

        // Bake, and watch frames come while it runs.
        $a->keys('b', '5');
        $a->until(static fn (): bool => (int) $a->js('return document.getElementById("picture").dataset.bakedFrames') > 0);
        $a->sees('Up to date');
        $a->sees('touches Flags');
        $first = $a->picture();
        $a->keys(WebDriverKeys::END);
        $a->until(static fn (): bool => $a->frameDrawn() === 72);
        self::assertNotSame($first, $a->picture(), 'the jar lies in pieces at the end');

        // Playing runs in real time: 24 frames a second, however slowly they are drawn. What counts is when a frame comes to be shown.
        $a->keys(WebDriverKeys::HOME, WebDriverKeys::SPACE);
        $shown = $a->browser->executeAsyncScript(<<<'JS'
            const done = arguments[0], at = document.querySelector('[data-frame]'), shown = [];
            const watch = new MutationObserver(() => shown.push([Number(at.dataset.frame), performance.now() / 1000]));
            watch.observe(at, { attributes: true, attributeFilter: ['data-frame'] });
            setTimeout(() => { watch.disconnect(); done(shown); }, 6000);
            JS);
        $a->keys(WebDriverKeys::SPACE);
        $this->assertRealTime($shown);

        // Hand off, and let the Khronos validator judge.
        $a->keys('6');
        $a->presses('Write GLB, animated');
        $a->sees('terracotta-jar.glb');
        $a->browser->findElement(WebDriverBy::linkText('Save'))->click();
        $file = $a->yard->downloads.'/terracotta-jar.glb';
        $a->until(static fn (): bool => is_file($file));
        $report = OutsideTools::node('validate.mjs', $file);
        self::assertSame(0, $report['errors'], json_encode($report) ?: '');
        self::assertSame(61, $report['nodes']);
        self::assertSame(1, $report['animations']);
        $this->assertNoErrors();
    }

    public function test_a_second_window_keeps_both_changes(): void
    {
        $a = $this->artist;
        $a->opens('/');
        $a->presses('New shot');
        $a->sees('Add a prop');
        $a->presses('Box');
        $a->sees('Built here');
        $address = $a->browser->getCurrentURL();
        $one = $a->browser->getWindowHandle();
        $a->browser->switchTo()->newWindow('tab');
        $a->browser->get($address);
        $a->sees('Break Box');
        $a->keys('1');
        $a->sees('Built here');
        $a->types('Width', '0.5');
        $a->sees('saved');
        $a->sees('0.5 × 1 × 1 m');
        $a->browser->close();
        $a->browser->switchTo()->window($one);
        $a->types('Height', '0.25');
        $a->sees('0.5 × 0.25 × 1 m');
        self::assertSame([0.5, 0.25], [$a->document()['props'][0]['source']['values']['width'], $a->document()['props'][0]['source']['values']['height']]);
    }

    /**
     * Every run from the first frame to the last is as long as it says.
     *
     * @param  list<array{int, float}>  $shown  frame, and the second at which it came to be shown, over more than one run
     */
    private function assertRealTime(array $shown): void
    {
        $longest = [];
        $run = [];
        foreach ($shown as $k => $next) {
            $run = $k > 0 && $next[0] > $shown[$k - 1][0] ? [...$run, $next] : [$next];
            $longest = count($run) > 1 && $next[0] - $run[0][0] > ($longest === [] ? 0 : end($longest)[0] - $longest[0][0]) ? $run : $longest;
        }
        self::assertNotSame([], $longest, 'frames come while it plays: '.json_encode($shown));
        [$first, $last] = [$longest[0], end($longest)];
        self::assertGreaterThan(20, $last[0] - $first[0], (string) json_encode($shown));
        self::assertEqualsWithDelta(24.0, ($last[0] - $first[0]) / ($last[1] - $first[1]), 6.0, (string) json_encode($shown));
    }
}
