<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Http\Door;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Testing\TestCase;
use Illuminate\Testing\TestResponse;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Response;
use Tests\Attack\Attack;

/** An application of its own, with an empty database and a storage folder that goes away after. */
abstract class YardTestCase extends TestCase
{
    protected string $folder = '';

    public function createApplication(): Application
    {
        $this->folder = sys_get_temp_dir().'/yard-'.bin2hex(random_bytes(6));
        mkdir($this->folder);
        touch($this->folder.'/yard.sqlite');
        $app = require __DIR__.'/../../bootstrap/app.php';
        $app->make(Kernel::class)->bootstrap();
        config(['database.connections.sqlite.database' => $this->folder.'/yard.sqlite', 'filesystems.disks.local.root' => $this->folder.'/files']);
        $app->make(Kernel::class)->call('migrate', ['--force' => true]);
        mkdir($this->folder.'/files');
        Door::set($this->folder.'/files', [], '');

        return $app;
    }

    protected function tearDown(): void
    {
        parent::tearDown();
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    /**
     * @param  array<string, mixed>  $body
     * @return TestResponse<\Illuminate\Http\Response>
     */
    protected function send(string $method, string $path, array $body = []): TestResponse
    {
        return $this->json($method, '/api/'.$path, $body, ['X-Yard' => '1']);
    }

    /** @return TestResponse<\Illuminate\Http\Response> */
    protected function upload(string $path, string $bytes): TestResponse
    {
        return $this->call('POST', '/api/'.$path, [], [], [], ['HTTP_X_YARD' => '1', 'HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/octet-stream', 'HTTP_CONTENT_LENGTH' => (string) strlen($bytes)], $bytes);
    }

    /**
     * What a response brings, sent from a file or not.
     *
     * @param  TestResponse<\Illuminate\Http\Response>  $response
     */
    protected static function bytes(TestResponse $response): string
    {
        $of = $response->assertOk()->baseResponse;

        return (string) ($of instanceof BinaryFileResponse ? file_get_contents($of->getFile()->getPathname()) : $of->getContent());
    }

    protected function newShot(): string
    {
        return (string) $this->send('POST', 'shots')->assertCreated()->json('id');
    }

    /**
     * @param  list<array<string, mixed>>  $patch
     * @return TestResponse<\Illuminate\Http\Response>
     */
    protected function edit(string $id, int $revision, array $patch, string $label = 'Test'): TestResponse
    {
        return $this->send('POST', "shots/$id/edits", ['revision' => $revision, 'patch' => $patch, 'label' => $label]);
    }

    /**
     * A box that breaks and falls.
     *
     * @return array<string, mixed>
     */
    protected static function box(int $count = 12, string $id = 'box'): array
    {
        return [
            'id' => $id, 'name' => ucfirst($id),
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]],
            'place' => ['position' => [0, 0.4, 0], 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.1],
            'break' => ['pattern' => 'cells', 'values' => ['count' => $count, 'seed' => 3]],
            'motion' => ['kind' => 'free', 'values' => ['held' => 'whole'], 'release' => ['on' => 'touch', 'reach' => null]],
        ];
    }

    /**
     * A jar turned on a lathe, with keys and a weight.
     *
     * @return array<string, mixed>
     */
    protected static function lathe(): array
    {
        return [
            'id' => 'jar', 'name' => 'Jar', 'source' => ['kind' => 'shape', 'shape' => 'lathe', 'values' => ['profile' => [[0, 0], [0.1, 0], [0.12, 0.2], [0.1, 0.2], [0.08, 0.02], [0, 0.02]]]],
            'prepare' => [['step' => 'weld', 'values' => ['distance' => 1e-6]]],
            'break' => ['pattern' => 'cells', 'values' => ['count' => 9, 'weight' => ['source' => 'front', 'values' => new \stdClass, 'invert' => true]]],
            'place' => ['position' => [0, ['keys' => [['frame' => 0, 'value' => 0, 'ease' => 'smooth'], ['frame' => 9, 'value' => 1]], 'after' => 'swing'], 0], 'turn' => [0, ['keys' => [['frame' => 0, 'value' => 0], ['frame' => 9, 'value' => 90]]], 0], 'size' => 1],
            'motion' => ['kind' => 'keyed'],
        ] + self::box();
    }

    protected function attack(): Attack
    {
        return new Attack(fn (string $method, string $path, array $headers, string $body): Response => $this->call($method, '/api/'.$path, [], [], [], Attack::HEADERS + $headers, $body)->baseResponse, $this->folder);
    }
}
