<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Collide\NearestSurfaces;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Motion\Waves;
use YardBreak\Core\Tests\Shot\Documents;
use YardBreak\Core\Tests\Weight\Maps;

/** What a bake's colliders say of what stands, follows keys, falls and drifts. */
final class CollidersInBakeTest extends TestCase
{
    public function test_they_are_where_everything_is_and_move_as_it_does(): void
    {
        $baker = self::baker();
        $baker->firstFrame();
        for ($k = 0; $k < 12; $k++) {
            $baker->nextFrame();
        }
        // Half a second after the start: one slides 2 m a second, one has fallen, one drifts 1 m a second, one stands.
        $t = 0.5;
        $fallen = 9.80665 * $t * $t / 2.0;
        $tops = ['keyed' => [2.0 * $t, 1.0], 'free' => [5.0, 10.0 + 1.0 - $fallen], 'drift' => [10.0, 3.0 + $t], 'fixed' => [15.0, 1.0]];
        $x = array_column($tops, 0);
        $y = array_map(static fn (array $top): float => $top[1] + 0.1, array_values($tops));
        $z = [0.0, 0.0, 0.0, 0.0];
        $found = $baker->colliders()->nearest($x, $y, $z, 0.5);
        self::assertSame([0, 1, 2, 3], $found->prop);
        self::assertEqualsWithDelta([0.1, 0.1, 0.1, 0.1], $found->distance, 1e-3);
        self::assertEqualsWithDelta([1.0, 1.0, 1.0, 1.0], $found->ny, 1e-6);
        [$vx, $vy, $vz] = $baker->colliders()->velocities($x, $y, $z, $found);
        self::assertEqualsWithDelta([2.0, 0.0, 0.0, 0.0], $vx, 1e-6);
        self::assertEqualsWithDelta([0.0, -9.80665 * $t, 1.0, 0.0], $vy, 1e-3);
        self::assertEqualsWithDelta([0.0, 0.0, 0.0, 0.0], $vz, 1e-6);
        self::assertSame([0.6, 0.1], $baker->colliders()->surface(0));
        self::assertSame([0.5, 0.1], $baker->colliders()->surface(NearestSurfaces::GROUND));
        // A frame later they have been brought to it.
        $baker->nextFrame();
        self::assertEqualsWithDelta(
            2.0 * 13 / 24,
            $baker->colliders()->nearest([2.0 * 13 / 24 + 0.6], [0.5], [0.0], 0.5)->distance[0] + 2.0 * 13 / 24 - 0.1,
            1e-6,
        );
    }

    private static function baker(): Baker
    {
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d): array {
            $prop = $d['props'][0];
            $at = static fn (mixed $x, float $y): array => ['position' => [$x, $y, 0], 'turn' => [0, 0, 0], 'size' => 1];
            $line = static fn (float $a, float $b): array => ['keys' => [
                ['frame' => 0, 'value' => $a, 'ease' => 'linear'],
                ['frame' => 24, 'value' => $b, 'ease' => 'linear'],
            ]];
            $full = ['id' => 'all', 'name' => 'All', 'sources' => [['source' => 'box', 'values' => ['middle' => [0, 0, 0], 'size' => [90, 90, 90]]]]];
            $d['props'] = [
                ['id' => 'keyed', 'name' => 'Keyed', 'place' => $at($line(0, 2), 0), 'motion' => ['kind' => 'keyed']] + $prop,
                ['id' => 'free', 'name' => 'Free', 'place' => $at(5, 10), 'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]] + $prop,
                [
                    'id' => 'drift',
                    'name' => 'Drift',
                    'place' => $at(10, 2),
                    'weights' => [$full],
                    'motion' => [
                        'kind' => 'drift',
                        'drift' => [
                            'map' => 'all',
                            'ease' => 'linear',
                            'moves' => [['move' => 'offset', 'values' => ['by' => [0, $line(0, 1), 0], 'random' => 0, 'strewn' => 0]]],
                        ],
                    ],
                ] + $prop,
                ['id' => 'fixed', 'name' => 'Fixed', 'place' => $at(15, 0), 'motion' => ['kind' => 'fixed']] + $prop,
            ];

            return $d;
        }));
        $maker = Maps::maker();
        $shards = array_map(static fn (PropSpec $p): array => $maker->shards($p, new SilentProgress), array_column($shot->props, null, 'id'));

        return Baker::of($shot, $shards, new MadeParts($maker, Waves::assets(), $shards));
    }
}
