<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\BakeSlice;
use App\Jobs\MakeShards;
use App\Jobs\WriteHandOff;
use App\Models\Bake;
use App\Models\Shot;
use App\Storage\YardFiles;
use Illuminate\Support\Facades\Queue;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\SilentProgress;

final class BakeTest extends YardTestCase
{
    public function test_a_bake_runs_to_its_end_and_is_handed_off(): void
    {
        [$id, $bake] = $this->baked();
        self::assertSame('done', $bake['state']);
        self::assertSame(13, $bake['framesDone']);
        self::assertSame(12, $bake['pieces']);
        self::assertSame(['kept' => 13, 'what' => null], array_diff_key($bake['plan'], ['seconds' => 0, 'same' => 0]));
        $frames = $this->get("/api/bakes/{$bake['id']}/frames")->assertOk()->getContent();
        self::assertSame(13 * (16 + 16 + 12 * 32), strlen((string) $frames));
        self::assertSame([12], $bake['counts']);
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

    /** A frame kept as a prop: the same pieces where they lay, with what the break laid open; what cannot be kept is refused in words. */
    public function test_a_frame_is_kept_as_a_prop_of_the_same_pieces(): void
    {
        [$id, $bake] = $this->baked();
        $made = $this->send('POST', "shots/$id/props/box/cast", ['revision' => 2, 'frame' => 12])->assertOk()->json('document.props.1');
        self::assertSame(['Box at 12', ['pattern' => 'parts', 'values' => []], 'fixed'], [$made['name'], $made['break'], $made['motion']['kind']]);
        $shot = Shot::query()->findOrFail($id)->spec();
        $cast = $shot->prop($made['id']) ?? self::fail('it is not there');
        $shards = app(PropMaker::class)->shards($cast, new SilentProgress);
        self::assertCount(12, $shards);
        $box = $shot->prop('box') ?? self::fail('the box is not there');
        $laidOpen = static fn (array $shards): int => array_sum(array_map(static fn (Shard $s): int => count(array_keys($s->mesh->sides ?? [], Mesh::INNER, true)), $shards));
        $own = app(PropMaker::class)->shards($box, new SilentProgress);
        self::assertSame($laidOpen($own), $laidOpen($shards));
        self::assertEqualsWithDelta(array_sum(array_map(static fn (Shard $s): float => $s->mass->volume, $own)), array_sum(array_map(static fn (Shard $s): float => $s->mass->volume, $shards)), 1e-5);
        // Where each lay: middles of pieces are where the baked frame has them.
        $numbers = array_values(unpack('g*', Bake::query()->findOrFail($bake['id'])->files()->streams(12)[0][StreamKind::Poses->value]) ?: []);
        $stands = $cast->place->at(12.0);
        $want = array_map(static fn (array $p): string => sprintf('%.4f %.4f %.4f', $p[0] + 0.0, $p[1] + 0.0, $p[2] + 0.0), array_chunk($numbers, 8));
        $have = array_map(static fn (Shard $s): string => vsprintf('%.4f %.4f %.4f', array_map(static fn (float $v): float => round($v, 4) + 0.0, $stands->point($s->centre())->toArray())), $shards);
        foreach ($have as $at) {
            [$x, $y, $z] = array_map(floatval(...), explode(' ', $at));
            self::assertLessThan(3e-4, min(array_map(static fn (array $p): float => sqrt(($p[0] - $x) ** 2 + ($p[1] - $y) ** 2 + ($p[2] - $z) ** 2), array_chunk($numbers, 8))), $at);
        }
        self::assertCount(count($want), array_unique($have));
        $again = $this->send('POST', "shots/$id/props/box/cast", ['revision' => 3, 'frame' => 12])->assertOk()->json('document.props.2');
        self::assertSame('Box at 12 2', $again['name'], 'each has a name of its own');
        self::assertStringContainsString('Frame 40 is not baked', $this->send('POST', "shots/$id/props/box/cast", ['revision' => 4, 'frame' => 40])->assertStatus(422)->json('problem.message'));
        self::assertStringContainsString('was not there when', $this->send('POST', "shots/$id/props/{$made['id']}/cast", ['revision' => 4, 'frame' => 3])->assertStatus(422)->json('problem.message'));
        self::assertCount(3, Shot::query()->findOrFail($id)->spec()->props, 'what was refused changed nothing');
    }

    public function test_how_deep_the_pieces_of_a_frame_lie_in_each_other_is_measured_when_asked_for(): void
    {
        [, $bake] = $this->baked();
        $this->get("/api/bakes/{$bake['id']}/overlap/12")->assertStatus(202);
        $found = $this->get("/api/bakes/{$bake['id']}/overlap/12")->assertOk()->json();
        self::assertSame([12, 12], [$found['frame'], $found['pieces']]);
        // It has landed: something lies in the ground or in its neighbour, by millimetres of a box of some decimetres.
        self::assertNotSame([], $found['deepest']);
        foreach ($found['deepest'] as $k => $one) {
            self::assertGreaterThan(0.0, $one['depth']);
            self::assertLessThan(0.02, $one['depth']);
            self::assertLessThanOrEqual($found['deepest'][max(0, $k - 1)]['share'], $one['share']);
            self::assertNotSame([$one['prop'], $one['number']], [$one['other']['prop'] ?? 'ground', $one['other']['number'] ?? null]);
        }
        // Before it breaks nothing has been let go.
        $this->get("/api/bakes/{$bake['id']}/overlap/4")->assertStatus(202);
        $falling = $this->get("/api/bakes/{$bake['id']}/overlap/4")->assertOk()->json();
        self::assertSame([0, []], [$falling['pieces'], $falling['deepest']]);
        self::assertSame('frame', $this->get("/api/bakes/{$bake['id']}/overlap/13")->assertStatus(422)->json('problem.path'));
        $this->get("/api/bakes/{$bake['id']}/overlap/-1")->assertStatus(422);
    }

    public function test_it_says_what_of_a_bake_is_still_true_and_why_no_more_and_undo_finds_it_again(): void
    {
        [$id, $first] = $this->baked();
        $plan = fn (): array => array_diff_key($this->get("/api/shots/$id/bake")->json('bake.plan'), ['seconds' => 0, 'same' => 0]);
        $this->edit($id, 2, [['op' => 'replace', 'path' => '/props/0/material/friction', 'value' => 0.1]])->assertOk();
        self::assertSame(['kept' => 0, 'what' => 'friction of Box'], $plan());
        $this->edit($id, 3, [['op' => 'replace', 'path' => '/props/0/material/colour', 'value' => '#000000'], ['op' => 'replace', 'path' => '/props/0/name', 'value' => 'Crate'], ['op' => 'replace', 'path' => '/props/0/material/friction', 'value' => 0.6]])->assertOk();
        self::assertSame(['kept' => 13, 'what' => null], $plan(), 'neither a colour nor a name bakes anything anew');
        $this->edit($id, 4, [['op' => 'replace', 'path' => '/props/0/break/values/count', 'value' => 30]])->assertOk();
        self::assertSame(['kept' => 0, 'what' => 'shape or break of Crate'], $plan());
        $this->send('POST', "shots/$id/bakes")->assertCreated();
        self::assertSame([30], $this->get("/api/shots/$id/bake")->json('bake.counts'));
        $this->send('POST', "shots/$id/undo", ['revision' => 5])->assertOk();
        self::assertSame(['kept' => 13, 'what' => 'shape or break of Crate'], $plan());
        $again = $this->send('POST', "shots/$id/bakes")->assertCreated()->json('bake');
        self::assertSame([$first['id'], 'done', 2], [$again['id'], $again['state'], Bake::query()->where('shot_id', $id)->count()], 'the earlier one is taken, and nothing computed');
    }

    public function test_an_edit_that_acts_late_keeps_the_frames_before_it_and_ends_as_a_whole_bake_would(): void
    {
        $gravity = static fn (int $frame): array => [['op' => 'replace', 'path' => '/world/gravity/1', 'value' => ['keys' => [['frame' => 0, 'value' => -9.8, 'ease' => 'hold'], ['frame' => $frame, 'value' => 3]]]]];
        $id = $this->shotWithBox();
        $this->edit($id, 2, $gravity(9))->assertOk();
        $one = $this->send('POST', "shots/$id/bakes")->assertCreated()->json('bake.id');
        $this->edit($id, 3, $gravity(10))->assertOk();
        $plan = $this->get("/api/shots/$id/bake")->json('bake.plan');
        self::assertSame([9, 'gravity y'], [$plan['kept'], $plan['what']]);
        self::assertGreaterThan(0.0, $plan['seconds']);
        $two = $this->send('POST', "shots/$id/bakes")->assertCreated()->json('bake');
        self::assertSame([9, 13, 'done'], [$two['kept'], $two['framesDone'], $this->get("/api/shots/$id/bake")->json('bake.state')]);
        $of = static fn (string $bake, int $from, int $count): string => Bake::query()->findOrFail($bake)->files()->records($from, $count);
        self::assertSame($of($one, 0, 9), $of($two['id'], 0, 9));
        self::assertNotSame($of($one, 9, 4), $of($two['id'], 9, 4));
        // The same from the start, in another shot.
        $other = $this->shotWithBox();
        $this->edit($other, 2, $gravity(10))->assertOk();
        $whole = $this->send('POST', "shots/$other/bakes")->assertCreated()->json('bake.id');
        self::assertSame($of($whole, 0, 13), $of($two['id'], 0, 13));
        self::assertSame(range(0, 12), array_column(Bake::query()->findOrFail($two['id'])->files()->figures(), 'frame'));
    }

    public function test_a_touch_that_keys_decide_is_found_without_a_bake_and_moves_what_hangs_on_it(): void
    {
        $keyed = static fn (string $id, array $position): array => ['op' => 'add', 'path' => '/props/-', 'value' => ['place' => ['position' => $position, 'turn' => [0, 0, 0], 'size' => 1], 'motion' => ['kind' => 'keyed'], 'break' => null] + self::box(1, $id)];
        $ram = static fn (int $start): array => [['keys' => [['frame' => 0, 'value' => $start], ['frame' => 40, 'value' => $start - 4]]], 0, 0];
        $id = $this->newShot();
        $this->edit($id, 0, [
            $keyed('post', [0, 0, 0]), $keyed('ram', $ram(3)), $keyed('lamp', [0, 2, 0]),
            ['op' => 'add', 'path' => '/cues', 'value' => [['id' => 'hit', 'name' => 'Hit', 'at' => ['on' => 'touch', 'one' => 'post', 'other' => 'ram', 'speed' => 1]]]],
            ['op' => 'replace', 'path' => '/props/2/place/position/1', 'value' => ['keys' => [['cue' => 'hit', 'offset' => -5, 'value' => 2], ['cue' => 'hit', 'offset' => 5, 'value' => 1]]]],
            ['op' => 'replace', 'path' => '/frames/last', 'value' => 48],
        ])->assertOk();
        self::assertSame([], (array) $this->get("/api/shots/$id/moments")->json('found'), 'the pieces are not made yet');
        $one = $this->send('POST', "shots/$id/bakes")->assertCreated()->json('bake.id');
        // Two boxes 0.3 m wide: their faces meet when the ram is 0.3 m off, 0.1 m a frame.
        self::assertEqualsWithDelta(27.0, $this->get("/api/shots/$id/moments")->json('found.hit'), 0.01);
        $lamp = static fn (string $bake, int $frame): float => unpack('g', Bake::query()->findOrFail($bake)->files()->streams($frame)[2][1], 4)[1];
        self::assertEqualsWithDelta($lamp($one, 0) - 0.5, $lamp($one, 27), 1e-3);
        // The ram starts nearer: all is sooner, and a bake knows it.
        $this->edit($id, 1, [['op' => 'replace', 'path' => '/props/1/place/position', 'value' => $ram(2)]])->assertOk();
        $two = $this->send('POST', "shots/$id/bakes")->assertCreated()->json('bake.id');
        self::assertNotSame($one, $two);
        self::assertEqualsWithDelta($lamp($two, 0) - 0.5, $lamp($two, 17), 1e-3);
        // What hangs on a touch that comes later leaves what is before the first of its keys.
        $this->edit($id, 2, [['op' => 'replace', 'path' => '/props/2/place/position/1/keys/1/value', 'value' => 0.5]])->assertOk();
        self::assertContains($this->get("/api/shots/$id/bake")->json('bake.plan.kept'), [12, 13], 'the first of them stands at 12, to a hundredth');
    }

    public function test_two_who_ask_at_once_get_one_bake_and_another_shot_takes_its_place(): void
    {
        Queue::fake();
        $id = $this->shotWithBox();
        $one = $this->send('POST', "shots/$id/bakes")->assertCreated()->json('bake.id');
        self::assertSame($one, $this->send('POST', "shots/$id/bakes")->json('bake.id'));
        Queue::assertPushed(BakeSlice::class, 1);
        $this->edit($id, 2, [['op' => 'replace', 'path' => '/frames/last', 'value' => 20], ['op' => 'replace', 'path' => '/props/0/material/density', 'value' => 900]])->assertOk();
        $two = $this->send('POST', "shots/$id/bakes")->json('bake.id');
        self::assertSame(['cancelled', 'queued'], [Bake::query()->findOrFail($one)->state, Bake::query()->findOrFail($two)->state]);
    }

    public function test_what_is_handed_off_is_what_was_baked_or_nothing(): void
    {
        [, $bake] = $this->baked();
        $row = Bake::query()->findOrFail($bake['id']);
        $row->update(['counts' => [11]]);
        $id = $this->send('POST', "bakes/{$bake['id']}/hand-offs", ['format' => 'glb'])->assertCreated()->json('id');
        $this->get("/api/hand-offs/$id")->assertJsonPath('state', 'failed')->assertJsonPath('problem.kind', 'disk');
        exec('rm -r '.escapeshellarg($this->folder.'/files/shards'));
        $row->update(['counts' => [12], 'shards' => ['box' => str_repeat('0', 64)]]);
        $id = $this->send('POST', "bakes/{$bake['id']}/hand-offs", ['format' => 'glb'])->assertCreated()->json('id');
        self::assertStringContainsString('are gone', $this->get("/api/hand-offs/$id")->json('problem.message'));
    }

    public function test_a_bake_in_many_slices_and_after_a_killed_worker_gives_the_same_bytes(): void
    {
        [, $whole] = $this->baked();
        $want = Bake::query()->findOrFail($whole['id'])->files()->records(0, 99);

        config(['yard.bake_slice' => 0.0]);
        [, $sliced] = $this->baked();
        self::assertNotSame($whole['id'], $sliced['id']);
        self::assertSame($want, Bake::query()->findOrFail($sliced['id'])->files()->records(0, 99));

        // A worker that dies after a slice leaves frames beyond the checkpoint; the next one starts from it.
        Queue::fake();
        $id = $this->shotWithBox();
        $bake = Bake::query()->findOrFail($this->send('POST', "shots/$id/bakes")->json('bake.id'));
        for ($i = 0; $i < 4; $i++) {
            app()->call([new BakeSlice($bake->id), 'handle']);
        }
        $bake->refresh();
        self::assertSame('running', $bake->state);
        file_put_contents($this->folder."/files/bakes/{$bake->id}/frames-00000", random_bytes(100), FILE_APPEND);
        for ($i = 0; $i < 20; $i++) {
            app()->call([new BakeSlice($bake->id), 'handle']);
        }
        self::assertSame('done', $bake->refresh()->state);
        self::assertSame($want, $bake->files()->records(0, $bake->frames_done));
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

    /** Two browsers on one shot: one bakes it anew while the other takes up the bake before. */
    public function test_a_shot_has_one_bake_under_way_whoever_resumes_another(): void
    {
        Queue::fake();
        $id = $this->shotWithBox();
        $one = (string) $this->send('POST', "shots/$id/bakes")->json('bake.id');
        $this->send('POST', "bakes/$one/cancel")->assertOk();
        $this->edit($id, 2, [['op' => 'replace', 'path' => '/props/0/material/density', 'value' => 900]])->assertOk();
        $two = (string) $this->send('POST', "shots/$id/bakes")->assertCreated()->json('bake.id');
        $this->send('POST', "bakes/$one/resume")->assertOk()->assertJsonPath('bake.state', 'queued');
        self::assertSame(['queued', 'cancelled'], [Bake::query()->findOrFail($one)->state, Bake::query()->findOrFail($two)->state]);
        $this->send('POST', "bakes/$two/resume")->assertOk()->assertJsonPath('bake.state', 'queued');
        $this->send('POST', "bakes/$two/resume")->assertOk()->assertJsonPath('bake.state', 'queued');
        $this->send('GET', "shots/$id/bake")->assertJsonPath('bake.id', $two);
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
        $files = $bake->files();
        file_put_contents($this->folder."/files/bakes/{$bake->id}/figures.jsonl", '{"frame":12,"rel', FILE_APPEND);
        $files->put([new Frame(12, $files->streams(12), ['released' => ['box' => 7], 'cracks' => [], 'moving' => 0, 'resting' => 0, 'energy' => 0.0, 'overlap' => 0.0, 'grains' => 0, 'work' => ['contacts' => 0.05], 'seconds' => 0.0], [])]);
        self::assertSame(['box' => 7], $files->figures()[12]['released']);
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
            $bytes = self::bytes($this->get("/api/shots/$id/props/box/picture?first=1"));

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
