<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Storage\YardFiles;
use App\Yard\Clearing;
use YardBreak\Core\Shot\MaterialCatalogue;

/** What things of a material begin as in this yard. */
final class MaterialTest extends YardTestCase
{
    public function test_one_is_kept_for_what_is_made_of_it_later_and_forgotten_again(): void
    {
        $id = $this->newShot();
        $box = ['material' => ['name' => 'slate', 'colour' => '#101112', 'inner' => '#202122', 'density' => 2850, 'friction' => 0.5, 'bounce' => ['keys' => [['frame' => 0, 'value' => 0.2], ['frame' => 9, 'value' => 0.4]]], 'roughness' => 0.3]] + self::box();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $box]])->assertOk();
        $given = MaterialCatalogue::MATERIALS['slate'];
        self::assertSame($given, $this->materials()['slate']);
        $kept = $this->send('POST', 'materials', ['shot' => $id, 'prop' => 'box'])->assertOk()->json('slate');
        // What is keyed belongs to the prop; of that it begins as given.
        self::assertEquals(['label' => 'Slate', 'own' => true, 'colour' => '#101112', 'inner' => '#202122', 'density' => 2850, 'friction' => 0.5, 'bounce' => $given['bounce'], 'roughness' => 0.3], $kept);
        self::assertSame($kept, $this->materials()['slate'], 'in every shot');
        self::assertSame(MaterialCatalogue::MATERIALS['stone'], $this->materials()['stone']);
        // Anything made of it is a valid prop.
        $made = array_diff_key($kept, ['label' => 0, 'own' => 0]) + ['name' => 'slate'];
        $this->edit($id, 1, [['op' => 'add', 'path' => '/props/-', 'value' => ['material' => $made] + self::box(5, 'two')]])->assertOk();
        self::assertSame($given, $this->send('DELETE', 'materials/slate')->assertOk()->json('slate'));
        self::assertSame($given, $this->materials()['slate']);
    }

    public function test_what_is_of_no_given_material_or_not_there_is_refused_in_words(): void
    {
        $id = $this->newShot();
        $own = self::box();
        $own['material']['name'] = 'moon rock';
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $own]])->assertOk();
        self::assertStringContainsString('There is no usual moon rock', (string) $this->send('POST', 'materials', ['shot' => $id, 'prop' => 'box'])->assertStatus(422)->json('problem.message'));
        $this->send('POST', 'materials', ['shot' => $id, 'prop' => 'gone'])->assertStatus(422);
        $this->send('DELETE', 'materials/nothing')->assertOk();
    }

    /** Pictures that presets and usual materials go by outlive the shots they were kept from. */
    public function test_pictures_of_it_and_of_presets_are_not_cleared(): void
    {
        $image = imagecreatetruecolor(2, 2);
        $hashes = [];
        foreach (['usual' => 0x102030, 'preset' => 0x405060, 'neither' => 0x708090] as $name => $colour) {
            imagefill($image, 0, 0, $colour);
            ob_start();
            imagepng($image);
            $hashes[$name] = (string) $this->call('POST', '/api/pictures', [], [], [], ['HTTP_X_YARD' => '1', 'HTTP_X_FILE_NAME' => "$name.png", 'CONTENT_TYPE' => 'application/octet-stream', 'HTTP_ACCEPT' => 'application/json'], (string) ob_get_clean())->assertSuccessful()->json('asset');
        }
        $id = $this->newShot();
        $with = static fn (string $name): array => ['material' => ['picture' => ['asset' => $hashes[$name], 'file' => "$name.png"]] + self::box()['material']] + self::box(5, $name);
        $this->edit($id, 0, array_map(static fn (string $name): array => ['op' => 'add', 'path' => '/props/-', 'value' => $with($name)], array_keys($hashes)))->assertOk();
        $this->send('POST', 'materials', ['shot' => $id, 'prop' => 'usual'])->assertOk();
        $this->send('POST', 'presets', ['shot' => $id, 'prop' => 'preset', 'bench' => 'material', 'name' => 'Printed'])->assertCreated();
        $this->send('DELETE', "shots/$id")->assertSuccessful();
        (new Clearing)->clear(0);
        $left = implode(' ', scandir(YardFiles::folder('assets')) ?: []);
        self::assertSame([true, true, false], array_values(array_map(static fn (string $hash): bool => str_contains($left, $hash), $hashes)));
    }

    /** @return array<string, array<string, mixed>> */
    private function materials(): array
    {
        return $this->get('/api/catalogue')->assertOk()->json('materials');
    }
}
