<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Exception\WebDriverException;
use Facebook\WebDriver\Remote\LocalFileDetector;
use Facebook\WebDriver\Remote\RemoteWebElement;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Tests\References\OutsideTools;

/** The main job as an artist does it, on the real screens. Asserts on what a person sees. */
final class MainJobTest extends TestCase
{
    private static ?StartedYard $yard = null;

    public static function setUpBeforeClass(): void
    {
        self::$yard = new StartedYard;
    }

    public static function tearDownAfterClass(): void
    {
        self::$yard?->stop();
    }

    public function test_from_an_empty_yard_to_a_validated_file(): void
    {
        $this->open('/');
        $this->see('The yard is empty');
        $this->press('Open the demo: Terracotta jar');
        $this->see('120 shards');
        $this->waitForPicture();
        $unbroken = $this->picture();

        // Fewer pieces, another seed: the shards change.
        $this->type('Pieces', '60');
        $this->see('60 shards');
        $this->type('Seed', '8');
        $this->see('60/60');
        self::assertNotSame($unbroken, $this->picture());
        $before = $this->picture();
        $this->type('Spread apart', '60');
        $this->waitUntil(fn (): bool => $this->picture() !== $before);
        $this->type('Spread apart', '0');

        // Bake, and watch frames come while it runs.
        $this->body()->sendKeys('b');
        $this->body()->sendKeys('5');
        $this->waitUntil(fn (): bool => (int) $this->js('return document.querySelector("[aria-label=Playhead] rect")?.getAttribute("width") > 0 ? 1 : 0') === 1);
        $this->see('Bake again', 60);
        $this->see('touches Flags');
        $first = $this->picture();
        $this->body()->sendKeys(WebDriverKeys::END);
        $this->waitUntil(fn (): bool => $this->js('return document.getElementById("picture").dataset.frameDrawn') === '72');
        self::assertNotSame($first, $this->picture(), 'the jar lies in pieces at the end');

        // Playing runs in real time: 24 frames a second, however slowly they are drawn.
        $this->body()->sendKeys(WebDriverKeys::HOME);
        $this->body()->sendKeys(WebDriverKeys::SPACE);
        $this->waitUntil(fn (): bool => in_array((int) $this->js('return document.querySelector("[data-frame]").dataset.frame'), range(2, 40), true));
        [$frames, $seconds] = $this->browser()->executeAsyncScript('const done=arguments[0],at=()=>[Number(document.querySelector("[data-frame]").dataset.frame),performance.now()/1000],a=at();setTimeout(()=>{const b=at();done([b[0]-a[0],b[1]-a[1]])},1000)');
        $this->body()->sendKeys(WebDriverKeys::SPACE);
        self::assertEqualsWithDelta(24.0, $frames / $seconds, 8.0);

        // Hand off, and let the Khronos validator judge.
        $this->body()->sendKeys('6');
        $this->press('Write GLB, animated');
        $this->see('terracotta-jar.glb', 20);
        $this->browser()->findElement(WebDriverBy::linkText('Save'))->click();
        $file = self::yard()->downloads.'/terracotta-jar.glb';
        StartedYard::until(static fn (): bool => is_file($file), 20);
        $report = OutsideTools::node('validate.mjs', $file);
        self::assertSame(0, $report['errors'], json_encode($report) ?: '');
        self::assertSame(61, $report['nodes']);
        self::assertSame(1, $report['animations']);
        $this->noErrors();
    }

    public function test_a_mesh_of_ones_own_comes_in_breaks_and_edits_undo_after_a_reload(): void
    {
        $this->open('/');
        $this->press('New shot');
        $this->see('Add a prop');
        $obj = tempnam(sys_get_temp_dir(), 'mesh').'.obj';
        file_put_contents($obj, "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0 0 1\nv 1 0 1\nv 1 1 1\nv 0 1 1\nf 4 3 2 1\nf 5 6 7 8\nf 1 2 6 5\nf 3 4 8 7\nf 2 3 7 6\nf 1 5 8 4\n");
        $input = $this->browser()->findElement(WebDriverBy::cssSelector('input[aria-label="Mesh file"]'));
        assert($input instanceof RemoteWebElement);
        $input->setFileDetector(new LocalFileDetector)->sendKeys($obj);
        $this->see('can be broken');
        $this->see('1 × 1 × 1 m');
        $this->body()->sendKeys('2');
        $this->press('Cells');
        $this->see('60 shards');
        $this->browser()->navigate()->refresh();
        $this->see('60 shards');
        $this->browser()->findElement(WebDriverBy::cssSelector('[aria-label=Undo]'))->click();
        $this->waitUntil(fn (): bool => ! str_contains($this->text(), '60 shards'));
        $this->see('stays in one piece');

        // What is out of range is refused in words and changes nothing.
        $this->press('Cells');
        $this->see('60 shards');
        $this->type('Pieces', '0');
        $this->see('Pieces must be between 1 and');
        $this->see('60 shards');
        unlink($obj);
        $this->noErrors();
    }

    public function test_a_file_that_is_no_mesh_is_refused_in_words(): void
    {
        $this->open('/');
        $this->press('New shot');
        $this->see('Add a prop');
        $bad = tempnam(sys_get_temp_dir(), 'mesh').'.stl';
        file_put_contents($bad, str_repeat("\x9c\x01", 300));
        $input = $this->browser()->findElement(WebDriverBy::cssSelector('input[aria-label="Mesh file"]'));
        assert($input instanceof RemoteWebElement);
        $input->setFileDetector(new LocalFileDetector)->sendKeys($bad);
        $this->see('The file is cut off or is no STL');
        unlink($bad);
    }

    public function test_a_second_window_keeps_both_changes(): void
    {
        $this->open('/');
        $this->press('New shot');
        $this->see('Add a prop');
        $this->press('Box');
        $this->see('Built here');
        $address = $this->browser()->getCurrentURL();
        $one = $this->browser()->getWindowHandle();
        $this->browser()->switchTo()->newWindow('tab');
        $this->browser()->get($address);
        $this->see('Break Box');
        $this->body()->sendKeys('1');
        $this->see('Built here');
        $this->type('Width', '0.5');
        $this->see('saved');
        $this->see('0.5 × 1 × 1 m');
        $this->browser()->close();
        $this->browser()->switchTo()->window($one);
        $this->type('Height', '0.25');
        $this->see('0.5 × 0.25 × 1 m');
    }

    private static function yard(): StartedYard
    {
        return self::$yard ?? throw new \LogicException('not started');
    }

    private function browser(): \Facebook\WebDriver\Remote\RemoteWebDriver
    {
        return self::yard()->browser;
    }

    private function open(string $path): void
    {
        $this->browser()->get('http://127.0.0.1:'.StartedYard::PORT.$path);
    }

    private function body(): RemoteWebElement
    {
        $this->js('document.activeElement?.blur?.()');
        $body = $this->browser()->findElement(WebDriverBy::tagName('body'));
        assert($body instanceof RemoteWebElement);

        return $body;
    }

    private function text(): string
    {
        return (string) $this->js('return document.body.innerText');
    }

    private function see(string $words, float $seconds = 15): void
    {
        try {
            StartedYard::until(fn (): bool => str_contains($this->text(), $words), $seconds);
        } catch (\RuntimeException) {
            self::fail('"'.$words.'" is not on the screen: '.mb_substr($this->text(), 0, 1500));
        }
        $this->addToAssertionCount(1);
    }

    private function press(string $words): void
    {
        $this->waitUntil(function () use ($words): bool {
            foreach ($this->browser()->findElements(WebDriverBy::tagName('button')) as $button) {
                try {
                    if (trim($button->getText()) === $words && $button->isEnabled()) {
                        $button->click();

                        return true;
                    }
                } catch (WebDriverException) {
                    // It was drawn anew meanwhile; look again.
                }
            }

            return false;
        });
    }

    private function type(string $label, string $value): void
    {
        $field = $this->browser()->findElement(WebDriverBy::cssSelector('input[aria-label="'.$label.'"]'));
        $field->click();
        $field->sendKeys([WebDriverKeys::CONTROL, 'a']);
        $field->sendKeys([WebDriverKeys::NULL, $value, WebDriverKeys::ENTER]);
    }

    /** @param  \Closure(): bool  $done */
    private function waitUntil(\Closure $done): void
    {
        StartedYard::until($done, 15);
        $this->addToAssertionCount(1);
    }

    private function waitForPicture(): void
    {
        $this->waitUntil(fn (): bool => $this->js('return document.getElementById("picture")?.dataset.frameDrawn') !== null);
        $this->waitUntil(fn (): bool => (int) $this->js('const c=document.querySelector("#picture canvas"),k=document.createElement("canvas");k.width=64;k.height=40;const g=k.getContext("2d");g.drawImage(c,0,0,64,40);return new Set(new Uint32Array(g.getImageData(0,0,64,40).data.buffer)).size') > 50);
    }

    /** A hash of what the stage shows. */
    private function picture(): string
    {
        usleep(400_000);

        return md5((string) $this->js('return document.querySelector("#picture canvas").toDataURL()'));
    }

    private function js(string $script): mixed
    {
        return $this->browser()->executeScript($script);
    }

    /** Nothing has gone wrong behind the screen either. */
    private function noErrors(): void
    {
        $bad = array_filter($this->browser()->manage()->getLog('browser'), static fn (array $l): bool => $l['level'] === 'SEVERE' && ! str_contains($l['message'], '422') && ! str_contains($l['message'], '404'));
        self::assertSame([], array_column($bad, 'message'));
    }
}
