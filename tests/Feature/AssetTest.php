<?php

declare(strict_types=1);

namespace Tests\Feature;

use Illuminate\Support\Facades\Queue;
use PHPUnit\Framework\Attributes\DataProvider;

final class AssetTest extends YardTestCase
{
    /** @return array<string, array{string, string, string}> name, bytes, words */
    public static function badFiles(): array
    {
        $header = str_pad('a claim', 80).pack('V', 1_000_000);

        return [
            'empty' => ['a.obj', '', 'is empty'],
            'garbage as OBJ' => ['a.obj', "\0\1\2\3".str_repeat("\xff\0", 200), 'no OBJ'],
            'garbage as STL' => ['a.stl', str_repeat("\x9c\x01", 300), 'the file has'],
            'garbage as PLY' => ['a.ply', str_repeat("\x9c\x01", 300), 'does not begin like a PLY'],
            'garbage as GLB' => ['a.glb', str_repeat("\x9c\x01", 300), 'does not begin like a GLB'],
            'a million faces claimed' => ['a.stl', $header, '1,000,000 triangles'],
            'a million points claimed' => ['a.ply', "ply\nformat ascii 1.0\nelement vertex 1000000\nproperty float x\nproperty float y\nproperty float z\nend_header\n", 'more than the file has room for'],
            'text STL cut off' => ['a.stl', "solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\n", 'breaks off'],
            'cut off within a GLB' => ['a.glb', 'glTF'.pack('VV', 2, 5000).str_repeat(' ', 100), 'cut off'],
            'not a number' => ['a.obj', "v 0 0 0\nv nan 0 0\nv 0 1 0\nf 1 2 3\n", 'line 2'],
            'infinite in STL' => ['a.stl', str_pad('x', 80).pack('V', 1).pack('g12v', 0, 0, 1, INF, 0, 0, 1, 0, 0, 0, 1, 0, 0), 'not numbers'],
            'index out of range' => ['a.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n", 'point 9'],
            'points only' => ['a.obj', "v 0 0 0\nv 1 0 0\n", 'no faces'],
            'unknown ending' => ['a.exe', 'MZ', 'not a kind of file'],
        ];
    }

    #[DataProvider('badFiles')]
    public function test_a_bad_file_is_refused_in_words_and_leaves_nothing(string $name, string $bytes, string $words): void
    {
        $problem = $this->upload('assets?name='.$name, $bytes)->assertStatus(422)->json('problem');
        self::assertStringContainsString($words, $problem['message']);
        self::assertNotSame('', $problem['remedy']);
        self::assertStringNotContainsString('.php', (string) json_encode($problem));
        self::assertSame([], glob($this->folder.'/files/assets/*') ?: []);
    }

    public function test_a_mesh_sent_again_as_what_it_is_not_stays_where_it_is_used(): void
    {
        $stl = str_pad('tet', 80).pack('V', 1).pack('g12v', 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0);
        $asset = $this->upload('assets?name=tet.stl', $stl)->assertCreated()->json('asset');
        $this->upload('assets?name=tet.glb', $stl)->assertStatus(422);
        $this->upload('pictures?name=tet.png', $stl)->assertStatus(422);
        self::assertStringEqualsFile($this->folder.'/files/assets/'.$asset, $stl);
        self::assertSame($asset, \App\Models\Asset::query()->sole()->hash);
    }

    public function test_a_large_mesh_is_read_in_the_background_and_judged_as_well(): void
    {
        config(['yard.read_at_once' => 100]);
        $good = "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n# ".str_repeat('.', 100);
        $key = $this->upload('assets?name=a.obj', $good)->assertStatus(202)->json('reading');
        $this->get("/api/assets/reading/$key")->assertCreated()->assertJsonPath('fitness.can_break', true)->assertJsonPath('asset', hash('sha256', $good));
        $key = $this->upload('assets?name=a.obj', 'f 1 2 3 '.$good)->assertStatus(202)->json('reading');
        $this->get("/api/assets/reading/$key")->assertStatus(422)->assertJsonPath('problem.kind', 'file');
        self::assertSame([], array_filter(glob($this->folder.'/files/incoming/*') ?: [], static fn (string $f): bool => ! str_ends_with($f, '.json')));
        Queue::fake();
        $key = $this->upload('assets?name=a.obj', $good)->assertStatus(202)->json('reading');
        $this->get("/api/assets/reading/$key")->assertStatus(202);
        $this->get('/api/assets/reading/0123456789abcdef')->assertStatus(404);
    }

    public function test_a_file_over_the_limit_is_refused(): void
    {
        config(['yard.largest_upload' => 1000]);
        $this->upload('assets?name=big.obj', str_repeat("v 0 0 0\n", 200))->assertStatus(413)->assertJsonPath('problem.kind', 'file');
    }

    public function test_an_upload_that_breaks_off_is_refused(): void
    {
        $this->call('POST', '/api/assets?name=a.obj', [], [], [], ['HTTP_X_YARD' => '1', 'HTTP_ACCEPT' => 'application/json', 'HTTP_CONTENT_LENGTH' => '5000'], "v 0 0 0\n")
            ->assertStatus(422)->assertJsonPath('problem.message', 'a.obj arrived only in part.');
    }

    public function test_what_a_killed_server_left_of_an_upload_is_swept_away_later(): void
    {
        mkdir($this->folder.'/files/incoming', recursive: true);
        touch($old = $this->folder.'/files/incoming/old', time() - 7200);
        touch($young = $this->folder.'/files/incoming/young');
        $this->upload('assets?name=a.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n")->assertCreated();
        self::assertFileDoesNotExist($old);
        self::assertFileExists($young, 'it may still be on its way');
    }

    public function test_groups_and_materials_of_a_file_are_listed_also_when_not_kept(): void
    {
        $asset = $this->upload('assets?name=two.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\ng a\nusemtl glaze\nf 1 2 3\ng b\nf 1 3 2\n")->assertCreated()->json('asset');
        self::assertSame(['groups' => ['a', 'b'], 'materials' => ['glaze']], $this->get("/api/assets/$asset/names?name=two.obj")->assertOk()->json());
        exec('rm -r '.escapeshellarg($this->folder.'/files/asset-names'));
        self::assertSame(['groups' => ['a', 'b'], 'materials' => ['glaze']], $this->get("/api/assets/$asset/names?name=two.obj")->assertOk()->json());
    }

    public function test_an_open_mesh_comes_in_is_judged_and_mended(): void
    {
        // A cube without its lid, one face turned round.
        $obj = "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0 0 1\nv 1 0 1\nv 1 1 1\nv 0 1 1\nf 4 3 2 1\nf 5 6 7 8\nf 1 2 6 5\nf 2 3 7 6\nf 1 4 8 5\n";
        $asset = $this->upload('assets?name=lidless.obj', $obj)->assertCreated()->json();
        self::assertFalse($asset['fitness']['can_break']);
        self::assertSame(4, $asset['fitness']['boundary_edges']);
        $id = $this->newShot();
        $prop = array_replace(self::box(), ['source' => ['kind' => 'mesh', 'asset' => $asset['asset'], 'file' => 'lidless.obj', 'up' => 'y', 'unit' => 'cm']]);
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $prop]])->assertOk();
        $refused = $this->get("/api/shots/$id/props/box/picture")->assertStatus(422)->json('problem');
        self::assertStringContainsString('Box cannot be broken. The surface is open', $refused['message']);
        self::assertStringContainsString('fill', $refused['remedy']);
        self::assertNotSame([], $this->send('GET', "shots/$id/check")->json());
        $this->edit($id, 1, [['op' => 'replace', 'path' => '/props/0/prepare', 'value' => [['step' => 'orient', 'values' => (object) []], ['step' => 'fill', 'values' => (object) []]]]])->assertStatus(422);
        $this->edit($id, 1, [['op' => 'add', 'path' => '/props/0/prepare', 'value' => [['step' => 'orient', 'values' => (object) []], ['step' => 'fill', 'values' => (object) []]]]])->assertOk();
        $this->get("/api/shots/$id/props/box/picture")->assertOk();
    }
}
