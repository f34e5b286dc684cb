<?php

declare(strict_types=1);

namespace Tests\Feature;

use YardBreak\Core\Collide\GroundSheet;
use YardBreak\Core\Collide\RoughGround;

/** The ground as the picture is sent it. */
final class GroundTest extends YardTestCase
{
    public function test_rough_ground_comes_as_rings_at_the_heights_the_core_has(): void
    {
        $values = ['height' => 0.2, 'width' => 0.7, 'seed' => 5];
        $got = $this->get('/api/ground?x=2&z=-3&radius=40&ground='.rawurlencode((string) json_encode(['kind' => 'rough', 'values' => $values])))->assertOk();
        $places = array_values(unpack('g*', (string) $got->getContent()) ?: []);
        self::assertCount(3 * (1 + GroundSheet::RINGS * GroundSheet::SECTORS), $places);
        self::assertSame([(string) GroundSheet::RINGS, (string) GroundSheet::SECTORS], [$got->headers->get('X-Rings'), $got->headers->get('X-Sectors')]);
        $ground = RoughGround::of($values);
        $farthest = 0.0;
        for ($k = 0; $k < count($places); $k += 3 * 97) {
            [$x, $y, $z] = array_slice($places, $k, 3);
            self::assertEqualsWithDelta($ground->height($x, $z), $y, 1e-4);
            $farthest = max($farthest, hypot($x - 2.0, $z + 3.0));
        }
        self::assertEqualsWithDelta(40.0, $farthest, 1.0);
        self::assertSame([2.0, -3.0], [$places[0], $places[2]]);
    }

    public function test_flat_ground_and_none_are_no_rings_and_what_is_no_ground_is_said(): void
    {
        foreach (['flat', 'none', 'prop'] as $kind) {
            self::assertSame('', $this->get('/api/ground?x=0&z=0&radius=9&ground='.rawurlencode((string) json_encode(['kind' => $kind])))->assertOk()->getContent());
        }
        foreach (['{"kind":"lava"}' => 'kind', '{"kind":"rough","values":{"height":9,"width":1}}' => 'values.height', '{"kind":"rough","values":{"seed":"x"}}' => 'values.seed', 'nonsense' => 'ground', '{"kind":"rough","values":7}' => 'ground'] as $asked => $path) {
            $got = $this->getJson('/api/ground?x=0&z=0&radius=9&ground='.rawurlencode($asked))->assertUnprocessable();
            self::assertSame($path, $got->json('problem.path'), $asked);
        }
    }

    public function test_a_shot_with_rough_ground_is_taken_and_one_that_is_steep_is_refused(): void
    {
        $shot = $this->newShot();
        $set = fn (array $ground, int $revision) => $this->edit($shot, $revision, [['op' => 'replace', 'path' => '/world/ground', 'value' => $ground]]);
        $set(['kind' => 'rough', 'values' => ['height' => 0.1]], 0)->assertSuccessful();
        self::assertSame('world.ground.values.height', $set(['kind' => 'rough', 'values' => ['height' => 50, 'width' => 1]], 1)->assertUnprocessable()->json('problem.path'));
        self::assertSame('rough', $this->getJson("/api/shots/$shot")->json('document.world.ground.kind'));
    }
}
