<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Shot;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\DB;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Shot\ShotSpec;

/** Patterns, drawings and older documents as the page asks for them. */
final class PatternsTest extends YardTestCase
{
    public function test_the_catalogue_names_and_explains_everything_there_is(): void
    {
        $catalogue = $this->send('GET', 'catalogue')->assertOk()->json();
        self::assertSame(array_keys(BreakCatalogue::PATTERNS), array_keys($catalogue['patterns']));
        foreach (['shapes', 'steps', 'patterns'] as $part) {
            foreach ($catalogue[$part] as $entry) {
                self::assertNotSame('', $entry['label']);
                foreach ($entry['options'] as $option) {
                    self::assertNotSame('', $option['label'].$option['meaning']);
                }
            }
        }
    }

    public function test_a_drawing_is_read_and_none_is_kept(): void
    {
        $got = $this->upload('outlines?name=leaf.svg', '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10" width="10" height="10"><rect x="0" y="0" width="10" height="5"/></svg>')->assertOk()->json();
        self::assertSame('box', $got['unit']);
        self::assertCount(4, $got['lines'][0]['points']);
        $problem = $this->upload('outlines?name=leaf.png', 'no picture')->assertStatus(422)->json('problem');
        self::assertStringContainsString('leaf.png is no PNG picture', $problem['message']);
        self::assertSame([], glob($this->folder.'/files/assets/*') ?: []);
    }

    public function test_a_prop_breaks_by_every_pattern_and_pieces_are_reworked(): void
    {
        $id = $this->newShot();
        $revision = 0;
        $box = self::box();
        foreach (['halving' => 8, 'tiles' => 16, 'courses' => 10, 'punch' => 2] as $pattern => $least) {
            $box['break'] = ['pattern' => $pattern, 'values' => $pattern === 'halving' ? ['passes' => 3] : ($pattern === 'punch' ? ['radius' => 0.05] : (object) [])];
            $this->edit($id, $revision++, [['op' => $revision === 1 ? 'add' : 'replace', 'path' => '/props/'.($revision === 1 ? '-' : '0'), 'value' => $box]])->assertOk();
            self::assertGreaterThanOrEqual($least, count($this->pieces($id)));
        }
        $this->edit($id, $revision, [['op' => 'add', 'path' => '/props/0/rework', 'value' => [['pattern' => 'cells', 'values' => ['count' => 6], 'pieces' => ['shard-0001']]]]])->assertOk();
        // Made in the background, and at once where the queue runs along.
        $this->send('GET', "shots/$id/props/box/picture");
        self::assertCount(7, $this->pieces($id));
    }

    public function test_a_pattern_that_cannot_be_says_so_with_its_place(): void
    {
        $id = $this->newShot();
        $box = ['break' => ['pattern' => 'strike', 'values' => ['point' => [9, 9, 9]]]] + self::box();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $box]])->assertOk();
        $problem = $this->send('GET', "shots/$id/props/box/picture")->assertStatus(422)->json('problem');
        self::assertStringContainsString('off the prop', $problem['message']);
        $box['break'] = ['pattern' => 'tiles', 'values' => ['grid' => [0, 1, 1]]];
        $this->edit($id, 1, [['op' => 'replace', 'path' => '/props/0', 'value' => $box]])->assertStatus(422)->assertJsonPath('problem.path', 'props[0].break.values.grid');
    }

    public function test_a_picture_is_kept_served_and_goes_along_in_a_packed_shot(): void
    {
        $image = imagecreatetruecolor(6, 4);
        self::assertNotFalse($image);
        ob_start();
        imagepng($image);
        $png = (string) ob_get_clean();
        $picture = $this->upload('pictures?name=fern.png', $png)->assertCreated()->json();
        $this->get('/api/pictures/'.$picture['asset'], ['X-Yard' => '1'])->assertOk()->assertHeader('Content-Type', 'image/png');
        $this->upload('pictures?name=notes.txt', 'no picture')->assertStatus(422)->assertJsonPath('problem.kind', 'file');
        $id = $this->newShot();
        $box = self::box();
        $box['material']['picture'] = $picture;
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $box]])->assertOk();
        self::assertCount(12, $this->pieces($id));
        $export = $this->get("/api/shots/$id/export", ['X-Yard' => '1'])->assertOk()->baseResponse;
        assert($export instanceof BinaryFileResponse);
        $zip = (string) file_get_contents($export->getFile()->getPathname());
        unlink($this->folder.'/files/assets/'.$picture['asset']);
        $this->upload('shots/import', $zip)->assertCreated();
        self::assertSame($png, file_get_contents($this->folder.'/files/assets/'.$picture['asset']));
    }

    public function test_a_punch_goes_through_other_layers_as_one_change(): void
    {
        $id = $this->newShot();
        $first = ['break' => ['pattern' => 'punch', 'values' => ['radius' => 0.06]]] + self::box();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $first], ['op' => 'add', 'path' => '/props/-', 'value' => self::box(id: 'behind')]])->assertOk();
        $shot = $this->send('POST', "shots/$id/props/box/punch", ['revision' => 1, 'others' => ['behind']])->assertOk()->json();
        self::assertSame('punch', $shot['document']['props'][1]['break']['pattern']);
        self::assertSame('Punch through 1 more', $shot['undo']);
        $this->send('POST', "shots/$id/props/behind/punch", ['revision' => 2, 'others' => ['nobody']])->assertStatus(422)->assertJsonPath('problem.path', 'others');
    }

    public function test_shots_of_the_first_version_are_brought_up_to_date(): void
    {
        $id = $this->newShot();
        $document = json_decode(Shot::query()->findOrFail($id)->document, true);
        $document['version'] = 1;
        $document['props'] = [['repairs' => ['weld'], 'break' => ['pattern' => 'cells', 'values' => ['count' => 5, 'strike' => [0, 0.1, 0]]]] + self::box()];
        DB::table('shots')->where('id', $id)->update(['document' => json_encode($document)]);
        DB::table('migrations')->where('migration', 'like', '%bring_documents_up_to_date')->delete();
        self::assertSame(0, app(Kernel::class)->call('migrate', ['--force' => true]));
        $kept = Shot::query()->findOrFail($id)->decoded();
        self::assertSame(ShotSpec::VERSION, $kept->version);
        self::assertSame('weld', $kept->props[0]->prepare[0]->step);
        self::assertCount(5, $this->pieces($id));
    }

    /** @return list<array{name: string}> */
    private function pieces(string $id): array
    {
        $bytes = self::bytes($this->send('GET', "shots/$id/props/box/picture"));

        return json_decode(substr($bytes, 4, unpack('V', $bytes)[1]), true)['pieces'];
    }
}
