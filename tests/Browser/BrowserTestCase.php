<?php

declare(strict_types=1);

namespace Tests\Browser;

use PHPUnit\Framework\TestCase;

/** The real screens, driven as a person would; asserts on what a person sees. */
abstract class BrowserTestCase extends TestCase
{
    protected Artist $artist;

    protected function setUp(): void
    {
        $this->artist = new Artist(StartedYard::shared());
        $this->artist->browser->manage()->getLog('browser');
    }

    /** Nothing has gone wrong behind the screen either. */
    protected function assertNoErrors(): void
    {
        $bad = array_filter($this->artist->browser->manage()->getLog('browser'), static fn (array $l): bool => $l['level'] === 'SEVERE' && ! str_contains($l['message'], '422') && ! str_contains($l['message'], '404'));
        self::assertSame([], array_column($bad, 'message'));
    }
}
