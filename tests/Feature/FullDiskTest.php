<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Http\Door;
use App\Models\Bake;
use App\Storage\Room;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

/** A disk that fills: what is said, what still works, and what goes on by itself. */
final class FullDiskTest extends YardTestCase
{
    use RealWorkers;

    private string $disk = '';

    protected function setUp(): void
    {
        parent::setUp();
        $this->disk = $this->folder.'/disk';
        mkdir($this->disk);
        exec('mount -t tmpfs -o size=24m tmpfs '.escapeshellarg($this->disk).' 2>&1', $out, $code);
        if ($code !== 0) {
            rmdir($this->disk);
            $this->disk = '';
            self::markTestSkipped('No small disk may be mounted here: '.implode(' ', $out));
        }
        touch($this->disk.'/yard.sqlite');
        mkdir($this->disk.'/files');
        Door::set($this->disk.'/files', [], '');
        config(['database.connections.sqlite.database' => $this->disk.'/yard.sqlite', 'filesystems.disks.local.root' => $this->disk.'/files']);
        DB::purge();
        app()->forgetInstance('filesystem');
        \Illuminate\Support\Facades\Storage::clearResolvedInstances();
        Artisan::call('migrate', ['--force' => true]);
    }

    protected function tearDown(): void
    {
        $this->killAll();
        DB::disconnect();
        if ($this->disk !== '') {
            exec('umount -l '.escapeshellarg($this->disk));
        }
        parent::tearDown();
    }

    public function test_what_cannot_be_written_is_said_with_how_much_is_wanted_and_deleting_works(): void
    {
        $id = $this->shot(12);
        $other = $this->shot(12);
        $this->send('POST', "shots/$id/bakes")->assertCreated();
        Artisan::call('yard:clear');
        self::assertFileExists($this->disk.'/reserve');
        $this->fill();
        $large = [['op' => 'add', 'path' => '/notes', 'value' => array_map(static fn (int $k): array => ['frame' => $k, 'text' => str_repeat('word ', 20)], range(0, 80))]];
        foreach ([
            'an edit' => fn () => $this->untilFull(fn () => $this->edit($id, (int) $this->send('GET', "shots/$id")->json('revision'), $large + [1 => ['op' => 'replace', 'path' => '/frames/last', 'value' => random_int(30, 90)]])),
            'a new shot' => fn () => $this->untilFull(fn () => $this->send('POST', 'shots', ['from' => $id])),
            'a file' => fn () => $this->upload('pictures?name=a.png', random_bytes(300_000)),
            'a bake' => fn () => $this->untilFull(function () use ($other) {
                $this->send('POST', "shots/$other/bakes");

                return $this->send('POST', 'shots', ['from' => $other]);
            }),
        ] as $what => $try) {
            $said = $try();
            self::assertSame([507, 'full'], [$said->getStatusCode(), $said->json('problem.kind')], $what.': '.$said->getContent());
            self::assertMatchesRegularExpression('/^The disk is full: [\d.]+ MB wanted, [\d.]+ MB free\.$/', $said->json('problem.message'), $what);
            self::assertStringContainsString('Make room', $said->json('problem.remedy'));
        }
        $this->send('GET', "shots/$id")->assertOk();
        $this->send('DELETE', "shots/$id")->assertNoContent();
        $this->send('GET', "shots/$id")->assertNotFound();
        $this->send('DELETE', 'space')->assertOk();
        self::assertGreaterThan(100_000, disk_free_space($this->disk));
    }

    public function test_a_running_bake_says_so_and_goes_on_by_itself_when_there_is_room(): void
    {
        $whole = Bake::query()->findOrFail($this->send('POST', 'shots/'.$this->shot(120).'/bakes')->assertCreated()->json('bake.id'));
        self::assertSame('done', $whole->state);
        $want = md5($whole->files()->records(0, 99));
        config(['queue.default' => 'database']);
        $bake = Bake::query()->findOrFail($this->send('POST', 'shots/'.$this->shot(120).'/bakes')->assertCreated()->json('bake.id'));
        $this->worker();
        $this->until(static fn (): bool => $bake->refresh()->frames_done > 3, 60);
        $this->fill();
        $this->until(static fn (): bool => str_contains($bake->refresh()->note, 'The disk is full') || $bake->state === 'done' || $bake->updated_at->diffInSeconds() > 5, 30);
        self::assertSame('running', $bake->state, (string) json_encode($bake->problem));
        sleep(6);
        self::assertSame(['running', null], [$bake->refresh()->state, $bake->problem]);
        self::assertFalse(Room::isThere());
        unlink($this->disk.'/ballast');
        $this->until(static fn (): bool => $bake->refresh()->state !== 'running', 120);
        self::assertSame(['done', ''], [$bake->state, $bake->note]);
        self::assertSame($want, md5($bake->files()->records(0, 99)));
    }

    private function shot(int $pieces): string
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box($pieces)], ['op' => 'replace', 'path' => '/frames/last', 'value' => 30]])->assertOk();

        return $id;
    }

    /** Takes all the room there is. */
    private function fill(): void
    {
        exec('dd if=/dev/zero of='.escapeshellarg($this->disk.'/ballast').' bs=4k 2>/dev/null');
        self::assertLessThan(8192, disk_free_space($this->disk));
    }

    /**
     * A log that is written over and over has some room of its own: done again until that is used up.
     *
     * @param  \Closure(): \Illuminate\Testing\TestResponse<\Illuminate\Http\Response>  $do
     * @return \Illuminate\Testing\TestResponse<\Illuminate\Http\Response>
     */
    private function untilFull(\Closure $do): \Illuminate\Testing\TestResponse
    {
        for ($i = 0; $i < 200; $i++) {
            $said = $do();
            if ($said->getStatusCode() >= 400) {
                return $said;
            }
        }
        self::fail('The disk never filled.');
    }
}
