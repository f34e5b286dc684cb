<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Storage\MapPath;
use App\Storage\Sealed;
use App\Storage\YardFiles;

/** What stands before PHP's own server, with the settings bin/start gives it. */
final class FrontTest extends YardTestCase
{
    private const FRONT = 8194;

    private const BACK = 8195;

    /** @var array<string, resource> */
    private array $processes = [];

    protected function setUp(): void
    {
        parent::setUp();
        $root = dirname(__DIR__, 2);
        $run = fn (string $name, string $command, string $in) => $this->processes[$name] = proc_open(['bash', '-c', 'exec '.$command], [['file', '/dev/null', 'r'], ['file', $this->folder.'/log', 'a'], ['file', $this->folder.'/log', 'a']], $pipes, $in,
            ['DB_DATABASE' => $this->folder.'/yard.sqlite', 'YARD_FILES' => $this->folder.'/files', 'PHP_INI_SCAN_DIR' => ':'.$root.'/php', 'PATH' => (string) getenv('PATH')]) ?: throw new \RuntimeException('Could not start '.$name);
        exec('bash -c '.escapeshellarg('. bin/setup.sh && install_front && write_front 127.0.0.1:'.self::FRONT.' '.self::BACK.' '.$this->folder.' && echo $front').' 2>&1', $out, $code);
        self::assertSame(0, $code, implode("\n", $out));
        $run('back', 'php -S 127.0.0.1:'.self::BACK.' index.php', $root.'/public');
        $run('front', end($out).' -p '.$this->folder.'/ -c '.$this->folder.'/front.conf', $root);
        foreach ([self::FRONT, self::BACK] as $port) {
            for ($i = 0; $i < 100 && @fsockopen('127.0.0.1', $port) === false; $i++) {
                usleep(100_000);
            }
        }
    }

    protected function tearDown(): void
    {
        array_map($this->end(...), array_keys($this->processes));
        parent::tearDown();
    }

    public function test_what_is_too_large_is_refused_by_its_length_before_it_is_sent(): void
    {
        $begun = microtime(true);
        [$status, $body] = $this->says("POST /api/assets?name=a.stl HTTP/1.1\r\nHost: localhost\r\nX-Yard: 1\r\nContent-Length: 1200000000\r\n\r\n".str_repeat('x', 1000));
        self::assertSame(413, $status);
        self::assertStringContainsString('larger than 200 MB', json_decode($body, true)['problem']['message']);
        self::assertLessThan(2.0, microtime(true) - $begun);
        self::assertSame(config('yard.largest_upload'), 200 * 1024 * 1024, 'as the front says');
    }

    public function test_the_page_and_its_answers_come_through_packed(): void
    {
        [$status, $body, $head] = $this->says("GET / HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n");
        self::assertSame(200, $status);
        self::assertStringContainsString('<div id="app">', $body);
        self::assertStringContainsString('Content-Security-Policy', $head);
        self::assertStringNotContainsString('X-Powered-By', $head);
        [$status, , $head] = $this->says("GET /api/catalogue HTTP/1.1\r\nHost: localhost\r\nAccept-Encoding: gzip\r\nConnection: close\r\n\r\n");
        self::assertSame(200, $status);
        self::assertStringContainsString('Content-Encoding: gzip', $head);
        self::assertSame(403, $this->says("GET / HTTP/1.1\r\nHost: evil.example\r\nConnection: close\r\n\r\n")[0]);
    }

    public function test_a_server_that_is_gone_is_named_in_words(): void
    {
        $this->end('back');
        [$status, $body] = $this->says("GET /api/shots HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n");
        self::assertSame(502, $status);
        self::assertSame('Yard Break does not answer.', json_decode($body, true)['problem']['message']);
    }

    public function test_every_answer_says_how_long_it_is_so_that_a_broken_one_is_known(): void
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box()]])->assertOk();
        YardFiles::write(MapPath::of($map = str_repeat('0', 32)), Sealed::of(str_repeat('w', 5000)));
        foreach (["/api/shots/$id", "/api/shots/$id/props/box/picture?whole=1", '/api/maps/frames/'.$map, '/api/no-such-thing', '/'] as $asked) {
            [, $body, $head] = $this->says("GET $asked HTTP/1.1\r\nHost: localhost\r\nAccept: application/json\r\nConnection: close\r\n\r\n", self::BACK);
            self::assertMatchesRegularExpression('/^Content-Length: [1-9]\d*\r$/mi', $head, $asked);
            self::assertNotSame('', $body);
            self::assertMatchesRegularExpression('/^Content-Length: '.strlen($body).'\r$/mi', $head, $asked);
        }
    }

    /** @return array{int, string, string} status, body and head */
    private function says(string $request, int $port = self::FRONT): array
    {
        $line = fsockopen('127.0.0.1', $port);
        self::assertNotFalse($line);
        stream_set_timeout($line, 10);
        fwrite($line, $request);
        $head = $body = '';
        while (! str_contains($head, "\r\n\r\n") && ! feof($line)) {
            $head .= fgets($line);
        }
        // It may hold the line open a little longer, for what is still being sent.
        $body = (string) ($port === self::FRONT && preg_match('/Content-Length: (\d+)/i', $head, $length) === 1 ? stream_get_contents($line, (int) $length[1]) : stream_get_contents($line));

        return [(int) substr($head, 9, 3), $body, $head];
    }

    private function end(string $name): void
    {
        if (isset($this->processes[$name])) {
            proc_terminate($this->processes[$name]);
            proc_close($this->processes[$name]);
            unset($this->processes[$name]);
        }
    }
}
