<?php

declare(strict_types=1);

namespace Tests\Browser;

/** Parts of shot documents the browser tests start from. */
final class Setting
{
    /**
     * @param  array<string, mixed>  $with
     * @return array{op: string, path: string, value: mixed}
     */
    public static function box(string $id, array $with = []): array
    {
        return ['op' => 'add', 'path' => '/props/-', 'value' => $with + [
            'id' => $id, 'name' => ucfirst($id), 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.6, 'height' => 0.6, 'depth' => 0.6]],
            'place' => ['position' => [0, 0.3, 0], 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'concrete', 'colour' => '#a7a49a', 'inner' => '#8d8a80', 'density' => 2300, 'friction' => 0.6, 'bounce' => 0.1],
            'break' => null, 'motion' => ['kind' => 'fixed'],
        ]];
    }

    /** @return list<array{op: string, path: string, value: mixed}> four boxes of 500 keys each, over 500 frames */
    public static function manyKeys(): array
    {
        $keys = static fn (int $k): array => ['keys' => array_map(static fn (int $f): array => ['frame' => 2 * $f, 'value' => ($f + $k) % 7], range(0, 249))];
        $boxes = [];
        foreach (['one', 'two', 'three', 'four'] as $k => $name) {
            $boxes[] = self::box($name, ['place' => ['position' => [$keys($k), 0.3, 0], 'turn' => [0, $keys($k + 1), 0], 'size' => 1], 'motion' => ['kind' => 'keyed']]);
        }

        return [...$boxes, ['op' => 'replace', 'path' => '/frames/last', 'value' => 520]];
    }

    /** @return array{pattern: string, values: array<string, mixed>} */
    public static function cells(int $count): array
    {
        return ['pattern' => 'cells', 'values' => ['count' => $count, 'seed' => 4, 'even' => 0, 'cluster' => null, 'crowd' => 0.5, 'reach' => 0.2]];
    }

    /** @return array<string, mixed> falls from its place, and breaks where it lands */
    public static function falling(): array
    {
        return ['kind' => 'free', 'values' => ['held' => 'whole'], 'release' => ['on' => 'touch', 'reach' => null]];
    }
}
