<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Http\Door;
use App\Http\FastLane;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\DataProvider;

final class DoorTest extends YardTestCase
{
    private const PASS = 'compost and twine';

    /** @return array<string, array{string, bool}> */
    public static function hosts(): array
    {
        return [
            'this machine by name' => ['localhost:8120', true], 'a name of this machine\'s own' => ['yard.localhost', true], 'by address' => ['127.0.0.1:8120', true], 'by its other kind of address' => ['[::1]:8120', true],
            'on the network by address' => ['192.168.1.20:8120', true], 'a name that was set' => ['Garden.Example', true],
            'a foreign name pointed here' => ['evil.example:8120', false], 'one that only ends alike' => ['evil-localhost', false], 'one that only begins alike' => ['127.0.0.1.evil.example', false],
        ];
    }

    #[DataProvider('hosts')]
    public function test_it_answers_to_its_own_names_only(string $host, bool $answers): void
    {
        $this->set(['garden.example']);
        self::assertSame($answers ? 200 : 403, $this->as(['HTTP_HOST' => $host], 'GET', '/api/shots')->getStatusCode());
        self::assertSame($answers ? 200 : 403, $this->as(['HTTP_HOST' => $host], 'GET', '/')->getStatusCode());
    }

    /** @return array<string, array{array<string, string>, bool}> */
    public static function origins(): array
    {
        return [
            'its own page' => [['HTTP_HOST' => 'localhost:8120', 'HTTP_ORIGIN' => 'http://localhost:8120'], true],
            'a program that says nothing' => [['HTTP_HOST' => 'localhost:8120'], true],
            'through a proxy that shows its name' => [['HTTP_HOST' => '127.0.0.1:8120', 'HTTP_ORIGIN' => 'https://garden.example'], true],
            'another program of this machine' => [['HTTP_HOST' => 'localhost:8120', 'HTTP_ORIGIN' => 'http://localhost:3000'], false],
            'another site' => [['HTTP_HOST' => 'localhost:8120', 'HTTP_ORIGIN' => 'https://evil.example'], false],
            'a page without an origin' => [['HTTP_HOST' => 'localhost:8120', 'HTTP_ORIGIN' => 'null'], false],
            'another site, as the browser says' => [['HTTP_HOST' => 'localhost:8120', 'HTTP_SEC_FETCH_SITE' => 'cross-site'], false],
        ];
    }

    /** @param  array<string, string>  $headers */
    #[DataProvider('origins')]
    public function test_changes_are_taken_from_its_own_pages_only(array $headers, bool $taken): void
    {
        $this->set(['garden.example']);
        self::assertSame($taken ? 201 : 403, $this->as($headers, 'POST', '/api/shots')->getStatusCode());
        self::assertSame(200, $this->as($headers, 'GET', '/api/shots')->getStatusCode(), 'reading changes nothing, and other sites cannot see the answer');
    }

    public function test_with_a_pass_phrase_nothing_is_shown_before_it_is_said(): void
    {
        $this->set([], self::PASS);
        self::assertStringNotContainsString(self::PASS, (string) file_get_contents($this->folder.'/files/door.json'));
        $this->as([], 'GET', '/api/shots')->assertStatus(401)->assertJsonPath('problem.kind', 'sign-in');
        $this->as([], 'GET', '/')->assertOk();
        $this->as([], 'POST', '/api/sign-in', ['pass' => 'compost'])->assertStatus(401);
        $this->as([], 'POST', '/api/sign-in', ['pass' => ['x']])->assertStatus(401);
        $cookie = $this->as(['HTTP_X_FORWARDED_PROTO' => 'https'], 'POST', '/api/sign-in', ['pass' => self::PASS])->assertOk()->headers->getCookies()[0];
        self::assertTrue($cookie->isHttpOnly() && $cookie->isSecure());
        self::assertSame('strict', $cookie->getSameSite());
        $door = Door::at($this->folder.'/files');
        $asked = ['HTTP_HOST' => 'localhost', 'REQUEST_METHOD' => 'GET', 'REQUEST_URI' => '/api/shots'];
        self::assertNull($door->refusal($asked, [Door::COOKIE => $cookie->getValue()]));
        [$until, $mark] = explode('.', (string) $cookie->getValue());
        foreach ([($until + 1).'.'.$mark, $until.'.'.strrev($mark), time() - 5 .'.'.$mark, $until, '.', ''] as $forged) {
            self::assertNotNull($door->refusal($asked, [Door::COOKIE => $forged]));
        }
        // The same phrase set again keeps who is in; another puts everyone out.
        $this->set([], self::PASS);
        self::assertNull(Door::at($this->folder.'/files')->refusal($asked, [Door::COOKIE => $cookie->getValue()]));
        $this->set([], self::PASS.'!');
        self::assertNotNull(Door::at($this->folder.'/files')->refusal($asked, [Door::COOKIE => $cookie->getValue()]));
    }

    public function test_guessing_is_slowed(): void
    {
        $this->set([], self::PASS);
        for ($i = 0; $i < 5; $i++) {
            $this->as([], 'POST', '/api/sign-in', ['pass' => 'guess '.$i])->assertStatus(401);
        }
        $this->as([], 'POST', '/api/sign-in', ['pass' => self::PASS])->assertStatus(429)->assertJsonPath('problem.kind', 'busy');
    }

    public function test_small_answers_given_early_stand_behind_the_same_door(): void
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box()], ['op' => 'replace', 'path' => '/frames/last', 'value' => 6]])->assertOk();
        $bake = $this->send('POST', "shots/$id/bakes")->assertCreated()->json('bake.id');
        $lane = new FastLane(public_path(), $this->folder.'/files', $this->folder.'/yard.sqlite');
        $ask = static fn (string $what, array $query = [], array $server = [], array $cookies = []) => $lane->answer($server + ['REQUEST_METHOD' => 'GET', 'HTTP_HOST' => 'localhost', 'REQUEST_URI' => "/api/bakes/$bake/$what"], $query, $cookies);
        self::assertSame(['done', 7], [json_decode($ask('state')[2])->state, json_decode($ask('state')[2])->framesDone]);
        [$status, $headers, $bytes] = $ask('frames', ['from' => '2', 'count' => '3']);
        self::assertSame([200, 3 * (32 + 12 * 32)], [$status, strlen($bytes)]);
        self::assertStringContainsString('immutable', $headers['Cache-Control']);
        self::assertSame(304, $ask('frames', ['from' => '2', 'count' => '3'], ['HTTP_IF_NONE_MATCH' => $headers['ETag']])[0]);
        self::assertSame('no-store', $ask('frames', ['from' => '5', 'count' => '9'])[1]['Cache-Control'], 'more may come');
        self::assertSame([4, 5, 6], array_column(json_decode($ask('figures', ['from' => '4'])[2], true), 'frame'));
        self::assertNull($ask('state', [], ['HTTP_HOST' => 'evil.example']));
        self::assertNull($ask('state', [], ['HTTP_HOST' => '']));
        self::assertNull($ask('state', [], ['REQUEST_METHOD' => 'POST']));
        self::assertNull($lane->answer(['REQUEST_METHOD' => 'GET', 'HTTP_HOST' => 'localhost', 'REQUEST_URI' => '/build/../../.env'], [], []));
        $this->set([], self::PASS);
        self::assertNull($ask('frames'));
        self::assertNotNull($ask('frames', [], [], [Door::COOKIE => Door::at($this->folder.'/files')->token()]));
    }

    public function test_every_refusal_of_the_api_has_one_form(): void
    {
        config(['yard.largest_change' => 1000]);
        foreach ([[405, $this->send('PATCH', 'shots')], [404, $this->send('GET', 'shots/none')], [404, $this->send('GET', 'nothing/here')], [413, $this->upload('shots', str_repeat('x', 2000))], [422, $this->send('POST', 'shots/'.$this->newShot().'/props/box/punch', ['others' => 3])], [403, $this->json('POST', '/api/shots')]] as [$status, $response]) {
            $response->assertStatus($status);
            self::assertSame(['kind', 'message', 'path', 'remedy', 'place'], array_keys($response->json('problem')));
            self::assertStringNotContainsString('/', $response->json('problem.message'));
        }
    }

    public function test_browsers_are_told_to_run_and_show_nothing_that_is_not_the_yards(): void
    {
        foreach (['/', '/api/shots', '/shots/x'] as $path) {
            $headers = $this->get($path)->headers;
            $policy = (string) $headers->get('Content-Security-Policy');
            self::assertStringContainsString("default-src 'none'", $policy);
            self::assertDoesNotMatchRegularExpression('/unsafe|https?:|\*|data:/', $policy);
            self::assertSame(['nosniff', 'DENY', 'same-origin'], [$headers->get('X-Content-Type-Options'), $headers->get('X-Frame-Options'), $headers->get('Referrer-Policy')]);
        }
    }

    public function test_the_page_finds_its_parts_wherever_it_is_served_from(): void
    {
        $page = (string) $this->as(['HTTP_X_FORWARDED_PREFIX' => '/garden'], 'GET', '/shots/x')->assertOk()->getContent();
        self::assertStringContainsString('<base href="/garden/">', $page);
        self::assertDoesNotMatchRegularExpression('#(src|href)="(?!/garden/")/#', $page);
        self::assertDoesNotMatchRegularExpression('#https?://#', $page);
        self::assertStringNotContainsString('"><script', (string) $this->as(['HTTP_X_FORWARDED_PREFIX' => '"><script>'], 'GET', '/')->getContent());
        self::assertSame('up', $this->get('/up')->assertOk()->getContent());
    }

    /** @param  list<string>  $names */
    private function set(array $names, string $pass = ''): void
    {
        @mkdir($this->folder.'/files');
        Door::set($this->folder.'/files', $names, $pass);
    }

    /**
     * @param  array<string, string>  $server
     * @param  array<string, mixed>  $body
     * @return TestResponse<\Illuminate\Http\Response>
     */
    private function as(array $server, string $method, string $path, array $body = []): TestResponse
    {
        return $this->call($method, 'http://'.($server['HTTP_HOST'] ?? 'localhost').$path, [], [], [], $server + ['HTTP_X_YARD' => '1', 'HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/json'], (string) json_encode($body));
    }
}
