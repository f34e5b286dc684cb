<?php

declare(strict_types=1);

namespace Tests\Browser;

use PHPUnit\Framework\TestCase;

/** The real screens, driven as a person would; asserts on what a person sees. */
abstract class BrowserTestCase extends TestCase
{
    protected Artist $artist;

    /** @var list<array{level: string, message: string}> what the browser logged, as far as it was asked */
    private array $seen = [];

    protected function setUp(): void
    {
        $this->artist = new Artist(StartedYard::shared());
        $this->artist->browser->manage()->getLog('browser');
    }

    /** No page asked for anything that its policy keeps out: every test walks under it. */
    protected function assertPostConditions(): void
    {
        $kept = array_filter([...$this->seen, ...$this->artist->browser->manage()->getLog('browser')], static fn (array $l): bool => str_contains($l['message'], 'Content Security Policy'));
        self::assertSame([], array_column($kept, 'message'));
    }

    /** Nothing has gone wrong behind the screen either. */
    protected function assertNoErrors(): void
    {
        array_push($this->seen, ...$this->artist->browser->manage()->getLog('browser'));
        $bad = array_filter($this->seen, static fn (array $l): bool => $l['level'] === 'SEVERE' && ! str_contains($l['message'], '422') && ! str_contains($l['message'], '404'));
        self::assertSame([], array_column($bad, 'message'));
    }
}
