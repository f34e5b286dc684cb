<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;

/**
 * A frame's streams as bytes that say what they are. Little-endian: the mark `YBF1`, the length of all of it, the number
 * of the frame (signed), the number of streams; for each stream its prop and kind (16 bits each), its items, where its
 * bytes begin and how many they are; then those bytes, each stream from a multiple of 4 on.
 */
final class FrameRecord
{
    public const MARK = 'YBF1';

    public const HEAD = 16;

    private const ENTRY = 16;

    /** @param  array<int, array<int, string>>  $streams  by prop and kind */
    public static function encode(int $frame, array $streams): string
    {
        $count = array_sum(array_map(count(...), $streams));
        $at = self::HEAD + $count * self::ENTRY;
        $table = $body = '';
        foreach ($streams as $prop => $kinds) {
            foreach ($kinds as $number => $bytes) {
                $kind = StreamKind::from($number);
                $table .= pack('vvVVV', $prop, $number, intdiv(strlen($bytes) - $kind->lead(), $kind->stride()), $at + strlen($body), strlen($bytes));
                $body .= $bytes.str_repeat("\0", -strlen($bytes) & 3);
            }
        }

        return self::MARK.pack('VVV', $at + strlen($body), $frame & 0xFFFFFFFF, $count).$table.$body;
    }

    /**
     * @return array{int, array<int, array<int, string>>} number of the frame, and its streams by prop and kind
     *
     * @throws Problem where it is damaged, or holds what this version does not know
     */
    public static function decode(string $bytes): array
    {
        $head = strlen($bytes) < self::HEAD ? false : unpack('a4mark/Vlength/Vframe/Vcount', $bytes);
        if (
            $head === false
            || $head['mark'] !== self::MARK
            || $head['length'] !== strlen($bytes)
            || self::HEAD + $head['count'] * self::ENTRY > strlen($bytes)
        ) {
            throw self::damaged();
        }
        $streams = [];
        for ($k = 0; $k < $head['count']; $k++) {
            $entry = unpack('vprop/vkind/Vitems/Vat/Vlength', $bytes, self::HEAD + $k * self::ENTRY);
            $kind = $entry === false ? null : StreamKind::tryFrom($entry['kind']);
            if ($entry === false || $kind === null) {
                throw Problem::onDisk('A baked frame holds something this version of Yard Break does not know.', 'Bake again.');
            }
            if ($entry['length'] !== $kind->lead() + $entry['items'] * $kind->stride() || strlen($bytes) < $entry['at'] + $entry['length']) {
                throw self::damaged();
            }
            $streams[$entry['prop']][$entry['kind']] = substr($bytes, $entry['at'], $entry['length']);
        }
        $frame = $head['frame'];

        return [$frame >= 0x80000000 ? $frame - 0x100000000 : $frame, $streams];
    }

    private static function damaged(): Problem
    {
        return Problem::damaged('A baked frame is damaged.');
    }
}
