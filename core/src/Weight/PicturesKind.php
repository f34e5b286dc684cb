<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Kind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Pictures, each from a frame on: `[{frame, asset, file}, …]`, rising. */
final class PicturesKind implements Kind
{
    private const MOST = 5000;

    public static function name(): string
    {
        return 'pictures';
    }

    /** @return list<array{frame: int, asset: string, file: string}> */
    public static function checked(Option $option, mixed $value): array
    {
        if (! is_array($value) || ! array_is_list($value) || count($value) > self::MOST) {
            throw Problem::inValue($option->name, $option->label.' must be a list of pictures, at most '.self::MOST.'.');
        }
        $out = [];
        foreach ($value as $k => $one) {
            if (
                ! is_array($one)
                || ! is_int($one['frame'] ?? null)
                || ! is_string($one['file'] ?? null)
                || ! is_string($one['asset'] ?? null)
                || preg_match('/^[0-9a-f]{64}$/', $one['asset']) !== 1
            ) {
                throw Problem::inValue($option->name.'['.$k.']', 'A picture needs the frame it is shown from, and its file.', 'Bring it in again.');
            }
            $out[] = ['frame' => $one['frame'], 'asset' => $one['asset'], 'file' => $one['file']];
        }
        usort($out, static fn (array $a, array $b): int => $a['frame'] <=> $b['frame']);

        return $out;
    }
}
