<?php

declare(strict_types=1);

namespace App\Storage;

use YardBreak\Core\Shot\KeptWeights;
use YardBreak\Core\Weight\Coverage;

/**
 * Weights of maps by what they depend on, a file a frame: the mark `YBW1`, how many there are (uint32), the shares at none and
 * at full, the least, the mean and the most (float32 each), then a byte each, 255 for 1. Beside them what single sources
 * gave, in full (float64 each), for what is changed by hand.
 */
final class MapStore implements KeptWeights
{
    public const HEAD = 28;

    private const MARK = 'YBW1';

    /** @param  list<float>  $weights */
    public static function encode(array $weights): string
    {
        $c = Coverage::of($weights);
        $bytes = [];
        foreach ($weights as $w) {
            $bytes[] = (int) (255.0 * $w + 0.5);
        }
        $out = self::MARK.pack('Vg5', count($weights), $c->none, $c->full, $c->least, $c->mean, $c->most);
        foreach (array_chunk($bytes, 8192) as $chunk) {
            $out .= pack('C*', ...$chunk);
        }

        return $out;
    }

    /** @return list<float> the weights of an encoded frame, to 1 in 255 */
    public static function decode(string $bytes): array
    {
        return array_map(static fn (int $byte): float => $byte / 255.0, array_values(unpack('C*', $bytes, self::HEAD) ?: []));
    }

    /** What of a frame's weights is told of all of them, or null where they are not there. */
    public static function coverage(string $key): ?Coverage
    {
        $head = @file_get_contents(YardFiles::folder(MapPath::of($key)), offset: Sealed::CHECK, length: self::HEAD);
        $v = $head === false || strlen($head) !== self::HEAD || ! str_starts_with($head, self::MARK) ? false : unpack('Vcount/gnone/gfull/gleast/gmean/gmost', $head, 4);

        return $v === false ? null : new Coverage($v['none'], $v['full'], $v['least'], $v['mean'], $v['most']);
    }

    public function recall(string $of): ?array
    {
        $bytes = YardFiles::kept(self::rawName($of));
        $values = $bytes === null ? false : unpack('e*', $bytes);

        return $values === false ? null : array_values($values);
    }

    public function keep(string $of, array $values): void
    {
        $bytes = '';
        foreach (array_chunk($values, 8192) as $chunk) {
            $bytes .= pack('e*', ...$chunk);
        }
        YardFiles::keep(self::rawName($of), $bytes);
    }

    private static function rawName(string $of): string
    {
        return MapPath::of(hash('xxh128', $of)).'.raw';
    }
}
