<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\ShotSpec;

/** Cues that a touch decides: anchored when it comes, and from then on what is tied to them. */
final class CuesTest extends TestCase
{
    public function test_a_fall_anchors_its_cue_and_a_lamp_goes_out_after_it(): void
    {
        $frames = self::bake(self::document());
        // From 0.5 m: √(2h/g) is 0.319 s, 7.66 frames: the first whole frame after that is the eighth.
        $anchored = array_filter(array_map(static fn (Frame $f): array => $f->anchored, $frames));
        self::assertSame([8 => ['hit' => 8.0]], $anchored);
        $seen = array_map(static fn (Frame $f): bool => $f->stream(1, StreamKind::Visibility) !== "\0", $frames);
        self::assertSame([true, true, false], [$seen[8], $seen[10], $seen[11]], 'three frames after the hit');
        $lamp = array_map(static fn (Frame $f): float => (unpack('g', $f->stream(1, StreamKind::Poses)) ?: [1 => 0.0])[1], $frames);
        self::assertEqualsWithDelta([0.0, 0.0, 0.25, 0.5, 1.0, 1.0], [$lamp[0], $lamp[8], $lamp[10], $lamp[12], $lamp[16], $lamp[20]], 1e-6);
    }

    public function test_an_anchored_cue_is_part_of_the_state(): void
    {
        $document = self::document();
        $want = self::bake($document);
        $one = self::baker($document);
        $one->firstFrame();
        for ($k = 0; $k < 9; $k++) {
            $one->nextFrame();
        }
        $two = self::baker($document);
        $two->unpack($one->pack());
        for ($k = 10; $k <= 20; $k++) {
            $frame = $two->nextFrame();
            self::assertSame(md5(FrameRecord::encode($k, $want[$k]->streams)), md5(FrameRecord::encode($k, $frame->streams)), "frame $k");
        }
    }

    public function test_what_is_tied_to_it_acts_from_there_on_and_only_if_it_comes(): void
    {
        $before = self::document();
        $after = self::document();
        $after['props'][1]['place']['position'][0]['keys'][1]['value'] = 3;
        $part = static fn (array $anchored): ?array => History::of(self::shot($before), $anchored)->partsFrom(History::of(self::shot($after), $anchored));
        self::assertNull($part([]), 'as long as it has not come nothing is another');
        self::assertSame(['frame' => 9, 'what' => 'position x of Lamp'], $part(['hit' => 8.0]));
        $then = self::bake($before);
        $now = self::bake($after);
        for ($k = 0; $k <= 20; $k++) {
            self::assertSame($k < 9, FrameRecord::encode($k, $then[$k]->streams) === FrameRecord::encode($k, $now[$k]->streams), "frame $k");
        }
    }

    public function test_a_touch_that_is_too_slow_is_not_it(): void
    {
        $document = self::document();
        $document['cues'][0]['at']['speed'] = 4;
        foreach (self::bake($document) as $frame) {
            self::assertSame([], $frame->anchored);
        }
    }

    public function test_before_a_touch_that_physics_decides_nothing_can_be_tied(): void
    {
        $document = self::document();
        $document['props'][1]['place']['position'][0]['keys'][1]['offset'] = -2;
        try {
            self::baker($document);
            self::fail('it was taken');
        } catch (Problem $e) {
            self::assertSame('props[1].place.position[0].keys[1]', $e->path);
            self::assertStringContainsString('2 frames before', $e->getMessage());
            self::assertStringContainsString('Tie it to a frame, or key the prop that strikes', $e->remedy);
        }
    }

    public function test_before_what_is_known_beforehand_anything_can_be_tied(): void
    {
        $document = self::document();
        $document['props'][1]['place']['position'][0]['keys'][1]['offset'] = -2;
        $document['cues'][0]['at'] = ['on' => 'frame', 'frame' => 12];
        self::assertSame(0, self::baker($document)->frameNumber());
        // A crate let down by keys meets the ground where its keys say.
        $document['cues'][0]['at'] = ['on' => 'touch', 'one' => 'crate', 'other' => 'ground', 'speed' => 0.1];
        $document['props'][0]['motion']['kind'] = 'keyed';
        $document['props'][0]['place']['position'][1] = ['keys' => [['frame' => 0, 'value' => 0.6], ['frame' => 20, 'value' => -0.1]]];
        self::assertSame(0, self::baker($document)->frameNumber());
    }

    public function test_one_touch_that_is_known_does_not_keep_others_from_being_found(): void
    {
        $document = self::document();
        foreach ($document['props'] as $k => $prop) {
            unset($document['props'][$k]['place']['seen']);
            $document['props'][$k]['motion']['kind'] = 'keyed';
            $document['props'][$k]['place']['position'] = [2 * $k, ['keys' => [['frame' => 0, 'value' => 0.6], ['frame' => 20, 'value' => -0.1]]], 0];
        }
        $document['cues'][] = ['id' => 'second', 'name' => 'Second', 'at' => ['on' => 'touch', 'one' => 'lamp', 'other' => 'ground', 'speed' => 0.1]];
        $document['cues'][0]['at']['speed'] = 0.1;
        $shot = self::shot($document);
        $baker = self::baker($document, $shot->with($shot->moments->known('hit', 20.0)));
        self::assertSame([false, false], array_map($baker->waits(...), [0, 1]));
    }

    public function test_only_what_a_touch_can_change_waits_for_one(): void
    {
        $document = self::document();
        $document['props'][] = [
            'id' => 'held',
            'name' => 'Held',
            'motion' => ['kind' => 'free', 'release' => ['on' => 'touch', 'reach' => 1]],
        ] + $document['props'][1];
        $document['props'][] = ['id' => 'idle', 'name' => 'Idle', 'motion' => ['kind' => 'fixed']] + $document['props'][1];
        unset($document['props'][2]['place']['seen'], $document['props'][3]['place']['seen']);
        foreach ([2, 3] as $k) {
            $document['props'][$k]['place']['position'] = [3 * $k, 2, 0];
        }
        $baker = self::baker($document);
        self::assertSame([true, false, true, false], array_map($baker->waits(...), [0, 1, 2, 3]));
    }

    /** A list with such keys is easily counted anew. */
    public function test_names_that_are_numbers_are_names_as_well(): void
    {
        $document = self::document();
        $document['cues'][] = ['id' => 'dusk', 'name' => 'Dusk', 'at' => ['on' => 'frame', 'frame' => 15]];
        $document['props'][1]['place']['position'][2] = ['keys' => [['frame' => 0, 'value' => 0], ['cue' => 'dusk', 'offset' => 0, 'value' => 1]]];
        $named = json_decode(strtr((string) json_encode($document), ['"hit"' => '"7"', '"dusk"' => '"12"', '"crate"' => '"1"', '"lamp"' => '"0"']), true);
        $records = static fn (array $frames): array => array_map(static fn (Frame $f): string => md5(FrameRecord::encode(0, $f->streams)), $frames);
        self::assertSame($records(self::bake($document)), $records(self::bake($named)));
    }

    public function test_a_release_hangs_on_the_touch_of_others(): void
    {
        $document = self::document();
        $document['props'][1]['motion'] = ['kind' => 'free', 'release' => ['on' => 'cue', 'cue' => 'hit', 'offset' => 2]];
        $document['props'][1]['place']['position'] = [2, 3, 0];
        $released = array_map(static fn (Frame $f): int => $f->figures['released']['lamp'], self::bake($document));
        self::assertSame([0, 1], [$released[9], $released[10]]);
    }

    /** @return array<string, mixed> a crate that falls, and a lamp that answers */
    private static function document(): array
    {
        $prop = static fn (string $id, array $position, string $kind): array => [
            'id' => $id,
            'name' => ucfirst($id),
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2]],
            'place' => ['position' => $position, 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.0],
            'break' => null, 'motion' => ['kind' => $kind],
        ];
        $lamp = $prop('lamp', [['keys' => [['frame' => 0, 'value' => 0], ['cue' => 'hit', 'offset' => 8, 'value' => 1]]], 2, 0], 'keyed');
        $lamp['place']['seen'] = ['keys' => [
            ['frame' => 0, 'value' => 1, 'ease' => 'hold'],
            ['cue' => 'hit', 'offset' => 0, 'value' => 1, 'ease' => 'hold'],
            ['cue' => 'hit', 'offset' => 3, 'value' => 0],
        ]];

        return [
            'version' => 4, 'name' => 'Test', 'frames' => ['first' => 0, 'last' => 20, 'rate' => [24, 1]], 'quality' => 'normal',
            'world' => ['gravity' => [0, -9.80665, 0], 'ground' => true, 'friction' => 0.6, 'bounce' => 0.0],
            'cues' => [['id' => 'hit', 'name' => 'Hit', 'at' => ['on' => 'touch', 'one' => 'crate', 'other' => 'ground', 'speed' => 1]]],
            'props' => [$prop('crate', [0, 0.5, 0], 'free'), $lamp],
        ];
    }

    /** @param  array<string, mixed>  $document */
    private static function shot(array $document): ShotSpec
    {
        return ShotSpec::fromJson((string) json_encode($document));
    }

    /** @param  array<string, mixed>  $document */
    private static function baker(array $document, ?ShotSpec $shot = null): Baker
    {
        $mesh = ShapeCatalogue::mesh('box', ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2]);
        $whole = [new Shard('whole', $mesh, MassProperties::of($mesh))];

        return Baker::of($shot ?? self::shot($document), array_fill_keys(array_column($document['props'], 'id'), $whole));
    }

    /**
     * @param  array<string, mixed>  $document
     * @return list<Frame>
     */
    private static function bake(array $document): array
    {
        $baker = self::baker($document);
        $frames = [$baker->firstFrame()];
        while ($baker->frameNumber() < 20) {
            $frames[] = $baker->nextFrame();
        }

        return $frames;
    }
}
