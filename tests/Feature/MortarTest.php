<?php

declare(strict_types=1);

namespace Tests\Feature;

/** What the page asks about mortar. */
final class MortarTest extends YardTestCase
{
    public function test_what_mortar_bears_comes_in_words_and_bond_by_bond_once_it_is_found(): void
    {
        $shot = $this->newShot();
        $post = [
            'id' => 'post', 'name' => 'Post', 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.3, 'height' => 1.2, 'depth' => 0.3]], 'prepare' => [],
            'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.5, 'bounce' => 0.05],
            'break' => ['pattern' => 'tiles', 'values' => ['grid' => [1, 4, 1]]],
            'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => ['mortar' => 'concrete']],
        ];
        $this->edit($shot, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $post]])->assertSuccessful();
        $ask = fn (): array => $this->getJson("/api/shots/$shot/props/post/mortar")->assertOk()->json();
        // Its pieces come with its picture.
        $this->get("/api/shots/$shot/props/post/picture")->assertOk();
        // It is found by a job; here jobs are done at once, so the second answer has it.
        $ask();
        $told = $ask();
        self::assertSame('3 bonds hold it together; it stands on the ground with 1 piece.', $told['words'][0]);
        self::assertCount(3, $told['sections']);
        self::assertCount(13, $told['sections'][0]);
        // A change that moves nothing else makes it another answer.
        $this->edit($shot, 1, [['op' => 'add', 'path' => '/props/0/motion/anchoredBy', 'value' => ['touching' => ['ground']]]])->assertSuccessful();
        $ask();
        self::assertStringContainsString('it hangs on 1 anchored piece', $ask()['words'][0]);
        $this->getJson("/api/shots/$shot/props/gone/mortar")->assertNotFound();
        $this->edit($shot, 2, [['op' => 'add', 'path' => '/props/0/motion/values/mortarMap', 'value' => 'gone']])->assertStatus(422);
    }
}
