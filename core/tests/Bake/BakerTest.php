<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

final class BakerTest extends TestCase
{
    public function test_the_same_shot_gives_the_same_bytes_also_when_taken_up_from_its_state(): void
    {
        $baker = self::baker(self::shot([self::box()]));
        $once = [self::bytes($baker->firstFrame())];
        $state = $baker->pack();
        for ($i = 0; $i < 14; $i++) {
            $once[] = self::bytes($baker->nextFrame());
        }
        $twice = [$once[0]];
        for ($i = 0; $i < 14; $i++) {
            $again = self::baker(self::shot([self::box()]));
            $again->unpack($state);
            $twice[] = self::bytes($again->nextFrame());
            $state = $again->pack();
        }
        self::assertSame(array_map(md5(...), $once), array_map(md5(...), $twice));
        self::assertNotSame($once[0], $once[14]);
    }

    public function test_a_state_of_another_version_or_cut_short_is_refused_in_words(): void
    {
        $baker = self::baker(self::shot([self::box()]));
        $baker->firstFrame();
        $state = $baker->pack();
        foreach ([substr($state, 0, -1), $state.'x', substr_replace($state, "\x7F", 4, 1), 'nothing', ''] as $wrong) {
            try {
                self::baker(self::shot([self::box()]))->unpack($wrong);
                self::fail('it was taken');
            } catch (Problem $e) {
                self::assertStringContainsString('another version', $e->getMessage());
            }
        }
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
            self::assertSame(['box' => 0], $now->figures['released']);
            self::assertEqualsWithDelta($apart, self::spans($now), 1e-5);
        }
        $now = $baker->nextFrame();
        self::assertSame('ground', $now->marks[0]['other'] ?? null);
        self::assertSame(['box' => 10], $now->figures['released']);
    }

    public function test_a_keyed_prop_let_go_at_a_frame_flies_on_as_fast_as_its_keys_moved_it(): void
    {
        $prop = self::box(1);
        $prop['break'] = null;
        $prop['motion'] = ['kind' => 'free', 'held' => 'still', 'release' => ['on' => 'frame', 'frame' => 6],
            'keys' => [['frame' => 0, 'position' => [0, 5, 0], 'turn' => [0, 0, 0]], ['frame' => 6, 'position' => [0.6, 5, 0], 'turn' => [0, 45, 0]]]];
        $baker = self::baker(self::shot([$prop]));
        $at = static fn (Frame $f): array => array_values((array) unpack('g8', $f->stream(0, StreamKind::Poses)));
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
        $ramAt = static fn (Frame $f): array => array_values(unpack('g3', $f->stream(1, StreamKind::Poses)) ?: []);
        self::assertEqualsWithDelta([-0.8, 0.25, 0.5], $ramAt($frames[5]), 1e-5);
        self::assertEqualsWithDelta([-0.8, 0.25, 0.0], $ramAt($frames[10]), 1e-5);
        $released = end($frames)->figures['released']['box'];
        self::assertGreaterThan(0, $released);
        self::assertLessThan(40, $released, 'the far end of the wall still stands');
        $marks = array_merge(...array_map(
            static fn (Frame $f): array => array_map(static fn (array $m): array => $m + ['frame' => $f->number], $f->marks),
            $frames,
        ));
        // At frame f the ram is 1 − f/10 m away and turned by 9f degrees, so it reaches out 0.15·(cos + sin) of that:
        // the wall's face at 0.1 m is met between frames 6 and 7.
        $reach = static fn (float $f): float => 1 - $f / 10 - 0.15 * (cos(deg2rad(9 * $f)) + sin(deg2rad(9 * $f)));
        self::assertTrue($reach(6) > 0.1 && $reach(7) < 0.1);
        $marks = array_values(array_filter($marks, static fn (array $m): bool => $m['other'] === 'ram'));
        self::assertSame(['box', 'ram', 7], [$marks[0]['prop'], $marks[0]['other'], $marks[0]['frame']]);
        self::assertCount(2, $shot->props);
    }

    public function test_after_five_seconds_a_broken_box_lies_still(): void
    {
        $baker = self::baker(self::shot([self::box(60)], 120));
        $baker->firstFrame();
        do {
            $last = $baker->nextFrame();
        } while ($baker->frameNumber() < 120);
        self::assertGreaterThan(0.95, $last->figures['resting'] / 60);
        // Nothing has sunk: every centre of mass is above the ground.
        for ($i = 0; $i < 60; $i++) {
            self::assertGreaterThan(0.0, (unpack('g', $last->stream(0, StreamKind::Poses), $i * Pose::BYTES + 4) ?: [1 => -1])[1]);
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
        $prop['motion'] = [
            'kind' => 'free',
            'held' => 'still',
            'release' => ['on' => 'frame', 'frame' => 12],
            'groups' => [
                ['name' => 'First out', 'release' => ['on' => 'frame', 'frame' => 5], 'pieces' => ['shard-0001', 'shard-0004', 'shard-9999']],
                ['name' => 'Stays', 'release' => ['on' => 'frame', 'frame' => 90], 'pieces' => ['shard-0002']],
            ],
        ];
        $baker = self::baker(self::shot([$prop]));
        $released = [$baker->firstFrame()->figures['released']['box']];
        while ($baker->frameNumber() < 20) {
            $released[] = $baker->nextFrame()->figures['released']['box'];
        }
        self::assertSame([0, 2, 2, 9], [$released[4], $released[5], $released[11], $released[12]]);
        self::assertSame(9, $released[20]);
    }

    public function test_pieces_part_from_what_moves_as_one_and_the_rest_moves_on_about_its_own_centre(): void
    {
        $prop = self::box();
        $prop['place']['position'] = [0, 50, 0];
        $prop['motion'] = [
            'kind' => 'free',
            'held' => 'whole',
            'release' => ['on' => 'frame', 'frame' => 90],
            'spin' => [0, 0, 200],
            'groups' => [['name' => 'First out', 'release' => ['on' => 'frame', 'frame' => 5], 'pieces' => ['shard-0001', 'shard-0004']]],
        ];
        $document = self::shot([$prop]);
        $document['world']['ground']['on'] = false;
        $baker = self::baker($document);
        $frames = [$baker->firstFrame()];
        while ($baker->frameNumber() < 12) {
            $frames[] = $baker->nextFrame();
        }
        self::assertSame([0, 2, 2], array_map(static fn (int $k): int => $frames[$k]->figures['released']['box'], [4, 5, 12]));
        // What is still together keeps its distances; what parted does not.
        $then = self::spans($frames[4], 2);
        $now = self::spans($frames[12], 2);
        self::assertEqualsWithDelta($then[5], $now[5], 1e-5);
        // Nothing pushes from outside: all of it falls as one body would, within the first order of a sub-step where pieces push each other.
        $mass = array_map(static fn (\YardBreak\Core\Break\Shard $s): float => $s->mass->volume, self::shards($document)['box']);
        $height = static function (Frame $f) use ($mass): float {
            $sum = 0.0;
            foreach ($mass as $i => $m) {
                $sum += $m * (unpack('g', $f->stream(0, StreamKind::Poses), $i * Pose::BYTES + 4) ?: [1 => 0.0])[1];
            }

            return $sum / array_sum($mass);
        };
        self::assertEqualsWithDelta($height($frames[0]) - 0.5 * 9.80665 * 0.25, $height($frames[12]), 0.5 * 9.80665 * 7 / 24 / (24 * 12));
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

    private static function bytes(Frame $f): string
    {
        return FrameRecord::encode($f->number, $f->streams);
    }

    /** @param  array<string, mixed>  $document */
    private static function baker(array $document): Baker
    {
        return Baker::of(ShotSpec::fromJson((string) json_encode($document)), self::shards($document));
    }

    /**
     * @param  array<string, mixed>  $document
     * @return array<string, list<\YardBreak\Core\Break\Shard>>
     */
    private static function shards(array $document): array
    {
        $maker = new PropMaker(new class implements AssetSource
        {
            public function path(string $asset): string
            {
                file_put_contents($path = sys_get_temp_dir().'/open.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");

                return $path;
            }
        });
        $shards = [];
        foreach (ShotSpec::fromJson((string) json_encode($document))->props as $prop) {
            $shards[$prop->id] = $maker->shards($prop, new SilentProgress);
        }

        return $shards;
    }

    /** @return list<float> distances of all pieces from one */
    private static function spans(Frame $f, int $from = 0): array
    {
        $out = [];
        $poses = $f->stream(0, StreamKind::Poses);
        $n = intdiv(strlen($poses), Pose::BYTES);
        $a = array_values(unpack('g3', $poses, $from * Pose::BYTES) ?: []);
        for ($i = 0; $i < $n; $i++) {
            $b = array_values(unpack('g3', $poses, $i * Pose::BYTES) ?: []);
            $out[] = sqrt(($a[0] - $b[0]) ** 2 + ($a[1] - $b[1]) ** 2 + ($a[2] - $b[2]) ** 2);
        }

        return $out;
    }
}
