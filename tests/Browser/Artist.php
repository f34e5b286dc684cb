<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Exception\ElementClickInterceptedException;
use Facebook\WebDriver\Exception\ElementNotInteractableException;
use Facebook\WebDriver\Exception\StaleElementReferenceException;
use Facebook\WebDriver\Exception\WebDriverException;
use Facebook\WebDriver\Remote\LocalFileDetector;
use Facebook\WebDriver\Remote\RemoteWebDriver;
use Facebook\WebDriver\Remote\RemoteWebElement;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use PHPUnit\Framework\Assert;

/** Somebody at the screen: looks for words, presses buttons, types, drags. */
final class Artist
{
    public readonly RemoteWebDriver $browser;

    /** Seconds it waits for anything. */
    private const PATIENCE = 150.0;

    public function __construct(public readonly StartedYard $yard)
    {
        $this->browser = $yard->browser;
    }

    public function opens(string $path): void
    {
        $this->browser->get('http://127.0.0.1:'.StartedYard::PORT.$path);
    }

    /**
     * Opens a new shot with the given changes made to it, or a demo shot.
     *
     * @param  list<array{op: string, path: string, value: mixed}>|string  $shot
     */
    public function opensShot(array|string $shot): void
    {
        if (! str_starts_with($this->browser->getCurrentURL(), 'http')) {
            $this->opens('/');
        }
        $id = $this->browser->executeAsyncScript(<<<'JS'
            const [shot, done] = arguments;
            // How large its panels are is of the test before.
            for (const key of Object.keys(localStorage)) if (key.startsWith('size ')) localStorage.removeItem(key);
            const send = (path, body) => fetch('/api/' + path, { method: 'POST', headers: { 'X-Yard': '1', 'Content-Type': 'application/json' }, body: JSON.stringify(body) }).then((r) => r.json());
            (async () => {
                const made = await send('shots', typeof shot === 'string' ? { demo: shot } : {});
                if (typeof shot !== 'string' && shot.length > 0) await send(`shots/${made.id}/edits`, { revision: made.revision, label: 'Set up', patch: shot });
                done(made.id);
            })();
            JS, [$shot]);
        $this->opens('/shots/'.$id);
        $this->until(fn (): bool => $this->js('return document.getElementById("picture")?.dataset.frameDrawn') !== null);
    }

    /**
     * Changes the shot that is open from outside, and opens it again.
     *
     * @param  list<array<string, mixed>>  $patch
     */
    public function changes(array $patch): void
    {
        $this->browser->executeAsyncScript('const done=arguments[1],id=location.pathname.split("/").pop(),h={"X-Yard":"1","Content-Type":"application/json"};fetch("/api/shots/"+id).then(r=>r.json()).then(s=>fetch("/api/shots/"+id+"/edits",{method:"POST",headers:h,body:JSON.stringify({revision:s.revision,label:"from outside",patch:JSON.parse(arguments[0])})})).then(()=>done())', [json_encode($patch)]);
        $this->browser->navigate()->refresh();
        $this->until(fn (): bool => $this->js('return document.getElementById("picture")?.dataset.frameDrawn') !== null, 'the shot to be there again');
    }

    /** Takes every shot out of the yard. */
    public function emptiesTheYard(): void
    {
        $this->opens('/');
        $this->browser->executeAsyncScript('const done=arguments[0],h={headers:{"X-Yard":"1"}};fetch("/api/shots").then(r=>r.json()).then(l=>Promise.all(l.map(s=>fetch("/api/shots/"+s.id,{method:"DELETE",...h})))).then(()=>done())');
    }

    public function text(): string
    {
        return (string) $this->js('return document.body.innerText');
    }

    public function sees(string $words): void
    {
        // Looked at again they may have given way to others already.
        $seen = '';
        $this->until(function () use ($words, &$seen): bool {
            return str_contains($seen = $this->text(), $words);
        }, "the words \"$words\"");
        Assert::assertStringContainsString($words, $seen);
    }

    public function seesNoMore(string $words): void
    {
        $this->until(fn (): bool => ! str_contains($this->text(), $words));
    }

    /** @param  bool  $begins  whether the button only begins with these words: what follows may change while it is looked for */
    public function presses(string $words, bool $begins = false): void
    {
        $this->until(function () use ($words, $begins): bool {
            foreach ($this->browser->findElements(WebDriverBy::tagName('button')) as $button) {
                try {
                    $said = trim($button->getText());
                    if (($begins ? str_starts_with($said, $words) : $said === $words) && $button->isEnabled()) {
                        $button->click();

                        return true;
                    }
                } catch (WebDriverException) {
                    // It was drawn anew meanwhile; look again.
                }
            }

            return false;
        }, "the button \"$words\"");
    }

    /** The first of what the selector names, once there is any. */
    public function finds(string $css): RemoteWebElement
    {
        $found = null;
        $this->until(function () use ($css, &$found): bool {
            $found = $this->browser->findElements(WebDriverBy::cssSelector($css))[0] ?? null;

            return $found !== null;
        }, $css);
        assert($found instanceof RemoteWebElement);

        return $found;
    }

    /** @param  \Closure(RemoteWebElement): mixed  $do  done again where it was drawn anew meanwhile, or something lay over it */
    private function on(string $css, \Closure $do): void
    {
        $this->until(function () use ($css, $do): bool {
            try {
                $do($this->finds($css));

                return true;
            } catch (ElementClickInterceptedException|ElementNotInteractableException|StaleElementReferenceException) {
                return false;
            }
        }, $css);
    }

    public function clicks(string $css): void
    {
        $this->on($css, static fn (RemoteWebElement $element) => $element->click());
    }

    /** Types into a field, the first of its label within `$inside`, which is a CSS selector with a space after it. */
    public function types(string $label, string $value, string $inside = ''): void
    {
        $this->on($inside.'input[aria-label="'.$label.'"]', static function (RemoteWebElement $field) use ($value): void {
            $field->click();
            $field->sendKeys([WebDriverKeys::CONTROL, 'a']);
            $field->sendKeys([WebDriverKeys::NULL, $value, WebDriverKeys::ENTER]);
        });
    }

    /** Chooses one of the entries of a list. */
    public function chooses(string $label, string $value): void
    {
        $this->on('select[aria-label="'.$label.'"] option[value="'.$value.'"]', static fn (RemoteWebElement $option) => $option->click());
    }

    /** Chooses one of several that are shown by pictures. */
    public function choosesPictured(string $label, string $value): void
    {
        $this->on('button[aria-label^="'.$label.':"]', static fn (RemoteWebElement $button) => $button->click());
        $this->on('[role="radiogroup"][aria-label="'.$label.'"] button[value="'.$value.'"]', static fn (RemoteWebElement $one) => $one->click());
    }

    /** Switches a labelled box on or off; pressed again where it was not met, for what stands above it had just grown. */
    public function ticks(string $label): void
    {
        $box = fn (): ?RemoteWebElement => $this->browser->findElements(WebDriverBy::xpath('//label[normalize-space(.)="'.$label.'"]'))[0] ?? null;
        $on = static fn (): ?bool => $box()?->findElement(WebDriverBy::tagName('input'))->isSelected();
        $before = null;
        $this->until(function () use ($box, $on, &$before): bool {
            try {
                $before ??= $on();
                $box()?->click();
                for ($k = 0; $k < 50; $k++) {
                    if ($before !== null && $on() === ! $before) {
                        return true;
                    }
                    usleep(100_000);
                }
            } catch (WebDriverException) {
                // It was drawn anew meanwhile; look again.
            }

            return $before !== null && $on() === ! $before;
        }, "the box $label");
    }

    public function reads(string $label): string
    {
        return (string) $this->finds('input[aria-label="'.$label.'"]')->getAttribute('value');
    }

    /** Presses keys with nothing in particular focused. */
    public function keys(string ...$keys): void
    {
        $this->js('document.activeElement?.blur?.()');
        $this->browser->findElement(WebDriverBy::tagName('body'))->sendKeys($keys);
    }

    public function bringsIn(string $file, string $by = 'Mesh file'): void
    {
        $this->finds('input[aria-label="'.$by.'"]')->setFileDetector(new LocalFileDetector)->sendKeys($file);
    }

    /**
     * Presses the mouse at the first place in the picture, drags through the others, and lets go at the last.
     * One place is a click.
     *
     * @param  non-empty-list<array{int, int}>  $places  pixels from the middle of the picture
     */
    public function drags(array $places): void
    {
        $canvas = $this->finds('#picture canvas');
        $action = $this->browser->action()->moveToElement($canvas, ...$places[0])->clickAndHold();
        foreach (array_slice($places, 1) as [$x, $y]) {
            $action->moveToElement($canvas, $x, $y);
        }
        $action->release()->perform();
    }

    /** @param  array{int, int}  $place  pixels from the middle of the element */
    public function pressesAt(string $css, array $place): void
    {
        $this->dragsOn($css, $place, $place);
    }

    /**
     * @param  array{int, int}  $from  pixels from the middle of the element
     * @param  array{int, int}  $to
     */
    public function dragsOn(string $css, array $from, array $to): void
    {
        $element = $this->finds($css);
        $this->browser->action()->moveToElement($element, ...$from)->clickAndHold()->moveToElement($element, ...$to)->release()->perform();
    }

    /**
     * Waits: long, for a wait that ends early costs nothing and a machine may be busy. Where it is in vain, what the page
     * showed is said.
     *
     * @param  \Closure(): bool  $done
     */
    public function until(\Closure $done, string $for = ''): void
    {
        try {
            StartedYard::until($done, self::PATIENCE);
        } catch (\RuntimeException $e) {
            $picture = (string) $this->js('return JSON.stringify({ ...(document.getElementById("picture")?.dataset ?? {}) })');
            Assert::fail($e->getMessage().($for === '' ? '' : " It was for $for.").' The page '.$this->browser->getCurrentURL()." showed:\n".$this->text()."\nand of its picture: ".$picture);
        }
        Assert::assertTrue(true);
    }

    public function waitsForPicture(): void
    {
        $this->until(fn (): bool => (int) $this->js('const c=document.querySelector("#picture canvas"),k=document.createElement("canvas");k.width=64;k.height=40;const g=k.getContext("2d");g.drawImage(c,0,0,64,40);return new Set(new Uint32Array(g.getImageData(0,0,64,40).data.buffer)).size') > 50);
    }

    /** A hash of what the stage shows, once that is of the shot as it is, at the frame it says, with all of it worked out. */
    public function picture(string $of = 'picture'): string
    {
        $seen = null;
        $this->until(function () use (&$seen, $of): bool {
            // What a pointer lies over, or what has just come, is drawn a moment later.
            usleep(400_000);
            $seen = $this->js(<<<'JS'
                const picture = document.getElementById(arguments[0]);
                const there = picture?.dataset.waits === '' && picture.dataset.frameDrawn === document.querySelector('[data-frame]')?.dataset.frame;
                return there ? picture.querySelector('canvas').toDataURL() : null;
                JS, $of);

            return is_string($seen);
        }, 'the true picture');

        return md5((string) $seen);
    }

    /** Waits for the stage to show again what it showed before, bit by bit. */
    public function showsAgain(string $picture): void
    {
        $this->until(fn (): bool => $this->picture() === $picture, 'the picture there was before');
    }

    public function frameDrawn(): int
    {
        return (int) $this->js('return document.getElementById("picture").dataset.frameDrawn');
    }

    public function js(string $script, mixed ...$arguments): mixed
    {
        return $this->browser->executeScript($script, $arguments);
    }

    /** The document of the open shot, as the server has it. */
    public function document(): mixed
    {
        $this->sees('saved');

        return json_decode((string) $this->browser->executeAsyncScript('fetch("/api"+location.pathname).then(r=>r.json()).then(s=>arguments[0](JSON.stringify(s.document)))'), true);
    }
}
