<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Bake;
use App\Models\Shot;
use App\Storage\YardFiles;
use App\Yard\Clearing;
use App\Yard\Keeping;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

final class ClearingTest extends YardTestCase
{
    public function test_what_nothing_refers_to_goes_and_all_else_stays(): void
    {
        $used = $this->mesh('used');
        $undone = $this->mesh('undone');
        $spare = $this->mesh('spare');
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $this->prop('used', $used)], ['op' => 'add', 'path' => '/props/-', 'value' => self::box()], ['op' => 'replace', 'path' => '/frames/last', 'value' => 6]])->assertOk();
        $this->edit($id, 1, [['op' => 'add', 'path' => '/props/-', 'value' => $this->prop('undone', $undone)]])->assertOk();
        $this->edit($id, 2, [['op' => 'remove', 'path' => '/props/2']])->assertOk();
        $first = $this->bake($id);
        $this->edit($id, 3, [['op' => 'replace', 'path' => '/props/1/break/values/count', 'value' => 30]])->assertOk();
        $second = $this->bake($id);
        $this->get("/api/shots/$id/props/box/picture")->assertOk();
        $this->send('POST', "bakes/$second/hand-offs", ['format' => 'glb'])->assertCreated();
        file_put_contents(YardFiles::path('incoming/underway'), 'half');
        $before = $this->files();
        self::assertSame(0, (new Clearing)->clear(3600), 'all of it is young');
        self::assertSame($before, $this->files());
        $space = $this->get('/api/space')->assertOk()->json();
        self::assertGreaterThan(0, $space['clearable']);
        self::assertGreaterThan($space['clearable'], $space['bytes']);
        $now = $this->send('DELETE', 'space')->assertOk()->json();
        self::assertSame($space['clearable'], $now['cleared']);
        self::assertSame([$space['bytes'] - $space['clearable'], 0], [$now['bytes'], $now['clearable']]);
        $left = implode(' ', $this->files());
        foreach ([$used, $undone, $second, 'underway'] as $stays) {
            self::assertStringContainsString($stays, $left);
        }
        foreach ([$spare, $first] as $goes) {
            self::assertStringNotContainsString($goes, $left);
        }
        self::assertNull(Bake::query()->find($first));
        // And everything still works: undo brings the prop back, and the picture and the frames are there.
        $revision = $this->send('GET', "shots/$id")->json('revision');
        $this->send('POST', "shots/$id/undo", ['revision' => $revision])->assertOk();
        $this->send('POST', "shots/$id/undo", ['revision' => $revision + 1])->assertOk();
        $this->get("/api/shots/$id/props/undone/picture")->assertOk();
        $this->get("/api/bakes/$second/frames?count=7")->assertOk();
    }

    public function test_a_deleted_shot_stops_its_jobs_can_come_back_and_goes_when_cleared(): void
    {
        Queue::fake();
        $asset = $this->mesh('used');
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $this->prop('used', $asset)], ['op' => 'add', 'path' => '/props/-', 'value' => self::box()]])->assertOk();
        $bake = $this->send('POST', "shots/$id/bakes")->assertCreated()->json('bake.id');
        $this->send('DELETE', "shots/$id")->assertNoContent();
        self::assertSame('cancelled', Bake::query()->findOrFail($bake)->state);
        (new Clearing)->clear(3600);
        $this->send('POST', "shots/$id/restore")->assertOk();
        $this->get("/api/shots/$id/props/used/picture")->assertOk();
        $this->send('DELETE', "shots/$id")->assertNoContent();
        $this->send('DELETE', 'space')->assertOk()->assertJsonPath('clearable', 0);
        self::assertNull(Shot::withTrashed()->find($id));
        self::assertNull(Bake::query()->find($bake));
        self::assertSame([], array_values(array_filter($this->files(), static fn (string $f): bool => str_contains($f, '/assets/'))));
        $this->send('POST', "shots/$id/restore")->assertStatus(404);
    }

    public function test_what_can_be_made_again_is_held_within_its_limit_while_the_yard_runs(): void
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box(40)], ['op' => 'replace', 'path' => '/frames/last', 'value' => 12]])->assertOk();
        $bakes = [];
        $keeping = app(Keeping::class);
        foreach (range(1, 6) as $n) {
            $this->edit($id, $n, [['op' => 'replace', 'path' => '/props/0/break/values/seed', 'value' => $n + 10]])->assertOk();
            $bakes[$n] = $this->bake($id);
            $this->get("/api/shots/$id/props/box/picture")->assertOk();
            // An hour goes by.
            Bake::query()->update(['wanted_at' => DB::raw("strftime('%Y-%m-%d %H:%M:%f000', wanted_at, '-1 hour')")]);
            foreach ($this->files() as $file) {
                touch($file, (int) filemtime($file) - 3600);
            }
        }
        $shown = self::bytes($this->get("/api/shots/$id/props/box/picture"));
        $all = $keeping->bytes();
        self::assertSame(0, $keeping->within($all));
        $gone = $keeping->within((int) (0.7 * $all));
        self::assertSame($all - $gone, $keeping->bytes());
        self::assertLessThanOrEqual(0.7 * $all, $keeping->bytes());
        self::assertGreaterThan(0.4 * $all, $keeping->bytes());
        self::assertNull(Bake::query()->find($bakes[1]), 'the oldest goes first');
        self::assertNotNull(Bake::query()->find($bakes[5]));
        // However little is allowed, what is shown stays; what was dropped is made again where it is asked for.
        $keeping->within(1);
        self::assertSame([$bakes[6]], Bake::query()->pluck('id')->all());
        $this->get("/api/bakes/{$bakes[6]}/frames?count=13")->assertOk();
        self::assertSame($shown, self::bytes($this->get("/api/shots/$id/props/box/picture")));
        $this->send('POST', "shots/$id/undo", ['revision' => 7])->assertOk();
        $this->get("/api/shots/$id/props/box/picture")->assertOk();
        self::assertSame('done', Bake::query()->findOrFail($this->bake($id))->state);
    }

    public function test_jobs_look_after_the_limit(): void
    {
        config(['yard.keep' => 1]);
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box(40)], ['op' => 'replace', 'path' => '/frames/last', 'value' => 6]])->assertOk();
        $old = $this->bake($id);
        Bake::query()->whereKey($old)->update(['wanted_at' => '2020-01-01 00:00:00.000000']);
        touch(YardFiles::path('locks/keeping'), time() - 100);
        $this->edit($id, 1, [['op' => 'replace', 'path' => '/props/0/material/density', 'value' => 900]])->assertOk();
        $this->bake($id);
        self::assertNull(Bake::query()->find($old));
    }

    private function mesh(string $name): string
    {
        return (string) $this->upload("assets?name=$name.obj", "# $name\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n")->assertCreated()->json('asset');
    }

    /** @return array<string, mixed> */
    private function prop(string $id, string $asset): array
    {
        return ['source' => ['kind' => 'mesh', 'asset' => $asset, 'file' => "$id.obj", 'up' => 'y', 'unit' => 'm'], 'motion' => ['kind' => 'fixed'], 'break' => null] + self::box(3, $id);
    }

    private function bake(string $shot): string
    {
        return (string) $this->send('POST', "shots/$shot/bakes")->assertCreated()->json('bake.id');
    }

    /** @return list<string> */
    private function files(): array
    {
        exec('find '.escapeshellarg($this->folder.'/files').' -type f | sort', $files);

        return $files;
    }
}
