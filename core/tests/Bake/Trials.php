<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use YardBreak\Core\Bake\Bakeable;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/** Small shots to bake whole, in parts, and after a change. */
final class Trials
{
    /**
     * @param  list<array<string, mixed>>  $props
     * @param  array<string, mixed>  $with
     * @return array<string, mixed>
     */
    public static function document(array $props, array $with = []): array
    {
        return $with + [
            'version' => 4, 'name' => 'Trial', 'frames' => ['first' => 0, 'last' => 24, 'rate' => [24, 1]], 'quality' => 'normal',
            'world' => ['gravity' => [0, -9.80665, 0], 'ground' => true, 'friction' => 0.6, 'bounce' => 0.05], 'props' => $props,
        ];
    }

    /**
     * A box, 0.3 m a side where nothing else is said.
     *
     * @param  list<mixed>  $position
     * @param  array<string, mixed>  $with
     * @return array<string, mixed>
     */
    public static function box(string $id, array $position, array $with = []): array
    {
        return $with + [
            'id' => $id,
            'name' => ucfirst($id),
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'segments' => 3]],
            'place' => ['position' => $position, 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.05],
            'break' => null, 'motion' => ['kind' => 'fixed'],
        ];
    }

    /**
     * @param  array<int, float>  $values  by frame
     * @return array{keys: list<array{frame: int, value: float}>}
     */
    public static function keys(array $values): array
    {
        return ['keys' => array_map(
            static fn (int $frame, float $value): array => ['frame' => $frame, 'value' => $value],
            array_keys($values),
            array_values($values),
        )];
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  array<string, mixed>  $with
     * @return array<string, mixed>
     */
    public static function source(string $source, array $values, array $with = []): array
    {
        return ['source' => $source, 'values' => (object) $values] + $with + ['operation' => 'add', 'amount' => 1];
    }

    /** @param  array<string, mixed>  $document */
    public static function ready(array $document): Bakeable
    {
        $shot = ShotSpec::fromJson((string) json_encode($document, JSON_PRESERVE_ZERO_FRACTION));

        return Bakeable::of($shot, ...self::made($shot));
    }

    /** @return array{array<string, list<\YardBreak\Core\Break\Shard>>, MadeParts} */
    public static function made(ShotSpec $shot): array
    {
        $none = new class implements AssetSource
        {
            public function path(string $asset): string
            {
                throw new \LogicException($asset);
            }
        };
        $maker = new PropMaker($none);
        $shards = [];
        foreach ($shot->props as $prop) {
            $shards[$prop->id] = $maker->shards($prop, new SilentProgress);
        }

        return [$shards, new MadeParts($maker, $none, $shards)];
    }

    /**
     * @param  array<string, mixed>  $document
     * @param  bool  $frameByFrame  whether each frame is computed by a baker that takes up a packed state
     * @return list<string> records of a whole bake
     */
    public static function baked(array $document, bool $frameByFrame = false): array
    {
        return array_map(self::record(...), iterator_to_array(self::ready($document)->frames($frameByFrame ? static fn (): bool => true : null), false));
    }

    public static function record(Frame $frame): string
    {
        return FrameRecord::encode($frame->number, $frame->streams);
    }

    /**
     * @param  array<string, mixed>  $document
     * @param  int  $every  only every so manieth state is tried
     * @return array<int, int> by frame whose state does not lead to what a whole bake gives: the first frame that is otherwise
     */
    public static function lost(array $document, int $every = 1): array
    {
        $ready = self::ready($document);
        $baker = $ready->baker();
        $whole = [self::record($baker->firstFrame())];
        $states = [$baker->pack()];
        while ($baker->frameNumber() < $ready->shot->last) {
            $whole[] = self::record($baker->nextFrame());
            $states[] = $baker->pack();
        }
        $lost = [];
        foreach ($states as $k => $state) {
            if ($k % $every !== 0) {
                continue;
            }
            $again = $ready->baker($state);
            while ($again->frameNumber() < $ready->shot->last) {
                $frame = $again->nextFrame();
                if (self::record($frame) !== $whole[$frame->number - $ready->shot->first]) {
                    $lost[$ready->shot->first + $k] = $frame->number;
                    break;
                }
            }
        }

        return $lost;
    }
}
