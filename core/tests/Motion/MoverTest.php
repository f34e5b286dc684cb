<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Shot\Documents;
use YardBreak\Core\Tests\Weight\Maps;

/** A further mover needs nothing but itself: it moves, is written and is taken up again beside the rigid bodies. */
final class MoverTest extends TestCase
{
    public function test_a_plain_mover_moves_beside_the_rigid_bodies_and_changes_nothing_of_theirs(): void
    {
        $alone = self::baker(false);
        $both = self::baker(true);
        $frames = [[$alone->firstFrame(), $both->firstFrame()]];
        for ($k = 1; $k <= 12; $k++) {
            $frames[] = [$alone->nextFrame(), $both->nextFrame()];
        }
        foreach ($frames as $k => [$one, $two]) {
            self::assertSame($one->stream(0, StreamKind::Poses), $two->stream(0, StreamKind::Poses));
            self::assertSame('', $one->stream(0, StreamKind::Points));
            // Let go at frame 5, it rises a metre a second.
            self::assertEqualsWithDelta(max(0, $k - 5) / 24, self::height($two), 1e-6, "frame $k");
        }
    }

    public function test_its_state_is_part_of_the_bakes(): void
    {
        $one = self::baker(true);
        $one->firstFrame();
        for ($k = 0; $k < 8; $k++) {
            $one->nextFrame();
        }
        $two = self::baker(true);
        $two->unpack($one->pack());
        $want = $one->nextFrame();
        self::assertSame(FrameRecord::encode(9, $want->streams), FrameRecord::encode(9, $two->nextFrame()->streams));
        $this->expectException(Problem::class);
        self::baker(false)->unpack($one->pack());
    }

    public function test_it_reads_the_weights_of_a_map_as_they_are_at_the_moment(): void
    {
        // The map of the one piece rises from 0 to 1 within 20 frames; the height is what has come together since frame 5.
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d): array {
            $rising = ['source' => 'box', 'values' => ['middle' => [0, 0, 0], 'size' => [9, 9, 9]], 'amount' => ['keys' => [['frame' => 0, 'value' => 0], ['frame' => 20, 'value' => 1]]]];
            $d['props'][0] = ['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 5]], 'weights' => [['id' => 'lift', 'name' => 'Lift', 'sources' => [$rising]]]] + $d['props'][0];

            return $d;
        }));
        $maker = Maps::maker();
        $shards = ['block' => $maker->shards($shot->props[0], new SilentProgress)];
        $assets = new class implements AssetSource
        {
            public function path(string $asset): string
            {
                return '';
            }
        };
        $baker = new Baker($shot, ['block' => Solid::all($shards['block'])], new SilentProgress, new MadeParts($maker, $assets, $shards), [new PlainMover(0, 'lift')]);
        $baker->firstFrame();
        $pieces = count($shards['block']);
        $height = 0.0;
        for ($k = 1; $k <= 12; $k++) {
            $frame = $baker->nextFrame();
            $height += $k > 5 ? $pieces * ($k - 1) / 20 / 24 : 0.0;
            self::assertEqualsWithDelta($height, self::height($frame), 1e-5, "frame $k");
        }
    }

    private static function height(Frame $frame): float
    {
        return (unpack('g', $frame->stream(0, StreamKind::Points), 4) ?: [1 => -1.0])[1];
    }

    private static function baker(bool $plain): Baker
    {
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d): array {
            $d['props'][0]['motion'] = ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 5]];

            return $d;
        }));
        $mesh = ShapeCatalogue::mesh('box', []);

        return new Baker($shot, ['block' => Solid::all([new Shard('whole', $mesh, MassProperties::of($mesh))])], new SilentProgress, null, $plain ? [new PlainMover(0)] : []);
    }
}
