<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Http\Address;
use App\Http\Door;
use App\Storage\MapPath;
use App\Storage\Sealed;
use App\Storage\YardFiles;
use Illuminate\Support\Facades\Artisan;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Attack\Spellings;

/** The door against a server as bin/start runs it: every address there is, spelt in every way, by somebody who has not signed in. */
final class SpellingTest extends YardTestCase
{
    private const PORT = 8196;

    private const PASS = 'compost and twine';

    /** @var resource|null */
    private $server = null;

    protected function tearDown(): void
    {
        if ($this->server !== null) {
            exec('pkill -TERM -P '.proc_get_status($this->server)['pid']);
            proc_terminate($this->server);
            proc_close($this->server);
        }
        parent::tearDown();
    }

    public function test_nothing_but_the_page_and_the_sign_in_is_shown_in_any_spelling(): void
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box()], ['op' => 'replace', 'path' => '/frames/last', 'value' => 3]])->assertOk();
        $bake = (string) $this->send('POST', "shots/$id/bakes")->assertCreated()->json('bake.id');
        YardFiles::write(MapPath::of($map = str_repeat('0', 32)), Sealed::of('weights'));
        Door::set($this->folder.'/files', [], self::PASS);
        $this->serve();
        $asked = 0;
        foreach (Spellings::routes(['shot' => $id, 'bake' => $bake, 'prop' => 'box', 'map' => 'map', 'asset' => str_repeat('a', 64), 'handOff' => $id, 'what' => 'state', 'key' => $map]) as [$method, $path]) {
            foreach (Spellings::of($path) as $spelt) {
                if ($path === '/api/sign-in' && $spelt === $path) {
                    continue;
                }
                [$status, $body] = $this->asks($method, $spelt);
                // Some are no request at all, and get no answer.
                self::assertContains($status, [0, 400, 401, 403, 404, 405, 429], "$method $spelt: ".substr($body, 0, 200));
                self::assertStringNotContainsString('weights', $body, $spelt);
                self::assertStringNotContainsString($id, $body, $spelt);
                $asked++;
            }
        }
        foreach (['state', 'frames', 'figures'] as $what) {
            self::assertSame(401, $this->asks('GET', "/api/bakes/$bake/$what")[0]);
        }
        self::assertGreaterThan(500, $asked);
        // What is open is open, and whoever signs in sees the rest.
        self::assertSame([200, 200, 200], array_map(fn (string $path): int => $this->asks('GET', $path)[0], ['/', '/up', "/shots/$id"]));
        $cookie = Door::COOKIE.'='.Door::at($this->folder.'/files')->token();
        self::assertSame(200, $this->asks('GET', '/api/shots', ['Cookie' => $cookie])[0]);
        self::assertSame(200, $this->asks('GET', "/api/bakes/$bake/state", ['Cookie' => $cookie])[0]);
        self::assertSame(404, $this->asks('GET', '/%61pi/shots', ['Cookie' => $cookie])[0], 'one address has one spelling');
    }

    public function test_guesses_sent_side_by_side_count_like_those_sent_in_turn(): void
    {
        Door::set($this->folder.'/files', [], self::PASS);
        $this->serve();
        $all = curl_multi_init();
        $guesses = [];
        for ($i = 0; $i < 60; $i++) {
            $guess = curl_init('http://127.0.0.1:'.self::PORT.'/api/sign-in');
            assert($guess !== false);
            curl_setopt_array($guess, [CURLOPT_RETURNTRANSFER => true, CURLOPT_POSTFIELDS => '{"pass":"guess '.$i.'"}', CURLOPT_HTTPHEADER => ['X-Yard: 1', 'Content-Type: application/json', 'X-Real-IP: 203.0.113.1', 'X-Forwarded-Proto: http']]);
            curl_multi_add_handle($all, $guess);
            $guesses[] = $guess;
        }
        do {
            curl_multi_exec($all, $running);
            curl_multi_select($all, 1.0);
        } while ($running > 0);
        $said = array_count_values(array_map(static fn (\CurlHandle $g): int => curl_getinfo($g, CURLINFO_RESPONSE_CODE), $guesses));
        self::assertSame([401 => 5, 429 => 55], [401 => $said[401] ?? 0, 429 => $said[429] ?? 0]);
    }

    #[DataProvider('torn')]
    public function test_a_door_that_cannot_be_read_lets_nobody_in(?string $bytes): void
    {
        $path = $this->folder.'/files/door.json';
        $bytes === null ? unlink($path) : file_put_contents($path, $bytes);
        foreach (['/', '/api/shots', '/up'] as $asked) {
            $this->get($asked)->assertStatus(503);
        }
        $this->get('/api/shots')->assertJsonPath('problem.kind', 'door');
        self::assertSame($bytes !== null, Door::isDamaged($this->folder.'/files'));
        self::assertSame(0, Artisan::call('yard:door'));
        self::assertSame($bytes !== null, str_contains(Artisan::output(), 'set anew'));
        $this->get('/api/shots')->assertOk();
    }

    /** @return array<string, array{string|null}> */
    public static function torn(): array
    {
        $good = (string) json_encode(['names' => [], 'hash' => password_hash('compost and twine', PASSWORD_DEFAULT), 'secret' => str_repeat('ab', 32)]);

        return ['missing' => [null], 'empty' => [''], 'torn' => [substr($good, 0, 60)], 'zeroed' => [str_repeat("\0", 80)], 'another thing' => ['[]'], 'without a phrase' => ['{"names":[],"secret":"x"}']];
    }

    public function test_a_door_that_cannot_be_written_is_said_and_keeps_what_was(): void
    {
        $folder = $this->folder.'/no-such-folder';
        self::assertFalse(Door::set($folder, [], self::PASS));
        Door::set($this->folder.'/files', [], self::PASS);
        self::assertSame([], glob($this->folder.'/files/door.json.*'), 'written whole and renamed');
        self::assertTrue(Door::at($this->folder.'/files')->opens(self::PASS));
    }

    /** @return array<string, array{string, string|null}> */
    public static function addresses(): array
    {
        return [
            'the yard' => ['/', '/'], 'with a question' => ['/api/shots?x=%2e', '/api/shots'], 'file' => ['/build/assets/a-B_1.js', '/build/assets/a-B_1.js'],
            'percent' => ['/%61pi', null], 'empty' => ['', null], 'absolute' => ['http://localhost/api', null], 'doubled' => ['//api', null], 'ends with a slash' => ['/api/', null],
            'a step back' => ['/a/../b', null], 'a dot' => ['/./a', null], 'hidden' => ['/.env', null], 'script' => ['/index.php', null], 'script in capitals' => ['/INDEX.PHP/api', null], 'a script of that name further on' => ['/a/index.php', '/a/index.php'],
            'a line' => ["/api\n", null], 'a mark' => ['/api#x', null], 'a turned slash' => ['/api\\shots', null], 'a parameter' => ['/api;x=1/shots', null],
        ];
    }

    #[DataProvider('addresses')]
    public function test_a_path_has_one_spelling(string $asked, ?string $path): void
    {
        self::assertSame($path, Address::of(['REQUEST_URI' => $asked]));
    }

    private function serve(): void
    {
        $root = dirname(__DIR__, 2);
        $log = ['file', $this->folder.'/log', 'a'];
        $this->server = proc_open(['php', '-S', '127.0.0.1:'.self::PORT, 'index.php'], [['file', '/dev/null', 'r'], $log, $log], $pipes, $root.'/public',
            ['DB_DATABASE' => $this->folder.'/yard.sqlite', 'YARD_FILES' => $this->folder.'/files', 'PHP_CLI_SERVER_WORKERS' => '4', 'CACHE_STORE' => 'file', 'YARD_CACHE' => $this->folder.'/cache', 'PHP_INI_SCAN_DIR' => ':'.$root.'/php', 'PATH' => (string) getenv('PATH')]) ?: null;
        for ($i = 0; $i < 200 && @fsockopen('127.0.0.1', self::PORT) === false; $i++) {
            usleep(100_000);
        }
    }

    /**
     * As its bytes stand: no client in between puts a path in order.
     *
     * @param  array<string, string>  $headers
     * @return array{int, string} status and body
     */
    private function asks(string $method, string $target, array $headers = []): array
    {
        $line = fsockopen('127.0.0.1', self::PORT);
        self::assertNotFalse($line);
        stream_set_timeout($line, 30);
        $lines = '';
        foreach ($headers + ['Host' => 'localhost', 'X-Yard' => '1', 'Accept' => 'application/json', 'Content-Length' => '0', 'Connection' => 'close'] as $name => $value) {
            $lines .= "$name: $value\r\n";
        }
        fwrite($line, "$method $target HTTP/1.1\r\n$lines\r\n");
        [$head, $body] = explode("\r\n\r\n", (string) stream_get_contents($line), 2) + [1 => ''];
        fclose($line);

        return [(int) substr($head, 9, 3), $body];
    }
}
