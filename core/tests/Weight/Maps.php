<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use YardBreak\Core\Break\Neighbours;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropParts;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Shot\Documents;
use YardBreak\Core\Weight\Picture;

/** Shots with maps, ready to be run. */
final class Maps
{
    /**
     * A block of a metre standing on the ground at the origin, and a ball of radius 0.2 that goes from x = −2 to 2 in 40 frames
     * at the height of its middle; the map is of the block.
     *
     * @param  list<array<string, mixed>>  $sources
     * @param  list<array<string, mixed>>  $inTime
     * @param  (\Closure(array<string, mixed>): array<string, mixed>)|null  $change
     * @param  array<string, Picture>  $pictures  by asset
     */
    public static function run(array $sources, array $inTime = [], ?\Closure $change = null, array $pictures = []): MapRun
    {
        return self::of(self::json($sources, $inTime, $change), $pictures);
    }

    /**
     * @param  list<array<string, mixed>>  $sources
     * @param  list<array<string, mixed>>  $inTime
     * @param  (\Closure(array<string, mixed>): array<string, mixed>)|null  $change
     */
    public static function json(array $sources, array $inTime = [], ?\Closure $change = null): string
    {
        return Documents::json(static function (array $d) use ($sources, $inTime, $change): array {
            $d['frames']['last'] = 40;
            $block = $d['props'][0];
            $block['source'] = ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 1, 'height' => 1, 'depth' => 1, 'segments' => 8]];
            $block['place']['position'] = [0, 0, 0];
            $block['weights'] = [[
                'id' => 'reach',
                'name' => 'Reach',
                'sources' => array_map(self::object(...), $sources),
                'inTime' => array_map(self::object(...), $inTime),
            ]];
            $ball = [
                'id' => 'ball',
                'name' => 'Ball',
                'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.2, 'detail' => 12]],
                'motion' => ['kind' => 'keyed'],
            ] + $block;
            $ball['place']['position'] = [['keys' => [['frame' => 0, 'value' => -2], ['frame' => 40, 'value' => 2]]], 0.3, 0];
            unset($ball['weights']);
            $d['props'] = [$block, $ball];

            return $change === null ? $d : $change($d);
        });
    }

    /** Assets are files beside the others of the machine that may go, named as they are. */
    public static function maker(): PropMaker
    {
        return new PropMaker(new class implements AssetSource
        {
            public function path(string $asset): string
            {
                return sys_get_temp_dir().'/'.$asset;
            }
        });
    }

    /**
     * @param  array<string, Picture>  $pictures
     * @param  \ArrayObject<string, list<float>>  $kept  what took long, by what it depends on
     */
    public static function of(string $json, array $pictures = [], \ArrayObject $kept = new \ArrayObject): MapRun
    {
        return new MapRun(ShotSpec::fromJson($json), new class(self::maker(), $pictures, $kept) implements PropParts
        {
            /**
             * @param  array<string, Picture>  $pictures
             * @param  \ArrayObject<string, list<float>>  $kept
             */
            public function __construct(private readonly PropMaker $maker, private readonly array $pictures, private readonly \ArrayObject $kept)
            {
            }

            public function recall(string $of): ?array
            {
                return $this->kept[$of] ?? null;
            }

            public function keep(string $of, array $values): void
            {
                $this->kept[$of] = $values;
            }

            public function goOn(): void
            {
            }

            public function mesh(PropSpec $prop): Mesh
            {
                return $this->maker->mesh($prop);
            }

            public function pieces(PropSpec $prop): array
            {
                return $this->maker->shards($prop, new SilentProgress);
            }

            public function joints(PropSpec $prop): array
            {
                return Neighbours::of($this->pieces($prop));
            }

            public function named(PropSpec $prop, NamedFaces $by, string $name): Mesh
            {
                return $this->maker->named($prop, $by, $name);
            }

            public function picture(string $asset): Picture
            {
                return $this->pictures[$asset] ?? throw \YardBreak\Core\Problem::inFile('It is damaged.');
            }
        });
    }

    /**
     * @param  array<string, mixed>  $part
     * @return array<string, mixed>
     */
    private static function object(array $part): array
    {
        $part['values'] = (object) ($part['values'] ?? []);
        if (isset($part['within'])) {
            $part['within'] = self::object($part['within']);
        }

        return $part;
    }
}
