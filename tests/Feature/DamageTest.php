<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\BakeSlice;
use App\Models\Bake;
use Illuminate\Support\Facades\Queue;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Attack\Damage;
use YardBreak\Core\Motion\Pose;

/** Files that are no longer what was written: nobody is shown them, and nothing stays stuck. */
final class DamageTest extends YardTestCase
{
    private const FRAMES = 25;

    /** @return array<string, array{string}> */
    public static function damages(): array
    {
        return array_map(static fn (string $what): array => [$what], array_combine($all = array_keys(Damage::kinds()), $all));
    }

    #[DataProvider('damages')]
    public function test_a_damaged_bake_is_whole_again_by_itself_whoever_meets_it_first(string $what): void
    {
        [$shot, $bake, $want] = $this->baked();
        $meets = [
            'the page that is opened and plays it' => function () use ($shot, $bake): void {
                $this->send('GET', "shots/$shot/bake")->assertOk();
                $this->get("/api/bakes/{$bake->id}/frames?from=0&count=".self::FRAMES);
                $this->get("/api/bakes/{$bake->id}/figures");
            },
            'who bakes again' => fn () => $this->send('POST', "shots/$shot/bakes")->assertCreated()->assertJsonPath('bake.id', $bake->id),
            'who hands it off' => fn () => $this->send('POST', "bakes/{$bake->id}/hand-offs", ['format' => 'glb']),
        ];
        foreach ($meets as $who => $meet) {
            Damage::kinds()[$what]($this->folder.'/files/bakes/'.$bake->id);
            $meet();
            $bake->refresh();
            self::assertSame(['done', self::FRAMES], [$bake->state, $bake->frames_done], $who);
            self::assertSame(md5($want), md5($bake->files()->records(0, 99)), $who);
            self::assertCount(self::FRAMES, $bake->files()->figures());
            self::assertSame(! str_contains($what, 'states'), str_contains($bake->mended, 'damaged on the disk'), 'said in the docket');
            $this->send('GET', "shots/$shot/bake")->assertJsonPath('bake.plan.kept', self::FRAMES)->assertJsonPath('bake.mended', $bake->mended);
        }
        $this->send('POST', "bakes/{$bake->id}/hand-offs", ['format' => 'glb'])->assertCreated();
    }

    #[DataProvider('damages')]
    public function test_what_is_damaged_while_it_runs_ends_with_the_same_bytes(string $what): void
    {
        [, , $want] = $this->baked();
        Queue::fake();
        config(['yard.bake_slice' => 0.0]);
        $shot = $this->shot();
        $bake = Bake::query()->findOrFail($this->send('POST', "shots/$shot/bakes")->json('bake.id'));
        for ($i = 0; $i < 4 * self::FRAMES && $bake->refresh()->state !== 'done'; $i++) {
            app()->call([new BakeSlice($bake->id), 'handle']);
            if ($i === 18) {
                Damage::kinds()[$what]($this->folder.'/files/bakes/'.$bake->id);
            }
        }
        self::assertSame('done', $bake->state);
        self::assertSame(md5($want), md5($bake->files()->records(0, 99)));
    }

    public function test_an_edited_shot_takes_over_only_what_holds(): void
    {
        [$shot, $bake] = $this->baked();
        $path = $this->folder."/files/bakes/{$bake->id}/frames-00000";
        $bytes = (string) file_get_contents($path);
        $bytes[strlen($bytes) >> 1] = chr(ord($bytes[strlen($bytes) >> 1]) ^ 1);
        file_put_contents($path, $bytes);
        $this->edit($shot, 1, [['op' => 'replace', 'path' => '/frames/last', 'value' => self::FRAMES]])->assertOk();
        $next = Bake::query()->findOrFail($this->send('POST', "shots/$shot/bakes")->assertCreated()->json('bake.id'));
        [, $whole] = $this->baked(self::FRAMES);
        self::assertSame('done', $next->state);
        self::assertSame(md5($whole->files()->records(0, 99)), md5($next->files()->records(0, 99)));
    }

    public function test_pieces_meshes_and_pictures_that_are_damaged_are_made_again(): void
    {
        [$shot, $bake] = $this->baked();
        $this->get("/api/shots/$shot/props/box/picture")->assertOk();
        $shown = $this->get("/api/shots/$shot/props/box/picture")->assertOk()->getContent();
        foreach (['shards', 'meshes', 'pictures'] as $of) {
            $all = new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($this->folder.'/files/'.$of, \FilesystemIterator::SKIP_DOTS));
            $count = 0;
            foreach ($all as $file) {
                if ($file->getSize() > 20) {
                    $bytes = (string) file_get_contents($file->getPathname());
                    $bytes[strlen($bytes) >> 1] = chr(ord($bytes[strlen($bytes) >> 1]) ^ 8);
                    file_put_contents($file->getPathname(), $bytes);
                    $count++;
                }
            }
            self::assertGreaterThan(0, $count, $of);
        }
        self::assertSame($shown, $this->get("/api/shots/$shot/props/box/picture")->assertOk()->getContent());
        $id = $this->send('POST', "bakes/{$bake->id}/hand-offs", ['format' => 'glb'])->assertCreated()->json('id');
        $this->get("/api/hand-offs/$id")->assertJsonPath('state', 'done');
    }

    public function test_a_file_that_is_damaged_or_gone_is_asked_for_by_its_name_and_is_good_again_once_it_is_there(): void
    {
        $stl = "solid a\n".implode('', array_map(static fn (array $f): string => "facet normal 0 0 0\nouter loop\n".implode('', array_map(static fn (array $p): string => 'vertex '.implode(' ', $p)."\n", $f))."endloop\nendfacet\n", [[[0, 0, 0], [0, 1, 0], [1, 0, 0]], [[0, 0, 0], [1, 0, 0], [0, 0, 1]], [[0, 0, 0], [0, 0, 1], [0, 1, 0]], [[1, 0, 0], [0, 1, 0], [0, 0, 1]]])).'endsolid a';
        $asset = (string) $this->upload('assets?name=spike.stl', $stl)->assertCreated()->json('asset');
        $id = $this->newShot();
        $prop = ['source' => ['kind' => 'mesh', 'asset' => $asset, 'file' => 'spike.stl', 'up' => 'y', 'unit' => 'm']] + self::box();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $prop]])->assertOk();
        $path = $this->folder.'/files/assets/'.$asset;
        foreach (['damaged' => static fn () => file_put_contents($path, 'x', FILE_APPEND), 'missing' => static fn () => unlink($path)] as $word => $harm) {
            array_map(fn (string $of) => exec('rm -rf '.escapeshellarg($this->folder.'/files/'.$of)), ['meshes', 'shards', 'pictures']);
            $harm();
            $said = $this->get("/api/shots/$id/props/box/picture")->assertStatus(422)->json('problem');
            self::assertStringContainsString('spike.stl', $said['message']);
            self::assertStringContainsString($word, $said['message']);
            self::assertStringContainsString('Bring spike.stl in again', $said['remedy']);
            $this->upload('assets?name=spike.stl', $stl)->assertCreated();
            $again = $this->get("/api/shots/$id/props/box/picture");
            self::assertSame(200, $again->getStatusCode());
        }
    }

    /** @return array{string, Bake, string} shot, bake and the bytes of its frames */
    private function baked(int $last = self::FRAMES - 1): array
    {
        $shot = $this->shot($last);
        $bake = Bake::query()->findOrFail($this->send('POST', "shots/$shot/bakes")->assertCreated()->json('bake.id'));
        self::assertSame('done', $bake->state);
        $want = $bake->files()->records(0, 99);
        self::assertSame(($last + 1) * (32 + 12 * Pose::BYTES), strlen($want));

        return [$shot, $bake, $want];
    }

    private function shot(int $last = self::FRAMES - 1): string
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box()], ['op' => 'replace', 'path' => '/frames/last', 'value' => $last]])->assertOk();

        return $id;
    }
}
