<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverKeys;

/** A yard with a pass phrase. */
final class DoorTest extends BrowserTestCase
{
    protected function tearDown(): void
    {
        $this->artist->yard->setPass('');
    }

    public function test_nothing_is_shown_until_the_pass_phrase_is_said(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block')]);
        $shot = $a->browser->getCurrentURL();
        $a->yard->setPass('compost and twine');
        $a->browser->get($shot);
        $a->sees('The pass phrase of this yard');
        self::assertStringNotContainsString('Block', $a->text());
        $this->says('compost');
        $a->sees('That is not the pass phrase of this yard.');
        $this->says('compost and twine');
        $a->sees('Block');
        $a->browser->get($shot);
        $a->sees('Block');
    }

    private function says(string $pass): void
    {
        $this->artist->finds('[aria-label="Pass phrase"]')->sendKeys([WebDriverKeys::CONTROL, 'a'])->sendKeys([WebDriverKeys::NULL, $pass, WebDriverKeys::ENTER]);
    }
}
