<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Rigid\Solid;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Shot\Documents;

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
