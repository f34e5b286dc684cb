<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\BakeSlice;
use App\Jobs\MakeShards;
use App\Jobs\WriteHandOff;
use App\Models\Bake;
use App\Models\Shot;
use App\Storage\YardFiles;
use App\Yard\BakeFiles;
use Illuminate\Support\Facades\Queue;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Shot\PropMaker;

final class BakeTest extends YardTestCase
{
    public function test_a_bake_runs_to_its_end_and_is_handed_off(): void
    {
        [$id, $bake] = $this->baked();
        self::assertSame('done', $bake['state']);
        self::assertSame(13, $bake['framesDone']);
        self::assertSame(12, $bake['pieces']);
        self::assertSame([], $bake['outOfDate']);
        $frames = $this->get("/api/bakes/{$bake['id']}/frames")->assertOk()->getContent();
        self::assertSame(13 * 12 * 32, strlen((string) $frames));
        $figures = $this->get("/api/bakes/{$bake['id']}/figures")->json();
        self::assertSame(range(0, 12), array_column($figures, 'frame'));
        $marks = array_merge(...array_column($figures, 'marks'));
        self::assertSame('ground', $marks[0]['other']);
        // It falls from 0.4 m, so it lands at √(2gh).
        self::assertEqualsWithDelta(sqrt(2 * 9.80665 * 0.4), $marks[0]['speed'], 0.25);
        foreach (['glb', 'obj', 'stl', 'ply'] as $format) {
            $handOff = $this->send('POST', "bakes/{$bake['id']}/hand-offs", ['format' => $format])->assertCreated()->json();
            $written = $this->get("/api/hand-offs/{$handOff['id']}")->assertJsonPath('state', 'done')->json();
            self::assertGreaterThan(1000, $written['bytes']);
            $this->get("/api/hand-offs/{$handOff['id']}/file")->assertOk();
        }
        $this->send('POST', "bakes/{$bake['id']}/hand-offs", ['format' => 'docx'])->assertStatus(422);
        self::assertNotSame('', $id);
    }

    public function test_a_change_puts_the_bake_out_of_date_and_says_why_and_undo_brings_it_back(): void
    {
        [$id] = $this->baked();
        $this->edit($id, 2, [['op' => 'replace', 'path' => '/props/0/material/friction', 'value' => 0.1]])->assertOk();
        self::assertSame(['material of Box'], $this->get("/api/shots/$id/bake")->json('bake.outOfDate'));
        $this->edit($id, 3, [['op' => 'replace', 'path' => '/props/0/material/colour', 'value' => '#000000']])->assertOk();
        self::assertSame(['material of Box'], $this->get("/api/shots/$id/bake")->json('bake.outOfDate'), 'a colour bakes nothing anew');
        $this->edit($id, 4, [['op' => 'replace', 'path' => '/props/0/break/values/count', 'value' => 30]])->assertOk();
        self::assertSame(['shape or break of Box', 'material of Box'], $this->get("/api/shots/$id/bake")->json('bake.outOfDate'));
        foreach ([5, 6, 7] as $revision) {
            $this->send('POST', "shots/$id/undo", ['revision' => $revision]);
        }
        self::assertSame([], $this->get("/api/shots/$id/bake")->json('bake.outOfDate'));
    }

    public function test_a_bake_in_many_slices_and_after_a_killed_worker_gives_the_same_bytes(): void
    {
        [, $whole] = $this->baked();
        $want = (new BakeFiles(Bake::query()->findOrFail($whole['id'])))->frames(0, 99);

        config(['yard.bake_slice' => 0.0]);
        [, $sliced] = $this->baked();
        self::assertSame($want, (new BakeFiles(Bake::query()->findOrFail($sliced['id'])))->frames(0, 99));

        // A worker that dies after a slice leaves frames beyond the checkpoint; the next one starts from it.
        Queue::fake();
        $id = $this->shotWithBox();
        $bake = Bake::query()->findOrFail($this->send('POST', "shots/$id/bakes")->json('bake.id'));
        for ($i = 0; $i < 4; $i++) {
            app()->call([new BakeSlice($bake->id), 'handle']);
        }
        $bake->refresh();
        self::assertSame('running', $bake->state);
        file_put_contents((new BakeFiles($bake))->framesPath(), random_bytes(100), FILE_APPEND);
        for ($i = 0; $i < 20; $i++) {
            app()->call([new BakeSlice($bake->id), 'handle']);
        }
        self::assertSame('done', $bake->refresh()->state);
        self::assertSame($want, (new BakeFiles($bake))->frames(0, $bake->frames_done));
    }

    public function test_a_cancelled_bake_stops_keeps_its_frames_and_goes_on_when_resumed(): void
    {
        Queue::fake();
        config(['yard.bake_slice' => 0.0]);
        $id = $this->shotWithBox();
        $bake = Bake::query()->findOrFail($this->send('POST', "shots/$id/bakes")->json('bake.id'));
        app()->call([new BakeSlice($bake->id), 'handle']);
        app()->call([new BakeSlice($bake->id), 'handle']);
        $this->send('POST', "bakes/{$bake->id}/cancel")->assertJsonPath('bake.state', 'cancelled');
        app()->call([new BakeSlice($bake->id), 'handle']);
        self::assertSame(3, $bake->refresh()->frames_done);
        $this->send('POST', "bakes/{$bake->id}/resume")->assertJsonPath('bake.state', 'queued');
        Queue::assertPushed(BakeSlice::class);
        app()->call([new BakeSlice($bake->id), 'handle']);
        self::assertSame(4, $bake->refresh()->frames_done);
    }

    public function test_a_full_or_unwritable_disk_fails_in_words_and_can_be_resumed(): void
    {
        Queue::fake();
        $id = $this->shotWithBox();
        $bake = Bake::query()->findOrFail($this->send('POST', "shots/$id/bakes")->json('bake.id'));
        // Root may write anywhere, but not into a folder that is a file.
        file_put_contents(YardFiles::path('bakes'), 'in the way');
        app()->call([new BakeSlice($bake->id), 'handle']);
        $bake->refresh();
        self::assertSame('failed', $bake->state);
        self::assertSame('disk', $bake->problem['kind'] ?? '');
        unlink($this->folder.'/files/bakes');
        $this->send('POST', "bakes/{$bake->id}/resume");
        app()->call([new BakeSlice($bake->id), 'handle']);
        self::assertSame('done', $bake->refresh()->state);
    }

    public function test_a_torn_line_of_figures_costs_no_other_line(): void
    {
        [, $view] = $this->baked();
        $bake = Bake::query()->findOrFail($view['id']);
        $files = new BakeFiles($bake);
        file_put_contents($this->folder."/files/bakes/{$bake->id}/figures.jsonl", '{"frame":12,"rel', FILE_APPEND);
        $files->put([new Frame(12, $files->frames(12, 1), ['released' => 7, 'moving' => 0, 'resting' => 0, 'energy' => 0.0, 'overlap' => 0.0, 'seconds' => 0.0], [])]);
        self::assertSame(7, $files->figures()[12]['released']);
    }

    public function test_a_hand_off_in_many_slices_holds_what_one_in_one_holds_and_leaves_nothing_beside_it(): void
    {
        [, $bake] = $this->baked();
        $write = function () use ($bake): array {
            $id = $this->send('POST', "bakes/{$bake['id']}/hand-offs", ['format' => 'obj'])->assertCreated()->json('id');
            $view = $this->get("/api/hand-offs/$id")->assertJsonPath('state', 'done')->assertJsonPath('share', 1)->json();
            $folder = $this->folder."/files/hand-offs/$id";
            self::assertSame([$view['file']], array_values(array_diff(scandir($folder) ?: [], ['.', '..'])));
            $zip = new \ZipArchive;
            $zip->open($folder.'/'.$view['file']);
            $held = [];
            for ($i = 0; $i < $zip->numFiles; $i++) {
                $held[$zip->getNameIndex($i)] = $zip->getFromIndex($i);
            }

            return $held;
        };
        $whole = $write();
        self::assertCount(13, $whole);
        config(['yard.bake_slice' => 0.0]);
        self::assertSame($whole, $write());
    }

    public function test_a_hand_off_that_fails_says_why_and_clears_what_it_wrote(): void
    {
        [, $bake] = $this->baked();
        Queue::fake();
        $id = $this->send('POST', "bakes/{$bake['id']}/hand-offs", ['format' => 'obj'])->assertCreated()->json('id');
        mkdir($this->folder."/files/hand-offs/$id/new-shot-obj.zip", recursive: true);
        file_put_contents($this->folder."/files/hand-offs/$id/half.obj", 'half');
        app()->call([new WriteHandOff($id), 'handle']);
        $this->get("/api/hand-offs/$id")->assertJsonPath('state', 'failed')->assertJsonPath('problem.kind', 'disk');
        self::assertSame([], array_filter(glob($this->folder."/files/hand-offs/$id/*") ?: [], is_file(...)));
    }

    public function test_nothing_to_bake_is_said(): void
    {
        $id = $this->newShot();
        $this->send('POST', "shots/$id/bakes")->assertStatus(422)->assertJsonPath('problem.message', 'There is nothing to bake yet.');
    }

    public function test_a_large_break_is_made_in_the_background(): void
    {
        Queue::fake();
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box(400)]])->assertOk();
        $this->get("/api/shots/$id/props/box/picture")->assertStatus(202);
        Queue::assertPushed(MakeShards::class, 1);
    }

    public function test_a_large_break_shows_a_first_look_while_it_is_made(): void
    {
        Queue::fake();
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box(400)]])->assertOk();
        $this->get("/api/shots/$id/props/box/picture?first=1")->assertStatus(202)->assertJsonPath('first', false);
        $spec = Shot::query()->findOrFail($id)->spec()->props[0];
        $job = new MakeShards($id, 'box', $spec->shardKey());
        $head = function () use ($id): array {
            $file = $this->get("/api/shots/$id/props/box/picture?first=1")->assertOk()->baseResponse;
            assert($file instanceof BinaryFileResponse);
            $bytes = (string) file_get_contents($file->getFile()->getPathname());

            return json_decode(substr($bytes, 4, unpack('V', $bytes)[1]), true);
        };
        (fn () => $this->showFirst($spec, app(PropMaker::class)))->call($job);
        $this->get("/api/shots/$id/props/box/picture")->assertStatus(202)->assertJsonPath('first', true);
        $first = $head();
        self::assertTrue($first['first']);
        self::assertLessThan(120, count($first['pieces']));
        app()->call([$job, 'handle']);
        $whole = $head();
        self::assertFalse($whole['first']);
        self::assertGreaterThanOrEqual(400, count($whole['pieces']));
        self::assertSame([], glob($this->folder.'/files/pictures/first/*'));
    }

    private function shotWithBox(): string
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box()]])->assertOk();
        $this->edit($id, 1, [['op' => 'replace', 'path' => '/frames/last', 'value' => 12]])->assertOk();

        return $id;
    }

    /** @return array{string, array<string, mixed>} */
    private function baked(): array
    {
        $id = $this->shotWithBox();
        $this->send('POST', "shots/$id/bakes")->assertCreated();

        return [$id, $this->get("/api/shots/$id/bake")->json('bake')];
    }
}
