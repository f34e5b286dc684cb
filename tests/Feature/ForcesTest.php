<?php

declare(strict_types=1);

namespace Tests\Feature;

/** What the page asks about forces. */
final class ForcesTest extends YardTestCase
{
    public function test_how_the_air_goes_over_a_plane_comes_as_places_and_speeds(): void
    {
        $shot = $this->newShot();
        $ask = fn (string $of): array => $this->getJson("/api/shots/$shot/air?frame=0&height=0.5&$of")->assertOk()->json();
        self::assertSame(['air' => [], 'pull' => [], 'lines' => []], $ask('x0=-1&x1=1&z0=-2&z1=2'));
        $forces = [
            ['id' => 'wind', 'name' => 'Wind', 'kind' => 'wind', 'values' => ['speed' => 5, 'direction' => [0, 0, 2]]],
            ['id' => 'pull', 'name' => 'Pull', 'kind' => 'pull', 'values' => ['at' => [0, 9, 0], 'strength' => 3, 'law' => 'even'], 'amount' => 0.5],
        ];
        $this->edit($shot, 0, [['op' => 'add', 'path' => '/forces', 'value' => $forces]])->assertSuccessful();
        $got = $ask('x0=-1&x1=1&z0=-2&z1=2');
        self::assertCount(15 * 15 * 6, $got['air']);
        self::assertEquals([-1, 0.5, -2, 0, 0, 5], array_slice($got['air'], 0, 6));
        self::assertEquals([1, 0.5, 2, 0, 0, 5], array_slice($got['air'], -6));
        [$x, , $z, $a, $b, $c] = array_slice($got['pull'], 0, 6);
        self::assertEqualsWithDelta(1.5, sqrt($a ** 2 + $b ** 2 + $c ** 2), 1e-3);
        self::assertEqualsWithDelta($x / $z, $a / $c, 1e-3, 'towards the point');
        // What is no number counts as 0, and nothing is asked for farther off than there is.
        foreach (['x0=a&x1=NAN&z0=&z1=1e999', 'x0[]=1', 'frame=1e308&x0=1&x1=2'] as $odd) {
            $this->getJson("/api/shots/$shot/air?$odd")->assertOk();
        }
    }

    public function test_what_forces_do_to_a_prop_comes_in_words(): void
    {
        $shot = $this->newShot();
        $crate = [
            'id' => 'crate', 'name' => 'Crate', 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]], 'prepare' => [],
            'place' => ['position' => [0, 1, 0], 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'plaster', 'colour' => '#e4dfd3', 'inner' => '#f1ede4', 'density' => 40, 'friction' => 0.5, 'bounce' => 0.05],
            'break' => null, 'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]],
        ];
        $this->edit($shot, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $crate]])->assertSuccessful();
        $ask = fn (int $frame): array => $this->getJson("/api/shots/$shot/props/crate/forces?frame=$frame")->assertOk()->json();
        // Its pieces come with its picture; what they collide as is made in the background, by asking.
        $this->get("/api/shots/$shot/props/crate/picture")->assertOk();
        self::assertNull($ask(0)['words']);
        self::assertSame(['No force acts on Crate.'], $ask(0)['words']);
        $blow = ['keys' => [['frame' => 0, 'value' => 0], ['frame' => 10, 'value' => 30]]];
        $this->edit($shot, 1, [['op' => 'add', 'path' => '/forces', 'value' => [['id' => 'wind', 'name' => 'Wind', 'kind' => 'wind', 'values' => ['speed' => $blow]]]]])->assertSuccessful();
        self::assertSame(0, $ask(0)['wind']);
        self::assertEquals(30, $ask(10)['wind']);
        self::assertStringContainsString('Air at 30 m/s carries it off', $ask(10)['words'][0]);
        $this->getJson("/api/shots/$shot/props/gone/forces?frame=0")->assertNotFound();
    }
}
