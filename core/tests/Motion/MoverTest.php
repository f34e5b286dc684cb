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
use YardBreak\Core\Shot\MoverCatalogue;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Shot\Documents;
use YardBreak\Core\Tests\Weight\Maps;

/** A further mover needs nothing but itself: it moves, is written and is taken up again beside the rigid bodies. */
final class MoverTest extends TestCase
{
    public function test_a_plain_mover_moves_beside_the_rigid_bodies_and_changes_nothing_of_theirs(): void
    {
        $alone = self::baker('fixed');
        $both = self::baker('plain');
        $frames = [[$alone->firstFrame(), $both->firstFrame()]];
        for ($k = 1; $k <= 12; $k++) {
            $frames[] = [$alone->nextFrame(), $both->nextFrame()];
        }
        foreach ($frames as $k => [$one, $two]) {
            self::assertSame($one->stream(0, StreamKind::Poses), $two->stream(0, StreamKind::Poses));
            self::assertSame('', $one->stream(1, StreamKind::Points));
            // Let go at frame 5, it rises a metre a second.
            self::assertEqualsWithDelta(max(0, $k - 5) / 24, self::height($two), 1e-6, "frame $k");
        }
    }

    public function test_its_state_is_part_of_the_bakes(): void
    {
        $one = self::baker('plain');
        $one->firstFrame();
        for ($k = 0; $k < 8; $k++) {
            $one->nextFrame();
        }
        $two = self::baker('plain');
        $two->unpack($one->pack());
        $want = $one->nextFrame();
        self::assertSame(FrameRecord::encode(9, $want->streams), FrameRecord::encode(9, $two->nextFrame()->streams));
        $standard = ShotSpec::fromJson(self::document('fixed'));
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('other movers');
        (new Baker($standard, self::solids(), new SilentProgress))->unpack($one->pack());
    }

    public function test_it_reads_the_weights_of_a_map_as_they_are_at_the_moment(): void
    {
        // The map of the one piece rises from 0 to 1 within 20 frames; the height is what has come together since frame 5.
        $rising = [
            'source' => 'box',
            'values' => ['middle' => [0, 0, 0], 'size' => [90, 90, 90]],
            'amount' => ['keys' => [['frame' => 0, 'value' => 0], ['frame' => 20, 'value' => 1]]],
        ];
        $shot = ShotSpec::fromJson(self::document('plain', ['map' => 'lift'], [['id' => 'lift', 'name' => 'Lift', 'sources' => [$rising]]]), self::movers());
        $maker = Maps::maker();
        $shards = array_map(static fn (PropSpec $p): array => $maker->shards($p, new SilentProgress), array_column($shot->props, null, 'id'));
        $assets = new class implements AssetSource
        {
            public function path(string $asset): string
            {
                return '';
            }
        };
        $baker = Baker::of($shot, $shards, new MadeParts($maker, $assets, $shards));
        $baker->firstFrame();
        $height = 0.0;
        for ($k = 1; $k <= 12; $k++) {
            $frame = $baker->nextFrame();
            $height += $k > 5 ? ($k - 1) / 20 / 24 : 0.0;
            self::assertEqualsWithDelta($height, self::height($frame), 1e-5, "frame $k");
        }
    }

    public function test_a_kind_of_motion_that_no_mover_brings_is_refused_with_those_there_are(): void
    {
        try {
            ShotSpec::fromJson(self::document('plain'));
            self::fail('It was taken.');
        } catch (Problem $e) {
            self::assertSame('props[1].motion.kind', $e->path);
            self::assertStringContainsString('"plain"', $e->getMessage());
            self::assertSame('Choose one of: fixed, keyed, free, cloth, drift.', $e->remedy);
        }
    }

    public function test_what_is_set_for_a_mover_is_checked_against_its_options(): void
    {
        try {
            ShotSpec::fromJson(self::document('plain', ['heigth' => 2]), self::movers());
            self::fail('It was taken.');
        } catch (Problem $e) {
            self::assertSame('props[1].motion.values.heigth', $e->path);
        }
    }

    private static function height(Frame $frame): float
    {
        return (unpack('g', $frame->stream(1, StreamKind::Points), 4) ?: [1 => -1.0])[1];
    }

    private static function movers(): MoverCatalogue
    {
        return (new MoverCatalogue)->with('plain', PlainMover::class);
    }

    /**
     * A block that falls from frame 5 on, and beside it a prop of some kind of motion, let go at the same frame.
     *
     * @param  array<string, mixed>  $values
     * @param  list<array<string, mixed>>  $weights
     */
    private static function document(string $kind, array $values = [], array $weights = []): string
    {
        return Documents::json(static function (array $d) use ($kind, $values, $weights): array {
            $release = ['on' => 'frame', 'frame' => 5];
            $d['version'] = ShotSpec::VERSION;
            $d['world']['ground'] = ['kind' => 'flat'];
            $d['props'][0]['motion'] = ['kind' => 'free', 'release' => $release];
            $d['props'][] = [
                'id' => 'beside',
                'name' => 'Beside',
                'place' => ['position' => [30, 1, 0], 'turn' => [0, 0, 0], 'size' => 1],
                'motion' => ['kind' => $kind, 'values' => (object) $values, 'release' => $release],
                'weights' => $weights,
            ] + $d['props'][0];

            return $d;
        });
    }

    private static function baker(string $kind): Baker
    {
        return new Baker(ShotSpec::fromJson(self::document($kind), self::movers()), self::solids(), new SilentProgress);
    }

    /** @return array<string, list<Solid>> */
    private static function solids(): array
    {
        $mesh = ShapeCatalogue::mesh('box', []);
        $solids = Solid::free([new Shard('whole', $mesh, MassProperties::of($mesh))]);

        return ['block' => $solids, 'beside' => $solids];
    }
}
