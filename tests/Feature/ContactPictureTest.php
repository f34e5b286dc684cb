<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\MakeSolids;
use App\Models\Shot;
use App\Storage\Faults;
use YardBreak\Core\Problem;

/** What a prop's pieces collide as, as the picture is sent it. */
final class ContactPictureTest extends YardTestCase
{
    public function test_a_ground_in_fewer_faces_comes_as_such_and_says_how_far_it_is_off(): void
    {
        $shot = $this->newShot();
        $prop = [
            'id' => 'dish', 'name' => 'Dish', 'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.5, 'detail' => 20]], 'prepare' => [],
            'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'plaster', 'colour' => '#e4dfd3', 'inner' => '#f1ede4', 'density' => 1000, 'friction' => 0.5, 'bounce' => 0.05],
            'break' => null, 'motion' => ['kind' => 'fixed'],
        ];
        $this->edit($shot, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $prop]])->assertSuccessful();
        $whole = $this->facts($shot);
        self::assertSame([true, $whole['of']], [$whole['true'], $whole['faces']]);
        $this->edit($shot, 1, [['op' => 'add', 'path' => '/props/0/motion/simplify', 'value' => 0.01]])->assertSuccessful();
        $simple = $this->facts($shot);
        self::assertSame([$whole['of'], 0.01], [$simple['of'], $simple['simplified']]);
        self::assertLessThan(0.3 * $whole['faces'], $simple['faces']);
    }

    /** That a hull could not be found says nothing of what else it may collide as. */
    public function test_a_fault_is_said_of_that_alone_which_had_it(): void
    {
        $shot = $this->newShot();
        $prop = [
            'id' => 'crate', 'name' => 'Crate', 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]], 'prepare' => [],
            'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'plaster', 'colour' => '#e4dfd3', 'inner' => '#f1ede4', 'density' => 1000, 'friction' => 0.5, 'bounce' => 0.05],
            'break' => null, 'motion' => ['kind' => 'free', 'values' => ['shape' => 'hull'], 'release' => ['on' => 'frame', 'frame' => 0]],
        ];
        $this->edit($shot, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $prop]])->assertSuccessful();
        $spec = Shot::query()->findOrFail($shot)->spec()->prop('crate');
        self::assertNotNull($spec);
        Faults::keep(MakeSolids::faultName($spec), new Problem('internal', 'No hull of it could be found.', '', ''));
        self::assertSame('No hull of it could be found.', $this->getJson("/api/shots/$shot/props/crate/contact")->assertStatus(422)->json('problem.message'));
        $this->edit($shot, 1, [['op' => 'replace', 'path' => '/props/0/motion/values/shape', 'value' => 'parts']])->assertSuccessful();
        self::assertSame(1, $this->facts($shot, 'crate')['parts']);
    }

    /** @return array<string, mixed> */
    private function facts(string $shot, string $prop = 'dish'): array
    {
        // Found in the background, which is done at once here; then it is there.
        $this->get("/api/shots/$shot/props/$prop/contact");
        $bytes = (string) $this->get("/api/shots/$shot/props/$prop/contact")->assertOk()->getContent();
        $length = unpack('V', $bytes)[1] ?? 0;

        return json_decode(substr($bytes, 4, $length), true, 64, JSON_THROW_ON_ERROR)['contact'];
    }
}
