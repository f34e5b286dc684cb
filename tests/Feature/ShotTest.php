<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Yard\NewShot;
use Illuminate\Support\Facades\Artisan;
use PHPUnit\Framework\Attributes\DataProvider;

final class ShotTest extends YardTestCase
{
    public function test_shots_lie_in_folders_bear_tags_and_can_be_had_back_for_a_time(): void
    {
        $id = $this->newShot();
        $before = $this->get('/api/shots')->json('0.changedAt');
        $this->travel(1)->hours();
        $this->send('PUT', "shots/$id/place", ['folder' => ' Garden ', 'tags' => ['client', 'client', '', 'template']])->assertNoContent();
        $this->get("/api/shots/$id?opens=1")->assertOk();
        $card = $this->get('/api/shots')->json('0');
        self::assertSame(['Garden', ['client', 'template'], $before], [$card['folder'], $card['tags'], $card['changedAt']], 'that is no change of the shot');
        self::assertNotNull($card['openedAt']);
        $copy = $this->send('POST', 'shots', ['from' => $id])->assertCreated()->json('id');
        self::assertSame('Garden', array_column($this->get('/api/shots')->json(), 'folder', 'id')[$copy], 'beside it');
        $this->send('PUT', "shots/$id/place", ['folder' => str_repeat('x', 61)])->assertStatus(422);
        $this->send('PUT', "shots/$id/place", ['tags' => 'client'])->assertStatus(422);
        $this->send('PUT', "shots/$id/place", ['tags' => [str_repeat('x', 25)]])->assertStatus(422);
        $this->send('DELETE', "shots/$id")->assertNoContent();
        $deleted = $this->get('/api/shots/deleted')->assertOk()->json();
        self::assertSame([$id], array_column($deleted, 'id'));
        self::assertEqualsWithDelta(24 * 3600, strtotime($deleted[0]['until']) - now()->getTimestamp(), 5);
        $this->send('POST', "shots/$id/restore")->assertOk();
        self::assertSame([], $this->get('/api/shots/deleted')->json());
    }

    public function test_a_shot_is_made_renamed_copied_deleted_and_brought_back(): void
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'replace', 'path' => '/name', 'value' => 'Potting shed']])->assertOk()->assertJsonPath('revision', 1);
        $copy = $this->send('POST', 'shots', ['from' => $id])->assertCreated()->json('document.name');
        self::assertSame('Potting shed 2', $copy);
        $this->send('DELETE', "shots/$id")->assertNoContent();
        self::assertSame(['Potting shed 2'], array_column($this->send('GET', 'shots')->json(), 'name'));
        $this->send('POST', "shots/$id/restore")->assertOk()->assertJsonPath('document.name', 'Potting shed');
        self::assertCount(2, $this->send('GET', 'shots')->json());
    }

    public function test_undo_and_redo_lead_back_and_forth_exactly(): void
    {
        $id = $this->newShot();
        $states = [$this->send('GET', "shots/$id")->json('document')];
        $patches = [
            [['op' => 'add', 'path' => '/props/-', 'value' => self::box()]],
            [['op' => 'replace', 'path' => '/props/0/break/values/count', 'value' => 40], ['op' => 'replace', 'path' => '/frames/last', 'value' => 48]],
            [['op' => 'remove', 'path' => '/props/0']],
        ];
        foreach ($patches as $k => $patch) {
            $states[] = $this->edit($id, $k, $patch, "Step $k")->assertOk()->json('document');
        }
        foreach ([2, 1, 0] as $k) {
            $revision = $this->send('GET', "shots/$id")->json('revision');
            self::assertEquals($states[$k], $this->send('POST', "shots/$id/undo", ['revision' => $revision])->assertOk()->json('document'));
        }
        $this->send('GET', "shots/$id")->assertJsonPath('undo', null)->assertJsonPath('redo', 'Step 0');
        foreach ([1, 2, 3] as $k) {
            $revision = $this->send('GET', "shots/$id")->json('revision');
            self::assertEquals($states[$k], $this->send('POST', "shots/$id/redo", ['revision' => $revision])->assertOk()->json('document'));
        }
    }

    public function test_one_goes_to_any_state_of_a_shot_and_names_it(): void
    {
        $id = $this->send('POST', 'shots')->json('id');
        foreach (['One', 'Two', 'Three'] as $k => $name) {
            $this->send('POST', "shots/$id/edits", ['revision' => $k, 'label' => "Call it $name", 'patch' => [['op' => 'replace', 'path' => '/name', 'value' => $name]]])->assertOk();
        }
        $edits = $this->send('GET', "shots/$id/history")->json('edits');
        self::assertSame(['Call it Three', 'Call it Two', 'Call it One'], array_column($edits, 'label'), 'the last first');
        [$three, $two, $one] = array_column($edits, 'id');
        // Back over two at once, forth over one, back to the start and all the way forth: each is one change.
        foreach ([[$one, 'One', 4], [$two, 'Two', 5], [0, 'New shot', 6], [$three, 'Three', 7], [$three, 'Three', 7]] as [$to, $name, $revision]) {
            $before = $this->send('GET', "shots/$id")->json('revision');
            $shot = $this->send('POST', "shots/$id/history/$to", ['revision' => $before])->assertOk()->json();
            self::assertSame([$name, $revision], [$shot['document']['name'], $shot['revision']]);
        }
        $this->send('POST', "shots/$id/history/$one", ['revision' => 7])->assertOk();
        self::assertSame([true, true, false], array_column($this->send('GET', "shots/$id/history")->json('edits'), 'undone'), 'what was undone can be had again');
        self::assertSame('client liked this', $this->send('PUT', "shots/$id/history/$two/name", ['name' => ' client liked this '])->json('edits.1.name'));
        $this->send('PUT', "shots/$id/history/$two/name", ['name' => str_repeat('x', 81)])->assertStatus(422);
        $this->send('POST', "shots/$id/history/$one", ['revision' => 3])->assertStatus(409);
        $this->send('POST', "shots/$id/history/999999", ['revision' => 8])->assertNotFound();
        self::assertSame('One', $this->send('GET', "shots/$id")->json('document.name'), 'none of that changed anything');
    }

    public function test_each_state_keeps_how_it_looked_while_it_was_the_shot(): void
    {
        $id = $this->send('POST', 'shots')->json('id');
        $jpeg = static function (int $colour): string {
            $image = imagecreatetruecolor(8, 5);
            imagefill($image, 0, 0, $colour);
            ob_start();
            imagejpeg($image);

            return (string) ob_get_clean();
        };
        $put = fn (string $bytes, int $revision) => $this->call('PUT', "/api/shots/$id/history/picture?revision=$revision", [], [], [], ['HTTP_X_YARD' => '1', 'HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/octet-stream'], $bytes);
        $put($begun = $jpeg(0x102030), 0)->assertNoContent();
        $this->send('POST', "shots/$id/edits", ['revision' => 0, 'label' => 'One', 'patch' => [['op' => 'replace', 'path' => '/name', 'value' => 'One']]])->assertOk();
        // It came too late: the shot has gone on since.
        $put($jpeg(0), 0)->assertNoContent();
        self::assertSame([false, true], [$this->send('GET', "shots/$id/history")->json('edits.0.picture'), $this->send('GET', "shots/$id/history")->json('picture')]);
        $put($one = $jpeg(0xFF0000), 1)->assertNoContent();
        $edit = $this->send('GET', "shots/$id/history")->json('edits.0');
        self::assertTrue($edit['picture']);
        self::assertSame([$one, $begun], [$this->get("/api/shots/$id/history/{$edit['id']}/picture")->assertOk()->getContent(), $this->get("/api/shots/$id/history/0/picture")->assertOk()->getContent()]);
        self::assertSame(1, $this->send('GET', "shots/$id")->json('revision'), 'a picture is no change');
        $put('no picture', 1)->assertStatus(422);
        $put($one.str_repeat("\0", 70_000), 1)->assertStatus(422);
        // What takes the place of what was undone has none yet.
        $this->send('POST', "shots/$id/undo", ['revision' => 1])->assertOk();
        $this->send('POST', "shots/$id/edits", ['revision' => 2, 'label' => 'Two', 'patch' => [['op' => 'replace', 'path' => '/name', 'value' => 'Two']]])->assertOk();
        self::assertSame([false], array_column($this->send('GET', "shots/$id/history")->json('edits'), 'picture'));
    }

    /** The copy is of the same pieces, goes by maps of its own, and moves as the first does. */
    public function test_a_prop_is_copied_with_its_set_up(): void
    {
        $id = $this->send('POST', 'shots', ['demo' => 'gourd'])->json('id');
        $before = $this->send('GET', "shots/$id")->json();
        $made = $this->send('POST', "shots/$id/props/gourd/copies", ['revision' => $before['revision']])->assertOk()->json();
        $props = array_column($made['document']['props'], null, 'id');
        [$own, $copy] = [$props['gourd'], $props[$made['made']]];
        self::assertSame($own['name'].' copy', $copy['name']);
        self::assertSame([], array_intersect(array_column($own['weights'], 'id'), array_column($copy['weights'], 'id')));
        self::assertSame(array_map(static fn (string $name): string => $name.' copy', array_column($own['weights'], 'name')), array_column($copy['weights'], 'name'));
        // Called back, everything else is the same but where it stands.
        $back = array_combine(array_column($copy['weights'], 'id'), array_column($own['weights'], 'id')) + array_combine(array_column($copy['weights'], 'name'), array_column($own['weights'], 'name'));
        self::assertEquals(['id' => 'gourd', 'name' => $own['name']] + $own, json_decode(strtr((string) json_encode(['id' => 'gourd', 'name' => $own['name'], 'place' => $own['place']] + $copy), $back), true));
        self::assertContains($copy['motion']['values']['hold'], array_column($copy['weights'], 'id'));
        self::assertGreaterThan($own['place']['position'][0], $copy['place']['position'][0]);
        $again = $this->send('POST', "shots/$id/props/{$made['made']}/copies", ['revision' => $made['revision']])->assertOk()->json();
        self::assertCount(count($before['document']['props']) + 2, $again['document']['props']);
        self::assertSame('Add '.$own['name'].' copy copy', $again['undo']);
        $this->send('POST', "shots/$id/props/nobody/copies", ['revision' => $again['revision']])->assertStatus(422);
    }

    /** Into another shot, where a cue it goes by is not: that is left out, and said; all the rest is there. Then only some of it onto another prop. */
    public function test_a_prop_or_some_of_its_set_up_goes_into_another_shot(): void
    {
        $sundial = $this->send('POST', 'shots', ['demo' => 'sundial'])->json();
        $into = $this->send('POST', 'shots')->json();
        $skin = array_column($sundial['document']['props'], null, 'id')['skin'];
        $pasted = $this->send('POST', "shots/{$into['id']}/paste", ['revision' => $into['revision'], 'shot' => $sundial['id'], 'prop' => 'skin'])->assertOk()->json();
        $prop = $pasted['document']['props'][0];
        foreach (['name', 'break', 'source', 'material', 'place'] as $member) {
            self::assertEquals($skin[$member], $prop[$member], $member);
        }
        $plain = ['id' => 'block', 'name' => 'Block', 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => (object) []], 'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1], 'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.05], 'break' => null, 'motion' => ['kind' => 'fixed']];
        $with = $this->edit($into['id'], $pasted['revision'], [['op' => 'add', 'path' => '/props/-', 'value' => $plain]])->json();
        // Its motion alone: the maps that goes by come along.
        $onto = $this->send('POST', "shots/{$into['id']}/paste", ['revision' => $with['revision'], 'shot' => $sundial['id'], 'prop' => 'skin', 'onto' => 'block', 'what' => ['motion', 'source']])->assertOk()->json();
        $block = $onto['document']['props'][1];
        self::assertSame(['Block', 'box', null, 'stone'], [$block['name'], $block['source']['shape'], $block['break'], $block['material']['name']], 'what it is it stays');
        self::assertSame($skin['motion']['kind'], $block['motion']['kind']);
        self::assertSame('Paste onto a prop', $onto['undo']);
        // What refers to a prop or cue that is only there.
        $tied = $this->edit($sundial['id'], $sundial['revision'], [
            ['op' => 'add', 'path' => '/props/-', 'value' => ['id' => 'tied', 'name' => 'Tied', 'motion' => ['kind' => 'free', 'release' => ['on' => 'cue', 'cue' => 'heavy', 'offset' => 0], 'passes' => ['skin']]] + $plain],
        ])->assertOk()->json();
        $left = $this->send('POST', "shots/{$into['id']}/paste", ['revision' => $onto['revision'], 'shot' => $sundial['id'], 'prop' => 'tied'])->assertOk()->json();
        self::assertNotSame([], $left['left'], 'it is said');
        self::assertSame('free', end($left['document']['props'])['motion']['kind']);
        self::assertStringNotContainsString('heavy', (string) json_encode(end($left['document']['props'])));
        $this->send('POST', "shots/{$into['id']}/paste", ['revision' => $left['revision'], 'shot' => 'gone', 'prop' => 'tied'])->assertStatus(422);
        $this->send('POST', "shots/{$into['id']}/paste", ['revision' => $left['revision'], 'shot' => $sundial['id'], 'prop' => 'gone'])->assertStatus(422);
        self::assertGreaterThan($sundial['revision'], $tied['revision']);
    }

    public function test_values_written_with_a_point_are_undone_like_any_other(): void
    {
        $id = $this->newShot();
        $raw = fn (int $revision, string $patch) => $this->call('POST', "/api/shots/$id/edits", [], [], [], ['HTTP_X_YARD' => '1', 'HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/json'], '{"revision":'.$revision.',"label":"x","patch":'.$patch.'}');
        $box = (string) json_encode(self::box());
        $before = $raw(0, '[{"op":"add","path":"/props/-","value":'.$box.'}]')->assertOk()->json('document');
        $raw(1, '[{"op":"replace","path":"/props/0/place/position","value":[0.0,1.0,2.50]},{"op":"replace","path":"/props/0/place/size","value":2.0},{"op":"test","path":"/props/0/place/size","value":2}]')->assertOk();
        $raw(2, '[{"op":"replace","path":"/props/0/place/size","value":3.0}]')->assertOk();
        $this->send('POST', "shots/$id/undo", ['revision' => 3])->assertOk()->assertJsonPath('document.props.0.place.size', 2);
        self::assertEquals($before, $this->send('POST', "shots/$id/undo", ['revision' => 4])->assertOk()->json('document'));
        $this->send('POST', "shots/$id/redo", ['revision' => 5])->assertOk()->assertJsonPath('document.props.0.place.position', [0, 1, 2.5]);
    }

    public function test_a_packed_shot_holds_the_files_of_hidden_props_and_of_those_it_cuts_with(): void
    {
        $tetrahedron = "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n";
        $meshes = [];
        foreach (['hidden', 'tool'] as $n => $name) {
            $meshes[$name] = $this->upload("assets?name=$name.obj", "# $n\n".$tetrahedron)->assertCreated()->json('asset');
        }
        $of = static fn (string $name): array => ['source' => ['kind' => 'mesh', 'asset' => $meshes[$name], 'file' => "$name.obj", 'up' => 'y', 'unit' => 'm'], 'hidden' => true, 'motion' => ['kind' => 'fixed'], 'break' => null] + self::box(3, $name);
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $of('hidden')], ['op' => 'add', 'path' => '/props/-', 'value' => $of('tool')],
            ['op' => 'add', 'path' => '/props/-', 'value' => ['break' => ['pattern' => 'punch', 'values' => ['tool' => 'tool']]] + self::box()]])->assertOk();
        $packed = $this->get("/api/shots/$id/export")->assertOk()->baseResponse;
        assert($packed instanceof \Symfony\Component\HttpFoundation\BinaryFileResponse);
        $zip = new \ZipArchive;
        $zip->open($packed->getFile()->getPathname());
        foreach ($meshes as $asset) {
            self::assertNotFalse($zip->locateName('assets/'.$asset));
        }
    }

    public function test_a_packed_shot_that_would_unpack_to_too_much_is_refused_before_it_is_unpacked(): void
    {
        $packed = function (array $entries): string {
            $zip = new \ZipArchive;
            $zip->open($path = $this->folder.'/bomb.zip', \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
            foreach ($entries as $name => $bytes) {
                $zip->addFromString($name, $bytes);
            }
            $zip->close();

            return (string) file_get_contents($path);
        };
        $document = (string) json_encode($this->send('GET', 'shots/'.$this->newShot())->json('document'));
        foreach ([['shot.json' => str_repeat(' ', 17 << 20)], ['shot.json' => $document, 'assets/a' => str_repeat("\0", 40 << 20), 'assets/b' => str_repeat("\0", 40 << 20)], ['shot.json' => $document] + array_fill_keys(array_map(static fn (int $k): string => 'assets/'.$k, range(1, 1200)), '')] as $entries) {
            config(['yard.largest_upload' => 30 << 20]);
            $bytes = $packed($entries);
            unset($entries);
            memory_reset_peak_usage();
            $before = memory_get_usage();
            $this->upload('shots/import', $bytes)->assertStatus(422)->assertJsonPath('problem.message', 'This packed shot would unpack to more than can be taken in.');
            self::assertLessThan(16 << 20, memory_get_peak_usage() - $before);
        }
        self::assertSame([], array_merge(glob($this->folder.'/files/incoming/*') ?: [], glob($this->folder.'/files/assets/*') ?: []));
    }

    public function test_a_second_window_is_told_what_changed_and_nothing_is_lost(): void
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'replace', 'path' => '/frames/last', 'value' => 50]])->assertOk();
        config(['logging.channels.daily.path' => $this->folder.'/logs/yard.log']);
        $this->edit($id, 0, [['op' => 'replace', 'path' => '/name', 'value' => 'Mine']])
            ->assertStatus(409)->assertJsonPath('problem.kind', 'conflict')->assertJsonPath('shot.revision', 1)->assertJsonPath('shot.document.frames.last', 50);
        self::assertSame([], glob($this->folder.'/logs/*') ?: [], 'that is no error');
        $this->edit($id, 1, [['op' => 'replace', 'path' => '/name', 'value' => 'Mine']])->assertOk()->assertJsonPath('document.frames.last', 50);
    }

    /** @return array<string, array{list<array<string, mixed>>, string, string}> */
    public static function badEdits(): array
    {
        $box = self::box();

        return [
            'unknown field' => [[['op' => 'add', 'path' => '/wind', 'value' => 3]], '', 'no such setting'],
            'wrong type' => [[['op' => 'replace', 'path' => '/frames/last', 'value' => 'soon']], 'frames.last', 'of the kind'],
            'newer version' => [[['op' => 'replace', 'path' => '/version', 'value' => 9]], 'version', 'newer version'],
            'no pieces' => [[['op' => 'add', 'path' => '/props/-', 'value' => array_replace_recursive($box, ['break' => ['values' => ['count' => 0]]])]], 'props[0].break.values.count', 'between 1 and'],
            'a million pieces' => [[['op' => 'add', 'path' => '/props/-', 'value' => array_replace_recursive($box, ['break' => ['values' => ['count' => 1000000]]])]], 'props[0].break.values.count', 'between 1 and'],
            'end before start' => [[['op' => 'replace', 'path' => '/frames/first', 'value' => 200]], 'frames.last', 'after the first'],
            'same name twice' => [[['op' => 'add', 'path' => '/props/-', 'value' => $box], ['op' => 'add', 'path' => '/props/-', 'value' => array_replace($box, ['id' => 'other', 'name' => 'BOX'])]], 'props[1].name', 'Two props'],
            'a key tied to nothing' => [[['op' => 'add', 'path' => '/props/-', 'value' => array_replace($box, ['place' => ['position' => [0, ['keys' => [['cue' => 'hit', 'offset' => 0, 'value' => 1]]], 0], 'turn' => [0, 0, 0], 'size' => 1]])]], 'props[0].place.position[1].keys[0].cue', 'not there'],
            'a path that is not there' => [[['op' => 'replace', 'path' => '/props/7/name', 'value' => 'x']], '', 'does not fit'],
        ];
    }

    /** @param  list<array<string, mixed>>  $patch */
    #[DataProvider('badEdits')]
    public function test_a_bad_edit_is_refused_in_words_with_its_place_and_changes_nothing(array $patch, string $path, string $words): void
    {
        $id = $this->newShot();
        $before = $this->send('GET', "shots/$id")->json();
        $answer = $this->edit($id, 0, $patch)->assertStatus(422)->json('problem');
        self::assertSame($path, $answer['path']);
        self::assertStringContainsString($words, $answer['message']);
        self::assertSame($before, $this->send('GET', "shots/$id")->json());
    }

    public function test_a_packed_shot_opens_elsewhere_with_its_meshes(): void
    {
        $id = $this->newShot();
        $asset = $this->upload('assets?name=cube.obj', self::cube())->assertCreated()->json();
        self::assertTrue($asset['fitness']['can_break']);
        $prop = array_replace(self::box(), ['source' => ['kind' => 'mesh', 'asset' => $asset['asset'], 'file' => 'cube.obj', 'up' => 'y', 'unit' => 'm']]);
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $prop]])->assertOk();
        $zip = (string) file_get_contents($this->get("/api/shots/$id/export")->assertOk()->baseResponse->getFile()->getPathname());
        exec('rm -rf '.escapeshellarg($this->folder.'/files/assets'));
        $new = $this->upload('shots/import', $zip)->assertCreated()->json();
        self::assertSame('New shot 2', $new['document']['name']);
        $this->get("/api/shots/{$new['id']}/props/box/picture")->assertOk();
    }

    public function test_what_is_no_packed_shot_is_refused_in_words(): void
    {
        $this->upload('shots/import', random_bytes(300))->assertStatus(422)->assertJsonPath('problem.message', 'This is no packed shot: it holds no shot document.');
    }

    public function test_requests_from_other_sites_are_refused(): void
    {
        $this->json('POST', '/api/shots')->assertStatus(403);
    }

    public function test_the_demo_yard_opens_and_passes_the_site_check(): void
    {
        self::assertSame(0, Artisan::call('yard:demo'));
        $shots = $this->send('GET', 'shots')->json();
        self::assertCount(count(NewShot::DEMO), $shots);
        foreach ($shots as $shot) {
            self::assertSame([], $this->send('GET', "shots/{$shot['id']}/check")->assertOk()->json(), $shot['name']);
        }
        self::assertSame(0, Artisan::call('yard:demo'));
        self::assertCount(count(NewShot::DEMO), $this->send('GET', 'shots')->json(), 'a yard in use is left alone');
    }

    private static function cube(): string
    {
        return "o cube\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0 0 1\nv 1 0 1\nv 1 1 1\nv 0 1 1\nf 4 3 2 1\nf 5 6 7 8\nf 1 2 6 5\nf 3 4 8 7\nf 2 3 7 6\nf 1 5 8 4\n";
    }
}
