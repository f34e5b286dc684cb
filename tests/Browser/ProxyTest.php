<?php

declare(strict_types=1);

namespace Tests\Browser;

/** The yard behind a TLS proxy, on a path that is not the root. */
final class ProxyTest extends BrowserTestCase
{
    private const PORT = 9843;

    /** @var resource|null */
    private $proxy = null;

    private string $folder = '';

    protected function tearDown(): void
    {
        if ($this->proxy !== null) {
            proc_terminate($this->proxy);
            proc_close($this->proxy);
        }
        exec('rm -rf '.escapeshellarg($this->folder));
        $this->artist->opens('/');
    }

    public function test_a_shot_is_made_changed_and_read_again_through_it(): void
    {
        $this->folder = sys_get_temp_dir().'/yard-proxy-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
        exec('openssl req -x509 -newkey rsa:2048 -nodes -days 2 -subj /CN=localhost -keyout '.$this->folder.'/key -out '.$this->folder.'/cert 2>/dev/null', result_code: $code);
        self::assertSame(0, $code);
        $this->proxy = proc_open(['node', __DIR__.'/proxy.mjs', (string) self::PORT, (string) StartedYard::PORT, $this->folder.'/key', $this->folder.'/cert'], [], $pipes) ?: null;
        StartedYard::until(static fn (): bool => @fsockopen('127.0.0.1', self::PORT) !== false, 20);
        $a = $this->artist;
        $a->browser->get('https://localhost:'.self::PORT.'/garden/');
        $a->presses('New shot');
        $a->sees('Add a prop');
        self::assertStringStartsWith('https://localhost:'.self::PORT.'/garden/shots/', $a->browser->getCurrentURL());
        $a->presses('Box');
        $a->seesNoMore('Add a prop');
        $a->keys('1');
        $a->sees('Built here');
        $a->types('Width', '0.83');
        $a->sees('0.83 × 1 × 1 m');
        $a->browser->navigate()->refresh();
        $a->sees('not baked');
        $a->keys('1');
        $a->sees('0.83 × 1 × 1 m');
        $a->clicks('a[href="/garden/"]');
        $a->sees('New shot');
        self::assertStringEndsWith('/garden/', $a->browser->getCurrentURL());
        $this->assertNoErrors();
    }
}
