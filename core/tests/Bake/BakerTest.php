<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

final class BakerTest extends TestCase
{
    public function test_the_same_shot_gives_the_same_bytes_also_when_taken_up_from_a_checkpoint(): void
    {
        $baker = self::baker(self::shot([self::box()]));
        $once = [$baker->firstFrame()->records];
        $again = unserialize(serialize($baker));
        assert($again instanceof Baker);
        for ($i = 0; $i < 14; $i++) {
            $once[] = $baker->nextFrame()->records;
        }
        $twice = [$once[0]];
        for ($i = 0; $i < 14; $i++) {
            $again = unserialize(serialize($again));
            assert($again instanceof Baker);
            $twice[] = $again->nextFrame()->records;
        }
        self::assertSame(array_map(md5(...), $once), array_map(md5(...), $twice));
        self::assertNotSame($once[0], $once[14]);
    }

    public function test_pieces_of_an_unbroken_fall_keep_together_until_the_touch_and_no_earlier(): void
    {
        $baker = self::baker(self::shot([self::box()]));
        $first = $baker->firstFrame();
        $apart = self::spans($first);
        // It falls 0.4 m: √(2h/g) is 0.2856 s, so it lands within frame 7 at 24 frames a second.
        for ($frame = 1; $frame <= 6; $frame++) {
            $now = $baker->nextFrame();
            self::assertSame([], $now->marks);
            self::assertSame(0, $now->figures['released']);
            self::assertEqualsWithDelta($apart, self::spans($now), 1e-5);
        }
        $now = $baker->nextFrame();
        self::assertSame('ground', $now->marks[0]['other'] ?? null);
        self::assertSame(10, $now->figures['released']);
    }

    public function test_a_keyed_prop_let_go_at_a_frame_flies_on_as_fast_as_its_keys_moved_it(): void
    {
        $prop = self::box(1);
        $prop['break'] = null;
        $prop['motion'] = ['kind' => 'free', 'held' => 'still', 'release' => ['on' => 'frame', 'frame' => 6],
            'keys' => [['frame' => 0, 'position' => [0, 5, 0], 'turn' => [0, 0, 0]], ['frame' => 6, 'position' => [0.6, 5, 0], 'turn' => [0, 45, 0]]]];
        $baker = self::baker(self::shot([$prop]));
        $at = static fn (Frame $f): array => array_values((array) unpack('g8', $f->records));
        $baker->firstFrame();
        $now = [];
        for ($frame = 1; $frame <= 12; $frame++) {
            $now = $at($baker->nextFrame());
        }
        // 0.6 m in a quarter of a second is 2.4 m/s; a quarter later it is 0.6 m further and g t²/2 lower.
        self::assertEqualsWithDelta(1.2, $now[0], 1e-4);
        self::assertEqualsWithDelta(5.15 - 9.80665 / 32, $now[1], 1e-5);
        self::assertEqualsWithDelta(sin(M_PI / 4), $now[5], 1e-3, 'and it turns on: 90° by then');
    }

    public function test_neighbours_that_touch_at_release_do_not_push_each_other_apart(): void
    {
        $prop = self::box();
        $prop['motion'] = ['kind' => 'free', 'held' => 'still', 'release' => ['on' => 'frame', 'frame' => 0]];
        $shot = self::shot([$prop]);
        $shot['world']['gravity'] = [0, 0, 0];
        $baker = self::baker($shot);
        $before = self::spans($baker->firstFrame());
        for ($i = 0; $i < 12; $i++) {
            $last = $baker->nextFrame();
        }
        self::assertEqualsWithDelta($before, self::spans($last), 1e-5);
    }

    public function test_a_keyed_prop_follows_its_keys_and_releases_what_it_touches_within_its_reach(): void
    {
        $wall = self::box(40);
        $wall['source']['values'] = ['width' => 2.0, 'height' => 0.3, 'depth' => 0.2];
        $wall['place']['position'] = [0, 0, 0];
        $wall['motion'] = ['kind' => 'free', 'held' => 'still', 'release' => ['on' => 'touch', 'reach' => 0.3]];
        $ram = self::box();
        $ram['id'] = 'ram';
        $ram['name'] = 'Ram';
        unset($ram['break']);
        $ram['motion'] = ['kind' => 'keyed', 'keys' => [
            ['frame' => 0, 'position' => [-0.8, 0.1, 1.0], 'turn' => [0, 0, 0]],
            ['frame' => 10, 'position' => [-0.8, 0.1, 0.0], 'turn' => [0, 90, 0]],
        ]];
        $shot = ShotSpec::fromJson((string) json_encode(self::shot([$wall, $ram])));
        $baker = self::baker(self::shot([$wall, $ram]));
        $frames = [$baker->firstFrame()];
        while ($baker->frameNumber() < 12) {
            $frames[] = $baker->nextFrame();
        }
        $pieces = intdiv(strlen($frames[0]->records), Frame::STRIDE);
        $ramAt = static fn (Frame $f): array => array_values(unpack('g3', $f->records, ($pieces - 1) * Frame::STRIDE) ?: []);
        self::assertEqualsWithDelta([-0.8, 0.25, 0.5], $ramAt($frames[5]), 1e-5);
        self::assertEqualsWithDelta([-0.8, 0.25, 0.0], $ramAt($frames[10]), 1e-5);
        $released = end($frames)->figures['released'];
        self::assertGreaterThan(0, $released);
        self::assertLessThan(40, $released, 'the far end of the wall still stands');
        $marks = array_merge(...array_map(static fn (Frame $f): array => $f->marks, $frames));
        // At frame f the ram is 1 − f/10 m away and turned by 9f degrees, so it reaches out 0.15·(cos + sin) of that:
        // the wall's face at 0.1 m is met between frames 6 and 7.
        $reach = static fn (float $f): float => 1 - $f / 10 - 0.15 * (cos(deg2rad(9 * $f)) + sin(deg2rad(9 * $f)));
        self::assertTrue($reach(6) > 0.1 && $reach(7) < 0.1);
        self::assertSame(['box', 'ram', 7], [$marks[0]['prop'], $marks[0]['other'], $marks[0]['frame']]);
        self::assertCount(2, $shot->props);
    }

    public function test_after_five_seconds_a_broken_box_lies_still(): void
    {
        $baker = self::baker(self::shot([self::box(60)], 120));
        $baker->firstFrame();
        while ($baker->frameNumber() < 120) {
            $last = $baker->nextFrame();
        }
        self::assertGreaterThan(0.95, $last->figures['resting'] / 60);
        // Nothing has sunk: every centre of mass is above the ground.
        for ($i = 0; $i < 60; $i++) {
            self::assertGreaterThan(0.0, (unpack('g', $last->records, $i * Frame::STRIDE + 4) ?: [1 => -1])[1]);
        }
    }

    public function test_an_open_mesh_that_should_break_is_refused_with_its_fault(): void
    {
        $prop = self::box();
        $prop['source'] = ['kind' => 'mesh', 'asset' => str_repeat('0', 64), 'file' => 'open.obj', 'up' => 'y', 'unit' => 'm'];
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('Box cannot be broken. The surface is open: 3 edges');
        self::baker(self::shot([$prop]));
    }

    public function test_a_release_group_goes_at_its_own_frame_and_the_others_when_they_would_anyway(): void
    {
        $prop = self::box();
        $prop['motion'] = ['kind' => 'free', 'held' => 'still', 'release' => ['on' => 'frame', 'frame' => 12], 'groups' => [['name' => 'First out', 'frame' => 5, 'pieces' => ['shard-0001', 'shard-0004', 'shard-9999']], ['name' => 'Stays', 'frame' => 90, 'pieces' => ['shard-0002']]]];
        $baker = self::baker(self::shot([$prop]));
        $released = [$baker->firstFrame()->figures['released']];
        while ($baker->frameNumber() < 20) {
            $released[] = $baker->nextFrame()->figures['released'];
        }
        self::assertSame([0, 2, 2, 9], [$released[4], $released[5], $released[11], $released[12]]);
        self::assertSame(9, $released[20]);
    }

    public function test_pieces_that_move_as_one_have_no_groups(): void
    {
        $prop = self::box();
        $prop['motion']['groups'] = [['name' => 'First out', 'frame' => 5, 'pieces' => ['shard-0001']]];
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('cannot be let go in groups');
        self::baker(self::shot([$prop]));
    }

    /**
     * @param  list<array<string, mixed>>  $props
     * @return array<string, mixed>
     */
    private static function shot(array $props, int $last = 24): array
    {
        return [
            'version' => 2, 'name' => 'Test', 'frames' => ['first' => 0, 'last' => $last, 'rate' => 24], 'quality' => 'normal',
            'world' => ['gravity' => [0, -9.80665, 0], 'ground' => ['on' => true, 'friction' => 0.6, 'bounce' => 0.05]],
            'props' => $props,
        ];
    }

    /** @return array<string, mixed> */
    private static function box(int $count = 10): array
    {
        return [
            'id' => 'box', 'name' => 'Box', 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]],
            'place' => ['position' => [0, 0.4, 0], 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.05],
            'break' => ['pattern' => 'cells', 'values' => ['count' => $count, 'seed' => 3]],
            'motion' => ['kind' => 'free', 'held' => 'whole', 'release' => ['on' => 'touch', 'reach' => null]],
        ];
    }

    /** @param  array<string, mixed>  $document */
    private static function baker(array $document): Baker
    {
        $shot = ShotSpec::fromJson((string) json_encode($document));
        $maker = new PropMaker(new class implements AssetSource
        {
            public function path(string $asset): string
            {
                file_put_contents($path = sys_get_temp_dir().'/open.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");

                return $path;
            }
        });
        $shards = [];
        foreach ($shot->props as $prop) {
            $shards[$prop->id] = $maker->shards($prop, new SilentProgress);
        }

        return new Baker($shot, $shards);
    }

    /** @return list<float> distances of all pieces from the first */
    private static function spans(Frame $f): array
    {
        $out = [];
        $n = intdiv(strlen($f->records), Frame::STRIDE);
        $a = array_values(unpack('g3', $f->records) ?: []);
        for ($i = 1; $i < $n; $i++) {
            $b = array_values(unpack('g3', $f->records, $i * Frame::STRIDE) ?: []);
            $out[] = sqrt(($a[0] - $b[0]) ** 2 + ($a[1] - $b[1]) ** 2 + ($a[2] - $b[2]) ** 2);
        }

        return $out;
    }
}
