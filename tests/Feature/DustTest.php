<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Bake;
use App\Models\Shot;
use YardBreak\Core\Motion\StreamKind;

/** Dust from the document to the frames that the page is given. */
final class DustTest extends YardTestCase
{
    public function test_what_a_prop_gives_off_is_baked_and_told(): void
    {
        $shot = $this->newShot();
        $pot = [
            'id' => 'pot', 'name' => 'Pot', 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]], 'prepare' => [],
            'place' => ['position' => [0, 1, 0], 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'plaster', 'colour' => '#e4dfd3', 'inner' => '#f1ede4', 'density' => 900, 'friction' => 0.5, 'bounce' => 0.05],
            'break' => null, 'motion' => ['kind' => 'fixed'],
            'dust' => [['id' => 'pour', 'name' => 'Pour', 'from' => 'point', 'values' => ['rate' => 2400]]],
        ];
        $this->edit($shot, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $pot], ['op' => 'replace', 'path' => '/frames/last', 'value' => 6]])->assertSuccessful();
        $id = $this->send('POST', "shots/$shot/bakes")->assertCreated()->json('bake.id');
        $bake = Bake::query()->findOrFail($id);
        self::assertSame('done', $bake->state, (string) json_encode($bake->problem));
        $figures = $bake->files()->figures();
        self::assertSame(0, $figures[0]['grains']);
        // A hundred a frame.
        self::assertEqualsWithDelta(600, $figures[6]['grains'], 3);
        self::assertSame(28 + 8 * $figures[6]['grains'], strlen($bake->files()->streams(6)[0][StreamKind::Grains->value]));
        // Handed off: a file of points a frame.
        $sent = $this->send('POST', "bakes/$id/hand-offs", ['format' => 'grains'])->assertCreated()->json();
        $zip = new \ZipArchive;
        $file = tempnam(sys_get_temp_dir(), 'dust');
        file_put_contents((string) $file, $this->get("/api/hand-offs/{$sent['id']}/file")->assertOk()->streamedContent());
        self::assertTrue($zip->open((string) $file));
        self::assertSame(7, $zip->numFiles);
        $ply = (string) $zip->getFromIndex(6);
        [$head, $body] = explode("end_header\n", $ply, 2);
        self::assertStringContainsString('element vertex '.$figures[6]['grains'], $head);
        self::assertSame(23 * $figures[6]['grains'], strlen($body));
        $grain = array_values(unpack('g5/C3c', $body) ?: []);
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], array_slice($grain, 0, 3), 0.5);
        self::assertSame([0xE4, 0xDF, 0xD3], array_slice($grain, 5));
        self::assertSame(['Pot: its dust and chips are left out; write them as Dust.'], $this->getJson("/api/bakes/$id/hand-offs")->json('leaves.glb'));
        self::assertStringContainsString('"dust"', (string) Shot::query()->findOrFail($shot)->document);
    }
}
