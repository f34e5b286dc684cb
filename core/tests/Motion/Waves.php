<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use YardBreak\Core\Bake\Bakeable;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\MoverCatalogue;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Shot\Documents;
use YardBreak\Core\Tests\Weight\Maps;

/** A shot in which a block waves: everything the mover needs is the one line that registers it. */
final class Waves
{
    public const RELEASED = 3;

    public const LAST = 12;

    /**
     * @param  array<string, mixed>  $values  for the mover
     * @param  array<string, mixed>|null  $finish  after the bake
     */
    public static function shot(array $values = ['height' => 0.2, 'length' => 0.8], ?array $finish = null): ShotSpec
    {
        return ShotSpec::fromJson(Documents::json(static function (array $d) use ($values, $finish): array {
            $d['props'][0]['finish'] = $finish;
            $d['version'] = ShotSpec::VERSION;
            $d['world']['ground'] = ['kind' => 'flat'];
            $d['frames']['last'] = self::LAST;
            $d['props'][0]['place'] = ['position' => [1, 2, 3], 'turn' => [0, 90, 0], 'size' => 1];
            $d['props'][0]['break'] = ['pattern' => 'cells', 'values' => ['count' => 3, 'seed' => 2]];
            $d['props'][0]['motion'] = ['kind' => 'wave', 'values' => $values, 'release' => ['on' => 'frame', 'frame' => self::RELEASED]];

            return $d;
        }), (new MoverCatalogue)->with('wave', WaveMover::class));
    }

    /** @return array<string, list<Shard>> by prop */
    public static function shards(ShotSpec $shot): array
    {
        return ['block' => Maps::maker()->shards($shot->props[0], new SilentProgress)];
    }

    /** @param  array<string, list<Shard>>  $shards */
    public static function ready(ShotSpec $shot, array $shards): Bakeable
    {
        return Bakeable::of($shot, $shards, new MadeParts(Maps::maker(), self::assets(), $shards));
    }

    public static function assets(): AssetSource
    {
        return new class implements AssetSource
        {
            public function path(string $asset): string
            {
                return '';
            }
        };
    }

    /**
     * Where the points of its pieces are at a frame, by the formula of waves.
     *
     * @param  list<Shard>  $shards
     * @return list<array{float, float, float}>
     */
    public static function points(array $shards, int $frame, float $height = 0.2, float $length = 0.8): array
    {
        $out = [];
        foreach ($shards as $shard) {
            foreach ($shard->mesh->x as $v => $x) {
                // A quarter turn about y takes x to −z and z to x.
                $at = [1.0 + $shard->mesh->z[$v], 2.0 + $shard->mesh->y[$v], 3.0 - $x];
                $seconds = ($frame - self::RELEASED) / 24.0;
                $at[1] += $seconds >= 0.0 ? $height * sin(2.0 * M_PI * (WaveMover::RATE * $seconds - $at[0] / $length)) : 0.0;
                $out[] = $at;
            }
        }

        return $out;
    }
}
