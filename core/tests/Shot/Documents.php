<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

/** A small shot document to change. */
final class Documents
{
    /** @param  \Closure(array<string, mixed>): array<string, mixed>|null  $change */
    public static function json(?\Closure $change = null): string
    {
        $document = [
            'version' => 4, 'name' => 'Test', 'frames' => ['first' => 0, 'last' => 96, 'rate' => [24, 1]],
            'world' => ['gravity' => [0, -9.80665, 0], 'ground' => true, 'friction' => 0.5, 'bounce' => 0.1],
            'quality' => 'normal',
            'props' => [[
                'id' => 'block', 'name' => 'Block', 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => new \stdClass],
                'place' => ['position' => [0, 1, 0], 'turn' => [0, 0, 0], 'size' => 1],
                'material' => ['name' => 'brick', 'colour' => '#aa5533', 'inner' => '#cc7755', 'density' => 1900, 'friction' => 0.6, 'bounce' => 0.1],
                'break' => null, 'motion' => ['kind' => 'free'],
            ]],
        ];

        return self::encoded($change === null ? $document : $change($document));
    }

    /**
     * @param  string  $path  names and numbers with slashes between
     * @return \Closure(array<string, mixed>): array<string, mixed> sets one value of a document
     */
    public static function set(string $path, mixed $value): \Closure
    {
        return static function (array $d) use ($path, $value): array {
            $at = &$d;
            foreach (explode('/', $path) as $key) {
                $at = &$at[is_numeric($key) ? (int) $key : $key];
            }
            $at = $value;

            return $d;
        };
    }

    /** @param  array<string, mixed>  $document */
    private static function encoded(array $document): string
    {
        foreach ($document['props'] as &$prop) {
            foreach (['source', 'break'] as $part) {
                if (is_array($prop[$part]) && ($prop[$part]['values'] ?? null) === []) {
                    $prop[$part]['values'] = new \stdClass;
                }
            }
        }

        return (string) json_encode($document, JSON_PRESERVE_ZERO_FRACTION);
    }
}
