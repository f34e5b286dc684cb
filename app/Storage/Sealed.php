<?php

declare(strict_types=1);

namespace App\Storage;

/** Bytes in a file under a checksum, which stands before them. It stands alone: what is asked for often is sent before anything else is loaded. */
final class Sealed
{
    /** Bytes of the checksum. */
    public const CHECK = 16;

    public static function of(string $bytes): string
    {
        return hash('xxh128', $bytes, true).$bytes;
    }

    /** What a file holds; null where it is not there, or is not what it was, and then it goes. */
    public static function read(string $path): ?string
    {
        $held = @file_get_contents($path);
        if ($held === false) {
            return null;
        }
        $bytes = substr($held, self::CHECK);
        if (self::of($bytes) !== $held) {
            @unlink($path);

            return null;
        }

        return $bytes;
    }
}
